package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpRequest;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** W-8, W-10, Z-4: jobs that have no old drive, images as they are, cards finished elsewhere. */
class WithoutADriveTest {
  private static TestShed shed;
  @TempDir private Path folder;

  @BeforeAll
  static void start() {
    shed = TestShed.shared();
  }

  private static long open(String profile, String from, long image) {
    TestShed.Answer a =
        shed.post(
            "/api/jobs",
            Map.of(
                "machine",
                "Machine of " + from,
                "profile",
                profile,
                "fault",
                "first drive",
                "mediumId",
                0,
                "startsFrom",
                from,
                "imageId",
                image));
    assertThat(a.status()).as(a.text()).isEqualTo(201);
    return a.json().get("id").asLong();
  }

  private static JsonNode job(long id) {
    return shed.get("/api/jobs/" + id).json();
  }

  private static JsonNode station(long id, int number) {
    return job(id).get("stations").get(number - 1);
  }

  private static long card(String name, String serial, long sectors) {
    return shed.post(
            "/api/media/cards",
            Map.of("name", name, "serial", serial, "labelMegabytes", 2000, "sectors", sectors))
        .json()
        .get("id")
        .asLong();
  }

  private static Map<String, Object> choice(
      long card, String system, String strategy, List<Map<String, Object>> carried) {
    Map<String, Object> c = new HashMap<>();
    c.putAll(Map.of("firmware", "", "system", system, "cardId", card, "drawer", List.of()));
    c.putAll(Map.of("strategy", strategy, "school", "MACHINE", "volumes", List.of()));
    c.putAll(Map.of("keepBootCode", false, "carried", carried));
    return c;
  }

  private static void settle(long id, Map<String, Object> choice) {
    TestShed.Answer plan =
        shed.put(
            "/api/jobs/" + id + "/plan",
            Map.of(
                "version", job(id).get("version").asLong(), "choice", choice, "allTheSame", true));
    assertThat(plan.status()).as(plan.text()).isEqualTo(200);
  }

  private static void close(long id, String choice) {
    TestShed.Answer closed =
        shed.put(
            "/api/jobs/" + id + "/stations/10",
            Map.of(
                "version",
                job(id).get("version").asLong(),
                "record",
                Map.of("notes", "", "choice", choice, "ticks", List.of(), "symptoms", List.of()),
                "done",
                true));
    assertThat(closed.status()).as(closed.text()).isEqualTo(200);
  }

  private static void done(TestShed.Answer begun) {
    assertThat(begun.status()).as(begun.text()).isEqualTo(202);
    JsonNode w = shed.settled(begun.json().get("id").asLong());
    assertThat(w.get("state").asString()).as(w.toString()).isEqualTo("DONE");
  }

  private static TestShed.Answer bring(long id, String path, String time, byte[] content) {
    String query =
        "?path="
            + java.net.URLEncoder.encode(path, StandardCharsets.UTF_8)
            + "&time="
            + java.net.URLEncoder.encode(time, StandardCharsets.UTF_8);
    return shed.putBytes("/api/jobs/" + id + "/files" + query, content);
  }

  private static byte[] noise(int n, long seed) {
    byte[] b = new byte[n];
    new Random(seed).nextBytes(b);
    return b;
  }

  /** An image on the shelf by the plain way: brought in as a medium, rescued in a job. */
  private long onShelf(String name, byte[] content) throws Exception {
    Path file = folder.resolve(name);
    Files.write(file, content);
    long medium = shed.upload(name, file).json().get("id").asLong();
    long job =
        shed.post(
                "/api/jobs",
                Map.of(
                    "machine", name, "profile", "controller-pc", "fault", "", "mediumId", medium))
            .json()
            .get("id")
            .asLong();
    done(shed.post("/api/jobs/" + job + "/rescue", Map.of()));
    return job(job).get("rescuedId").asLong();
  }

