package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Listeners that do not read, downloads nobody takes, uploads that trickle, requests of any form.
 */
@Tag("trial")
class PressureTest {
  private static TestShed shed;

  @BeforeAll
  static void start() {
    shed = new TestShed(true, 0);
  }

  @AfterAll
  static void stop() {
    shed.close();
  }

  private static Socket open(String request) throws IOException {
    Socket s = new Socket();
    s.setReceiveBufferSize(4096);
    s.connect(new java.net.InetSocketAddress("127.0.0.1", shed.port()));
    s.getOutputStream().write(request.getBytes(StandardCharsets.ISO_8859_1));
    s.getOutputStream().flush();
    return s;
  }

  private static String get(String path) {
    return "GET " + path + " HTTP/1.1\r\nHost: 127.0.0.1:" + shed.port() + "\r\n\r\n";
  }

  private static void close(List<Socket> all) throws IOException {
    for (Socket s : all) s.close();
  }

  private static double seconds(Runnable r) {
    long start = System.nanoTime();
    r.run();
    return (System.nanoTime() - start) / 1e9;
  }

  @Test
  void aPageThatListensAndDoesNotReadHoldsNobody() throws Exception {
    List<Socket> deaf = new ArrayList<>();
    for (int i = 0; i < 5; i++) deaf.add(open(get("/api/events")));
    String note = "x".repeat(1500);
    double worst = 0;
    for (int i = 0; i < 400; i++) {
      Map<String, Object> facts = new HashMap<>();
      JsonNode j = shed.get("/api/jobs/1").json();
      facts.put("version", j.get("version").asLong());
      facts.put("machine", j.get("machine").asString());
      facts.put("profile", j.get("profile").asString());
      facts.put("fault", i % 2 == 0 ? note.substring(0, 300) : "Clicks.");
      worst =
          Math.max(
              worst,
              seconds(() -> assertThat(shed.put("/api/jobs/1", facts).status()).isEqualTo(200)));
    }
    System.out.printf("with five deaf listeners: slowest of 400 changes %.2f s%n", worst);
    assertThat(worst).isLessThan(10);
    close(deaf);
  }

  @Test
  void downloadsThatNobodyTakesAndUploadsThatTrickleHoldOnlyThemselves() throws Exception {
    long image = rescued();
    List<Socket> all = new ArrayList<>();
    for (int i = 0; i < 24; i++) {
      all.add(open(get("/api/images/" + image + "/download?form=" + (i % 2 == 0 ? "gz" : "raw"))));
    }
    for (int i = 0; i < 300; i++) {
      all.add(
          open(
              "POST /api/media/upload?name=slow HTTP/1.1\r\nHost: 127.0.0.1:"
                  + shed.port()
                  + "\r\nContent-Type: application/octet-stream\r\nContent-Length: 100000\r\n\r\nx"));
    }
    double list = seconds(() -> assertThat(shed.get("/api/jobs").status()).isEqualTo(200));
    byte[][] got = {null};
    double download =
        seconds(() -> got[0] = shed.bytes("/api/images/" + image + "/download?form=gz"));
    assertThat(got[0]).hasSizeGreaterThan(1000);
    System.out.printf(
        "beside 24 unread downloads and 300 trickling uploads: list %.2f s, download %.2f s%n",
        list, download);
    assertThat(list).isLessThan(10);
    close(all);
  }

  /** An image with something on it: other tests put small and empty ones on the shelf. */
  private static long rescued() {
    for (JsonNode i : shed.get("/api/images").json()) {
      if (i.get("name").asString().endsWith(", as rescued")) return i.get("id").asLong();
    }
    throw new AssertionError("the demonstration has no rescued image");
  }

  @Test
  void twoThousandJobsAreListedByThePage() throws Exception {
    try (TestShed many = new TestShed(false, 0)) {
      try (Connection c = many.database();
          var s = c.createStatement()) {
        s.execute(
            "insert into job (version, machine, profile, fault, plan_choice, recipe, proof, closed,"
                + " created, changed, verdict) select 0, 'machine ' || n, 'controller-pc', 'fault',"
                + " '', '', '', n % 3 = 0, now(), now(), '' from generate_series(1, 2000) n");
        s.execute(
            "insert into station (job_id, number, state, sentence, record) select j.id, k, case when"
                + " k = 1 then 'LIT' else 'DARK' end, '', '' from job j, generate_series(1, 10) k");
      }
      many.get("/api/jobs");
      double best = Double.MAX_VALUE;
      TestShed.Answer[] a = {null};
      for (int i = 0; i < 5; i++) {
        best = Math.min(best, seconds(() -> a[0] = many.get("/api/jobs")));
      }
      System.out.printf(
          "2 000 jobs: a page in %.0f ms, %d KB%n", best * 1000, a[0].text().length() / 1024);
      assertThat(a[0].json().get("rows")).hasSize(50);
      assertThat(a[0].json().get("total").asLong()).isEqualTo(2000);
      assertThat(
              many.get("/api/jobs?waits=closed&find=machine%201999").json().get("total").asLong())
          .isZero();
      assertThat(many.get("/api/jobs?find=1998").json().get("total").asLong()).isEqualTo(1);
      assertThat(best).isLessThan(1);
    }
  }

