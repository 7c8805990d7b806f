package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** Bringing in by pieces and containers, looking into images, mending a copy, comparing. */
class SurveyTest {
  @TempDir private static Path folder;
  private static TestShed shed;

  @BeforeAll
  static void start() {
    shed = new TestShed(false, 0);
  }

  @AfterAll
  static void stop() {
    shed.close();
  }

  /** Rescues an uploaded image in a job of its own and gives the image's id. */
  static long rescued(TestShed shed, long medium) {
    long job =
        shed.post(
                "/api/jobs",
                Map.of(
                    "machine",
                    "m" + medium,
                    "profile",
                    "controller-pc",
                    "fault",
                    "",
                    "mediumId",
                    medium))
            .json()
            .get("id")
            .asLong();
    TestShed.Answer a =
        shed.post(
            "/api/jobs/" + job + "/rescue",
            Map.of("retries", 1, "filesFirst", true, "skipFree", false));
    assertThat(a.status()).as(a.text()).isEqualTo(202);
    assertThat(shed.settled(a.json().get("id").asLong()).get("state").asString()).isEqualTo("DONE");
    return shed.get("/api/jobs/" + job).json().get("rescuedId").asLong();
  }

  private static TestShed.Answer patch(String upload, long offset, byte[] piece) {
    return shed.send(
        shed.request(upload)
            .header("Tus-Resumable", "1.0.0")
            .header("Upload-Offset", String.valueOf(offset))
            .header("Content-Type", "application/offset+octet-stream")
            .method("PATCH", java.net.http.HttpRequest.BodyPublishers.ofByteArray(piece)));
  }

  private static String create(String name, long length) {
    String encoded =
        java.util.Base64.getEncoder().encodeToString(name.getBytes(StandardCharsets.UTF_8));
    return shed.header(
        shed.request("/api/uploads")
            .header("Tus-Resumable", "1.0.0")
            .header("Upload-Length", String.valueOf(length))
            .header("Upload-Metadata", "filename " + encoded)
            .POST(java.net.http.HttpRequest.BodyPublishers.noBody()),
        "Location");
  }

  @Test
  void anUploadGoesOnAfterAnInterruptionAndARestart() throws Exception {
    byte[] all = Files.readAllBytes(WholeJobTest.drive(folder.resolve("pieces.img")));
    String upload = java.net.URI.create(create("../pieces.img", all.length)).getPath();
    int half = all.length / 2;
    assertThat(patch(upload, 0, java.util.Arrays.copyOf(all, half)).status()).isEqualTo(204);
    assertThat(shed.post("/api/media/uploaded", Map.of("upload", upload)).detail())
        .contains("not whole yet");
    shed.kill();
    shed.start();
    assertThat(patch(upload, 7, new byte[10]).status()).as("another place").isEqualTo(409);
    byte[] rest = java.util.Arrays.copyOfRange(all, half, all.length);
    assertThat(patch(upload, half, rest).status()).isEqualTo(204);
    JsonNode taken = shed.ended(shed.post("/api/media/uploaded", Map.of("upload", upload)));
    assertThat(taken.get("sentence").asString()).isEmpty();
    long medium = taken.get("made").asLong();
    assertThat(shed.get("/api/media").json())
        .anyMatch(
            m -> m.get("id").asLong() == medium && m.get("name").asString().equals("pieces.img"));
    long image = rescued(shed, medium);
    assertThat(shed.bytes("/api/images/" + image + "/download?form=raw")).isEqualTo(all);
  }

  /** A small disk as its file is: an image brought in and put on the shelf without a job. */
  private static long shelved(String name, byte[] file) throws Exception {
    Path p = Files.write(folder.resolve(name), file);
    long medium = shed.upload(name, p).json().get("id").asLong();
    JsonNode ended = shed.ended(shed.post("/api/media/" + medium + "/image", Map.of()));
    assertThat(ended.get("sentence").asString()).isEmpty();
    return ended.get("made").asLong();
  }

