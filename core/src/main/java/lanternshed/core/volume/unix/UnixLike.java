package lanternshed.core.volume.unix;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Filesystem;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Recognised;

/**
 * The second to fourth extended filesystem by their superblock, and swap by the end of its page.
 */
public final class UnixLike implements Filesystem {
  private static final int SUPERBLOCK = 1024;
  private static final int BLOCKS = 4;
  private static final int FREE = 12;
  private static final int BLOCK_SHIFT = 24;
  private static final int MAGIC_AT = 56;
  private static final int MAGIC = 0xEF53;
  private static final int INCOMPATIBLE = 96;
  private static final int COMPATIBLE = 92;
  private static final int LABEL = 120;
  private static final int JOURNAL = 0x04;
  private static final int EXTENTS = 0x40;
  private static final int SWAP_PAGE = 4096;
  private static final String SWAP = "SWAPSPACE2";
  private static final int SWAP_LABEL = 1024 + 28;

  @Override
  public String key() {
    return "unix";
  }

  @Override
  public List<String> kinds() {
    return List.of("ext2", "ext3", "ext4", "swap");
  }

  @Override
  public boolean speaksForItself() {
    return false;
  }

  @Override
  public Optional<Recognised> recognise(Medium m, Hint hint) {
    if (m.sectors() < SWAP_PAGE / 512) return Optional.empty();
    byte[] b = m.sectors(0, SWAP_PAGE / 512);
    if (Bytes.u16(b, SUPERBLOCK + MAGIC_AT) == MAGIC) return Optional.of(extended(b));
    String end = new String(b, SWAP_PAGE - 10, 10, StandardCharsets.US_ASCII);
    if (!end.equals(SWAP)) return Optional.empty();
    Sum evidence =
        Sum.of("P-30", "swap")
            .note("end of the first page", SWAP)
            .because("The mark stands at the end of the first page; nothing in it is to be kept.")
            .done();
    return Optional.of(
        new Recognised("swap", text(b, SWAP_LABEL, 16), 0, evidence, Optional.empty()));
  }

  private static Recognised extended(byte[] b) {
    long shift = Math.min(6, Bytes.u32(b, SUPERBLOCK + BLOCK_SHIFT));
    long block = 1024L << shift;
    long blocks = Bytes.u32(b, SUPERBLOCK + BLOCKS);
    long free = Math.min(blocks, Bytes.u32(b, SUPERBLOCK + FREE));
    boolean extents = (Bytes.u32(b, SUPERBLOCK + INCOMPATIBLE) & EXTENTS) != 0;
    boolean journal = (Bytes.u32(b, SUPERBLOCK + COMPATIBLE) & JOURNAL) != 0;
    String kind = extents ? "ext4" : journal ? "ext3" : "ext2";
    Sum evidence =
        Sum.of("P-30", kind)
            .line("", "blocks of " + Say.size(block), blocks)
            .line("−", "free", free)
            .line("=", "used", blocks - free)
            .because("The superblock carries the mark EF53 and counts its blocks.")
            .done();
    return new Recognised(
        kind, text(b, SUPERBLOCK + LABEL, 16), blocks * (block / 512), evidence, Optional.empty());
  }

  private static String text(byte[] b, int at, int most) {
    String s = new String(b, at, most, StandardCharsets.UTF_8);
    int end = s.indexOf('\0');
    return (end < 0 ? s : s.substring(0, end)).replaceAll("[\\p{Cntrl}\uFFFD]", "").strip();
  }
}
