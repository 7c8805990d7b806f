package lanternshed.core.volume.fat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Sink;
import lanternshed.core.volume.VolumeException;

/**
 * Fills a fresh FAT12 or FAT16 volume. All is planned before the first byte is written: names,
 * entries and clusters, so that "does it fit" is exact. Data are laid down one after the other,
 * which makes every file contiguous and the writing one sweep; FATs and folders follow last.
 */
public final class FatBuilder {

  /** Gives a file's content; called once, must give exactly the length it was announced with. */
  public interface Source {
    void copyTo(Sink sink);
  }

  /** Is told of each file's bytes as they are laid down. */
  public interface Watch {
    void wrote(String path, long bytes);
  }

  /**
   * Whether a set of files fits.
   *
   * @param clustersNeeded for files and folders
   * @param clustersFree that the volume has
   * @param rootNeeded entries needed in the fixed root, the label among them
   * @param rootEntries entries that the root has
   */
  public record Fit(
      long clustersNeeded, long clustersFree, int rootNeeded, int rootEntries, Sum because) {
    public boolean fits() {
      return clustersNeeded <= clustersFree && rootNeeded <= rootEntries;
    }
  }

  private static final int BUFFER = 1 << 20;

  private final FatLayout layout;
  private final Entry root = new Entry("", "", true, 0, 0, 0, null);
  private final Map<String, Entry> byPath = new LinkedHashMap<>();
  private final List<Entry> order = new ArrayList<>();

  private static final class Entry {
    final String path;
    final String name;
    final boolean folder;
    final long bytes;
    final int attributes;
    final int stamp;
    final Source source;
    final List<Entry> children = new ArrayList<>();
    Entry parent;
    int first;
    int clusters;

    Entry(
        String path, String name, boolean folder, long bytes, int attributes, int stamp, Source s) {
      this.path = path;
      this.name = name;
      this.folder = folder;
      this.bytes = bytes;
      this.attributes = attributes;
      this.stamp = stamp;
      this.source = s;
    }
  }

  public FatBuilder(FatLayout layout) {
    if (layout.kind() == FatKind.FAT32) {
      throw new VolumeException("FAT32 volumes cannot be built yet; choose FAT16.");
    }
    this.layout = layout;
    byPath.put("", root);
  }

  /** Adds a folder; its parent must have been added. */
  public void folder(String path, int attributes, int stamp) {
    add(path, true, 0, attributes | FatVolume.FOLDER, stamp, null);
  }

  /** Adds a file of exactly {@code bytes}; its folder must have been added. */
  public void file(String path, long bytes, int attributes, int stamp, Source source) {
    if (bytes > 0xFFFF_FFFFL) {
      throw new VolumeException(
          path + " has " + Say.bytes(bytes) + "; a file ends at 4 GiB less 1 B.");
    }
    add(path, false, bytes, attributes & ~FatVolume.FOLDER, stamp, source);
  }

  private void add(
      String path, boolean folder, long bytes, int attributes, int stamp, Source source) {
    int slash = path.lastIndexOf('/');
    String name = path.substring(slash + 1);
    FatNames.encode(name);
    Entry parent = byPath.get(FatNames.key(slash < 0 ? "" : path.substring(0, slash)));
    if (parent == null || !parent.folder) {
      throw new VolumeException("The folder of " + path + " was not added before it.");
    }
    Entry e = new Entry(path, name, folder, bytes, attributes & ~FatVolume.LABEL, stamp, source);
    e.parent = parent;
    if (byPath.putIfAbsent(FatNames.key(path), e) != null) {
      throw new VolumeException("There are two of the name " + path + "; one needs another name.");
    }
    parent.children.add(e);
    order.add(e);
  }

  /** Exactly what the files need and what the volume has. */
  public Fit fit() {
    long clusters = 0;
    long folders = 0;
    for (Entry e : order) {
      long n = clustersOf(e);
      clusters += n;
      if (e.folder) folders += n;
    }
    int rootNeeded = root.children.size() + (layout.label().isEmpty() ? 0 : 1);
    Sum sum =
        Sum.of("F-3", "Does it fit")
            .line("", "clusters of files", clusters - folders)
            .line("+", "clusters of folders", folders)
            .line("=", "clusters needed", clusters)
            .line(clusters <= layout.clusters() ? "≤" : ">", "clusters there", layout.clusters())
            .line("", "root entries needed", rootNeeded)
            .line(rootNeeded <= layout.rootEntries() ? "≤" : ">", "there", layout.rootEntries())
            .because(
                "Each file and folder takes whole clusters of "
                    + Say.size(layout.clusterBytes())
                    + "; the root folder of FAT12 and FAT16 has a fixed number of entries.")
            .done();
    return new Fit(clusters, layout.clusters(), rootNeeded, layout.rootEntries(), sum);
  }

  private long clustersOf(Entry e) {
    long bytes = e.folder ? (e.children.size() + 2L) * FatVolume.ENTRY : e.bytes;
    return (bytes + layout.clusterBytes() - 1) / layout.clusterBytes();
  }

