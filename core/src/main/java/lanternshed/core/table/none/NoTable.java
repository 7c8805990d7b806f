package lanternshed.core.table.none;

import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.TableMaker;
import lanternshed.core.table.TableReading;
import lanternshed.core.table.TableScheme;

/**
 * P-30: nothing divides the medium; its one volume starts at sector 0 or behind what is reserved.
 */
public final class NoTable implements TableScheme, TableMaker {

  @Override
  public String name() {
    return "none";
  }

  /** There is nothing to be read. */
  @Override
  public Optional<TableReading> read(Medium medium) {
    return Optional.empty();
  }

  @Override
  public boolean alone() {
    return true;
  }

  @Override
  public Optional<TableMaker> maker() {
    return Optional.of(this);
  }

  @Override
  public long firstFree() {
    return 0;
  }

  @Override
  public String type(String kind, long sectors, boolean byLba) {
    return "";
  }

  @Override
  public String typeName(String type) {
    return "no table";
  }

  @Override
  public Optional<String> refusal(String type, String kind, long sectors) {
    return type.isEmpty() ? Optional.empty() : Optional.of("there is no table that says so");
  }

  @Override
  public byte[] kept(Medium old) {
    return new byte[0];
  }

  @Override
  public void write(
      Medium medium, Geometry geometry, byte[] code, long signature, List<Slot> slots) {
    if (slots.size() == 1) return;
    throw new ShedException(
        "A medium without a table has one volume, not " + slots.size() + "; leave the others out.");
  }
}
