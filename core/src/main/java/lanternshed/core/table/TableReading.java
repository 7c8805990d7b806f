package lanternshed.core.table;

import java.util.List;
import lanternshed.core.measure.Finding;

/** What a table says: its entries in order of number, and what is wrong with it. */
public record TableReading(String scheme, List<TableEntry> entries, List<Finding> findings) {
  public TableReading {
    entries = List.copyOf(entries);
    findings = List.copyOf(findings);
  }

  /** The entries that hold a volume. */
  public List<TableEntry> volumes() {
    return entries.stream().filter(e -> !e.container()).toList();
  }
}
