package lanternshed.core.work;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.LongConsumer;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;

/** Puts an image on a card: the right card, the whole image, read back (W-3 to W-5). */
public final class CardWriter {
  private static final int BLOCK = 2048;

  /** Blocks of a megabyte after which the card is made safe, at least and at most. */
  private static final int SAFE_LEAST = 8;

  private static final int SAFE_MOST = 32;

  /**
   * What is known of a target before a byte is written.
   *
   * @param word what is typed to confirm the write: the end of its serial, or what is on it
   * @param origin whether the image came from this very medium
   */
  public record Target(
      String name, String word, long sectors, boolean removable, boolean mounted, boolean origin) {}

  /**
   * How a write ended.
   *
   * @param firstDifference the first sector that did not read back as written; −1 where all did
   * @param sum in words
   */
  public record Report(long sectors, long firstDifference, String sum) {
    public boolean identical() {
      return firstDifference < 0;
    }
  }

  private CardWriter() {}

  /**
   * Every reason not to write; empty when there is none.
   *
   * @param most sectors above which no medium is taken for a card
   */
  public static List<String> refusals(Target t, long imageSectors, long most) {
    List<String> out = new ArrayList<>();
    if (!t.removable()) {
      out.add(t.name() + " is not marked removable; it may be the disk of this computer.");
    }
    if (t.mounted()) out.add(t.name() + " is mounted; unmount it first.");
    if (t.origin()) out.add("The image came from " + t.name() + "; an original is never written.");
    if (t.sectors() > most) {
      out.add(
          t.name()
              + " has "
              + Say.mib(t.sectors() * 512)
              + "; media above "
              + Say.mib(most * 512)
              + " are not taken for cards.");
    }
    if (imageSectors > t.sectors()) {
      out.add(
          "The image has "
              + Say.sectors(imageSectors)
              + ", "
              + t.name()
              + " has "
              + Say.count(t.sectors())
              + ": "
              + Say.sectors(imageSectors - t.sectors())
              + " too few. Plan for the smaller card, or take another.");
    }
    return out;
  }

  /** Whether what was typed is what confirms the write. */
  public static boolean confirmed(Target t, String typed) {
    return !t.word().isEmpty() && typed.strip().equalsIgnoreCase(t.word());
  }

  /**
   * Writes from sector {@code from} on. Writing the same sectors again does no harm, so a write
   * that was killed goes on from the last place that was safe.
   *
   * @param safe hears the sector before which all lies on the card whatever happens, now and then
   */
  public static void write(
      Medium image, Medium card, long from, LongConsumer safe, Progress progress) {
    write(image, Optional.empty(), card, from, safe, progress);
  }

  /**
   * Writes what differs from an image that the card holds already (W-7). That it does hold it says
   * the read-back, which is of everything.
   *
   * @param held empty for a card of which nothing is known
   * @return sectors that were written
   */
  public static long write(
      Medium image,
      Optional<Medium> held,
      Medium card,
      long from,
      LongConsumer safe,
      Progress progress) {
    if (image.sectors() > card.sectors()) {
      throw new ShedException(
          "The image has "
              + Say.sectors(image.sectors())
              + ", the card "
              + Say.count(card.sectors())
              + ".");
    }
    try (ReadAhead wanted = new ReadAhead(image, BLOCK)) {
      return write(wanted, image.sectors(), held, card, from, safe, progress);
    }
  }

  private static long write(
      ReadAhead wanted,
      long sectors,
      Optional<Medium> held,
      Medium card,
      long from,
      LongConsumer safe,
      Progress progress) {
    byte[] there = new byte[BLOCK * 512];
    long every = Math.max(SAFE_LEAST, Math.min(SAFE_MOST, sectors / BLOCK / SAFE_MOST));
    long written = 0;
    for (long lba = from; lba < sectors; lba += BLOCK) {
      int n = (int) Math.min(BLOCK, sectors - lba);
      byte[] b = wanted.at(lba, n, sectors);
      boolean same = held.isPresent() && lba + n <= held.get().sectors();
      if (same) {
        held.get().read(lba, n, there, 0);
        same = Arrays.equals(b, 0, n * 512, there, 0, n * 512);
      }
      if (!same) {
        card.write(lba, n, b, 0);
        written += n;
      }
      if ((lba - from) / BLOCK % every == every - 1) {
        card.flush();
        safe.accept(lba + n);
      }
      progress.at("writing", (lba + n) * 512, sectors * 512);
    }
    card.flush();
    safe.accept(sectors);
    return written;
  }

  /** Reads everything back and compares; stops at nothing, names the first difference. */
  public static Report readBack(Medium image, Medium card, Progress progress) {
    Comparison c = Comparison.of(image, card, 0, progress, "reading back");
    if (c.differing() == 0) {
      return new Report(
          image.sectors(), -1, "Reads back identical, " + Say.sectors(image.sectors()) + ".");
    }
    return new Report(
        image.sectors(),
        c.first(),
        Optional.of(wrapHint(card, c))
            .filter(h -> !h.isEmpty())
            .orElse(
                "Sector "
                    + Say.count(c.first())
                    + " is the first that does not read back as written; "
                    + Say.sectors(c.differing())
                    + " differ. Do not use this card."));
  }

  /** A card that wraps holds the end of the image where its beginning should be. */
  private static String wrapHint(Medium card, Comparison c) {
    if (c.first() != 0) return "";
    return "Sector 0 does not read back as written; "
        + Say.sectors(c.differing())
        + " differ, from the start on. A card that holds less than it says wraps like this: "
        + card.name()
        + " is not to be used.";
  }
}
