package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowable;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import lanternshed.core.node.AskedNodes;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** The reader process opens the nodes; the server has no list and no node open, and asks. */
class ReaderProcessTest extends RealCards {
  private Process reader;
  private List<String> nodes;

  @Override
  Map<String, String> settings(List<String> listed) throws IOException {
    nodes = listed;
    begin();
    return Map.of("SHED_READER", socket().toString(), "SHED_DEVICES", "");
  }

  private Path socket() {
    return Path.of("/tmp").resolve(folder.getFileName() + ".sock");
  }

  private void begin() throws IOException {
    List<String> command =
        new ArrayList<>(List.of(System.getProperty("java.home") + "/bin/java", "-Xmx64m", "-cp"));
    command.add(System.getProperty("java.class.path"));
    command.addAll(List.of("lanternshed.core.cli.Shed", "reader", "--socket"));
    command.add(socket().toString());
    command.addAll(nodes);
    reader =
        new ProcessBuilder(command)
            .redirectErrorStream(true)
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .start();
    AskedNodes nodesThere = new AskedNodes(socket());
    TestShed.await(() -> Files.exists(socket()) && catchThrowable(nodesThere::all) == null);
  }

  private void kill() throws InterruptedException {
    reader.destroyForcibly().waitFor();
  }

  @AfterAll
  void end() throws Exception {
    if (reader == null) return;
    kill();
    Files.deleteIfExists(socket());
  }

  private List<String> open(long process) throws IOException {
    try (var all = Files.list(Path.of("/proc/" + process + "/fd"))) {
      return all.map(Path::toFile).map(ReaderProcessTest::target).toList();
    }
  }

  private static String target(java.io.File link) {
    try {
      return Files.readSymbolicLink(link.toPath()).toString();
    } catch (IOException e) {
      return "";
    }
  }

  /** In the middle of a write the node is open at the reader process and nowhere else. */
  @Test
  @Order(9)
  void theServerHasNoNodeOpenAndAKilledReaderIsSaidAndWorkGoesOn() throws Exception {
    String node = loops.get(0);
    JsonNode media = shed.get("/api/media").json();
    long card = 0;
    for (JsonNode m : media) {
      if (m.get("node").asString().equals(node) && m.get("sectors").asLong() == LARGE) {
        card = m.get("id").asLong();
      }
    }
    JsonNode blank =
        shed.ended(shed.post("/api/images/empty", Map.of("name", "another", "sectors", LARGE)));
    String restore = "/api/images/" + blank.get("made").asLong() + "/restore";
    String word =
        shed.get(restore + "-check?mediumId=" + card).json().get("description").asString();
    Map<String, Object> order =
        Map.of("mediumId", card, "confirm", word.substring(word.lastIndexOf(' ') + 1));
    TestShed.Answer begun = shed.post(restore, order);
    assertThat(begun.status()).as(begun.text()).isEqualTo(202);
    long work = begun.json().get("id").asLong();
    String at = "/api/runs/" + work;
    TestShed.await(() -> shed.get(at).json().get("done").asLong() > 64 << 20);
    assertThat(open(reader.pid())).contains(node);
    assertThat(open(shed.pid())).isNotEmpty().doesNotContain(node);

    kill();
    JsonNode stopped = shed.settled(work);
    assertThat(stopped.get("message").asString())
        .contains("is out of reach")
        .contains("./shed reader");
    assertThat(shed.get("/api/media/devices").detail()).contains("The reader process at");
    begin();
    shed.post(at + "/resume", Map.of());
    JsonNode w = shed.settled(work);
    assertThat(w.get("state").asString()).as(w.toString()).isEqualTo("DONE");
  }
}
