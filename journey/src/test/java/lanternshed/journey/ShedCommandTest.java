package lanternshed.journey;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What the shed's own command starts ends with it, whatever ended it; and it knows its verbs. */
class ShedCommandTest {
  private static final Path HERE = Path.of("..").toAbsolutePath().normalize();
  private Path state;

  @BeforeEach
  void place() throws IOException {
    state = Files.createTempDirectory(Path.of("/var/tmp"), "shed");
    Files.setPosixFilePermissions(state, PosixFilePermissions.fromString("rwxr-xr-x"));
  }

  @AfterEach
  void clear() throws IOException {
    try (Stream<Path> all = Files.walk(state)) {
      for (Path f : all.sorted(Comparator.reverseOrder()).toList()) Files.delete(f);
    }
  }

  private Process shed(int port, String before, String... words) throws IOException {
    ProcessBuilder b =
        new ProcessBuilder(Stream.concat(Stream.of("./shed"), Stream.of(words)).toList())
            .directory(HERE.toFile())
            .redirectErrorStream(true)
            .redirectOutput(state.resolve("said.log").toFile());
    b.environment().put("SHED_STATE", state.toString());
    b.environment().put("SHED_PORT", Integer.toString(port));
    b.environment().put("PATH", before + b.environment().get("PATH"));
    return b.start();
  }

  private static int freePort() throws IOException {
    try (ServerSocket s = new ServerSocket(0)) {
      return s.getLocalPort();
    }
  }

  /** Processes of this state's database or server, as the system lists them. */
  private List<String> left() throws IOException {
    Process p = new ProcessBuilder("pgrep", "-fa", state.toString()).start();
    return new String(p.getInputStream().readAllBytes()).lines().toList();
  }

  private void nothingIsLeft(int port) throws Exception {
    assertThat(left()).as(Files.readString(state.resolve("said.log"))).isEmpty();
    new ServerSocket(port).close();
    assertThat(Files.exists(state.resolve("shed.pid"))).isFalse();
    assertThat(Files.exists(state.resolve("database/postmaster.pid"))).isFalse();
  }

  @ParameterizedTest
  @ValueSource(longs = {300, 1200, 2100, 3000, 4000, 6000, 9000})
  void aStartThatIsCutLeavesNothingRunning(long after) throws Exception {
    int port = freePort();
    // The later ones while the demonstration is laid out.
    Process p = shed(port, "", after > 5000 ? "demo" : "start");
    p.waitFor(after, TimeUnit.MILLISECONDS);
    p.destroy();
    assertThat(p.waitFor(40, TimeUnit.SECONDS)).isTrue();
    nothingIsLeft(port);
  }

  @Test
  void aServerThatFailsLeavesNothingRunning() throws Exception {
    Path programs = Files.createDirectory(state.resolve("programs"));
    script(programs.resolve("java"), "echo this computer has no memory left; exit 1");
    int port = freePort();
    Process p = shed(port, programs + ":", "start");
    assertThat(p.waitFor(60, TimeUnit.SECONDS)).isTrue();
    assertThat(p.exitValue()).isEqualTo(1);
    assertThat(Files.readString(state.resolve("said.log")))
        .contains("no memory left", "The server ended while it started");
    nothingIsLeft(port);
  }

  /** A server that takes its time to end: who starts anew at once must not meet the old command. */
  @Test
  void stopEndsWhenAllOfItHasEnded() throws Exception {
    Path stubs = Files.createDirectory(state.resolve("stubs"));
    script(
        stubs.resolve("java"),
        "case \"$*\" in *LanternShed*) trap 'sleep 3; exit' TERM; while :; do sleep 0.1; done ;;"
            + " *) exec /usr/bin/java \"$@\" ;; esac");
    script(stubs.resolve("curl"), "exit 0");
    int port = freePort();
    Process running = shed(port, stubs + ":", "start");
    for (int i = 0;
        i < 1200 && !Files.readString(state.resolve("said.log")).contains("Ctrl-C");
        i++) {
      running.waitFor(100, TimeUnit.MILLISECONDS);
    }
    assertThat(running.isAlive()).as(Files.readString(state.resolve("said.log"))).isTrue();
    Process stop = shed(port, stubs + ":", "stop");
    assertThat(stop.waitFor(60, TimeUnit.SECONDS)).isTrue();
    assertThat(running.isAlive()).isFalse();
    Files.delete(stubs.resolve("java"));
    nothingIsLeft(port);
  }

  private static void script(Path at, String line) throws IOException {
    Files.writeString(at, "#!/bin/bash\n" + line + "\n");
    Files.setPosixFilePermissions(at, PosixFilePermissions.fromString("rwxr-xr-x"));
  }

  @Test
  void aVerbThatIsNotThereIsTold() throws Exception {
    Process p = shed(0, "", "nonsense");
    assertThat(p.waitFor()).isEqualTo(2);
    assertThat(Files.readString(state.resolve("said.log")))
        .startsWith("There is no ./shed nonsense.")
        .contains("demo", "kind");
  }

  @ParameterizedTest
  @ValueSource(strings = {"--version", "help", "demo --help", "kind --help", "image get --help"})
  void whatItIsAndTakesIsSaid(String words) throws Exception {
    Process p = shed(0, "", words.split(" "));
    assertThat(p.waitFor()).isZero();
    assertThat(Files.readString(state.resolve("said.log")))
        .isNotBlank()
        .doesNotContain("Unknown option");
  }
}
