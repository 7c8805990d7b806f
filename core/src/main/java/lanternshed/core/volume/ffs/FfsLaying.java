package lanternshed.core.volume.ffs;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.BitSet;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.ClusterWriter;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Sink;
import lanternshed.core.volume.Told;
import lanternshed.core.volume.VolumeException;

/** Lays a planned set of files down in one sweep from the first block to the last. */
final class FfsLaying {
  private final FfsLayout l;
  private final FfsPlaces places;
  private final Medium to;
  private final Maker.Watch watch;
  private ClusterWriter out;
  private long place;
  private boolean middle;

  FfsLaying(FfsLayout l, FfsPlaces places, Medium to, Maker.Watch watch) {
    this.l = l;
    this.places = places;
    this.to = to;
    this.watch = watch;
  }

  void lay(byte[] code) {
    try (ClusterWriter w = new ClusterWriter(to, FfsLayout.RESERVED, FfsBlock.BYTES)) {
      out = w;
      for (FfsPlaces.Entry e : places.all()) {
        if (e.item().parent() != null) next(header(e));
        for (byte[] cache : e.caches()) next(cache);
        if (!e.item().folder()) file(e);
      }
      w.finish();
    }
    if (!middle) {
      try (ClusterWriter w = new ClusterWriter(to, l.root(), FfsBlock.BYTES)) {
        out = w;
        middle();
        w.finish();
      }
    }
    to.write(0, FfsLayout.RESERVED, boot(code), 0);
  }

  /** The next block for files and folders; root and bitmap go before it where it is their turn. */
  private void next(byte[] b) {
    turn();
    out.whole(b);
    place++;
  }

  private void turn() {
    if (!middle && FfsLayout.RESERVED + place == l.root()) middle();
  }

  // ---- files
  // --------------------------------------------------------------------------------------

  private void file(FfsPlaces.Entry e) {
    for (long n = 0; n < e.extensions(); n++) next(extension(e, n));
    Data d = new Data(e);
    Told told = new Told(d, e.item().path(), watch);
    e.item().copyTo(told);
    d.end();
    told.end();
  }

  /** Cuts a file's bytes into blocks; those of OFS say whose they are. */
  private final class Data implements Sink {
    private final FfsPlaces.Entry e;
    private final int skip = l.fast() ? 0 : FfsBlock.PAYLOAD;
    private final byte[] block = new byte[FfsBlock.BYTES];
    private int filled = skip;
    private long index;
    private long given;

    Data(FfsPlaces.Entry e) {
      this.e = e;
    }

    @Override
    public void take(byte[] b, int at, int length) {
      given += length;
      if (given > e.item().bytes()) throw otherLength();
      if (l.fast()) {
        through(b, at, length);
        return;
      }
      while (length > 0) {
        int n = Math.min(length, FfsBlock.BYTES - filled);
        System.arraycopy(b, at, block, filled, n);
        filled += n;
        at += n;
        length -= n;
        if (filled == FfsBlock.BYTES) full(filled);
      }
    }

    /** A block is whole; so many of its bytes are the file's, with the header of OFS. */
    private void full(int held) {
      if (!l.fast()) {
        Bytes.putBe32(block, FfsBlock.TYPE, FfsBlock.DATA);
        Bytes.putBe32(block, FfsBlock.OWN_KEY, places.header(e.item()));
        Bytes.putBe32(block, FfsBlock.HIGH_SEQ, index + 1);
        Bytes.putBe32(block, FfsBlock.DATA_SIZE, held - skip);
        Bytes.putBe32(
            block, FfsBlock.FIRST_DATA, index + 1 < e.data() ? places.data(e, index + 1) : 0);
        FfsBlock.seal(block, FfsBlock.CHECKSUM);
      }
      next(block);
      index++;
      filled = skip;
    }

    /** Blocks of FFS are the file's bytes and nothing else: they go through as they come. */
    private void through(byte[] b, int at, int length) {
      while (length > 0) {
        if (filled == 0) turn();
        long room =
            middle ? length : (l.root() - FfsLayout.RESERVED - place) * FfsBlock.BYTES - filled;
        int n = (int) Math.min(length, room);
        out.take(b, at, n);
        place += (filled + n) / FfsBlock.BYTES;
        filled = (filled + n) % FfsBlock.BYTES;
        at += n;
        length -= n;
      }
    }