  @Test
  void ofTwoWhoSettleAtOnceOneIsTold() throws Exception {
    String job = null;
    for (JsonNode j : shed.get("/api/jobs").json().get("rows")) {
      if (j.get("machine").asString().startsWith("Corvane KD-1")) {
        job = "/api/jobs/" + j.get("id").asLong();
      }
    }
    String path = job;
    ExecutorService two = Executors.newFixedThreadPool(2);
    for (int i = 0; i < 10; i++) {
      Map<String, Object> settle = new HashMap<>();
      settle.put("version", shed.get(path).json().get("version").asLong());
      settle.put("choice", shed.get(path + "/plan").json().get("choice"));
      settle.put("allTheSame", false);
      var a = CompletableFuture.supplyAsync(() -> shed.put(path + "/plan", settle).status(), two);
      var b = CompletableFuture.supplyAsync(() -> shed.put(path + "/plan", settle).status(), two);
      assertThat(List.of(a.get(), b.get())).containsExactlyInAnyOrder(200, 409);
    }
    two.shutdown();
  }

  /** A full pool is no database that is away, and nobody is sent off for it. */
  @Test
  void twoHundredReadersGetAnswersAndNoErrors() throws Exception {
    long job = shed.get("/api/jobs").json().get("rows").get(0).get("id").asLong();
    List<String> pages =
        List.of(
            "/api/jobs",
            "/api/jobs/" + job,
            "/api/jobs/" + job + "/log",
            "/api/jobs/" + job + "/fault",
            "/api/jobs/" + job + "/plan",
            "/api/media",
            "/api/images",
            "/api/register",
            "/api/shelf/spare");
    for (String p : pages) assertThat(shed.get(p).status()).as(p).isEqualTo(200);
    List<Double> took = Collections.synchronizedList(new ArrayList<>());
    Map<Integer, Integer> by = new ConcurrentHashMap<>();
    long until = System.nanoTime() + (Boolean.getBoolean("trials") ? 60 : 10) * 1_000_000_000L;
    ExecutorService readers = Executors.newFixedThreadPool(200);
    for (int n = 0; n < 200; n++) {
      Random r = new Random(n);
      readers.submit(
          () -> {
            while (System.nanoTime() < until) {
              int[] status = {0};
              String page = pages.get(r.nextInt(pages.size()));
              took.add(seconds(() -> status[0] = shed.get(page).status()));
              by.merge(status[0], 1, Integer::sum);
              Thread.sleep(r.nextInt(1000));
            }
            return null;
          });
    }
    readers.shutdown();
    assertThat(readers.awaitTermination(120, TimeUnit.SECONDS)).isTrue();
    Collections.sort(took);
    System.out.printf(
        "200 readers: %d answers %s, half within %.2f s, 99 of 100 within %.2f s%n",
        took.size(), by, took.get(took.size() / 2), took.get(took.size() * 99 / 100));
    assertThat(by.keySet()).containsExactly(200);
  }

  // ---- requests of any form ---------------------------------------------------------------------

  private static final List<Object> ODD =
      Arrays.asList(
          null,
          "",
          " ",
          "x",
          "\0",
          "a".repeat(3000),
          -1,
          0,
          1,
          4,
          Long.MAX_VALUE,
          1e300,
          true,
          List.of(),
          Arrays.asList((Object) null),
          Map.of(),
          "WORKS",
          "controller-pc",
          "👻",
          "half \ud83d",
          "../../etc/passwd",
          "=1+1",
          List.of(1, 2),
          Map.of("a", 1));

  private static Object value(JsonNode schema, JsonNode all, Random dice, int depth) {
    if (dice.nextInt(7) == 0 || depth > 6) return ODD.get(dice.nextInt(ODD.size()));
    if (schema.has("$ref")) {
      String name = schema.get("$ref").asString();
      return value(all.get(name.substring(name.lastIndexOf('/') + 1)), all, dice, depth + 1);
    }
    if (schema.has("enum")) {
      return schema.get("enum").get(dice.nextInt(schema.get("enum").size())).asString();
    }
    return switch (schema.path("type").asString("object")) {
      case "integer", "number" -> dice.nextInt(5) == 0 ? dice.nextLong() : dice.nextInt(12);
      case "boolean" -> dice.nextBoolean();
      case "string" -> dice.nextBoolean() ? "word " + dice.nextInt(9) : ODD.get(dice.nextInt(8));
      case "array" -> {
        List<Object> out = new ArrayList<>();
        for (int i = 0; i < dice.nextInt(4); i++) {
          out.add(value(schema.get("items"), all, dice, depth + 1));
        }
        yield out;
      }
      default -> {
        Map<String, Object> out = new HashMap<>();
        JsonNode properties = schema.path("properties");
        for (String n : properties.propertyNames()) {
          if (dice.nextInt(8) > 0) out.put(n, value(properties.get(n), all, dice, depth + 1));
        }
        if (dice.nextInt(9) == 0) out.put("stranger", 1);
        yield out;
      }
    };
  }