  private static byte[] small(String kind, long sectors, int number) {
    MemoryMedium m = new MemoryMedium(sectors);
    FileSet files = new FileSet();
    byte[] text = ("PIECE " + number).getBytes(StandardCharsets.US_ASCII);
    files.file("P" + number, text.length, 0x20, 0, s -> s.take(text, 0, text.length));
    Maker maker = Catalogue.maker(kind);
    Maker.Wish wish =
        new Maker.Wish(
            Optional.of(kind), sectors, 0, 0, 0, new Geometry(80, 1, 5), "D", 0, false, 0);
    Maker.Layout l = maker.layout(wish);
    maker.write(l, files, m, new byte[0], (path, n) -> {});
    return java.util.Arrays.copyOf(m.sectors(0, (int) sectors), (int) l.byteCount());
  }

  /** C-8: what fits equally is listed, one is said, and only then files go onto a copy. */
  @Test
  void aDiskWhoseLayoutIsAGuessIsChangedWhenSomebodySaidHowItLies() throws Exception {
    FileSet files = new FileSet();
    java.util.Random r = new java.util.Random(7);
    for (int i = 0; i < 6; i++) {
      byte[] b = new byte[3000 + 2000 * i];
      r.nextBytes(b);
      files.file("LOG" + i + ".DAT", b.length, 0, 0, s -> s.take(b, 0, b.length));
    }
    MemoryMedium m = new MemoryMedium(1440);
    Maker maker = Catalogue.maker("CP/M 2.2");
    Geometry g = new Geometry(80, 2, 9);
    Maker.Wish wish = new Maker.Wish(Optional.of("CP/M 2.2"), 1440, 0, 2048, 0, g, "", 0, false, 0);
    maker.write(maker.layout(wish), files, m, new byte[0], (path, n) -> {});
    String at = "/api/images/" + shelved("guess.img", m.sectors(0, 1440));
    JsonNode guesses = shed.get(at + "/survey").json().get("volumes").get(0).get("guesses");
    assertThat(guesses.size()).isPositive();
    assertThat(crossing(at).detail()).contains("is a guess");

    assertThat(shed.put(at + "/layout", Map.of("layout", "cpm:block=3")).detail())
        .contains("A block has");
    assertThat(shed.put(at + "/layout", Map.of("layout", "fat:block=2048")).detail()).isNotEmpty();
    String said = guesses.get(0).asString();
    assertThat(shed.put(at + "/layout", Map.of("layout", said)).status()).isEqualTo(200);
    JsonNode now = shed.get(at + "/survey").json();
    assertThat(now.get("layout").asString()).isEqualTo(said);
    assertThat(now.get("volumes").get(0).get("guesses")).isEmpty();
    String crossing = "/api/crossings/" + crossing(at).json().get("id").asLong();
    byte[] fresh = new byte[1000];
    assertThat(shed.putBytes(crossing + "/files?path=NEW.DAT", fresh).status()).isEqualTo(204);
    String seal = shed.get(crossing).json().get("laid").get("seal").asString();
    JsonNode done = shed.ended(shed.post(crossing + "/carry?seal=" + seal, Map.of()));
    assertThat(done.get("sentence").asString()).isEmpty();
    // The copy lies as its original does, and nobody has to say it twice.
    JsonNode copy = null;
    for (JsonNode i : shed.get("/api/images").json()) {
      if (i.get("origin").asString().contains("copy of guess")) copy = i;
    }
    String made = "/api/images/" + copy.get("id").asLong();
    assertThat(shed.get(made + "/survey").json().get("layout").asString()).isEqualTo(said);
    assertThat(shed.get(made + "/files?volume=0").text()).contains("NEW.DAT", "LOG5.DAT");
    // Left to what is found it is a guess again.
    shed.put(at + "/layout", Map.of("layout", ""));
    assertThat(shed.get(at + "/survey").json().get("volumes").get(0).get("guesses"))
        .isEqualTo(guesses);
  }

  private static TestShed.Answer crossing(String image) {
    long id = Long.parseLong(image.substring(image.lastIndexOf('/') + 1));
    return shed.post("/api/crossings", Map.of("image", id, "volume", 0, "disk", ""));
  }

