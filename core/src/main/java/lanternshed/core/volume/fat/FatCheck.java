package lanternshed.core.volume.fat;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.volume.Bounded;
import lanternshed.core.volume.Node;

/**
 * The check F-9: both FATs equal; chains that loop, cross, leave the volume or are lost; lengths;
 * names; "." and ".."; labels; bad marks; dirty bits. It reads only.
 */
final class FatCheck {
  private static final int MOST_FINDINGS = 200;
  private final FatVolume volume;
  private final FatLayout layout;
  private final FatTable table;
  private final List<Finding> findings = new ArrayList<>();
  private int unsaid;

  /** For each cluster the number of the file that has it, counted from 1 in {@link #owners}. */
  private final Owners owner;

  private final List<String> owners = new ArrayList<>();

  FatCheck(FatVolume volume) {
    this.volume = volume;
    this.layout = volume.layout();
    this.table = volume.table();
    this.owner = new Owners(table.last());
  }

  List<Finding> run() {
    size();
    volume.boot().faults(volume.medium(), FsInfo.count(table)).forEach(f -> add(f.finding()));
    copies();
    firstEntries();
    findings.addAll(volume.copies().findings());
    findings.addAll(volume.tree().findings());
    // Folders first: what holds entries is no file's, whatever a chain says.
    for (FatTree.Folder f : volume.tree().folders()) {
      Node n = f.node();
      if (n.path().isEmpty() && layout.rootCluster() == 0) continue;
      claim(n, n.path().isEmpty() ? "the root folder" : n.path(), f.chain());
    }
    volume.tree().folders().forEach(this::folder);
    lost();
    label();
    if (unsaid > 0) {
      add(Finding.note("F-9", volume.kind(), "And " + Say.count(unsaid) + " findings more."));
    }
    return findings;
  }

  private void wrong(String where, String what, String todo) {
    if (findings.size() >= MOST_FINDINGS) unsaid++;
    else findings.add(Finding.wrong("F-9", where, what, todo));
  }

  private void add(Finding f) {
    findings.add(f);
  }

  private void size() {
    long room = volume.medium().sectors() * 512 / layout.bytesPerSector();
    if (layout.total() <= room) return;
    add(
        Finding.stops(
                "P-2",
                "boot sector",
                "The boot sector says "
                    + Say.sectors(layout.total())
                    + ", but there are only "
                    + Say.count(room)
                    + ": the end of the volume is not here.",
                "Find the rest of the image, or read what is inside.")
            .because(
                Sum.of("P-2", "Volume against its place")
                    .sectors("", "boot sector says", layout.total())
                    .sectors(">", "room", room)
                    .sectors("=", "missing", layout.total() - room)
                    .because("What lies past the end cannot be read or written.")
                    .done()));
  }

  private void copies() {
    FatTable one = volume.copies().copy(0);
    for (int copy = 1; copy < layout.fats(); copy++) {
      FatTable other = volume.copies().copy(copy);
      int first = one.firstDifference(other);
      if (first < 0) continue;
      int count = 0;
      for (int n = first; n <= table.last(); n++) if (one.get(n) != other.get(n)) count++;
      wrong(
          "FAT " + (copy + 1) + ", entry " + first,
          "The two FATs differ in "
              + Say.plural(count, "entry", "entries")
              + ", first at cluster "
              + Say.count(first)
              + ".",
          "Files are read by the one whose chains fit their lengths; a mended copy has one table.");
    }
  }

  private void firstEntries() {
    // The family of the DMA bus keeps neither a media byte nor flags there.
    if (layout.always16()) return;
    if ((table.get(0) & 0xFF) != layout.media()) {
      wrong(
          "FAT 1, entry 0",
          String.format(
              "The first entry says media byte %02X, the boot sector %02X.",
              table.get(0) & 0xFF, layout.media()),
          "Early systems refuse such a volume; rebuild it.");
    }
    int above = layout.kind().endMark() & ~0xFF;
    if ((table.get(0) & 0xFF) == layout.media() && (table.get(0) & above) != above) {
      wrong(
          "FAT 1, entry 0",
          String.format(
              "The first entry is %X; above its media byte all bits are 1.", table.get(0)),
          "General checks take the table for spoiled; a mended copy has it right.");
    }
    int bits = layout.kind().bits();
    if (bits == 12) return;
    int clean = bits == 16 ? 0x8000 : 0x0800_0000;
    int noError = clean >> 1;
    if ((table.get(1) & clean) == 0) {
      wrong(
          "FAT 1, entry 1", "The volume was not closed properly (dirty bit).", "Check its files.");
    }
    if ((table.get(1) & noError) == 0) {
      wrong(
          "FAT 1, entry 1",
          "The system met read or write errors on this volume (error bit).",
          "Rescue the medium again where it was bad.");
    }
  }

