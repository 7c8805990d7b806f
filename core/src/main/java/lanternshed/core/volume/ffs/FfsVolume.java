package lanternshed.core.volume.ffs;

import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Deque;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Mending;
import lanternshed.core.volume.BootFacts;
import lanternshed.core.volume.Bounded;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Sink;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;

/**
 * An OFS or FFS volume, opened for reading. Every entry is a header block that tells its own
 * number, so a node of another opening reads the same; nothing is kept between calls.
 */
final class FfsVolume implements Volume {

  /** Blocks that are read at once. */
  private static final int PIECE = 256;

  private final Medium medium;
  private final FfsLayout layout;
  private final byte[] boot;
  private final byte[] rootBlock;

  /** Is given the blocks of a file in their order. */
  interface Blocks {
    void block(long index, long block);
  }

  FfsVolume(Medium medium, FfsLayout layout, byte[] rootBlock) {
    this.medium = medium;
    this.layout = layout;
    this.boot = medium.sectors(0, FfsLayout.RESERVED);
    this.rootBlock = rootBlock;
  }

  Medium medium() {
    return medium;
  }

  FfsLayout layout() {
    return layout;
  }

  byte[] boot() {
    return boot;
  }

  byte[] rootBlock() {
    return rootBlock;
  }

  @Override
  public String kind() {
    return layout.kindName();
  }

  @Override
  public String label() {
    return FfsBlock.safe(FfsBlock.text(rootBlock, FfsBlock.NAME, FfsBlock.MOST_NAME));
  }

  @Override
  public Optional<Maker.Layout> layoutAsItLies() {
    int made = FfsBlock.stamp(rootBlock, FfsBlock.CREATED);
    return Optional.of(new FfsLayout(layout.flag(), layout.sectorCount(), label(), made));
  }

  /** Boot code with a wrong sum and links are none that the maker lays down. */
  @Override
  public boolean remakeable() {
    boolean code = !Bytes.allZero(boot, FfsLayout.BOOT_CODE, boot.length);
    if (code && bootFacts().filter(BootFacts::code).isEmpty()) return false;
    return all().stream().allMatch(n -> n.folder() || isFile(header(n)));
  }

  private static boolean isFile(byte[] header) {
    return FfsBlock.long32(header, FfsBlock.SECONDARY_TYPE) == FfsBlock.FILE;
  }

  @Override
  public boolean ordered() {
    return false;
  }

  /** Where the pages of the bitmap lie; short where the chain of its extension breaks off. */
  List<Long> bitmapPages() {
    List<Long> out = new ArrayList<>();
    for (int i = 0; i < FfsBlock.PAGES && out.size() < layout.bitmapBlocks(); i++) {
      out.add(Bytes.be32(rootBlock, FfsBlock.BITMAP_PAGES + 4 * i));
    }
    BitSet seen = new BitSet();
    long next = Bytes.be32(rootBlock, FfsBlock.BITMAP_EXTENSION);
    while (out.size() < layout.bitmapBlocks() && layout.holds(next) && !seen.get((int) next)) {
      seen.set((int) next);
      byte[] b = medium.sector(next);
      for (int i = 0; i < FfsBlock.EXTENSION_PAGES && out.size() < layout.bitmapBlocks(); i++) {
        out.add(Bytes.be32(b, 4 * i));
      }
      next = Bytes.be32(b, 4 * FfsBlock.EXTENSION_PAGES);
    }
    return out;
  }

  /** Blocks that the bitmap says are free; a page that is not there counts as in use. */
  BitSet free() {
    BitSet out = new BitSet();
    long at = FfsLayout.RESERVED;
    for (long page : bitmapPages()) {
      if (layout.holds(page)) {
        byte[] b = medium.sector(page);
        for (int i = 0; i < FfsBlock.BITMAP_BITS && at + i < layout.sectorCount(); i++) {
          if ((Bytes.be32(b, 4 + i / 32 * 4) >> i % 32 & 1) != 0) out.set((int) (at + i));
        }
      }
      at += FfsBlock.BITMAP_BITS;
    }
    return out;
  }

