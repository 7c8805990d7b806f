package lanternshed.core.work;

import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Predicate;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.volume.FileSet;

/**
 * Files on a volume that have the same bytes as one that comes. Only those of equal length are
 * read, and each of them once.
 */
public final class SameThere {
  /** A volume without files. */
  public static final SameThere NONE = new SameThere(new FileSet(), p -> true, i -> "");

  private static final long MOST = 16 << 20;

  private final Map<Long, List<FileSet.Item>> byLength;
  private final Map<Long, Map<String, String>> known;
  private final Function<FileSet.Item, String> digest;

  /** What is on another volume, asked after this one; null for none. */
  private final SameThere next;

  /**
   * @param stays whether the file of a path is still there, unchanged, when others come
   * @param digest SHA-256 of a file's bytes, which whoever calls may know already
   */
  public SameThere(FileSet there, Predicate<String> stays, Function<FileSet.Item, String> digest) {
    this(new HashMap<>(), new HashMap<>(), digest, null);
    for (FileSet.Item i : there.items()) {
      if (i.folder() || i.bytes() == 0 || i.bytes() > MOST || !stays.test(i.path())) continue;
      byLength.computeIfAbsent(i.bytes(), b -> new ArrayList<>()).add(i);
    }
  }

  private SameThere(
      Map<Long, List<FileSet.Item>> byLength,
      Map<Long, Map<String, String>> known,
      Function<FileSet.Item, String> digest,
      SameThere next) {
    this.byLength = byLength;
    this.known = known;
    this.digest = digest;
    this.next = next;
  }

  /** Reads a file for its digest. */
  public static String digest(FileSet.Item item) {
    MessageDigest d = Sha256.fresh();
    item.copyTo(d::update);
    return HexFormat.of().formatHex(d.digest());
  }

  /** What is on one volume, or else on the next. */
  public SameThere or(SameThere other) {
    SameThere after = next == null ? other : next.or(other);
    return new SameThere(byLength, known, digest, after);
  }

  /** Path of a file that has these bytes. */
  Optional<String> of(long bytes, String sha256) {
    if (byLength.containsKey(bytes)) {
      String path = known.computeIfAbsent(bytes, this::paths).get(sha256);
      if (path != null) return Optional.of(path);
    }
    return next == null ? Optional.empty() : next.of(bytes, sha256);
  }

  /** By digest the first path of a length. */
  private Map<String, String> paths(long bytes) {
    Map<String, String> out = new HashMap<>();
    for (FileSet.Item i : byLength.get(bytes)) {
      try {
        out.putIfAbsent(digest.apply(i), i.path());
      } catch (ShedException e) {
        // What does not read whole is the same as nothing; that it is damaged is said elsewhere.
        continue;
      }
    }
    return out;
  }
}