  @Test
  void filesFromADesktopGoOnAFreshCardWithTheirFoldersNamesAndTimes() {
    long id = open("laptop-2000s", "FILES", 0);
    for (int n : new int[] {3, 4}) {
      assertThat(station(id, n).get("state").asString()).isEqualTo("DASH");
      assertThat(station(id, n).get("sentence").asString()).contains("files from a desktop");
    }
    byte[] tour = noise(70_000, 1);
    bring(id, "Tour of the mill/Looms 1894.txt", "2024-05-06T07:08:10", tour);
    bring(id, "empty.txt", "", new byte[0]);
    bring(id, "Tour of the mill/deep/again.bin", "", noise(513, 2));
    bring(id, "wrong.txt", "", noise(9, 3));
    assertThat(bring(id, "../outside", "", tour).status()).isEqualTo(422);
    assertThat(bring(id, "a/./b", "", tour).status()).isEqualTo(422);
    assertThat(bring(id, "x", "yesterday", tour).detail()).contains("does not read");
    assertThat(shed.delete("/api/jobs/" + id + "/files?path=wrong.txt").json().get("files").asInt())
        .isEqualTo(1);
    JsonNode all = shed.get("/api/jobs/" + id + "/files").json();
    assertThat(all.get("count").asInt()).isEqualTo(3);

    long card = card("fresh", "FRESH-0001", 200_000);
    settle(id, choice(card, "", "REBUILD", List.of()));
    done(shed.post("/api/jobs/" + id + "/build", Map.of()));
    JsonNode proof = shed.get("/api/jobs/" + id + "/proof").json();
    assertThat(proof.get("files").asInt()).isEqualTo(3);
    long built = job(id).get("builtId").asLong();
    assertThat(
            shed.bytes(
                "/api/images/"
                    + built
                    + "/file?volume=1&path=Tour%20of%20the%20mill/Looms%201894.txt"))
        .isEqualTo(tour);
    JsonNode rows =
        shed.get("/api/images/" + built + "/files?volume=1&folder=Tour%20of%20the%20mill").json();
    assertThat(rows.get("rows").get(0).get("time").asString()).isEqualTo("2024-05-06 07:08");

    // What comes later asks for the plan again; nothing that was proved stays by itself.
    bring(id, "late.txt", "", noise(10, 4));
    assertThat(station(id, 5).get("state").asString()).isEqualTo("LIT");
    assertThat(station(id, 6).get("state").asString()).isEqualTo("DARK");
    assertThat(shed.post("/api/jobs/" + id + "/build", Map.of()).detail())
        .contains("Settle the plan first");
  }

  private static List<String> startUp(long id, long card) {
    JsonNode plan =
        shed.post("/api/jobs/" + id + "/plan/preview", choice(card, "", "REBUILD", List.of()))
            .json();
    List<String> out = new ArrayList<>();
    for (JsonNode v : plan.get("verdicts")) {
      if (v.get("rule").asString().equals("T-8")) out.add(v.get("weight").asString());
    }
    return out;
  }

  @Test
  void thePlanSaysWhetherTheFileComesThatBringsTheMenuUp() {
    long id = open("m6803-cart", "FILES", 0);
    long card = card("menu card", "MENU-0001", 200_000);
    bring(id, "GAMES/ONE.BIN", "", noise(3000, 41));
    assertThat(startUp(id, card)).containsExactly("WARNS");
    bring(id, "System/Start.bin", "", noise(2000, 42));
    assertThat(startUp(id, card)).containsExactly("HOLDS");
    settle(id, choice(card, "", "REBUILD", List.of()));
    done(shed.post("/api/jobs/" + id + "/build", Map.of()));

    // The same of the image that was made of it, and of a job that starts from nothing.
    long image = open("m6803-cart", "IMAGE", job(id).get("builtId").asLong());
    assertThat(startUp(image, card)).containsExactly("HOLDS");
    assertThat(startUp(open("m6803-cart", "NOTHING", 0), card)).containsExactly("WARNS");
  }

  /** One hunk of code that names its version. */
  private static byte[] driverFile() {
    byte[] code = "....$VER: ffs 40.1 (13.5.93)\0\0\0\0".getBytes(StandardCharsets.ISO_8859_1);
    int longs = code.length / 4;
    ByteBuffer b = ByteBuffer.allocate(36 + code.length);
    for (int x : new int[] {0x3F3, 0, 1, 0, 0, longs, 0x3E9, longs}) b.putInt(x);
    return b.put(code).putInt(0x3F2).array();
  }

  private static TestShed.Answer driver(long id, String name, byte[] file) {
    return shed.send(
        shed.request("/api/jobs/" + id + "/plan/drivers?name=" + name)
            .header("Content-Type", "application/octet-stream")
            .POST(HttpRequest.BodyPublishers.ofByteArray(file)));
  }

