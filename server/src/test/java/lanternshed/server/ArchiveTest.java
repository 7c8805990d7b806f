package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** A whole job goes out as one file, general tools check it, and a second job is made of it. */
class ArchiveTest {
  private static final String MANIFEST = "manifest-sha256.txt";
  @TempDir private static Path folder;
  private static TestShed shed;
  private static long job;
  private static long image;
  private static byte[] picture;
  private static Map<String, byte[]> archive;

  @BeforeAll
  static void oneJob() throws Exception {
    shed = new TestShed(false, 0);
    Path drive = WholeJobTest.drive(folder.resolve("own.img"));
    long medium = shed.upload("own drive", drive).json().get("id").asLong();
    image = SurveyTest.rescued(shed, medium);
    job = shed.get("/api/jobs/from/" + image).json().get(0).get("id").asLong();
    say("the belt slips when it is cold");
    BufferedImage photo = new BufferedImage(40, 30, BufferedImage.TYPE_INT_RGB);
    photo.setRGB(3, 4, 0xFF8800);
    ByteArrayOutputStream png = new ByteArrayOutputStream();
    ImageIO.write(photo, "png", png);
    TestShed.Answer kept =
        shed.send(
            shed.request("/api/jobs/" + job + "/pictures?place=map&name=lid.png")
                .header("Content-Type", "application/octet-stream")
                .POST(java.net.http.HttpRequest.BodyPublishers.ofByteArray(png.toByteArray())));
    assertThat(kept.status()).as(kept.text()).isLessThan(300);
    long number = kept.json().get("id").asLong();
    Map<String, Object> screw =
        Map.of("number", 1, "x", 10, "y", 20, "kind", "M3", "length", "8", "lies", "tin 2");
    String marks = "/api/pictures/" + number + "/fasteners";
    assertThat(shed.put(marks, Map.of("fasteners", List.of(screw))).status()).isEqualTo(200);
    picture = shed.bytes("/api/pictures/" + number);
    archive = unpacked(shed.bytes("/api/jobs/" + job + "/archive?images=" + image));
  }

  @AfterAll
  static void stop() {
    shed.close();
  }

  private static void say(String text) {
    TestShed.Answer a =
        shed.post("/api/jobs/" + job + "/log", Map.of("station", 1, "author", "M", "text", text));
    assertThat(a.status()).as(a.text()).isLessThan(300);
  }

  static Map<String, byte[]> unpacked(byte[] zip) throws IOException {
    Map<String, byte[]> out = new TreeMap<>();
    try (ZipInputStream in = new ZipInputStream(new ByteArrayInputStream(zip))) {
      for (ZipEntry e = in.getNextEntry(); e != null; e = in.getNextEntry()) {
        out.put(e.getName().substring(e.getName().indexOf('/') + 1), in.readAllBytes());
      }
    }
    return out;
  }

