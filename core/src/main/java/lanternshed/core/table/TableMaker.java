package lanternshed.core.table;

import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Medium;

/** Writes tables of one scheme. */
public interface TableMaker {

  /**
   * A volume to be entered.
   *
   * @param start first sector on the medium
   * @param length sectors of 512 bytes
   * @param type the scheme's own code of the volume, as {@link #type} gives it
   * @param active whether it is marked to boot
   * @param logical whether it goes into a container
   * @param tableSector for a logical volume the sector of its own table, before its start
   */
  record Slot(
      long start, long length, String type, boolean active, boolean logical, long tableSector) {
    public long end() {
      return start + length;
    }
  }

  /**
   * The code under which a volume is entered; only codes that the machine knows (P-8).
   *
   * @param kind published name of the volume, "FAT16"
   * @param byLba whether only calls that pass an LBA reach its end, and the machine has them
   */
  String type(String kind, long sectors, boolean byLba);

  /** A code in words. */
  String typeName(String type);

  /** Why a volume of this kind and length cannot stand under its code; empty where it can. */
  Optional<String> refusal(String type, String kind, long sectors);

  /**
   * What is kept of an old table beside its entries: boot code, drivers; as {@link #write} takes
   * it. Empty where there is nothing of the kind.
   */
  byte[] kept(Medium old);

  /** How drivers go into it; empty for a scheme that has no blocks for any. */
  default Optional<TableDrivers> drivers() {
    return Optional.empty();
  }

  /** The first sector that a volume may have. */
  default long firstFree() {
    return 1;
  }

  /**
   * Writes the table and, where there are any, those of its container.
   *
   * @param code boot code or drivers, as {@link #kept} gives them; empty for none
   * @param signature of the medium, 32 bits
   * @throws lanternshed.core.measure.ShedException where the slots do not fit this scheme
   */
  void write(Medium medium, Geometry geometry, byte[] code, long signature, List<Slot> slots);
}
