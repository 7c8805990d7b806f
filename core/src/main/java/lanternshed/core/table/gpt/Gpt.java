package lanternshed.core.table.gpt;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.zip.CRC32;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.Overlaps;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableReading;
import lanternshed.core.table.TableScheme;

/**
 * The GUID partition table (UEFI specification 2.10, chapter 5): a header in block 1 and its copy
 * in the last block, each with entries of its own and a CRC-32 over both. The copy is taken where
 * the first is gone. Blocks are of 512 to 4 096 bytes. Read only; a new image replaces it.
 */
public final class Gpt implements TableScheme {
  private static final byte[] MARK = "EFI PART".getBytes(StandardCharsets.US_ASCII);
  private static final int HEADER_SIZE = 12;
  private static final int HEADER_CRC = 16;
  private static final int MY_LBA = 24;
  private static final int ALTERNATE_LBA = 32;
  private static final int ENTRIES_AT = 72;
  private static final int ENTRY_COUNT = 80;
  private static final int ENTRY_SIZE = 84;
  private static final int ENTRIES_CRC = 88;
  private static final int LEAST_HEADER = 92;
  private static final int MOST_ENTRIES = 512;
  private static final int MOST_NAMED = 4;
  private static final int USUAL_SECTORS = 34;

  // Of the MBR before it.
  private static final int MBR_ENTRIES = 446;
  private static final int MBR_TYPE = 4;
  private static final int PROTECTIVE = 0xEE;

  /** First field of the type's GUID, as it lies on disk. */
  private static final Map<Long, String> TYPES =
      Map.of(
          0xC12A7328L, "EFI system",
          0xEBD0A0A2L, "basic data",
          0x0FC63DAFL, "data",
          0xE3C9E316L, "reserved");

  /**
   * One header with what it leads to.
   *
   * @param lba sector of 512 bytes in which it stands
   * @param per sectors of 512 bytes in one block
   * @param entries bytes of the entries; empty where their place makes no sense
   */
  private record Header(
      long lba, int per, byte[] b, byte[] entries, boolean crcRight, boolean entriesRight) {
    boolean right() {
      return crcRight && entriesRight;
    }

    long field(int at) {
      return Bytes.u64(b, at);
    }

    long entrySize() {
      return Bytes.u32(b, ENTRY_SIZE);
    }
  }

  @Override
  public String name() {
    return "GPT";
  }

  @Override
  public Optional<TableReading> read(Medium medium) {
    // A table of sector 0 that names volumes and guards nothing counts for every system: what
    // stands
    // behind it is of before.
    if (medium.sectors() < 3 || unguarded(medium)) return Optional.empty();
    Optional<Header> first = first(medium);
    Optional<Header> copy = copy(medium, first);
    if (first.isEmpty() && copy.isEmpty()) return Optional.empty();
    List<Finding> findings = new ArrayList<>();
    findings.add(
        Finding.wrong(
            "P-5",
            "sector 1",
            "This medium carries a GPT, the table of today's computers; old machines do not read it.",
            "It is replaced when a new image is written; make sure nothing on it is needed."));
    Header taken = choose(first, copy, findings);
    if (first.isPresent()) beyond(medium, first.get(), copy, findings);
    hybrid(medium, findings);
    List<TableEntry> entries = entries(medium, taken, findings);
    findings.addAll(Overlaps.of(entries));
    return Optional.of(new TableReading(name(), entries, findings));
  }

  @Override
  public Optional<Finding> left(Medium medium) {
    if (medium.sectors() < 3 || !unguarded(medium)) return Optional.empty();
    return first(medium)
        .filter(Header::right)
        .map(
            h -> {
              List<TableEntry> named = entries(medium, h, new ArrayList<>());
              String what =
                  named.stream()
                      .limit(MOST_NAMED)
                      .map(e -> Say.count(e.start()) + " to " + Say.count(e.end() - 1))
                      .collect(Collectors.joining(", "));
              return Finding.note(
                  "P-5",
                  "sector " + h.lba(),
                  "An older GPT stands here still. No entry of the MBR guards it, so the MBR counts, as it"
                      + " does for every system. The GPT names "
                      + (named.isEmpty() ? "nothing." : "sectors " + what + "."));
            });
  }

  /** Whether sector 0 holds a table of the other kind that names a place of the medium. */
  private static boolean unguarded(Medium medium) {
    byte[] b = medium.sector(0);
    if (Bytes.u16(b, 510) != 0xAA55) return false;
    boolean names = false;
    for (int i = 0; i < 4; i++) {
      int at = MBR_ENTRIES + 16 * i;
      int type = b[at + MBR_TYPE] & 0xFF;
      if (type == PROTECTIVE) return false;
      long start = Bytes.u32(b, at + 8);
      names |= type != 0 && (b[at] & 0x7F) == 0 && start > 0 && start < medium.sectors();
    }
    return names;
  }

