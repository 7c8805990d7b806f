package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.function.BooleanSupplier;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * The real application in a process of its own, against a real database: it can be killed. Of the
 * computer's devices, and of a reader process that runs there, it knows nothing but what it is
 * told.
 */
public final class TestShed implements AutoCloseable {
  private static final JsonMapper JSON = JsonMapper.shared();

  /** Read by the program {@code java} besides what it is called with. */
  private static final String JAVA_OPTIONS = "JDK_JAVA_OPTIONS";

  /**
   * For a shed that digests gigabytes. Others are compiled quickly and not far, which halves what a
   * start costs the processor, and makes a digest three times slower.
   */
  static final Map<String, String> DIGESTS_MUCH = Map.of(JAVA_OPTIONS, "");

  private final HttpClient http = HttpClient.newHttpClient();
  private final Path home;
  private final String database;
  private final boolean demo;
  private final int pace;
  private final int port;
  private final Map<String, String> more;
  private final List<String> command;
  private Process process;

  /** What the server answered. */
  public record Answer(int status, JsonNode json, String text) {
    public String detail() {
      return json.path("detail").asString("");
    }
  }

  private static TestShed shared;

  /**
   * An empty shed that the classes of a process use one after the other: for those that know what
   * they made by its number, and stop nothing.
   */
  static synchronized TestShed shared() {
    if (shared == null) {
      shared = new TestShed(false, 0);
      Runtime.getRuntime().addShutdownHook(new Thread(shared::close));
    }
    return shared;
  }

  public TestShed(boolean demo, int pace) {
    this(demo, pace, Map.of());
  }

