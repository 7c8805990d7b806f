package lanternshed.journey;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/**
 * The shed's own commands: what was kept stands in an empty place again, and a spoiled copy never.
 */
class BackupTest {
  private static final Path HERE = Path.of("..").toAbsolutePath().normalize();
  private final List<Path> places = new ArrayList<>();
  private final List<String> said = new ArrayList<>();

  /** A folder that the database's own user can reach too. */
  private Path place() throws IOException {
    Path p = Files.createTempDirectory(Path.of("/var/tmp"), "shed");
    Files.setPosixFilePermissions(p, PosixFilePermissions.fromString("rwxr-xr-x"));
    places.add(p);
    return p;
  }

  @AfterEach
  void clear() throws Exception {
    for (Path p : places) {
      shed(p, 0, "stop");
      try (Stream<Path> all = Files.walk(p)) {
        for (Path f : all.sorted(Comparator.reverseOrder()).toList()) Files.delete(f);
      }
    }
  }

  private static ProcessBuilder command(Path state, int port, String... words) {
    List<String> all = new ArrayList<>(List.of("./shed"));
    all.addAll(Arrays.asList(words));
    ProcessBuilder b = new ProcessBuilder(all).directory(HERE.toFile()).redirectErrorStream(true);
    b.environment().put("SHED_STATE", state.toString());
    b.environment().put("SHED_PORT", Integer.toString(port));
    return b;
  }

  /** Runs one of the commands to its end; its code, and what it said in {@link #said}. */
  private int shed(Path state, int port, String... words) throws Exception {
    Process p = command(state, port, words).start();
    said.clear();
    said.add(new String(p.getInputStream().readAllBytes()));
    return p.waitFor();
  }

  /** What is asked of a shed that answers. */
  private interface Asked {
    String of(HttpClient http, String address) throws Exception;
  }

  /** What a started shed answers. */
  private static String started(Path state, Asked asked) throws Exception {
    int port;
    try (ServerSocket s = new ServerSocket(0)) {
      port = s.getLocalPort();
    }
    Process p =
        command(state, port, "start").redirectOutput(state.resolve("said.log").toFile()).start();
    try {
      for (int i = 0; i < 480; i++) {
        Thread.sleep(500);
        assertThat(p.isAlive()).as(Files.readString(state.resolve("said.log"))).isTrue();
        if (!Files.readString(state.resolve("said.log")).contains("http://")) continue;
        return asked.of(HttpClient.newHttpClient(), "http://127.0.0.1:" + port);
      }
      throw new AssertionError("the shed did not start");
    } finally {
      p.destroy();
      p.waitFor();
    }
  }

  private static String get(HttpClient http, String address) throws Exception {
    HttpRequest r = HttpRequest.newBuilder(URI.create(address)).build();
    return http.send(r, HttpResponse.BodyHandlers.ofString()).body();
  }

  private static String images(HttpClient http, String address) throws Exception {
    return get(http, address + "/api/images");
  }

  /** A medium with something on it, and an image that is mostly holes. */
  private static String filled(HttpClient http, String address) throws Exception {
    byte[] medium = new byte[4 << 20];
    new Random(5).nextBytes(medium);
    post(
        http,
        address + "/api/media/upload?name=kept.img",
        "application/octet-stream",
        HttpRequest.BodyPublishers.ofByteArray(medium));
    String blank = "{\"name\": \"kept\", \"sectors\": 2000000, \"disk\": \"\"}";
    post(
        http,
        address + "/api/images/empty",
        "application/json",
        HttpRequest.BodyPublishers.ofString(blank));
    for (int i = 0; i < 240; i++) {
      String now = images(http, address);
      if (now.contains("sha256")) return now;
      Thread.sleep(250);
    }
    throw new AssertionError("no image came");
  }

  private static void post(
      HttpClient http, String address, String kind, HttpRequest.BodyPublisher body)
      throws Exception {
    HttpRequest r =
        HttpRequest.newBuilder(URI.create(address)).header("Content-Type", kind).POST(body).build();
    HttpResponse<String> a = http.send(r, HttpResponse.BodyHandlers.ofString());
    assertThat(a.statusCode()).as(a.body()).isBetween(200, 202);
  }

  /** Whoever calls it from their own folder of images means the files that lie there. */
  @Test
  void aFileIsLookedForWhereItsNameWasGiven() throws Exception {
    Path mine = place();
    Files.write(mine.resolve("mine.img"), new byte[64 * 512]);
    ProcessBuilder b = command(mine, 0, "image", "inspect", "mine.img").directory(mine.toFile());
    b.command().set(0, HERE.resolve("shed").toString());
    Process p = b.start();
    assertThat(new String(p.getInputStream().readAllBytes())).startsWith("64 sectors");
    p.waitFor();
    assertThat(shed(mine, 0, "image", "inspect", "mine.img")).isNotZero();
    assertThat(said.get(0)).contains("There is no file mine.img.");
  }

  @Test
  void whatWasKeptStandsInAnEmptyPlaceAgain() throws Exception {
    Path one = place();
    Path other = place();
    Path copy = place().resolve("copy.tar.xz");
    String images = started(one, BackupTest::filled);
    assertThat(shed(one, 0, "backup", copy.toString())).as(said.toString()).isZero();
    assertThat(said.get(0)).contains("read back against its SHA-256");
    assertThat(shed(one, 0, "backup", copy.toString())).isNotZero();
    assertThat(said.get(0)).contains("is not replaced");

    byte[] spoiled = Files.readAllBytes(copy);
    spoiled[spoiled.length / 2] ^= 1;
    Path bad = copy.resolveSibling("bad.tar.xz");
    Files.write(bad, spoiled);
    assertThat(shed(other, 0, "restore", bad.toString())).isNotZero();
    assertThat(said.get(0)).contains("is damaged");

    assertThat(shed(other, 0, "restore", copy.toString())).as(said.toString()).isZero();
    assertThat(said.get(0)).contains("what was kept", "Brought back");
    assertThat(started(other, BackupTest::images)).isEqualTo(images);
    assertThat(shed(other, 0, "restore", copy.toString())).isNotZero();
    assertThat(said.get(0)).contains("holds something already");
  }
}
