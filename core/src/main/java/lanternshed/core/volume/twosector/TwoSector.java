package lanternshed.core.volume.twosector;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.names.NameRule;
import lanternshed.core.volume.Filesystem;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Recognised;

/**
 * Small 8-bit disks of 40 or 80 tracks with ten sectors of 256 bytes: a catalogue of 31 files in
 * the first two sectors, each file in one piece, the last one first. No mark: every entry must make
 * sense, and the disk say one of its two lengths.
 */
public final class TwoSector implements Filesystem {

  @Override
  public String key() {
    return "two-sector";
  }

  @Override
  public List<String> kinds() {
    return List.of(CatalogueLayout.KIND);
  }

  @Override
  public String unit() {
    return "sector";
  }

  @Override
  public List<NameRule> names() {
    return List.of(NameRule.of("seven"));
  }

  @Override
  public boolean speaksForItself() {
    return false;
  }

  @Override
  public Optional<Maker> maker() {
    return Optional.of(new CatalogueMaker());
  }

  @Override
  public Optional<Recognised> recognise(Medium m, Hint hint) {
    long most = (long) CatalogueLayout.LARGE * CatalogueLayout.SECTOR;
    boolean small = m.sectorSize() == 512 && m.sectors() > 1 && m.bytes() <= most;
    if (!hint.whole() || !small) return Optional.empty();
    byte[] b = m.sector(0);
    int count = b[CatalogueLayout.COUNT_AT] & 0xFF;
    int high = b[CatalogueLayout.HIGH_AT] & 0xFF;
    int sectors = (high & 3) << 8 | b[CatalogueLayout.LOW_AT] & 0xFF;
    boolean length = sectors == CatalogueLayout.SMALL || sectors == CatalogueLayout.LARGE;
    boolean figures = count % CatalogueLayout.ENTRY == 0 && (high & 0xCC) == 0;
    if (!length || !figures || count / CatalogueLayout.ENTRY > CatalogueLayout.MOST_FILES) {
      return Optional.empty();
    }
    List<CatalogueEntry> entries = new ArrayList<>();
    for (int i = 0; i < count / CatalogueLayout.ENTRY; i++) {
      CatalogueEntry e = CatalogueEntry.of(b, i);
      if (!e.sensible(sectors)) return Optional.empty();
      entries.add(e);
    }
    // Without a file only the length speaks for it: then it must be the medium's own.
    boolean whole = m.bytes() == (long) sectors * CatalogueLayout.SECTOR;
    if (entries.isEmpty() && !whole) return Optional.empty();
    int cycle = b[CatalogueLayout.CYCLE_AT] & 0xFF;
    CatalogueLayout l = new CatalogueLayout(sectors, title(b), high >> 4 & 3, cycle);
    Sum sum =
        Sum.of("F-16", CatalogueLayout.KIND)
            .line("", "sectors of 256 B that it says", sectors)
            .line("", "files, all of which make sense", entries.size())
            .because("It writes no mark: its length is one of two, and every entry lies on it.")
            .done();
    return Optional.of(
        new Recognised(
            CatalogueLayout.KIND,
            l.title(),
            l.sectorCount(),
            sum,
            Optional.of(new CatalogueVolume(m.sectors(0, (int) m.sectors()), l, entries, sum))));
  }

  private static String title(byte[] b) {
    byte[] t = new byte[CatalogueLayout.MOST_TITLE];
    System.arraycopy(b, 0, t, 0, CatalogueLayout.TITLE_FIRST);
    System.arraycopy(b, CatalogueLayout.SECTOR, t, CatalogueLayout.TITLE_FIRST, 4);
    String s = new String(t, StandardCharsets.US_ASCII);
    int end = s.indexOf(0);
    return (end < 0 ? s : s.substring(0, end)).replaceAll("\\p{Cntrl}", "").stripTrailing();
  }
}
