package lanternshed.core.volume.fat;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Bytes;

/**
 * What stands in a folder besides files and folders and should not.
 *
 * @param pieces places of pieces of long names that belong to no entry
 * @param labels places of labels that claim a cluster or a length
 * @param strays places of labels that are none: outside the root, or marked as a folder too
 * @param reserved places of entries with mark bits that no system uses
 * @param behindEnd where something stands behind the end mark that nobody believes; −1 for nowhere
 */
record Oddments(
    List<Integer> pieces,
    List<Integer> labels,
    List<Integer> strays,
    List<Integer> reserved,
    int behindEnd) {
  private static final int RESERVED = 0xC0;

  static Oddments of(FatTree.Folder folder, byte[] b) {
    List<Integer> pieces = new ArrayList<>();
    List<Integer> labels = new ArrayList<>();
    List<Integer> strays = new ArrayList<>();
    List<Integer> reserved = new ArrayList<>();
    List<Integer> run = new ArrayList<>();
    boolean isRoot = folder.node().path().isEmpty();
    LongName name = new LongName();
    int end = folder.end(b);
    for (int at = 0; at + FatVolume.ENTRY <= end; at += FatVolume.ENTRY) {
      int marks = b[at + 11] & 0x3F;
      boolean live = b[at] != (byte) 0xE5 && b[at] != 0;
      if (live && (b[at + 11] & RESERVED) != 0) reserved.add(at);
      if (b[at] != (byte) 0xE5 && marks == FatVolume.LONG_NAME) {
        // A first piece begins another name: what came before it belongs to nobody.
        if ((b[at] & 0x40) != 0) {
          pieces.addAll(run);
          run.clear();
        }
        name.add(b, at);
        run.add(at);
        continue;
      }
      if (!live || name.forEntry(b, at).isEmpty()) pieces.addAll(run);
      run.clear();
      name.clear();
      if (!live || (marks & FatVolume.LABEL) == 0 || folder.slotAt(at).isPresent()) continue;
      if (!isRoot || (marks & FatVolume.FOLDER) != 0) strays.add(at);
      else if (Bytes.u16(b, at + 20) != 0
          || Bytes.u16(b, at + 26) != 0
          || Bytes.u32(b, at + 28) != 0) labels.add(at);
    }
    pieces.addAll(run);
    int behind = -1;
    for (int at = end; at + FatVolume.ENTRY <= b.length && behind < 0; at += FatVolume.ENTRY) {
      if (b[at] != 0 && b[at] != (byte) 0xE5) behind = at;
    }
    return new Oddments(pieces, labels, strays, reserved, behind);
  }

  boolean none() {
    return pieces.isEmpty()
        && labels.isEmpty()
        && strays.isEmpty()
        && reserved.isEmpty()
        && behindEnd < 0;
  }
}
