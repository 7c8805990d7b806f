package lanternshed.core.table;

import java.util.Optional;
import lanternshed.core.medium.Medium;

/** One way to divide a medium. Recognises its own table and reads it; nonsense becomes findings. */
public interface TableScheme {
  /** Short name: "MBR". */
  String name();

  /** Reads the table; empty when this medium does not carry one of this scheme. */
  Optional<TableReading> read(Medium medium);
}
