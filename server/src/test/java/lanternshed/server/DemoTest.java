package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;

import com.google.zxing.BinaryBitmap;
import com.google.zxing.RGBLuminanceSource;
import com.google.zxing.common.HybridBinarizer;
import com.google.zxing.qrcode.QRCodeReader;
import java.awt.image.BufferedImage;
import java.io.File;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;
import javax.imageio.ImageIO;
import lanternshed.core.measure.Sha256;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import tools.jackson.databind.JsonNode;

/** The demonstration is laid out by real work, and a second start keeps what people made of it. */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class DemoTest {
  /** What carries a job of the demo on comes after what looks at it. */
  private static final int LAST = Integer.MAX_VALUE;

  private static TestShed shed;

  @BeforeAll
  static void start() {
    shed = new TestShed(true, 0, TestShed.DIGESTS_MUCH);
  }

  @AfterAll
  static void stop() {
    shed.close();
  }

  private static Map<String, JsonNode> jobs() {
    Map<String, JsonNode> out = new TreeMap<>();
    shed.get("/api/jobs?size=100")
        .json()
        .get("rows")
        .forEach(j -> out.put(j.get("machine").asString(), j));
    return out;
  }

  /** A job with all that is known of it; the list has less. */
  private static JsonNode whole(String machine) {
    return shed.get("/api/jobs/" + jobs().get(machine).get("id").asLong()).json();
  }

  private static String lamps(JsonNode job) {
    StringBuilder s = new StringBuilder();
    job.get("stations").forEach(x -> s.append(x.get("state").asString().charAt(0)));
    return s.toString();
  }

  @Test
  void everyJobStandsWhereItsWorkBroughtIt() {
    Map<String, JsonNode> jobs = jobs();
    assertThat(jobs).hasSize(15);
    assertThat(lamps(jobs.get("Corvane KD-3 loom controller"))).isEqualTo("LDDDDDDDDD");
    assertThat(lamps(jobs.get("Corvane KD-1 warping frame"))).isEqualTo("MMMMLDDDDD");
    assertThat(lamps(jobs.get("Dunmore Compact 286 bookkeeping PC"))).isEqualTo("MLDDDDDDDD");
    for (String atFault :
        List.of(
            "Quill 6 schoolroom computer",
            "Larkspur 2100 ticket laptop",
            "Stanmer Unit 40 drive box")) {
      assertThat(lamps(jobs.get(atFault))).as(atFault).isEqualTo("MLDDDDDDDD");
    }
    assertThat(lamps(jobs.get("Larkspur 1900 gate laptop"))).isEqualTo("MMMMMMBDDD");
    // D stands for a dash as well: nothing was rescued, because there was no drive to rescue.
    assertThat(lamps(jobs.get("Tarn SX-8 sampler"))).isEqualTo("MMDDMLDDDD");
    assertThat(lamps(jobs.get("Tolley Ledger sub-notebook"))).isEqualTo("MMMMMMMMMM");
    assertThat(jobs.values())
        .extracting(j -> j.get("waits").asString())
        .contains("stopped", "closed", "in your hands");
    assertThat(jobs.get("Larkspur 1900 gate laptop").get("where").asString())
        .contains("wraps like this");
  }

  /** What a screen shows of a job, without what is a number of one shed alone. */
  private static JsonNode shown(TestShed at, long job) {
    var view = (tools.jackson.databind.node.ObjectNode) at.get("/api/jobs/" + job).json();
    for (String own : List.of("id", "mediumId", "cardId", "rescuedId", "builtId", "goldenId")) {
      boolean there = view.get(own).asLong() > 0;
      view.put(own, there ? 1 : 0);
    }
    JsonNode board = at.get("/api/jobs/" + job + "/fault").json();
    JsonNode plan = at.get("/api/jobs/" + job + "/plan").json();
    JsonNode reasoning = board.path("reasoning");
    view.put("fault reasoned", reasoning.path("verdict").path("sentence").asString(""));
    view.put("explained", reasoning.findValuesAsString("name").toString());
    view.put("tests", board.path("trials").findValuesAsString("title").toString());
    // What is proposed before somebody settled it depends on the cards of the shed.
    boolean settled = plan.path("settled").asBoolean(false);
    if (settled) view.set("plan", plan.path("plan").path("verdict"));
    return view;
  }

  /** Every fifth of them; in the trials all, and with images of more than a GiB, too. */
  @Test
  @Tag("trial")
  @Order(LAST)
  void everyJobIsTakenInByAnotherShedAsItIs() throws Exception {
    boolean all = Boolean.getBoolean("trials");
    try (TestShed other = new TestShed(false, 0, TestShed.DIGESTS_MUCH)) {
      int images = 0;
      int turn = 0;
      for (JsonNode job : jobs().values()) {
        if (!all && turn++ % 5 != 0) continue;
        long id = job.get("id").asLong();
        StringBuilder chosen = new StringBuilder("0");
        for (JsonNode i : shed.get("/api/jobs/" + id + "/archive/parts").json().get("images")) {
          if (!all && i.get("size").asString().contains("GiB")) continue;
          chosen.append(',').append(i.get("id").asLong());
          images++;
        }
        byte[] zip = shed.bytes("/api/jobs/" + id + "/archive?images=" + chosen);
        JsonNode done = ArchiveTest.takenIn(other, zip);
        assertThat(done.get("state").asString()).as(job + " " + done).isEqualTo("DONE");
        long there = done.get("made").asLong();
        byte[] again = other.bytes("/api/jobs/" + there + "/archive?images=");
        assertThat(ArchiveTest.rows(ArchiveTest.unpacked(again), true))
            .isEqualTo(ArchiveTest.rows(ArchiveTest.unpacked(zip), false));
        // A look at a board that is empty lays it, so that it comes last.
        assertThat(shown(other, there)).isEqualTo(shown(shed, id));
      }
      assertThat(images).isGreaterThan(all ? 8 : 1);
    }
  }

  private static JsonNode reasoning(String machine) {
    long id = jobs().get(machine).get("id").asLong();
    return shed.get("/api/jobs/" + id + "/fault").json().get("reasoning");
  }

  /** It was laid out by a start that was cut off, and one that went on ({@link Prepared}). */
  @Test
  @Order(1)
  void aStartThatIsCutOffMakesNothingTwice() {
    shed.awaitDemonstration();
    for (String list : List.of("crossings", "media", "roms")) {
      JsonNode all = shed.get("/api/" + list).json();
      List<String> names = new ArrayList<>();
      for (JsonNode x : all) names.add(x.path("name").asString(x.path("target").asString()));
      assertThat(names).as(list).isNotEmpty().doesNotHaveDuplicates();
    }
    JsonNode demo = shed.get("/api/demo").json();
    assertThat(demo.get("done").asInt()).isEqualTo(demo.get("of").asInt()).isGreaterThan(10);
    assertThat(jobs()).hasSize(15);
  }

  @Test
  void everyBoardStandsAtItsOwnPointOfTheReasoning() {
    JsonNode pair = reasoning("Dunmore Compact 286 bookkeeping PC");
    assertThat(pair.get("explanations").get(0).get("name").asString())
        .isEqualTo("system ROM pair × storage newer than 1990");
    assertThat(pair.get("verdict").get("kind").asString()).isEqualTo("pair");
    JsonNode key = reasoning("Quill 6 schoolroom computer");
    assertThat(key.get("explanations").get(0).get("name").asString())
        .isEqualTo("key of the combination");
    assertThat(key.get("verdict").get("kind").asString()).isEqualTo("other");
    JsonNode control = reasoning("Larkspur 2100 ticket laptop");
    // Both drives work elsewhere; that the machine works with another one nobody has seen.
    assertThat(control.get("verdict").get("kind").asString()).isEqualTo("open");
    assertThat(control.get("verdict").get("leads").asString()).isEqualTo("other");
    assertThat(control.get("verdict").get("sentence").asString()).contains("with other storage");
    assertThat(control.get("explanations").size()).isGreaterThan(3);
    JsonNode first = reasoning("Stanmer Unit 40 drive box");
    assertThat(first.get("verdict").get("kind").asString()).isEqualTo("open");
    assertThat(first.get("next").get(0).get("title").asString()).contains("unit supply: measure");
  }

  @Test
  void theRescuedDriveHasHolesThatHitItsFilesAndAMapThatAddsUp() {
    JsonNode job = whole("Corvane KD-1 warping frame");
    JsonNode image = shed.get("/api/images/" + job.get("rescuedId").asLong()).json();
    assertThat(image.get("lost").asLong()).isPositive();
    JsonNode map = shed.get("/api/jobs/" + job.get("id").asLong() + "/map").json();
    long covered = 0;
    Map<String, Long> states = new HashMap<>();
    for (JsonNode r : map.get("ranges")) {
      assertThat(r.get("start").asLong()).isEqualTo(covered);
      covered += r.get("length").asLong();
      states.merge(r.get("state").asString(), r.get("length").asLong(), Long::sum);
    }
    assertThat(covered).isEqualTo(image.get("sectors").asLong());
    assertThat(states.get("FAILED")).isEqualTo(image.get("lost").asLong());
    assertThat(states).doesNotContainKey("UNREAD");
    JsonNode survey = shed.get("/api/images/" + image.get("id").asLong() + "/survey").json();
    assertThat(survey.get("findings")).anyMatch(f -> f.get("rule").asString().equals("R-3"));
    String start = "/api/jobs/" + job.get("id").asLong() + "/rehearsal?image=";
    assertThat(shed.get(start + image.get("id").asLong()).json().get("links"))
        .hasSize(8)
        .allMatch(l -> l.get("verdict").asString().equals("HOLDS"));
  }

  @Test
  void filesOfTheRescuedImageAreFoundAndHandedOut() {
    JsonNode job = whole("Tolley Ledger sub-notebook");
    String base = "/api/images/" + job.get("rescuedId").asLong();
    JsonNode files = shed.get(base + "/files?volume=1&find=letters").json();
    assertThat(files.get("total").asInt()).isGreaterThan(100);
    assertThat(files.get("rows")).allMatch(r -> r.get("path").asString().startsWith("LETTERS"));
    JsonNode row = files.get("rows").get(5);
    byte[] got = shed.bytes(base + "/file?volume=1&path=" + row.get("path").asString());
    assertThat(got).hasSize(row.get("bytes").asInt());
    assertThat(new String(got, 0, 6, java.nio.charset.StandardCharsets.US_ASCII))
        .isEqualTo("TOLLEY");
    assertThat(shed.get(base + "/files?volume=9").detail()).contains("no volume 9");
    assertThat(shed.get(base + "/file?volume=1&path=NONE.TXT").detail())
        .contains("no file of that path");
    assertThat(shed.get(base + "/download?form=rar").detail())
        .contains("zip, xz, bz2, vhd, atr, raw; not as");
  }

  @Test
  void aPlanAnswersWhileItIsMoved() {
    JsonNode job = whole("Corvane KD-1 warping frame");
    String base = "/api/jobs/" + job.get("id").asLong();
    JsonNode choice = shed.get(base + "/plan").json().get("choice");
    Map<String, Object> c = new HashMap<>();
    choice.propertyNames().forEach(n -> c.put(n, choice.get(n)));
    long before = 0;
    for (long end : List.of(30_000L, 60_000L, 90_000L)) {
      c.put(
          "volumes", List.of(Map.of("label", "WARPS", "end", end, "clusterBytes", 0, "source", 1)));
      TestShed.Answer a = shed.post(base + "/plan/preview", c);
      assertThat(a.status()).as(a.text()).isEqualTo(200);
      JsonNode v = a.json().get("volumes").get(0);
      long edge = v.get("start").asLong() + v.get("length").asLong();
      assertThat(edge % 1008).isZero();
      assertThat(Math.abs(edge - end)).isLessThan(1008);
      assertThat(edge).isGreaterThan(before);
      before = edge;
    }
    c.put(
        "volumes", List.of(Map.of("label", "WARPS", "end", 9000, "clusterBytes", 0, "source", 1)));
    JsonNode small = shed.post(base + "/plan/preview", c).json();
    assertThat(small.get("buildable").asBoolean()).isFalse();
    assertThat(small.get("verdicts").get(0).get("text").asString()).contains("make it larger");
    c.put("firmware", "none");
    assertThat(shed.post(base + "/plan/preview", c).detail()).contains("has no firmware");
    c.remove("firmware");
    assertThat(shed.post(base + "/plan/preview", c).status()).isEqualTo(400);
  }

  @Test
  void aStationTellsWhatIsMissingBeforeItIsSettled() {
    JsonNode job = whole("Dunmore Compact 286 bookkeeping PC");
    String base = "/api/jobs/" + job.get("id").asLong();
    Map<String, Object> nothing =
        Map.of("notes", "", "choice", "", "ticks", List.of(), "symptoms", List.of());
    for (int n : new int[] {2, 8, 9, 10, 5}) {
      long version = shed.get(base).json().get("version").asLong();
      TestShed.Answer a =
          shed.put(
              base + "/stations/" + n, Map.of("version", version, "record", nothing, "done", true));
      assertThat(a.status()).as("station " + n).isEqualTo(422);
      assertThat(a.detail()).isNotBlank().endsWith(".");
    }
    assertThat(lamps(shed.get(base).json())).isEqualTo("MLDDDDDDDD");
    assertThat(shed.put(base + "/medium", Map.of("mediumId", 1)).status()).isEqualTo(422);
  }

  @Test
  void aSecondStartKeepsEverythingAndAddsNothing() throws Exception {
    int media = shed.get("/api/media").json().size();
    long id = jobs().get("Corvane KD-3 loom controller").get("id").asLong();
    shed.post(
        "/api/jobs/" + id + "/log",
        Map.of("station", 1, "author", "tester", "text", "kept over a start"));
    int crossings = shed.get("/api/crossings").json().size();
    shed.kill();
    // As a shed of before left it, which kept no steps: its next starts make nothing twice either.
    try (var c = shed.database();
        var s = c.createStatement()) {
      s.execute("delete from demo_step");
    }
    for (int start = 0; start < 2; start++) {
      shed.kill();
      shed.start();
      shed.awaitDemonstration();
      assertThat(jobs()).hasSize(15);
      assertThat(shed.get("/api/media").json().size()).isEqualTo(media);
      assertThat(shed.get("/api/crossings").json().size()).isEqualTo(crossings);
    }
    JsonNode log = shed.get("/api/jobs/" + id + "/log").json();
    assertThat(StreamSupport.stream(log.spliterator(), false).map(l -> l.get("text").asString()))
        .contains("kept over a start");
    try (var half = Files.list(shed.home().resolve("shelf/half"))) {
      assertThat(half).isEmpty();
    }
  }

  /** The old drive starts under its own heads and sectors, and says why it would not elsewhere. */
  @Test
  void aRescuedDriveIsRehearsedUnderThisFirmware() {
    JsonNode images = shed.get("/api/images").json();
    long built =
        java.util.stream.StreamSupport.stream(images.spliterator(), false)
            .filter(x -> x.get("name").asString().equals("Tolley Ledger sub-notebook, built"))
            .findFirst()
            .orElseThrow()
            .get("id")
            .asLong();
    long job = job("Tolley Ledger sub-notebook");
    // Under what the plan's card shows, on the image and on the card itself.
    for (String on : List.of("", "&card=true")) {
      JsonNode own = shed.get("/api/jobs/" + job + "/rehearsal?image=" + built + on).json();
      assertThat(own.get("run").get("ending").asString()).isEqualTo("ENTERED");
    }
    // What is wished for is run, and nothing else beside it.
    String base = "/api/jobs/" + job + "/rehearsal?image=" + built;
    JsonNode none = shed.get(base + "&active=0").json();
    assertThat(none.get("run").get("screen").get(0).asString()).isEqualTo("No active entry");
    assertThat(none.get("ifs").isEmpty()).isTrue();
    assertThat(none.get("links").toString()).contains("no entry has the flag 80");
    JsonNode other = shed.get(base + "&heads=4&sectors=17&level=I8086&second=" + built).json();
    assertThat(other.get("shown").get("heads").asInt()).isEqualTo(4);
    assertThat(other.get("run").get("ending").asString()).isNotEqualTo("ENTERED");
    assertThat(shed.get(base + "&past=true").json().get("run").get("steps").asLong())
        .isGreaterThan(shed.get(base).json().get("run").get("steps").asLong());
    assertThat(shed.get(base + "&keys=F11").json().get("detail").asString()).contains("is no key");
    assertThat(shed.get(base + "&sectors=64").status()).isEqualTo(400);
    assertThat(shed.get(base + "&sectors=many").detail())
        .isEqualTo("\"sectors\" has a value that cannot be read.");
    JsonNode first = shed.get("/api/register").json().get(0);
    assertThat(first.get("machine").asString()).isEqualTo("Tolley Ledger sub-notebook");
    assertThat(first.get("system").asString()).isNotEmpty();
    String path = "/api/images/" + built + "/rehearsal?machine=";
    JsonNode r = shed.get(path + "subnotebook").json();
    assertThat(r.get("run").get("ending").asString()).isEqualTo("ENTERED");
    assertThat(r.get("run").get("reads").get(0).get("lba").asLong()).isPositive();
    assertThat(r.get("ifs").size()).isGreaterThan(1);
    assertThat(shed.get(path + "m68k-rdb").json().get("run").isNull()).isTrue();
    assertThat(shed.get(path + "nobody").status()).isIn(404, 422);
  }

  @Test
  void whatTheMachineShowsIsHeldAgainstWhatWasForetoldAndAFailedProofComesOnTheBoard() {
    String path = "/api/jobs/" + job("Larkspur 1900 gate laptop");
    JsonNode free = row(path, "Free on");
    assertThat(free.get("verdict").asString()).isEqualTo("OPEN");
    List<Map<String, Object>> ticks = new ArrayList<>();
    JsonNode machines = shed.get("/api/machines").json().get("machines");
    for (JsonNode m : machines) {
      if (!m.get("key").asString().equals("pc-late90s")) continue;
      for (int i = 0; i < m.get("prove").size(); i++) {
        ticks.add(Map.of("index", i, "done", true, "reading", "seen", "choice", ""));
      }
    }
    List<Map<String, Object>> shown = new ArrayList<>();
    for (JsonNode r : shed.get(path + "/shown").json()) {
      String key = r.get("key").asString();
      boolean wrong = key.equals(free.get("key").asString());
      shown.add(seen(key, wrong ? "1 KB" : r.get("predicted").asString(), ""));
    }
    TestShed.Answer pass = proof(path, "pass", ticks, shown);
    assertThat(pass.status()).isEqualTo(422);
    assertThat(pass.detail()).contains("less than predicted", "Write why");
    assertThat(proof(path, "fail", ticks, shown).status()).isEqualTo(200);
    assertThat(row(path, "Free on").get("verdict").asString()).isEqualTo("DIFFERS");
    assertThat(shed.post(path + "/failed-proof", Map.of()).status()).isEqualTo(204);
    shed.post(path + "/failed-proof", Map.of());
    JsonNode board = shed.get(path + "/fault").json();
    assertThat(board.get("trials"))
        .extracting(t -> t.get("text").get("title").asString())
        .as("each once")
        .containsExactly(
            "Proof with market find, 64 MB compact flash",
            "Read back after writing, market find, 64 MB compact flash",
            "Start rehearsed from market find, 64 MB compact flash");
    assertThat(board.get("trials"))
        .extracting(t -> t.get("text").get("outcome").asString())
        .as("the card is no good, and the shed knows it")
        .containsExactly("PARTLY", "FAILS", "FAILS");
    assertThat(board.get("trials").get(0).get("text").get("words").asString())
        .contains("1 KB in place of");
    assertThat(board.get("parts"))
        .anyMatch(p -> p.get("text").get("name").asString().equals("market find"));
    JsonNode stations = shed.get(path).json().get("stations");
    assertThat(stations.get(1).get("state").asString()).isEqualTo("LIT");
    assertThat(stations.get(8).get("sentence").asString()).contains("1 KB in place of");

    shown.removeIf(x -> x.get("key").equals(free.get("key").asString()));
    shown.add(seen(free.get("key").asString(), "1 KB", "the swap file of the first start"));
    assertThat(proof(path, "pass", ticks, shown).status()).isEqualTo(200);
    assertThat(shed.get(path).json().get("stations").get(8).get("sentence").asString())
        .contains("1 differs with a reason");
  }

  /**
   * The card read back whole, so something beside it is at fault; then the card is proved again.
   */
  @Test
  void whatIsAtFaultBesideAGoodCardIsMendedAndTheProofWaits() {
    String path = "/api/jobs/" + job("Ardley Galley 2 typesetter");
    assertThat(proof(path, "fail", List.of(), List.of()).status()).isEqualTo(200);
    assertThat(shed.post(path + "/failed-proof", Map.of()).status()).isEqualTo(204);
    JsonNode board = shed.get(path + "/fault").json();
    assertThat(board.get("trials"))
        .extracting(t -> t.get("text").get("outcome").asString())
        .startsWith("FAILS", "WORKS");
    JsonNode verdict = board.get("reasoning").get("verdict");
    assertThat(verdict.get("leads").asString()).as(verdict.toString()).isEqualTo("other");
    shed.post(path + "/fault/verdict?early=true", Map.of());
    JsonNode j = shed.get(path).json();
    assertThat(j.get("verdict").get("kind").asString()).isEqualTo("beside");
    JsonNode prove = j.get("stations").get(8);
    assertThat(prove.get("state").asString()).as("nothing is dashed away").isEqualTo("BRICK");
    assertThat(prove.get("waitsFor").asString()).endsWith("then start it again");
  }

  private static Map<String, Object> seen(String key, String text, String explained) {
    return Map.of("key", key, "text", text, "unseen", false, "explained", explained);
  }

  private static JsonNode row(String path, String what) {
    return StreamSupport.stream(shed.get(path + "/shown").json().spliterator(), false)
        .filter(r -> r.get("what").asString().startsWith(what))
        .findFirst()
        .orElseThrow();
  }

  private static TestShed.Answer proof(
      String path,
      String choice,
      List<Map<String, Object>> ticks,
      List<Map<String, Object>> shown) {
    Map<String, Object> record =
        Map.of(
            "notes",
            "",
            "choice",
            choice,
            "ticks",
            ticks,
            "symptoms",
            List.of(),
            "has",
            Map.of(),
            "shown",
            shown);
    long version = shed.get(path).json().get("version").asLong();
    return shed.put(
        path + "/stations/9", Map.of("version", version, "record", record, "done", true));
  }

  @Test
  void speedsBeforeAndAfterAreComparedLikeWithLikeAndComeBack() {
    String path = "/api/jobs/" + job("Tolley Ledger sub-notebook") + "/timings";
    JsonNode v = shed.get(path).json();
    assertThat(v.get("rows"))
        .extracting(r -> r.get("kind").asString() + " " + r.get("verdict").asString())
        .containsExactly("READ FASTER", "WRITE SLOWER", "RANDOM FASTER", "PROMPT FASTER");
    assertThat(v.get("rows").get(1).get("sentence").asString()).contains("small blocks slowly");
    assertThat(v.get("limitBytes").asLong()).isPositive();
    Map<String, Object> other =
        Map.of("kind", "WRITE", "after", true, "text", "fast", "system", "", "tool", "another");
    TestShed.Answer refused = shed.post(path, other);
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.detail()).contains("“fast” is no figure for sequential write");
    Map<String, Object> good = new HashMap<>(other);
    good.put("text", "900 KB/s");
    JsonNode added = shed.post(path, good).json();
    assertThat(added.get("rows")).hasSize(5);
    JsonNode last = added.get("timings").get(added.get("timings").size() - 1);
    String one = path + "/" + last.get("id").asLong();
    assertThat(shed.delete(one + "?undo=false").json().get("rows")).hasSize(4);
    assertThat(shed.delete(one + "?undo=true").json().get("rows")).hasSize(5);
    assertThat(shed.delete(one + "?undo=false").json().get("rows")).hasSize(4);
    assertThat(shed.delete(path + "/999999?undo=false").status()).isEqualTo(404);

    // F-12: what was read so slowly makes somebody wait for the first listing.
    assertThat(listing()).isEmpty();
    Map<String, Object> slow =
        Map.of("kind", "READ", "after", true, "text", "8 KB/s", "system", "", "tool", "a clock");
    JsonNode slowly = shed.post(path, slow).json().get("timings");
    assertThat(listing()).isNotEmpty().allMatch(t -> t.contains("after power takes about"));
    String taken = path + "/" + slowly.get(slowly.size() - 1).get("id").asLong();
    assertThat(shed.delete(taken + "?undo=false").status()).isEqualTo(200);
    assertThat(listing()).isEmpty();
  }

  private static List<String> listing() {
    String plan = "/api/jobs/" + job("Tolley Ledger sub-notebook") + "/plan";
    List<String> out = new ArrayList<>();
    for (JsonNode v : shed.get(plan).json().get("plan").get("verdicts")) {
      if (v.get("rule").asString().equals("F-12")) out.add(v.get("text").asString());
    }
    return out;
  }

  private static long job(String machine) {
    return java.util.stream.StreamSupport.stream(
            shed.get("/api/jobs").json().get("rows").spliterator(), false)
        .filter(x -> x.get("machine").asString().equals(machine))
        .findFirst()
        .orElseThrow()
        .get("id")
        .asLong();
  }

  /** V-5: several cards of a board are filled by a restore; nothing is built, and the job ends. */
  @Test
  @Order(LAST)
  void aBoardOfCardsIsMadeByItsRestoreAndClosesWithoutAnImage() {
    String path = "/api/jobs/" + job("Hobb Storyteller audio guide");
    JsonNode j = shed.get(path).json();
    assertThat(j.get("madeBy").asString()).contains("restore");
    assertThat(j.get("stations"))
        .extracting(s -> s.get("state").asString())
        .containsSubsequence("MOSS", "DASH", "DASH", "LIT");
    JsonNode size = shed.get(path + "/shown").json().get(0);
    assertThat(size.get("what").asString()).isEqualTo("Size as the player shows it");
    assertThat(size.get("because").toString()).contains("without slot 1");
    TestShed.Answer build = shed.post(path + "/build", Map.of());
    assertThat(build.status()).isEqualTo(422);
    assertThat(build.detail()).contains("Nothing is built here");
    Map<String, Object> record =
        Map.of(
            "notes", "", "choice", "", "ticks", List.of(), "symptoms", List.of(), "has", Map.of());
    Map<String, Object> close =
        Map.of("version", j.get("version").asLong(), "record", record, "done", true);
    TestShed.Answer closed = shed.put(path + "/stations/10", close);
    assertThat(closed.status()).as(closed.text()).isEqualTo(200);
    assertThat(shed.get(path).json().get("closed").asBoolean()).isTrue();
  }

  /** D-11: what the board found of a pair is a verdict of the plan, both sides by their names. */
  @Test
  @Order(LAST)
  void aPairOfTheBoardIsAVerdictOfThePlan() {
    String path = "/api/jobs/" + job("Dunmore Compact 286 bookkeeping PC");
    assertThat(shed.post(path + "/fault/verdict", Map.of()).status()).isEqualTo(200);
    JsonNode pair = shed.get(path).json().get("verdict").get("pair");
    assertThat(pair.get("machine"))
        .extracting(x -> x.get("name").asString())
        .contains("system ROM pair");
    assertThat(pair.get("storage")).extracting(x -> x.get("kind").asString()).contains("card");
    assertThat(shed.get(path + "/plan").json().get("plan").get("verdicts"))
        .anyMatch(
            v ->
                v.get("rule").asString().equals("D-11")
                    && v.get("text").asString().contains("system ROM pair")
                    && v.get("because").get("lifts").size() > 1);
  }

  private static List<String> romVerdict(String path) {
    List<String> out = new ArrayList<>();
    for (JsonNode v : shed.get(path + "/plan").json().get("plan").get("verdicts")) {
      if (v.get("rule").asString().equals("O-6")) out.add(v.get("text").asString());
    }
    return out;
  }

  /** O-6: a ROM that is to go into a machine is what its plan counts on. */
  @Test
  @Order(LAST)
  void theRomOfAJobLiftsThePegsOfItsPlan() {
    String path = "/api/jobs/" + job("Dunmore Compact 286 bookkeeping PC");
    JsonNode with = shed.get(path + "/plan").json();
    assertThat(with.get("choice").get("firmware").asString()).isEqualTo("option-rom");
    assertThat(romVerdict(path))
        .singleElement()
        .asString()
        .contains("“mill-drive-13.bin” does not serve as it is. The sum of its");
    long rom = shed.get("/api/roms").json().get(0).get("id").asLong();
    // What is mended goes into the machine in its place.
    JsonNode right = shed.post("/api/roms/" + rom + "/corrected", Map.of()).json();
    assertThat(right.get("job").get("machine").asString()).startsWith("Dunmore");
    assertThat(shed.get("/api/roms/" + rom).json().get("job").get("id").asLong()).isZero();
    assertThat(romVerdict(path))
        .singleElement()
        .asString()
        .contains("needs an 80386: take another");

    Map<String, Object> nobody = Map.of("version", right.get("version").asLong(), "job", 0);
    String made = "/api/roms/" + right.get("id").asLong();
    assertThat(shed.put(made + "/job", nobody).status()).isEqualTo(200);
    JsonNode without = shed.get(path + "/plan").json();
    assertThat(without.get("choice").get("firmware").asString()).isEmpty();
    assertThat(romVerdict(path)).isEmpty();
    assertThat(without.get("plan").get("reach").asLong())
        .isLessThan(with.get("plan").get("reach").asLong());
  }

  /** H-12: what the chain reaches is a peg of the plan, and its settings stand at Fit. */
  @Test
  @Order(LAST)
  void theChainThatIsTakenBoundsThePlan() {
    String path = "/api/jobs/" + job("Corvane KD-1 warping frame");
    JsonNode ways = shed.get(path + "/chains?machines=1&card=sd").json();
    assertThat(shed.get(path + "/chain").json().get("key").asString()).isEmpty();
    JsonNode bridge = ways.get("chains").get(0);
    assertThat(bridge.get("key").asString()).isEqualTo("ribbon-40 a40-sd sd-card");
    // The ribbon and the card lie in the drawer.
    assertThat(bridge.get("price").asLong()).isEqualTo(1950);
    assertThat(bridge.get("toBuy")).hasSize(1);
    assertThat(shed.get(path + "/plan").json().get("plan").get("pegs"))
        .noneMatch(p -> p.get("rule").asString().equals("H-12"));
    long version = shed.get(path).json().get("version").asLong();
    Map<String, Object> none = Map.of("version", version, "key", "ribbon-40 cf-1");
    assertThat(shed.put(path + "/chain", none).detail()).contains("does not fit");
    Map<String, Object> taken = Map.of("version", version, "key", bridge.get("key").asString());
    assertThat(shed.put(path + "/chain", taken).status()).isEqualTo(200);
    assertThat(shed.put(path + "/chain", taken).status()).as("an old version").isEqualTo(409);
    JsonNode now = shed.get(path + "/chain").json();
    assertThat(now.get("fits").asBoolean()).isTrue();
    assertThat(now.get("settings").get(0).get("value").asString()).isEqualTo("master");
    assertThat(shed.get(path + "/plan").json().get("plan").get("pegs"))
        .anyMatch(
            p ->
                p.get("rule").asString().equals("H-12")
                    && p.get("sectors").asLong() == 268_435_456);
    assertThat(shed.get(path + "/chains?machines=0").status()).isEqualTo(400);
    lastJoint(path);
  }

  /** H-1: the card that is meant and the end of the chain, where somebody said what it is for. */
  private static void lastJoint(String path) {
    long card = shed.get(path + "/plan").json().get("choice").get("cardId").asLong();
    String joint = "/api/media/" + card + "/joint";
    assertThat(last(path, card)).containsExactly("FITS");
    assertThat(last(path, 0)).as("none is written yet").isEmpty();
    assertThat(shed.put(joint, Map.of("joint", "")).status()).isEqualTo(200);
    assertThat(last(path, card)).isEmpty();
    assertThat(shed.put(joint, Map.of("joint", "cf50")).json().get("joint").asString())
        .isEqualTo("cf50");
    assertThat(last(path, card)).containsExactly("CARE");
    assertThat(shed.put(joint, Map.of("joint", "round")).detail()).contains("There is no joint");
    assertThat(shed.put(joint, Map.of("joint", "sd")).status()).isEqualTo(200);
    assertThat(kinds()).containsExactlyInAnyOrder("cf50", "sd", "msd");
    Map<String, Object> wrong =
        Map.of("name", "odd", "serial", "ODD-1", "labelMegabytes", 64, "sectors", 0, "joint", "?");
    assertThat(shed.post("/api/media/cards", wrong).detail()).contains("There is no joint");
    assertThat(shed.get("/api/media").text()).doesNotContain("ODD-1");
  }

  private static List<String> last(String path, long card) {
    JsonNode told = shed.get(path + "/chain?card=" + card).json().get("last");
    return StreamSupport.stream(told.spliterator(), false)
        .map(t -> t.get("verdict").asString())
        .toList();
  }

  private static List<String> kinds() {
    return StreamSupport.stream(shed.get("/api/drawer/cards").json().spliterator(), false)
        .map(k -> k.get("key").asString())
        .toList();
  }

  @Test
  @Order(LAST)
  void theDrawerGoesOutAndInAndRefusesWhatIsNoPart() {
    String file = shed.get("/api/drawer.json").text();
    assertThat(file).contains("\"lies\" : \"box 4\"");
    String own =
        """
        {"key":"own-plug","name":"a plug of the mill","host":{"joint":"ata40","side":"M"},
         "card":{"joint":"sd","side":"F"},"accepts":[5000],"gives":3300,"price":{"piece":100}}""";
    assertThat(shed.post("/api/drawer", Map.of("text", own)).status()).isEqualTo(201);
    assertThat(shed.get("/api/drawer").json())
        .anyMatch(r -> r.get("key").asString().equals("own-plug") && !r.get("ships").asBoolean());
    TestShed.Answer bad =
        shed.post("/api/drawer", Map.of("text", own.replace("ata40", "wall socket")));
    assertThat(bad.status()).isEqualTo(422);
    assertThat(bad.detail()).contains("no joint \"wall socket\"");
    assertThat(shed.post("/api/drawer", Map.of("text", "[1]")).status()).isEqualTo(422);
    assertThat(shed.put("/api/drawer/nothing/count", Map.of("count", 1)).status()).isEqualTo(404);
    // Two people write down one half each, and neither takes back the other's.
    assertThat(shed.put("/api/drawer/ribbon-34/count", Map.of("count", 7)).status()).isEqualTo(200);
    assertThat(shed.put("/api/drawer/ribbon-34/place", Map.of("lies", "hook")).status())
        .isEqualTo(200);
    assertThat(shed.get("/api/drawer").json())
        .anyMatch(r -> r.get("count").asInt() == 7 && r.get("lies").asString().equals("hook"));
    String out = shed.get("/api/drawer.json").text();
    assertThat(shed.delete("/api/drawer/own-plug").status()).isEqualTo(200);
    assertThat(shed.delete("/api/drawer/ribbon-40").status()).isEqualTo(409);
    assertThat(shed.post("/api/drawer/import", Map.of("text", "{}")).status()).isEqualTo(422);
    assertThat(shed.post("/api/drawer/import", Map.of("text", out)).status()).isEqualTo(200);
    assertThat(shed.get("/api/drawer.json").text()).isEqualTo(out);
  }

  private static JsonNode medium(String name) {
    return StreamSupport.stream(shed.get("/api/media").json().spliterator(), false)
        .filter(m -> m.get("name").asString().equals(name))
        .findFirst()
        .orElseThrow();
  }

  /** Z-3: a drive whose image is proved is wiped; one that may be the only copy never is. */
  @Test
  @Order(LAST)
  void aRetiredDriveIsWipedAndCertifiedAndNoOtherIs() throws Exception {
    JsonNode only = medium("120 MB drive of the loom controller");
    Map<String, Object> order =
        new HashMap<>(Map.of("confirm", "0417", "school", "NOISE", "whole", true, "by", "W. Reed"));
    TestShed.Answer no = shed.post("/api/media/" + only.get("id").asLong() + "/wipe", order);
    assertThat(no.status()).isEqualTo(422);
    assertThat(no.detail()).contains("no image on the shelf");
    JsonNode unproved = medium("40 MB drive of the warping frame");
    order.put("confirm", "0112");
    no = shed.post("/api/media/" + unproved.get("id").asLong() + "/wipe", order);
    assertThat(no.detail()).contains("not proved yet");

    JsonNode drive = medium("48 MB drive of the typesetter");
    String path = "/api/media/" + drive.get("id").asLong() + "/wipe";
    JsonNode check = shed.get(path).json();
    assertThat(check.get("refusals").isEmpty()).isTrue();
    assertThat(check.get("warnings")).anyMatch(w -> w.asString().contains("never came"));
    assertThat(shed.post(path, order).detail()).contains("not the last four");
    order.put("confirm", "0533");
    JsonNode w = shed.settled(shed.post(path, order).json().get("id").asLong());
    assertThat(w.get("state").asString()).as(w.toString()).isEqualTo("DONE");

    JsonNode c = shed.get("/api/certificates").json().get(0);
    assertThat(c.get("wiped").asBoolean()).as("its dead zones take nothing").isFalse();
    String at = "/api/certificates/" + c.get("id").asLong();
    TestShed.Answer json = shed.get(at + ".json");
    assertThat(Sha256.of(json.text().getBytes(StandardCharsets.UTF_8)))
        .isEqualTo(c.get("sha256").asString());
    assertThat(json.json().get("unwritten").isEmpty()).isFalse();
    assertThat(json.json().get("kept").get(0).get("sha256").asString()).hasSize(64);
    assertThat(json.json().get("by").asString()).isEqualTo("W. Reed");
    for (String paper : List.of("A4", "LETTER")) {
      assertThat(pdf(at + ".pdf?paper=" + paper))
          .contains("Not wholly wiped", "AG2-048-0533", "W. Reed", c.get("sha256").asString());
    }
    String job = "/api/jobs/" + job("Ardley Galley 2 typesetter");
    assertThat(shed.get(job + "/log").json().toString()).contains("Certificate " + c.get("id"));
    assertThat(shed.get("/api/certificates/999.json").status()).isEqualTo(404);
    // What it was overwritten with never takes the place of its image.
    TestShed.Answer again = shed.post(job + "/rescue", Map.of());
    assertThat(again.status()).isEqualTo(422);
    assertThat(again.detail()).contains("was overwritten when it was wiped");
    assertThat(medium("48 MB drive of the typesetter").get("overwritten").asBoolean()).isTrue();
  }

  /** Z-3: the image that stands for a drive is read before the first byte of it is overwritten. */
  @Test
  @Order(LAST)
  void nothingIsWipedWhoseImageRottedOnTheShelf() throws Exception {
    JsonNode drive = medium("60 MB drive of the gate laptop");
    JsonNode job = whole("Larkspur 1900 gate laptop");
    JsonNode image = shed.get("/api/images/" + job.get("rescuedId").asLong()).json();
    Path file = shelf(image.get("sha256").asString());
    byte[] kept = Files.readAllBytes(file);
    byte[] rotten = kept.clone();
    rotten[rotten.length / 2] ^= 4;
    Files.write(file, rotten);
    String path = "/api/media/" + drive.get("id").asLong() + "/wipe";
    Map<String, Object> order =
        Map.of("confirm", "0951", "school", "ZEROS", "whole", true, "by", "");
    long work = shed.post(path, order).json().get("id").asLong();
    JsonNode w = shed.settled(work);
    assertThat(w.get("state").asString()).isEqualTo("PAUSED");
    assertThat(w.get("message").asString()).contains("Nothing is wiped", "differs from its digest");
    assertThat(medium("60 MB drive of the gate laptop").get("overwritten").asBoolean()).isFalse();
    Files.write(file, kept);
    shed.post("/api/runs/" + work + "/resume", Map.of());
    assertThat(shed.settled(work).get("state").asString()).isEqualTo("DONE");
    assertThat(medium("60 MB drive of the gate laptop").get("overwritten").asBoolean()).isTrue();
  }

  private static Path shelf(String sha256) throws Exception {
    try (Stream<Path> all = Files.walk(shed.home())) {
      return all.filter(p -> p.getFileName().toString().startsWith(sha256))
          .filter(p -> !p.toString().endsWith(".map"))
          .filter(Files::isRegularFile)
          .findFirst()
          .orElseThrow();
    }
  }

  /** A card of a closed job goes its way; what was proved then stays proved. */
  @Test
  @Order(LAST)
  void theCardOfAClosedJobIsWipedAndItsLampsStay() {
    JsonNode card = medium("mill-1, 64 MB compact flash");
    String before = lamps(whole("Tolley Ledger sub-notebook"));
    Map<String, Object> order =
        Map.of("confirm", "K7T2", "school", "ZEROS", "whole", false, "by", "");
    String path = "/api/media/" + card.get("id").asLong() + "/wipe";
    JsonNode w = shed.settled(shed.post(path, order).json().get("id").asLong());
    assertThat(w.get("state").asString()).as(w.toString()).isEqualTo("DONE");
    JsonNode job = whole("Tolley Ledger sub-notebook");
    assertThat(lamps(job)).isEqualTo(before);
    assertThat(job.get("cardId").asLong()).isZero();
    assertThat(shed.get("/api/jobs/" + job.get("id").asLong() + "/log").json().toString())
        .contains("was written over for wiping");
  }

  /** Of every third job; in the trials of all. */
  @Test
  @Tag("trial")
  void theSheetsOfEveryJobGoOnPaper() throws Exception {
    boolean all = Boolean.getBoolean("trials");
    int turn = 0;
    for (JsonNode j : jobs().values()) {
      if (!all && turn++ % 3 != 0) continue;
      String at = "/api/jobs/" + j.get("id").asLong();
      String machine = j.get("machine").asString();
      // A long name goes over two lines.
      String first = machine.split(" ")[0];
      assertThat(pdf(at + "/record.pdf?paper=LETTER")).contains(first, "Stations", "Intake");
      assertThat(pdf(at + "/bench.pdf")).contains(first, "Fit the card", "come before these lists");
      assertThat(pdf(at + "/log.pdf")).contains(first, "Logbook", "Brought in");
      assertThat(pdf(at + "/label.pdf")).contains(first, "job " + j.get("id").asLong());
    }
    assertThat(pdf("/api/jobs/" + job("Tolley Ledger sub-notebook") + "/record.pdf"))
        .contains("Foretold and shown", "Free on C: TOLLEY", "Before and after", "(3 times)");
    assertThat(pdf("/api/jobs/" + job("Pellow Atelier 30 pattern studio") + "/plan.pdf"))
        .contains(
            "a proposal, not settled yet", "How far it reaches", "(binds)", "What the rules say");
    assertThat(pdf("/api/jobs/" + job("Tolley Ledger sub-notebook") + "/plan.pdf?paper=LETTER"))
        .contains("settled", "TOLLEY", "124 × 16 × 63");
    JsonNode job = whole("Ardley Galley 2 typesetter");
    String digest =
        shed.get("/api/images/" + job.get("builtId").asLong()).json().get("sha256").asString();
    assertThat(code("/api/jobs/" + job.get("id").asLong() + "/label.pdf")).contains(digest);
    assertThat(shed.get("/api/jobs/1/record.pdf?paper=WALL").status()).isEqualTo(400);
  }

  /** What a reader of codes finds on a label, drawn by a general tool. */
  private static String code(String path) throws Exception {
    Path folder = Files.createTempDirectory("label");
    Path file = Files.write(folder.resolve("label.pdf"), shed.bytes(path));
    String out = folder.resolve("label").toString();
    Process p =
        new ProcessBuilder("pdftoppm", "-r", "150", "-png", "-singlefile", file.toString(), out)
            .inheritIO()
            .start();
    assertThat(p.waitFor()).isZero();
    BufferedImage i = ImageIO.read(new File(out + ".png"));
    int[] pixels = i.getRGB(0, 0, i.getWidth(), i.getHeight(), null, 0, i.getWidth());
    RGBLuminanceSource light = new RGBLuminanceSource(i.getWidth(), i.getHeight(), pixels);
    return new QRCodeReader().decode(new BinaryBitmap(new HybridBinarizer(light))).getText();
  }

  /** The text of a sheet, as a general tool finds it. */
  private static String pdf(String path) throws Exception {
    Path file = Files.createTempFile("sheet", ".pdf");
    try {
      Files.write(file, shed.bytes(path));
      Process p =
          new ProcessBuilder("pdftotext", "-raw", file.toString(), "-")
              .redirectErrorStream(true)
              .start();
      String text = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      assertThat(p.waitFor()).as(text).isZero();
      return text;
    } finally {
      Files.delete(file);
    }
  }

  /**
   * W-6: the card of the market says more than it has; from then on it counts with what it keeps.
   */
  @Test
  @Order(LAST)
  void theCardOfTheMarketIsFoundOut() {
    JsonNode market =
        StreamSupport.stream(shed.get("/api/media").json().spliterator(), false)
            .filter(m -> m.get("name").asString().startsWith("market find"))
            .findFirst()
            .orElseThrow();
    String serial = market.get("serial").asString();
    String path = "/api/media/" + market.get("id").asLong();
    Map<String, Object> order =
        Map.of("confirm", serial.substring(serial.length() - 4), "full", false);
    TestShed.Answer begun = shed.post(path + "/true-size", order);
    assertThat(begun.status()).as(begun.text()).isEqualTo(202);
    shed.settled(begun.json().get("id").asLong());
    JsonNode after = shed.get(path).json();
    assertThat(after.get("trueSize").get("kind").asString()).isEqualTo("WRAPS");
    assertThat(after.get("sectors").asLong()).isLessThan(market.get("sectors").asLong());
  }
}
