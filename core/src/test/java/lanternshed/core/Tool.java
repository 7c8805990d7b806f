package lanternshed.core;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;

/** Runs general tools as judges of what we make and read. */
public final class Tool {
  /** How a tool ended and what it said. */
  public record Answer(int exit, String text) {}

  private Tool() {}

  /** Runs a shell line; standard error is in the text. */
  public static Answer ask(String line) {
    try {
      Process p = new ProcessBuilder("sh", "-c", line).redirectErrorStream(true).start();
      String text = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      return new Answer(p.waitFor(), text);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (InterruptedException e) {
      throw new IllegalStateException(e);
    }
  }

  /** Runs a shell line that must end with 0. */
  public static String run(String line) {
    Answer a = ask(line);
    if (a.exit() != 0) throw new AssertionError(line + " ended with " + a.exit() + ": " + a.text());
    return a.text();
  }

  /** What a general tool says of each 16 MiB of a file. */
  public static List<String> chunkDigests(Path file) {
    return run("split -b 16777216 --filter='xxhsum -H2' " + file)
        .lines()
        .map(l -> l.split(" ")[0])
        .toList();
  }

  /** Files under a folder by relative path, each with its SHA-256. */
  public static Map<String, String> digests(Path folder) {
    Map<String, String> out = new TreeMap<>();
    try (Stream<Path> all = Files.walk(folder)) {
      for (Path p : all.filter(Files::isRegularFile).toList()) {
        out.put(folder.relativize(p).toString(), sha256(Files.readAllBytes(p)));
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return out;
  }

  public static String sha256(byte[] b) {
    try {
      return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(b));
    } catch (java.security.NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }
}