  @Override
  public Use use() {
    return new Use(FfsBlock.BYTES, layout.clusterCount(), free().cardinality(), 0);
  }

  @Override
  public Node root() {
    return new Node("", "", "", true, 0, 0, 0, layout.root());
  }

  @Override
  public int marks() {
    return FfsBlock.MARKS;
  }

  @Override
  public List<Node> list(Node folder) {
    List<Node> out = new ArrayList<>();
    byte[] b = header(folder);
    BitSet seen = new BitSet();
    for (int slot = 0; slot < FfsBlock.SLOTS; slot++) {
      long next = Bytes.be32(b, FfsBlock.TABLE + 4 * slot);
      while (layout.holds(next) && !seen.get((int) next) && out.size() < Bounded.MOST_NODES) {
        seen.set((int) next);
        byte[] h = medium.sector(next);
        if (!isHeader(h)) break;
        out.add(nodeOf(folder, h, next));
        next = Bytes.be32(h, FfsBlock.NEXT_HASH);
      }
    }
    return out;
  }

  private byte[] header(Node n) {
    if (n.first() == layout.root()) return rootBlock;
    if (!layout.holds(n.first())) throw gone(n.path(), n.first());
    return medium.sector(n.first());
  }

  static boolean isHeader(byte[] h) {
    int type = FfsBlock.long32(h, FfsBlock.SECONDARY_TYPE);
    boolean known =
        type == FfsBlock.FILE
            || type == FfsBlock.FOLDER
            || type == FfsBlock.SOFT_LINK
            || type == FfsBlock.LINK_TO_FILE
            || type == FfsBlock.LINK_TO_FOLDER;
    return FfsBlock.long32(h, FfsBlock.TYPE) == FfsBlock.HEADER && known;
  }

  /** The path of an entry that its header names. */
  String pathOf(Node folder, byte[] h) {
    String name = FfsBlock.safe(FfsBlock.text(h, FfsBlock.NAME, FfsBlock.MOST_NAME));
    return folder.path().isEmpty() ? name : folder.path() + "/" + name;
  }

  @Override
  public boolean spelledOut(Node node) {
    if (!node.name().contains("_") || node.path().isEmpty()) return true;
    byte[] onDisk = FfsBlock.text(header(node), FfsBlock.NAME, FfsBlock.MOST_NAME);
    return new String(onDisk, StandardCharsets.ISO_8859_1).equals(node.name());
  }

  Node nodeOf(Node folder, byte[] h, long at) {
    int type = FfsBlock.long32(h, FfsBlock.SECONDARY_TYPE);
    String path = pathOf(folder, h);
    String name = path.substring(path.lastIndexOf('/') + 1);
    long bytes = 0;
    if (type == FfsBlock.FILE) bytes = Bytes.be32(h, FfsBlock.FILE_BYTES);
    if (type == FfsBlock.LINK_TO_FILE) {
      bytes = target(h).map(t -> Bytes.be32(t, FfsBlock.FILE_BYTES)).orElse(0L);
    }
    return new Node(
        path,
        name,
        name,
        type == FfsBlock.FOLDER,
        bytes,
        FfsBlock.marks(h),
        FfsBlock.stamp(h, FfsBlock.DATE),
        at,
        FfsBlock.time(h, FfsBlock.DATE));
  }

  /** The file that a hard link means. */
  private Optional<byte[]> target(byte[] link) {
    long real = Bytes.be32(link, FfsLayout.REAL_ENTRY);
    if (!layout.holds(real)) return Optional.empty();
    byte[] b = medium.sector(real);
    boolean file = isHeader(b) && FfsBlock.long32(b, FfsBlock.SECONDARY_TYPE) == FfsBlock.FILE;
    return file ? Optional.of(b) : Optional.empty();
  }