  /**
   * P-13: what the ROM does not mount waits for a driver; it goes into the table and the archive.
   */
  @Test
  void aDriverThatSomebodyBringsGoesIntoTheTable() throws Exception {
    long id = open("m68k-rdb", "FILES", 0);
    bring(id, "S/Startup-Sequence", "", "Echo \"ready\"\n".getBytes(StandardCharsets.US_ASCII));
    Map<String, Object> choice =
        choice(card("boards", "RDB-0001", 60_000), "rdb-1-ffs", "REBUILD", List.of());
    choice.put("firmware", "rom-1");
    String preview = "/api/jobs/" + id + "/plan/preview";
    JsonNode without = shed.post(preview, choice).json();
    assertThat(without.get("buildable").asBoolean()).isFalse();
    assertThat(without.get("mounts").get(0).get("by").asString()).isEqualTo("NOBODY");
    assertThat(without.get("mounts").get(0).get("driver").isNull()).isTrue();

    byte[] file = driverFile();
    assertThat(driver(id, "x", noise(900, 1)).detail()).contains("x is no driver");
    assertThat(driver(id, "x", new byte[600 << 10]).detail()).contains("a few dozen KiB");
    assertThat(driver(open("controller-pc", "NOTHING", 0), "x", file).detail())
        .contains("no blocks for drivers");
    JsonNode brought = driver(id, "L/..%5CFast%0AFileSystem", file).json();
    assertThat(brought.get("name").asString()).isEqualTo("Fast?FileSystem");
    assertThat(brought.get("version").asString()).isEqualTo("40.1");
    String sha256 = brought.get("sha256").asString();
    choice.put("drivers", List.of(Map.of("type", "DOS\\1", "name", "ffs", "sha256", "../outside")));
    assertThat(shed.post(preview, choice).status()).isEqualTo(400);
    choice.put("drivers", List.of(Map.of("type", "DOS\\1", "name", "ffs", "sha256", sha256)));
    settle(id, choice);
    assertThat(shed.get("/api/jobs/" + id + "/recipe").text()).contains(sha256);
    done(shed.post("/api/jobs/" + id + "/build", Map.of()));
    byte[] image =
        shed.bytes("/api/images/" + job(id).get("builtId").asLong() + "/download?form=raw");
    assertThat(new String(image, 1024, 4, StandardCharsets.ISO_8859_1)).isEqualTo("FSHD");
    assertThat(Arrays.copyOfRange(image, 1536 + 20, 1536 + 20 + file.length)).isEqualTo(file);

    // Where its bytes are gone it is as if it had not come, and an archive brings them back.
    byte[] archive = shed.bytes("/api/jobs/" + id + "/archive");
    Files.delete(shed.home().resolve("shelf/brought").resolve(sha256));
    assertThat(shed.post(preview, choice).json().get("buildable").asBoolean()).isFalse();
    ArchiveTest.takenIn(shed, archive);
    assertThat(shed.post(preview, choice).json().get("mounts").get(0).get("by").asString())
        .isEqualTo("BROUGHT");
  }

  @Test
  void whatCouldNotStandOnAVolumeIsRefusedBeforeItIsPlanned() {
    long id = open("controller-pc", "FILES", 0);
    bring(id, "Read me first.txt", "", noise(9, 1));
    bring(id, "box/inside.txt", "", noise(9, 2));
    assertThat(bring(id, "READ ME FIRST.TXT", "", noise(9, 3)).detail()).contains("are one name");
    assertThat(bring(id, "BOX", "", noise(9, 4)).detail()).contains("a file and a folder");
    assertThat(bring(id, "read me first.txt/x", "", noise(9, 5)).detail())
        .contains("a file and a folder");
    for (String never : List.of("a:b", "what?", "end.", "q\"q")) {
      assertThat(bring(id, never, "", noise(9, 6)).status()).as(never).isEqualTo(422);
    }
    // Taken out, the name is free again, however it is spelt.
    shed.delete("/api/jobs/" + id + "/files?path=Read%20me%20first.txt");
    assertThat(bring(id, "READ ME FIRST.TXT", "", noise(9, 7)).status()).isEqualTo(200);
    assertThat(shed.get("/api/jobs/" + id + "/files").json().get("count").asInt()).isEqualTo(2);
    long card = card("names", "NAMES-0010", 60_000);
    JsonNode plan =
        shed.post("/api/jobs/" + id + "/plan/preview", choice(card, "dos-5", "REBUILD", List.of()))
            .json();
    assertThat(plan.get("verdicts").toString()).contains("longer than 8.3");
  }

