package lanternshed.core.table.ahdi;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.Overlaps;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableMaker;
import lanternshed.core.table.TableReading;
import lanternshed.core.table.TableScheme;

/**
 * The root sector of 68000 computers with a DMA bus: four entries of flag, three letters, start and
 * length, big endian; XGM entries chain on.
 */
public final class Ahdi implements TableScheme {
  static final int ENTRIES_AT = 0x1C6;
  static final int ENTRY = 12;
  static final int TOTAL_AT = 0x1C2;
  static final int ICD_AT = 0x156;
  static final int ICD_ENTRIES = 8;
  static final int SUM_AT = 0x1FE;
  static final int EXISTS = 0x01;
  static final int BOOTABLE = 0x80;

  /** What the words of a root sector that is executed sum to. */
  static final int EXECUTABLE = 0x1234;

  private static final Set<String> KINDS = Set.of("GEM", "BGM", "XGM", "RAW", "LNX", "MIX", "UNX");
  private static final int MOST_LINKS = 16;

  @Override
  public String name() {
    return "AHDI";
  }

  @Override
  public Optional<TableReading> read(Medium medium) {
    if (medium.sectors() < 2) return Optional.empty();
    byte[] b = medium.sector(0);
    List<TableEntry> entries = new ArrayList<>();
    List<Finding> findings = new ArrayList<>();
    boolean sense = true;
    int found = 0;
    for (int i = 0; i < 4; i++) {
      int at = ENTRIES_AT + i * ENTRY;
      if ((b[at] & 1) == 0) continue;
      String kind = id(b, at + 1);
      long start = Bytes.be32(b, at + 4);
      long length = Bytes.be32(b, at + 8);
      boolean letters = kind.chars().allMatch(c -> c > ' ' && c < 0x7F);
      sense &= letters && start > 0 && length > 0 && start < medium.sectors();
      if (!sense) return Optional.empty();
      if (KINDS.contains(kind)) found++;
      if (kind.equals("XGM")) chain(medium, start, entries, findings);
      else add(medium, entries, findings, kind, start, length, (b[at] & 0x80) != 0, 0);
    }
    if (found == 0) return Optional.empty();
    icd(medium, b, entries, findings);
    findings.addAll(Overlaps.of(entries));
    int sum = sum(b);
    if (sum != EXECUTABLE) {
      findings.add(
          Finding.note(
              "P-22",
              "sector 0",
              String.format(
                  "The words of the root sector sum to 0x%04X, not 0x1234: the machine does not start from it by itself.",
                  sum)));
    }
    long total = Bytes.be32(b, TOTAL_AT);
    if (total != medium.sectors()) {
      findings.add(
          Finding.note(
              "P-2",
              "sector 0",
              "The root sector says "
                  + Say.sectors(total)
                  + ", the image has "
                  + Say.count(medium.sectors())
                  + "."));
    }
    return Optional.of(new TableReading(name(), entries, findings));
  }

  /**
   * Eight more entries that some tools write into the code's room, where all of them make sense.
   */
  private static void icd(
      Medium medium, byte[] b, List<TableEntry> entries, List<Finding> findings) {
    List<int[]> there = new ArrayList<>();
    for (int i = 0; i < ICD_ENTRIES; i++) {
      int at = ICD_AT + i * ENTRY;
      if (b[at] == 0) continue;
      boolean sense =
          (b[at] & EXISTS) != 0
              && KINDS.contains(id(b, at + 1))
              && Bytes.be32(b, at + 4) > 0
              && Bytes.be32(b, at + 4) < medium.sectors();
      if (!sense) return;
      there.add(new int[] {at});
    }
    for (int[] e : there) {
      String kind = id(b, e[0] + 1);
      if (kind.equals("XGM")) continue;
      long start = Bytes.be32(b, e[0] + 4);
      boolean boots = (b[e[0]] & BOOTABLE) != 0;
      add(medium, entries, findings, kind, start, Bytes.be32(b, e[0] + 8), boots, 0);
    }
  }

  /** The 256 big-endian words of a sector, as a word. */
  static int sum(byte[] b) {
    int sum = 0;
    for (int i = 0; i < 512; i += 2) sum += Bytes.be16(b, i);
    return sum & 0xFFFF;
  }

  @Override
  public Optional<TableMaker> maker() {
    return Optional.of(new AhdiWriter());
  }

  private static void chain(
      Medium medium, long first, List<TableEntry> entries, List<Finding> findings) {
    Set<Long> seen = new HashSet<>();
    long at = first;
    for (int link = 0; link < MOST_LINKS; link++) {
      if (at >= medium.sectors() || !seen.add(at)) {
        findings.add(
            Finding.wrong(
                "P-6",
                "sector " + at,
                "The chain of extended volumes loops or leaves the medium at sector "
                    + Say.count(at)
                    + ".",
                "What would follow is not listed."));
        return;
      }
      byte[] b = medium.sector(at);
      long next = -1;
      for (int i = 0; i < 4; i++) {
        int o = ENTRIES_AT + i * ENTRY;
        if ((b[o] & 1) == 0) continue;
        String kind = id(b, o + 1);
        if (kind.equals("XGM")) next = first + Bytes.be32(b, o + 4);
        else
          add(
              medium,
              entries,
              findings,
              kind,
              at + Bytes.be32(b, o + 4),
              Bytes.be32(b, o + 8),
              (b[o] & 0x80) != 0,
              at);
      }
      if (next < 0) return;
      at = next;
    }
  }

  private static String id(byte[] b, int at) {
    return new String(b, at, 3, StandardCharsets.ISO_8859_1).replaceAll("\\p{Cntrl}", "?");
  }

  private static void add(
      Medium medium,
      List<TableEntry> entries,
      List<Finding> findings,
      String kind,
      long start,
      long length,
      boolean bootable,
      long table) {
    int number = entries.size() + 1;
    entries.add(TableEntry.plain(number, start, length, kind, bootable, table));
    if (start + length > medium.sectors()) {
      findings.add(
          Finding.wrong(
              "P-2",
              "volume " + number,
              kind + " volume " + number + " ends past the end of the medium.",
              "The image is cut off, or of another drive."));
    }
    if (!KINDS.contains(kind)) {
      findings.add(
          Finding.note(
              "P-20",
              "volume " + number,
              "Volume "
                  + number
                  + " is of the kind \""
                  + kind
                  + "\", which is not known here; it is listed and kept sector by sector."));
    }
    if (kind.equals("GEM") && length >= 32_768) {
      findings.add(
          Finding.note(
              "P-21", "volume " + number, "A GEM volume of 16 MiB and more should be BGM."));
    }
  }
}
