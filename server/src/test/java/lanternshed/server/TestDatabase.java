package lanternshed.server;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** A PostgreSQL cluster of the tests' own on a free port of loopback, removed at the end. */
public final class TestDatabase {
  private static TestDatabase running;
  private final Path folder;
  private final Path bin;
  private final boolean root = "root".equals(System.getProperty("user.name"));
  private final int port;
  private int databases;
  private String laid;

  private TestDatabase() {
    try {
      folder = Files.createTempDirectory("shed-db");
      bin = binaries();
      port = freePort();
      if (root) run(List.of("chown", "postgres:postgres", folder.toString()));
      Path password = folder.resolve("pw");
      asServer("sh", "-c", "echo test > " + password);
      asServer(
          bin.resolve("initdb").toString(),
          "-D",
          folder.resolve("data").toString(),
          "-U",
          "shed",
          "-A",
          "scram-sha-256",
          "--pwfile=" + password,
          "--locale=C.UTF-8",
          "-E",
          "UTF8");
      asServer(
          bin.resolve("pg_ctl").toString(),
          "-D",
          folder.resolve("data").toString(),
          "-w",
          "-l",
          folder.resolve("log").toString(),
          "-o",
          options(),
          "start");
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    Runtime.getRuntime().addShutdownHook(new Thread(this::stop));
  }

  /** Starts at the first call. */
  public static synchronized TestDatabase get() {
    if (running == null) running = new TestDatabase();
    return running;
  }

  /** Takes the database away, as a restart of the computer's own would. */
  public synchronized void takeAway() {
    control("-m", "immediate", "stop");
  }

  public synchronized void bringBack() {
    control("-w", "-l", folder.resolve("log").toString(), "-o", options(), "start");
  }

  private void control(String... what) {
    try {
      List<String> all =
          new ArrayList<>(
              List.of(bin.resolve("pg_ctl").toString(), "-D", folder.resolve("data").toString()));
      all.addAll(List.of(what));
      asServer(all.toArray(String[]::new));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private String options() {
    return "-p "
        + port
        + " -c listen_addresses=127.0.0.1 -c unix_socket_directories='' -c fsync=off";
  }

  /** The address of a fresh, empty database. */
  public synchronized String fresh() {
    String name = "shed" + ++databases;
    sql("create database " + name);
    return base() + name;
  }

  private String base() {
    return "jdbc:postgresql://127.0.0.1:" + port + "/";
  }

  /** What is asked of the cluster from now on. */
  Statements statements(java.sql.Connection c) {
    try (var s = c.createStatement()) {
      s.execute("alter system set log_statement = 'all'");
      s.execute("select pg_reload_conf()");
      // The processes of the server hear of it before their next statement.
      s.execute("select pg_sleep(0.2)");
      return new Statements(c, folder.resolve("log"), Files.size(folder.resolve("log")));
    } catch (java.sql.SQLException | IOException e) {
      throw new IllegalStateException(e);
    }
  }

  /** Statements since a place of the cluster's log. */
  record Statements(java.sql.Connection connection, Path log, long from) {

    /** How many there were, but for transactions' ends and what a scheduler asks; and no more. */
    int count() {
      try (var s = connection.createStatement();
          var in = Files.newInputStream(log)) {
        s.execute("alter system reset log_statement");
        s.execute("select pg_reload_conf()");
        in.skipNBytes(from);
        String all = new String(in.readAllBytes(), StandardCharsets.UTF_8);
        return (int)
            all.lines()
                .filter(
                    l -> l.matches(".*LOG:  (execute|statement).*(select|SELECT|insert|update).*"))
                .filter(l -> !l.contains("scheduled_tasks") && !l.contains("pg_"))
                .count();
      } catch (java.sql.SQLException | IOException e) {
        throw new IllegalStateException(e);
      }
    }
  }

  private void sql(String statement) {
    try (var c = java.sql.DriverManager.getConnection(base() + "postgres", "shed", "test");
        var s = c.createStatement()) {
      s.execute(statement);
    } catch (java.sql.SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  /** The address of a database that holds what a dump holds; read once, then copied. */
  public synchronized String fresh(Path dump) {
    if (laid == null) {
      laid = fresh();
      try {
        run(tool("psql", "-q", "-v", "ON_ERROR_STOP=1", "-f", dump.toString(), uri(laid)));
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }
    String name = "shed" + ++databases;
    String from = laid.substring(laid.lastIndexOf('/') + 1);
    sql("create database " + name + " template " + from);
    return base() + name;
  }

  /** Writes all of a database to a file. */
  synchronized void dump(String address, Path to) throws IOException {
    run(tool("pg_dump", "-O", "-f", to.toString(), uri(address)));
  }

  private static String uri(String address) {
    return address.replace("jdbc:postgresql://", "postgresql://shed:test@");
  }

  private List<String> tool(String name, String... more) {
    List<String> out = new ArrayList<>(List.of(bin.resolve(name).toString()));
    out.addAll(List.of(more));
    return out;
  }

  static int freePort() throws IOException {
    try (ServerSocket s = new ServerSocket(0)) {
      return s.getLocalPort();
    }
  }

  private static Path binaries() throws IOException {
    try (Stream<Path> all = Files.list(Path.of("/usr/lib/postgresql"))) {
      return all.map(p -> p.resolve("bin"))
          .filter(p -> Files.isExecutable(p.resolve("initdb")))
          .findFirst()
          .orElseThrow();
    }
  }

  /** The server refuses to run as root. */
  private void asServer(String... command) throws IOException {
    List<String> all = new ArrayList<>();
    if (root) {
      all.addAll(
          List.of(
              "setpriv", "--reuid=postgres", "--regid=postgres", "--init-groups", "--reset-env"));
    }
    all.addAll(List.of(command));
    run(all);
  }

  private static void run(List<String> command) throws IOException {
    Path log = Files.createTempFile("shed-run", ".log");
    Process p =
        new ProcessBuilder(command)
            .directory(Path.of("/").toFile())
            .redirectErrorStream(true)
            .redirectOutput(log.toFile())
            .start();
    try {
      if (p.waitFor() != 0) {
        throw new IOException(command + ": " + Files.readString(log, StandardCharsets.UTF_8));
      }
    } catch (InterruptedException e) {
      throw new IOException(e);
    } finally {
      Files.deleteIfExists(log);
    }
  }

  private void stop() {
    try {
      asServer(
          bin.resolve("pg_ctl").toString(),
          "-D",
          folder.resolve("data").toString(),
          "-m",
          "immediate",
          "stop");
      try (Stream<Path> all = Files.walk(folder)) {
        all.sorted(Comparator.reverseOrder()).forEach(p -> p.toFile().delete());
      }
    } catch (IOException e) {
      System.err.println("the test database was not removed: " + e.getMessage());
    }
  }
}