  @Test
  void aCardIsLaidOutFromNothingAndReadBackFinishedItClosesTheJob() throws Exception {
    long id = open("controller-pc", "NOTHING", 0);
    long card = card("blank", "BLANK-0002", 120_000);
    settle(id, choice(card, "dos-5", "REBUILD", List.of()));
    changeTheRecipe(id);
    done(shed.post("/api/jobs/" + id + "/build", Map.of()));
    long made = job(id).get("builtId").asLong();
    assertThat(shed.get("/api/images/" + made + "/survey").json().toString()).contains("BYHAND");
    done(shed.post("/api/jobs/" + id + "/write", Map.of("mediumId", card, "confirm", "0002")));
    done(shed.post("/api/jobs/" + id + "/read-back", Map.of("mediumId", card)));
    assertThat(station(id, 10).get("sentence").asString()).startsWith("Read back whole");
    long golden = job(id).get("goldenId").asLong();
    assertThat(golden).isPositive();
    assertThat(golden).isNotEqualTo(job(id).get("builtId").asLong());
    JsonNode since = shed.get("/api/jobs/" + id + "/since-written").json();
    assertThat(since.get("changes").isEmpty()).isTrue();
    close(id, "");
    assertThat(job(id).get("closed").asBoolean()).isTrue();
    assertThat(shed.post("/api/jobs/" + id + "/read-back", Map.of("mediumId", card)).detail())
        .contains("is closed");
    assertThat(station(id, 10).get("sentence").asString()).contains("golden copy");
  }

  /**
   * Letters that the type of the sheets lacks are set in another, or left out; none is an error.
   */
  @Test
  void aSheetTakesAnyName() {
    String name = "Žluť Ж 日本 😀 " + "very long ".repeat(10);
    Map<String, Object> job = new HashMap<>();
    job.putAll(Map.of("machine", name, "profile", "controller-pc", "fault", "\u202e odd \t one"));
    job.putAll(Map.of("mediumId", 0, "startsFrom", "NOTHING", "imageId", 0));
    TestShed.Answer a = shed.post("/api/jobs", job);
    assertThat(a.status()).as(a.text()).isEqualTo(201);
    String at = "/api/jobs/" + a.json().get("id").asLong();
    for (String sheet : List.of("/label.pdf", "/record.pdf?paper=LETTER")) {
      assertThat(shed.bytes(at + sheet)).startsWith("%PDF".getBytes(StandardCharsets.US_ASCII));
    }
  }

  /** W-1: a recipe is text; what is wrong in it is named by its place, and no folder is reached. */
  private static void changeTheRecipe(long id) {
    String path = "/api/jobs/" + id + "/recipe";
    String text = new String(shed.bytes(path), StandardCharsets.UTF_8);
    String label = shed.get(path).json().get("volumes").get(0).get("label").asString();
    String byHand = text.replace("\"label\" : \"" + label, "\"label\" : \"BYHAND");
    assertThat(byHand).isNotEqualTo(text);
    assertThat(look(id, text).get("changes")).isEmpty();
    assertThat(look(id, byHand).get("changes").get(0).get("place").asString())
        .isEqualTo("/volumes/0/label");
    assertThat(look(id, text.replace("\"heads\" : ", "\"heads\" : -")).get("trouble").asString())
        .contains("/geometry/heads");
    String folder = text.replace("\"folder\" : \"\"", "\"folder\" : \"/etc\"");
    assertThat(look(id, folder).get("trouble").asString()).contains("on the command line only");
    Map<String, Object> stale = Map.of("version", 0, "text", byHand);
    assertThat(shed.put(path, stale).status()).isEqualTo(409);
    long version = job(id).get("version").asLong();
    TestShed.Answer a = shed.put(path, Map.of("version", version, "text", byHand));
    assertThat(a.status()).as(a.text()).isEqualTo(200);
    assertThat(station(id, 5).get("sentence").asString())
        .contains("changed by hand at 1 place, the first is /volumes/0/label");
    assertThat(shed.get("/api/recipes/schema").json().get("title").asString())
        .isEqualTo("Recipe of an image");
  }

  private static JsonNode look(long id, String text) {
    return shed.post("/api/jobs/" + id + "/recipe/look", Map.of("version", 0, "text", text)).json();
  }

