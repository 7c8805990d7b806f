package lanternshed.core.work;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.table.mbr.Mbr;
import lanternshed.core.volume.fat.FatKind;

/** What can be said against a recipe before anything is written. */
final class RecipeCheck {
  private static final Pattern EIGHT_DIGITS = Pattern.compile("[0-9A-Fa-f]{8}");

  /** The most sectors of a volume of type 01: 16 MiB less what FAT12 has not. */
  private static final long MOST_TYPE_01 = 32_680;

  private static final long LEAST_TYPE_06 = 65_536;

  private RecipeCheck() {}

  /**
   * @throws ShedException with the first thing that makes no sense
   */
  static void of(Recipe r) {
    if (r.sectors() < 1) throw new ShedException("The recipe makes an image of no sector.");
    digits("signature of the table", r.signature());
    if (r.strategy() == Strategy.CLONE) return;
    if (r.volumes().isEmpty()) throw new ShedException("The recipe has no volume.");
    long active = r.volumes().stream().filter(Recipe.Part::active).count();
    if (active > 1) {
      throw new ShedException(active + " volumes of the recipe are active; boot code expects one.");
    }
    List<Recipe.Part> before = new ArrayList<>();
    long at = 1;
    for (Recipe.Part p : r.volumes()) {
      String name = "Volume " + (before.size() + 1) + " of the recipe";
      if (p.start() < at || p.length() <= 0 || p.end() > r.sectors()) {
        throw new ShedException(name + " does not lie inside the image, after the one before it.");
      }
      if (p.logical() && (p.tableSector() < at || p.tableSector() >= p.start())) {
        throw new ShedException(
            name
                + " is logical; its own table must lie before it and behind the volume before, not at"
                + " sector "
                + Say.count(p.tableSector())
                + ".");
      }
      boolean parted = !p.logical() && before.stream().anyMatch(Recipe.Part::logical);
      if (parted && before.stream().filter(Recipe.Part::logical).count() > 0) {
        throw new ShedException(
            name + " is a primary one behind a logical one; the logical ones come last.");
      }
      volume(name, p);
      before.add(p);
      at = p.end();
    }
  }

  private static void volume(String name, Recipe.Part p) {
    FatKind kind;
    try {
      kind = FatKind.valueOf(p.kind());
    } catch (IllegalArgumentException e) {
      throw new ShedException(
          name + " is of the kind \"" + p.kind() + "\"; FAT12, FAT16 and FAT32 are made.", e);
    }
    digits("serial of " + name.toLowerCase(java.util.Locale.ROOT), p.serial());
    boolean fits =
        switch (p.type()) {
          case 0x01 -> kind == FatKind.FAT12 && p.length() <= MOST_TYPE_01;
          case 0x04 -> kind == FatKind.FAT16 && p.length() < LEAST_TYPE_06;
          case 0x06 -> kind == FatKind.FAT16 && p.length() >= LEAST_TYPE_06;
          case 0x0E -> kind == FatKind.FAT16;
          case 0x0B, 0x0C -> kind == FatKind.FAT32;
          default -> false;
        };
    if (!fits) {
      throw new ShedException(
          String.format(
              "%s is %s of %s; the type %02X (%s) does not say so.",
              name, kind, Say.sectors(p.length()), p.type(), Mbr.typeName(p.type())));
    }
    if (p.rootEntries() < 0 || p.rootEntries() > 65_520 || p.rootEntries() % 16 != 0) {
      throw new ShedException(
          name
              + " asks for "
              + Say.count(p.rootEntries())
              + " entries in the root folder; it is a multiple of 16 up to 65 520, or 0 for 512.");
    }
    if (p.from() >= 0 && !p.folder().isEmpty()) {
      throw new ShedException(name + " is filled from a volume and from a folder; take one.");
    }
  }

  private static void digits(String what, String text) {
    if (EIGHT_DIGITS.matcher(text).matches()) return;
    throw new ShedException(
        "The " + what + " is \"" + text + "\"; it has eight hexadecimal digits.");
  }

  /**
   * Whether an image is the one that a recipe asks for.
   *
   * @param sha256 digest of the image that was given
   * @throws ShedException where it is another
   */
  static void source(Recipe r, String sha256) {
    if (r.sourceSha256().isEmpty() || r.sourceSha256().equalsIgnoreCase(sha256)) return;
    throw new ShedException(
        "The recipe asks for the image with the SHA-256 "
            + r.sourceSha256()
            + "; the one that was given has "
            + sha256
            + ".");
  }
}
