package lanternshed.core.table.mbr;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.TableMaker;

/**
 * Writes a master boot record and its chain of extended tables under one geometry. Each logical
 * volume stands one track after its own table sector, as systems of the time laid them out.
 */
public final class MbrWriter implements TableMaker {

  /** The most sectors of a volume of type 01: 16 MiB less what FAT12 has not (F-4). */
  private static final long MOST_FAT12 = 32_680;

  /** From so many sectors on a FAT16 volume has a 32-bit count, and another type. */
  private static final long LARGE_FAT16 = 65_536;

  @Override
  public String type(String kind, long sectors, boolean byLba) {
    return String.format(
        "%02X",
        switch (kind) {
          case "FAT12" -> 0x01;
          case "FAT16" -> byLba ? 0x0E : sectors < LARGE_FAT16 ? 0x04 : 0x06;
          case "FAT32" -> byLba ? 0x0C : 0x0B;
          case "exFAT" -> 0x07;
          default -> 0xDA;
        });
  }

  @Override
  public String typeName(String type) {
    return Mbr.typeName(code(type));
  }

  @Override
  public Optional<String> refusal(String type, String kind, long sectors) {
    boolean fits =
        switch (code(type)) {
          case 0x01 -> kind.equals("FAT12") && sectors <= MOST_FAT12;
          case 0x04 -> kind.equals("FAT16") && sectors < LARGE_FAT16;
          case 0x06 -> kind.equals("FAT16") && sectors >= LARGE_FAT16;
          case 0x0E -> kind.equals("FAT16");
          case 0x0B, 0x0C -> kind.equals("FAT32");
          case 0x07 -> kind.equals("exFAT");
          default -> false;
        };
    return fits
        ? Optional.empty()
        : Optional.of("the type " + type + " (" + typeName(type) + ") does not say so");
  }

  private static int code(String type) {
    try {
      return Integer.parseInt(type, 16);
    } catch (NumberFormatException e) {
      throw new ShedException(
          "\"" + type + "\" is no type of this table; it has two hexadecimal digits.", e);
    }
  }

  @Override
  public byte[] kept(Medium old) {
    byte[] code = Arrays.copyOf(old.sector(0), Mbr.CODE_END);
    return Bytes.allZero(code, 0, code.length) ? new byte[0] : code;
  }

  /**
   * @param code boot code of at most 440 bytes
   * @param signature disk signature, 32 bits
   * @param slots at most four primaries, the container of the logical ones counted as one
   */
  @Override
  public void write(
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
      entry(b, at, geometry, s.active(), code(s.type()), s.start(), s.length(), s.start());
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
    return logicals.stream().anyMatch(s -> code(s.type()) == 0x0E || code(s.type()) == 0x0C)
        ? 0x0F
        : 0x05;
  }

  private static void writeChain(Medium medium, Geometry g, List<Slot> logicals, long base) {
    for (int i = 0; i < logicals.size(); i++) {
      Slot s = logicals.get(i);
      byte[] b = new byte[512];
      long own = s.tableSector();
      entry(b, Mbr.ENTRIES_AT, g, false, code(s.type()), s.start(), s.length(), s.start() - own);
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
