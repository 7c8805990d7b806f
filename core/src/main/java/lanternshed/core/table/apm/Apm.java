package lanternshed.core.table.apm;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Place;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableReading;
import lanternshed.core.table.TableScheme;

/**
 * The map of computers whose first block begins with "ER": one block an entry from block 1 on, each
 * with the mark "PM", big endian, the map itself among them. Read only.
 */
public final class Apm implements TableScheme {
  private static final int DRIVER_MARK = 0x4552;
  private static final int BLOCK_SIZE = 2;
  private static final int ENTRY_MARK = 0x504D;
  private static final int ENTRIES = 4;
  private static final int START = 8;
  private static final int LENGTH = 12;
  private static final int NAME = 16;
  private static final int TYPE = 48;
  private static final int MOST_ENTRIES = 64;

  @Override
  public String name() {
    return "APM";
  }

  @Override
  public Optional<TableReading> read(Medium m) {
    if (m.sectors() < 3 || Bytes.be16(m.sector(0), 0) != DRIVER_MARK) return Optional.empty();
    int size = Bytes.be16(m.sector(0), BLOCK_SIZE);
    int per = size >= 512 && size <= 4096 && Integer.bitCount(size) == 1 ? size / 512 : 1;
    if (Bytes.be16(m.sector(per), 0) != ENTRY_MARK) per = 1;
    byte[] first = m.sector(per);
    if (Bytes.be16(first, 0) != ENTRY_MARK) return Optional.empty();
    long count = Math.min(MOST_ENTRIES, Bytes.be32(first, ENTRIES));
    List<TableEntry> entries = new ArrayList<>();
    List<Finding> findings = new ArrayList<>();
    for (int i = 1; i <= count && (long) i * per < m.sectors(); i++) {
      byte[] b = m.sector((long) i * per);
      if (Bytes.be16(b, 0) != ENTRY_MARK) {
        findings.add(
            Finding.wrong(
                "P-6",
                "block " + i,
                "Entry " + i + " of the map has no mark \"PM\"; what follows is not listed.",
                "Look at the blocks by hand."));
        break;
      }
      String type = text(b, TYPE);
      long start = Bytes.be32(b, START) * per;
      long length = Bytes.be32(b, LENGTH) * per;
      // The map itself and what is free hold no volume.
      if (type.endsWith("partition_map") || type.endsWith("Free") || length == 0) continue;
      if (start + length > m.sectors()) {
        findings.add(
            Finding.wrong(
                "P-2",
                "entry " + i,
                "Entry " + i + " ends past the end of the medium.",
                "Read what is inside; the image may have been cut."));
      }
      String name = text(b, NAME);
      String called = name.isEmpty() ? type : type + ", " + name;
      entries.add(TableEntry.plain(i, start, length, called, false, (long) i * per));
    }
    return Optional.of(new TableReading(name(), entries, findings));
  }

  @Override
  public List<Place> places(TableReading table, Medium medium) {
    return List.of(Place.of("APM table", "", 0, Math.min(MOST_ENTRIES, medium.sectors()), 0));
  }

  private static String text(byte[] b, int at) {
    String s = new String(b, at, 32, StandardCharsets.ISO_8859_1);
    int end = s.indexOf('\0');
    return (end < 0 ? s : s.substring(0, end)).replaceAll("\\p{Cntrl}", "").strip();
  }
}