  @Test
  void anyImageGoesOnAnyCardAsItIsAndItsSectorsAreTheProof() throws Exception {
    byte[] foreign = noise(512 * 3000, 7);
    long image = onShelf("foreign.img", foreign);
    long small = card("too small", "SMALL-0003", 2999);
    long card = card("any card", "ANYCD-0004", 4096);
    String restore = "/api/images/" + image + "/restore";
    assertThat(
            shed.get(restore + "-check?mediumId=" + small).json().get("refusals").get(0).asString())
        .contains("1 sector too few");
    assertThat(shed.post(restore, Map.of("mediumId", card, "confirm", "0003")).detail())
        .contains("nothing was written");
    done(shed.post(restore, Map.of("mediumId", card, "confirm", "0004")));
    byte[] there = shed.bytes("/api/media/" + card + "/download");
    byte[] raw =
        new java.util.zip.GZIPInputStream(new java.io.ByteArrayInputStream(there)).readAllBytes();
    assertThat(java.util.Arrays.copyOf(raw, foreign.length)).isEqualTo(foreign);
    JsonNode ended = shed.get("/api/restores").json().get(0);
    assertThat(ended.get("state").asString()).isEqualTo("DONE");
    assertThat(ended.get("done").asLong()).isEqualTo(ended.get("total").asLong()).isPositive();

    // The same from a job: planning and building are a dash with their reason.
    long id = open("controller-pc", "NOTHING", 0);
    TestShed.Answer a =
        shed.put(
            "/api/jobs/" + id + "/as-it-is",
            Map.of("version", job(id).get("version").asLong(), "imageId", image));
    assertThat(a.status()).as(a.text()).isEqualTo(200);
    assertThat(station(id, 6).get("state").asString()).isEqualTo("DASH");
    // W-7: the card holds it already, and nothing of it is written twice.
    String check = "/api/jobs/" + id + "/write-check?mediumId=" + card;
    assertThat(shed.get(check).json().get("holds").asString()).isNotEmpty();
    Map<String, Object> changes = Map.of("mediumId", card, "confirm", "0004", "onlyChanges", true);
    done(shed.post("/api/jobs/" + id + "/write", changes));
    assertThat(station(id, 7).get("sentence").asString())
        .startsWith("Reads back identical")
        .contains("0.0 MiB of 1.4 MiB were written; the rest was there");
    assertThat(shed.get("/api/jobs/" + id + "/prediction").status()).isEqualTo(200);

    // Z-5: the register says what is on it, of which machine, and where it lies.
    shed.put("/api/register/" + card, Map.of("lies", "=box 3"));
    JsonNode row =
        java.util.stream.StreamSupport.stream(shed.get("/api/register").json().spliterator(), false)
            .filter(r -> r.get("card").asLong() == card)
            .findFirst()
            .orElseThrow();
    assertThat(row.get("job").asLong()).isEqualTo(id);
    assertThat(row.get("sha256").asString()).hasSize(64);
    assertThat(row.get("since").asString()).startsWith("20");
    assertThat(shed.get("/api/register.csv").text())
        .contains(row.get("sha256").asString())
        .contains("'=box 3");

    // A second card of the same image is of the same machine.
    long twin = card("its twin", "TWINS-0009", 4096);
    done(shed.post("/api/jobs/" + id + "/write", Map.of("mediumId", twin, "confirm", "0009")));
    List<Long> machines =
        java.util.stream.StreamSupport.stream(shed.get("/api/register").json().spliterator(), false)
            .filter(r -> List.of(card, twin).contains(r.get("card").asLong()))
            .map(r -> r.get("job").asLong())
            .toList();
    assertThat(machines).containsExactly(id, id);
    done(shed.post("/api/jobs/" + id + "/write", Map.of("mediumId", card, "confirm", "0004")));

    // Of two who want one card the second is told.
    long large = card("large card", "LARGE-0008", 6_000_000);
    Map<String, Object> look = Map.of("confirm", "0008", "full", true);
    long work = shed.post("/api/media/" + large + "/true-size", look).json().get("id").asLong();
    Map<String, Object> same = Map.of("mediumId", large, "confirm", "0008");
    TestShed.Answer second = shed.post("/api/jobs/" + id + "/write", same);
    assertThat(second.status()).as(second.text()).isEqualTo(409);
    assertThat(second.detail()).contains("on this medium already");
    Map<String, Object> wish = Map.of("retries", 1, "filesFirst", true, "skipFree", false);
    assertThat(shed.put("/api/runs/" + work + "/wish", wish).detail()).contains("Only a rescue");
    shed.post("/api/runs/" + work + "/cancel", Map.of());
    assertThat(shed.settled(work).get("state").asString()).isEqualTo("CANCELLED");

    // W-6: a look at its true size writes over it, and the job hears of that.
    String size = "/api/media/" + card + "/true-size";
    assertThat(shed.post(size, Map.of("confirm", "0003", "full", true)).detail())
        .contains("nothing was written");
    done(shed.post(size, Map.of("confirm", "0004", "full", true)));
    assertThat(shed.get("/api/media/" + card).json().get("trueSize").get("sentence").asString())
        .contains("Every one of its 4\u202f096 sectors");
    assertThat(station(id, 7).get("sentence").asString()).contains("written over");
  }

