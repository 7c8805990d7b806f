package lanternshed.core.volume.cpm;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.VolumeException;

/**
 * The parameters of a CP/M volume, from which its disk parameter block follows (C-1 to C-3).
 *
 * @param name what kind of medium it is
 * @param offset bytes before the folder: the reserved tracks
 * @param block bytes of a block, 1 to 16 KiB
 * @param entries of the folder
 * @param blocks of the volume, the folder's among them
 * @param sectorBytes of a sector of the medium; 0 where it is not known
 * @param perTrack sectors of a track, likewise
 * @param skew how many places further the next sector of use lies; 0 for the next one
 * @param mediumBytes of an image of the whole medium, where it ends within a sector of 512; else 0
 */
record CpmLayout(
    String name,
    long offset,
    int block,
    int entries,
    int blocks,
    int sectorBytes,
    int perTrack,
    int skew,
    long mediumBytes)
    implements Maker.Layout {

  /** One whose sectors lie in the order of use. */
  CpmLayout(String name, long offset, int block, int entries, int blocks) {
    this(name, offset, block, entries, blocks, 0, 0, 0, 0);
  }

  static final String KIND = "CP/M 2.2";
  static final int RECORD = 128;
  static final int ENTRY = 32;

  /** Bytes of one logical extent: what the field EX counts. */
  static final int EXTENT = 16 << 10;

  /** Blocks whose numbers fit one byte. */
  private static final int NARROW = 256;

  private static final int POINTER_BYTES = 16;

  /** What a set is called that stands in no list. */
  static final String GUESSED = " reserved tracks, worked out from the folder";

  boolean guessed() {
    return name.contains(GUESSED);
  }

  /** Whether files read the same under both: a longer folder takes no other block for them. */
  boolean readsAs(CpmLayout o) {
    boolean order =
        skewed() == o.skewed()
            && (!skewed()
                || skew == o.skew && perTrack == o.perTrack && sectorBytes == o.sectorBytes);
    return order && offset == o.offset && block == o.block && wide() == o.wide();
  }

  /**
   * A layout by somebody's own figures.
   *
   * @param figures "offset=4096 block=2048 entries=64 blocks=350 sector=512 track=9 skew=3";
   *     without the blocks as many as the medium has, and the last three only where sectors lie in
   *     another order than they are used in
   * @throws VolumeException naming the figure that is missing or makes no sense
   */
  static CpmLayout of(Medium m, String figures) {
    Map<String, Integer> f = new HashMap<>(Map.of("offset", 0, "sector", 0, "track", 0, "skew", 0));
    for (String pair : figures.strip().split("[ ,]+")) {
      String[] p = pair.split("=", 2);
      boolean known = KNOWN.contains(p[0]) && p.length == 2 && p[1].matches("[0-9]{1,9}");
      if (!known) throw new VolumeException("\"" + pair + "\" is none of " + AS + ".");
      f.put(p[0], Integer.parseInt(p[1]));
    }
    int block = f.getOrDefault("block", 0);
    int entries = f.getOrDefault("entries", 0);
    if (block < 1024 || block > EXTENT || Integer.bitCount(block) != 1) {
      throw new VolumeException("A block has 1 024, 2 048, 4 096, 8 192 or 16 384 B.");
    }
    if (entries < 16 || entries > CpmMaker.MOST_ENTRIES || entries % 4 != 0) {
      throw new VolumeException("A folder has 16 to " + CpmMaker.MOST_ENTRIES + " entries.");
    }
    boolean skewed = f.get("skew") > 1;
    int sector = f.get("sector");
    boolean order = sector >= RECORD && Integer.bitCount(sector) == 1 && sector <= 16_384;
    if (skewed && (!order || f.get("track") < 2 || f.get("track") > MOST_TRACK)) {
      throw new VolumeException(
          "With a skew say the bytes of a sector and the sectors of a track.");
    }
    long left = most(m, f.get("offset"), block, skewed ? sector * f.get("track") : 1);
    int most = (int) Math.min(left, block == 1024 ? NARROW : 65_536);
    int blocks = f.getOrDefault("blocks", most);
    if (blocks > most) throw new VolumeException("The medium ends after " + most + " blocks.");
    CpmLayout l =
        new CpmLayout(
            "given",
            f.get("offset"),
            block,
            entries,
            blocks,
            skewed ? sector : 0,
            skewed ? f.get("track") : 0,
            skewed ? f.get("skew") : 0,
            0);
    if (blocks <= l.folderBlocks()) throw new VolumeException("The medium ends before its folder.");
    return l;
  }

  private static final String AS =
      "offset, block, entries, blocks, sector, track and skew, as offset=4096";
  private static final Set<String> KNOWN =
      Set.of("offset", "block", "entries", "blocks", "sector", "track", "skew");
  private static final int MOST_TRACK = 256;

  /**
   * As {@link #of} takes them on the same medium, which may have been cut before the volume's end.
   */
  String figures(Medium m) {
    long there = Math.min(blocks, most(m, offset, block, skewed() ? perTrack * sectorBytes : 1));
    String out =
        "offset=" + offset + ",block=" + block + ",entries=" + entries + ",blocks=" + there;
    return skewed() ? out + ",sector=" + sectorBytes + ",track=" + perTrack + ",skew=" + skew : out;
  }

  /** Blocks that the medium has; in another order than they lie, sectors come by whole tracks. */
  private static long most(Medium m, long offset, int block, int trackBytes) {
    return (m.bytes() - offset) / trackBytes * trackBytes / block;
  }

  /** Whether block numbers have two bytes (C-2). */
  boolean wide() {
    return blocks > NARROW;
  }

  /** How many block numbers an entry has. */
  int pointers() {
    return wide() ? POINTER_BYTES / 2 : POINTER_BYTES;
  }

  /** How many logical extents one entry describes: EXM + 1 (C-3). */
  int extents() {
    return Math.max(1, (int) ((long) pointers() * block / EXTENT));
  }

  /** Bytes that one entry describes. */
  long entryBytes() {
    return (long) pointers() * block;
  }

  /** Blocks that the folder takes, from the first on (C-5). */
  int folderBlocks() {
    return (entries * ENTRY + block - 1) / block;
  }

  /** The two bytes in which the folder's blocks are marked, the first in the highest bit. */
  int al() {
    return 0xFFFF << 16 - folderBlocks() & 0xFFFF;
  }

  /** The same with its sectors in another order. */
  CpmLayout skewed(int by) {
    String also = name + ", every sector " + by + " further";
    return new CpmLayout(
        also, offset, block, entries, blocks, sectorBytes, perTrack, by, mediumBytes);
  }

  /** Whether the sectors of a track lie in another order than they are used in. */
  boolean skewed() {
    return skew > 1;
  }

  /** Whether it begins with its medium and lies in the order of use. */
  boolean wholeMedium() {
    return offset == 0 && !skewed();
  }

  /**
   * Bytes of the volume in the order of use.
   *
   * @param from counted from the first block on
   * @throws VolumeException where the medium ends before them
   */
  byte[] bytes(Medium m, long from, int length) {
    byte[] out = new byte[length];
    int done = 0;
    while (done < length) {
      Piece p = piece(from + done, length - done);
      int sectors = (p.skip() + p.length() + 511) / 512;
      if (p.sector() + sectors > m.sectors()) throw new VolumeException("It lies past the end.");
      System.arraycopy(m.sectors(p.sector(), sectors), p.skip(), out, done, p.length());
      done += p.length();
    }
    return out;
  }

  /**
   * Bytes that follow each other on the medium as they do in the volume.
   *
   * @param sector of 512 bytes in which they begin
   * @param skip bytes before them there
   */
  record Piece(long sector, int skip, int length) {}

  /**
   * @param from counted from the first block on
   * @param most bytes that are wanted
   */
  Piece piece(long from, int most) {
    long at = place(from);
    int n = skewed() ? (int) Math.min(most, sectorBytes - from % sectorBytes) : most;
    return new Piece(at / 512, (int) (at % 512), n);
  }

  /** Sectors of 512 bytes in which bytes of the volume lie, in the order of use. */
  List<long[]> runs(long from, long length) {
    List<long[]> out = new ArrayList<>();
    for (long done = 0; done < length; ) {
      long at = place(from + done);
      long n = skewed() ? sectorBytes - (from + done) % sectorBytes : length;
      long first = at / 512;
      long end = (at + Math.min(n, length - done) + 511) / 512;
      long[] last = out.isEmpty() ? null : out.get(out.size() - 1);
      boolean on = last != null && first >= last[0] && first <= last[0] + last[1];
      if (on) last[1] = Math.max(last[1], end - last[0]);
      else out.add(new long[] {first, end - first});
      done += n;
    }
    return out;
  }

  /** Where a byte of the volume lies on its medium. */
  private long place(long at) {
    if (!skewed()) return offset + at;
    long track = (long) perTrack * sectorBytes;
    int used = (int) (at % track / sectorBytes);
    return offset + at / track * track + (long) order()[used] * sectorBytes + at % sectorBytes;
  }

  /** Which sector of a track is used first, second and so on, counted from 0. */
  private int[] order() {
    int[] out = new int[perTrack];
    boolean[] taken = new boolean[perTrack];
    int next = 0;
    for (int i = 0; i < perTrack; i++) {
      while (taken[next]) next = (next + 1) % perTrack;
      taken[next] = true;
      out[i] = next;
      next = (next + skew) % perTrack;
    }
    return out;
  }

  @Override
  public String kindName() {
    return KIND;
  }

  @Override
  public int clusterBytes() {
    return block;
  }

  /** Blocks for files. */
  @Override
  public long clusterCount() {
    return blocks - folderBlocks();
  }

  @Override
  public long sectorCount() {
    return (offset + (long) blocks * block + 511) / 512;
  }

  @Override
  public long byteCount() {
    return mediumBytes > 0 ? mediumBytes : sectorCount() * 512;
  }

  /** F-15: the figures as the machine's own status command shows them. */
  @Override
  public Sum because() {
    return Sum.of("F-15", KIND + ", blocks of " + Say.size(block))
        .line("", "DSM, the highest block", blocks - 1L)
        .line("", "DRM, the highest entry", entries - 1L)
        .line("", "EXM, extents of an entry less one", extents() - 1L)
        .note("AL0, AL1", String.format("%02X %02X", al() >> 8, al() & 0xFF))
        .note("block numbers", wide() ? "two bytes" : "one byte")
        .line("", "blocks of the folder", folderBlocks())
        .line("=", "KiB free when empty", clusterCount() * block / 1024)
        .because(
            "DSM follows from what is reached ÷ block; block numbers have one byte while there are no"
                + " more than 256 blocks; an entry has room for sixteen bytes of them.")
        .done();
  }
}
