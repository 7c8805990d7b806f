package lanternshed.core.work;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.family.Families;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.table.TableDrivers;
import lanternshed.core.table.TableMaker;
import tools.jackson.databind.JsonNode;

/** What can be said against a recipe before anything is written. */
final class RecipeCheck {
  /** 2 TiB: what the 32 bits of a table's entry name (P-1). */
  private static final long MOST_SECTORS = 1L << 32;

  private static final Pattern EIGHT_DIGITS = Pattern.compile("[0-9A-Fa-f]{8}");

  private static final Pattern SHA256 = Pattern.compile("[0-9a-f]{64}");

  /** Letters of the longest label there is, of FFS (F-12). */
  private static final int MOST_LABEL = 30;

  private RecipeCheck() {}

  private static String lower(String hex) {
    return hex.toLowerCase(Locale.ROOT);
  }

  /** What every recipe says, and each of its volumes; the rest has a meaning where it is absent. */
  private static final List<String> SAID =
      List.of(
          "family",
          "table",
          "strategy",
          "sectors",
          "geometry",
          "signature",
          "bootCode",
          "sourceSha256");

  private static final List<String> SAID_OF_VOLUMES =
      List.of("start", "length", "type", "kind", "label", "serial", "from", "folder", "systemFile");

  /**
   * @throws ShedException naming the first word that is missing
   */
  static void complete(JsonNode recipe) {
    need(recipe, SAID, "The recipe");
    if (!recipe.path("volumes").isArray()) throw new ShedException("The recipe has no volumes.");
    int number = 0;
    for (JsonNode v : recipe.path("volumes")) {
      number++;
      need(v, SAID_OF_VOLUMES, "Volume " + number + " of the recipe");
    }
  }

  private static void need(JsonNode object, List<String> said, String who) {
    for (String word : said) {
      JsonNode value = object.path(word);
      if (value.isMissingNode() || value.isNull()) {
        throw new ShedException(who + " does not say \"" + word + "\".");
      }
    }
  }