  @Test
  void aStarterImageIsSurveyedAndAPlainBackupCloses() throws Exception {
    long image = onShelf("starter.img", noise(512 * 100, 8));
    long id = open("controller-pc", "IMAGE", image);
    assertThat(station(id, 3).get("sentence").asString()).contains("starts from");
    assertThat(station(id, 4).get("state").asString()).isEqualTo("BRICK");
    assertThat(job(id).get("rescuedId").asLong()).isEqualTo(image);
    close(id, "backup");
    assertThat(station(id, 10).get("sentence").asString()).contains("A backup was all");
    assertThat(station(id, 8).get("state").asString()).isEqualTo("DASH");
  }

  @Test
  void aDriveBecomesAFileOfACarrierAndTheSurveyFindsItThere() throws Exception {
    long image = onShelf("sampler.img", noise(512 * 4000, 9));
    long id = open("scsi-sampler", "IMAGE", image);
    JsonNode proposal = shed.get("/api/jobs/" + id + "/plan").json();
    assertThat(proposal.get("choice").get("strategy").asString()).isEqualTo("CARRY");
    long card = card("carrier", "CARRY-0005", 2_000_000);
    List<Map<String, Object>> drives = List.of(Map.of("imageId", image, "id", 5));
    settle(id, choice(card, "carrier-exfat", "CARRY", drives));
    done(shed.post("/api/jobs/" + id + "/build", Map.of()));
    long built = job(id).get("builtId").asLong();
    assertThat(shed.bytes("/api/images/" + built + "/file?volume=1&path=DRIVE5.IMG"))
        .isEqualTo(noise(512 * 4000, 9));
    assertThat(shed.get("/api/jobs/" + id + "/proof").json().get("files").asInt()).isEqualTo(1);
    JsonNode predicted = shed.get("/api/jobs/" + id + "/prediction").json();
    assertThat(shed.get("/api/jobs/" + id + "/shown").json().get(0).get("what").asString())
        .isEqualTo("Drive of id 5");
    assertThat(predicted.get("findings")).isEmpty();
  }

  /** The kernel copies a drive of the shelf unseen; the proof sees it, and the cause is said. */
  @Test
  void aDriveThatRottedOnTheShelfIsNotCarried() throws Exception {
    byte[] drive = noise(512 * 6000, 12);
    long image = onShelf("rots.img", drive);
    long id = open("scsi-sampler", "IMAGE", image);
    long card = card("carrier of what rots", "CARRY-0009", 2_000_000);
    settle(id, choice(card, "carrier-exfat", "CARRY", List.of(Map.of("imageId", image, "id", 5))));
    String sha256 = shed.get("/api/images/" + image).json().get("sha256").asString();
    drive[2_000_000] ^= 1;
    Files.write(shed.home().resolve("shelf/images/" + sha256 + ".img"), drive);
    TestShed.Answer begun = shed.post("/api/jobs/" + id + "/build", Map.of());
    JsonNode run = shed.settled(begun.json().get("id").asLong());
    assertThat(run.get("state").asString()).isEqualTo("FAILED");
    assertThat(run.get("message").asString())
        .contains("first DRIVE5.IMG")
        .contains(
            "\" is spoiled: it differs from its digest, first within the 16 MiB from sector 0 on")
        .endsWith("Nothing was kept.");
    assertThat(job(id).get("builtId").asLong()).as("nothing was kept").isZero();
  }