  @Test
  void aLibraryOfSmallDisksIsFilledChangedAndTakenApart() throws Exception {
    long empty =
        shed.ended(shed.post("/api/images/library", Map.of("name", "Quilts", "places", 4)))
            .get("made")
            .asLong();
    List<Long> disks = new java.util.ArrayList<>();
    List<Map<String, Object>> changes = new java.util.ArrayList<>();
    for (int i = 0; i < 3; i++) {
      disks.add(shelved("disk " + i + ".ssd", small("two-sector catalogue", 400, i)));
      changes.add(change("PUT", i, 0, "Quilt " + i, disks.get(i)));
    }
    changes.add(change("LOCK", 1, 0, "", 0));
    changes.add(change("MOVE", 2, 0, "", 0));
    JsonNode ended =
        shed.ended(shed.post("/api/images/" + empty + "/library", Map.of("changes", changes)));
    assertThat(ended.get("sentence").asString()).isEmpty();
    long library = ended.get("made").asLong();
    JsonNode places = shed.get("/api/images/" + library + "/library").json().get("places");
    assertThat(places)
        .extracting(p -> p.get("title").asString() + " " + p.get("state").asString())
        .containsExactly("Quilt 2 OPEN", "Quilt 0 OPEN", "Quilt 1 LOCKED", " BLANK");
    JsonNode glance = shed.get("/api/images/" + library + "/glance").json();
    assertThat(glance.get("table").asString()).isEqualTo("library");
    assertThat(glance.get("volumes").get(0).asString()).isEqualTo("two-sector catalogue “D”");
    assertThat(glance.get("volumes").size() + glance.get("more").asInt()).isEqualTo(3);
    // What comes out of it is the disk that went in: the same image on the shelf.
    JsonNode out = shed.ended(shed.post("/api/images/" + library + "/library/0", Map.of()));
    assertThat(out.get("made").asLong()).isEqualTo(disks.get(2));
    assertThat(shed.bytes("/api/images/" + library + "/file?volume=2&path=P0"))
        .isEqualTo("PIECE 0".getBytes(StandardCharsets.US_ASCII));
    JsonNode refused =
        shed.ended(
            shed.post(
                "/api/images/" + library + "/library",
                Map.of("changes", List.of(change("REMOVE", 2, 0, "", 0)))));
    assertThat(refused.get("sentence").asString()).contains("Disk 2 is locked");
    assertThat(shed.get("/api/images/" + disks.get(0) + "/library").status()).isEqualTo(422);
  }

  private static Map<String, Object> change(
      String verb, int number, int to, String title, long image) {
    return Map.of("verb", verb, "number", number, "to", to, "title", title, "image", image);
  }

  @Test
  void smallDisksGoOutAsLongAsTheyCameIn() throws Exception {
    for (String kind : List.of("link-and-map", "linked-sector")) {
      byte[] file = small(kind, kind.equals("link-and-map") ? 342 : 360, 7);
      assertThat(file.length % 512).isPositive();
      long image = shelved(kind + ".img", file);
      String download = "/api/images/" + image + "/download?form=";
      assertThat(shed.bytes(download + "raw")).isEqualTo(file);
      byte[] headed = shed.bytes(download + "atr");
      assertThat(headed).hasSize(file.length + 16);
      assertThat(shelved(kind + ".atr", headed)).as("stored once").isEqualTo(image);
    }
  }

  @Test
  void everyContainerGoesOutAndComesInAgain() throws Exception {
    Path own = WholeJobTest.drive(folder.resolve("own.img"));
    long image = rescued(shed, shed.upload("own.img", own).json().get("id").asLong());
    for (String form : List.of("gz", "xz", "zip", "vhd")) {
      byte[] packed = shed.bytes("/api/images/" + image + "/download?form=" + form);
      Path p = Files.write(folder.resolve("out." + form), packed);
      TestShed.Answer in = shed.upload("named wrongly.bin", p);
      assertThat(in.status()).as(form + in.text()).isEqualTo(201);
      assertThat(in.json().get("sectors").asLong() * 512).as(form).isEqualTo(Files.size(own));
      long again = rescued(shed, in.json().get("id").asLong());
      assertThat(again).as(form + " is stored once").isEqualTo(image);
    }
  }

