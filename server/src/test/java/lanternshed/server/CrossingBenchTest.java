package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** Crossings over HTTP: looked at first, carried as they were seen, and led back by their list. */
class CrossingBenchTest {
  @TempDir private Path folder;
  private static TestShed shed;

  @BeforeAll
  static void start() {
    shed = TestShed.shared();
  }

  private static String begin(long image, int volume, String disk) {
    TestShed.Answer a =
        shed.post("/api/crossings", Map.of("image", image, "volume", volume, "disk", disk));
    assertThat(a.status()).as(a.text()).isEqualTo(201);
    return "/api/crossings/" + a.json().get("id").asLong();
  }

  private static void bring(String at, String path, byte[] bytes) {
    TestShed.Answer a =
        shed.putBytes(
            at
                + "/files?time=1994-03-01T10:20:00&path="
                + URLEncoder.encode(path, StandardCharsets.UTF_8),
            bytes);
    assertThat(a.status()).as(a.text()).isEqualTo(204);
  }

  private static TestShed.Answer choose(String at, JsonNode seen, Map<String, Object> choices) {
    return shed.put(
        at,
        Map.of(
            "version",
            seen.get("version").asLong(),
            "disk",
            seen.get("disk").asString(),
            "choices",
            choices));
  }

  private static Map<String, Object> choices(String rule, Map<String, String> names) {
    Map<String, Object> out = new HashMap<>();
    out.put("rule", rule);
    out.put("shelving", "AS_IT_IS");
    out.put("most", 40);
    out.put("lines", 20);
    out.put("together", false);
    out.put("names", names);
    out.put("left", List.of());
    out.put("changes", List.of());
    out.put("text", Map.of("ends", "KEEP", "from", "", "to", "", "tabs", 0, "mark", false));
    return out;
  }

  private static JsonNode carried(String at) {
    String seal = shed.get(at).json().get("laid").get("seal").asString();
    TestShed.Answer a = shed.post(at + "/carry?seal=" + seal, Map.of());
    assertThat(a.status()).as(a.text()).isEqualTo(202);
    JsonNode done = shed.ended(a);
    assertThat(done.get("state").asString()).as(done.toString()).isEqualTo("DONE");
    return shed.get(at).json();
  }

  private static byte[] noise(int bytes, long seed) {
    byte[] b = new byte[bytes];
    new Random(seed).nextBytes(b);
    return b;
  }

  @Test
  void aSetIsSplitCarriedListedAndTakenOutUnderItsOldNames() throws Exception {
    String at = begin(0, 0, "360K");
    Map<String, byte[]> all = new HashMap<>();
    for (int i = 0; i < 9; i++)
      all.put("patterns/Heron pattern " + i + ".pat", noise(100_000 + i, i));
    all.forEach((path, b) -> bring(at, path, b));
    JsonNode view = shed.get(at).json();
    assertThat(view.get("laid").get("over").asInt()).isEqualTo(9);
    assertThat(view.get("laid").get("disks")).hasSize(3);
    assertThat(view.get("laid").get("least").asInt()).isEqualTo(3);
    assertThat(view.get("laid").get("rows").get(3).get("to").asString())
        .isEqualTo("PATTERNS/HERONPA3.PAT");

    // Three files in one folder on each disk: a browser of two lines needs two pages for each.
    Map<String, Object> lines = choices("8.3", Map.of());
    lines.put("lines", 2);
    JsonNode folders = choose(at, view, lines).json().get("laid").get("folders");
    assertThat(folders).hasSize(3);
    assertThat(folders.get(2).get("disk").asInt()).isEqualTo(2);
    assertThat(folders.get(2).get("entries").asInt()).isEqualTo(3);
    assertThat(folders.get(2).get("pages").asInt()).isEqualTo(2);

    JsonNode done = carried(at);
    assertThat(done.get("carried").asBoolean()).isTrue();
    assertThat(done.get("laid").get("disks").get(2).get("image").asLong()).isPositive();
    byte[] zip = shed.bytes(at + "/zip");
    try (ZipInputStream in = new ZipInputStream(new ByteArrayInputStream(zip))) {
      int files = 0;
      for (ZipEntry e = in.getNextEntry(); e != null; e = in.getNextEntry()) {
        assertThat(in.readAllBytes()).as(e.getName()).isEqualTo(all.get(e.getName()));
        files++;
      }
      assertThat(files).isEqualTo(9);
    }
    assertThat(shed.get(at + "/list").text())
        .contains("as it was,as it lies")
        .contains("patterns/Heron pattern 3.pat,PATTERNS/HERONPA3.PAT,100003,");
    // What was tried on the machine is noted with it; what did not go over cannot be.
    Map<String, Object> tried =
        Map.of("path", "PATTERNS/HERONPA3.PAT", "started", true, "says", "drawn", "author", "M");
    JsonNode noted = shed.post(at + "/tried", tried).json().get("tried");
    assertThat(noted.get(0).get("says").asString()).isEqualTo("drawn");
    Map<String, Object> other = Map.of("path", "X", "started", true, "says", "", "author", "");
    assertThat(shed.post(at + "/tried", other).status()).isEqualTo(422);
    long number = noted.get(0).get("id").asLong();
    assertThat(shed.delete(at + "/tried/" + number).status()).isEqualTo(200);
    assertThat(shed.get(at).json().get("tried")).isEmpty();

    // What went over is not changed any more.
    JsonNode twice = shed.ended(shed.post(at + "/carry?seal=0", Map.of()));
    assertThat(twice.get("sentence").asString()).contains("went over already");
    assertThat(choose(at, done, choices("8.3", Map.of())).status()).isEqualTo(409);
  }

