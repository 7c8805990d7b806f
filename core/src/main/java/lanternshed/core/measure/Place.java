package lanternshed.core.measure;

import java.util.List;

/**
 * A run of sectors with a name: part of a table, a boot sector, a FAT, a folder, a file, free
 * space.
 *
 * @param kind what it is, in the words of its format: "boot sector", "file", "free space"
 * @param path of a file or folder; the name of a volume's type; else ""
 * @param start first sector of 512 bytes
 * @param bytes length of a file; else 0
 * @param first names of the bytes of its first sector
 * @param each names of the bytes of each sector after it
 */
public record Place(
    String kind,
    String path,
    long start,
    long length,
    long bytes,
    List<Field> first,
    List<Field> each) {

  /** Something whose bytes have no names. */
  public static Place of(String kind, String path, long start, long length, long bytes) {
    return new Place(kind, path, start, length, bytes, List.of(), List.of());
  }

  /** Something of which only the first sector is a structure. */
  public static Place headed(String kind, long start, long length, List<Field> first) {
    return new Place(kind, "", start, length, 0, first, List.of());
  }

  /** Something whose sectors are all of one structure. */
  public Place named(List<Field> fields) {
    return new Place(kind, path, start, length, bytes, fields, fields);
  }

  /** The same behind {@code sectors} more. */
  public Place moved(long sectors) {
    return new Place(kind, path, start + sectors, length, bytes, first, each);
  }

  /** Names of the bytes of one of its sectors. */
  public List<Field> fields(long sector) {
    return sector == start ? first : each;
  }
}
