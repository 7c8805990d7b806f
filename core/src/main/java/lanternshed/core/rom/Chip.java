package lanternshed.core.rom;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;

/**
 * A chip by its number of kilobits, eight bits wide, and how an image is laid into it (O-2).
 *
 * @param kilobits of 1 024 bits
 */
public record Chip(int kilobits) {
  /** Four of the largest: no set of these machines is longer. */
  public static final int MOST = 2 << 20;

  /** The usual ones; 16 and 32 are the smallest that boards have. */
  public static final List<Integer> USUAL = List.of(16, 32, 64, 128, 256, 512, 1024, 2048, 4096);

  /** What the rest of a chip is filled with. */
  public enum Pad {
    /** Cells stay erased, so that they can be programmed later. */
    FF,
    ZERO,
    /** The image again and again, where upper address lines are tied. */
    REPEAT
  }

  public Chip {
    if (!USUAL.contains(kilobits)) {
      throw new ShedException(
          "There is no chip of " + kilobits + " kbit here; the usual ones are " + USUAL + ".");
    }
  }

  public int bytes() {
    return kilobits * 128;
  }

  /** Those that take so many bytes, the smallest first. */
  public static List<Integer> taking(int bytes) {
    return USUAL.stream().filter(k -> k * 128 >= bytes).toList();
  }

  /** The smallest that takes so many bytes. */
  public static Optional<Chip> holding(int bytes) {
    return taking(bytes).stream().findFirst().map(Chip::new);
  }

  /**
   * The image in this chip.
   *
   * @throws ShedException where it does not fit, or cannot be repeated to its end
   */
  public byte[] fit(byte[] image, Pad pad) {
    if (image.length > bytes()) {
      throw new ShedException(
          "The image has "
              + Say.bytes(image.length)
              + ", a chip of "
              + kilobits
              + " kbit takes "
              + Say.bytes(bytes())
              + ": "
              + Say.bytes(image.length - bytes())
              + " too many. Take a larger chip.");
    }
    byte[] out = Arrays.copyOf(image, bytes());
    switch (pad) {
      case FF -> Arrays.fill(out, image.length, out.length, (byte) 0xFF);
      case ZERO -> Arrays.fill(out, image.length, out.length, (byte) 0);
      case REPEAT -> {
        if (image.length == 0 || bytes() % image.length != 0) {
          throw new ShedException(
              "An image of "
                  + Say.bytes(image.length)
                  + " does not go into "
                  + Say.bytes(bytes())
                  + " a whole number of times; fill it to half or a quarter of the chip first.");
        }
        for (int at = image.length; at < out.length; at += image.length) {
          System.arraycopy(image, 0, out, at, image.length);
        }
      }
    }
    return out;
  }
}
