package lanternshed.core.catalogue;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.fat.FatMaker;
import lanternshed.core.volume.fat.Floppy;

/**
 * Floppies and small disks of published sizes, formatted and without a file.
 *
 * @param key "720K"
 * @param title as it is said
 * @param sectors of 512 bytes
 * @param kind published name of its filesystem
 */
public record BlankDisk(String key, String title, long sectors, String kind) {
  private static final Geometry NONE = new Geometry(80, 2, 9);

  /** The eight of FAT, then the others by size. */
  public static final List<BlankDisk> ALL =
      Stream.concat(
              Arrays.stream(Floppy.values())
                  .map(
                      f ->
                          new BlankDisk(
                              f.title(), f.title() + ", FAT12", f.geometry().total(), "FAT12")),
              Stream.of(
                  new BlankDisk("90-linked", "90 KiB, linked sectors", 180, "linked-sector"),
                  new BlankDisk("180-linked", "180 KiB, linked sectors", 360, "linked-sector"),
                  new BlankDisk(
                      "100-two", "100 KiB, two-sector catalogue", 200, "two-sector catalogue"),
                  new BlankDisk(
                      "200-two", "200 KiB, two-sector catalogue", 400, "two-sector catalogue"),
                  new BlankDisk("170-map", "170 KiB, 35 tracks, link-and-map", 342, "link-and-map"),
                  new BlankDisk(
                      "800-map", "800 KiB, 80 tracks, link-and-map", 1600, "link-and-map"),
                  new BlankDisk("880-ofs", "880 KiB, OFS", 1760, "OFS"),
                  new BlankDisk("880-ffs", "880 KiB, FFS", 1760, "FFS"),
                  new BlankDisk("1760-ffs", "1.76 MB, FFS", 3520, "FFS")))
          .toList();

  /**
   * The disk of that key.
   *
   * @throws ShedException where there is none
   */
  public static BlankDisk of(String key) {
    return ALL.stream()
        .filter(d -> d.key().equals(key))
        .findFirst()
        .orElseThrow(() -> new ShedException("There is no disk \"" + key + "\" here."));
  }

  /** Formats a medium of its length, which is all zero. */
  public void format(Medium m, String label, int stamp) {
    Optional<Floppy> floppy =
        Arrays.stream(Floppy.values()).filter(f -> f.title().equals(key)).findFirst();
    Maker maker = Catalogue.maker(kind);
    Maker.Layout layout =
        floppy
            .map(f -> FatMaker.of(f.layout(maker.label(label), stamp), false, stamp))
            .orElseGet(() -> maker.layout(wish(label, stamp)));
    maker.write(layout, new FileSet(), m, new byte[0], (path, n) -> {});
  }

  private Maker.Wish wish(String label, int stamp) {
    return new Maker.Wish(
        Optional.of(kind), sectors, 0, 0, 0, NONE, label, stamp & 0xFFFF_FFFFL, false, stamp);
  }
}