  private static byte[] packed(Map<String, byte[]> files) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (ZipOutputStream zip = new ZipOutputStream(out)) {
      for (Map.Entry<String, byte[]> f : files.entrySet()) {
        zip.putNextEntry(new ZipEntry("job/" + f.getKey()));
        zip.write(f.getValue());
      }
    }
    return out.toByteArray();
  }

  /** The archive with other rows, and a list of digests that agrees with them. */
  private static Map<String, byte[]> with(UnaryOperator<String> rows) throws Exception {
    Map<String, byte[]> out = new TreeMap<>(archive);
    String json = new String(out.get("data/job.json"), StandardCharsets.UTF_8);
    String now = rows.apply(json);
    assertThat(now).isNotEqualTo(json);
    out.put("data/job.json", now.getBytes(StandardCharsets.UTF_8));
    return listed(out);
  }

  private static Map<String, byte[]> listed(Map<String, byte[]> files) throws Exception {
    StringBuilder list = new StringBuilder();
    for (Map.Entry<String, byte[]> f : files.entrySet()) {
      if (!f.getKey().startsWith("data/")) continue;
      byte[] digest = MessageDigest.getInstance("SHA-256").digest(f.getValue());
      list.append(HexFormat.of().formatHex(digest)).append("  ").append(f.getKey()).append('\n');
    }
    files.put(MANIFEST, list.toString().getBytes(StandardCharsets.UTF_8));
    return files;
  }

  static JsonNode takenIn(TestShed into, byte[] zip) {
    TestShed.Answer a =
        into.send(
            into.request("/api/jobs/archive")
                .header("Content-Type", "application/octet-stream")
                .POST(java.net.http.HttpRequest.BodyPublishers.ofByteArray(zip)));
    assertThat(a.status()).as(a.text()).isEqualTo(202);
    return into.ended(a);
  }

  @Test
  void generalToolsCheckIt() throws Exception {
    Path bag = Files.createDirectories(folder.resolve("bag"));
    for (Map.Entry<String, byte[]> f : archive.entrySet()) {
      Path to = bag.resolve(f.getKey());
      Files.createDirectories(to.getParent());
      Files.write(to, f.getValue());
    }
    Process p =
        new ProcessBuilder("sha256sum", "--check", "--strict", "--quiet", MANIFEST)
            .directory(bag.toFile())
            .redirectErrorStream(true)
            .start();
    String said = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(p.waitFor()).as(said).isZero();
    assertThat(archive.keySet())
        .filteredOn(n -> n.startsWith("data/"))
        .hasSize(new String(archive.get(MANIFEST), StandardCharsets.UTF_8).split("\n").length);
    String sha256 = shed.get("/api/images/" + image).json().get("sha256").asString();
    assertThat(archive.get("data/images/" + sha256 + ".img"))
        .isEqualTo(Files.readAllBytes(folder.resolve("own.img")));
  }

  @Test
  void aSecondJobIsMadeOfItWithAllThatWasWrittenDown() throws Exception {
    JsonNode done = takenIn(shed, packed(archive));
    assertThat(done.get("state").asString()).as(done.toString()).isEqualTo("DONE");
    long second = done.get("made").asLong();
    assertThat(second).isNotEqualTo(job);
    JsonNode was = shed.get("/api/jobs/" + job).json();
    JsonNode now = shed.get("/api/jobs/" + second).json();
    for (String same : List.of("machine", "profile", "stations", "medium", "rescuedId")) {
      assertThat(now.get(same)).as(same).isEqualTo(was.get(same));
    }
    // What is known of the drive came; the drive did not, and is not read.
    assertThat(now.get("mediumId").asLong()).isNotEqualTo(was.get("mediumId").asLong());
    JsonNode log = shed.get("/api/jobs/" + second + "/log").json();
    assertThat(log.toString())
        .contains("the belt slips when it is cold")
        .contains("Taken in from an archive, with 1 image");
    JsonNode there = shed.get("/api/jobs/" + second + "/pictures").json().get(0);
    assertThat(there.get("fasteners").get(0).get("lies").asString()).isEqualTo("tin 2");
    assertThat(shed.bytes("/api/pictures/" + there.get("id").asLong())).isEqualTo(picture);
    // Out again it is the same once more, but for the line that says where it came from.
    Map<String, byte[]> again =
        unpacked(shed.bytes("/api/jobs/" + second + "/archive?images=" + image));
    assertThat(rows(again, true)).isEqualTo(rows(archive, false));
  }

  /** Rows without what is a number of this shed alone. */
  static List<String> rows(Map<String, byte[]> bag, boolean second) {
    JsonNode all =
        tools.jackson.databind.json.JsonMapper.shared().readTree(bag.get("data/job.json"));
    List<String> out = new ArrayList<>();
    for (String table : all.propertyNames()) {
      List<JsonNode> of = new ArrayList<>();
      all.get(table).forEach(of::add);
      if (second && table.equals("log_line")) of.remove(of.size() - 1);
      for (JsonNode row : of) {
        var o = (tools.jackson.databind.node.ObjectNode) row;
        for (String name : List.copyOf(o.propertyNames())) {
          if (name.equals("id") || name.endsWith("_id") || OWN.contains(name)) o.remove(name);
        }
        out.add(table + " " + o);
      }
    }
    // An image that was on the shelf before has a lower number there.
    Collections.sort(out);
    return out;
  }

  /** Where a thing lies, when it came, what points to it: a matter of each shed. */
  private static final List<String> OWN =
      List.of(
          "file",
          "node",
          "insertion",
          "removed",
          "mounted",
          "holds_image",
          "corrects",
          "parts",
          "plan_choice",
          "here",
          "created",
          "name");

  /** A table of later that hangs on a job comes along, or somebody decided that it does not. */
  @Test
  void everyTableOfAJobComesAlongOrIsNamedHere() throws Exception {
    List<String> stay = List.of("work");
    List<String> hang = new ArrayList<>();
    String sql =
        "select distinct cast(conrelid as regclass)::text from pg_constraint"
            + " where contype = 'f' and confrelid in ('job'::regclass, 'picture'::regclass,"
            + " 'rom'::regclass, 'log_line'::regclass)";
    try (var c = shed.database();
        var s = c.createStatement();
        var found = s.executeQuery(sql)) {
      while (found.next()) hang.add(found.getString(1));
    }
    JsonNode rows =
        tools.jackson.databind.json.JsonMapper.shared().readTree(archive.get("data/job.json"));
    hang.removeAll(stay);
    assertThat(hang).hasSizeGreaterThan(8);
    assertThat(rows.propertyNames()).containsAll(hang);
  }

  /** An image that is whole stays on the shelf when a later one is not, and that is said. */
  @Test
  void whatCameBeforeItFailedIsSaid() throws Exception {
    Map<String, byte[]> two = with(ArchiveTest::withASecondImage);
    two.put("data/images/" + "0".repeat(64) + ".img", new byte[512]);
    assertThat(refused(listed(two))).contains("1 image of it that is whole lies on the shelf");
  }

  private static String withASecondImage(String json) {
    var all =
        (tools.jackson.databind.node.ObjectNode)
            tools.jackson.databind.json.JsonMapper.shared().readTree(json);
    var images = (tools.jackson.databind.node.ArrayNode) all.get("image");
    var second = (tools.jackson.databind.node.ObjectNode) images.get(0).deepCopy();
    second.put("id", 9_999).put("sha256", "0".repeat(64)).put("sectors", 1);
    images.add(second);
    return all.toString();
  }

  @Test
  void withoutItsImageOnlyTheNameComesAndNothingIsOpened() throws Exception {
    Map<String, byte[]> small = unpacked(shed.bytes("/api/jobs/" + job + "/archive"));
    assertThat(small.keySet()).noneMatch(n -> n.startsWith("data/images/"));
    try (TestShed other = new TestShed(false, 0)) {
      JsonNode done = takenIn(other, packed(small));
      assertThat(done.get("state").asString()).as(done.toString()).isEqualTo("DONE");
      String at = "/api/jobs/" + done.get("made").asLong();
      JsonNode there = other.get(at).json();
      String survey = "/api/images/" + there.get("rescuedId").asLong() + "/survey";
      assertThat(other.get(survey).detail()).contains("its bytes are gone");
      TestShed.Answer read =
          other.post(at + "/rescue", Map.of("retries", 1, "filesFirst", true, "skipFree", false));
      if (read.status() < 300) {
        assertThat(other.settled(read.json().get("id").asLong()).get("state").asString())
            .isNotEqualTo("DONE");
      }
      // Its bytes come with a second archive, which knows the image by its digest.
      JsonNode whole = takenIn(other, packed(archive));
      assertThat(whole.get("state").asString()).as(whole.toString()).isEqualTo("DONE");
      assertThat(other.get(survey).json().get("volumes").get(0).get("label").asString())
          .isEqualTo("OWN");
    }
  }

  private static String refused(Map<String, byte[]> files) throws IOException {
    int before = shed.get("/api/jobs?size=100").json().get("rows").size();
    JsonNode done = takenIn(shed, packed(files));
    assertThat(done.get("state").asString()).as(done.toString()).isEqualTo("FAILED");
    String sentence = done.get("sentence").asString();
    assertThat(sentence).doesNotContain("The shed itself failed");
    assertThat(shed.get("/api/jobs?size=100").json().get("rows")).hasSize(before);
    return sentence;
  }

  @Test
  void whatIsDamagedOrChangedIsRefusedInASentence() throws Exception {
    Map<String, byte[]> flipped = new TreeMap<>(archive);
    for (String name : archive.keySet()) {
      if (!name.startsWith("data/")) continue;
      byte[] b = archive.get(name).clone();
      b[b.length / 2] ^= 1;
      flipped.put(name, b);
      assertThat(refused(flipped)).as(name).contains("digest");
      flipped.put(name, archive.get(name));
      Map<String, byte[]> without = new TreeMap<>(archive);
      without.remove(name);
      assertThat(refused(without)).as(name).contains("is not in it");
      if (name.contains("/pictures/")) {
        assertThat(refused(listed(without))).contains("its job names it");
      }
    }
    assertThat(refused(Map.of("a.txt", new byte[3]))).contains("bagit.txt");
    Map<String, byte[]> none = new TreeMap<>(archive);
    none.remove(MANIFEST);
    assertThat(refused(none)).contains(MANIFEST);
    JsonNode text = takenIn(shed, "no zip at all".getBytes(StandardCharsets.UTF_8));
    assertThat(text.get("sentence").asString()).contains("This is no zip");

    assertThat(refused(with(s -> "[" + s + "]"))).isNotEmpty();
    assertThat(refused(with(s -> s.replace("\"machine\"", "\"engine\"")))).contains("newer shed");
    assertThat(refused(with(s -> s.replace("\"fault_idea\"", "\"later\"")))).contains("newer shed");
    assertThat(refused(with(s -> s.replace("\"MOSS\"", "\"PURPLE\"")))).contains("hold together");
    assertThat(refused(with(s -> s.replace("\"controller-pc\"", "\"no-such\""))))
        .contains("no-such");
    assertThat(
            refused(
                with(
                    s ->
                        s.replaceFirst("\"sha256\" : \"[0-9a-f]{64}", "\"sha256\" : \"../../etc"))))
        .isNotEmpty();
    assertThat(refused(with(s -> s.replaceFirst("\"sectors\" : \\d+", "\"sectors\" : 1"))))
        .contains("not as long as it says");
    String machine = "\"machine\" : \"";
    assertThat(refused(with(s -> s.replaceFirst(machine, machine + "x".repeat(5000)))))
        .contains("machine of a job")
        .contains("where a shed keeps 400");
    assertThat(refused(with(s -> s.replaceFirst(machine, machine + "\\\\ud83d"))))
        .contains("no text that a shed writes");
    for (String version : List.of("9223372036854775807", "-5", "1e308", "\"x\"")) {
      String to = "\"version\" : " + version;
      assertThat(refused(with(s -> s.replaceFirst("\"version\" : \\d+", to)))).isNotEmpty();
    }
    String year = "-12-31T00:00:00+00:00\"";
    assertThat(
            refused(
                with(s -> s.replaceFirst("\"\\d{4}-\\d\\d-\\d\\dT[^\"]*\"", "\"+294275" + year))))
        .contains("no time that a shed writes");
    assertThat(refused(with(s -> s.replaceFirst("\"job\" : \\[", "\"job\" : [ {}, "))))
        .isNotEmpty();
    assertThat(refused(with(s -> s.replaceFirst("\"station\" : \"?1\"?", "\"station\" : \"x\""))))
        .isNotEmpty();
  }

  @Test
  void aFewBytesThatUnpackToAGreatManyAreRefused() throws Exception {
    Map<String, byte[]> rows = new TreeMap<>(archive);
    byte[] empty = "[{},".getBytes(StandardCharsets.UTF_8);
    byte[] many = new byte[9 << 20];
    for (int i = 0; i < many.length; i++) many[i] = empty[i % empty.length];
    rows.put("data/job.json", many);
    assertThat(refused(listed(rows))).contains("more of its job than any shed keeps");
    rows.put("data/job.json", new byte[33 << 20]);
    assertThat(refused(listed(rows))).contains("unpacks to more than 32");
    String own = archive.keySet().stream().filter(n -> n.contains("/images/")).findFirst().get();
    Map<String, byte[]> longer = new TreeMap<>(archive);
    longer.put(own, Arrays.copyOf(archive.get(own), archive.get(own).length + (1 << 20)));
    assertThat(refused(listed(longer))).contains("unpacks to more than");
  }

  /**
   * A changed letter anywhere in the rows, with digests that agree, ends in a job or a sentence.
   */
  @Test
  void rowsThatWereChangedAtRandomNeverEndInAFailureOfTheShed() throws Exception {
    Random r = new Random(4);
    byte[] rows = archive.get("data/job.json");
    for (int i = 0; i < 60; i++) {
      Map<String, byte[]> changed = new TreeMap<>(archive);
      byte[] b = rows.clone();
      for (int n = r.nextInt(3); n >= 0; n--) {
        b[r.nextInt(b.length)] = (byte) "0:,{}[]\"x-\\ \u0007n".charAt(r.nextInt(13));
      }
      changed.put("data/job.json", b);
      JsonNode done = takenIn(shed, packed(listed(changed)));
      assertThat(done.get("sentence").asString()).doesNotContain("The shed itself failed");
      if (!done.get("state").asString().equals("DONE")) continue;
      assertThat(shed.get("/api/jobs/" + done.get("made").asLong()).status()).isEqualTo(200);
      assertThat(shed.get("/api/jobs?size=100").status()).isEqualTo(200);
      assertThat(shed.get("/api/images").status()).isEqualTo(200);
    }
  }
}