  @Override
  public List<Place> places(TableReading table, Medium medium) {
    // Guard, header and entries of the usual size; the copy at the end.
    long first = Math.min(USUAL_SECTORS, medium.sectors());
    return List.of(Place.of("GPT table", "", 0, first, 0));
  }

  // ---- headers ----------------------------------------------------------------------------------

  private static Optional<Header> first(Medium m) {
    for (int per = 1; per <= 8; per *= 2) {
      Optional<Header> h = header(m, per, per);
      if (h.isPresent()) return h;
    }
    return Optional.empty();
  }

  /** Where the first says its copy stands, else in the last block. */
  private static Optional<Header> copy(Medium m, Optional<Header> first) {
    if (first.isPresent() && first.get().crcRight()) {
      Header f = first.get();
      long lba = f.field(ALTERNATE_LBA) * f.per();
      return lba > f.lba() ? header(m, lba, f.per()) : Optional.empty();
    }
    // What another table left of an older GPT in the last block is none.
    if (first.isEmpty() && !mayBeGone(m.sector(0))) return Optional.empty();
    for (int per = 1; per <= 8; per *= 2) {
      Optional<Header> h = header(m, (m.sectors() / per - 1) * per, per);
      if (h.isPresent()) return h;
    }
    return Optional.empty();
  }

  /** Whether sector 0 guards a GPT, or says nothing at all. */
  private static boolean mayBeGone(byte[] b) {
    boolean empty = true;
    for (int i = 0; i < 4; i++) {
      int type = b[MBR_ENTRIES + 16 * i + MBR_TYPE] & 0xFF;
      if (type == PROTECTIVE) return true;
      empty &= type == 0;
    }
    return empty;
  }

  private static Optional<Header> header(Medium m, long lba, int per) {
    if (lba < 1 || lba >= m.sectors()) return Optional.empty();
    byte[] h = m.sector(lba);
    if (!Arrays.equals(h, 0, 8, MARK, 0, 8)) return Optional.empty();
    int size = (int) Math.min(512, Bytes.u32(h, HEADER_SIZE));
    boolean right = size >= LEAST_HEADER && crc(zeroed(h), size) == Bytes.u32(h, HEADER_CRC);
    // A header that speaks of another place was copied here by something that knew no better.
    right &= Bytes.u64(h, MY_LBA) * per == lba;
    byte[] entries = entryBytes(m, h, per);
    long bytes = Bytes.u32(h, ENTRY_COUNT) * Bytes.u32(h, ENTRY_SIZE);
    boolean entriesRight =
        bytes > 0
            && bytes <= entries.length
            && crc(entries, (int) bytes) == Bytes.u32(h, ENTRIES_CRC);
    return Optional.of(new Header(lba, per, h, entries, right, entriesRight));
  }

  private static byte[] entryBytes(Medium m, byte[] h, int per) {
    long at = Bytes.u64(h, ENTRIES_AT);
    long count = Bytes.u32(h, ENTRY_COUNT);
    long each = Bytes.u32(h, ENTRY_SIZE);
    boolean sense = each >= 128 && each <= 4096 && each % 8 == 0 && count >= 1;
    if (!sense || at < 2 || at >= m.sectors() / per) return new byte[0];
    long sectors = (Math.min(count, MOST_ENTRIES) * each + 511) / 512;
    return m.sectors(at * per, (int) Math.min(sectors, m.sectors() - at * per));
  }

  private static Header choose(
      Optional<Header> first, Optional<Header> copy, List<Finding> findings) {
    if (first.isEmpty()) {
      findings.add(
          Finding.wrong(
              "P-5",
              "sector 1",
              "The header of the GPT is gone; its copy in sector "
                  + Say.count(copy.get().lba())
                  + " is read.",
              "Build a new table from what is listed."));
      return copy.get();
    }
    Header f = first.get();
    if (!f.right()) {
      String what =
          !f.crcRight()
              ? "The header's CRC-32 is wrong: the table was damaged or copied with another length"
              : f.entries().length == 0
                  ? "The header's place for its entries makes no sense"
                  : "The CRC-32 of the entries is wrong";
      boolean better = copy.isPresent() && copy.get().right();
      findings.add(
          Finding.wrong(
              "P-5",
              "sector " + f.lba(),
              what
                  + (better
                      ? "; the copy in sector " + Say.count(copy.get().lba()) + " is read."
                      : "."),
              "What it lists may be wrong; compare with the files you expect."));
      if (better) return copy.get();
    }
    return f;
  }

