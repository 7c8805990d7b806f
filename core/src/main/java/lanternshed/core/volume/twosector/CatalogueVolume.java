package lanternshed.core.volume.twosector;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Sum;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.SmallVolume;

/** A small disk with a two-sector catalogue, opened for reading. */
final class CatalogueVolume extends SmallVolume {
  private final CatalogueLayout layout;
  private final List<CatalogueEntry> entries;

  CatalogueVolume(byte[] disk, CatalogueLayout layout, List<CatalogueEntry> entries, Sum evidence) {
    super(
        disk,
        entries.stream().map(e -> held(e, disk.length)).toList(),
        List.of(new Structure("catalogue", 0, 2 * CatalogueLayout.SECTOR)),
        evidence);
    this.layout = layout;
    this.entries = entries;
  }

  private static Held held(CatalogueEntry e, int bytes) {
    int at = e.first() * CatalogueLayout.SECTOR;
    int there = Math.max(0, Math.min(e.bytes(), bytes - at));
    String path = e.path();
    String name = path.substring(path.lastIndexOf('/') + 1);
    int marks = e.locked() ? 0x21 : 0x20;
    Node node = new Node(path, name, name, false, e.bytes(), marks, 0, e.first());
    String broken =
        there == e.bytes()
            ? ""
            : "the image ends after " + there + " of its " + e.bytes() + " bytes";
    List<int[]> content = List.of(new int[] {at, there});
    List<int[]> taken = List.of(new int[] {at, e.length() * CatalogueLayout.SECTOR});
    return new Held(node, content, there == 0 ? List.of() : taken, own(e), broken);
  }

  /** Load and start address, three bytes each. */
  private static byte[] own(CatalogueEntry e) {
    byte[] out = new byte[6];
    Bytes.put16(out, 0, e.load());
    out[2] = (byte) (e.load() >> 16);
    Bytes.put16(out, 3, e.start());
    out[5] = (byte) (e.start() >> 16);
    return out;
  }

  @Override
  public String kind() {
    return CatalogueLayout.KIND;
  }

  @Override
  public String label() {
    return layout.title();
  }

  @Override
  public Optional<Maker.Layout> layoutAsItLies() {
    return Optional.of(layout);
  }

  /** An image that was cut is not laid down anew either. */
  @Override
  public boolean remakeable() {
    return super.remakeable() && disk.length >= layout.sectors() * CatalogueLayout.SECTOR;
  }

  @Override
  public boolean ordered() {
    return false;
  }

  @Override
  public Use use() {
    long used = entries.stream().mapToLong(CatalogueEntry::length).sum();
    long there = layout.clusterCount();
    return new Use(CatalogueLayout.SECTOR, there, Math.max(0, there - used), 0);
  }

  @Override
  public List<Finding> check() {
    List<Finding> out = new ArrayList<>(twice("F-16"));
    for (CatalogueEntry e : entries) {
      if (CatalogueMaker.isName(e.name() + e.letter())) continue;
      String what =
          e.path() + " has one of . : \" # * in its name: its system takes it for another.";
      out.add(Finding.wrong("F-16", e.path(), what, "Copy it out, and in again renamed."));
    }
    for (int i = 1; i < entries.size(); i++) {
      CatalogueEntry e = entries.get(i);
      CatalogueEntry before = entries.get(i - 1);
      if (e.first() > before.first()) {
        String what = e.path() + " lies behind the file that stands before it in the catalogue.";
        out.add(Finding.wrong("F-16", e.path(), what, "The machine would write over it; copy it."));
      } else if (e.end() > before.first() && before.length() > 0) {
        String what = e.path() + " and " + before.path() + " overlap.";
        out.add(Finding.wrong("F-16", e.path(), what, "One of the two is damaged; look at both."));
      }
    }
    return out;
  }
}
