package lanternshed.core.volume.exfat;

import static lanternshed.core.volume.exfat.ExfatEntries.ENTRY;

import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.ClusterWriter;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.VolumeException;

/**
 * Makes exFAT volumes with their files. Every file lies in one piece, which emulators ask for, and
 * no chain has to be followed to read it.
 */
final class ExfatMaker implements Maker {
  /** Characters of a label (exFAT specification, 7.3.3). */
  private static final int MOST_LABEL = 11;

  private static final int BUFFER = 1 << 20;

  /** What was worked out, with the label, which stands in the root folder. */
  private record Planned(ExfatLayout exfat, String label) implements Layout {
    @Override
    public String kindName() {
      return "exFAT";
    }

    @Override
    public int clusterBytes() {
      return exfat.clusterBytes();
    }

    @Override
    public long clusterCount() {
      return exfat.clusters();
    }

    @Override
    public long sectorCount() {
      return exfat.sectors() * exfat.per512();
    }

    @Override
    public Sum because() {
      return exfat.sum();
    }
  }

  @Override
  public List<Integer> unitSizes() {
    return List.of(512, 1024, 2048, 4096, 8192, 16_384, 32_768, 65_536, 131_072, 262_144);
  }

  @Override
  public long mostSectors(String kind, int clusterBytes) {
    return 0xFFFF_FFFFL;
  }

  @Override
  public String label(String wanted) {
    String plain = wanted.strip().replaceAll("[\\p{Cntrl}]", "");
    return plain.length() > MOST_LABEL ? plain.substring(0, MOST_LABEL) : plain;
  }

  @Override
  public Layout layout(Wish w) {
    return new Planned(
        ExfatLayout.fresh(w.sectors(), w.start(), w.clusterBytes(), w.serial()), w.label());
  }

  @Override
  public Fit fit(Layout layout, FileSet files) {
    return new Writing((Planned) layout, files).fit();
  }

  @Override
  public void write(Layout layout, FileSet files, Medium to, byte[] code, Watch watch) {
    new Writing((Planned) layout, files).write(to, watch);
  }

  private static final class Writing {
    private final ExfatLayout layout;
    private final String label;
    private final FileSet files;

    /** The table that was there before, else one of ours. */
    private final byte[] upcase;

    private final char[] upper;

    /** First cluster of each file and folder. */
    private final Map<FileSet.Item, Long> first = new HashMap<>();

    Writing(Planned p, FileSet files) {
      this.layout = p.exfat();
      this.label = p.label();
      this.files = files;
      byte[] kept = files.root().own();
      this.upcase = kept.length > 0 ? kept : Upcase.table();
      this.upper = Upcase.read(upcase);
      for (FileSet.Item i : files.items()) ExfatEntries.check(i.name());
    }

    private long bytesOf(FileSet.Item i) {
      if (!i.folder()) return i.bytes();
      long bytes = i == files.root() ? 3 * ENTRY : 0;
      for (FileSet.Item c : i.children()) bytes += ExfatEntries.setBytes(c.name());
      return Math.max(1, layout.clustersFor(bytes)) * layout.clusterBytes();
    }

    Fit fit() {
      long needed = clustersNeeded();
      Sum sum =
          Sum.of("F-3", "Does it fit")
              .line("", "clusters of files, folders and tables", needed)
              .line(needed <= layout.clusters() ? "≤" : ">", "clusters there", layout.clusters())
              .because(
                  "Each file and folder takes whole clusters of "
                      + Say.size(layout.clusterBytes())
                      + "; bitmap, upcase table and root folder take theirs.")
              .done();
      return new Fit(needed, layout.clusters(), 0, 0, sum);
    }

    private long clustersNeeded() {
      long n = layout.clustersFor(bytesOf(files.root())) + layout.clustersFor(bitmapBytes());
      n += layout.clustersFor(upcase.length);
      for (FileSet.Item e : files.items()) n += layout.clustersFor(bytesOf(e));
      return n;
    }

    private long bitmapBytes() {
      return (layout.clusters() + 7) / 8;
    }