  private void folder(FatTree.Folder f) {
    Node folder = f.node();
    byte[] b = volume.folderBytes(folder);
    String where = folder.path().isEmpty() ? "the root folder" : folder.path();
    Set<String> names = new HashSet<>();
    if (!folder.path().isEmpty()) dots(f, b);
    oddments(where, Oddments.of(f, b));
    for (FatTree.Slot slot : f.slots()) {
      Node n = slot.node();
      String fault = FatNames.fault(b, slot.at());
      if (!fault.isEmpty() && b[slot.at()] != 0) {
        wrong(
            n.path(),
            "The name of " + n.path() + " " + fault + "; the system cannot open it.",
            "It gets a legal name when the volume is rebuilt.");
      }
      if (!names.add(new String(b, slot.at(), 11, FatNames.CODE_PAGE))) {
        wrong(
            n.path(),
            "The name " + n.name() + " stands twice in " + where + "; only the first is found.",
            "Give one of them another name.");
      }
      if (n.folder()) folderEntry(n, Bytes.u32(b, slot.at() + 28));
      else file(n);
    }
  }

  private void oddments(String where, Oddments o) {
    if (!o.pieces().isEmpty()) {
      wrong(
          where,
          Say.plural(o.pieces().size(), "piece", "pieces")
              + " of long names in "
              + where
              + (o.pieces().size() == 1 ? " belongs" : " belong")
              + " to no entry.",
          "The short names beside them hold; a mended copy is without the pieces.");
    }
    if (!o.labels().isEmpty()) {
      wrong(
          where,
          "A label in " + where + " claims a cluster or a length, which no label has.",
          "A mended copy has 0 there.");
    }
    if (!o.strays().isEmpty()) {
      wrong(
          where,
          Say.plural(o.strays().size(), "entry", "entries")
              + " of "
              + where
              + " marked as a label can be none.",
          "A mended copy is without.");
    }
    if (!o.reserved().isEmpty()) {
      wrong(
          where,
          Say.plural(o.reserved().size(), "entry", "entries")
              + " of "
              + where
              + (o.reserved().size() == 1 ? " has" : " have")
              + " mark bits that no system uses.",
          "A mended copy has them cleared.");
    }
    if (o.behindEnd() >= 0) {
      add(
          Finding.note(
              "F-9",
              where,
              "Something stands behind the end mark of " + where + "; systems do not look there."));
    }
  }

  private void folderEntry(Node n, long bytes) {
    if (bytes == 0) return;
    wrong(
        n.path(),
        "The folder " + n.path() + " has a length of " + Say.bytes(bytes) + ".",
        "A mended copy has 0 there, as every folder.");
  }

  private void file(Node n) {
    if (n.first() != 0) claim(n, n.path(), volume.chainOf(n));
    else if (n.bytes() > 0) {
      wrong(
          n.path(),
          n.path() + " is " + Say.bytes(n.bytes()) + " long but has no first cluster.",
          "Its content is lost unless a copy exists.");
    }
  }

  private void dots(FatTree.Folder f, byte[] b) {
    Node folder = f.node();
    if (!hasDots(b)) {
      wrong(
          folder.path(),
          "The folder " + folder.path() + " does not begin with \".\" and \"..\".",
          "What its chain holds may be something else; look before it is trusted.");
      return;
    }
    if (cluster(b, 0) != folder.first()) {
      wrong(
          folder.path(),
          "The entry \".\" of "
              + folder.path()
              + " points to cluster "
              + cluster(b, 0)
              + ", not to "
              + "the folder's own "
              + folder.first()
              + ".",
          "A mended copy has the right one.");
    }
    if (cluster(b, 32) != f.parent()) {
      wrong(
          folder.path(),
          "The entry \"..\" of "
              + folder.path()
              + " points to cluster "
              + cluster(b, 32)
              + ", not to "
              + f.parent()
              + ", the folder above.",
          "A mended copy has the right one.");
    }
  }

  /** Whether the first two entries are "." and "..", to the byte. */
  static boolean hasDots(byte[] b) {
    byte[] name = ".          ".getBytes(FatNames.CODE_PAGE);
    boolean self = b.length >= 64 && java.util.Arrays.equals(b, 0, 11, name, 0, 11);
    name[1] = '.';
    return self
        && java.util.Arrays.equals(b, 32, 43, name, 0, 11)
        && (b[11] & 0x3F & ~FatVolume.ARCHIVE & ~0x07) == FatVolume.FOLDER
        && (b[43] & 0x3F & ~FatVolume.ARCHIVE & ~0x07) == FatVolume.FOLDER;
  }

  private long cluster(byte[] b, int at) {
    long first = Bytes.u16(b, at + 26);
    if (layout.kind() == FatKind.FAT32) first |= (long) Bytes.u16(b, at + 20) << 16;
    return first;
  }

