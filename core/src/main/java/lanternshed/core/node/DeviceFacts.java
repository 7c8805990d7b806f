package lanternshed.core.node;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;

/** What the system's own files say of its block devices. */
public final class DeviceFacts {
  /** The type of a device that reads compact discs, which are marked removable too. */
  private static final long OPTICAL = 5;

  /** Words of a line of mountinfo up to the place of the mount. */
  private static final int MOUNT_WORDS = 5;

  /** Where the system keeps them. */
  private final Path blocks;

  private final Path proc;

  DeviceFacts() {
    this(Path.of("/sys/class/block"), Path.of("/proc"));
  }

  DeviceFacts(Path blocks, Path proc) {
    this.blocks = blocks;
    this.proc = proc;
  }

  /**
   * A block device as it is now.
   *
   * @param sectors of 512 bytes; 0 where nothing is in it
   * @param says maker's words, as far as it gives any
   * @param serial of the medium itself; "" where it tells none, as behind most readers
   * @param bus how it is attached, in a word
   * @param inUse why nothing may be written to it now, each as the end of a sentence
   */
  record Device(
      String name,
      long sectors,
      String says,
      String serial,
      String bus,
      boolean removable,
      boolean readOnly,
      List<String> inUse) {}

  /** Names of all whole devices that are marked removable and have a medium in them. */
  List<String> removable() {
    try (Stream<Path> all = Files.list(blocks)) {
      return all.map(p -> p.getFileName().toString())
          .filter(n -> !Files.exists(blocks.resolve(n).resolve("partition")))
          .filter(n -> number(blocks.resolve(n).resolve("removable")) == 1)
          .filter(n -> number(blocks.resolve(n).resolve("size")) > 0)
          .filter(n -> number(blocks.resolve(n).resolve("device/type")) != OPTICAL)
          .sorted()
          .toList();
    } catch (IOException e) {
      return List.of();
    }
  }

  /**
   * @throws ShedException where the node is gone, or is no block device
   */
  Device of(Path node) {
    String name = nameOf(node);
    Path d = blocks.resolve(name);
    if (!Files.isDirectory(d)) {
      throw new ShedException(
          "The device " + node + " is not there, or is no block device. Plug its reader in again.");
    }
    String bus = bus(d);
    // Behind a USB reader the serial is the reader's, the same for every card in it.
    String serial = bus.equals("USB") ? "" : line(d.resolve("device/serial"));
    return new Device(
        name,
        number(d.resolve("size")),
        says(d),
        serial,
        bus,
        number(d.resolve("removable")) == 1,
        number(d.resolve("ro")) == 1,
        inUse(name));
  }

  private static String nameOf(Path node) {
    try {
      return node.toRealPath().getFileName().toString();
    } catch (IOException e) {
      throw new ShedException("The device " + node + " does not answer.", e);
    }
  }

  private static String bus(Path d) {
    try {
      String path = d.toRealPath().toString();
      String name = d.getFileName().toString();
      if (name.startsWith("loop")) return "a file as a device";
      if (path.contains("/usb")) return "USB";
      if (path.contains("/mmc")) return "card slot";
      return path.contains("/ata") ? "ATA" : "";
    } catch (IOException e) {
      return "";
    }
  }

  private static String says(Path d) {
    return Stream.of("vendor", "model", "name")
        .map(f -> line(d.resolve("device").resolve(f)))
        .filter(s -> !s.isEmpty())
        .collect(Collectors.joining(" "));
  }

  /** Mounted, used as swap, or held by another device: it or a part of it. */
  private List<String> inUse(String name) {
    List<String> names = new ArrayList<>(List.of(name));
    try (Stream<Path> parts = Files.list(blocks.resolve(name))) {
      parts
          .filter(p -> Files.exists(p.resolve("partition")))
          .forEach(p -> names.add(p.getFileName().toString()));
    } catch (IOException e) {
      return List.of("is gone");
    }
    List<String> out = new ArrayList<>();
    for (String n : names) {
      Path d =
          Files.isDirectory(blocks.resolve(n)) ? blocks.resolve(n) : blocks.resolve(name + "/" + n);
      String number = line(d.resolve("dev"));
      for (String l : lines(proc.resolve("self/mountinfo"))) {
        String[] words = l.split(" ");
        if (words.length < MOUNT_WORDS) continue;
        if (words[2].equals(number) || l.contains(" /dev/" + n + " ")) {
          out.add("is mounted at " + words[4].replace("\\040", " "));
        }
      }
      if (lines(proc.resolve("swaps")).stream().anyMatch(l -> l.startsWith("/dev/" + n + " "))) {
        out.add("is used as swap");
      }
      try (Stream<Path> holders = Files.list(d.resolve("holders"))) {
        holders.forEach(h -> out.add("is held by " + h.getFileName()));
      } catch (IOException e) {
        // A device without the folder is held by nobody.
      }
    }
    return List.copyOf(out);
  }

  private static List<String> lines(Path file) {
    try {
      return Files.isReadable(file) ? Files.readAllLines(file) : List.of();
    } catch (IOException e) {
      return List.of();
    }
  }

  private static String line(Path file) {
    return lines(file).stream().findFirst().orElse("").strip();
  }

  private static long number(Path file) {
    String l = line(file);
    return l.matches("\\d{1,18}") ? Long.parseLong(l) : 0;
  }

  /** Words, serial and size: one device and not another. */
  String identity(Path node, long sectors) {
    Path d = blocks.resolve(nameOf(node)).resolve("device");
    String said =
        Stream.of("vendor", "model", "serial", "cid")
            .map(f -> line(d.resolve(f)))
            .filter(s -> !s.isEmpty())
            .collect(Collectors.joining(" "));
    return (said + " " + Say.sectors(sectors)).strip();
  }

  /**
   * Which putting-in of a medium is at a node: another after each exchange and each start of the
   * computer.
   *
   * @return "" where the system does not count them
   */
  String insertion(Path node) {
    String count = line(blocks.resolve(nameOf(node)).resolve("diskseq"));
    return count.isEmpty() ? "" : line(proc.resolve("sys/kernel/random/boot_id")) + " " + count;
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

  /** "reader 3 card, USB, 61.2 MiB". */
  static String inWords(Device d) {
    return Stream.of(d.says(), d.bus(), Say.mib(d.sectors() * 512))
        .filter(s -> !s.isEmpty())
        .collect(Collectors.joining(", "))
        .replaceAll("\\s+", " ");
  }
}
