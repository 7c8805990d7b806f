package lanternshed.core.rom;

import java.util.Locale;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;

/**
 * Whether a chip takes an image: programming only lets bits fall from 1 to 0 (O-3).
 *
 * @param blank whether every byte is FF
 * @param zeros bits that are 0 already
 * @param rise bits that are 0 and must be 1
 * @param first the first byte in which one must rise; −1 for none
 * @param sentence what follows
 */
public record Erased(boolean blank, long zeros, long rise, int first, String sentence) {

  /**
   * @param chip as it reads now
   * @param image that is to go into it, as long as the chip
   */
  public static Erased of(byte[] chip, byte[] image) {
    if (chip.length != image.length) {
      throw new ShedException(
          "The chip reads "
              + Say.bytes(chip.length)
              + ", the image has "
              + Say.bytes(image.length)
              + "; fit the image into the chip first.");
    }
    long zeros = 0;
    long rise = 0;
    int first = -1;
    for (int i = 0; i < chip.length; i++) {
      zeros += Integer.bitCount(~chip[i] & 0xFF);
      int up = image[i] & ~chip[i] & 0xFF;
      rise += Integer.bitCount(up);
      if (up != 0 && first < 0) first = i;
    }
    return new Erased(zeros == 0, zeros, rise, first, sentence(zeros, rise, first));
  }

  private static String sentence(long zeros, long rise, int first) {
    if (zeros == 0) return "Blank: every byte is FF.";
    String not = "Not blank: " + Say.plural(zeros, "bit is", "bits are") + " 0.";
    if (rise == 0) return not + " The image only lets further bits fall, so it can go over that.";
    return not
        + " "
        + Say.plural(rise, "of them", "of them")
        + " must be 1 again, the first in "
        + String.format(Locale.ROOT, "%04X", first)
        + ": erase it, and longer where it was erased already.";
  }
}