  /** Of an entry owner, protection, comment and date; of the root its three dates. */
  @Override
  public byte[] own(Node node) {
    return node.first() == layout.root()
        ? FfsBlock.dates(rootBlock())
        : FfsBlock.kept(header(node));
  }

  @Override
  public String fold(String name) {
    char[] letters = name.toCharArray();
    for (int i = 0; i < letters.length; i++) {
      if (letters[i] < 0x100) {
        letters[i] = (char) FfsBlock.upper(letters[i], layout.international());
      }
    }
    return new String(letters);
  }

  /**
   * Gives the blocks of a file in order.
   *
   * @throws VolumeException where its chain breaks off; those before were given
   */
  void blocks(Node file, Blocks to) {
    byte[] h = header(file);
    if (FfsBlock.long32(h, FfsBlock.SECONDARY_TYPE) == FfsBlock.LINK_TO_FILE) {
      h = target(h).orElseThrow(() -> linkGone(file.path()));
    }
    long wanted = layout.dataBlocks(file.bytes());
    if (wanted > layout.sectorCount()) throw tooLong(file);
    BitSet seen = new BitSet();
    long index = 0;
    while (true) {
      for (int i = 0; i < FfsBlock.SLOTS && index < wanted; i++, index++) {
        long block = Bytes.be32(h, FfsBlock.TABLE + 4 * (FfsBlock.SLOTS - 1 - i));
        if (!layout.holds(block)) throw gone(file.path(), block);
        to.block(index, block);
      }
      if (index == wanted) return;
      long next = Bytes.be32(h, FfsBlock.EXTENSION);
      if (!layout.holds(next) || seen.get((int) next)) throw brokenOff(file, index, wanted);
      seen.set((int) next);
      h = medium.sector(next);
      if (FfsBlock.long32(h, FfsBlock.TYPE) != FfsBlock.LIST) throw brokenOff(file, index, wanted);
    }
  }

  @Override
  public void read(Node file, Sink sink) {
    if (file.folder()) return;
    if (leadsElsewhere(header(file))) throw new BrokenOff(file.path(), ELSEWHERE);
    Reading r = new Reading(file, sink);
    try {
      blocks(file, r);
    } finally {
      r.flush();
    }
  }

  /** Puts neighbouring blocks together, and takes the headers of OFS off. */
  private final class Reading implements Blocks {
    private final Sink sink;
    private final byte[] buffer = new byte[PIECE * FfsBlock.BYTES];
    private long left;
    private long from;
    private int count;

    Reading(Node file, Sink sink) {
      this.sink = sink;
      this.left = file.bytes();
    }

    @Override
    public void block(long index, long block) {
      if (count > 0 && (block != from + count || count == PIECE)) flush();
      if (count == 0) from = block;
      count++;
    }

    void flush() {
      if (count == 0) return;
      medium.read(from, count, buffer, 0);
      int skip = layout.fast() ? 0 : FfsBlock.PAYLOAD;
      int step = layout.fast() ? count * FfsBlock.BYTES : FfsBlock.BYTES;
      for (int at = 0; at < count * FfsBlock.BYTES; at += step) {
        int n = (int) Math.min(left, step - skip);
        sink.take(buffer, at + skip, n);
        left -= n;
      }
      count = 0;
    }
  }

  @Override
  public List<long[]> sectorsOf(Node node) {
    List<long[]> out = new ArrayList<>();
    if (node.folder()) {
      out.add(new long[] {node.first(), 1});
      return out;
    }
    try {
      blocks(
          node,
          (i, block) -> {
            long[] last = out.isEmpty() ? null : out.get(out.size() - 1);
            if (last != null && last[0] + last[1] == block) last[1]++;
            else out.add(new long[] {block, 1});
          });
    } catch (VolumeException e) {
      // What there is of it; check() tells what is missing.
    }
    return out;
  }

