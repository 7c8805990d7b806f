package lanternshed.core.table;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Finding;

/**
 * What a table says: its entries in order of number, and what is wrong with it.
 *
 * @param startOrder numbers of the entries that may start the machine, the first tried first
 * @param drivers the scheme's codes of volumes for which the table carries a driver
 */
public record TableReading(
    String scheme,
    List<TableEntry> entries,
    List<Finding> findings,
    List<Integer> startOrder,
    List<String> drivers) {

  public TableReading {
    entries = List.copyOf(entries);
    findings = List.copyOf(findings);
    startOrder = List.copyOf(startOrder);
    drivers = List.copyOf(drivers);
  }

  /** A table that starts what is marked active, and carries no driver. */
  public TableReading(String scheme, List<TableEntry> entries, List<Finding> findings) {
    this(
        scheme,
        entries,
        findings,
        entries.stream().filter(TableEntry::active).map(TableEntry::number).toList(),
        List.of());
  }

  /** The same with more that is to be told of it. */
  public TableReading and(List<Finding> more) {
    List<Finding> all = new ArrayList<>(findings);
    all.addAll(more);
    return new TableReading(scheme, entries, all, startOrder, drivers);
  }

  /** The entries that hold a volume. */
  public List<TableEntry> volumes() {
    return entries.stream().filter(e -> !e.container()).toList();
  }
}
