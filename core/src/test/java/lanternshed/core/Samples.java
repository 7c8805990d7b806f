package lanternshed.core;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import lanternshed.core.boot.pc.BootCode;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.table.TableMaker;
import lanternshed.core.table.mbr.MbrWriter;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.fat.FatFormat;
import lanternshed.core.volume.fat.FatKind;
import lanternshed.core.volume.fat.FatLayout;
import lanternshed.core.volume.fat.FatMaker;
import lanternshed.core.volume.fat.FatVolume;

/** Small media for the tests, the same each time. */
public final class Samples {
  public static final String LOADER_TEXT = "Loom ready";
  public static final int STAMP = 0x1D21_6000;

  private Samples() {}

  /**
   * A drive of a loom controller: one active FAT16 volume that starts, with 60 files in 4 folders.
   */
  public static MemoryMedium drive(Geometry g) {
    MemoryMedium m = new MemoryMedium(g.total());
    long start = g.sectors();
    long length = g.total() - start;
    FatLayout l = layout(g, start, length, FatKind.FAT16, 0, "PATTERNS");
    FileSet b = new FileSet();
    file(b, "LOOMIO.SYS", 0x27, padded(BootCode.loader(LOADER_TEXT), 20_000));
    file(b, "LOOMDOS.SYS", 0x27, content(2, 33_000));
    for (int d = 0; d < 4; d++) {
      b.folder("SET" + d, 0, STAMP);
      for (int f = 0; f < 15; f++) {
        file(b, "SET" + d + "/P" + f + ".PAT", 0x20, content(d * 100 + f, f * 1777));
      }
    }
    write(l, b, new SliceMedium(m, start, length), BootCode.volume("LOOMIO.SYS"));
    int type = l.kind() == FatKind.FAT12 ? 1 : length < 65_536 ? 4 : 6;
    new MbrWriter()
        .write(
            m,
            g,
            BootCode.table(),
            0x1234_5678,
            List.of(
                new TableMaker.Slot(start, length, String.format("%02X", type), true, false, 0)));
    return m;
  }

  /** A drive whose one volume is full of files of a hundred kilobytes, all zero but their heads. */
  public static MemoryMedium full(Geometry g) {
    MemoryMedium m = new MemoryMedium(g.total());
    long start = g.sectors();
    long length = g.total() - start;
    FatLayout l = layout(g, start, length, FatKind.FAT16, 0, "FULL");
    FileSet b = new FileSet();
    long files = (long) l.clusters() * l.clusterBytes() / 106_000;
    for (int i = 0; i < files; i++) {
      if (i % 200 == 0) b.folder("D" + i / 200, 0, STAMP);
      byte[] c =
          padded(("file " + i).getBytes(java.nio.charset.StandardCharsets.US_ASCII), 100_000);
      file(b, "D" + i / 200 + "/F" + i + ".DAT", 0x20, c);
    }
    write(l, b, new SliceMedium(m, start, length), new byte[0]);
    new MbrWriter()
        .write(
            m,
            g,
            BootCode.table(),
            1,
            List.of(new TableMaker.Slot(start, length, "06", true, false, 0)));
    return m;
  }

  public static FatLayout layout(
      Geometry g, long start, long length, FatKind kind, int cluster, String label) {
    return FatFormat.layout(wish(kind.name(), length, cluster, g, start, label, 0xCAFE_F00DL));
  }

  /** What is asked of a volume, with long names. */
  public static Maker.Wish wish(
      String kind, long sectors, int cluster, Geometry g, long start, String label, long serial) {
    return new Maker.Wish(
        Optional.ofNullable(kind), sectors, start, cluster, 0, g, label, serial, true, STAMP);
  }

  /** Writes a volume of short names. */
  public static void write(FatLayout l, FileSet files, Medium to, byte[] code) {
    new FatMaker().write(FatMaker.of(l, false, STAMP), files, to, code, (p, n) -> {});
  }

  /** Writes an exFAT volume. */
  public static void exfat(
      long sectors, long start, int cluster, String label, FileSet files, Medium to) {
    Geometry none = new Geometry(1, 1, 1);
    Maker maker = Catalogue.maker("exFAT");
    Maker.Wish wish =
        new Maker.Wish(
            Optional.empty(), sectors, start, cluster, 0, none, label, 0x1234_5678L, true, STAMP);
    maker.write(maker.layout(wish), files, to, new byte[0], (p, n) -> {});
  }

  public static void file(FileSet b, String path, int attributes, byte[] content) {
    b.file(path, content.length, attributes, STAMP, s -> s.take(content, 0, content.length));
  }

  public static byte[] content(int number, int length) {
    byte[] b = new byte[length];
    new Random(number).nextBytes(b);
    return b;
  }

  public static byte[] padded(byte[] b, int length) {
    return java.util.Arrays.copyOf(b, length);
  }

  public static byte[] bytes(Volume v, lanternshed.core.volume.Node n) {
    java.io.ByteArrayOutputStream out = new java.io.ByteArrayOutputStream();
    v.read(n, out::write);
    return out.toByteArray();
  }

  /** The volume that starts after the first track of a drive with one volume. */
  public static FatVolume volume(Medium drive, Geometry g) {
    return FatVolume.open(new SliceMedium(drive, g.sectors(), drive.sectors() - g.sectors()));
  }

  /** Path and SHA-256 of every file of a volume. */
  public static java.util.Map<String, String> digests(Volume v) {
    java.util.Map<String, String> out = new java.util.TreeMap<>();
    for (var n : new ArrayList<>(v.all())) {
      if (!n.folder()) out.put(n.path(), Tool.sha256(bytes(v, n)));
    }
    return out;
  }

  public static void toFile(Medium m, java.nio.file.Path file) {
    try (var f = lanternshed.core.medium.FileMedium.create(file, m.sectors())) {
      byte[] b = new byte[2048 * 512];
      byte[] zeros = new byte[b.length];
      for (long s = 0; s < m.sectors(); s += 2048) {
        int n = (int) Math.min(2048, m.sectors() - s);
        m.read(s, n, b, 0);
        if (!java.util.Arrays.equals(b, 0, n * 512, zeros, 0, n * 512)) f.write(s, n, b, 0);
      }
    }
  }
}
