package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.TestMethodOrder;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.StringNode;

/**
 * W-3 to W-7 on block devices of the system itself, where this computer lets files be such; each
 * way by which a server comes to them is a sibling.
 */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
abstract class RealCards {
  private static final int SECTORS = 65_536;

  /** Of a card that is written for so long that it can be killed meanwhile: 384 MiB. */
  protected static final int LARGE = 786_432;

  protected final List<String> loops = new ArrayList<>();
  protected Path folder;
  private Path link;
  protected TestShed shed;
  private long card;
  private long image;
  private byte[] bytes;

  /** How a server comes to these nodes. */
  abstract Map<String, String> settings(List<String> nodes) throws IOException;

  protected static String run(String... command) throws IOException, InterruptedException {
    Process p = new ProcessBuilder(command).redirectErrorStream(true).start();
    String said = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip();
    boolean ended = p.waitFor(30, TimeUnit.SECONDS);
    if (!ended || p.exitValue() != 0) throw new IOException(said);
    return said;
  }

  @BeforeAll
  void devices() throws Exception {
    folder = Files.createTempDirectory(Path.of("target"), "cards").toAbsolutePath();
    try {
      for (int i = 0; i < 3; i++) {
        Path file = folder.resolve("card" + i + ".img");
        try (RandomAccessFile f = new RandomAccessFile(file.toFile(), "rw")) {
          f.setLength((i == 2 ? 2048 : SECTORS) * 512L);
        }
        loops.add(run("losetup", "-f", "--show", file.toString()));
      }
      run("mkfs.fat", "-n", "CAMERA", loops.get(0));
    } catch (IOException e) {
      Assumptions.abort("No file can be a device on this computer: " + e.getMessage());
    }
    for (String l : loops) {
      Path facts = Path.of("/sys/class/block").resolve(l.substring(5));
      Assumptions.assumeTrue(Files.isDirectory(facts), "The system says nothing of its devices.");
    }
    link = Files.createSymbolicLink(folder.resolve("link"), Path.of(loops.get(0)));
    shed =
        new TestShed(
            false,
            0,
            settings(List.of(loops.get(0) + ":write", loops.get(1), loops.get(2) + ":write")));
    bytes = new byte[40_000 * 512];
    new Random(7).nextBytes(bytes);
    Path file = folder.resolve("wanted.img");
    Files.write(file, bytes);
    long medium = shed.upload("wanted.img", file).json().get("id").asLong();
    JsonNode made = shed.ended(shed.post("/api/media/" + medium + "/image", Map.of()));
    image = made.get("made").asLong();
  }

  @AfterAll
  void away() throws Exception {
    if (shed != null) shed.close();
    for (String l : loops) run("losetup", "-d", l);
    try (var all = Files.walk(folder)) {
      for (Path p : all.sorted(java.util.Comparator.reverseOrder()).toList()) Files.delete(p);
    }
  }

  private TestShed.Answer take(String node, boolean asCard) {
    return shed.post("/api/media/devices", Map.of("node", node, "name", "card", "card", asCard));
  }

  private JsonNode settled(TestShed.Answer begun) {
    assertThat(begun.status()).as(begun.text()).isEqualTo(202);
    return shed.settled(begun.json().get("id").asLong());
  }

  private byte[] there(int i, int sectors) throws IOException, InterruptedException {
    run("blockdev", "--flushbufs", loops.get(i));
    try (var in = Files.newInputStream(folder.resolve("card" + i + ".img"))) {
      return in.readNBytes(sectors * 512);
    }
  }

  @Test
  @Order(1)
  void whatIsPluggedInIsListedWithWhatLiesOnIt() {
    JsonNode all = shed.get("/api/media/devices").json();
    assertThat(all.size()).isEqualTo(3);
    assertThat(shed.get("/api/media/devices/look?node=" + loops.get(0)).json().get("text"))
        .isEqualTo(StringNode.valueOf("FAT16 CAMERA, 0 files"));
    assertThat(shed.get("/api/media/devices/look?node=/dev/null").detail())
        .contains("not in the list");
    assertThat(all.get(0).get("sectors").asLong()).isEqualTo(SECTORS);
    assertThat(all.get(0).get("refusals").isEmpty()).isTrue();
    assertThat(all.get(1).get("refusals").get(0).asString()).contains("not marked removable");
  }

  @Test
  @Order(2)
  void nothingElseIsOpenedByAnyName() {
    String node = loops.get(0);
    for (String other :
        List.of(
            link.toString(),
            "/dev/../dev/" + node.substring(5),
            "//dev/" + node.substring(5),
            node + ":write",
            "/proc/self/fd/0",
            "removable",
            "",
            folder.resolve("card0.img").toString())) {
      assertThat(take(other, true).status()).as(other).isIn(400, 422);
    }
  }