  /**
   * @param more settings by the names of the environment
   */
  public TestShed(boolean demo, int pace, Map<String, String> more) {
    this.more = more;
    try {
      this.demo = demo;
      this.pace = pace;
      home = Files.createTempDirectory("shed-home");
      Prepared prepared = Prepared.get();
      database = demo ? prepared.demonstration(home) : TestDatabase.get().fresh();
      command = prepared.command();
      port = TestDatabase.freePort();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    start();
  }

  /** A shed that lays the demonstration out by itself, started by a command of one's own. */
  TestShed(List<String> command) {
    this.more = DIGESTS_MUCH;
    this.command = command;
    try {
      this.demo = true;
      this.pace = 0;
      home = Files.createTempDirectory("shed-home");
      database = TestDatabase.get().fresh();
      port = TestDatabase.freePort();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    start();
    // Power gone in the middle: what all tests of the demonstration look at was laid out by two
    // starts.
    await(() -> get("/api/jobs").text().contains("the shed is working"));
    kill();
    start();
    awaitDemonstration();
  }

  /** Until all of the demonstration is there. */
  void awaitDemonstration() {
    await(() -> get("/api/demo").json().path("of").asInt() > 0);
    await(
        () -> {
          JsonNode d = get("/api/demo").json();
          assertThat(d.get("failed").asString()).isEmpty();
          return d.get("done").asInt() == d.get("of").asInt();
        });
  }

  String address() {
    return database;
  }

  /** As a person stops it. */
  void stop() {
    process.destroy();
    try {
      process.waitFor();
    } catch (InterruptedException e) {
      throw new IllegalStateException(e);
    }
  }

  public int port() {
    return port;
  }

  public long pid() {
    return process.pid();
  }

  public Path home() {
    return home;
  }

  public Path log() {
    return home.resolve("server.log");
  }

  /** Starts, or starts again on the same data. */
  public void start() {
    launch();
    await(
        () -> {
          if (!process.isAlive()) throw new IllegalStateException(text(log()));
          try {
            return get("/actuator/health/readiness").status() == 200;
          } catch (IllegalStateException e) {
            return false;
          }
        });
  }

  /** Starts where it is not meant to come up, and gives what it said. */
  public String startsNot() {
    launch();
    await(() -> !process.isAlive());
    return text(log());
  }

  /** The database, for what no address of the server tells. */
  public java.sql.Connection database() throws java.sql.SQLException {
    return java.sql.DriverManager.getConnection(database, "shed", "test");
  }

  private void launch() {
    ProcessBuilder b = new ProcessBuilder(command).redirectErrorStream(true);
    b.environment().put(JAVA_OPTIONS, "-XX:TieredStopAtLevel=1");
    b.environment()
        .putAll(
            Map.of(
                "SHED_DB_URL", database,
                "SHED_DB_PASSWORD", "test",
                "SHED_HOME", home.resolve("shelf").toString(),
                "SHED_DEVICES", "",
                "SHED_READER", home.resolve("reader.sock").toString(),
                "SHED_DEMO", String.valueOf(demo),
                "SHED_PACE", String.valueOf(pace),
                "SHED_PORT", String.valueOf(port)));
    b.environment().putAll(more);
    try {
      process = b.redirectOutput(ProcessBuilder.Redirect.appendTo(log().toFile())).start();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** As if the power went: no chance to put anything in order. */
  public void kill() {
    try {
      process.destroyForcibly().waitFor();
    } catch (InterruptedException e) {
      throw new IllegalStateException(e);
    }
  }

  @Override
  public void close() {
    kill();
    try (var all = Files.walk(home)) {
      all.sorted(java.util.Comparator.reverseOrder()).forEach(p -> p.toFile().delete());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  public static void await(BooleanSupplier what) {
    for (int i = 0; i < 1800; i++) {
      if (what.getAsBoolean()) return;
      try {
        Thread.sleep(100);
      } catch (InterruptedException e) {
        throw new IllegalStateException(e);
      }
    }
    throw new IllegalStateException("did not come within three minutes");
  }

  private static String text(Path p) {
    try {
      return Files.readString(p);
    } catch (IOException e) {
      return e.getMessage();
    }
  }

  // ---- talking ----------------------------------------------------------------------------------

  public HttpRequest.Builder request(String path) {
    return HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path));
  }

  public Answer get(String path) {
    return send(request(path).GET());
  }

  public Answer post(String path, Object body) {
    return send(json(path).POST(BodyPublishers.ofString(JSON.writeValueAsString(body))));
  }

  public Answer put(String path, Object body) {
    return send(json(path).PUT(BodyPublishers.ofString(JSON.writeValueAsString(body))));
  }

  public Answer putBytes(String path, byte[] body) {
    return send(
        request(path)
            .header("Content-Type", "application/octet-stream")
            .PUT(BodyPublishers.ofByteArray(body)));
  }

  public Answer postBytes(String path, byte[] body) {
    return send(
        request(path)
            .header("Content-Type", "application/octet-stream")
            .POST(BodyPublishers.ofByteArray(body)));
  }

  public Answer delete(String path) {
    return send(request(path).DELETE());
  }

  public Answer upload(String name, Path file) throws IOException {
    String query = java.net.URLEncoder.encode(name, java.nio.charset.StandardCharsets.UTF_8);
    return send(request("/api/media/upload?name=" + query).POST(BodyPublishers.ofFile(file)));
  }

  public byte[] bytes(String path) {
    return exchange(request(path).GET(), BodyHandlers.ofByteArray()).body();
  }

  private HttpRequest.Builder json(String path) {
    return request(path).header("Content-Type", "application/json");
  }

  public Answer send(HttpRequest.Builder r) {
    HttpResponse<String> a = exchange(r, BodyHandlers.ofString());
    String text = a.body();
    boolean json = text.startsWith("{") || text.startsWith("[");
    return new Answer(a.statusCode(), json ? JSON.readTree(text) : JSON.createObjectNode(), text);
  }

  private <T> HttpResponse<T> exchange(HttpRequest.Builder r, HttpResponse.BodyHandler<T> as) {
    try {
      return http.send(r.build(), as);
    } catch (IOException e) {
      throw new IllegalStateException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  /** One header of an answer. */
  public String header(HttpRequest.Builder r, String name) {
    return exchange(r, BodyHandlers.discarding()).headers().firstValue(name).orElse("");
  }

  /** Waits until an errand has ended, and gives it. */
  public JsonNode ended(Answer begun) {
    assertThat(begun.status()).as(begun.text()).isEqualTo(202);
    String path = "/api/errands/" + begun.json().get("id").asString();
    await(() -> !get(path).json().get("state").asString().equals("RUNNING"));
    return get(path).json();
  }

  /** Waits until a piece of work is no longer running, and gives it. */
  public JsonNode settled(long work) {
    await(() -> !List.of("QUEUED", "RUNNING").contains(work(work).get("state").asString()));
    return work(work);
  }

  public JsonNode work(long work) {
    return get("/api/runs/" + work).json();
  }
}