  /** A card as general tools make one: two volumes of unlike units, the second named. */
  private Path twoVolumes() throws Exception {
    Path card = folder.resolve("two.img");
    String sh =
        "truncate -s 4M $0 && printf 'label: dos\n64,2000,1,*\n2064,6000,1\n' | sfdisk -q $0"
            + " && mkfs.fat -F12 -s1 --offset=64 -h64 $0 1000"
            + " && mkfs.fat -F12 -s4 -n STORE --offset=2064 -h2064 $0 3000";
    Process p =
        new ProcessBuilder("sh", "-c", sh, card.toString()).redirectErrorStream(true).start();
    String said = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(p.waitFor()).as(said).isZero();
    return card;
  }

  @Test
  void whatTheFirstVolumeCannotTakeGoesOnToTheNextOfTheSameImage() throws Exception {
    long medium = shed.upload("two.img", twoVolumes()).json().get("id").asLong();
    long image = SurveyTest.rescued(shed, medium);
    String at = begin(image, 1, "");
    Map<String, byte[]> all = new HashMap<>();
    for (int i = 0; i < 7; i++) all.put("set/Weft " + i + ".pat", noise(240_000 + i, 50 + i));
    all.forEach((path, b) -> bring(at, path, b));
    JsonNode alone = shed.get(at).json();
    assertThat(alone.get("laid").get("stays").asInt()).isEqualTo(3);
    assertThat(alone.get("others")).hasSize(1);
    assertThat(alone.get("others").get(0).get("name").asString()).isEqualTo("STORE");

    Map<String, Object> further = choices("8.3", Map.of());
    further.put("further", List.of(9));
    TestShed.Answer refused = choose(at, alone, further);
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.text()).contains("Volume 9 is not there");
    further.put("further", List.of(2, 2));
    JsonNode view = choose(at, shed.get(at).json(), further).json();
    JsonNode laid = view.get("laid");
    assertThat(laid.get("stays").asInt()).isZero();
    assertThat(laid.get("disks")).extracting(d -> d.get("files").asInt()).containsExactly(4, 3);
    assertThat(laid.get("disks").get(1).get("name").asString()).isEqualTo("STORE");
    // Counted in the units of the volume where each lies.
    for (JsonNode r : laid.get("rows")) {
      long unit = r.get("disk").asInt() == 0 ? 512 : 2048;
      long bytes = r.get("bytes").asLong();
      assertThat(r.get("units").asLong()).isEqualTo((bytes + unit - 1) / unit);
    }