  @Override
  public Optional<String> notWhole(Node node) {
    if (node.folder()) return Optional.empty();
    if (leadsElsewhere(header(node))) return Optional.of(ELSEWHERE);
    try {
      blocks(node, (i, block) -> {});
      return Optional.empty();
    } catch (BrokenOff e) {
      return Optional.of(e.reason);
    }
  }

  /** A link whose meaning only the machine can follow: it is never taken for an empty file. */
  private static boolean leadsElsewhere(byte[] header) {
    int type = FfsBlock.long32(header, FfsBlock.SECONDARY_TYPE);
    return type == FfsBlock.SOFT_LINK || type == FfsBlock.LINK_TO_FOLDER;
  }

  @Override
  public List<Node> all() {
    List<Node> out = new ArrayList<>();
    BitSet gone = new BitSet();
    gone.set((int) layout.root());
    // Not by calling itself: folders may lie as deep as there are blocks.
    Deque<Iterator<Node>> open = new ArrayDeque<>();
    open.push(list(root()).iterator());
    long letters = 0;
    while (!open.isEmpty() && out.size() < Bounded.MOST_NODES && letters < Bounded.MOST_LETTERS) {
      if (!open.peek().hasNext()) {
        open.pop();
        continue;
      }
      Node n = open.peek().next();
      if (gone.get((int) n.first())) continue;
      gone.set((int) n.first());
      out.add(n);
      letters += n.path().length();
      if (n.folder()) open.push(list(n).iterator());
    }
    return out;
  }

  @Override
  public List<Finding> check() {
    return new FfsCheck(this).findings();
  }

  @Override
  public Optional<Mending> mending() {
    return Optional.of(new FfsRepair(this));
  }

  @Override
  public List<Place> places() {
    List<Place> out = new ArrayList<>();
    out.add(Place.of("boot block", "", 0, FfsLayout.RESERVED, 0));
    out.add(Place.headed("root block", layout.root(), 1, FfsFields.ROOT));
    for (long page : bitmapPages()) {
      if (layout.holds(page)) out.add(Place.of("block map", "", page, 1, 0));
    }
    for (Node n : all()) {
      String kind = n.folder() ? "folder header" : "file header";
      out.add(new Place(kind, n.path(), n.first(), 1, 0, FfsFields.HEADER, List.of()));
      if (n.folder()) continue;
      for (long[] run : sectorsOf(n)) {
        out.add(Place.of("file", n.path(), run[0], run[1], n.bytes()));
      }
      for (long block : extensions(n)) out.add(Place.of("file extension", n.path(), block, 1, 0));
    }
    out.add(Place.of("free space", "", 0, layout.sectorCount(), 0));
    return out;
  }

  /** The blocks that carry further pointers of a file. */
  List<Long> extensions(Node file) {
    List<Long> out = new ArrayList<>();
    byte[] h = header(file);
    if (FfsBlock.long32(h, FfsBlock.SECONDARY_TYPE) != FfsBlock.FILE) return out;
    BitSet seen = new BitSet();
    long next = Bytes.be32(h, FfsBlock.EXTENSION);
    while (layout.holds(next) && !seen.get((int) next)) {
      seen.set((int) next);
      byte[] b = medium.sector(next);
      if (FfsBlock.long32(b, FfsBlock.TYPE) != FfsBlock.LIST) break;
      out.add(next);
      next = Bytes.be32(b, FfsBlock.EXTENSION);
    }
    return out;
  }

  /**
   * Blocks that the tables of a file count past what its length needs: some systems take room ahead
   * and leave it so. They are the file's, as whoever removes it sets all of them free.
   */
  List<Long> ahead(Node file) {
    List<Long> out = new ArrayList<>();
    long wanted = layout.dataBlocks(file.bytes());
    List<Long> tables = new ArrayList<>(List.of(file.first()));
    tables.addAll(extensions(file));
    for (int t = 0; t < tables.size(); t++) {
      byte[] b = medium.sector(tables.get(t));
      long counted = Math.min(FfsBlock.SLOTS, Bytes.be32(b, FfsBlock.HIGH_SEQ));
      for (long i = Math.max(0, wanted - (long) t * FfsBlock.SLOTS); i < counted; i++) {
        long block = Bytes.be32(b, FfsBlock.TABLE + 4 * (FfsBlock.SLOTS - 1 - (int) i));
        if (layout.holds(block)) out.add(block);
      }
    }
    return out;
  }

