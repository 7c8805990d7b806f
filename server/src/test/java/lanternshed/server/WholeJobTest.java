package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.net.Socket;
import java.net.http.HttpRequest.BodyPublishers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import lanternshed.core.boot.pc.BootCode;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.table.TableMaker;
import lanternshed.core.table.mbr.MbrWriter;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.fat.FatMaker;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/**
 * A person's own image, from upload to the golden copy, over HTTP; and everything that may go
 * wrong.
 */
class WholeJobTest {
  private static final Geometry G = new Geometry(100, 16, 32);
  @TempDir private static Path folder;
  private static TestShed shed;

  @BeforeAll
  static void start() {
    shed = TestShed.shared();
  }

  /** A small drive that starts, with a few files. */
  static Path drive(Path to) {
    long start = G.sectors();
    Maker maker = new FatMaker();
    FileSet b = new FileSet();
    byte[] loader = java.util.Arrays.copyOf(BootCode.loader("ready"), 3000);
    b.file("OWNIO.SYS", loader.length, 0x27, 0x1D210000, s -> s.take(loader, 0, loader.length));
    b.folder("DATA", 0, 0x1D210000);
    for (int i = 0; i < 30; i++) {
      byte[] c = ("file " + i + " ").repeat(i * 97).getBytes(StandardCharsets.US_ASCII);
      b.file("DATA/F" + i + ".TXT", c.length, 0x20, 0x1D210000, s -> s.take(c, 0, c.length));
    }
    try (FileMedium m = FileMedium.create(to, G.total())) {
      maker.write(
          maker.layout(
              new Maker.Wish(
                  Optional.of("FAT16"),
                  G.total() - start,
                  start,
                  2048,
                  512,
                  G,
                  "OWN",
                  7,
                  false,
                  0x0021_0000)),
          b,
          new SliceMedium(m, start, G.total() - start),
          BootCode.volume("OWNIO.SYS"),
          (p, n) -> {});
      new MbrWriter()
          .write(
              m,
              G,
              BootCode.table(),
              1,
              List.of(new TableMaker.Slot(start, G.total() - start, "04", true, false, 0)));
    }
    return to;
  }

  private static long card(String name, String serial, long sectors) {
    return shed.post(
            "/api/media/cards",
            Map.of("name", name, "serial", serial, "labelMegabytes", 32, "sectors", sectors))
        .json()
        .get("id")
        .asLong();
  }

  private static long job(long medium) {
    return shed.post(
            "/api/jobs",
            Map.of(
                "machine",
                "Own machine",
                "profile",
                "controller-pc",
                "fault",
                "old",
                "mediumId",
                medium))
        .json()
        .get("id")
        .asLong();
  }

  private static JsonNode job(String id) {
    return shed.get("/api/jobs/" + id).json();
  }