    JsonNode done = carried(at).get("laid").get("disks");
    long copy = done.get(0).get("image").asLong();
    assertThat(done.get(1).get("image").asLong()).isEqualTo(copy).isNotEqualTo(image);
    try (ZipInputStream in =
        new ZipInputStream(new ByteArrayInputStream(shed.bytes(at + "/zip")))) {
      for (ZipEntry e = in.getNextEntry(); e != null; e = in.getNextEntry()) {
        assertThat(in.readAllBytes()).as(e.getName()).isEqualTo(all.remove(e.getName()));
      }
    }
    assertThat(all).isEmpty();
    assertThat(shed.get(at + "/list").text()).contains("STORE,set/Weft ");
    assertThat(shed.get("/api/crossings").json().get(0).get("target").asString())
        .startsWith("FAT12, STORE of ");
  }

  @Test
  void filesAreKnownByTheirContentAndByWhatAMenuDoesWithThem() throws Exception {
    Path drive = WholeJobTest.drive(folder.resolve("card.img"));
    long medium = shed.upload("card.img", drive).json().get("id").asLong();
    String at = begin(SurveyTest.rescued(shed, medium), 1, "");
    bring(at, "listing.txt", "one\r\ntwo\r\n".getBytes(StandardCharsets.US_ASCII));
    bring(at, "game.bin", new byte[] {0, 0, 2, 48, 0, 1, 2, (byte) 0xFF, 0, 0, 48, 0});
    bring(at, "both.zip", "PK\3\4 and so on".getBytes(StandardCharsets.ISO_8859_1));
    JsonNode view = shed.get(at).json();
    JsonNode rows = view.get("laid").get("rows");
    assertThat(rows.get(0).get("kind").asString()).isEqualTo("packed");
    assertThat(rows.get(1).get("about").asString())
        .isEqualTo("1 segment, 3000 to 3001, starts at 3000");
    assertThat(rows.get(2).get("starts").asString()).isEmpty();
    assertThat(view.get("laid").get("menus"))
        .extracting(m -> m.get("key").asString())
        .contains("m6803-cart", "floppy-instrument")
        .doesNotContain("at-286");
    // A small disk is a file on such a card: its menu does not see what is in it.
    String small = begin(0, 0, "720K");
    assertThat(shed.get(small).json().get("laid").get("menus")).isEmpty();

    Map<String, Object> kinds = choices("8.3", Map.of());
    kinds.put("machine", "m6803-cart");
    kinds.put("shelving", "KIND");
    kinds.put("lines", 0);
    JsonNode laid = choose(at, view, kinds).json().get("laid");
    assertThat(laid.get("rows").get(0).get("how").asString()).isEqualTo("unpack it first");
    assertThat(laid.get("rows").get(1).get("to").asString()).isEqualTo("PROGRAMS/GAME.BIN");
    assertThat(laid.get("menu").get("lines").asInt()).isEqualTo(14);
    assertThat(laid.get("menu").get("startFiles").get(0).get("there").asBoolean()).isFalse();
    assertThat(laid.get("menu").get("starts")).hasSize(3);

    // The menu sees a file under its new name.
    kinds.put("names", Map.of("game.bin", "GAME.TXT"));
    JsonNode other = choose(at, shed.get(at).json(), kinds).json().get("laid").get("rows").get(1);
    assertThat(other.get("how").asString()).isEqualTo("the menu asks for BIN");

    // Renamed to what the menu looks for, it is there.
    kinds.put("names", Map.of("game.bin", "SYSTEM/START.BIN"));
    JsonNode again = choose(at, shed.get(at).json(), kinds).json().get("laid").get("menu");
    assertThat(again.get("startFiles").get(0).get("there").asBoolean()).isTrue();
  }

  private static JsonNode brought(String at, long image, String what) {
    return shed.ended(
        shed.post(
            at + "/from-image",
            Map.of("image", image, "in", "", "brings", what, "volume", 0, "folder", "")));
  }

  @Test
  void disksGoOntoACarrierUnderNamesThatItsEmulatorFinds() throws Exception {
    String set = begin(0, 0, "200-two");
    bring(set, "Weir", noise(150_000, 31));
    bring(set, "Reed", noise(120_000, 32));
    carried(set);
    long library =
        shed.ended(shed.post(set + "/library", Map.of("library", 0))).get("made").asLong();
    String disk = begin(0, 0, "720K");
    bring(disk, "songs/One.seq", noise(3000, 33));
    long floppy = carried(disk).get("laid").get("disks").get(0).get("image").asLong();

    Path drive = WholeJobTest.drive(folder.resolve("carrier.img"));
    long medium = shed.upload("carrier.img", drive).json().get("id").asLong();
    String at = begin(SurveyTest.rescued(shed, medium), 1, "");
    assertThat(brought(at, library, "DISKS").get("state").asString()).isEqualTo("DONE");
    assertThat(brought(at, floppy, "WHOLE").get("state").asString()).isEqualTo("DONE");
    assertThat(brought(at, floppy, "DISKS").get("sentence").asString())
        .contains("no library of small disks");
    bring(at, "read me.txt", "one\r\n".repeat(128).getBytes(StandardCharsets.US_ASCII));

    Map<String, Object> chosen = choices("long", Map.of());
    // A drive that takes other disks finds none of 200 KiB, whatever their names.
    chosen.put("machine", "floppy-instrument");
    JsonNode odd = choose(at, shed.get(at).json(), chosen).json().get("laid");
    assertThat(odd.get("menu").get("numbered")).hasSize(1);
    assertThat(odd.get("rows").get(0).get("how").asString())
        .isEqualTo("its drive takes disks of 720.0 KiB or 1.4 MiB");
    chosen.put("machine", "z80-cpm-floppy");
    JsonNode menu = choose(at, shed.get(at).json(), chosen).json().get("laid").get("menu");
    assertThat(menu.get("says").asString()).contains("names like DISK000.IMG");
    assertThat(menu.get("starts").get(0).get("says").asString()).isEqualTo("not found by it");
    assertThat(menu.get("starts").get(0).get("files").asInt()).isEqualTo(3);
    assertThat(menu.get("starts").get(1).get("says").asString()).isEqualTo("not looked for");
    JsonNode numbered = menu.get("numbered");
    assertThat(numbered.get("0 Disk 1.img").asString()).isEqualTo("DISK000.IMG");
    assertThat(numbered.get("1 Disk 2.img").asString()).isEqualTo("DISK001.IMG");
    assertThat(numbered.get("Set of 720K, FAT12.img").asString()).isEqualTo("DISK002.IMG");
    assertThat(numbered).hasSize(3);

    Map<String, String> names = new HashMap<>();
    numbered.properties().forEach(e -> names.put(e.getKey(), e.getValue().asString()));
    chosen.put("names", names);
    JsonNode laid = choose(at, shed.get(at).json(), chosen).json().get("laid");
    assertThat(laid.get("menu").get("list").asString()).isEqualTo("SLOTS.TXT");
    assertThat(laid.get("menu").get("starts").get(0).get("files").asInt()).isEqualTo(3);
    long copy = carried(at).get("laid").get("disks").get(0).get("image").asLong();

    // What lies there is the list as its emulator reads it, and the disks to the byte.
    String back = begin(0, 0, "1.44M");
    shed.ended(
        shed.post(
            back + "/from-image",
            Map.of("image", copy, "in", "", "brings", "FILES", "volume", 1, "folder", "")));
    String text = shed.get(back + "/text?path=SLOTS.TXT").json().get("before").asString();
    assertThat(text).contains("000 DISK000.IMG 0 Disk 1").contains("002 DISK002.IMG Set of 720K");
    String sha256 = "";
    for (JsonNode r : shed.get(back).json().get("laid").get("rows")) {
      if (r.get("from").asString().equals("DISK002.IMG")) sha256 = r.get("sha256").asString();
    }
    assertThat(sha256).isEqualTo(shed.get("/api/images/" + floppy).json().get("sha256").asString());

    // What is on a disk of the carrier can be brought as well.
    String inner = begin(0, 0, "1.44M");
    Map<String, Object> from =
        Map.of("image", copy, "in", "1/DISK002.IMG", "brings", "FILES", "volume", 0, "folder", "");
    assertThat(shed.ended(shed.post(inner + "/from-image", from)).get("state").asString())
        .isEqualTo("DONE");
    assertThat(shed.get(inner).json().get("laid").get("rows").get(0).get("from").asString())
        .isEqualTo("SONGS/ONE.SEQ");

    // Nothing is written of a list that already says so.
    String again = begin(copy, 1, "");
    Map<String, Object> same = choices("long", Map.of());
    same.put("machine", "z80-cpm-floppy");
    JsonNode quiet = choose(again, shed.get(again).json(), same).json().get("laid").get("menu");
    assertThat(quiet.get("list").asString()).isEmpty();
    // A disk that is taken off goes from the list as well, without a file that comes.
    same.put("changes", List.of(Map.of("verb", "REMOVE", "path", "DISK001.IMG", "to", "")));
    JsonNode less = choose(again, shed.get(again).json(), same).json().get("laid").get("menu");
    assertThat(less.get("list").asString()).isEqualTo("SLOTS.TXT");
  }

  @Test
  void theDisksOfASetGoIntoTheFreePlacesOfALibrary() {
    String at = begin(0, 0, "200-two");
    bring(at, "Weir", noise(150_000, 21));
    bring(at, "Reed", noise(120_000, 22));
    TestShed.Answer early = shed.post(at + "/library", Map.of("library", 0));
    assertThat(shed.ended(early).get("sentence").asString()).contains("that were made");
    JsonNode disks = carried(at).get("laid").get("disks");
    assertThat(disks).hasSize(2);
    long images = shed.get("/api/images").json().size();
    JsonNode made = shed.ended(shed.post(at + "/library", Map.of("library", 0)));
    assertThat(made.get("state").asString()).as(made.toString()).isEqualTo("DONE");
    String library = "/api/images/" + made.get("made").asLong() + "/library";
    JsonNode places = shed.get(library).json().get("places");
    assertThat(places).hasSize(2);
    assertThat(places.get(1).get("title").asString()).isEqualTo("Disk 2");
    // One library and nothing half made beside it.
    assertThat(shed.get("/api/images").json().size()).isEqualTo(images + 1);
    JsonNode full =
        shed.ended(shed.post(at + "/library", Map.of("library", made.get("made").asLong())));
    assertThat(full.get("sentence").asString()).contains("0 free places, and there are 2 disks");
    JsonNode none =
        shed.ended(
            shed.post(at + "/library", Map.of("library", disks.get(0).get("image").asLong())));
    assertThat(none.get("sentence").asString()).contains("no library of small disks");
  }

  @Test
  void filesGoOntoAVolumeOfACopyAndFromThatImageOntoAnother() {
    String first = begin(0, 0, "720K");
    bring(first, "a/one.txt", noise(5000, 1));
    long image = carried(first).get("laid").get("disks").get(0).get("image").asLong();

    String at = begin(image, 0, "");
    bring(at, "con", noise(10, 2));
    bring(at, "huge.bin", noise(900_000, 3));
    bring(at, "twin.txt", noise(5000, 1));
    JsonNode view = shed.get(at).json();
    assertThat(view.get("laid").get("rows").get(2).get("twin").asString())
        .isEqualTo("A/ONE.TXT, which is there");
    Map<String, Object> without = choices("8.3", Map.of());
    without.put("left", List.of("twin.txt"));
    view = choose(at, view, without).json();
    assertThat(view.get("laid").get("rows").get(0).get("to").asString()).isEqualTo("CON_");
    assertThat(view.get("laid").get("rows").get(0).get("says").asString())
        .isEqualTo("CON is a device");
    assertThat(view.get("laid").get("rows").get(1).get("state").asString()).isEqualTo("STAYS");
    Map<String, Object> named = choices("long", Map.of("con", "a/two.txt"));
    named.put("left", List.of("twin.txt"));
    TestShed.Answer chosen = choose(at, view, named);
    assertThat(chosen.json().get("laid").get("rows").get(0).get("to").asString())
        .isEqualTo("A/two.txt");
    // Somebody else saw an older one.
    assertThat(choose(at, view, choices("8.3", Map.of())).status()).isEqualTo(409);
    JsonNode done = carried(at);
    long more = done.get("laid").get("disks").get(0).get("image").asLong();
    assertThat(more).isNotEqualTo(image);
    assertThat(
            shed.get("/api/images/" + image + "/files?volume=0&folder=A")
                .json()
                .get("total")
                .asInt())
        .isEqualTo(1);

    // The job that worked on the image can go on from the copy, and back again.
    Map<String, Object> begun =
        Map.of(
            "machine",
            "Reed",
            "profile",
            "at-286",
            "fault",
            "",
            "mediumId",
            0,
            "startsFrom",
            "IMAGE",
            "imageId",
            image);
    JsonNode job = shed.post("/api/jobs", begun).json();
    String of = "/api/jobs/" + job.get("id").asLong();
    assertThat(shed.get("/api/jobs/from/" + more).json()).isEmpty();
    JsonNode from = shed.get("/api/jobs/from/" + image).json();
    assertThat(from.get(0).get("machine").asString()).isEqualTo("Reed");
    Map<String, Object> source =
        Map.of("version", from.get(0).get("version").asLong(), "imageId", more);
    assertThat(shed.put(of + "/source", source).status()).isEqualTo(200);
    assertThat(shed.get("/api/jobs/from/" + more).json()).hasSize(1);
    assertThat(shed.get("/api/jobs/from/" + image).json()).isEmpty();

    String again = begin(more, 0, "");
    Map<String, Object> changed = choices("8.3", Map.of());
    changed.put(
        "changes",
        List.of(
            Map.of("verb", "REMOVE", "path", "A", "to", ""),
            Map.of("verb", "MOVE", "path", "A/two.txt", "to", "B/two.txt"),
            Map.of("verb", "MARKS", "path", "A/two.txt", "to", "rh")));
    assertThat(choose(again, shed.get(again).json(), changed).json().get("refusal").asString())
        .isEmpty();
    long less = carried(again).get("laid").get("disks").get(0).get("image").asLong();
    JsonNode left = shed.get("/api/images/" + less + "/files?volume=0&folder=B").json();
    assertThat(left.get("total").asInt()).isEqualTo(1);
    assertThat(left.get("rows").get(0).get("marks").asString()).isEqualTo("rh");

    String third = begin(0, 0, "880-ofs");
    TestShed.Answer a =
        shed.post(
            third + "/from-image",
            Map.of("image", more, "in", "", "brings", "FILES", "volume", 0, "folder", ""));
    assertThat(shed.ended(a).get("state").asString()).isEqualTo("DONE");
    JsonNode brought = shed.get(third).json();
    assertThat(brought.get("laid").get("over").asInt()).isEqualTo(2);
    assertThat(brought.get("laid").get("unit").asString()).isEqualTo("block");
  }

  @Test
  void basicOnADiskIsListedByATableThatSomebodyBrought() {
    String at = begin(0, 0, "720K");
    byte[] program = HexFormat.of().parseHex("01080A080A0099224122001308140089203130000000");
    bring(at, "weir.bas", program);
    bring(at, "reed.txt", "one\r\n".getBytes(StandardCharsets.US_ASCII));
    long image = carried(at).get("laid").get("disks").get(0).get("image").asLong();
    String text = "/api/images/" + image + "/text?volume=0&path=";

    JsonNode asItLies = shed.get(text + "WEIR.BAS").json();
    assertThat(asItLies.get("basic").asBoolean()).isTrue();
    assertThat(asItLies.get("about").asString()).isEqualTo("2 lines, 10 to 20");
    assertThat(asItLies.get("text").asString()).doesNotContain("{99}").contains("\"A\"");
    assertThat(shed.get(text + "WEIR.BAS&tokens=0").json().get("text").asString())
        .isEqualTo("10 {99}\"A\"\n20 {89} 10\n");
    assertThat(shed.get(text + "REED.TXT&tokens=0").json().get("text").asString())
        .isEqualTo("one\n");

    String tables = "/api/token-tables";
    String json = "{\"tokens\":{\"99\":\"PRINT\",\"89\":\"GOTO\"}}";
    TestShed.Answer bad =
        shed.post(tables, Map.of("name", "bad", "text", "{\"tokens\":{\"7\":1}}"));
    assertThat(bad.detail()).contains("\"7\" is no token");
    JsonNode kept = shed.post(tables, Map.of("name", "mill BASIC", "text", json)).json();
    assertThat(kept.get("words").asInt()).isEqualTo(2);
    long id = kept.get("id").asLong();
    assertThat(shed.get(text + "WEIR.BAS&tokens=" + id).json().get("text").asString())
        .isEqualTo("10 PRINT\"A\"\n20 GOTO 10\n");
    assertThat(shed.delete(tables + "/" + id).status()).isEqualTo(204);
    assertThat(shed.get(tables).json()).isEmpty();
    assertThat(shed.post(tables + "/" + id + "/back", Map.of()).status()).isEqualTo(204);
    assertThat(shed.get(tables).json().get(0).get("name").asString()).isEqualTo("mill BASIC");
    assertThat(shed.get(text + "WEIR.BAS&tokens=999").detail()).contains("no token table 999");
  }

  @Test
  void aTextIsSeenBeforeItIsRewrittenAndComesBackAsItLies() throws Exception {
    String at = begin(0, 0, "720K");
    bring(at, "Lies mich.txt", "Gr\u00FCn\nzwei\n".getBytes(StandardCharsets.UTF_8));
    bring(at, "b.bin", new byte[] {0, 1});
    Map<String, Object> wish = choices("8.3", Map.of());
    wish.put(
        "text", Map.of("ends", "CRLF", "from", "UTF-8", "to", "850", "tabs", 0, "mark", false));
    JsonNode rows = choose(at, shed.get(at).json(), wish).json().get("laid").get("rows");
    assertThat(rows.get(0).get("says").asString()).isEmpty();
    assertThat(rows.get(1).get("says").asString()).isEqualTo("LF → CR LF, UTF-8 → 850");
    JsonNode seen = shed.get(at + "/text?path=Lies%20mich.txt").json();
    assertThat(seen.get("before").asString()).isEqualTo("Gr\u00FCn‹LF›\nzwei‹LF›\n");
    assertThat(seen.get("after").asString()).isEqualTo("Gr\u00FCn‹CR›‹LF›\nzwei‹CR›‹LF›\n");
    assertThat(shed.get(at + "/text?path=b.bin").status()).isEqualTo(422);
    Map<String, Object> page = choices("8.3", Map.of());
    page.put("text", Map.of("ends", "LF", "from", "1047", "to", "", "tabs", 0, "mark", false));
    TestShed.Answer refused = choose(at, shed.get(at).json(), page);
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.detail()).contains("no code page \"1047\"");
    long image = carried(at).get("laid").get("disks").get(0).get("image").asLong();
    assertThat(shed.bytes("/api/images/" + image + "/file?volume=0&path=LIESMICH.TXT"))
        .isEqualTo(new byte[] {'G', 'r', (byte) 0x81, 'n', 13, 10, 'z', 'w', 'e', 'i', 13, 10});
  }

  @Test
  void whatIsNoNameOrNoVolumeIsRefusedInASentence() {
    String at = begin(0, 0, "720K");
    for (String path : List.of("../x", "a/../b", "a\u0001b", "x".repeat(300), "/")) {
      TestShed.Answer a =
          shed.putBytes(
              at + "/files?path=" + URLEncoder.encode(path, StandardCharsets.UTF_8), new byte[1]);
      assertThat(a.status()).as(path).isEqualTo(422);
    }
    assertThat(shed.post("/api/crossings", Map.of("image", 999, "volume", 0, "disk", "")).status())
        .isEqualTo(404);
    assertThat(shed.post("/api/crossings", Map.of("image", 0, "volume", 0, "disk", "?")).status())
        .isEqualTo(422);
    assertThat(shed.get(at + "/zip").status()).isEqualTo(422);
    // What came after somebody looked is not carried unseen.
    String seal = shed.get(at).json().get("laid").get("seal").asString();
    bring(at, "late.txt", new byte[] {1});
    JsonNode unseen = shed.ended(shed.post(at + "/carry?seal=" + seal, Map.of()));
    assertThat(unseen.get("sentence").asString()).contains("changed meanwhile");
  }
}