  /** Blocks that hold the names of a folder a second time, in the kinds that keep them. */
  List<Long> caches(Node folder) {
    List<Long> out = new ArrayList<>();
    if (!layout.cached()) return out;
    BitSet seen = new BitSet();
    long next = Bytes.be32(header(folder), FfsBlock.EXTENSION);
    while (layout.holds(next) && !seen.get((int) next)) {
      seen.set((int) next);
      byte[] b = medium.sector(next);
      if (FfsBlock.long32(b, FfsBlock.TYPE) != FfsBlock.CACHE) break;
      out.add(next);
      next = Bytes.be32(b, FfsLayout.NEXT_CACHE);
    }
    return out;
  }

  @Override
  public List<long[]> inUse() {
    List<long[]> out = new ArrayList<>();
    out.add(new long[] {0, FfsLayout.RESERVED});
    BitSet free = free();
    int at = FfsLayout.RESERVED;
    while (at < layout.sectorCount()) {
      int from = free.nextClearBit(at);
      if (from >= layout.sectorCount()) break;
      int to = free.nextSetBit(from);
      long end = to < 0 ? layout.sectorCount() : to;
      out.add(new long[] {from, end - from});
      if (to < 0) break;
      at = to;
    }
    return out;
  }

  @Override
  public Optional<BootFacts> bootFacts() {
    byte[] code = Arrays.copyOfRange(boot, FfsLayout.BOOT_CODE, boot.length);
    boolean none = Bytes.allZero(code, 0, code.length);
    boolean sealed = FfsLayout.bootSum(boot) == Bytes.be32(boot, FfsLayout.BOOT_CHECKSUM);
    List<String> start = startFile().stream().toList();
    return Optional.of(
        new BootFacts(0, 0, 0, none || !sealed ? new byte[0] : code, start, List.of(), start));
  }

  /** The text that the system runs first. */
  private Optional<String> startFile() {
    Deque<String> names = new ArrayDeque<>(List.of(FfsLayout.START_FILE.split("/")));
    Node at = root();
    while (!names.isEmpty()) {
      String name = names.poll();
      Optional<Node> next =
          list(at).stream().filter(n -> n.name().equalsIgnoreCase(name)).findFirst();
      if (next.isEmpty()) return Optional.empty();
      at = next.get();
    }
    return at.folder() ? Optional.empty() : Optional.of(at.path());
  }

  // ---- sentences --------------------------------------------------------------------------------

  private static final String ELSEWHERE = "it is a link to another place, which is not followed";

  /** A file whose blocks do not come whole. */
  private static final class BrokenOff extends VolumeException {
    private static final long serialVersionUID = 1;
    private final String reason;

    BrokenOff(String path, String reason) {
      super(path + ": " + reason + ".");
      this.reason = reason;
    }
  }

  private static BrokenOff gone(String path, long block) {
    return new BrokenOff(
        path, "it points at block " + Say.count(block) + ", which is none of this volume's");
  }

  private static BrokenOff brokenOff(Node file, long index, long wanted) {
    return new BrokenOff(
        file.path(),
        "it breaks off after " + Say.count(index) + " of " + Say.count(wanted) + " blocks");
  }

  private static BrokenOff tooLong(Node file) {
    return new BrokenOff(
        file.path(), "it says " + Say.bytes(file.bytes()) + ", more than the volume has");
  }

  private static BrokenOff linkGone(String path) {
    return new BrokenOff(path, "it is a link to a file that is not there");
  }
}