    void end() {
      if (given != e.item().bytes()) throw otherLength();
      if (filled == skip) return;
      if (l.fast()) {
        through(new byte[FfsBlock.BYTES], 0, FfsBlock.BYTES - filled);
        return;
      }
      // No trace of another block behind the end.
      Arrays.fill(block, filled, block.length, (byte) 0);
      full(filled);
    }

    private VolumeException otherLength() {
      return new VolumeException(
          e.item().path()
              + " was announced with "
              + Say.bytes(e.item().bytes())
              + " and gave another length.");
    }
  }

  // ---- blocks
  // -------------------------------------------------------------------------------------

  private byte[] header(FfsPlaces.Entry e) {
    FileSet.Item i = e.item();
    byte[] b = new byte[FfsBlock.BYTES];
    Bytes.putBe32(b, FfsBlock.TYPE, FfsBlock.HEADER);
    Bytes.putBe32(b, FfsBlock.OWN_KEY, places.header(i));
    if (i.folder()) {
      table(b, i);
      Bytes.putBe32(b, FfsBlock.EXTENSION, places.cache(e, 0));
    } else {
      Bytes.putBe32(b, FfsBlock.HIGH_SEQ, Math.min(FfsBlock.SLOTS, e.data()));
      Bytes.putBe32(b, FfsBlock.FIRST_DATA, e.data() > 0 ? places.data(e, 0) : 0);
      Bytes.putBe32(b, FfsBlock.FILE_BYTES, i.bytes());
      Bytes.putBe32(b, FfsBlock.EXTENSION, places.extension(e, 0));
      pointers(b, e, 0);
    }
    describe(b, i);
    Bytes.putBe32(b, FfsBlock.NEXT_HASH, places.nextHash(i));
    Bytes.putBe32(b, FfsBlock.PARENT, places.header(i.parent()));
    Bytes.putBe32(b, FfsBlock.SECONDARY_TYPE, i.folder() ? FfsBlock.FOLDER : FfsBlock.FILE);
    FfsBlock.seal(b, FfsBlock.CHECKSUM);
    return b;
  }

  /**
   * Name, protection, comment and date of an entry. What its own kind keeps goes first; marks and
   * time that were set since count more.
   */
  static void describe(byte[] b, FileSet.Item i) {
    boolean kept = i.own().length > 0;
    if (kept) FfsBlock.putKept(b, i.own());
    if (!kept || FfsBlock.marks(b) != (i.marks() & FfsBlock.MARKS)) {
      FfsBlock.putMarks(b, i.marks());
    }
    if (!kept || FfsBlock.stamp(b, FfsBlock.DATE) != i.stamp()) {
      FfsBlock.putStamp(b, FfsBlock.DATE, i.stamp());
    }
    FfsBlock.putText(b, FfsBlock.NAME, FfsMaker.name(i));
  }

  private byte[] extension(FfsPlaces.Entry e, long n) {
    byte[] b = new byte[FfsBlock.BYTES];
    long first = (n + 1) * FfsBlock.SLOTS;
    Bytes.putBe32(b, FfsBlock.TYPE, FfsBlock.LIST);
    Bytes.putBe32(b, FfsBlock.OWN_KEY, places.extension(e, n));
    Bytes.putBe32(b, FfsBlock.HIGH_SEQ, Math.min(FfsBlock.SLOTS, e.data() - first));
    pointers(b, e, first);
    Bytes.putBe32(b, FfsBlock.PARENT, places.header(e.item()));
    Bytes.putBe32(b, FfsBlock.EXTENSION, places.extension(e, n + 1));
    Bytes.putBe32(b, FfsBlock.SECONDARY_TYPE, FfsBlock.FILE);
    FfsBlock.seal(b, FfsBlock.CHECKSUM);
    return b;
  }

  private void pointers(byte[] b, FfsPlaces.Entry e, long first) {
    for (int i = 0; i < FfsBlock.SLOTS && first + i < e.data(); i++) {
      int at = FfsBlock.TABLE + 4 * (FfsBlock.SLOTS - 1 - i);
      Bytes.putBe32(b, at, places.data(e, first + i));
    }
  }