  /** What the copy says of the first, and of the medium's length. */
  private static void beyond(Medium m, Header f, Optional<Header> copy, List<Finding> findings) {
    if (!f.crcRight()) return;
    long lba = f.field(ALTERNATE_LBA) * f.per();
    if (lba >= m.sectors() || lba < 0) {
      findings.add(
          Finding.wrong(
              "P-2",
              "sector " + f.lba(),
              "The copy of the GPT should stand in sector "
                  + Say.count(lba)
                  + ", but the image ends at "
                  + Say.count(m.sectors())
                  + ": it was cut off.",
              "Find the rest of the image, or read what is inside."));
      return;
    }
    if (copy.isEmpty() || !copy.get().right()) {
      findings.add(
          Finding.wrong(
              "P-5",
              "sector " + lba,
              copy.isEmpty()
                  ? "The copy of the GPT is missing from sector " + Say.count(lba) + "."
                  : "The copy of the GPT in sector " + Say.count(lba) + " is damaged.",
              "The first one holds; nothing is lost."));
    } else if (!Arrays.equals(f.entries(), copy.get().entries())) {
      findings.add(
          Finding.wrong(
              "P-5",
              "sector " + lba,
              "The GPT and its copy list different volumes; the first one is read.",
              "Find out which of them was written last."));
    }
    if (m.sectors() - f.per() > lba) {
      findings.add(
          Finding.note(
              "P-2",
              "sector " + lba,
              "The GPT was made for a medium of "
                  + Say.sectors(lba + f.per())
                  + "; this one has "
                  + Say.count(m.sectors())
                  + "."));
    }
  }

  /** An MBR that lists more than the guard: two tables, which part as soon as one is changed. */
  private static void hybrid(Medium m, List<Finding> findings) {
    byte[] b = m.sector(0);
    boolean guarded = false;
    int others = 0;
    for (int i = 0; i < 4; i++) {
      int type = b[MBR_ENTRIES + 16 * i + MBR_TYPE] & 0xFF;
      guarded |= type == PROTECTIVE;
      if (type != 0 && type != PROTECTIVE) others++;
    }
    if (others == 0 || Bytes.u16(b, 510) != 0xAA55) return;
    findings.add(
        Finding.note(
            "P-31",
            "sector 0",
            "The MBR lists "
                + Say.plural(others, "volume", "volumes")
                + (guarded ? " beside the guard of the GPT" : " and does not guard the GPT")
                + ": an old machine sees those, a new one the GPT's."));
  }

  // ---- entries ----------------------------------------------------------------------------------

  private static List<TableEntry> entries(Medium m, Header h, List<Finding> findings) {
    List<TableEntry> out = new ArrayList<>();
    byte[] e = h.entries();
    if (e.length == 0) {
      findings.add(
          Finding.wrong("P-2", "sector " + h.lba(), "No volume can be listed.", "Look for them."));
      return out;
    }
    long blocks = m.sectors() / h.per();
    long each = h.entrySize();
    for (int i = 0; (i + 1) * each <= e.length; i++) {
      int o = (int) (i * each);
      if (Bytes.allZero(e, o, o + 16)) continue;
      long start = Bytes.u64(e, o + 32);
      long end = Bytes.u64(e, o + 40);
      if (start < 0 || end < start || start >= blocks) {
        findings.add(
            Finding.wrong(
                "P-2",
                "entry " + (i + 1),
                "Entry " + (i + 1) + " lies outside the medium.",
                "Find the rest of the image."));
        continue;
      }
      if (end >= blocks) {
        findings.add(
            Finding.wrong(
                "P-2",
                "entry " + (i + 1),
                "Entry " + (i + 1) + " ends past the end of the medium.",
                "Read what is inside; the image may have been cut."));
      }
      String type = TYPES.getOrDefault(Bytes.u32(e, o), "another system's");
      String label =
          new String(e, o + 56, 72, StandardCharsets.UTF_16LE)
              .replaceAll("[\\p{Cntrl}]", "")
              .strip();
      out.add(
          TableEntry.plain(
              i + 1,
              start * h.per(),
              Math.min(end - start + 1, 1L << 50) * h.per(),
              label.isEmpty() ? type : type + ", " + label,
              false,
              h.field(ENTRIES_AT) * h.per()));
    }
    return out;
  }

  private static byte[] zeroed(byte[] header) {
    byte[] b = header.clone();
    Bytes.put32(b, HEADER_CRC, 0);
    return b;
  }

  private static long crc(byte[] b, int length) {
    CRC32 c = new CRC32();
    c.update(b, 0, length);
    return c.getValue();
  }
}
