package lanternshed.server.media;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;

/** What tells one device from another, from the system's own files. */
final class DeviceFacts {
  private static final Path BLOCK = Path.of("/sys/class/block");

  private DeviceFacts() {}

  /** Model, serial and size in words, as far as the device says them. */
  static String of(Path node, long sectors) {
    try {
      Path facts = BLOCK.resolve(node.toRealPath().getFileName().toString()).resolve("device");
      String said =
          Stream.of("vendor", "model", "serial", "cid")
              .map(f -> line(facts.resolve(f)))
              .filter(s -> !s.isEmpty())
              .collect(Collectors.joining(" "));
      return (said + " " + Say.sectors(sectors)).strip();
    } catch (IOException e) {
      throw new ShedException("The device " + node + " does not answer.", e);
    }
  }

  private static String line(Path file) {
    try {
      return Files.isReadable(file) ? Files.readString(file).strip() : "";
    } catch (IOException e) {
      return "";
    }
  }

  /** The same for one device whatever name or link leads to it. */
  static String key(Path node) {
    try {
      long number = ((Number) Files.getAttribute(node, "unix:rdev")).longValue();
      return number != 0
          ? "device " + number
          : Files.getAttribute(node, "unix:dev") + " " + Files.getAttribute(node, "unix:ino");
    } catch (IOException e) {
      throw new ShedException("The device " + node + " does not answer.", e);
    }
  }
}
