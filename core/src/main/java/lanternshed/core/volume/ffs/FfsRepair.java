package lanternshed.core.volume.ffs;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Mending;
import lanternshed.core.volume.ffs.FfsCheck.Astray;
import lanternshed.core.volume.ffs.FfsCheck.Said;

/**
 * Mends checksums, the bitmap, and what headers say of where they are: their own block, their
 * folder, and the chain that their name asks for. The tree that leads to them is believed. Where a
 * chain breaks off nothing is set free: what is behind it may still be somebody's.
 */
final class FfsRepair implements Mending {
  private final FfsVolume v;
  private final FfsCheck check;
  private final List<Finding> changes = new ArrayList<>();
  private final BitSet target;
  private final boolean map;
  private final List<Astray> moves = new ArrayList<>();

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
    for (Astray a : check.astray()) {
      String what =
          switch (a.said()) {
            case OWN_BLOCK -> "The header of " + a.path() + " says its own block.";
            case FOLDER -> a.path() + " names the folder that holds it.";
            case NAME_PLACE -> a.path() + " is put where its name asks for.";
          };
      if (a.said() == Said.NAME_PLACE && isTwin(a)) continue;
      changes.add(Finding.wrong("A-3", a.path(), what, ""));
      moves.add(a);
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

  /** Whether an entry of its name is there already: which of the two is meant cannot be said. */
  private boolean isTwin(Astray a) {
    byte[] h = v.medium().sector(a.at());
    String name = name(h);
    byte[] folder = v.medium().sector(a.folder());
    return chain(v.medium(), folder, place(h)).stream()
        .anyMatch(e -> name(v.medium().sector(e)).equals(name));
  }

  private String name(byte[] header) {
    byte[] name = FfsBlock.text(header, FfsBlock.NAME, FfsBlock.MOST_NAME);
    return v.fold(new String(name, StandardCharsets.ISO_8859_1));
  }

  private int place(byte[] header) {
    byte[] name = FfsBlock.text(header, FfsBlock.NAME, FfsBlock.MOST_NAME);
    return FfsBlock.slot(name, v.layout().international());
  }

  /** The entries of one place of a folder, which was followed whole before. */
  private static List<Long> chain(Medium m, byte[] folder, int place) {
    Set<Long> out = new LinkedHashSet<>();
    long next = Bytes.be32(folder, FfsBlock.TABLE + 4 * place);
    while (next != 0 && out.add(next)) next = Bytes.be32(m.sector(next), FfsBlock.NEXT_HASH);
    return List.copyOf(out);
  }

  /** Takes an entry out of the chain in which it is, and puts it at the end of its own. */
  private void move(Medium copy, Astray a) {
    byte[] folder = copy.sector(a.folder());
    long after = Bytes.be32(copy.sector(a.at()), FfsBlock.NEXT_HASH);
    for (int place = 0; place < FfsBlock.SLOTS; place++) {
      int i = chain(copy, folder, place).indexOf(a.at());
      if (i < 0) continue;
      if (i > 0) set(copy, chain(copy, folder, place).get(i - 1), FfsBlock.NEXT_HASH, after);
      else set(copy, a.folder(), FfsBlock.TABLE + 4 * place, after);
      break;
    }
    set(copy, a.at(), FfsBlock.NEXT_HASH, 0);
    folder = copy.sector(a.folder());
    int place = place(copy.sector(a.at()));
    List<Long> own = chain(copy, folder, place);
    if (own.isEmpty()) set(copy, a.folder(), FfsBlock.TABLE + 4 * place, a.at());
    else set(copy, own.get(own.size() - 1), FfsBlock.NEXT_HASH, a.at());
  }

  private static void set(Medium copy, long block, int at, long value) {
    byte[] b = copy.sector(block);
    Bytes.putBe32(b, at, value);
    FfsBlock.seal(b, FfsBlock.CHECKSUM);
    copy.write(block, 1, b, 0);
  }

  @Override
  public List<Finding> changes() {
    return changes;
  }

  @Override
  public void apply(Medium copy) {
    for (Astray a : moves) {
      switch (a.said()) {
        case OWN_BLOCK -> set(copy, a.at(), FfsBlock.OWN_KEY, a.at());
        case FOLDER -> set(copy, a.at(), FfsBlock.PARENT, a.folder());
        case NAME_PLACE -> move(copy, a);
      }
    }
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
