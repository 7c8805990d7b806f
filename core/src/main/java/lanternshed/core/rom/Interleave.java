package lanternshed.core.rom;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;

/** One image over two or four chips, byte by byte in turn, as wide buses have them (O-4). */
public final class Interleave {
  private Interleave() {}

  /**
   * @param socket which one goes where
   */
  public record Part(String socket, byte[] bytes) {}

  /**
   * Parts put together.
   *
   * @param order of the parts in which they make sense, numbers from 0; as given where no other
   *     does
   * @param sentence what the order rests on
   */
  public record Joined(byte[] bytes, List<Integer> order, String sentence) {}

  public static List<Part> split(byte[] image, int ways) {
    ways(ways);
    if (image.length % ways != 0) {
      throw new ShedException(
          Say.bytes(image.length) + " do not go evenly into " + ways + " chips; pad it first.");
    }
    List<Part> out = new ArrayList<>();
    for (int n = 0; n < ways; n++) {
      byte[] b = new byte[image.length / ways];
      for (int i = 0; i < b.length; i++) b[i] = image[i * ways + n];
      out.add(new Part(socket(n, ways), b));
    }
    return out;
  }

  static String socket(int n, int ways) {
    if (ways == 2) return n == 0 ? "even, low (D0 to D7)" : "odd, high (D8 to D15)";
    return "byte " + n + " (D" + n * 8 + " to D" + (n * 8 + 7) + ")";
  }

  private static void ways(int ways) {
    if (ways != 2 && ways != 4) throw new ShedException("A set has two or four chips.");
  }

  /** Puts parts together in the order in which they make an image, where that can be told. */
  public static Joined join(List<byte[]> parts) {
    ways(parts.size());
    int length = parts.get(0).length;
    for (byte[] p : parts) {
      if (p.length == length) continue;
      throw new ShedException(
          "The chips of a set have one length; these have "
              + Say.bytes(length)
              + " and "
              + Say.bytes(p.length)
              + ".");
    }
    if ((long) length * parts.size() > Chip.MOST) {
      throw new ShedException("Together they are longer than " + Say.size(Chip.MOST) + ".");
    }
    List<Integer> given = new ArrayList<>();
    for (int i = 0; i < parts.size(); i++) given.add(i);
    byte[] asGiven = woven(parts, given);
    if (sense(asGiven) > 0) return new Joined(asGiven, given, why(asGiven) + " in this order.");
    List<Integer> best = given;
    for (List<Integer> order : orders(given)) {
      if (sense(woven(parts, order)) > sense(woven(parts, best))) best = order;
    }
    if (best.equals(given)) {
      return new Joined(
          asGiven, given, "Nothing in the bytes tells the order; look at the sockets.");
    }
    byte[] bytes = woven(parts, best);
    return new Joined(bytes, best, "They were given in another order: " + why(bytes) + " in this.");
  }

  private static byte[] woven(List<byte[]> parts, List<Integer> order) {
    int ways = parts.size();
    byte[] out = new byte[parts.get(0).length * ways];
    for (int n = 0; n < ways; n++) {
      byte[] from = parts.get(order.get(n));
      for (int i = 0; i < from.length; i++) out[i * ways + n] = from[i];
    }
    return out;
  }

  private static List<List<Integer>> orders(List<Integer> of) {
    if (of.size() == 1) return List.of(of);
    List<List<Integer>> out = new ArrayList<>();
    for (Integer first : of) {
      List<Integer> rest = new ArrayList<>(of);
      rest.remove(first);
      for (List<Integer> tail : orders(rest)) {
        List<Integer> one = new ArrayList<>(List.of(first));
        one.addAll(tail);
        out.add(one);
      }
    }
    return out;
  }

  /** 2 for an option ROM whose sum is right, 1 for a start at the top of the address space. */
  private static int sense(byte[] b) {
    RomFacts.OptionRom o = RomFacts.of(b).option().orElse(null);
    if (o != null && o.length() > 0 && o.length() <= b.length) return o.sum() == 0 ? 3 : 2;
    return starts(b) ? 1 : 0;
  }

  /** A far jump into the firmware's own segment where the processor begins after a reset. */
  private static boolean starts(byte[] b) {
    int at = b.length - 16;
    return at >= 0
        && (b[at] & 0xFF) == 0xEA
        && (b[at + 4] & 0xFF) >= 0xE0
        && (b[at + 3] & 0x0F) == 0;
  }

  private static String why(byte[] b) {
    return switch (sense(b)) {
      case 3 -> "the mark 55 AA and a right sum";
      case 2 -> "the mark 55 AA";
      default -> "the jump of a start 16 bytes before the end";
    };
  }
}
