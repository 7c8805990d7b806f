package lanternshed.core.volume.ffs;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.measure.Bytes;
import lanternshed.core.volume.FileSet;

/**
 * Where each entry of a set goes, before anything is written: one behind the other from block 2 on,
 * around root and bitmap in the middle. Within a file header, extensions and data follow each
 * other.
 */
final class FfsPlaces {
  private static final int RECORD_NAME = 23;

  /** Places of one entry, counted without the middle. */
  record Entry(FileSet.Item item, long at, long extensions, long data, List<byte[]> caches) {
    long count() {
      return item.parent() == null ? caches.size() : 1 + extensions + data + caches.size();
    }

    /** The place behind its header. */
    long behindHeader() {
      return item.parent() == null ? at : at + 1;
    }
  }

  private final FfsLayout l;
  private final Map<FileSet.Item, Entry> entries = new LinkedHashMap<>();
  private final Map<FileSet.Item, Long> nextHash = new HashMap<>();
  private long count;

  FfsPlaces(FfsLayout l, FileSet files) {
    this.l = l;
    // Places first: a folder's cache names the blocks of what is in it.
    place(files.root());
    for (FileSet.Item i : files.items()) place(i);
    if (l.cached()) entries.replaceAll((i, e) -> i.folder() ? cached(e) : e);
    for (FileSet.Item i : entries.keySet()) if (i.folder()) table(i);
  }

  private void place(FileSet.Item i) {
    if (i.parent() != null) FfsMaker.name(i);
    long data = i.folder() ? 0 : l.dataBlocks(i.bytes());
    long more = FfsLayout.extensionBlocks(data);
    List<byte[]> caches = new ArrayList<>();
    if (i.folder() && l.cached()) for (long n = cacheBlocks(i); n > 0; n--) caches.add(new byte[0]);
    Entry e = new Entry(i, count, more, data, caches);
    entries.put(i, e);
    count += e.count();
  }

  /** Blocks for files and folders that are needed. */
  long count() {
    return count;
  }

  Iterable<Entry> all() {
    return entries.values();
  }

  /** The block of a place. */
  long block(long place) {
    long b = FfsLayout.RESERVED + place;
    return b < l.root() ? b : b - l.root() + l.behindMiddle();
  }

  long header(FileSet.Item i) {
    return i.parent() == null ? l.root() : block(entries.get(i).at());
  }

  long extension(Entry e, long n) {
    return n < e.extensions() ? block(e.behindHeader() + n) : 0;
  }

  long data(Entry e, long n) {
    return block(e.behindHeader() + e.extensions() + n);
  }

  long cache(Entry e, int n) {
    return n < e.caches().size() ? block(e.behindHeader() + n) : 0;
  }

  long nextHash(FileSet.Item i) {
    return nextHash.getOrDefault(i, 0L);
  }

  /** The table of a folder by slot: first of each chain, 0 for none. */
  long[] table(FileSet.Item folder) {
    long[] first = new long[FfsBlock.SLOTS];
    FileSet.Item[] last = new FileSet.Item[FfsBlock.SLOTS];
    for (FileSet.Item i : folder.children()) {
      int slot = FfsBlock.slot(FfsMaker.name(i), l.international());
      if (last[slot] == null) first[slot] = header(i);
      else nextHash.put(last[slot], header(i));
      last[slot] = i;
    }
    return first;
  }

  // ---- the names of a folder a second time
  // --------------------------------------------------------

  private long cacheBlocks(FileSet.Item folder) {
    long blocks = 1;
    int filled = FfsBlock.PAYLOAD;
    for (FileSet.Item i : folder.children()) {
      int length = recordLength(i);
      if (filled + length > FfsBlock.BYTES) {
        blocks++;
        filled = FfsBlock.PAYLOAD;
      }
      filled += length;
    }
    return blocks;
  }

  private static int recordLength(FileSet.Item i) {
    int length = RECORD_NAME + 1 + FfsMaker.name(i).length + 1 + comment(i).length;
    return length + length % 2;
  }

  private static byte[] comment(FileSet.Item i) {
    byte[] header = new byte[FfsBlock.BYTES];
    FfsBlock.putKept(header, i.own());
    return FfsBlock.text(header, FfsBlock.COMMENT, FfsBlock.MOST_COMMENT);
  }

  private Entry cached(Entry e) {
    List<byte[]> out = new ArrayList<>();
    byte[] b = cacheBlock(e, 0);
    int filled = FfsBlock.PAYLOAD;
    long records = 0;
    for (FileSet.Item i : e.item().children()) {
      if (filled + recordLength(i) > FfsBlock.BYTES) {
        out.add(sealed(b, records));
        b = cacheBlock(e, out.size());
        filled = FfsBlock.PAYLOAD;
        records = 0;
      }
      record(b, filled, i);
      filled += recordLength(i);
      records++;
    }
    out.add(sealed(b, records));
    return new Entry(e.item(), e.at(), e.extensions(), e.data(), out);
  }

  private byte[] cacheBlock(Entry e, int n) {
    byte[] b = new byte[FfsBlock.BYTES];
    Bytes.putBe32(b, FfsBlock.TYPE, FfsBlock.CACHE);
    Bytes.putBe32(b, FfsBlock.OWN_KEY, cache(e, n));
    Bytes.putBe32(b, FfsBlock.HIGH_SEQ, header(e.item()));
    Bytes.putBe32(b, FfsLayout.NEXT_CACHE, cache(e, n + 1));
    return b;
  }

  private static byte[] sealed(byte[] b, long records) {
    Bytes.putBe32(b, FfsBlock.DATA_SIZE, records);
    FfsBlock.seal(b, FfsBlock.CHECKSUM);
    return b;
  }

  private void record(byte[] b, int at, FileSet.Item i) {
    byte[] h = new byte[FfsBlock.BYTES];
    FfsLaying.describe(h, i);
    Bytes.putBe32(b, at, header(i));
    Bytes.putBe32(b, at + 4, i.bytes());
    Bytes.putBe32(b, at + 8, Bytes.be32(h, FfsBlock.PROTECTION));
    Bytes.putBe32(b, at + 12, Bytes.be32(h, FfsBlock.OWNER));
    for (int n = 0; n < 3; n++) {
      Bytes.putBe16(b, at + 16 + 2 * n, (int) Bytes.be32(h, FfsBlock.DATE + 4 * n));
    }
    b[at + 22] = (byte) (i.folder() ? FfsBlock.FOLDER : FfsBlock.FILE);
    byte[] name = FfsMaker.name(i);
    FfsBlock.putText(b, at + RECORD_NAME, name);
    FfsBlock.putText(b, at + RECORD_NAME + 1 + name.length, comment(i));
  }
}