  private record Operation(String method, String path, JsonNode node) {}

  @Test
  void noRequestIsAnsweredByAFaultOrByNamesOfClasses() throws Exception {
    JsonNode api = JsonMapper.shared().readTree(Files.readString(Path.of("../docs/openapi.json")));
    JsonNode schemas = api.get("components").get("schemas");
    List<Operation> operations = new ArrayList<>();
    for (String path : api.get("paths").propertyNames()) {
      for (String method : api.get("paths").get(path).propertyNames()) {
        operations.add(
            new Operation(method.toUpperCase(), path, api.get("paths").get(path).get(method)));
      }
    }
    Random dice = new Random(8);
    Map<Integer, Integer> statuses = new java.util.TreeMap<>();
    List<String> faults = new ArrayList<>();
    int requests = Boolean.getBoolean("trials") ? 20_000 : 600;
    for (int i = 0; i < requests; i++) {
      Operation o = operations.get(dice.nextInt(operations.size()));
      String path = o.path();
      // Long errands and whole downloads say nothing more at the hundredth time.
      if (path.contains("download") || path.contains("twins")) continue;
      while (path.contains("{")) {
        String id =
            dice.nextInt(6) == 0
                ? List.of("0", "-1", "99999", "x", "%00", "9999999999999999999")
                    .get(dice.nextInt(6))
                : String.valueOf(1 + dice.nextInt(8));
        path = path.replaceFirst("\\{[^}]*}", id);
      }
      StringBuilder query = new StringBuilder();
      for (JsonNode p : o.node().path("parameters")) {
        if (!p.get("in").asString().equals("query") || dice.nextInt(6) == 0) continue;
        Object v = value(p.get("schema"), schemas, dice, 0);
        query
            .append(query.isEmpty() ? '?' : '&')
            .append(p.get("name").asString())
            .append('=')
            .append(java.net.URLEncoder.encode(String.valueOf(v), StandardCharsets.UTF_8));
      }
      var request = shed.request(path + query);
      JsonNode body = o.node().path("requestBody").path("content").path("application/json");
      String text = "";
      if (body.has("schema")) {
        Object v = value(body.get("schema"), schemas, dice, 0);
        text = JsonMapper.shared().writeValueAsString(v);
        if (dice.nextInt(30) == 0) text = text.substring(0, text.length() / 2);
        request.header("Content-Type", "application/json");
      }
      request.method(o.method(), java.net.http.HttpRequest.BodyPublishers.ofString(text));
      TestShed.Answer a = shed.send(request);
      statuses.merge(a.status(), 1, Integer::sum);
      boolean names =
          a.status() >= 400
              && (a.text().contains("lanternshed.")
                  || a.text().contains("java.")
                  || a.text().contains("springframework"));
      if (a.status() >= 500 || names) {
        faults.add(
            o.method() + " " + path + query + " " + text + " -> " + a.status() + " " + a.text());
      }
    }
    System.out.println("answers of " + requests + " random requests: " + statuses);
    assertThat(faults).isEmpty();
    for (String list : List.of("/api/jobs", "/api/media", "/api/images", "/api/machines")) {
      assertThat(shed.get(list).status()).as(list).isEqualTo(200);
    }
    for (JsonNode j : shed.get("/api/jobs?size=100").json().get("rows")) {
      assertThat(shed.get("/api/jobs/" + j.get("id").asLong()).status()).isEqualTo(200);
    }
  }

  @Test
  void anAddressOfTheErrorPageAndACharacterZeroAreRefusedInWords() {
    assertThat(shed.get("/error").status()).isEqualTo(404);
    assertThat(shed.get("/api/log?words=%00").status()).isEqualTo(400);
    Map<String, Object> tick = new HashMap<>();
    tick.put("version", 0);
    Map<String, Object> record = new HashMap<>();
    record.put("notes", "");
    record.put("choice", "");
    record.put("symptoms", List.of());
    record.put("ticks", Arrays.asList((Object) null));
    tick.put("record", record);
    tick.put("done", false);
    TestShed.Answer a = shed.put("/api/jobs/1/stations/1", tick);
    assertThat(a.status()).as(a.text()).isEqualTo(400);
    assertThat(a.detail()).contains("record.ticks");
    assertThat(shed.get("/api/jobs/1").status()).isEqualTo(200);
    assertThat(shed.header(shed.request("/api/jobs"), "Cache-Control")).isEqualTo("no-store");
  }

  @Test
  void uploadsThatCannotBeKeptAreRefusedBeforeAByteComes() {
    for (String length : List.of("0", "9223372036854775807", "-5", "many")) {
      TestShed.Answer a =
          shed.send(
              shed.request("/api/uploads")
                  .header("Tus-Resumable", "1.0.0")
                  .header("Upload-Length", length)
                  .POST(java.net.http.HttpRequest.BodyPublishers.noBody()));
      assertThat(a.status()).as(length + " " + a.text()).isEqualTo(422);
    }
  }
}
