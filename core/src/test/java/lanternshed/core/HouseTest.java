package lanternshed.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

/** The floors of docs/architecture.md: nothing imports upward. */
@AnalyzeClasses(packages = "lanternshed.core", importOptions = ImportOption.DoNotIncludeTests.class)
class HouseTest {
  @ArchTest
  static final ArchRule FLOORS =
      layeredArchitecture()
          .consideringOnlyDependenciesInLayers()
          .layer("measure")
          .definedBy("..core.measure..")
          .layer("medium")
          .definedBy("..core.medium..")
          .layer("node")
          .definedBy("..core.node..")
          .layer("container")
          .definedBy("..core.container..")
          .layer("table")
          .definedBy("..core.table..")
          .layer("volume")
          .definedBy("..core.volume..")
          .layer("catalogue")
          .definedBy("..core.catalogue..")
          .layer("machine")
          .definedBy("..core.machine..")
          .layer("cpu")
          .definedBy("..core.cpu..")
          .layer("boot")
          .definedBy("..core.boot..")
          .layer("family")
          .definedBy("..core.family..")
          .layer("survey")
          .definedBy("..core.survey..")
          .layer("plan")
          .definedBy("..core.plan..")
          .layer("fault")
          .definedBy("..core.fault..")
          .layer("chain")
          .definedBy("..core.chain..")
          .layer("names")
          .definedBy("..core.names..")
          .layer("kind")
          .definedBy("..core.kind..")
          .layer("work")
          .definedBy("..core.work..")
          .layer("cli")
          .definedBy("..core.cli..")
          .whereLayer("cli")
          .mayNotBeAccessedByAnyLayer()
          .whereLayer("work")
          .mayOnlyBeAccessedByLayers("cli")
          .whereLayer("plan")
          .mayOnlyBeAccessedByLayers("work", "cli")
          .whereLayer("family")
          .mayOnlyBeAccessedByLayers("plan", "work", "cli")
          .whereLayer("survey")
          .mayOnlyBeAccessedByLayers("plan", "work", "cli")
          .whereLayer("boot")
          .mayOnlyBeAccessedByLayers("family", "plan", "work", "cli")
          .whereLayer("chain")
          .mayOnlyBeAccessedByLayers("cli")
          .whereLayer("machine")
          .mayOnlyBeAccessedByLayers("family", "chain", "kind", "plan", "work", "cli")
          .whereLayer("node")
          .mayOnlyBeAccessedByLayers("cli")
          .whereLayer("cpu")
          .mayNotAccessAnyLayer()
          .whereLayer("names")
          .mayOnlyBeAccessedByLayers("volume", "kind", "work", "cli")
          .whereLayer("kind")
          .mayOnlyBeAccessedByLayers("cli")
          .whereLayer("fault")
          .mayOnlyBeAccessedByLayers("machine", "cli")
          .whereLayer("container")
          .mayOnlyBeAccessedByLayers("catalogue", "cli")
          .whereLayer("table")
          .mayOnlyBeAccessedByLayers("catalogue", "boot", "family", "survey", "plan", "work", "cli")
          .whereLayer("volume")
          .mayOnlyBeAccessedByLayers("catalogue", "boot", "family", "survey", "plan", "work", "cli")
          .whereLayer("catalogue")
          .mayOnlyBeAccessedByLayers("boot", "family", "survey", "kind", "plan", "work", "cli");

  /** Only the catalogue and the families name a format; everybody else is blind to them. */
  @ArchTest
  static final ArchRule BLIND_TO_FORMATS =
      noClasses()
          .that()
          .resideOutsideOfPackages(
              "..core.catalogue..",
              "..core.family..",
              "..core.table.*..",
              "..core.volume.*..",
              "..core.container.*..",
              "..core.boot.*..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(
              "..core.table.*..", "..core.volume.*..", "..core.container.*..", "..core.boot.*..");

  /** Tables, filesystems and containers do not know each other, nor one another of their kind. */
  @ArchTest
  static final ArchRule SIBLINGS =
      slices()
          .matching("lanternshed.core.(table|volume|container).(*)..")
          .should()
          .notDependOnEachOther();

  @ArchTest
  static final ArchRule NO_FRAMEWORK =
      noClasses()
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage("org.springframework..", "jakarta..", "org.hibernate..");

  @ArchTest
  static final ArchRule NO_CLOCK =
      noClasses()
          .that()
          .resideOutsideOfPackage("..cli..")
          .should()
          .callMethod(System.class, "currentTimeMillis")
          .orShould()
          .callMethod(System.class, "nanoTime");

  @ArchTest
  static final ArchRule NO_RINGS =
      slices().matching("lanternshed.core.(*)..").should().beFreeOfCycles();
}