  @Test
  @Order(3)
  void aCardIsWrittenAndReadBackFromTheDeviceItself() throws Exception {
    TestShed.Answer taken = take(loops.get(0), true);
    assertThat(taken.status()).as(taken.text()).isEqualTo(201);
    assertThat(taken.json().get("standIn").asBoolean()).isFalse();
    assertThat(take(loops.get(0), false).status()).isEqualTo(409);
    card = taken.json().get("id").asLong();
    JsonNode check = shed.get("/api/images/" + image + "/restore-check?mediumId=" + card).json();
    assertThat(check.get("description").asString())
        .contains("a real card in " + loops.get(0))
        .endsWith("on it now: CAMERA");
    assertThat(check.get("confirmHint").asString()).startsWith("what is on it now");
    String restore = "/api/images/" + image + "/restore";
    assertThat(shed.post(restore, Map.of("mediumId", card, "confirm", "ERA")).detail())
        .contains("is not what is on card");
    JsonNode w = settled(shed.post(restore, Map.of("mediumId", card, "confirm", "camera")));
    assertThat(w.get("state").asString()).as(w.toString()).isEqualTo("DONE");
    assertThat(there(0, 40_000)).isEqualTo(bytes);
    // The card had nothing readable afterwards: the next time it is EMPTY.
    assertThat(
            shed.get("/api/images/" + image + "/restore-check?mediumId=" + card)
                .json()
                .get("description")
                .asString())
        .endsWith("on it now: EMPTY");
  }

  @Test
  @Order(4)
  void onlyChangesAreWrittenWhereItHoldsTheImage() {
    String restore = "/api/images/" + image + "/restore";
    JsonNode w =
        settled(
            shed.post(restore, Map.of("mediumId", card, "confirm", "EMPTY", "onlyChanges", true)));
    assertThat(w.get("state").asString()).isEqualTo("DONE");
    assertThat(shed.get("/api/media/" + card).json().get("holdsImage").asLong()).isEqualTo(image);
  }

  @Test
  @Order(5)
  void itsTrueSizeIsMeasuredOnTheDevice() {
    JsonNode w =
        settled(
            shed.post(
                "/api/media/" + card + "/true-size", Map.of("full", true, "confirm", "EMPTY")));
    assertThat(w.get("state").asString()).as(w.toString()).isEqualTo("DONE");
    JsonNode m = shed.get("/api/media/" + card).json();
    assertThat(m.get("trueSize").get("kind").asString()).isEqualTo("TRUE");
    assertThat(m.get("sectors").asLong()).isEqualTo(SECTORS);
  }

  @Test
  @Order(6)
  void aCardThatIsMountedIsNotWritten() throws Exception {
    run("mkfs.fat", "-n", "CAMERA", loops.get(0));
    Path at = Files.createDirectories(folder.resolve("mounted"));
    try {
      run("mount", loops.get(0), at.toString());
    } catch (IOException e) {
      Assumptions.abort("Nothing can be mounted on this computer: " + e.getMessage());
    }
    try {
      JsonNode check = shed.get("/api/images/" + image + "/restore-check?mediumId=" + card).json();
      assertThat(check.get("refusals").get(0).asString()).contains("is mounted at " + at);
      TestShed.Answer a =
          shed.post(
              "/api/images/" + image + "/restore", Map.of("mediumId", card, "confirm", "CAMERA"));
      assertThat(a.detail()).contains("is mounted at");
    } finally {
      run("umount", at.toString());
    }
  }

  @Test
  @Order(7)
  void whatIsNotMarkedAndAnotherCardAtItsPlaceAreRefused() throws Exception {
    long fixed = take(loops.get(1), true).json().get("id").asLong();
    TestShed.Answer a =
        shed.post(
            "/api/images/" + image + "/restore", Map.of("mediumId", fixed, "confirm", "EMPTY"));
    assertThat(a.detail()).contains("not marked removable");
    assertThat(there(1, 1)).isEqualTo(new byte[512]);
    byte[] before = Arrays.copyOf(there(0, 2048), 2048 * 512);
    run("losetup", "-d", loops.get(0));
    run("losetup", loops.get(0), folder.resolve("card2.img").toString());
    TestShed.Answer other =
        shed.post(
            "/api/images/" + image + "/restore", Map.of("mediumId", card, "confirm", "EMPTY"));
    assertThat(other.detail()).contains("Another medium is at " + loops.get(0) + " now");
    assertThat(there(2, 2048)).isEqualTo(new byte[2048 * 512]);
    try (var in = Files.newInputStream(folder.resolve("card0.img"))) {
      assertThat(in.readNBytes(2048 * 512)).isEqualTo(before);
    }
  }