  @Test
  void anImageInAnImageOpensLikeOneFourDeepAndNoDeeper() {
    byte[] text = "the innermost".getBytes(StandardCharsets.US_ASCII);
    long files = open("controller-pc", "FILES", 0);
    bring(files, "DEEP/NOTE.TXT", "", text);
    settle(files, choice(card("inner", "INNER-0006", 20_160), "", "REBUILD", List.of()));
    done(shed.post("/api/jobs/" + files + "/build", Map.of()));
    long image = job(files).get("builtId").asLong();
    String in = "";
    for (int depth = 1; depth <= 5; depth++) {
      long id = open("scsi-sampler", "NOTHING", 0);
      long card = card("carrier " + depth, "DEEP" + depth + "-0007", 60_000L + 30_000L * depth);
      settle(id, choice(card, "", "CARRY", List.of(Map.of("imageId", image, "id", depth))));
      done(shed.post("/api/jobs/" + id + "/build", Map.of()));
      image = job(id).get("builtId").asLong();
      in = "1/DRIVE" + depth + ".IMG" + (in.isEmpty() ? "" : "%7C" + in);
      String at = "?volume=1&in=" + in;
      TestShed.Answer rows = shed.get("/api/images/" + image + "/files" + at + "&folder=DEEP");
      if (depth > 4) {
        assertThat(rows.detail()).contains("4 deep, not deeper");
        continue;
      }
      assertThat(rows.status()).as(rows.text()).isEqualTo(200);
      assertThat(rows.json().get("rows").get(0).get("name").asString()).isEqualTo("NOTE.TXT");
      assertThat(shed.bytes("/api/images/" + image + "/file" + at + "&path=DEEP/NOTE.TXT"))
          .isEqualTo(text);
      JsonNode outer = shed.get("/api/images/" + image + "/files?volume=1").json();
      assertThat(outer.get("rows").get(0).get("drive").asBoolean()).isTrue();
    }
    assertThat(shed.get("/api/images/" + image + "/survey?in=1/NONE.IMG").detail())
        .contains("no file NONE.IMG");
  }

  @Test
  void anEmptyImageOfASizeIsAStarterToo() {
    TestShed.Answer begun =
        shed.post("/api/images/empty", Map.of("name", "blank drive", "sectors", 5000));
    long image = shed.ended(begun).get("made").asLong();
    JsonNode i = shed.get("/api/images/" + image).json();
    assertThat(i.get("sectors").asLong()).isEqualTo(5000);
    assertThat(i.get("sha256").asString())
        .isEqualTo(java.util.HexFormat.of().formatHex(sha256(new byte[512 * 5000])));
    long disk =
        shed.ended(
                shed.post(
                    "/api/images/empty", Map.of("name", "Lace", "sectors", 1, "disk", "720K")))
            .get("made")
            .asLong();
    var volume = shed.get("/api/images/" + disk + "/survey").json().get("volumes").get(0);
    assertThat(volume.get("kind").asString()).isEqualTo("FAT12");
    assertThat(volume.get("files").asLong()).isZero();
    assertThat(shed.post("/api/images/empty", Map.of("name", "x", "sectors", 0)).status())
        .isEqualTo(400);
  }

  @Test
  void aCardsOwnGeometryIsKeptAndPlannedWith() {
    Map<String, Object> card = new HashMap<>();
    card.putAll(Map.of("name", "own CHS", "serial", "OWNC-0008", "labelMegabytes", 64));
    card.putAll(Map.of("sectors", 125_440, "cylinders", 490, "heads", 8, "perTrack", 32));
    TestShed.Answer kept = shed.post("/api/media/cards", card);
    assertThat(kept.json().get("own").asString()).isEqualTo("490 · 8 · 32");
    long id = open("controller-pc", "NOTHING", 0);
    Map<String, Object> choice =
        choice(kept.json().get("id").asLong(), "dos-5", "REBUILD", List.of());
    JsonNode plan = shed.post("/api/jobs/" + id + "/plan/preview", choice).json();
    assertThat(plan.get("geometry").get("heads").asInt()).isEqualTo(8);
    card.put("cylinders", 500);
    card.put("serial", "OWNC-0009");
    assertThat(shed.post("/api/media/cards", card).detail()).contains("more than the card has");
  }

  private static byte[] sha256(byte[] b) {
    try {
      return java.security.MessageDigest.getInstance("SHA-256").digest(b);
    } catch (java.security.NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }
}
