package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/**
 * The database goes away under each kind of work and comes back: nothing is lost, and it goes on.
 */
@Tag("trial")
class DatabaseAwayTest {
  @TempDir static Path folder;
  private static TestShed shed;

  @BeforeAll
  static void start() {
    shed = new TestShed(true, 10);
  }

  @AfterAll
  static void stop() {
    shed.close();
  }

  /** Seconds that it stays away; one, ten and sixty in the longer trial. */
  private static int[] seconds() {
    return Boolean.getBoolean("trials") ? new int[] {1, 10, 60} : new int[] {1, 7};
  }

  private static JsonNode job(long id) {
    return shed.get("/api/jobs/" + id).json();
  }

  private static void away(int seconds) throws InterruptedException {
    TestDatabase.get().takeAway();
    long until = System.nanoTime() + seconds * 1_000_000_000L;
    boolean told = false;
    while (System.nanoTime() < until) {
      Thread.sleep(300);
      if (seconds < 5) continue;
      told |= shed.get("/actuator/health/readiness").status() == 503;
      TestShed.Answer a = shed.get("/api/jobs");
      if (a.status() == 200) continue;
      assertThat(a.status()).isEqualTo(503);
      assertThat(a.detail()).contains("The database does not answer");
    }
    if (seconds >= 5) assertThat(told).as("readiness says so").isTrue();
    TestDatabase.get().bringBack();
    TestShed.await(() -> shed.get("/api/jobs").status() == 200);
  }

  private static void running(long work, String phase) {
    TestShed.await(
        () -> {
          JsonNode w = shed.work(work);
          return w.get("state").asString().equals("RUNNING")
              && w.get("phase").asString().startsWith(phase)
              && w.get("done").asLong() > 0;
        });
  }

  private static void ends(long work) {
    TestShed.await(
        () -> {
          TestShed.Answer a = shed.get("/api/runs/" + work);
          return a.status() == 200
              && !java.util.List.of("QUEUED", "RUNNING", "PAUSED")
                  .contains(a.json().get("state").asString());
        });
    assertThat(shed.work(work).get("state").asString())
        .as(shed.work(work).toString())
        .isEqualTo("DONE");
  }

  private static long find(String machine) {
    for (JsonNode j : shed.get("/api/jobs?size=100").json().get("rows")) {
      if (j.get("machine").asString().startsWith(machine)) return j.get("id").asLong();
    }
    throw new IllegalStateException(machine);
  }

  private static long drive(String job) {
    return job(find(job)).get("mediumId").asLong();
  }

  @Test
  void aRescueGoesOnByItselfAndIsWhole() throws Exception {
    for (int s : seconds()) {
      Map<String, Object> job = new HashMap<>();
      job.put("machine", "Rescue " + s);
      job.put("profile", "controller-pc");
      job.put("fault", "");
      job.put("mediumId", drive("Tolley Ledger"));
      long id = shed.post("/api/jobs", job).json().get("id").asLong();
      long work = shed.post("/api/jobs/" + id + "/rescue", Map.of()).json().get("id").asLong();
      running(work, "reading");
      away(s);
      ends(work);
      JsonNode image = shed.get("/api/images/" + job(id).get("rescuedId").asLong()).json();
      String sha = image.get("sha256").asString();
      byte[] b = Files.readAllBytes(shed.home().resolve("shelf/images/" + sha + ".img"));
      assertThat(HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(b)))
          .isEqualTo(sha);
    }
  }

  @Test
  void aWriteGoesOnFromWhereTheCardIsSafe() throws Exception {
    long id = find("Tolley Ledger");
    long card = job(id).get("cardId").asLong();
    String serial = shed.get("/api/media/" + card).json().get("serial").asString();
    for (int s : seconds()) {
      Map<String, Object> order =
          Map.of("mediumId", card, "confirm", serial.substring(serial.length() - 4));
      long work = shed.post("/api/jobs/" + id + "/write", order).json().get("id").asLong();
      running(work, "writing");
      away(s);
      ends(work);
      assertThat(job(id).get("stations").get(6).get("sentence").asString())
          .startsWith("Reads back identical");
    }
  }

  @Test
  void aBuildBeginsAnewAndIsProved() throws Exception {
    long id = find("Tolley Ledger");
    for (int s : seconds()) {
      long work = shed.post("/api/jobs/" + id + "/build", Map.of()).json().get("id").asLong();
      Thread.sleep(200);
      away(s);
      ends(work);
      assertThat(shed.get("/api/jobs/" + id + "/proof").json().get("proved").asBoolean()).isTrue();
    }
  }
}
