package lanternshed.core.volume.ffs;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.volume.Bounded;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.VolumeException;

/**
 * Holds an OFS or FFS volume against itself: checksums, own numbers, parents, places in
 * the tables, chains, and the bitmap against what is in use.
 */
final class FfsCheck {
  private static final int MOST_FINDINGS = 500;

  private final FfsVolume v;
  private final FfsLayout layout;
  private final List<Finding> findings = new ArrayList<>();
  private final List<Long> unsealed = new ArrayList<>();
  private final List<Astray> astray = new ArrayList<>();

  /** Folders of which not every chain was followed to its end. */
  private final Set<Long> cut = new HashSet<>();

  private final BitSet used = new BitSet();
  private final Deque<Node> waiting = new ArrayDeque<>();
  private boolean broken;
  private int ahead;
  private String firstAhead = "";

  /** What a header says of its place in the tree, and what the tree says. */
  enum Said {
    OWN_BLOCK,
    FOLDER,
    NAME_PLACE
  }

  /**
   * An entry that is found by way of its folder and says otherwise.
   *
   * @param at its header
   * @param folder block of the folder that holds it
   */
  record Astray(Said said, String path, long at, long folder) {}

  FfsCheck(FfsVolume v) {
    this.v = v;
    this.layout = v.layout();
    root();
    structures();
    folders();
    if (ahead > 0) {
      note(
          firstAhead,
          Say.plural(ahead, "block is", "blocks are")
              + " kept by files past their ends, first by "
              + firstAhead
              + ": some systems take room ahead. Copied anew a file takes what it needs.");
    }
    bitmap();
  }

  List<Finding> findings() {
    return findings;
  }

  /** Headers whose longs do not sum to zero and are right otherwise. */
  List<Long> unsealed() {
    return unsealed;
  }

  /** What can be said right: in folders that were followed whole, each entry in one place alone. */
  List<Astray> astray() {
    return astray.stream().filter(a -> !cut.contains(a.folder())).toList();
  }

  BitSet used() {
    return used;
  }

  /** Whether a chain breaks off, so that what is behind it is not known. */
  boolean broken() {
    return broken;
  }

  private void root() {
    byte[] b = v.rootBlock();
    if (FfsBlock.sum(b) != 0) sealOf(layout.root(), "the root block");
    if (FfsBlock.long32(b, FfsBlock.BITMAP_FLAG) != -1) {
      wrong(
          "A-2",
          "root block",
          "The volume says that its bitmap is not valid: the machine was switched off while it"
              + " wrote.",
          "The machine will check it at the next start; or mend a copy here.");
    }
    byte[] boot = v.boot();
    boolean code = !Bytes.allZero(boot, FfsLayout.BOOT_CODE, boot.length);
    if (code && FfsLayout.bootSum(boot) != Bytes.be32(boot, FfsLayout.BOOT_CHECKSUM)) {
      note("boot block", "The boot block has code and a wrong checksum: it is not started.");
    }
  }

  private void structures() {
    used.set(0, FfsLayout.RESERVED);
    used.set((int) layout.root());
    for (long page : v.bitmapPages()) {
      if (!layout.holds(page)) {
        broken = true;
        wrong(
            "A-3",
            "root block",
            "A block of the bitmap is said to be at " + Say.count(page) + ", outside the volume.",
            "The free space is not known; copy the files out.");
        continue;
      }
      claim(page, "the bitmap");
      if (FfsBlock.sum(v.medium().sector(page)) != 0) sealOf(page, "a block of the bitmap");
    }
    long next = Bytes.be32(v.rootBlock(), FfsBlock.BITMAP_EXTENSION);
    for (long i = 0; i < layout.bitmapExtensions() && layout.holds(next); i++) {
      if (!claim(next, "the bitmap's extension")) return;
      next = Bytes.be32(v.medium().sector(next), 4 * FfsBlock.EXTENSION_PAGES);
    }
  }

  /** Folders wait for their turn: they may lie as deep as there are blocks. */
  private void folders() {
    folder(v.root(), v.rootBlock());
    long letters = 0;
    while (!waiting.isEmpty()) {
      Node n = waiting.poll();
      letters += n.path().length();
      if (letters > Bounded.MOST_LETTERS) {
        broken = true;
        findings.add(Bounded.notTold("A-3", v.kind()));
        return;
      }
      folder(n, v.medium().sector(n.first()));
    }
  }

  private void folder(Node folder, byte[] b) {
    for (long cache : v.caches(folder)) claim(cache, folder.path());
    for (int slot = 0; slot < FfsBlock.SLOTS; slot++) {
      long next = Bytes.be32(b, FfsBlock.TABLE + 4 * slot);
      while (next != 0) {
        if (!layout.holds(next)) {
          String what = "Place " + slot + " of " + here(folder) + " points outside the volume.";
          lost(folder.path(), what);
          cut.add(folder.first());
          break;
        }
        byte[] h = v.medium().sector(next);
        if (!FfsVolume.isHeader(h)) {
          String what = "Block " + Say.count(next) + " in " + here(folder) + " is no header.";
          lost(folder.path(), what);
          cut.add(folder.first());
          break;
        }
        if (!claim(next, here(folder))) {
          cut.add(folder.first());
          break;
        }
        entry(folder, h, next, slot);
        next = Bytes.be32(h, FfsBlock.NEXT_HASH);
      }
    }
  }

