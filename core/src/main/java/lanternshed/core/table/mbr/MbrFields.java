package lanternshed.core.table.mbr;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Field;

/** Names of the bytes of a table sector, from the places that the reader uses. */
final class MbrFields {
  static final List<Field> TABLE = table();

  private MbrFields() {}

  private static List<Field> table() {
    List<Field> out = new ArrayList<>();
    out.add(new Field(0, Mbr.CODE_END, "boot code"));
    out.add(new Field(Mbr.SIGNATURE_AT, 4, "disk signature"));
    for (int i = 0; i < 4; i++) {
      int at = Mbr.ENTRIES_AT + Mbr.ENTRY_BYTES * i;
      String n = "entry " + (i + 1) + ": ";
      out.add(new Field(at, 1, n + "flag"));
      out.add(new Field(at + 1, 3, n + "start C/H/S"));
      out.add(new Field(at + 4, 1, n + "type"));
      out.add(new Field(at + 5, 3, n + "end C/H/S"));
      out.add(new Field(at + 8, 4, n + "start LBA"));
      out.add(new Field(at + 12, 4, n + "length"));
    }
    out.add(new Field(Mbr.MARK_AT, 2, "mark 55 AA"));
    return List.copyOf(out);
  }
}
