package lanternshed.core.volume.ffs;

import java.nio.charset.StandardCharsets;
import java.util.List;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.VolumeException;

/** Makes OFS and FFS volumes of all six kinds, with blocks of 512 bytes. */
final class FfsMaker implements Maker {
  /** A bit a block is kept in memory while one is made, checked or read: 128 GiB. */
  static final long MOST_SECTORS = 1L << 28;

  /** Boot block, root, bitmap and one entry. */
  private static final long LEAST_SECTORS = 8;

  @Override
  public List<Integer> unitSizes() {
    return List.of(FfsBlock.BYTES);
  }

  @Override
  public long mostSectors(String kind, int clusterBytes) {
    return MOST_SECTORS;
  }

  /** A header goes with each file, and an extension with each 72 blocks of data but the first. */
  @Override
  public long units(String kind, int clusterBytes, long bytes) {
    long data = new FfsLayout(FfsLayout.KINDS.indexOf(kind), 0, "", 0).dataBlocks(bytes);
    return 1 + FfsLayout.extensionBlocks(data) + data;
  }

  @Override
  public String label(String wanted) {
    String s = wanted.replaceAll("[^\\x20-\\x7E\\u00A0-\\u00FF]|[:/]", "-").strip();
    if (s.isEmpty()) return "Empty";
    return s.length() <= FfsBlock.MOST_NAME ? s : s.substring(0, FfsBlock.MOST_NAME);
  }

  @Override
  public FfsLayout layout(Wish wish) {
    int flag = FfsLayout.KINDS.indexOf(wish.kind().orElse("FFS"));
    if (flag < 0) throw new VolumeException("OFS and FFS are not " + wish.kind().get() + ".");
    if (wish.sectors() < LEAST_SECTORS || wish.sectors() > MOST_SECTORS) {
      throw new VolumeException(
          "A volume of this kind has 8 to "
              + MOST_SECTORS
              + " blocks, not "
              + wish.sectors()
              + ".");
    }
    if (wish.clusterBytes() != 0 && wish.clusterBytes() != FfsBlock.BYTES) {
      throw new VolumeException(
          "Its blocks have 512 B; " + wish.clusterBytes() + " B are not made here.");
    }
    return new FfsLayout(flag, wish.sectors(), label(wish.label()), wish.stamp());
  }

  @Override
  public Fit fit(Layout layout, FileSet files) {
    FfsLayout l = (FfsLayout) layout;
    long needed = new FfsPlaces(l, files).count();
    Sum sum =
        Sum.of("A-2", "Will it fit?")
            .line("", "headers, extensions and data of " + files.items().size(), needed)
            .line("≤", "blocks for files and folders", l.clusterCount())
            .because(
                "Each entry has a header; 72 blocks of data go with it and with each extension.")
            .done();
    return new Fit(needed, l.clusterCount(), 0, 0, sum);
  }

  @Override
  public void write(Layout layout, FileSet files, Medium to, byte[] code, Watch watch) {
    FfsLayout l = (FfsLayout) layout;
    FfsPlaces places = new FfsPlaces(l, files);
    if (places.count() > l.clusterCount()) {
      throw new VolumeException(
          "The files need "
              + places.count()
              + " blocks; the volume has "
              + l.clusterCount()
              + ". Leave some out, or make it larger.");
    }
    new FfsLaying(l, places, to, watch).lay(code);
  }

  /**
   * A name as it stands on disk.
   *
   * @throws VolumeException where it cannot
   */
  static byte[] name(FileSet.Item item) {
    String n = item.name();
    boolean fits = !n.isEmpty() && n.length() <= FfsBlock.MOST_NAME;
    if (!fits
        || !StandardCharsets.ISO_8859_1.newEncoder().canEncode(n)
        || n.matches(".*[:/\\p{Cntrl}].*")) {
      throw new VolumeException(
          "\""
              + item.path()
              + "\" cannot stand in this volume: a name has 1 to 30 letters of Latin-1, no colon and no"
              + " slash.");
    }
    return n.getBytes(StandardCharsets.ISO_8859_1);
  }
}
