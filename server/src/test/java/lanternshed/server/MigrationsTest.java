package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import lanternshed.core.measure.Sha256;
import org.junit.jupiter.api.Test;

/**
 * A step of the database that somebody's shed has made is never another one: what comes new is a
 * new step, and its digest a new line of migrations.sha256.
 */
class MigrationsTest {
  private static final Path STEPS = Path.of("src/main/resources/db/migration");
  private static final Path DIGESTS = Path.of("src/test/resources/migrations.sha256");

  @Test
  void stepsThatWereMadeStayAsTheyAre() throws Exception {
    List<String> known = Files.readAllLines(DIGESTS);
    for (String line : known) {
      String name = line.substring(line.lastIndexOf(' ') + 1);
      assertThat(Sha256.of(Files.readAllBytes(STEPS.resolve(name))))
          .as(name + " was changed after it was made; write a new step")
          .isEqualTo(line.substring(0, 64));
    }
    try (Stream<Path> all = Files.list(STEPS)) {
      assertThat(all).as("each step has a line").hasSameSizeAs(known);
    }
  }
}
