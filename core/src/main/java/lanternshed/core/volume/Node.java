package lanternshed.core.volume;

import java.util.Locale;

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
 */
public record Node(
    String path,
    String name,
    String longName,
    boolean folder,
    long bytes,
    int attributes,
    int stamp,
    long first) {

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
