package lanternshed.core.volume.ffs;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Mending;

/**
 * Mends checksums and the bitmap. Where a chain breaks off nothing is set free: what is behind it
 * may still be somebody's.
 */
final class FfsRepair implements Mending {
  private final FfsVolume v;
  private final FfsCheck check;
  private final List<Finding> changes = new ArrayList<>();
  private final BitSet target;
  private final boolean map;

  FfsRepair(FfsVolume v) {
    this.v = v;
    this.check = new FfsCheck(v);
    BitSet free = v.free();
    this.target = new BitSet();
    if (check.broken()) target.or(free);
    else target.set(FfsLayout.RESERVED, (int) v.layout().sectorCount());
    target.andNot(check.used());
    boolean pages = v.bitmapPages().stream().allMatch(v.layout()::holds);
    boolean flag = FfsBlock.long32(v.rootBlock(), FfsBlock.BITMAP_FLAG) != -1;
    this.map = pages && (flag || !target.equals(free));
    for (long b : check.unsealed()) {
      String what = "The checksum of block " + Say.count(b) + " is set right.";
      changes.add(Finding.wrong("A-3", "block " + b, what, ""));
    }
    if (!map) return;
    BitSet other = (BitSet) free.clone();
    other.xor(target);
    String what =
        "The bitmap is set by what is in use ("
            + Say.plural(other.cardinality(), "block", "blocks")
            + " change) and marked valid.";
    changes.add(Finding.wrong("A-2", "bitmap", what, ""));
  }

  @Override
  public List<Finding> changes() {
    return changes;
  }

  @Override
  public void apply(Medium copy) {
    if (map) {
      long at = FfsLayout.RESERVED;
      for (long page : v.bitmapPages()) {
        byte[] b = page(at, target, v.layout().sectorCount());
        copy.write(page, 1, b, 0);
        at += FfsBlock.BITMAP_BITS;
      }
      byte[] root = copy.sector(v.layout().root());
      Bytes.putBe32(root, FfsBlock.BITMAP_FLAG, -1);
      FfsBlock.seal(root, FfsBlock.CHECKSUM);
      copy.write(v.layout().root(), 1, root, 0);
    }
    List<Long> pages = v.bitmapPages();
    for (long block : check.unsealed()) {
      byte[] b = copy.sector(block);
      FfsBlock.seal(b, pages.contains(block) ? 0 : FfsBlock.CHECKSUM);
      copy.write(block, 1, b, 0);
    }
    copy.flush();
  }

  /** One block of the bitmap: a bit set for each free block from {@code at} on. */
  static byte[] page(long at, BitSet free, long end) {
    byte[] b = new byte[FfsBlock.BYTES];
    for (int i = 0; i < FfsBlock.BITMAP_BITS && at + i < end; i += Integer.SIZE) {
      int bits = 0;
      for (int k = 0; k < Integer.SIZE && at + i + k < end; k++) {
        if (free.get((int) at + i + k)) bits |= 1 << k;
      }
      Bytes.putBe32(b, Integer.BYTES + i / Byte.SIZE, bits);
    }
    FfsBlock.seal(b, 0);
    return b;
  }
}
