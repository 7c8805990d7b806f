package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.net.http.HttpRequest;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.sql.Connection;
import java.sql.ResultSet;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Kills between any two steps, a database that goes away, bytes that rot, cards that change hands.
 */
class LostNothingTest {
  @TempDir static Path folder;
  private static TestShed shed;
  private static Path device;

  @BeforeAll
  static void start() throws IOException {
    device = WholeJobTest.drive(folder.resolve("node"));
    Files.createSymbolicLink(folder.resolve("link"), device);
    shed = new TestShed(true, 0, Map.of("SHED_DEVICES", device + "," + folder.resolve("link")));
  }

  @AfterAll
  static void stop() {
    shed.close();
  }

  private static JsonNode job(long id) {
    return shed.get("/api/jobs/" + id).json();
  }

  private static long find(String machine) {
    for (JsonNode j : shed.get("/api/jobs?size=100").json().get("rows")) {
      if (j.get("machine").asString().startsWith(machine)) return j.get("id").asLong();
    }
    throw new IllegalStateException(machine);
  }

  private static long rescued(String name) throws IOException {
    Path own = folder.resolve(name);
    if (!Files.exists(own)) WholeJobTest.drive(own);
    long medium = shed.upload(name, own).json().get("id").asLong();
    long id = open(medium);
    rescue(id);
    return id;
  }

  private static long open(long medium) {
    Map<String, Object> job =
        Map.of("machine", "Own", "profile", "controller-pc", "fault", "", "mediumId", medium);
    return shed.post("/api/jobs", job).json().get("id").asLong();
  }

  private static long rescue(long job) {
    long work = shed.post("/api/jobs/" + job + "/rescue", Map.of()).json().get("id").asLong();
    assertThat(shed.settled(work).get("state").asString())
        .as(shed.work(work).toString())
        .isEqualTo("DONE");
    return work;
  }

  private static Path shelf(String sha256, String kind) {
    return shed.home().resolve("shelf/images/" + sha256 + kind);
  }

