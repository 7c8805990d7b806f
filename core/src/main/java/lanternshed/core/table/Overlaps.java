package lanternshed.core.table;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Finding;

/** P-2: entries that claim the same sectors. */
public final class Overlaps {
  private Overlaps() {}

  public static List<Finding> of(List<TableEntry> entries) {
    List<Finding> out = new ArrayList<>();
    for (TableEntry a : entries) {
      for (TableEntry b : entries) {
        boolean nested = a.container() && b.logical() || b.container() && a.logical();
        if (b.number() <= a.number() || nested) continue;
        if (a.start() >= b.end() || b.start() >= a.end()) continue;
        out.add(
            Finding.wrong(
                "P-2",
                "entries " + a.number() + " and " + b.number(),
                "Entries "
                    + a.number()
                    + " and "
                    + b.number()
                    + " overlap: writing one destroys the other.",
                "Find out which of the two holds the files before anything is written."));
      }
    }
    return out;
  }
}
