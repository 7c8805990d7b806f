package lanternshed.server;

import java.io.File;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/**
 * What all sheds of the tests start from, made once a build by whoever needs it first: the program
 * as jars, the demonstration as it was laid out, and an archive of the classes which that start has
 * loaded. Kept under {@code target} by the digest of the classes; every process of the tests takes
 * it from there. Who needs no demonstration does not wait for it.
 */
final class Prepared {
  private static final Path ALL = Path.of("../target/test-sheds").toAbsolutePath().normalize();
  private static final List<String> MODULES = List.of("server", "core", "web");
  private static final List<String> OF_TESTS =
      List.of("junit", "mockito", "assertj", "archunit", "playwright", "opentest4j", "surefire");
  private static Prepared made;

  private final Path folder;

  private Prepared(Path folder) {
    this.folder = folder;
  }

  static synchronized Prepared get() {
    if (made == null) {
      try {
        Prepared now = new Prepared(ALL.resolve(digest()));
        now.once("program", now::program);
        made = now;
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }
    return made;
  }

  private static Path classes(String module) {
    return Path.of("..", module, "target", "classes");
  }

  private static String digest() throws IOException {
    MessageDigest d;
    try {
      d = MessageDigest.getInstance("SHA-256");
    } catch (java.security.NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
    for (String module : MODULES) {
      for (Path p : files(classes(module))) {
        d.update(p.toString().getBytes(java.nio.charset.StandardCharsets.UTF_8));
        d.update(Files.readAllBytes(p));
      }
    }
    return HexFormat.of().formatHex(d.digest()).substring(0, 16);
  }

  private static List<Path> everything(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      return all.filter(p -> !p.equals(folder)).sorted().toList();
    }
  }

  private static List<Path> files(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      return all.filter(Files::isRegularFile).sorted().toList();
    }
  }

  private interface Step {
    void run() throws IOException;
  }

  /** Makes a part of it, unless it is there; whoever comes meanwhile waits. */
  private void once(String part, Step step) throws IOException {
    if (Files.exists(folder.resolve(part + ".made"))) return;
    Files.createDirectories(ALL);
    try (FileChannel c =
            FileChannel.open(
                ALL.resolve(part + ".lock"), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
        FileLock lock = c.lock()) {
      if (Files.exists(folder.resolve(part + ".made"))) return;
      step.run();
      Files.createFile(folder.resolve(part + ".made"));
    }
  }

  private void program() throws IOException {
    try (Stream<Path> old = Files.list(ALL)) {
      for (Path p : old.filter(Files::isDirectory).toList()) remove(p);
    }
    Files.createDirectories(folder);
    classPath();
  }

  /** The start that lays the demonstration out is also the one whose classes are put by. */
  private void demonstration() throws IOException {
    List<String> learning = new ArrayList<>(command());
    learning.add(1, "-XX:ArchiveClassesAtExit=" + archive());
    TestShed first = new TestShed(learning);
    first.stop();
    TestDatabase.get().dump(first.address(), folder.resolve("demo.sql"));
    copy(first.home().resolve("shelf"), folder.resolve("shelf"));
    first.close();
  }

  private Path archive() {
    return folder.resolve("classes.jsa");
  }

  /** Classes in folders cannot be shared between starts, those in jars can. */
  private void classPath() throws IOException {
    List<String> out = new ArrayList<>();
    for (String module : MODULES) {
      Path jar = folder.resolve(module + ".jar");
      try (OutputStream file = Files.newOutputStream(jar);
          ZipOutputStream zip = new ZipOutputStream(file)) {
        zip.setLevel(1);
        // With an entry for every folder: by those a program finds what lies in its packages.
        for (Path p : everything(classes(module))) {
          boolean isFolder = Files.isDirectory(p);
          String name = classes(module).relativize(p).toString();
          zip.putNextEntry(new ZipEntry(isFolder ? name + "/" : name));
          if (!isFolder) Files.copy(p, zip);
          zip.closeEntry();
        }
      }
      out.add(jar.toString());
    }
    for (String p : System.getProperty("java.class.path").split(File.pathSeparator)) {
      boolean others = p.endsWith(".jar") && !p.contains("lantern-shed");
      if (others && OF_TESTS.stream().noneMatch(p::contains)) out.add(p);
    }
    Files.writeString(folder.resolve("classpath"), String.join(File.pathSeparator, out));
  }

  /** What starts the program; its settings are in the environment. */
  List<String> command() throws IOException {
    List<String> out = new ArrayList<>();
    out.add(System.getProperty("java.home") + "/bin/java");
    if (Files.exists(folder.resolve("demonstration.made"))) {
      out.add("-XX:SharedArchiveFile=" + archive());
    }
    out.addAll(List.of("-Xlog:disable", "-XX:+UseSerialGC", "-Xmx400m", "-cp"));
    out.add(Files.readString(folder.resolve("classpath")));
    out.add("lanternshed.server.LanternShed");
    return out;
  }

  /** Puts the demonstration's shelf into a home, and gives the address of its database. */
  String demonstration(Path home) throws IOException {
    once("demonstration", this::demonstration);
    copy(folder.resolve("shelf"), home.resolve("shelf"));
    return TestDatabase.get().fresh(folder.resolve("demo.sql"));
  }

  /** Holes stay holes. */
  private static void copy(Path from, Path to) throws IOException {
    Process p =
        new ProcessBuilder("cp", "-a", "--reflink=auto", from.toString(), to.toString())
            .inheritIO()
            .start();
    try {
      if (p.waitFor() != 0) throw new IOException("The shelf could not be copied to " + to);
    } catch (InterruptedException e) {
      throw new IOException(e);
    }
  }

  private static void remove(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path p : all.sorted(Comparator.reverseOrder()).toList()) Files.delete(p);
    }
  }
}