  /** After each step of storing the program is killed; whoever goes on has all, once. */
  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4, 5})
  void aKillBetweenAnyTwoStepsOfStoringIsGoneOnFrom(int step) throws Exception {
    // An image of its own for each step, so that none is there already.
    Path own = folder.resolve("step" + step);
    WholeJobTest.drive(own);
    byte[] b = Files.readAllBytes(own);
    b[b.length - 5] = (byte) step;
    Files.write(own, b);
    long medium = shed.upload("step", own).json().get("id").asLong();
    long id = open(medium);
    long work = rescue(id);
    JsonNode image = shed.get("/api/images/" + job(id).get("rescuedId").asLong()).json();
    String sha = image.get("sha256").asString();
    shed.kill();
    Path half = shed.home().resolve("shelf/half");
    try (Connection c = shed.database();
        var s = c.createStatement()) {
      Map<String, Object> note = new HashMap<>();
      try (ResultSet r = s.executeQuery("select * from image where sha256 = '" + sha + "'")) {
        r.next();
        note.put("name", r.getString("name"));
        note.put(
            "digests",
            Map.of(
                "sha256", sha,
                "crc32", Long.parseLong(r.getString("crc32"), 16),
                "chunks", List.of(r.getString("chunks").split(" "))));
        note.put("sectors", r.getLong("sectors"));
        note.put("origin", r.getString("origin"));
        note.put("lost", 0);
        note.put("hits", List.of());
        note.put("sentence", "Everything came.");
        note.put("proof", "");
      }
      // What stands after the step: 1 the note, 2 the image in its place, 3 its row, 4 the map, 5
      // the job.
      if (step < 5) s.execute("update job set rescued_id = null where id = " + id);
      if (step < 5)
        s.execute("update station set state = 'DARK' where number in (3, 4) and job_id = " + id);
      if (step < 3) s.execute("delete from image where sha256 = '" + sha + "'");
      s.execute("update work set state = 'RUNNING' where id = " + work);
      if (step < 4) Files.move(shelf(sha, ".map"), half.resolve("work-" + work + ".map"));
      if (step < 2) Files.move(shelf(sha, ".img"), half.resolve("work-" + work + ".img"));
      Files.writeString(
          half.resolve("work-" + work + ".finished"), JsonMapper.shared().writeValueAsString(note));
    }
    shed.start();
    assertThat(shed.work(work).get("state").asString()).isEqualTo("PAUSED");
    shed.post("/api/runs/" + work + "/resume", Map.of());
    assertThat(shed.settled(work).get("state").asString())
        .as(shed.work(work).toString())
        .isEqualTo("DONE");
    JsonNode again = shed.get("/api/images/" + job(id).get("rescuedId").asLong()).json();
    assertThat(again.get("sha256").asString()).isEqualTo(sha);
    assertThat(Files.readAllBytes(shelf(sha, ".img"))).isEqualTo(b);
    assertThat(shelf(sha, ".map")).exists();
    try (Stream<Path> left = Files.list(half)) {
      assertThat(left).as("nothing half is left").isEmpty();
    }
  }

  @Test
  void aByteThatRottedIsNoticedBySurveyDownloadAndBuildAndAGoodCopyReplacesIt() throws Exception {
    long id = rescued("rots.img");
    long image = job(id).get("rescuedId").asLong();
    String base = "/api/images/" + image;
    Path file = shelf(shed.get(base).json().get("sha256").asString(), ".img");
    byte[] good = Files.readAllBytes(file);
    byte[] bad = good.clone();
    bad[300_000] ^= 1;
    Files.write(file, bad);
    for (String path : List.of("/files?volume=1", "/sectors?start=9", "/zip?volume=1")) {
      assertThat(shed.get(base + path).status()).as(path).isEqualTo(422);
      assertThat(shed.get(base + path).detail()).contains("has changed on the disk");
    }
    for (String form : List.of("raw", "gz", "xz", "zip", "vhd")) {
      assertThatThrownBy(() -> whole(base + "/download?form=" + form))
          .as("a download of what rotted does not end as if it were whole: " + form)
          .isInstanceOf(Exception.class);
    }
    JsonNode found = shed.get("/api/images/find?letters=a").json();
    assertThat(found.get("unread")).as("it hides no other from a search").hasSize(1);
    JsonNode report = checked();
    assertThat(report.get("spoiled")).hasSize(1);
    assertThat(report.get("spoiled").get(0).get("why").asString())
        .contains("differs from its digest");
    Files.write(file, java.util.Arrays.copyOf(bad, bad.length - 512));
    assertThat(shed.get(base + "/download?form=gz").status()).isEqualTo(422);
    // A fresh good copy takes the place of the rotten one.
    rescued("rots.img");
    assertThat(Files.readAllBytes(file)).isEqualTo(good);
    assertThat(checked().get("spoiled")).isEmpty();
    assertThat(whole(base + "/download?form=raw")).isEqualTo(good);
  }

  private static byte[] whole(String path) {
    byte[] b = shed.bytes(path);
    if (new String(b, 0, Math.min(b.length, 20), java.nio.charset.StandardCharsets.ISO_8859_1)
        .startsWith("{")) {
      throw new IllegalStateException("refused");
    }
    return b;
  }

  private static JsonNode checked() {
    assertThat(shed.ended(shed.post("/api/shelf/check", Map.of())).get("state").asString())
        .isEqualTo("DONE");
    return shed.get("/api/shelf/check").json();
  }

  @Test
  void partsOfARawImageComeByRange() throws Exception {
    long id = rescued("range.img");
    long image = job(id).get("rescuedId").asLong();
    var r =
        shed.send(
            shed.request("/api/images/" + image + "/download?form=raw")
                .header("Range", "bytes=510-511"));
    assertThat(r.status()).isEqualTo(206);
    String path = "/api/images/" + image + "/download?form=raw";
    JsonNode view = shed.get("/api/images/" + image).json();
    String bytes = String.valueOf(view.get("sectors").asLong() * 512);
    assertThat(shed.header(shed.request(path), "Content-Length")).isEqualTo(bytes);
    String tag = '"' + view.get("sha256").asString() + '"';
    assertThat(shed.header(shed.request(path), "ETag")).isEqualTo(tag);
    // What is no range, or of another state, is left aside; what lies behind the end has no body.
    assertThat(shed.header(shed.request(path).header("Range", "bytes=abc"), "Content-Length"))
        .isEqualTo(bytes);
    assertThat(
            shed.header(
                shed.request(path).header("Range", "bytes=0-9").header("If-Range", "\"old\""),
                "Content-Length"))
        .isEqualTo(bytes);
    assertThat(
            shed.header(
                shed.request(path).header("Range", "bytes=0-9").header("If-Range", tag),
                "Content-Length"))
        .isEqualTo("10");
    var behind = shed.send(shed.request(path).header("Range", "bytes=" + bytes + "-"));
    assertThat(behind.status()).isEqualTo(416);
    assertThat(behind.text()).isEmpty();
    var head =
        shed.send(
            shed.request("/api/images/" + image + "/download?form=gz")
                .method("HEAD", HttpRequest.BodyPublishers.noBody()));
    assertThat(head.status()).isEqualTo(200);
  }

  @Test
  void oneDeviceIsOneMediumAndAnotherAtItsPlaceIsAnother() throws Exception {
    TestShed.Answer first =
        shed.post("/api/media/devices", Map.of("node", device.toString(), "name", "node"));
    assertThat(first.status()).as(first.text()).isEqualTo(201);
    for (Path again : List.of(device, folder.resolve("link"))) {
      TestShed.Answer a =
          shed.post("/api/media/devices", Map.of("node", again.toString(), "name", "again"));
      assertThat(a.status()).isEqualTo(409);
      assertThat(a.detail()).contains("is there already");
    }
    long id = open(first.json().get("id").asLong());
    byte[] all = Files.readAllBytes(device);
    Files.write(device, java.util.Arrays.copyOf(all, all.length / 2 / 512 * 512));
    long work = shed.post("/api/jobs/" + id + "/rescue", Map.of()).json().get("id").asLong();
    JsonNode w = shed.settled(work);
    assertThat(w.get("state").asString()).isEqualTo("PAUSED");
    assertThat(w.get("message").asString()).contains("Another medium is at");
    Files.write(device, all);
    shed.post("/api/runs/" + work + "/resume", Map.of());
    assertThat(shed.settled(work).get("state").asString()).isEqualTo("DONE");
  }

  @Test
  void aCardThatIsWrittenOverIsToldToBothJobs() {
    long closed = find("Tolley Ledger");
    long gate = find("Larkspur 1900");
    long card = job(closed).get("cardId").asLong();
    assertThat(card).isPositive();
    JsonNode m = shed.get("/api/media/" + card).json();
    assertThat(m.get("holdsImage").asLong()).isEqualTo(job(closed).get("builtId").asLong());
    String serial = m.get("serial").asString();
    TestShed.Answer a =
        shed.post(
            "/api/jobs/" + gate + "/write",
            Map.of("mediumId", card, "confirm", serial.substring(serial.length() - 4)));
    assertThat(a.status()).as(a.text()).isEqualTo(202);
    shed.settled(a.json().get("id").asLong());
    assertThat(job(closed).get("stations").get(6).get("state").asString())
        .as("what was proved then was proved")
        .isEqualTo("MOSS");
    assertThat(job(closed).get("cardId").asLong()).isZero();
    assertThat(logOf(closed)).anyMatch(l -> l.contains("was written over for Larkspur 1900"));
    assertThat(logOf(gate)).anyMatch(l -> l.contains("held the image of Tolley Ledger"));
    assertThat(shed.get("/api/media/" + card).json().get("holdsImage").asLong())
        .isEqualTo(job(gate).get("builtId").asLong());
    a =
        shed.post(
            "/api/images/" + job(closed).get("builtId").asLong() + "/restore",
            Map.of("mediumId", card, "confirm", serial.substring(serial.length() - 4)));
    assertThat(a.status()).as(a.text()).isEqualTo(202);
    shed.settled(a.json().get("id").asLong());
    JsonNode open = job(gate).get("stations").get(6);
    assertThat(open.get("state").asString()).as("an open job writes again").isEqualTo("LIT");
    assertThat(open.get("sentence").asString()).contains("; write this image again");
  }

  private List<String> logOf(long job) {
    List<String> log = new ArrayList<>();
    shed.get("/api/jobs/" + job + "/log").json().forEach(l -> log.add(l.get("text").asString()));
    return log;
  }

  @Test
  void aTextFileIsWarnedOfAtTheDoorAndNotPlannedFromUnasked() throws Exception {
    Path text = folder.resolve("notes.txt");
    Files.writeString(text, "only words, line after line\n".repeat(9000));
    JsonNode m = shed.upload("notes.txt", text).json();
    assertThat(m.get("remark").asString()).contains("neither a table nor a volume");
    long id = open(m.get("id").asLong());
    rescue(id);
    assertThat(job(id).get("stations").get(3).get("state").asString())
        .as("no green lamp over a stop")
        .isEqualTo("BRICK");
    JsonNode choice = shed.get("/api/jobs/" + id + "/plan").json().get("choice");
    Map<String, Object> settle = new HashMap<>();
    settle.put("version", job(id).get("version").asLong());
    settle.put("choice", choice);
    settle.put("allTheSame", false);
    TestShed.Answer a = shed.put("/api/jobs/" + id + "/plan", settle);
    assertThat(a.status()).isEqualTo(422);
    assertThat(a.detail()).contains("The survey stopped").contains("all the same");
    settle.put("allTheSame", true);
    assertThat(shed.put("/api/jobs/" + id + "/plan", settle).status()).isEqualTo(200);
  }

  @Test
  void jobsMediaAndImagesAreCorrectedAndComeBack() throws Exception {
    long id = rescued("away.img");
    JsonNode j = job(id);
    Map<String, Object> facts = new HashMap<>();
    facts.put("version", j.get("version").asLong());
    facts.put("machine", "Renamed");
    facts.put("fault", "said otherwise");
    facts.put("profile", "at-286");
    assertThat(shed.put("/api/jobs/" + id, facts).json().get("machine").asString())
        .isEqualTo("Renamed");
    assertThat(shed.put("/api/jobs/" + id, facts).status()).as("an old version").isEqualTo(409);
    assertThat(shed.delete("/api/images/" + j.get("rescuedId").asLong()).detail())
        .contains("belongs to the job");
    assertThat(shed.delete("/api/media/" + j.get("mediumId").asLong()).detail())
        .contains("in use by the open job Renamed");
    assertThat(shed.delete("/api/jobs/" + id).status()).isEqualTo(204);
    assertThat(shed.get("/api/jobs?find=Renamed").json().get("total").asLong()).isZero();
    assertThat(shed.delete("/api/media/" + j.get("mediumId").asLong()).status()).isEqualTo(204);
    shed.post("/api/media/" + j.get("mediumId").asLong() + "/back", Map.of());
    shed.post("/api/jobs/" + id + "/back", Map.of());
    assertThat(shed.get("/api/jobs?find=Renamed").json().get("total").asLong()).isEqualTo(1);
  }

  private static JsonNode spare(long image) {
    for (JsonNode i : shed.get("/api/shelf/spare").json()) {
      if (i.get("id").asLong() == image) return i;
    }
    return null;
  }

  private static TestShed.Answer giveBack(long image, String confirm) {
    return shed.post(
        "/api/shelf/spare/give-back", Map.of("images", List.of(image), "confirm", confirm));
  }

  /** Whoever names an image and whoever gives its bytes back wait for each other. */
  @Test
  void anImageThatAJobStartsFromIsNotGivenBackMeanwhile() throws Exception {
    int kept = 0;
    int given = 0;
    for (int turn = 0; turn < 12; turn++) {
      Map<String, Object> blank =
          Map.of("name", "raced " + turn, "sectors", 6000 + turn, "disk", "");
      long image = shed.ended(shed.post("/api/images/empty", blank)).get("made").asLong();
      String sha256 = shed.get("/api/images/" + image).json().get("sha256").asString();
      Path file = shed.home().resolve("shelf/images/" + sha256 + ".img");
      Files.setLastModifiedTime(file, FileTime.from(Instant.now().minusSeconds(3600)));
      shed.delete("/api/images/" + image);
      Map<String, Object> job = new HashMap<>();
      job.put("machine", "Raced " + turn);
      job.put("profile", "controller-pc");
      job.put("fault", "");
      job.put("mediumId", 0);
      job.put("startsFrom", "IMAGE");
      job.put("imageId", image);
      int wait = turn % 6 * 4;
      CompletableFuture<TestShed.Answer> opened =
          CompletableFuture.supplyAsync(() -> shed.post("/api/jobs", job));
      Thread.sleep(wait);
      JsonNode gone = giveBack(image, "1").json();
      TestShed.Answer is = opened.get();
      assertThat(is.status()).as(is.text()).isIn(201, 404, 409, 410, 422);
      if (is.status() == 201) {
        kept++;
        assertThat(file).as(gone + " " + is.text()).exists();
        long id = is.json().get("id").asLong();
        assertThat(shed.get("/api/images/" + image + "/survey").status()).isEqualTo(200);
        shed.delete("/api/jobs/" + id);
      } else {
        given++;
        assertThat(gone.get("gone").asInt()).isEqualTo(1);
        assertThat(is.detail()).contains("got back");
      }
    }
    System.out.printf("of 12 images raced for %d were kept, %d given back%n", kept, given);
    assertThat(kept + given).isEqualTo(12);
  }

  /** Room is got back of what was taken away and nothing needs, and of nothing else. */
  @Test
  void roomIsGotBackByAPersonsWordAlone() throws Exception {
    long needed = job(rescued("needed.img")).get("rescuedId").asLong();
    assertThat(spare(needed)).isNull();
    Map<String, Object> blank = Map.of("name", "spare one", "sectors", 4097, "disk", "");
    JsonNode made = shed.ended(shed.post("/api/images/empty", blank));
    assertThat(made.get("state").asString()).as(made.toString()).isEqualTo("DONE");
    long image = made.get("made").asLong();
    String sha256 = shed.get("/api/images/" + image).json().get("sha256").asString();
    Path file = shed.home().resolve("shelf/images/" + sha256 + ".img");
    assertThat(spare(image).get("away").asBoolean()).isFalse();

    // A shelf whose file is away says which image it was, and what brings it back.
    Path aside = Files.move(file, file.resolveSibling("aside"));
    assertThat(shed.get("/api/images/" + image + "/survey").detail())
        .contains("“spare one” are not on this shelf", "Put the shelf's folder back");
    Files.move(aside, file);

    // In sight, needed, unconfirmed, or put there just now: nothing goes.
    assertThat(giveBack(image, "2").detail()).contains("Type how many images go: 1");
    assertThat(giveBack(image, "1").json().get("stayed").get(0).asString()).contains("in sight");
    assertThat(giveBack(needed, "1").json().get("gone").asInt()).isZero();
    assertThat(shed.delete("/api/images/" + image).status()).isEqualTo(204);
    assertThat(giveBack(image, "1").json().get("stayed").get(0).asString()).contains("just now");
    assertThat(file).exists();

    // What waits to go onto it keeps it, wherever it is.
    Files.setLastModifiedTime(file, FileTime.from(Instant.now().minusSeconds(3600)));
    shed.post("/api/images/" + image + "/back", Map.of());
    JsonNode c =
        shed.post("/api/crossings", Map.of("image", 0, "volume", 0, "disk", "720K")).json();
    String crossing = "/api/crossings/" + c.get("id").asLong();
    shed.ended(
        shed.post(
            crossing + "/from-image",
            Map.of("image", image, "in", "", "brings", "WHOLE", "volume", 0, "folder", "")));
    assertThat(spare(image)).isNull();
    assertThat(shed.delete("/api/images/" + image).status()).isEqualTo(204);
    assertThat(giveBack(image, "1").json().get("stayed").get(0).asString())
        .contains("needed by crossing");
    assertThat(shed.delete(crossing).status()).isEqualTo(204);

    JsonNode gone = giveBack(image, "1").json();
    assertThat(gone.get("sentence").asString())
        .startsWith("1 image is gone for good; up to 2.0 MiB");
    assertThat(file).doesNotExist();
    assertThat(spare(image)).isNull();
    assertThat(shed.post("/api/images/" + image + "/back", Map.of()).detail())
        .contains("its bytes are gone");
    assertThat(shed.get("/api/images/" + image + "/survey").detail()).contains("was got back");
    assertThat(shed.ended(shed.post("/api/shelf/check", Map.of())).get("state").asString())
        .isEqualTo("DONE");
    assertThat(shed.get("/api/shelf/check").json().get("spoiled")).isEmpty();

    // A program that was killed between the row and the bytes left them: they can still go, and
    // of two people who ask for the same one is told that it is gone.
    Files.write(file, new byte[4097 * 512]);
    Files.setLastModifiedTime(file, FileTime.from(Instant.now().minusSeconds(3600)));
    assertThat(spare(image).get("away").asBoolean()).isTrue();
    assertThat(giveBack(image, "1").json().get("gone").asInt()).isEqualTo(1);
    assertThat(file).doesNotExist();
    assertThat(giveBack(image, "1").json().get("stayed").get(0).asString())
        .contains("no such image on the shelf any more");

    // Made once more it is the same image, with its bytes.
    long again = shed.ended(shed.post("/api/images/empty", blank)).get("made").asLong();
    assertThat(again).isEqualTo(image);
    assertThat(file).exists();
    assertThat(shed.get("/api/images/" + image + "/survey").status()).isEqualTo(200);
  }

  @Test
  void whatTheDatabaseOfANewerProgramHoldsIsNotTouched() throws Exception {
    try (TestShed newer = new TestShed(false, 0)) {
      newer.kill();
      try (Connection c = newer.database();
          var s = c.createStatement()) {
        s.execute(
            "insert into flyway_schema_history select installed_rank + 100, '99', 'later', type,"
                + " 'V99__later.sql', checksum, installed_by, installed_on, execution_time, success"
                + " from flyway_schema_history order by installed_rank desc limit 1");
      }
      assertThat(newer.startsNot()).contains("was used by a newer Lantern Shed");
    }
  }

  /** Of two who change one thing at once neither undoes what the other was told is done. */
  @Test
  void whoRenamesAndWhoTakesAwayAtOnceBothKeepWhatTheyDid() throws Exception {
    for (int turn = 0; turn < 12; turn++) {
      Map<String, Object> blank =
          Map.of("name", "before " + turn, "sectors", 7000 + turn, "disk", "");
      long image = shed.ended(shed.post("/api/images/empty", blank)).get("made").asLong();
      long card = card("before " + turn);
      int wait = turn % 6 * 4;
      var renamed =
          CompletableFuture.supplyAsync(
              () -> shed.put("/api/images/" + image, Map.of("name", "after " + image)));
      var called =
          CompletableFuture.supplyAsync(
              () -> shed.put("/api/media/" + card, Map.of("name", "after " + card)));
      Thread.sleep(wait);
      int away = shed.delete("/api/images/" + image).status();
      int joint = shed.put("/api/media/" + card + "/joint", Map.of("joint", "cf50")).status();
      assertThat(List.of(renamed.get().status(), called.get().status(), away, joint))
          .as("turn " + turn)
          .containsExactly(200, 200, 204, 200);
      JsonNode now = spare(image);
      assertThat(now.get("name").asString()).isEqualTo("after " + image);
      assertThat(now.get("away").asBoolean()).isTrue();
      JsonNode medium = shed.get("/api/media/" + card).json();
      assertThat(medium.get("name").asString()).isEqualTo("after " + card);
      assertThat(medium.get("joint").asString()).isEqualTo("cf50");
    }
  }

  private static long card(String name) {
    Map<String, Object> card =
        Map.of("name", name, "serial", "RACE-0001", "labelMegabytes", 4, "sectors", 8000);
    return shed.post("/api/media/cards", card).json().get("id").asLong();
  }

  /** A card out of the drawer still holds its image: nobody gives that back. */
  @Test
  void whatACardHoldsStaysAndACardOfUnknownContentIsWipedByAWordOnly() throws Exception {
    Map<String, Object> blank = Map.of("name", "held", "sectors", 7900, "disk", "");
    long image = shed.ended(shed.post("/api/images/empty", blank)).get("made").asLong();
    long card = card("a holder");
    String wipe = "/api/media/" + card + "/wipe";
    assertThat(shed.get(wipe).json().get("unknown").asString()).as("nothing was written").isEmpty();
    Map<String, Object> order = Map.of("mediumId", card, "confirm", "0001");
    long work = shed.post("/api/images/" + image + "/restore", order).json().get("id").asLong();
    // The medium stays as long as work on it is in hand.
    TestShed.Answer early = shed.delete("/api/media/" + card);
    JsonNode written = shed.settled(work);
    assertThat(written.get("state").asString()).as(written.toString()).isEqualTo("DONE");
    if (early.status() == 204) shed.post("/api/media/" + card + "/back", Map.of());
    else assertThat(early.detail()).contains("work that is in hand");
    assertThat(shed.get(wipe).json().get("unknown").asString()).as("its image is kept").isEmpty();

    assertThat(shed.delete("/api/media/" + card).status()).isEqualTo(204);
    shed.delete("/api/images/" + image);
    assertThat(spare(image)).as("needed by a card that is out of sight").isNull();
    assertThat(giveBack(image, "1").text()).contains("the card a holder, which holds it");
    shed.post("/api/media/" + card + "/back", Map.of());

    // As a shed of before let it come about: the card's only other copy is gone.
    try (var c = shed.database();
        var s = c.createStatement()) {
      s.execute("update image set here = false where id = " + image);
      var file = s.executeQuery("select file from medium where id = " + card);
      file.next();
      Path there = shed.home().resolve("shelf/media/" + file.getString(1));
      Files.write(there, new byte[] {7, 7, 7}, StandardOpenOption.WRITE);
    }
    Map<String, Object> wish =
        new HashMap<>(Map.of("confirm", "0001", "school", "ZEROS", "whole", false, "by", ""));
    assertThat(shed.get(wipe).json().get("unknown").asString()).isEqualTo("nothing that is known");
    assertThat(shed.post(wipe, wish).detail()).contains("so it may be the only copy");
    wish.put("nothingNeeded", true);
    JsonNode w = shed.settled(shed.post(wipe, wish).json().get("id").asLong());
    assertThat(w.get("state").asString()).as(w.toString()).isEqualTo("DONE");
  }

  /** No job is off the bench while work on it is in hand. */
  @Test
  void whoBeginsWorkAndWhoTakesTheJobAwayWaitForEachOther() throws Exception {
    Path own = folder.resolve("away.img");
    Files.write(own, new byte[64 << 10]);
    int begun = 0;
    for (int turn = 0; turn < 12; turn++) {
      Map<String, Object> job = new HashMap<>();
      job.put("machine", "Away " + turn);
      job.put("profile", "controller-pc");
      job.put("fault", "");
      job.put("mediumId", shed.upload("away " + turn, own).json().get("id").asLong());
      job.put("startsFrom", "MEDIUM");
      job.put("imageId", 0);
      TestShed.Answer opened = shed.post("/api/jobs", job);
      assertThat(opened.status()).as(opened.text()).isEqualTo(201);
      long id = opened.json().get("id").asLong();
      var away = CompletableFuture.supplyAsync(() -> shed.delete("/api/jobs/" + id));
      Thread.sleep(turn % 6 * 3);
      TestShed.Answer rescue = shed.post("/api/jobs/" + id + "/rescue", Map.of());
      boolean gone = away.get().status() == 204;
      assertThat(gone && rescue.status() == 202).as("turn " + turn + rescue.text()).isFalse();
      if (rescue.status() != 202) continue;
      begun++;
      shed.settled(rescue.json().get("id").asLong());
    }
    assertThat(begun).as("turns in which the work came first").isLessThan(12);
  }
}
