package lanternshed.core.volume.ntfs;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Filesystem;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Recognised;

/** By the name in its boot sector; the label stands in record 3 of its master file table. */
public final class Ntfs implements Filesystem {
  private static final byte[] MARK = "NTFS    ".getBytes(StandardCharsets.US_ASCII);
  private static final int MARK_AT = 3;
  private static final int BYTES_PER_SECTOR = 0x0B;
  private static final int SECTORS_PER_CLUSTER = 0x0D;
  private static final int TOTAL = 0x28;
  private static final int FILE_TABLE = 0x30;
  private static final int RECORD_SIZE = 0x40;
  private static final int VOLUME_RECORD = 3;
  private static final long VOLUME_NAME = 0x60;
  private static final int FIRST_ATTRIBUTE = 0x14;

  @Override
  public String key() {
    return "ntfs";
  }

  @Override
  public List<String> kinds() {
    return List.of("NTFS");
  }

  @Override
  public boolean speaksForItself() {
    return true;
  }

  @Override
  public Optional<Recognised> recognise(Medium m, Hint hint) {
    if (m.sectors() < 16) return Optional.empty();
    byte[] b = m.sector(0);
    int bps = Bytes.u16(b, BYTES_PER_SECTOR);
    boolean sense = bps >= 512 && bps <= 4096 && Integer.bitCount(bps) == 1;
    if (!Arrays.equals(b, MARK_AT, MARK_AT + 8, MARK, 0, 8) || !sense) return Optional.empty();
    long total = Bytes.u64(b, TOTAL);
    if (total < 1 || total > 1L << 48) return Optional.empty();
    long sectors = (total + 1) * (bps / 512);
    boolean end = sectors <= m.sectors();
    boolean copy = end && Arrays.equals(m.sector(sectors - bps / 512), b);
    Sum evidence =
        Sum.of("F-14", "NTFS")
            .sectors("", "length by its boot sector", sectors)
            .note("copy of the boot sector", copy ? "at its end" : end ? "not there" : "cut off")
            .because("The boot sector names the filesystem itself; it is cloned, not rebuilt.")
            .done();
    return Optional.of(
        new Recognised("NTFS", label(m, b, bps), sectors, evidence, Optional.empty()));
  }

  private static String label(Medium m, byte[] boot, int bps) {
    long cluster = (long) bps * (boot[SECTORS_PER_CLUSTER] & 0xFF);
    int size = boot[RECORD_SIZE];
    long record = size > 0 ? size * cluster : size > -20 ? 1L << -size : 0;
    if (record < 512 || record > 65_536 || record % 512 != 0) return "";
    long at = Bytes.u64(boot, FILE_TABLE) * cluster + VOLUME_RECORD * record;
    if (at < 0 || at / 512 + record / 512 > m.sectors()) return "";
    byte[] r = m.sectors(at / 512, (int) (record / 512));
    for (int a = Bytes.u16(r, FIRST_ATTRIBUTE); a + 24 <= r.length; ) {
      long type = Bytes.u32(r, a);
      long length = Bytes.u32(r, a + 4);
      if (type == VOLUME_NAME) {
        int bytes = (int) Math.min(64, Bytes.u32(r, a + 16));
        int from = a + Bytes.u16(r, a + 20);
        if (from + bytes > r.length) return "";
        return new String(r, from, bytes, StandardCharsets.UTF_16LE)
            .replaceAll("\\p{Cntrl}", "")
            .strip();
      }
      if (length < 24 || length > r.length) return "";
      a += (int) length;
    }
    return "";
  }
}
