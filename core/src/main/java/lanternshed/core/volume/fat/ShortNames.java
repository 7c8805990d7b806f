package lanternshed.core.volume.fat;

import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.VolumeException;

/**
 * The 8.3 names of one folder: the source's own where it has one, the name itself where it is one,
 * else a basis with a numeric tail (FAT specification 1.03, "Short directory entries").
 */
final class ShortNames {
  private final boolean longNames;
  private final Set<String> taken = new HashSet<>();

  /** By basis the first tail that may be free. */
  private final Map<String, Integer> tails = new HashMap<>();

  ShortNames(boolean longNames) {
    this.longNames = longNames;
  }

  /**
   * The eleven bytes of an item's short name.
   *
   * @throws VolumeException where its name cannot stand on the volume
   */
  byte[] of(FileSet.Item item) {
    byte[] own = item.own();
    if (own.length == FatVolume.KEPT_BYTES + FatVolume.NAME_BYTES) {
      byte[] b = Arrays.copyOfRange(own, FatVolume.KEPT_BYTES, own.length);
      // It is still called so: whatever its name is, it is not for an edit of others to change.
      if (FatNames.decode(b, 0).equals(item.shortName()) && taken.add(item.shortName())) return b;
    }
    // An exception for each of many files would take longer than all the rest.
    boolean known = !item.shortName().isEmpty() && isShort(item.shortName());
    if (known && taken.add(item.shortName())) {
      return FatNames.encode(item.shortName());
    }
    if (!longNames || isShort(item.name())) {
      byte[] b = FatNames.encode(item.name());
      if (taken.add(item.name())) return b;
    }
    return tailed(item.name());
  }

  private static boolean isShort(String name) {
    try {
      return FatNames.decode(FatNames.encode(name), 0).equals(name);
    } catch (VolumeException e) {
      return false;
    }
  }

  private byte[] tailed(String name) {
    LongName.check(name);
    String cleaned = name.toUpperCase(Locale.ROOT).replace(" ", "").replaceAll("^\\.+", "");
    int dot = cleaned.lastIndexOf('.');
    String base = legal(dot < 0 ? cleaned : cleaned.substring(0, dot).replace(".", ""));
    String extension = dot < 0 ? "" : legal(cleaned.substring(dot + 1));
    if (base.isEmpty()) base = "_";
    if (extension.length() > 3) extension = extension.substring(0, 3);
    String key = base.substring(0, Math.min(6, base.length())) + "." + extension;
    for (int n = tails.getOrDefault(key, 1); ; n++) {
      String tail = "~" + n;
      String stem = base.substring(0, Math.min(8 - tail.length(), base.length())) + tail;
      String candidate = extension.isEmpty() ? stem : stem + "." + extension;
      if (!taken.add(candidate)) continue;
      tails.put(key, n + 1);
      return FatNames.encode(candidate);
    }
  }

  private static String legal(String part) {
    StringBuilder out = new StringBuilder();
    for (char c : part.toCharArray()) out.append(FatNames.isLegal(c) ? c : '_');
    return out.toString();
  }
}