  private void table(byte[] b, FileSet.Item folder) {
    long[] first = places.table(folder);
    for (int i = 0; i < FfsBlock.SLOTS; i++) Bytes.putBe32(b, FfsBlock.TABLE + 4 * i, first[i]);
  }

  private void middle() {
    middle = true;
    out.whole(root());
    BitSet free = new BitSet();
    free.set(FfsLayout.RESERVED, (int) l.sectorCount());
    free.clear((int) l.root(), (int) l.behindMiddle());
    // What was laid down and will be: places run from the front without a hole.
    for (long p = 0; p < places.count(); p++) free.clear((int) places.block(p));
    long at = FfsLayout.RESERVED;
    for (long n = 0; n < l.bitmapBlocks(); n++) {
      out.whole(FfsRepair.page(at, free, l.sectorCount()));
      at += FfsBlock.BITMAP_BITS;
    }
    for (long n = 0; n < l.bitmapExtensions(); n++) out.whole(bitmapExtension(n));
  }

  private byte[] bitmapExtension(long n) {
    byte[] b = new byte[FfsBlock.BYTES];
    long first = FfsBlock.PAGES + n * FfsBlock.EXTENSION_PAGES;
    for (int i = 0; i < FfsBlock.EXTENSION_PAGES && first + i < l.bitmapBlocks(); i++) {
      Bytes.putBe32(b, 4 * i, l.root() + 1 + first + i);
    }
    long next = n + 1 < l.bitmapExtensions() ? extensionAt(n + 1) : 0;
    Bytes.putBe32(b, 4 * FfsBlock.EXTENSION_PAGES, next);
    return b;
  }

  private long extensionAt(long n) {
    return l.root() + 1 + l.bitmapBlocks() + n;
  }

  private byte[] root() {
    FfsPlaces.Entry e = places.all().iterator().next();
    byte[] b = new byte[FfsBlock.BYTES];
    Bytes.putBe32(b, FfsBlock.TYPE, FfsBlock.HEADER);
    Bytes.putBe32(b, FfsBlock.DATA_SIZE, FfsBlock.SLOTS);
    table(b, e.item());
    Bytes.putBe32(b, FfsBlock.BITMAP_FLAG, -1);
    for (int i = 0; i < FfsBlock.PAGES && i < l.bitmapBlocks(); i++) {
      Bytes.putBe32(b, FfsBlock.BITMAP_PAGES + 4 * i, l.root() + 1 + i);
    }
    long extension = l.bitmapExtensions() > 0 ? extensionAt(0) : 0;
    Bytes.putBe32(b, FfsBlock.BITMAP_EXTENSION, extension);
    FfsBlock.putStamp(b, FfsBlock.DATE, l.stamp());
    FfsBlock.putStamp(b, FfsBlock.DISK_DATE, l.stamp());
    FfsBlock.putStamp(b, FfsBlock.CREATED, l.stamp());
    byte[] dates = e.item().own();
    if (dates.length == FfsBlock.DATES) FfsBlock.putDates(b, dates);
    FfsBlock.putText(b, FfsBlock.NAME, l.label().getBytes(StandardCharsets.ISO_8859_1));
    Bytes.putBe32(b, FfsBlock.EXTENSION, places.cache(e, 0));
    Bytes.putBe32(b, FfsBlock.SECONDARY_TYPE, FfsBlock.ROOT);
    FfsBlock.seal(b, FfsBlock.CHECKSUM);
    return b;
  }

  private byte[] boot(byte[] code) {
    byte[] b = new byte[FfsLayout.RESERVED * FfsBlock.BYTES];
    b[0] = 'D';
    b[1] = 'O';
    b[2] = 'S';
    b[3] = (byte) l.flag();
    if (code.length == 0) return b;
    Bytes.putBe32(b, FfsLayout.BOOT_ROOT, l.root());
    System.arraycopy(code, 0, b, FfsLayout.BOOT_CODE, Math.min(code.length, b.length - 12));
    Bytes.putBe32(b, FfsLayout.BOOT_CHECKSUM, FfsLayout.bootSum(b));
    return b;
  }
}
