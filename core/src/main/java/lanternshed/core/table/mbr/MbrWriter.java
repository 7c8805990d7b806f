package lanternshed.core.table.mbr;

import java.util.List;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;

/**
 * Writes a master boot record and its chain of extended tables under one geometry. Each logical
 * volume stands one track after its own table sector, as systems of the time laid them out.
 */
public final class MbrWriter {

  /**
   * A volume to be entered.
   *
   * @param start first sector on the medium
   * @param length sectors
   * @param type the type code of the volume
   * @param active whether it is marked to boot
   * @param logical whether it goes into the extended container
   * @param tableSector for a logical volume the sector of its own extended table, before its start
   */
  public record Slot(
      long start, long length, int type, boolean active, boolean logical, long tableSector) {
    public long end() {
      return start + length;
    }
  }

  private MbrWriter() {}

  /**
   * @param code boot code of at most 440 bytes
   * @param signature disk signature, 32 bits
   * @param slots at most four primaries, the container of the logical ones counted as one
   */
  public static void write(
      Medium medium, Geometry geometry, byte[] code, long signature, List<Slot> slots) {
    List<Slot> primaries = slots.stream().filter(s -> !s.logical()).toList();
    List<Slot> logicals = slots.stream().filter(Slot::logical).toList();
    if (code.length > Mbr.CODE_END) {
      throw new ShedException(
          "The boot code has " + code.length + " bytes; sector 0 has room for 440.");
    }
    if (primaries.size() + (logicals.isEmpty() ? 0 : 1) > 4) {
      throw new ShedException(
          "The table has four entries; "
              + primaries.size()
              + " primary volumes"
              + (logicals.isEmpty() ? "" : " and an extended container")
              + " do not fit. Make some of them logical.");
    }
    byte[] b = new byte[512];
    System.arraycopy(code, 0, b, 0, code.length);
    Bytes.put32(b, Mbr.SIGNATURE_AT, signature);
    int at = Mbr.ENTRIES_AT;
    for (Slot s : primaries) {
      entry(b, at, geometry, s.active(), s.type(), s.start(), s.length(), s.start());
      at += Mbr.ENTRY_BYTES;
    }
    if (!logicals.isEmpty()) {
      long base = logicals.get(0).tableSector();
      long end = logicals.get(logicals.size() - 1).end();
      entry(b, at, geometry, false, container(logicals), base, end - base, base);
      writeChain(medium, geometry, logicals, base);
    }
    Bytes.put16(b, Mbr.MARK_AT, 0xAA55);
    medium.write(0, 1, b, 0);
  }

  /** P-8: a container is reached as the volumes in it are. */
  private static int container(List<Slot> logicals) {
    return logicals.stream().anyMatch(s -> s.type() == 0x0E || s.type() == 0x0C) ? 0x0F : 0x05;
  }

  private static void writeChain(Medium medium, Geometry g, List<Slot> logicals, long base) {
    for (int i = 0; i < logicals.size(); i++) {
      Slot s = logicals.get(i);
      byte[] b = new byte[512];
      long own = s.tableSector();
      entry(b, Mbr.ENTRIES_AT, g, false, s.type(), s.start(), s.length(), s.start() - own);
      if (i + 1 < logicals.size()) {
        Slot next = logicals.get(i + 1);
        long length = next.end() - next.tableSector();
        int at = Mbr.ENTRIES_AT + Mbr.ENTRY_BYTES;
        entry(b, at, g, false, 0x05, next.tableSector(), length, next.tableSector() - base);
      }
      Bytes.put16(b, Mbr.MARK_AT, 0xAA55);
      medium.write(own, 1, b, 0);
    }
  }

  private static void entry(
      byte[] b, int at, Geometry g, boolean active, int type, long start, long length, long said) {
    b[at] = (byte) (active ? 0x80 : 0);
    g.toTableChs(start).pack(b, at + 1);
    b[at + 4] = (byte) type;
    g.toTableChs(start + length - 1).pack(b, at + 5);
    Bytes.put32(b, at + 8, said);
    Bytes.put32(b, at + 12, length);
  }
}
