package lanternshed.core.volume.fat;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Field;

/** Names of the bytes of a boot sector and of a folder, from the places that the reader uses. */
final class FatFields {
  static final List<Field> BOOT =
      List.of(
          new Field(0, 3, "jump"),
          new Field(FatLayout.OEM, 8, "OEM name"),
          new Field(FatLayout.BYTES_PER_SECTOR, 2, "bytes per sector"),
          new Field(FatLayout.SECTORS_PER_CLUSTER, 1, "sectors per cluster"),
          new Field(FatLayout.RESERVED, 2, "reserved sectors"),
          new Field(FatLayout.FATS, 1, "number of FATs"),
          new Field(FatLayout.ROOT_ENTRIES, 2, "root entries"),
          new Field(FatLayout.TOTAL_16, 2, "total sectors, 16 bits"),
          new Field(FatLayout.MEDIA, 1, "media byte"),
          new Field(FatLayout.FAT_SECTORS_16, 2, "sectors per FAT"),
          new Field(FatLayout.SECTORS_PER_TRACK, 2, "sectors per track"),
          new Field(FatLayout.HEADS, 2, "heads"),
          new Field(FatLayout.HIDDEN, 4, "hidden sectors"),
          new Field(FatLayout.TOTAL_32, 4, "total sectors, 32 bits"),
          new Field(FatLayout.TAIL_16, 1, "drive number"),
          new Field(FatLayout.TAIL_16 + 2, 1, "extended signature"),
          new Field(FatLayout.TAIL_16 + 3, 4, "serial"),
          new Field(FatLayout.TAIL_16 + 7, 11, "label"),
          new Field(FatLayout.TAIL_16 + 18, 8, "kind"),
          new Field(FatLayout.CODE, 448, "boot code"),
          new Field(510, 2, "mark 55 AA"));

  private static final List<Field> ENTRY =
      List.of(
          new Field(0, 11, "name"),
          new Field(11, 1, "attributes"),
          new Field(22, 2, "time"),
          new Field(24, 2, "date"),
          new Field(26, 2, "first cluster"),
          new Field(28, 4, "length"));

  static final List<Field> ENTRIES = entries();

  private FatFields() {}

  private static List<Field> entries() {
    List<Field> out = new ArrayList<>();
    for (int e = 0; e < 512 / FatVolume.ENTRY; e++) {
      for (Field f : ENTRY) {
        int at = e * FatVolume.ENTRY + f.at();
        out.add(new Field(at, f.length(), "entry " + (e + 1) + ": " + f.name()));
      }
    }
    return List.copyOf(out);
  }
}
