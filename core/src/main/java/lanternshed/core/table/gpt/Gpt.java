package lanternshed.core.table.gpt;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.zip.CRC32;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableReading;
import lanternshed.core.table.TableScheme;

/**
 * The GUID partition table (UEFI specification 2.10, chapter 5): header in sector 1, entries where
 * it says, each with a CRC-32. Read only; a new image replaces it.
 */
public final class Gpt implements TableScheme {
  private static final byte[] MARK = "EFI PART".getBytes(StandardCharsets.US_ASCII);
  private static final int HEADER_SIZE = 12;
  private static final int HEADER_CRC = 16;
  private static final int ENTRIES_AT = 72;
  private static final int ENTRY_COUNT = 80;
  private static final int ENTRY_SIZE = 84;
  private static final int ENTRIES_CRC = 88;
  private static final int MOST_ENTRIES = 512;

  /** First field of the type's GUID, as it lies on disk. */
  private static final Map<Long, String> TYPES =
      Map.of(
          0xC12A7328L, "EFI system",
          0xEBD0A0A2L, "basic data",
          0x0FC63DAFL, "data",
          0xE3C9E316L, "reserved");

  @Override
  public String name() {
    return "GPT";
  }

  @Override
  public Optional<TableReading> read(Medium medium) {
    if (medium.sectors() < 3) return Optional.empty();
    byte[] h = medium.sector(1);
    if (!Arrays.equals(h, 0, 8, MARK, 0, 8)) return Optional.empty();
    List<Finding> findings = new ArrayList<>();
    findings.add(
        Finding.wrong(
            "P-5",
            "sector 1",
            "This medium carries a GPT, the table of today's computers; old machines do not read it.",
            "It is replaced when a new image is written; make sure nothing on it is needed."));
    int size = (int) Math.min(512, Bytes.u32(h, HEADER_SIZE));
    if (size < 92 || crc(zeroed(h), size) != Bytes.u32(h, HEADER_CRC)) {
      findings.add(
          Finding.wrong(
              "P-5",
              "sector 1",
              "The header's CRC-32 is wrong: the table was damaged or copied with another length.",
              "What it lists may be wrong; compare with the files you expect."));
    }
    long at = Bytes.u64(h, ENTRIES_AT);
    long count = Bytes.u32(h, ENTRY_COUNT);
    long each = Bytes.u32(h, ENTRY_SIZE);
    List<TableEntry> entries = new ArrayList<>();
    if (each < 128
        || each > 4096
        || each % 8 != 0
        || count < 1
        || at < 2
        || at >= medium.sectors()) {
      findings.add(
          Finding.wrong(
              "P-2",
              "sector 1",
              "The header's place for its entries makes no sense.",
              "Nothing can be listed."));
      return Optional.of(new TableReading(name(), entries, findings));
    }
    long bytes = Math.min(count, MOST_ENTRIES) * each;
    long sectors = Math.min((bytes + 511) / 512, medium.sectors() - at);
    byte[] e = medium.sectors(at, (int) sectors);
    if (count <= MOST_ENTRIES
        && bytes <= e.length
        && crc(e, (int) bytes) != Bytes.u32(h, ENTRIES_CRC)) {
      findings.add(
          Finding.wrong(
              "P-5",
              "sector " + at,
              "The CRC-32 of the entries is wrong.",
              "What they list may be wrong."));
    }
    for (int i = 0; (i + 1) * each <= e.length; i++) {
      int o = (int) (i * each);
      if (Bytes.allZero(e, o, o + 16)) continue;
      long start = Bytes.u64(e, o + 32);
      long end = Bytes.u64(e, o + 40);
      if (start < 0 || end < start || start >= medium.sectors()) continue;
      String type = TYPES.getOrDefault(Bytes.u32(e, o), "another system's");
      String label =
          new String(e, o + 56, 72, StandardCharsets.UTF_16LE)
              .replaceAll("[\\p{Cntrl}]", "")
              .strip();
      entries.add(
          TableEntry.plain(
              i + 1,
              start,
              end - start + 1,
              label.isEmpty() ? type : type + ", " + label,
              false,
              at));
    }
    return Optional.of(new TableReading(name(), entries, findings));
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
