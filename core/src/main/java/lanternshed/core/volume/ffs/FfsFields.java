package lanternshed.core.volume.ffs;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Field;

/** Names of the bytes of a root block and of a header, from the places that the reader uses. */
final class FfsFields {
  static final List<Field> ROOT =
      with(
          new Field(FfsBlock.BITMAP_FLAG, 4, "bitmap valid"),
          new Field(FfsBlock.BITMAP_PAGES, 4 * FfsBlock.PAGES, "bitmap blocks"),
          new Field(FfsBlock.BITMAP_EXTENSION, 4, "bitmap extension"),
          new Field(FfsBlock.DISK_DATE, 12, "last change of the volume"),
          new Field(FfsBlock.CREATED, 12, "made on"));

  static final List<Field> HEADER =
      with(
          new Field(FfsBlock.OWNER, 4, "owner"),
          new Field(FfsBlock.PROTECTION, 4, "protection bits"),
          new Field(FfsBlock.FILE_BYTES, 4, "length"),
          new Field(FfsBlock.COMMENT, 1 + FfsBlock.MOST_COMMENT, "comment"),
          new Field(FfsBlock.NEXT_HASH, 4, "next of the same place"),
          new Field(FfsBlock.PARENT, 4, "folder"),
          new Field(FfsBlock.EXTENSION, 4, "extension"));

  private FfsFields() {}

  private static List<Field> with(Field... more) {
    List<Field> out =
        new ArrayList<>(
            List.of(
                new Field(FfsBlock.TYPE, 4, "type"),
                new Field(FfsBlock.OWN_KEY, 4, "own number"),
                new Field(FfsBlock.CHECKSUM, 4, "checksum"),
                new Field(FfsBlock.TABLE, 4 * FfsBlock.SLOTS, "72 pointers"),
                new Field(FfsBlock.DATE, 12, "days, minutes, fiftieths"),
                new Field(FfsBlock.NAME, 1 + FfsBlock.MOST_NAME, "name"),
                new Field(FfsBlock.SECONDARY_TYPE, 4, "secondary type")));
    out.addAll(List.of(more));
    return List.copyOf(out);
  }
}