  /** Z-3 at a node: the digest of the certificate is what a general tool finds on the card. */
  @Test
  @Order(5)
  void aRealCardIsWipedAndItsDigestIsThatOfAGeneralTool() throws Exception {
    String node = loops.get(2);
    Files.write(folder.resolve("card2.img"), new byte[] {7, 7, 7}, StandardOpenOption.WRITE);
    run("blockdev", "--flushbufs", node);
    long small = take(node, true).json().get("id").asLong();
    Map<String, Object> order =
        new HashMap<>(Map.of("confirm", "EMPTY", "school", "NOISE_ZEROS", "whole", true, "by", ""));
    // Nobody here has read it, so it may be the only copy until somebody says that it is not.
    JsonNode check = shed.get("/api/media/" + small + "/wipe").json();
    assertThat(check.get("unknown").asString()).isEqualTo("nothing that is known");
    TestShed.Answer no = shed.post("/api/media/" + small + "/wipe", order);
    assertThat(no.detail()).contains("may be the only copy", "say that nothing on it is needed");
    order.put("nothingNeeded", true);
    JsonNode w = settled(shed.post("/api/media/" + small + "/wipe", order));
    assertThat(w.get("state").asString()).as(w.toString()).isEqualTo("DONE");
    JsonNode c = shed.get("/api/certificates").json().get(0);
    assertThat(c.get("wiped").asBoolean()).as(c.toString()).isTrue();
    String digest =
        shed.get("/api/certificates/" + c.get("id").asLong() + ".json")
            .json()
            .get("mediumSha256")
            .asString();
    run("blockdev", "--flushbufs", node);
    assertThat(run("sha256sum", node)).startsWith(digest);
    String unknown = "/api/media/" + small + "/wipe";
    assertThat(shed.get(unknown).json().get("unknown").asString()).as("just wiped").isEmpty();
    run("losetup", "-d", node);
    run("losetup", node, folder.resolve("card2.img").toString());
    assertThat(shed.get(unknown).json().get("unknown").asString())
        .as("it was out: somebody may have written on it")
        .isNotEmpty();
  }

  /**
   * A write that was killed: with the same card in its reader again it goes on; on another card of
   * its size, put there meanwhile, not a byte is written.
   */
  @Test
  @Order(8)
  void aKilledWriteGoesOnWithItsOwnCardAndWithNoOther() throws Exception {
    run("losetup", "-d", loops.get(0));
    int sectors = LARGE;
    Path own = folder.resolve("own.img");
    Path other = folder.resolve("other.img");
    try (RandomAccessFile a = new RandomAccessFile(own.toFile(), "rw");
        RandomAccessFile b = new RandomAccessFile(other.toFile(), "rw")) {
      a.setLength(sectors * 512L);
      b.setLength(sectors * 512L);
      b.write(bytes);
    }
    String node = loops.get(0);
    run("losetup", node, own.toString());
    long large = take(node, true).json().get("id").asLong();
    JsonNode blank =
        shed.ended(
            shed.post("/api/images/empty", Map.of("name", "large blank", "sectors", sectors)));
    String restore = "/api/images/" + blank.get("made").asLong() + "/restore";
    Map<String, Object> order = Map.of("mediumId", large, "confirm", "EMPTY");
    long work = shed.post(restore, order).json().get("id").asLong();
    String at = "/api/runs/" + work;
    TestShed.await(() -> shed.get(at).json().get("done").asLong() > 128 << 20);
    shed.kill();
    shed.start();
    assertThat(shed.settled(work).get("state").asString()).isEqualTo("PAUSED");

    run("losetup", "-d", node);
    shed.post(at + "/resume", Map.of());
    assertThat(shed.settled(work).get("message").asString()).contains("Nothing is in " + node);
    assertThat(shed.get("/api/media/devices").json().get(0).get("says").asString())
        .isEqualTo("nothing is in it");
    run("losetup", node, other.toString());
    shed.post(at + "/resume", Map.of());
    assertThat(shed.settled(work).get("message").asString()).contains("it may be another");
    run("losetup", "-d", node);
    try (var in = Files.newInputStream(other)) {
      assertThat(in.readNBytes(bytes.length)).isEqualTo(bytes);
    }
    run("losetup", node, own.toString());
    shed.post(at + "/resume", Map.of());
    JsonNode w = shed.settled(work);
    assertThat(w.get("state").asString()).as(w.toString()).isEqualTo("DONE");
  }
}
