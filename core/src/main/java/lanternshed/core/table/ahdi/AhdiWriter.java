package lanternshed.core.table.ahdi;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.TableMaker;

/**
 * Writes the root sector and the chain of XGM sectors behind it: GEM below 16 MiB, BGM from there
 * on. A root sector that was executed keeps its code and its sum.
 */
final class AhdiWriter implements TableMaker {
  /** GEM volumes end below it (P-21). */
  private static final long GEM_END = 32_768;

  /** Where a list of bad sectors would be told: none. */
  private static final int BAD_LIST_AT = 0x1F6;

  private static final int ENTRIES = 4;

  @Override
  public String type(String kind, long sectors, boolean byLba) {
    if (!kind.equals("FAT16")) {
      throw new ShedException("Volumes of " + kind + " have no kind in this table.");
    }
    return sectors < GEM_END ? "GEM" : "BGM";
  }

  @Override
  public String typeName(String type) {
    return switch (type) {
      case "GEM" -> "GEM, below 16 MiB";
      case "BGM" -> "BGM, 16 MiB and more";
      default -> type;
    };
  }

  @Override
  public Optional<String> refusal(String type, String kind, long sectors) {
    if (type.equals(sectors < GEM_END ? "GEM" : "BGM") && kind.equals("FAT16")) {
      return Optional.empty();
    }
    return Optional.of("the kind " + type + " does not say so");
  }

  /** The whole root sector where it is executed; its entries are not taken over. */
  @Override
  public byte[] kept(Medium old) {
    byte[] b = old.sector(0);
    return Ahdi.sum(b) == Ahdi.EXECUTABLE ? b : new byte[0];
  }

  @Override
  public void write(
      Medium medium, Geometry geometry, byte[] code, long signature, List<Slot> slots) {
    List<Slot> plain = slots.stream().filter(s -> !s.logical()).toList();
    List<Slot> chained = slots.stream().filter(Slot::logical).toList();
    if (plain.size() + (chained.isEmpty() ? 0 : 1) > ENTRIES) {
      throw new ShedException(
          "The root sector has four entries; " + plain.size() + " volumes do not fit.");
    }
    byte[] b = new byte[512];
    if (code.length == 512) System.arraycopy(code, 0, b, 0, Ahdi.TOTAL_AT);
    // What stood there as further entries would name places of the old drive.
    if (code.length == 512 && icd(code)) {
      int end = Ahdi.ICD_AT + Ahdi.ICD_ENTRIES * Ahdi.ENTRY;
      Arrays.fill(b, Ahdi.ICD_AT, end, (byte) 0);
    }
    Bytes.putBe32(b, Ahdi.TOTAL_AT, medium.sectors());
    int at = Ahdi.ENTRIES_AT;
    for (Slot s : plain) {
      entry(b, at, s.active(), s.type(), s.start(), s.length());
      at += Ahdi.ENTRY;
    }
    if (!chained.isEmpty()) {
      long first = chained.get(0).tableSector();
      entry(b, at, false, "XGM", first, chained.get(chained.size() - 1).end() - first);
      chain(medium, chained, first);
    }
    Bytes.putBe32(b, BAD_LIST_AT, 0);
    if (code.length == 512) {
      Bytes.putBe16(b, Ahdi.SUM_AT, 0);
      Bytes.putBe16(b, Ahdi.SUM_AT, Ahdi.EXECUTABLE - Ahdi.sum(b));
    } else if (Ahdi.sum(b) == Ahdi.EXECUTABLE) {
      // By chance it would be executed.
      Bytes.putBe16(b, Ahdi.SUM_AT, 1);
    }
    medium.write(0, 1, b, 0);
  }

  private static boolean icd(byte[] b) {
    String id = new String(b, Ahdi.ICD_AT + 1, 3, StandardCharsets.US_ASCII);
    return (b[Ahdi.ICD_AT] & Ahdi.EXISTS) != 0 && (id.equals("GEM") || id.equals("BGM"));
  }

  /** In each sector its own volume from here, and the next sector from the first of the chain. */
  private static void chain(Medium medium, List<Slot> chained, long first) {
    for (int i = 0; i < chained.size(); i++) {
      Slot s = chained.get(i);
      byte[] b = new byte[512];
      long own = s.tableSector();
      entry(b, Ahdi.ENTRIES_AT, s.active(), s.type(), s.start() - own, s.length());
      if (i + 1 < chained.size()) {
        Slot next = chained.get(i + 1);
        long length = next.end() - next.tableSector();
        int at = Ahdi.ENTRIES_AT + Ahdi.ENTRY;
        entry(b, at, false, "XGM", next.tableSector() - first, length);
      }
      medium.write(own, 1, b, 0);
    }
  }

  private static void entry(
      byte[] b, int at, boolean bootable, String type, long start, long length) {
    b[at] = (byte) (Ahdi.EXISTS | (bootable ? Ahdi.BOOTABLE : 0));
    byte[] id = type.getBytes(StandardCharsets.US_ASCII);
    System.arraycopy(id, 0, b, at + 1, 3);
    Bytes.putBe32(b, at + 4, start);
    Bytes.putBe32(b, at + 8, length);
  }
}
