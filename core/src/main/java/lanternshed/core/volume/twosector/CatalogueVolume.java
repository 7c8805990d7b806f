package lanternshed.core.volume.twosector;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Sink;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;

/** A small disk, opened for reading; its catalogue is two sectors, and read once. */
final class CatalogueVolume implements Volume {
  private final Medium medium;
  private final CatalogueLayout layout;
  private final List<CatalogueEntry> entries;
  private final Sum inferred;
  private final Map<String, CatalogueEntry> byPath = new LinkedHashMap<>();

  CatalogueVolume(
      Medium medium, CatalogueLayout layout, List<CatalogueEntry> entries, Sum inferred) {
    this.medium = medium;
    this.layout = layout;
    this.entries = entries;
    this.inferred = inferred;
    for (CatalogueEntry e : entries) byPath.putIfAbsent(e.path(), e);
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
  public Optional<Sum> inferred() {
    return Optional.of(inferred);
  }

  @Override
  public Optional<Maker.Layout> layoutAsItLies() {
    return Optional.of(layout);
  }

  /** Two of one name, or an image that was cut, are not laid down anew. */
  @Override
  public boolean remakeable() {
    boolean whole = medium.bytes() >= (long) layout.sectors() * CatalogueLayout.SECTOR;
    return whole && byPath.size() == entries.size();
  }

  @Override
  public boolean keepsTimes() {
    return false;
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
  public Node root() {
    return new Node("", "", "", true, 0, 0, 0, 0);
  }

  @Override
  public List<Node> list(Node folder) {
    return all().stream().filter(n -> n.parent().equals(folder.path())).toList();
  }

  @Override
  public List<Node> all() {
    List<Node> out = new ArrayList<>();
    Set<String> folders = new LinkedHashSet<>();
    for (CatalogueEntry e : byPath.values()) {
      if (e.path().contains("/") && folders.add(e.folder())) {
        out.add(new Node(e.folder(), e.folder(), e.folder(), true, 0, 0, 0, 0));
      }
    }
    byPath.forEach(
        (path, e) -> {
          String name = path.substring(path.lastIndexOf('/') + 1);
          int marks = e.locked() ? 0x21 : 0x20;
          out.add(new Node(path, name, name, false, e.bytes(), marks, 0, e.first()));
        });
    return out;
  }

  /** Load and start address, three bytes each. */
  @Override
  public byte[] own(Node node) {
    CatalogueEntry e = byPath.get(node.path());
    if (e == null) return new byte[0];
    byte[] out = new byte[6];
    Bytes.put16(out, 0, e.load());
    out[2] = (byte) (e.load() >> 16);
    Bytes.put16(out, 3, e.start());
    out[5] = (byte) (e.start() >> 16);
    return out;
  }

  @Override
  public void read(Node file, Sink sink) {
    CatalogueEntry e = byPath.get(file.path());
    if (e == null) return;
    long at = (long) e.first() * CatalogueLayout.SECTOR;
    int there = (int) Math.max(0, Math.min(e.bytes(), medium.bytes() - at));
    if (there > 0) {
      int skip = (int) (at % 512);
      byte[] b = medium.sectors(at / 512, (skip + there + 511) / 512);
      sink.take(b, skip, there);
    }
    if (there < e.bytes()) throw new VolumeException(file.path() + ": " + cut(there, e) + ".");
  }

  @Override
  public List<long[]> sectorsOf(Node node) {
    CatalogueEntry e = byPath.get(node.path());
    if (e == null || e.bytes() == 0) return List.of();
    long first = e.first() / 2;
    long end = Math.min(medium.sectors(), (e.end() + 1L) / 2);
    return end <= first ? List.of() : List.of(new long[] {first, end - first});
  }

  @Override
  public Optional<String> notWhole(Node node) {
    CatalogueEntry e = byPath.get(node.path());
    if (e == null) return Optional.empty();
    long there = medium.bytes() - (long) e.first() * CatalogueLayout.SECTOR;
    return there >= e.bytes() ? Optional.empty() : Optional.of(cut(Math.max(0, there), e));
  }

  private static String cut(long there, CatalogueEntry e) {
    return "the image ends after " + there + " of its " + e.bytes() + " bytes";
  }

  @Override
  public List<Finding> check() {
    List<Finding> out = new ArrayList<>();
    for (int i = 0; i < entries.size(); i++) {
      CatalogueEntry e = entries.get(i);
      if (byPath.get(e.path()) != e) {
        String what = e.path() + " stands in the catalogue twice.";
        out.add(Finding.wrong("F-16", e.path(), what, "Copy both out and look."));
      }
      if (i == 0) continue;
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

  @Override
  public List<Place> places() {
    List<Place> out = new ArrayList<>();
    out.add(Place.of("catalogue", "", 0, 1, 0));
    for (Node n : all()) {
      for (long[] run : sectorsOf(n))
        out.add(Place.of("file", n.path(), run[0], run[1], n.bytes()));
    }
    out.add(Place.of("free space", "", 0, Math.min(medium.sectors(), layout.sectorCount()), 0));
    return out;
  }

  @Override
  public List<long[]> inUse() {
    List<long[]> out = new ArrayList<>();
    out.add(new long[] {0, 1});
    for (Node n : all()) out.addAll(sectorsOf(n));
    return out;
  }
}
