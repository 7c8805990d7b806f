package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** The power goes in the middle of long work: it stands where it was and goes on. */
class KilledTest {

  @Test
  void aRescueAndAWriteGoOnAfterTheServerWasKilled() {
    try (TestShed shed = new TestShed(true, 4)) {
      long id = find(shed, "Corvane KD-3");
      long rescue = shed.post("/api/jobs/" + id + "/rescue", Map.of()).json().get("id").asLong();
      long whole = shed.work(rescue).get("total").asLong();
      TestShed.await(() -> shed.work(rescue).get("done").asLong() > whole / 5);
      assertThat(shed.post("/api/jobs/" + id + "/rescue", Map.of()).status()).isEqualTo(409);
      shed.kill();
      shed.start();
      JsonNode stands = shed.work(rescue);
      assertThat(stands.get("state").asString()).isEqualTo("PAUSED");
      assertThat(stands.get("message").asString()).contains("goes on where it stood");
      assertThat(
              shed.get("/api/runs/" + rescue + "/map")
                  .json()
                  .get("ranges")
                  .get(0)
                  .get("state")
                  .asString())
          .isEqualTo("READ");
      shed.post("/api/runs/" + rescue + "/resume", Map.of());
      assertThat(shed.settled(rescue).get("state").asString()).isEqualTo("DONE");
      JsonNode job = shed.get("/api/jobs/" + id).json();
      JsonNode image = shed.get("/api/images/" + job.get("rescuedId").asLong()).json();
      assertThat(image.get("lost").asLong()).isPositive();
      assertThat(image.get("hits")).anyMatch(h -> h.get("kind").asString().equals("file"));

      plan(shed, id);
      long build = shed.post("/api/jobs/" + id + "/build", Map.of()).json().get("id").asLong();
      assertThat(shed.settled(build).get("state").asString())
          .as(shed.work(build).toString())
          .isEqualTo("DONE");
      write(shed, id);
    }
  }

  private static long find(TestShed shed, String machine) {
    for (JsonNode j : shed.get("/api/jobs?size=100").json().get("rows")) {
      if (j.get("machine").asString().startsWith(machine)) return j.get("id").asLong();
    }
    throw new IllegalStateException(machine);
  }

  private static void plan(TestShed shed, long id) {
    JsonNode proposal = shed.get("/api/jobs/" + id + "/plan").json();
    long version = shed.get("/api/jobs/" + id).json().get("version").asLong();
    TestShed.Answer a =
        shed.put(
            "/api/jobs/" + id + "/plan",
            Map.of("version", version, "choice", proposal.get("choice"), "allTheSame", false));
    assertThat(a.status()).as(a.text()).isEqualTo(200);
  }

  private static void write(TestShed shed, long id) {
    JsonNode card = null;
    for (JsonNode m : shed.get("/api/media").json()) {
      if (m.get("serial").asString().startsWith("SMCF-0512")) card = m;
    }
    String serial = card.get("serial").asString();
    long write =
        shed.post(
                "/api/jobs/" + id + "/write",
                Map.of(
                    "mediumId",
                    card.get("id").asLong(),
                    "confirm",
                    serial.substring(serial.length() - 4)))
            .json()
            .get("id")
            .asLong();
    long whole = shed.work(write).get("total").asLong();
    TestShed.await(
        () -> {
          JsonNode w = shed.work(write);
          return w.get("phase").asString().equals("writing") && w.get("done").asLong() > whole / 4;
        });
    shed.kill();
    shed.start();
    assertThat(shed.work(write).get("state").asString()).isEqualTo("PAUSED");
    long stood = shed.work(write).get("done").asLong();
    assertThat(stood).isPositive();
    shed.post("/api/runs/" + write + "/resume", Map.of());
    assertThat(shed.settled(write).get("state").asString())
        .as(shed.work(write).toString())
        .isEqualTo("DONE");
    JsonNode station = shed.get("/api/jobs/" + id).json().get("stations").get(6);
    assertThat(station.get("sentence").asString()).startsWith("Reads back identical");
  }
}
