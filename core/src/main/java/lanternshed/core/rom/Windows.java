package lanternshed.core.rom;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;

/**
 * Where a machine of the PC's kind sees an option ROM: windows between C8000 and EFFFF, on
 * boundaries of their own size (O-5).
 */
public final class Windows {
  public static final int FIRST = 0xC8000;
  public static final int END = 0xF0000;

  /** Firmware looks at each of these for a mark. */
  private static final int STEP = 2048;

  private static final int ALL = 1 << 20;

  private Windows() {}

  /**
   * What lies at an address already.
   *
   * @param start in the machine's first MiB
   */
  public record Occupied(String name, int start, int length) {
    int end() {
      return start + length;
    }
  }

  /**
   * A window that could be taken.
   *
   * @param with what occupies it, "" where it is free
   */
  public record Window(int start, int length, String with) {}

  /** What every machine of that kind has. */
  public static final List<Occupied> USUAL =
      List.of(
          new Occupied("video BIOS", 0xC0000, 0x8000),
          new Occupied("system ROM", 0xF0000, 0x10000));

  /** Every window for an image of so many bytes, from the lowest up. */
  public static List<Window> of(List<Occupied> occupied, int bytes) {
    for (Occupied o : occupied) {
      if (o.length() > 0 && o.start() >= 0 && (long) o.start() + o.length() <= ALL) continue;
      throw new ShedException(
          o.name()
              + ": "
              + hex(o.start())
              + " with "
              + Say.bytes(o.length())
              + " is not within the first MiB.");
    }
    int length = window(bytes);
    List<Window> out = new ArrayList<>();
    for (int at = FIRST / length * length; at + length <= END; at += length) {
      if (at < FIRST) continue;
      int start = at;
      String with =
          occupied.stream()
              .filter(o -> o.start() < start + length && o.end() > start)
              .sorted(Comparator.comparingInt(Occupied::start))
              .map(Occupied::name)
              .reduce((a, b) -> a + ", " + b)
              .orElse("");
      out.add(new Window(at, length, with));
    }
    return out;
  }

  /** The window that boards decode for an image: a power of two, at least 2 KiB. */
  static int window(int bytes) {
    if (bytes <= 0 || bytes > END - FIRST) {
      throw new ShedException(
          "No window between C8000 and EFFFF holds " + Say.bytes(Math.max(0, bytes)) + ".");
    }
    int length = STEP;
    while (length < bytes) length *= 2;
    return length;
  }

  static String hex(int at) {
    return String.format(Locale.ROOT, "%05X", at);
  }
}