  /** Compares a chain with its length and notes whose the clusters are. */
  private void claim(Node n, String path, FatChain chain) {
    switch (chain.ending()) {
      case PROPER -> {}
      case FREE ->
          wrong(
              path,
              "The chain of " + path + " runs into the free cluster " + Say.count(chain.at()) + ".",
              "The rest of it may be lost.");
      case BAD ->
          wrong(
              path,
              "The chain of "
                  + path
                  + " runs into a cluster marked bad after "
                  + Say.count(chain.at())
                  + ".",
              "The rest of it may be lost.");
      case OUTSIDE ->
          wrong(
              path,
              "The chain of "
                  + path
                  + " leaves the volume after cluster "
                  + Say.count(chain.at())
                  + ".",
              "The rest of it may be lost.");
      case LOOP ->
          wrong(
              path,
              "The chain of " + path + " comes back to itself.",
              "Only its first part can be its own.");
      case TAKEN ->
          wrong(
              path,
              "The chain of "
                  + path
                  + " runs into "
                  + (n.folder() ? "another folder or past the end" : "a folder")
                  + " after cluster "
                  + Say.count(chain.at())
                  + ".",
              "What it has up to there is kept; the folder is whole.");
    }
    long needed = (n.bytes() + layout.clusterBytes() - 1) / layout.clusterBytes();
    if (!n.folder() && chain.ending() == FatChain.Ending.PROPER && chain.clusters() != needed) {
      Finding f =
          Finding.wrong(
                  "F-9",
                  path,
                  path
                      + " is "
                      + Say.bytes(n.bytes())
                      + " long, which is "
                      + Say.plural(needed, "cluster", "clusters")
                      + ", but its chain has "
                      + Say.count(chain.clusters())
                      + ".",
                  "Compare the file with another copy.")
              .because(
                  Sum.of("F-9", "Length of " + path)
                      .bytes("", "length", n.bytes())
                      .bytes("÷", "cluster, rounded up", layout.clusterBytes())
                      .line("=", "clusters needed", needed)
                      .line("", "clusters in its chain", chain.clusters())
                      .because("A file has as many clusters as its length needs.")
                      .done());
      if (findings.size() >= MOST_FINDINGS) unsaid++;
      else findings.add(f);
    }
    owners.add(path);
    int me = owners.size();
    boolean said = false;
    for (FatChain.Run run : chain.runs()) {
      for (int c = run.first(); c < run.first() + run.count(); c++) {
        int other = owner.of(c);
        if (other == 0) owner.set(c, me);
        else if (other != me && !said) {
          said = true;
          wrong(
              path,
              "Cluster "
                  + Say.count(c)
                  + " belongs to both "
                  + owners.get(other - 1)
                  + " and "
                  + path
                  + ".",
              "At most one of the two is whole; open both and keep the right one.");
        }
      }
    }
  }

  private void lost() {
    if (volume.tree().bounded()) {
      findings.add(Bounded.notTold("F-9", volume.kind()));
      return;
    }
    long lost = 0;
    long chains = 0;
    BitSet pointedAt = new BitSet();
    for (int n = 2; n <= table.last(); n++) {
      int e = table.get(n);
      if (e != 0 && owner.of(n) == 0 && table.isData(e)) pointedAt.set(e);
    }
    long bad = 0;
    int first = 0;
    for (int n = 2; n <= table.last(); n++) {
      int e = table.get(n);
      if (e == 0) continue;
      if (table.isBad(e)) {
        bad++;
        continue;
      }
      if (owner.of(n) != 0) continue;
      lost++;
      if (first == 0) first = n;
      if (!pointedAt.get(n)) chains++;
    }
    if (lost > 0) {
      wrong(
          "FAT 1, entry " + first,
          Say.plural(lost, "cluster is", "clusters are")
              + " taken but belong to no file, in "
              + Say.plural(Math.max(1, chains), "chain", "chains")
              + " (first: cluster "
              + Say.count(first)
              + ").",
          "They may be the rest of a file that was being written; they are in the image.");
    }
    if (bad > 0) {
      add(
          Finding.note(
              "F-9",
              "FAT 1",
              Say.plural(bad, "cluster is", "clusters are")
                  + " marked bad; a fresh volume on a card does not need the marks."));
    }
  }

  private void label() {
    Optional<byte[]> inRoot = volume.rootLabel();
    String fault = inRoot.map(b -> FatNames.labelFault(b, 0)).orElse("");
    if (!fault.isEmpty()) {
      wrong(
          "label",
          "The label " + volume.label() + " " + fault + "; a system cannot show it.",
          "A mended copy has _ there.");
    }
    String inBoot = layout.label().equals("NO NAME") ? "" : layout.label();
    if (inBoot.isEmpty() || FatNames.sameLabel(inRoot, layout.label())) return;
    add(
        Finding.note(
            "F-9",
            "label",
            "The boot sector says the label is "
                + FatNames.safe(inBoot)
                + ", the root folder says "
                + (inRoot.isEmpty() ? "nothing" : volume.label())
                + "; systems show the root folder's."));
  }
}
