package lanternshed.core.survey;

import java.util.List;

/** Names of the bytes of structures, with the specifications' own field names. */
public final class Fields {

  /** A field: first byte, length, name. */
  public record Field(int at, int length, String name) {}

  private static final List<Field> TABLE = table();
  private static final List<Field> BOOT =
      List.of(
          new Field(0, 3, "jump"),
          new Field(3, 8, "OEM name"),
          new Field(11, 2, "bytes per sector"),
          new Field(13, 1, "sectors per cluster"),
          new Field(14, 2, "reserved sectors"),
          new Field(16, 1, "number of FATs"),
          new Field(17, 2, "root entries"),
          new Field(19, 2, "total sectors, 16 bits"),
          new Field(21, 1, "media byte"),
          new Field(22, 2, "sectors per FAT"),
          new Field(24, 2, "sectors per track"),
          new Field(26, 2, "heads"),
          new Field(28, 4, "hidden sectors"),
          new Field(32, 4, "total sectors, 32 bits"),
          new Field(36, 1, "drive number"),
          new Field(38, 1, "extended signature"),
          new Field(39, 4, "serial"),
          new Field(43, 11, "label"),
          new Field(54, 8, "kind"),
          new Field(62, 448, "boot code"),
          new Field(510, 2, "mark 55 AA"));
  private static final List<Field> ENTRY =
      List.of(
          new Field(0, 11, "name"),
          new Field(11, 1, "attributes"),
          new Field(22, 2, "time"),
          new Field(24, 2, "date"),
          new Field(26, 2, "first cluster"),
          new Field(28, 4, "length"));

  private Fields() {}

  /** The fields of one sector of a structure; empty where it has none that are named. */
  public static List<Field> of(String kind, boolean firstSector) {
    return switch (kind) {
      case "table" -> TABLE;
      case "boot sector" -> firstSector ? BOOT : List.of();
      case "root folder", "folder" -> entries();
      default -> List.of();
    };
  }

  private static List<Field> table() {
    List<Field> out = new java.util.ArrayList<>();
    out.add(new Field(0, 440, "boot code"));
    out.add(new Field(440, 4, "disk signature"));
    for (int i = 0; i < 4; i++) {
      int at = 446 + 16 * i;
      String n = "entry " + (i + 1) + ": ";
      out.add(new Field(at, 1, n + "flag"));
      out.add(new Field(at + 1, 3, n + "start C/H/S"));
      out.add(new Field(at + 4, 1, n + "type"));
      out.add(new Field(at + 5, 3, n + "end C/H/S"));
      out.add(new Field(at + 8, 4, n + "start LBA"));
      out.add(new Field(at + 12, 4, n + "length"));
    }
    out.add(new Field(510, 2, "mark 55 AA"));
    return List.copyOf(out);
  }

  private static List<Field> entries() {
    List<Field> out = new java.util.ArrayList<>();
    for (int e = 0; e < 16; e++) {
      for (Field f : ENTRY)
        out.add(new Field(e * 32 + f.at(), f.length(), "entry " + (e + 1) + ": " + f.name()));
    }
    return out;
  }
}