    void write(Medium medium, Watch watch) {
      long needed = clustersNeeded();
      if (needed > layout.clusters()) {
        throw new VolumeException(
            "The files need "
                + Say.count(needed)
                + " clusters of "
                + Say.size(layout.clusterBytes())
                + ", the volume has "
                + Say.count(layout.clusters())
                + ": make it larger or leave some out.");
      }
      long upcaseAt = 2 + layout.clustersFor(bitmapBytes());
      long rootAt = upcaseAt + layout.clustersFor(upcase.length);
      long rootClusters = layout.clustersFor(bytesOf(files.root()));
      long next = rootAt + rootClusters;
      for (FileSet.Item i : files.items()) {
        long n = layout.clustersFor(bytesOf(i));
        first.put(i, n == 0 ? 0 : next);
        next += n;
      }
      byte[] region = layout.withRoot(rootAt).region();
      medium.write(0, ExfatLayout.REGION, region, 0);
      medium.write(ExfatLayout.REGION, ExfatLayout.REGION, region, 0);
      fat(medium, upcaseAt, rootAt, rootClusters);
      BitSet used = new BitSet();
      used.set(0, (int) (next - 2));
      byte[] bits = java.util.Arrays.copyOf(used.toByteArray(), (int) bitmapBytes());
      try (ClusterWriter out =
          new ClusterWriter(medium, layout.heapAt() / 512, layout.clusterBytes())) {
        out.whole(bits);
        out.whole(upcase);
        out.whole(rootFolder(upcaseAt));
        for (FileSet.Item i : files.items()) {
          if (i.folder()) out.whole(folderBytes(i, 0, new byte[(int) bytesOf(i)]));
          else if (i.bytes() > 0) out.file(i, watch);
        }
        out.finish();
      }
    }

    /** Bitmap, upcase table and root are chained; everything else lies in one piece without. */
    private void fat(Medium medium, long upcaseAt, long rootAt, long rootClusters) {
      long last = rootAt + rootClusters;
      byte[] b = new byte[(int) ((last * 4 + 511) / 512 * 512)];
      Bytes.put32(b, 0, 0xFFFF_FFF8L);
      Bytes.put32(b, 4, ExfatLayout.END);
      for (long c = 2; c < last; c++) {
        boolean end = c + 1 == upcaseAt || c + 1 == rootAt || c + 1 == last;
        Bytes.put32(b, (int) c * 4, end ? ExfatLayout.END : c + 1);
      }
      long at = layout.fatAt() / 512;
      medium.write(at, b.length / 512, b, 0);
      byte[] zeros = new byte[BUFFER];
      long done = b.length / 512;
      for (long left = layout.fatLength() - done; left > 0; left -= BUFFER / 512) {
        int n = (int) Math.min(left, BUFFER / 512);
        medium.write(at + done, n, zeros, 0);
        done += n;
      }
    }

    private byte[] rootFolder(long upcaseAt) {
      byte[] b = new byte[(int) bytesOf(files.root())];
      int at = 0;
      if (!label.isEmpty()) {
        ExfatEntries.putLabel(b, at, label);
        at += ENTRY;
      }
      ExfatEntries.putTable(b, at, ExfatEntries.BITMAP, 2, bitmapBytes());
      at += ENTRY;
      ExfatEntries.putTable(b, at, ExfatEntries.UPCASE, upcaseAt, upcase.length);
      Bytes.put32(b, at + ExfatEntries.TABLE_SUM, ExfatEntries.tableSum(upcase));
      return folderBytes(files.root(), at + ENTRY, b);
    }

    private byte[] folderBytes(FileSet.Item folder, int at, byte[] b) {
      for (FileSet.Item c : folder.children()) {
        int marks = c.marks() & 0x27 | (c.folder() ? ExfatEntries.FOLDER : 0);
        at =
            ExfatEntries.put(
                b, at, c.name(), marks, c.stamp(), c.own(), upper, first.get(c), bytesOf(c));
      }
      return b;
    }
  }
}