  /** What an emulator kept is the drive that went into it, and the shelf stores that once. */
  @Test
  void diskImagesOfEmulatorsBecomeTheirDrive() throws Exception {
    Path own = WholeJobTest.drive(folder.resolve("drive.img"));
    long image = rescued(shed, shed.upload("drive.img", own).json().get("id").asLong());
    for (String form : List.of("qcow2", "vdi", "vmdk", "vhdx")) {
      Path p = folder.resolve("emulated." + form);
      Process made =
          new ProcessBuilder("qemu-img", "convert", "-f", "raw", "-O", form, "" + own, "" + p)
              .start();
      assertThat(made.waitFor()).isZero();
      TestShed.Answer in = shed.upload("named wrongly.bin", p);
      assertThat(in.status()).as(form + in.text()).isEqualTo(201);
      assertThat(in.json().get("sectors").asLong() * 512).as(form).isEqualTo(Files.size(own));
      assertThat(rescued(shed, in.json().get("id").asLong())).as(form).isEqualTo(image);
    }
    // A drive in two files: the one that only describes it says which one to bring in.
    Path flat = folder.resolve("loom.vmdk");
    Process split =
        new ProcessBuilder(
                ("qemu-img convert -f raw -O vmdk -o subformat=monolithicFlat " + own + " " + flat)
                    .split(" "))
            .start();
    assertThat(split.waitFor()).isZero();
    assertThat(shed.upload("loom.vmdk", flat).detail())
        .contains("\"loom-flat.vmdk\" beside it. Bring in that file instead");
    TestShed.Answer raw = shed.upload("loom-flat.vmdk", folder.resolve("loom-flat.vmdk"));
    assertThat(rescued(shed, raw.json().get("id").asLong())).isEqualTo(image);
    Path over = folder.resolve("over.qcow2");
    Path base = folder.resolve("emulated.qcow2");
    Process made =
        new ProcessBuilder(
                "qemu-img", "create", "-f", "qcow2", "-b", "" + base, "-F", "qcow2", "" + over)
            .start();
    assertThat(made.waitFor()).isZero();
    assertThat(shed.upload("over.qcow2", over).detail()).contains("builds on another file");
  }

