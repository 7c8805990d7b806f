package lanternshed.server;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import org.springframework.web.bind.annotation.RestController;

/** The server's rooms: see docs/architecture.md. */
@AnalyzeClasses(packages = "lanternshed", importOptions = ImportOption.DoNotIncludeTests.class)
class HouseTest {
  @ArchTest
  static final ArchRule CORE_KNOWS_NO_SERVER =
      noClasses()
          .that()
          .resideInAPackage("lanternshed.core..")
          .should()
          .dependOnClassesThat()
          .resideInAPackage("lanternshed.server..");

  @ArchTest
  static final ArchRule SHELL_KNOWS_NO_SUBJECT =
      noClasses()
          .that()
          .resideInAPackage("..server.shell..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(
              "..server.jobs..",
              "..server.media..",
              "..server.images..",
              "..server.plans..",
              "..server.work..");

  @ArchTest
  static final ArchRule NOTHING_NEEDS_THE_DEMONSTRATION =
      noClasses()
          .that()
          .resideOutsideOfPackage("..server.demo..")
          .should()
          .dependOnClassesThat()
          .resideInAPackage("..server.demo..");

  @ArchTest
  static final ArchRule DOORS_ARE_INSIDE_THEIR_ROOM =
      classes()
          .that()
          .areAnnotatedWith(RestController.class)
          .and()
          .haveSimpleNameEndingWith("Controller")
          .should()
          .bePackagePrivate();

  @ArchTest
  static final ArchRule NO_SQL_IN_TEXT =
      noClasses()
          .that()
          // It asks a failure for its SQLSTATE, and nothing else.
          .doNotHaveSimpleName("Database")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage("org.springframework.jdbc.core..", "java.sql..");

  /** A room that needs another says so in one direction only. */
  @ArchTest
  static final ArchRule NO_RINGS =
      slices().matching("lanternshed.server.(*)..").should().beFreeOfCycles();
}
