package lanternshed.core.volume.exfat;

import static lanternshed.core.volume.exfat.ExfatEntries.ENTRY;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Sink;
import lanternshed.core.volume.VolumeException;

/**
 * Makes an exFAT volume with its files. All is planned before the first byte is written; every file
 * lies in one piece, which emulators ask for, and no chain has to be followed to read it.
 */
public final class ExfatBuilder {

  /** Gives a file's content; called once, must give exactly the length it was announced with. */
  public interface Source {
    void copyTo(Sink sink);
  }

  private static final int BUFFER = 1 << 20;

  private final ExfatLayout layout;
  private final String label;
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
    long first;

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

  /**
   * A volume of so many sectors of 512 bytes.
   *
   * @param start its first sector on the medium
   * @param clusterBytes 0 for the default of its size
   * @param label at most 11 characters; "" for none
   */
  public ExfatBuilder(long sectors, long start, int clusterBytes, String label, long serial) {
    this.layout = ExfatLayout.fresh(sectors, start, clusterBytes, serial);
    this.label = label;
    byPath.put("", root);
  }

  /** Adds a folder; its parent must have been added. */
  public void folder(String path, int attributes, int stamp) {
    add(path, true, 0, attributes | ExfatEntries.FOLDER, stamp, null);
  }

  /** Adds a file of exactly {@code bytes}; its folder must have been added. */
  public void file(String path, long bytes, int attributes, int stamp, Source source) {
    add(path, false, bytes, attributes & ~ExfatEntries.FOLDER, stamp, source);
  }

  private void add(String path, boolean folder, long bytes, int attributes, int stamp, Source s) {
    int slash = path.lastIndexOf('/');
    String name = path.substring(slash + 1);
    ExfatEntries.check(name);
    Entry parent = byPath.get(key(slash < 0 ? "" : path.substring(0, slash)));
    if (parent == null || !parent.folder) {
      throw new VolumeException("The folder of " + path + " was not added before it.");
    }
    Entry e = new Entry(path, name, folder, bytes, attributes & 0x3F, stamp, s);
    if (byPath.putIfAbsent(key(path), e) != null) {
      throw new VolumeException("There are two of the name " + path + "; one needs another name.");
    }
    parent.children.add(e);
    order.add(e);
  }

  private static String key(String path) {
    StringBuilder out = new StringBuilder(path.length());
    for (char c : path.toCharArray()) out.append(Upcase.of(c));
    return out.toString();
  }

  private long bytesOf(Entry e) {
    if (!e.folder) return e.bytes;
    long bytes = e == root ? 3 * ENTRY : 0;
    for (Entry c : e.children) bytes += ExfatEntries.setBytes(c.name);
    return Math.max(1, layout.clustersFor(bytes)) * layout.clusterBytes();
  }

  /** Exactly what the files need, against what the volume has. */
  public Sum fit() {
    long needed = clustersNeeded();
    return Sum.of("F-3", "Does it fit")
        .line("", "clusters of files, folders and tables", needed)
        .line(needed <= layout.clusters() ? "≤" : ">", "clusters there", layout.clusters())
        .because(
            "Each file and folder takes whole clusters of "
                + Say.size(layout.clusterBytes())
                + "; bitmap, upcase table and root folder take theirs.")
        .done();
  }

  private long clustersNeeded() {
    long n = layout.clustersFor(bytesOf(root)) + layout.clustersFor(bitmapBytes());
    n += layout.clustersFor(Upcase.table().length);
    for (Entry e : order) n += layout.clustersFor(bytesOf(e));
    return n;
  }

  private long bitmapBytes() {
    return (layout.clusters() + 7) / 8;
  }

  /**
   * Writes the whole volume.
   *
   * @throws VolumeException where it does not fit, before anything is written; or where a source
   *     gives another length than announced
   */
  public void write(Medium medium) {
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
    byte[] upcase = Upcase.table();
    long upcaseAt = 2 + layout.clustersFor(bitmapBytes());
    long rootAt = upcaseAt + layout.clustersFor(upcase.length);
    long rootClusters = layout.clustersFor(bytesOf(root));
    long next = rootAt + rootClusters;
    for (Entry e : order) {
      long n = layout.clustersFor(bytesOf(e));
      e.first = n == 0 ? 0 : next;
      next += n;
    }
    byte[] region = layout.withRoot(rootAt).region();
    medium.write(0, ExfatLayout.REGION, region, 0);
    medium.write(ExfatLayout.REGION, ExfatLayout.REGION, region, 0);
    fat(medium, upcaseAt, rootAt, rootClusters);
    BitSet used = new BitSet();
    used.set(0, (int) (next - 2));
    byte[] bits = java.util.Arrays.copyOf(used.toByteArray(), (int) bitmapBytes());
    Stream out = new Stream(medium);
    out.whole(bits);
    out.whole(upcase);
    out.whole(rootFolder(upcase, upcaseAt));
    for (Entry e : order) {
      if (e.folder) out.whole(folderBytes(e, 0, new byte[(int) bytesOf(e)]));
      else if (e.bytes > 0) file(out, e);
    }
    out.flush();
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

  private byte[] rootFolder(byte[] upcase, long upcaseAt) {
    byte[] b = new byte[(int) bytesOf(root)];
    int at = 0;
    if (!label.isEmpty()) {
      ExfatEntries.putLabel(b, at, label);
      at += ENTRY;
    }
    ExfatEntries.putTable(b, at, ExfatEntries.BITMAP, 2, bitmapBytes());
    at += ENTRY;
    ExfatEntries.putTable(b, at, ExfatEntries.UPCASE, upcaseAt, upcase.length);
    Bytes.put32(b, at + ExfatEntries.TABLE_SUM, ExfatEntries.tableSum(upcase));
    return folderBytes(root, at + ENTRY, b);
  }

  private byte[] folderBytes(Entry e, int at, byte[] b) {
    for (Entry c : e.children) {
      at = ExfatEntries.put(b, at, c.name, c.attributes, c.stamp, c.first, bytesOf(c));
    }
    return b;
  }

  private static void file(Stream out, Entry e) {
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
    out.fillCluster();
  }

  /** The heap from cluster 2 on, written in large pieces in one sweep. */
  private final class Stream implements Sink {
    private final Medium medium;
    private final byte[] buffer = new byte[Math.max(BUFFER, layout.clusterBytes())];
    private long lba = layout.heapAt() / 512;
    private int filled;
    private long total;

    Stream(Medium medium) {
      this.medium = medium;
    }

    void whole(byte[] b) {
      take(b, 0, b.length);
      fillCluster();
    }

    @Override
    public void take(byte[] b, int at, int length) {
      total += length;
      while (length > 0) {
        if (filled == buffer.length) flush();
        int n = Math.min(length, buffer.length - filled);
        System.arraycopy(b, at, buffer, filled, n);
        filled += n;
        at += n;
        length -= n;
      }
    }

    /** Fills the rest of the cluster with zeros: no trace of another file in the slack. */
    void fillCluster() {
      int over = filled % layout.clusterBytes();
      if (over == 0) return;
      int n = layout.clusterBytes() - over;
      java.util.Arrays.fill(buffer, filled, filled + n, (byte) 0);
      filled += n;
    }

    void flush() {
      if (filled == 0) return;
      medium.write(lba, filled / 512, buffer, 0);
      lba += filled / 512;
      filled = 0;
    }
  }
}