  @Test
  void whatIsOnAnImageCanBeLookedAtByteByByte() throws Exception {
    Path own = WholeJobTest.drive(folder.resolve("look.img"));
    long image = rescued(shed, shed.upload("look.img", own).json().get("id").asLong());
    String base = "/api/images/" + image;
    JsonNode first = shed.get(base + "/sectors?start=0&count=2").json();
    assertThat(first.size()).isEqualTo(2);
    assertThat(first.get(0).get("place").asString()).isEqualTo("table");
    assertThat(first.get(0).get("fields"))
        .anyMatch(f -> f.get("name").asString().equals("entry 1: start LBA"));
    byte[] sector = HexFormat.of().parseHex(first.get(0).get("hex").asString());
    assertThat(sector).isEqualTo(java.util.Arrays.copyOf(Files.readAllBytes(own), 512));
    assertThat(shed.get(base + "/sectors?start=32").json().get(0).get("place").asString())
        .startsWith("boot sector");
    assertThat(shed.get(base + "/sectors?start=99999999").detail())
        .contains("has the sectors 0 to");
    JsonNode text = shed.get(base + "/text?volume=1&path=DATA/F3.TXT&page=850").json();
    assertThat(text.get("text").asString()).startsWith("file 3 file 3");
    assertThat(shed.get(base + "/text?volume=1&path=DATA/F3.TXT&page=1").detail())
        .contains("no code page");
    assertThat(shed.get(base + "/picture?volume=1&path=DATA/F3.TXT").detail()).contains("BMP, GIF");
    JsonNode notable = shed.get(base + "/notable?volume=1").json();
    assertThat(notable.get("largest").get(0).get("path").asString()).isEqualTo("DATA/F29.TXT");
    assertThat(notable.get("personalCount").asInt()).isEqualTo(30);
    JsonNode looked = shed.ended(shed.post(base + "/twins?volume=1", Map.of()));
    assertThat(looked.get("state").asString()).isEqualTo("DONE");
    assertThat(shed.get(base + "/twins?volume=1").json().get("count").asInt()).isZero();
    Map<String, byte[]> files = new HashMap<>();
    try (ZipInputStream z =
        new ZipInputStream(
            new ByteArrayInputStream(shed.bytes(base + "/zip?volume=1&folder=DATA")))) {
      for (ZipEntry e = z.getNextEntry(); e != null; e = z.getNextEntry())
        files.put(e.getName(), z.readAllBytes());
    }
    assertThat(files).hasSize(32).containsKey("SHA256SUMS").containsKey("DATA/F7.TXT");
    String sum =
        HexFormat.of()
            .formatHex(
                java.security.MessageDigest.getInstance("SHA-256")
                    .digest(files.get("DATA/F7.TXT")));
    assertThat(new String(files.get("SHA256SUMS"), StandardCharsets.UTF_8))
        .contains(sum + "  DATA/F7.TXT");
    assertThat(shed.get(base + "/zip?volume=1&folder=NONE").detail()).contains("no folder");
    try (ZipInputStream z =
        new ZipInputStream(
            new ByteArrayInputStream(shed.bytes(base + "/zip?volume=1&find=f29.txt")))) {
      assertThat(z.getNextEntry().getName()).isEqualTo("DATA/F29.TXT");
      assertThat(z.getNextEntry().getName()).isEqualTo("SHA256SUMS");
    }
  }

  @Test
  void aCopyIsMendedTheImageIsNotAndTheTwoAreCompared() throws Exception {
    Path own = WholeJobTest.drive(folder.resolve("broken.img"));
    byte[] b = Files.readAllBytes(own);
    // The second FAT differs in one entry.
    int fat = (32 + 1) * 512;
    int sectors = (b[32 * 512 + 22] & 0xFF) | (b[32 * 512 + 23] & 0xFF) << 8;
    b[fat + sectors * 512 + 100] ^= 1;
    Files.write(own, b);
    long image = rescued(shed, shed.upload("broken.img", own).json().get("id").asLong());
    String base = "/api/images/" + image;
    JsonNode plan = shed.get(base + "/repair?volume=1").json();
    assertThat(plan.size()).isEqualTo(1);
    assertThat(plan.get(0).get("what").asString()).contains("FAT 2 becomes the same");
    long copy = shed.ended(shed.post(base + "/repair?volume=1", Map.of())).get("made").asLong();
    assertThat(shed.bytes(base + "/download?form=raw")).as("the rescued image stays").isEqualTo(b);
    assertThat(shed.get("/api/images/" + copy + "/repair?volume=1").json().size()).isZero();
    assertThat(shed.post("/api/images/" + copy + "/repair?volume=1", Map.of()).detail())
        .contains("nothing to mend");
    assertThat(shed.get(base + "/against/" + copy).detail()).contains("Nobody compared");
    JsonNode against = compared(base + "/against/" + copy);
    assertThat(against.get("sentence").asString()).startsWith("1 sector differs, in 1 of");
    assertThat(against.get("ranges").get(0).get("place").asString()).isEqualTo("FAT");
    assertThat(against.get("volumes").get(0).get("sentence").asString())
        .endsWith("the same byte for byte; nothing else is on either.");
    assertThat(compared(base + "/against/" + image).get("identical").asBoolean()).isTrue();
  }

  private static JsonNode compared(String path) {
    shed.ended(shed.post(path, Map.of()));
    return shed.get(path).json();
  }

  @Test
  void aDeviceIsOpenedFromTheAllowListOnly() {
    assertThat(shed.get("/api/media/devices").json().size()).isZero();
    assertThat(shed.post("/api/media/devices", Map.of("node", "/etc/passwd", "name", "x")).detail())
        .contains("not in the list of devices");
  }
}
