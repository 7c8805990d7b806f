package lanternshed.core.volume.twosector;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.ClusterWriter;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.SmallMaker;
import lanternshed.core.volume.VolumeException;

/** Makes small disks of 40 or 80 tracks; folders of one letter are the first of each name. */
final class CatalogueMaker implements Maker {
  private static final int MOST_NAME = 7;

  /** What a command line of the machine takes for itself. */
  private static final String REFUSED = ".:\"#* ";

  @Override
  public List<Integer> unitSizes() {
    return List.of(CatalogueLayout.SECTOR);
  }

  @Override
  public long mostSectors(String kind, int clusterBytes) {
    return CatalogueLayout.LARGE / 2;
  }

  @Override
  public String label(String wanted) {
    String s = wanted.replaceAll("[^\\x20-\\x7E]", "_").strip();
    int most = CatalogueLayout.MOST_TITLE;
    return s.length() <= most ? s : s.substring(0, most).strip();
  }

  @Override
  public CatalogueLayout layout(Wish wish) {
    long sectors = wish.sectors() * 2;
    if (sectors != CatalogueLayout.SMALL && sectors != CatalogueLayout.LARGE) {
      throw new VolumeException(
          "A disk of this kind has 40 or 80 tracks of ten sectors of 256 B: 200 or 400 sectors of"
              + " 512 B, not "
              + Say.count(wish.sectors())
              + ".");
    }
    return new CatalogueLayout((int) sectors, label(wish.label()), 0, 0);
  }

  @Override
  public Fit fit(Layout layout, FileSet files) {
    long needed = 0;
    int count = 0;
    for (FileSet.Item i : files.items()) {
      check(i);
      if (i.folder()) continue;
      needed += units("", CatalogueLayout.SECTOR, i.bytes());
      count++;
    }
    return SmallMaker.fit(
        "sectors",
        needed,
        layout.clusterCount(),
        count,
        CatalogueLayout.MOST_FILES,
        "A file takes whole sectors of 256 B, one behind the other.");
  }

  /** Whether its system takes every letter as one of a name. */
  static boolean isName(String name) {
    return name.chars().allMatch(c -> c > 0x20 && c < 0x7F && REFUSED.indexOf(c) < 0);
  }

  private static void check(FileSet.Item i) {
    boolean root = i.parent().parent() == null && i.parent().name().isEmpty();
    int most = i.folder() ? 1 : MOST_NAME;
    if (isName(i.name()) && i.name().length() <= most && (root || !i.folder())) {
      if (i.bytes() <= CatalogueLayout.MOST_BYTES) return;
      throw new VolumeException(i.path() + " is longer than 256 KiB less 1 B.");
    }
    throw new VolumeException(
        "\""
            + i.path()
            + "\" cannot stand on this disk: names have seven letters at most, none of . : \" # *,"
            + " folders one letter in the root.");
  }

  @Override
  public void write(Layout layout, FileSet files, Medium to, byte[] code, Watch watch) {
    CatalogueLayout l = (CatalogueLayout) layout;
    SmallMaker.refuse(fit(l, files));
    List<CatalogueEntry> entries = new ArrayList<>();
    int next = CatalogueLayout.CATALOGUE;
    for (FileSet.Item i : files.items()) {
      if (i.folder()) continue;
      CatalogueEntry e = entry(i, next);
      entries.add(e);
      next = e.end();
    }
    // The last one first, as the machine keeps them.
    Collections.reverse(entries);
    try (ClusterWriter out = new ClusterWriter(to, 0, CatalogueLayout.SECTOR)) {
      out.whole(catalogue(l, entries));
      for (FileSet.Item i : files.items()) {
        if (!i.folder()) out.file(i, watch);
      }
      if (next % 2 == 1) out.whole(new byte[CatalogueLayout.SECTOR]);
      out.finish();
    }
  }

  private static CatalogueEntry entry(FileSet.Item i, int first) {
    byte[] own = i.own();
    boolean kept = own.length == 6;
    boolean inRoot = i.parent().parent() == null && i.parent().name().isEmpty();
    return new CatalogueEntry(
        i.name(),
        inRoot ? CatalogueEntry.ROOT : i.parent().name().charAt(0),
        (i.marks() & 0x01) != 0,
        kept ? Bytes.u16(own, 0) | (own[2] & 3) << 16 : 0,
        kept ? Bytes.u16(own, 3) | (own[5] & 3) << 16 : 0,
        (int) i.bytes(),
        first);
  }

  private static byte[] catalogue(CatalogueLayout l, List<CatalogueEntry> entries) {
    byte[] b = new byte[CatalogueLayout.CATALOGUE * CatalogueLayout.SECTOR];
    byte[] title = l.title().getBytes(StandardCharsets.US_ASCII);
    for (int i = 0; i < title.length; i++) {
      int first = CatalogueLayout.TITLE_FIRST;
      b[i < first ? i : CatalogueLayout.SECTOR + i - first] = title[i];
    }
    b[CatalogueLayout.CYCLE_AT] = (byte) l.cycle();
    b[CatalogueLayout.COUNT_AT] = (byte) (CatalogueLayout.ENTRY * entries.size());
    b[CatalogueLayout.HIGH_AT] = (byte) (l.sectors() >> 8 | l.option() << 4);
    b[CatalogueLayout.LOW_AT] = (byte) l.sectors();
    for (int i = 0; i < entries.size(); i++) entries.get(i).put(b, i);
    return b;
  }
}
