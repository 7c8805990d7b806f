package lanternshed.core.transfer;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.measure.Sum;

/** The roads side by side, so that one is chosen by hours and not by habit (T-9). */
public final class Roads {
  /** A card at a desktop's reader; a machine of its time reads it later, while it works. */
  private static final long CARD_RATE = 5_000_000;

  private static final int HALVES = 2;

  private Roads() {}

  /**
   * Disks as they are formatted as a rule.
   *
   * @see <a
   *     href="https://www.ecma-international.org/publications-and-standards/standards/ecma-107/">
   *     ECMA-107, volume and file structure of disk cartridges</a>
   */
  public enum Floppy {
    KB360("5¼-inch, 360 KB", 362_496, 112, 1024, 90),
    KB720("3½-inch, 720 KB", 730_112, 112, 1024, 120),
    KB1200("5¼-inch, 1.2 MB", 1_213_952, 224, 512, 100),
    KB1440("3½-inch, 1.44 MB", 1_457_664, 224, 512, 120);

    private final String words;
    private final long bytes;
    private final int files;
    private final int cluster;
    private final int seconds;

    /**
     * @param files entries of its root folder
     * @param seconds to write it full at one machine, and as many to read it at the other
     */
    Floppy(String words, long bytes, int files, int cluster, int seconds) {
      this.words = words;
      this.bytes = bytes;
      this.files = files;
      this.cluster = cluster;
      this.seconds = seconds;
    }

    public String words() {
      return words;
    }
  }

  /**
   * @param change seconds to change a disk and walk over with it
   * @param cardOut seconds to get the card out, over, and in again
   */
  public record Hands(int change, int cardOut) {
    public Hands {
      if (change < 0 || change > 3600 || cardOut < 0 || cardOut > 86_400) {
        throw new ShedException("A change takes an hour at most, and the card a day.");
      }
    }
  }

  /** All of them, the shortest first. */
  public static List<Road> of(Load load, SerialLine line, Floppy floppy, Hands hands) {
    List<Road> out = new ArrayList<>();
    out.add(line.road(load));
    out.add(floppies(load, floppy, hands));
    out.add(card(load, hands));
    out.sort(Comparator.comparingLong(Road::seconds));
    return out;
  }

  private static Road floppies(Load load, Floppy f, Hands hands) {
    // Half a cluster is lost at the end of each file, on average.
    long bytes = load.bytes() + (long) load.files() * f.cluster / HALVES;
    long byBytes = SerialLine.ceil(bytes, f.bytes);
    long byFiles = SerialLine.ceil(load.files(), f.files);
    long disks = Math.max(1, Math.max(byBytes, byFiles));
    long each = HALVES * f.seconds + hands.change();
    long seconds = disks * each;
    Sum sum =
        Sum.of("T-9", "Hours with floppies")
            .bytes("", "with what is lost at the files' ends", bytes)
            .bytes("÷", "that a disk takes", f.bytes)
            .line("=", "disks by their bytes", byBytes)
            .line("", "disks by the entries of their root", byFiles)
            .line("=", "disks at least", disks)
            .note(
                "each of them",
                HALVES + " × " + f.seconds + " s, and " + hands.change() + " s by hand")
            .line("=", "all of it", seconds, Say.seconds(seconds))
            .because(
                "Written at one machine, carried, read at the other; a file does not span disks.")
            .done();
    return new Road("floppies, " + f.words(), seconds, Say.plural(disks, "disk", "disks"), sum);
  }

  private static Road card(Load load, Hands hands) {
    long copying = SerialLine.ceil(load.bytes(), CARD_RATE);
    long seconds = copying + hands.cardOut();
    Sum sum =
        Sum.of("T-9", "Hours with the card")
            .bytes("", "to copy", load.bytes())
            .line("÷", "a reader writes", CARD_RATE, "5 MB/s")
            .line("+", "out, over and in again", hands.cardOut(), Say.seconds(hands.cardOut()))
            .line("=", "all of it", seconds, Say.seconds(seconds))
            .because("Nearly all of it is hands; how long the machine is open decides.")
            .done();
    return new Road("the card, out and in again", seconds, "mostly by hand", sum);
  }
}