  private void entry(Node folder, byte[] h, long at, int slot) {
    byte[] name = FfsBlock.text(h, FfsBlock.NAME, FfsBlock.MOST_NAME);
    String path = v.pathOf(folder, h);
    if (FfsBlock.sum(h) != 0) sealOf(at, path);
    if (Bytes.be32(h, FfsBlock.OWN_KEY) != at) {
      wrong(
          "A-3",
          path,
          "The header of " + path + " says it is block " + Bytes.be32(h, FfsBlock.OWN_KEY) + ".",
          "It was copied from elsewhere; look whether the file is the right one.");
      astray.add(new Astray(Said.OWN_BLOCK, path, at, folder.first()));
    }
    if (Bytes.be32(h, FfsBlock.PARENT) != folder.first()) {
      String what = path + " names another folder than the one that holds it.";
      wrong("A-3", path, what, "Look whether it is the right one.");
      astray.add(new Astray(Said.FOLDER, path, at, folder.first()));
    }
    int length = h[FfsBlock.NAME] & 0xFF;
    if (length < 1 || length > FfsBlock.MOST_NAME) {
      wrong("A-3", path, path + " has a name of " + length + " letters; 1 to 30 can be.", "");
    } else if (FfsBlock.slot(name, layout.international()) != slot) {
      wrong(
          "A-3",
          path,
          path + " stands in another place than its name asks for: the machine will not find it.",
          "Copy it out under its name, and in again.");
      astray.add(new Astray(Said.NAME_PLACE, path, at, folder.first()));
    }
    Node n = v.nodeOf(folder, h, at);
    int type = FfsBlock.long32(h, FfsBlock.SECONDARY_TYPE);
    if (type == FfsBlock.FOLDER) waiting.add(n);
    else if (type == FfsBlock.FILE) file(n);
    else note(path, path + " is a link.");
  }

  private void file(Node n) {
    for (long e : v.extensions(n)) {
      claim(e, n.path());
      if (FfsBlock.sum(v.medium().sector(e)) != 0) sealOf(e, "an extension of " + n.path());
    }
    int before = findings.size();
    try {
      v.blocks(
          n,
          (i, block) -> {
            if (findings.size() < before + 3) claim(block, n.path());
            else used.set((int) block);
            if (!layout.fast()) data(n, i, block);
          });
    } catch (VolumeException e) {
      lost(n.path(), e.getMessage());
      return;
    }
    for (long block : v.ahead(n)) {
      if (!claim(block, n.path() + ", past its end,")) return;
      if (ahead++ == 0) firstAhead = n.path();
    }
  }

  /** A block of an OFS file tells whose it is, which one, and how much is in it. */
  private void data(Node n, long index, long block) {
    byte[] b = v.medium().sector(block);
    long full = layout.payload();
    long holds = Math.min(full, n.bytes() - index * full);
    boolean right =
        FfsBlock.long32(b, FfsBlock.TYPE) == FfsBlock.DATA
            && Bytes.be32(b, FfsBlock.OWN_KEY) == n.first()
            && Bytes.be32(b, FfsBlock.HIGH_SEQ) == index + 1
            && Bytes.be32(b, FfsBlock.DATA_SIZE) == holds
            && FfsBlock.sum(b) == 0;
    if (right) return;
    wrong(
        "A-3",
        n.path(),
        "Block " + Say.count(index + 1) + " of " + n.path() + " does not say that it is.",
        "Its bytes may be another file's; look at the file.");
  }

  private void bitmap() {
    BitSet free = v.free();
    BitSet both = (BitSet) free.clone();
    both.and(used);
    if (!both.isEmpty()) {
      wrong(
          "A-3",
          "bitmap",
          Say.plural(both.cardinality(), "block", "blocks")
              + " in use are marked free, first "
              + Say.count(both.nextSetBit(0))
              + ": the next file written would destroy them.",
          "Write nothing to it; mend a copy.");
    }
    BitSet neither = new BitSet();
    neither.set(0, (int) layout.sectorCount());
    neither.andNot(free);
    neither.andNot(used);
    if (neither.isEmpty()) return;
    wrong(
        "A-3",
        "bitmap",
        Say.plural(neither.cardinality(), "block is", "blocks are")
            + " marked in use and belong to nothing, first "
            + Say.count(neither.nextSetBit(0))
            + ".",
        "Only room is lost; mend a copy to have it back.");
  }

  private boolean claim(long block, String who) {
    if (!used.get((int) block)) {
      used.set((int) block);
      return true;
    }
    broken = true;
    wrong(
        "A-3",
        who,
        "Block " + Say.count(block) + " of " + who + " belongs to something else already.",
        "One of the two is damaged; copy both out and look.");
    return false;
  }

  private void sealOf(long block, String what) {
    unsealed.add(block);
    wrong(
        "A-3",
        what,
        "The checksum of " + what + " (block " + Say.count(block) + ") is wrong.",
        "The machine will not read it; mend a copy after looking at it.");
  }

  private void lost(String where, String what) {
    broken = true;
    wrong("A-3", where, what, "What is behind it is not seen; rescue it from an older copy.");
  }

  private void wrong(String rule, String where, String what, String todo) {
    if (findings.size() < MOST_FINDINGS) findings.add(Finding.wrong(rule, where, what, todo));
  }

  private void note(String where, String what) {
    if (findings.size() < MOST_FINDINGS) findings.add(Finding.note("A-3", where, what));
  }

  private static String here(Node folder) {
    return folder.path().isEmpty() ? "the root" : folder.path();
  }
}