  /**
   * Writes the whole volume.
   *
   * @throws VolumeException where it does not fit, before anything is written; or where a source
   *     gives another length than announced
   */
  public void write(Medium medium, byte[] bootCode, int labelStamp, Watch watch) {
    Fit fit = fit();
    if (!fit.fits()) {
      throw new VolumeException(
          fit.rootNeeded() > fit.rootEntries()
              ? "The root folder has "
                  + fit.rootEntries()
                  + " entries, "
                  + fit.rootNeeded()
                  + " are needed: put some files into a folder."
              : "The files need "
                  + Say.count(fit.clustersNeeded())
                  + " clusters of "
                  + Say.size(layout.clusterBytes())
                  + ", the volume has "
                  + Say.count(fit.clustersFree())
                  + ": make it larger or leave some out.");
    }
    FatTable table = FatTable.fresh(layout);
    int next = 2;
    for (Entry e : order) {
      e.clusters = (int) clustersOf(e);
      e.first = e.clusters == 0 ? 0 : next;
      table.link(next, e.clusters);
      next += e.clusters;
    }
    FatFormat.write(medium, layout, bootCode, labelStamp);
    try (Stream out = new Stream(medium)) {
      for (Entry e : order) {
        if (e.clusters == 0) continue;
        if (e.folder) {
          byte[] b = folderBytes(e);
          out.take(b, 0, b.length);
        } else {
          long before = out.total;
          e.source.copyTo(out);
          if (out.total - before != e.bytes) {
            throw new VolumeException(
                e.path
                    + " was announced with "
                    + Say.bytes(e.bytes)
                    + " and gave "
                    + Say.bytes(out.total - before)
                    + ".");
          }
        }
        out.fillCluster();
        watch.wrote(e.path, e.bytes);
      }
      out.finish();
    }
    FatFormat.writeTable(medium, layout, table);
    medium.write(layout.rootStart(), layout.rootSectors(), rootBytes(labelStamp), 0);
  }

  private byte[] rootBytes(int labelStamp) {
    byte[] b = new byte[layout.rootSectors() * 512];
    int at = 0;
    boolean labelled = layout.label().isEmpty();
    int slot = 0;
    for (Entry e : root.children) {
      // F-11: boot code looks for its files in the first two slots; the label follows them.
      if (!labelled && slot++ >= 2 && (e.attributes & FatVolume.SYSTEM) == 0) {
        at = putLabel(b, at, labelStamp);
        labelled = true;
      }
      at = put(b, at, FatNames.encode(e.name), e.attributes, e.stamp, e.first, e.bytes);
    }
    if (!labelled) putLabel(b, at, labelStamp);
    return b;
  }

  private int putLabel(byte[] b, int at, int stamp) {
    System.arraycopy(FatFormat.labelEntry(layout.label(), stamp), 0, b, at, FatVolume.ENTRY);
    return at + FatVolume.ENTRY;
  }

  private byte[] folderBytes(Entry e) {
    byte[] b = new byte[e.clusters * layout.clusterBytes()];
    int at = put(b, 0, dots("."), FatVolume.FOLDER, e.stamp, e.first, 0);
    at = put(b, at, dots(".."), FatVolume.FOLDER, e.stamp, e.parent.first, 0);
    for (Entry c : e.children) {
      at = put(b, at, FatNames.encode(c.name), c.attributes, c.stamp, c.first, c.bytes);
    }
    return b;
  }

  private static byte[] dots(String s) {
    byte[] b = new byte[11];
    Arrays.fill(b, (byte) ' ');
    for (int i = 0; i < s.length(); i++) b[i] = '.';
    return b;
  }

  private static int put(
      byte[] b, int at, byte[] name, int attributes, int stamp, int first, long bytes) {
    System.arraycopy(name, 0, b, at, 11);
    b[at + 11] = (byte) attributes;
    Bytes.put16(b, at + 22, stamp);
    Bytes.put16(b, at + 24, stamp >> 16);
    Bytes.put16(b, at + 26, first);
    Bytes.put32(b, at + 28, bytes);
    return at + FatVolume.ENTRY;
  }

  /**
   * The data area from cluster 2 on, written in large pieces in one sweep. One piece is filled
   * while the one before it is being written, so that reading the sources and writing the volume
   * overlap.
   */
  private final class Stream implements Sink, AutoCloseable {
    private final Medium medium;
    private final byte[][] buffers = {new byte[BUFFER], new byte[BUFFER]};
    private final ExecutorService writer =
        Executors.newSingleThreadExecutor(
            r -> {
              Thread t = new Thread(r, "volume writer");
              t.setDaemon(true);
              return t;
            });
    private Future<?> writing;
    private int current;
    private long lba = layout.firstData();
    private int filled;
    private long total;

    Stream(Medium medium) {
      this.medium = medium;
    }

    @Override
    public void take(byte[] b, int at, int length) {
      total += length;
      while (length > 0) {
        if (filled == BUFFER) flush();
        int n = Math.min(length, BUFFER - filled);
        System.arraycopy(b, at, buffers[current], filled, n);
        filled += n;
        at += n;
        length -= n;
      }
    }

    /** Fills the rest of the cluster with zeros: no trace of another file in the slack. */
    void fillCluster() {
      // The buffer holds whole clusters, so its fill level tells where in a cluster we are.
      int over = filled % layout.clusterBytes();
      if (over == 0) return;
      int n = layout.clusterBytes() - over;
      Arrays.fill(buffers[current], filled, filled + n, (byte) 0);
      filled += n;
    }

    private void flush() {
      settle();
      byte[] full = buffers[current];
      long at = lba;
      int count = filled / 512;
      writing = writer.submit(() -> medium.write(at, count, full, 0));
      lba += count;
      current = 1 - current;
      filled = 0;
    }

    /** Waits for the piece that is being written; its failure is the builder's. */
    private void settle() {
      if (writing == null) return;
      try {
        writing.get();
      } catch (ExecutionException e) {
        if (e.getCause() instanceof RuntimeException r) throw r;
        throw new IllegalStateException(e.getCause());
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new VolumeException("Writing the volume was interrupted; it is not whole.");
      }
    }

    void finish() {
      if (filled > 0) flush();
      settle();
    }

    @Override
    public void close() {
      writer.shutdownNow();
    }
  }
}
