package lanternshed.core.volume;

import java.time.DateTimeException;
import java.time.LocalDateTime;
import java.util.Locale;
import java.util.Optional;

/**
 * A file or folder as its volume describes it.
 *
 * @param path names from the root, joined by "/"; the root itself is ""
 * @param name the name on disk, "HERON.PAT"
 * @param longName the long name where the system kept one, else the same as {@code name}
 * @param bytes length of a file; 0 for a folder
 * @param attributes the filesystem's own bits
 * @param stamp packed date (upper 16 bits) and time (lower 16) as on disk
 * @param first where its data begin, in the filesystem's own unit
 * @param exact its time where the volume keeps more than a stamp says: before 1980, or odd seconds;
 *     empty for what the stamp says
 */
public record Node(
    String path,
    String name,
    String longName,
    boolean folder,
    long bytes,
    int attributes,
    int stamp,
    long first,
    Optional<LocalDateTime> exact) {

  /** One whose stamp is all that its volume keeps. */
  public Node(
      String path,
      String name,
      String longName,
      boolean folder,
      long bytes,
      int attributes,
      int stamp,
      long first) {
    this(path, name, longName, folder, bytes, attributes, stamp, first, Optional.empty());
  }

  /** As a clock on the wall showed it; empty for no time, or bits that are none. */
  public Optional<LocalDateTime> time() {
    if (exact.isPresent()) return exact;
    int date = stamp >>> 16;
    try {
      return Optional.of(
          LocalDateTime.of(
              1980 + (date >> 9),
              date >> 5 & 15,
              date & 31,
              stamp >> 11 & 31,
              stamp >> 5 & 63,
              (stamp & 31) * 2));
    } catch (DateTimeException e) {
      // What lies on disk may be any bits.
      return Optional.empty();
    }
  }

  /** Whether these letters stand somewhere in its path, large or small. */
  public boolean hasLetters(String letters) {
    return path.toUpperCase(Locale.ROOT).contains(letters.toUpperCase(Locale.ROOT));
  }

  /** The folder it is in; "" for the root's own children. */
  public String parent() {
    int slash = path.lastIndexOf('/');
    return slash < 0 ? "" : path.substring(0, slash);
  }
}