  private static String sha256(byte[] b) throws Exception {
    return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(b));
  }

  @Test
  void anOwnImageGoesFromUploadToGoldenCopy() throws Exception {
    Path own = drive(folder.resolve("own.img"));
    Path packed = folder.resolve("own.img.gz");
    try (OutputStream gz = new GZIPOutputStream(Files.newOutputStream(packed))) {
      Files.copy(own, gz);
    }
    TestShed.Answer up = shed.upload("../../own drive.img.gz", packed);
    assertThat(up.status()).as(up.text()).isEqualTo(201);
    assertThat(up.json().get("name").asString()).isEqualTo("own drive.img.gz");
    assertThat(up.json().get("sectors").asLong()).isEqualTo(G.total());
    long id = job(up.json().get("id").asLong());

    long rescue = shed.post("/api/jobs/" + id + "/rescue", Map.of()).json().get("id").asLong();
    assertThat(shed.settled(rescue).get("state").asString()).isEqualTo("DONE");
    JsonNode image = shed.get("/api/images/" + job("" + id).get("rescuedId").asLong()).json();
    assertThat(image.get("sha256").asString()).isEqualTo(sha256(Files.readAllBytes(own)));
    JsonNode survey = shed.get("/api/images/" + image.get("id").asLong() + "/survey").json();
    assertThat(survey.get("volumes").get(0).get("files").asInt()).isEqualTo(31);
    assertThat(survey.get("findings")).isEmpty();
    byte[] one =
        shed.bytes("/api/images/" + image.get("id").asLong() + "/file?volume=1&path=DATA/F9.TXT");
    assertThat(new String(one, StandardCharsets.US_ASCII)).isEqualTo("file 9 ".repeat(9 * 97));

    long card = card("own card", "OWN-1234", 60_480);
    JsonNode proposal = shed.get("/api/jobs/" + id + "/plan").json();
    Map<String, Object> choice = choice(card);
    TestShed.Answer plan =
        shed.put(
            "/api/jobs/" + id + "/plan",
            Map.of(
                "version",
                job("" + id).get("version").asLong(),
                "choice",
                choice,
                "allTheSame",
                false));
    assertThat(plan.status()).as(plan.text()).isEqualTo(200);
    assertThat(proposal.get("plan").get("buildable").asBoolean()).isTrue();
    long build = shed.post("/api/jobs/" + id + "/build", Map.of()).json().get("id").asLong();
    assertThat(shed.settled(build).get("state").asString())
        .as(shed.work(build).toString())
        .isEqualTo("DONE");
    JsonNode proof = shed.get("/api/jobs/" + id + "/proof").json();
    assertThat(proof.get("proved").asBoolean()).isTrue();
    assertThat(proof.get("files").asInt()).isEqualTo(31);

    refusals(id, card);
    long write =
        shed.post("/api/jobs/" + id + "/write", Map.of("mediumId", card, "confirm", "1234"))
            .json()
            .get("id")
            .asLong();
    assertThat(shed.settled(write).get("state").asString()).isEqualTo("DONE");
    assertThat(job("" + id).get("stations").get(6).get("sentence").asString())
        .startsWith("Reads back identical");
    JsonNode prediction = shed.get("/api/jobs/" + id + "/prediction").json();
    assertThat(prediction.get("written").asBoolean()).isTrue();
    assertThat(prediction.get("start").get("kind").asString()).isEqualTo("STANDS");

    // Who plans next is offered a card that is free, although the smaller one would do.
    card("free card", "FREE-0001", 60_481);
    long next = job(up.json().get("id").asLong());
    JsonNode offered = shed.get("/api/jobs/" + next + "/plan").json();
    long free = offered.get("choice").get("cardId").asLong();
    assertThat(offered.get("plan").get("buildable").asBoolean()).isTrue();
    assertThat(medium(card).get("holdsImage").asLong()).isPositive();
    assertThat(medium(free).get("holdsImage").asLong()).isZero();

    long built = job("" + id).get("builtId").asLong();
    byte[] raw = shed.bytes("/api/images/" + built + "/download?form=raw");
    byte[] unpacked =
        new GZIPInputStream(
                new ByteArrayInputStream(shed.bytes("/api/images/" + built + "/download?form=gz")))
            .readAllBytes();
    assertThat(raw).isEqualTo(unpacked);
    assertThat(sha256(raw))
        .isEqualTo(shed.get("/api/images/" + built).json().get("sha256").asString());
    assertThat(shed.get("/api/jobs/" + id + "/recipe").json().get("form").asString())
        .contains("recipe");
    // The original on the shelf is as it was.
    try (var media = Files.list(shed.home().resolve("shelf/media"))) {
      List<String> digests =
          media.filter(p -> p.toFile().length() == G.total() * 512).map(p -> digest(p)).toList();
      assertThat(digests).contains(sha256(Files.readAllBytes(own)));
    }
  }

  private static String digest(Path p) {
    try {
      return sha256(Files.readAllBytes(p));
    } catch (Exception e) {
      throw new IllegalStateException(e);
    }
  }

  private static JsonNode medium(long id) {
    return shed.get("/api/media/" + id).json();
  }

  private static Map<String, Object> choice(long card) {
    return Map.of(
        "firmware",
        "",
        "system",
        "",
        "cardId",
        card,
        "drawer",
        List.of(),
        "strategy",
        "REBUILD",
        "school",
        "MACHINE",
        "volumes",
        List.of(),
        "keepBootCode",
        false);
  }

  private void refusals(long id, long card) {
    TestShed.Answer wrong =
        shed.post("/api/jobs/" + id + "/write", Map.of("mediumId", card, "confirm", "1235"));
    assertThat(wrong.status()).isEqualTo(422);
    assertThat(wrong.detail()).contains("not the last four").contains("nothing was written");
    long image =
        shed.get("/api/images/" + job("" + id).get("builtId").asLong())
            .json()
            .get("sectors")
            .asLong();
    long small = card("small card", "SMALL-0001", image - 1);
    TestShed.Answer tooSmall =
        shed.post("/api/jobs/" + id + "/write", Map.of("mediumId", small, "confirm", "0001"));
    assertThat(tooSmall.status()).isEqualTo(422);
    assertThat(tooSmall.detail()).contains("1 sector too few");
    long drive = job("" + id).get("mediumId").asLong();
    assertThat(
            shed.post("/api/jobs/" + id + "/write", Map.of("mediumId", drive, "confirm", ""))
                .detail())
        .contains("not marked removable");
  }

  @Test
  void twoBrowsersOnOneJobDoNotOverwriteEachOther() {
    long id = job(0);
    long version = job("" + id).get("version").asLong();
    Map<String, Object> record =
        Map.of("notes", "first", "choice", "", "ticks", List.of(), "symptoms", List.of());
    Map<String, Object> change = Map.of("version", version, "record", record, "done", true);
    // What nobody looked at is no finding: what was written is kept, and the station stays in hand.
    assertThat(shed.put("/api/jobs/" + id + "/stations/1", change).status()).isEqualTo(200);
    JsonNode intake = job("" + id).get("stations").get(0);
    assertThat(intake.get("state").asString()).isEqualTo("LIT");
    assertThat(intake.get("record").get("notes").asString()).isEqualTo("first");
    assertThat(job("" + id).get("gate").asString()).startsWith("Before power: look at point");
    TestShed.Answer second = shed.put("/api/jobs/" + id + "/stations/1", change);
    assertThat(second.status()).isEqualTo(409);
    assertThat(second.detail()).contains("Somebody else");
    assertThat(shed.post("/api/jobs/" + id + "/rescue", Map.of()).detail())
        .contains("Choose the old medium");
    assertThat(shed.post("/api/jobs/" + id + "/build", Map.of()).detail())
        .contains("Settle the plan first");
    assertThat(shed.get("/api/jobs/9999").status()).isEqualTo(404);
  }

  @Test
  void anUploadThatStopsHalfWayLeavesNothing() throws Exception {
    int before = shed.get("/api/media").json().size();
    try (Socket s = new Socket("127.0.0.1", shed.port())) {
      OutputStream out = s.getOutputStream();
      out.write(
          ("POST /api/media/upload?name=half HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 5000000\r\n\r\n")
              .getBytes(StandardCharsets.US_ASCII));
      out.write(new byte[1_000_000]);
      out.flush();
    }
    TestShed.await(() -> files("half") == 0);
    assertThat(shed.get("/api/media").json().size()).isEqualTo(before);
    TestShed.Answer tiny =
        shed.send(
            shed.request("/api/media/upload?name=tiny")
                .POST(BodyPublishers.ofByteArray(new byte[10])));
    assertThat(tiny.detail()).contains("at least one sector");
    TestShed.Answer huge =
        shed.send(
            shed.request("/api/media/upload?name=torn")
                .POST(BodyPublishers.ofByteArray(new byte[] {0x1F, (byte) 0x8B, 8, 0, 1, 2, 3})));
    assertThat(huge.status()).isBetween(400, 422);
  }

  private static long files(String room) {
    try (var all = Files.list(shed.home().resolve("shelf").resolve(room))) {
      return all.count();
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
  }

  @Test
  void imagesThatMakeNoSenseGetOneClearSentence() throws Exception {
    Path random = folder.resolve("random.img");
    byte[] b = new byte[300_000];
    new java.util.Random(5).nextBytes(b);
    Files.write(random, b);
    long medium = shed.upload("random.img", random).json().get("id").asLong();
    long id = job(medium);
    long rescue = shed.post("/api/jobs/" + id + "/rescue", Map.of()).json().get("id").asLong();
    shed.settled(rescue);
    JsonNode station = job("" + id).get("stations").get(3);
    assertThat(station.get("state").asString()).isEqualTo("BRICK");
    assertThat(station.get("sentence").asString()).contains("neither a table nor a volume");
  }

  @Test
  void theDoorIsShutToOthers() throws Exception {
    assertThat(foreign("Host: evil.example\r\n")).startsWith("HTTP/1.1 403");
    assertThat(foreign("Host: 127.0.0.1\r\nOrigin: http://evil.example\r\n"))
        .startsWith("HTTP/1.1 403");
    assertThat(foreign("Host: localhost\r\nOrigin: http://localhost:1\r\n"))
        .as("another program of this computer")
        .startsWith("HTTP/1.1 403");
    assertThat(foreign("Host: localhost\r\nOrigin: http://localhost:" + shed.port() + "\r\n"))
        .startsWith("HTTP/1.1 200");
    assertThat(shed.post("/api/media/incoming", Map.of("name", "../../etc/passwd")).status())
        .isEqualTo(422);
    assertThat(shed.get("/..%2f..%2fapplication.yml").status()).isBetween(400, 404);
    assertThat(shed.post("/api/jobs", Map.of("machine", "", "profile", "x")).status())
        .isEqualTo(400);
    assertThat(shed.get("/api/nothing").status()).isEqualTo(404);
    Files.writeString(shed.home().resolve("shelf/incoming/here.img"), "x".repeat(1024));
    JsonNode taken = shed.ended(shed.post("/api/media/incoming", Map.of("name", "here.img")));
    assertThat(taken.get("made").asLong()).isPositive();
    Files.write(shed.home().resolve("shelf/incoming/cut.gz"), new byte[] {0x1F, (byte) 0x8B, 8, 0});
    JsonNode cut = shed.ended(shed.post("/api/media/incoming", Map.of("name", "cut.gz")));
    assertThat(cut.get("state").asString()).isEqualTo("FAILED");
    assertThat(cut.get("sentence").asString()).contains("cut off");
  }

  private static String foreign(String headers) throws IOException {
    try (Socket s = new Socket("127.0.0.1", shed.port())) {
      s.getOutputStream()
          .write(
              ("GET /api/jobs HTTP/1.1\r\n" + headers + "Connection: close\r\n\r\n")
                  .getBytes(StandardCharsets.US_ASCII));
      return new String(s.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    }
  }

  @Test
  void theReckonerAndTheLogbookAnswer() {
    String roads =
        "/api/reckoner/roads?protocol=XMODEM&rate=9600&floppy=KB720&bytes=1000000&files=";
    JsonNode first = shed.get(roads + 30).json().get("roads").get(0);
    assertThat(first.get("name").asString()).isEqualTo("floppies, 3½-inch, 720 KB");
    assertThat(first.get("note").asString()).isEqualTo("2 disks");
    assertThat(shed.get(roads + 0).status()).isEqualTo(422);
    String rehearsal = "/api/reckoner/roads/rehearsal?rate=9600&kib=8&trouble=NONE&protocol=";
    JsonNode over = shed.get(rehearsal + "XMODEM_CRC").json();
    assertThat(over.get("line").get("whole").asBoolean()).isTrue();
    assertThat(over.get("line").get("fill").asInt()).isEqualTo(100);
    String steps = "/api/reckoner/roads/steps?protocol=KERMIT&rate=9600&toMachine=true&end=";
    JsonNode typed = shed.get(steps + "dos").json().get("steps");
    assertThat(typed.get(2).get("types").asString()).isEqualTo("MODE COM1:9600,N,8,1");
    assertThat(shed.get(steps + "nowhere").status()).isEqualTo(422);
    assertThat(new String(shed.bytes(steps.replace("steps?", "steps.pdf?") + "dos"), 0, 5))
        .isEqualTo("%PDF-");
    JsonNode packets = shed.get(rehearsal + "KERMIT").json();
    assertThat(packets.get("line").get("whole").asBoolean()).isTrue();
    assertThat(packets.get("line").get("fill").asInt()).isZero();
    JsonNode pegs = shed.get("/api/reckoner/pegs?machine=controller-pc&sectors=15625216").json();
    assertThat(pegs.get("reach").asLong()).isEqualTo(1_032_192);
    assertThat(
            shed.get("/api/reckoner/place?heads=16&sectors=63&cylinder=0&head=1&sector=1")
                .json()
                .get("lba")
                .asInt())
        .isEqualTo(63);
    assertThat(
            shed.get("/api/reckoner/place?heads=16&sectors=63&cylinder=0&head=16&sector=1")
                .detail())
        .contains("does not exist");
    long id = job(0);
    JsonNode line =
        shed.post(
                "/api/jobs/" + id + "/log",
                Map.of("station", 1, "author", "tester", "text", "5,02 V on pin 1"))
            .json();
    assertThat(line.get("amount").asString()).isEqualTo("5.02");
    assertThat(line.get("unit").asString()).isEqualTo("V");
    assertThat(shed.get("/api/jobs/" + id + "/log").json()).hasSize(1);
  }
}