  /**
   * @throws ShedException with the first thing that makes no sense
   */
  static void of(Recipe r) {
    if (r.sectors() < 1) throw new ShedException("The recipe makes an image of no sector.");
    if (r.sectors() > MOST_SECTORS) {
      throw new ShedException(
          "The recipe makes an image of "
              + Say.sectors(r.sectors())
              + "; a table can name "
              + Say.count(MOST_SECTORS)
              + " at most.");
    }
    if (!r.sourceSha256().isEmpty() && !SHA256.matcher(lower(r.sourceSha256())).matches()) {
      throw new ShedException(
          "The recipe's source is \""
              + r.sourceSha256()
              + "\"; a SHA-256 has 64 hexadecimal digits.");
    }
    digits("signature of the table", r.signature());
    if (r.strategy() == Strategy.CLONE) return;
    if (r.volumes().isEmpty()) throw new ShedException("The recipe has no volume.");
    long active = r.volumes().stream().filter(Recipe.Part::active).count();
    if (active > 1) {
      throw new ShedException(active + " volumes of the recipe are active; boot code expects one.");
    }
    TableMaker tables =
        Catalogue.table(r.table())
            .maker()
            .orElseThrow(() -> new ShedException("No table " + r.table() + " is written here."));
    Families.named(r.family());
    drivers(r, tables);
    List<Recipe.Part> before = new ArrayList<>();
    long at = tables.firstFree();
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
      volume(name, p, tables);
      before.add(p);
      at = p.end();
    }
  }

  private static void drivers(Recipe r, TableMaker tables) {
    if (r.drivers().isEmpty()) return;
    if (tables.drivers().isEmpty()) {
      throw new ShedException("A table " + r.table() + " has no blocks for drivers.");
    }
    Set<String> served = new HashSet<>();
    for (Recipe.DriverFrom d : r.drivers()) {
      if (r.volumes().stream().noneMatch(p -> p.type().equals(d.type()))) {
        throw new ShedException(
            "The driver "
                + d.name()
                + " is for "
                + d.type()
                + "; no volume of the recipe is that.");
      }
      if (!served.add(d.type())) {
        throw new ShedException("The recipe has two drivers for " + d.type() + "; take one.");
      }
      boolean sound = d.bytes() > 0 && d.bytes() <= TableDrivers.MOST_BYTES;
      if (!sound || d.name().isBlank() || !SHA256.matcher(d.sha256()).matches()) {
        throw new ShedException(
            "The driver for " + d.type() + " has a name, length or digest that makes no sense.");
      }
    }
  }

  private static void volume(String name, Recipe.Part p, TableMaker tables) {
    if (Catalogue.FILESYSTEMS.stream()
        .noneMatch(f -> f.kinds().contains(p.kind()) && f.maker().isPresent())) {
      throw new ShedException(
          name + " is of the kind \"" + p.kind() + "\"; " + made() + " are made.");
    }
    digits("serial of " + name.toLowerCase(Locale.ROOT), p.serial());
    Optional<String> refusal = tables.refusal(p.type(), p.kind(), p.length());
    if (refusal.isPresent()) {
      throw new ShedException(
          name + " is " + p.kind() + " of " + Say.sectors(p.length()) + "; " + refusal.get() + ".");
    }
    if (p.clusterBytes() < 0 || Integer.bitCount(p.clusterBytes()) > 1) {
      throw new ShedException(
          name
              + " asks for clusters of "
              + Say.bytes(p.clusterBytes())
              + "; they are a power of two, or 0 for what fits.");
    }
    if (p.tableSector() < 0) {
      throw new ShedException(
          name + " has its table at sector " + Say.count(p.tableSector()) + "; 0 is for none.");
    }
    if (p.label().length() > MOST_LABEL) {
      throw new ShedException(
          name
              + " has a label of "
              + Say.count(p.label().length())
              + " letters; no filesystem here keeps more than "
              + MOST_LABEL
              + ".");
    }
    files(name, p);
    if (p.rootEntries() < 0 || p.rootEntries() > 65_520 || p.rootEntries() % 16 != 0) {
      throw new ShedException(
          name
              + " asks for "
              + Say.count(p.rootEntries())
              + " entries in the root folder; it is a multiple of 16 up to 65 520, or 0 for 512.");
    }
    long sources =
        (p.from() >= 0 ? 1 : 0) + (p.folder().isEmpty() ? 0 : 1) + (p.files().isEmpty() ? 0 : 1);
    if (sources > 1) {
      throw new ShedException(
          name + " is filled from a volume, from a folder and from files; take one.");
    }
  }

  private static String made() {
    List<String> kinds =
        Catalogue.FILESYSTEMS.stream()
            .filter(f -> f.maker().isPresent())
            .flatMap(f -> f.kinds().stream())
            .toList();
    int last = kinds.size() - 1;
    return String.join(", ", kinds.subList(0, last)) + " and " + kinds.get(last);
  }

  private static void files(String name, Recipe.Part p) {
    for (Recipe.FileFrom f : p.files()) {
      boolean plain =
          !f.path().isEmpty()
              && List.of(f.path().split("/", -1)).stream()
                  .noneMatch(n -> n.isBlank() || n.equals(".") || n.equals(".."));
      if (!plain || f.bytes() < 0 || !SHA256.matcher(f.sha256()).matches()) {
        throw new ShedException(
            name + " has a file \"" + f.path() + "\" whose path, length or digest makes no sense.");
      }
      byte[] text = f.text().getBytes(StandardCharsets.US_ASCII);
      if (text.length > 0 && (text.length != f.bytes() || !Sha256.of(text).equals(f.sha256()))) {
        throw new ShedException(
            name + " has a text " + f.path() + " whose length or digest is not the one named.");
      }
      f.stamp();
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
