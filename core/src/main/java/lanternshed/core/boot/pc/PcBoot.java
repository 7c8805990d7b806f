package lanternshed.core.boot.pc;

import java.util.List;
import java.util.Optional;
import java.util.function.LongFunction;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.BootChain;
import lanternshed.core.boot.BootPath;
import lanternshed.core.boot.Rehearsal;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Place;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;
import lanternshed.core.medium.Mending;
import lanternshed.core.medium.WithFirstSector;
import lanternshed.core.table.mbr.Mbr;

/** The way of a PC: sector 0, the active entry's boot sector, the system's loader. */
public final class PcBoot implements BootPath {

  /** Kinds whose root has a fixed place. */
  static final List<String> FIXED_ROOT = List.of("FAT12", "FAT16");

  @Override
  public BootChain walk(Medium medium, Geometry target, long reach) {
    return new Walk(medium, target, reach).run();
  }

  @Override
  public byte[] tableCode() {
    return BootCode.table();
  }

  @Override
  public byte[] volumeCode(String kind, String contract, String systemFile) {
    if (systemFile.isEmpty()) return new byte[0];
    return Contract.of(contract).map(c -> BootCode.volume(c, kind, systemFile)).orElse(new byte[0]);
  }

  @Override
  public Optional<Mending> mending(Medium medium, Geometry target) {
    return Optional.of(new StartMending(medium, target));
  }

  @Override
  public Medium marked(Medium medium, int entry) {
    try {
      byte[] first = medium.sector(0).clone();
      int number = 1;
      for (int at = Mbr.ENTRIES_AT; at < Mbr.MARK_AT; at += Mbr.ENTRY_BYTES) {
        first[at] = (byte) (number++ == entry ? 0x80 : 0);
      }
      return new WithFirstSector(medium, first);
    } catch (MediumException e) {
      // Where sector 0 does not come back there is no mark to change.
      return medium;
    }
  }

  @Override
  public Optional<Rehearsal> rehearse(
      Medium medium, Around around, LongFunction<Optional<Place>> what) {
    return Optional.of(PcRehearsal.of(medium, around, what));
  }
}
