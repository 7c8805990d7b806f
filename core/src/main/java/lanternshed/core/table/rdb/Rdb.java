package lanternshed.core.table.rdb;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Mending;
import lanternshed.core.medium.UnreadableException;
import lanternshed.core.table.Overlaps;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableMaker;
import lanternshed.core.table.TableReading;
import lanternshed.core.table.TableScheme;

/**
 * The block-chained table: an RDSK block within the first 16, a chain of PART blocks. Big endian;
 * the longs of every block sum to zero.
 */
public final class Rdb implements TableScheme {
  static final long RDSK = 0x5244_534BL;
  static final long PART = 0x5041_5254L;
  static final long FSHD = 0x4653_4844L;
  static final long LSEG = 0x4C53_4547L;
  static final long BADB = 0x4241_4442L;
  static final long END = 0xFFFF_FFFFL;
  static final int SUMMED_LONGS = 4;
  static final int CHECKSUM = 8;
  static final int HOST = 12;
  static final int BLOCK_BYTES = 16;
  static final int NEXT = 16;
  static final int FLAGS = 20;
  static final int BAD_BLOCKS = 24;
  static final int PART_LIST = 28;
  static final int FILESYSTEM_LIST = 32;
  static final int CYLINDERS = 64;
  static final int RDB_LOW = 128;
  static final int NAME = 36;
  static final int ENVIRONMENT = 128;
  static final int TRANSFER = ENVIRONMENT + 52;
  static final int PRIORITY = ENVIRONMENT + 60;
  static final int DOS_TYPE = ENVIRONMENT + 64;
  static final int FILESYSTEM_TYPE = 32;
  static final int SEGMENTS = 72;

  /** Safe for hosts that count blocks of a transfer in 8 bits (P-11). */
  static final long SAFE_TRANSFER = 0x1FE00;

  static final int MOST_PARTS = 128;

  /** More blocks of one chain are a ring or none. */
  static final int MOST_BLOCKS = 8192;

  /** Pairs of a bad block and its replacement in a block of their list. */
  /** Of RDSK: the last block that the table itself uses. */
  private static final int HIGH_BLOCK = RDB_LOW + 24;

  /** The letters of a volume's type, before its figure. */
  private static final long DOS = 0x444F53;

  /** Sectors of 512 bytes that byte offsets of 32 bits reach (G-11). */
  private static final long OFFSETS_32 = 1L << 23;

  private static final int BAD_PAIRS = 61;

  private static final int BAD_AT = 24;

  @Override
  public String name() {
    return "RDB";
  }

  @Override
  public Optional<TableReading> read(Medium medium) {
    return head(medium).map(at -> read(medium, at, medium.sector(at)));
  }

  @Override
  public Optional<Mending> mending(Medium medium) {
    return head(medium).map(at -> new RdbRepair(medium, at));
  }

  /** The block with the table's head, among the first sixteen. */
  private static Optional<Long> head(Medium medium) {
    for (long s = 0; s < Math.min(16, medium.sectors()); s++) {
      if (Bytes.be32(medium.sector(s), 0) == RDSK) return Optional.of(s);
    }
    return Optional.empty();
  }

  private TableReading read(Medium medium, long at, byte[] rdsk) {
    List<TableEntry> entries = new ArrayList<>();
    List<Finding> findings = new ArrayList<>();
    checksum(rdsk, "RDSK at block " + at, findings);
    long block = Bytes.be32(rdsk, BLOCK_BYTES);
    if (block != 512) {
      findings.add(
          Finding.wrong(
              "P-14",
              "block " + at,
              "The table says blocks of " + block + " B; 512 B are read.",
              "Look whether this is the right medium."));
    }
    long reserved = Bytes.be32(rdsk, RDB_LOW + 4) + 1;
    List<long[]> byPriority = new ArrayList<>();
    Set<Long> seen = new HashSet<>();
    long next = Bytes.be32(rdsk, PART_LIST);
    while (next != END && entries.size() < MOST_PARTS) {
      if (next >= medium.sectors() || !seen.add(next)) {
        findings.add(
            Finding.wrong(
                "P-6",
                "block " + next,
                "The chain of partitions "
                    + (seen.contains(next) ? "loops" : "leaves the medium")
                    + " at block "
                    + Say.count(next)
                    + ".",
                "What would follow is not listed."));
        break;
      }
      byte[] p = medium.sector(next);
      if (Bytes.be32(p, 0) != PART) {
        findings.add(
            Finding.wrong(
                "P-14",
                "block " + next,
                "Block " + Say.count(next) + " of the chain is no PART block.",
                "What would follow is not listed."));
        break;
      }
      checksum(p, "PART at block " + next, findings);
      int before = entries.size();
      partition(medium, entries, findings, p, next, reserved);
      if (entries.size() > before && entries.get(before).active()) {
        byPriority.add(new long[] {(int) Bytes.be32(p, PRIORITY), before + 1});
      }
      next = Bytes.be32(p, NEXT);
    }
    findings.addAll(Overlaps.of(entries));
    drive(medium, rdsk, at, seen, findings);
    badBlocks(medium, Bytes.be32(rdsk, BAD_BLOCKS), findings);
    byPriority.sort(Comparator.comparingLong((long[] x) -> -x[0]));
    List<Integer> order = byPriority.stream().map(x -> (int) x[1]).toList();
    List<String> drivers = drivers(medium, Bytes.be32(rdsk, FILESYSTEM_LIST), findings);
    return new TableReading(name(), entries, findings, order, drivers);
  }

  /** What the table says of its drive: its size, and the last block that it uses itself. */
  private static void drive(
      Medium medium, byte[] rdsk, long at, Set<Long> parts, List<Finding> findings) {
    long cylinders = Bytes.be32(rdsk, CYLINDERS);
    long perTrack = Bytes.be32(rdsk, CYLINDERS + 4);
    long heads = Bytes.be32(rdsk, CYLINDERS + 8);
    boolean sane = cylinders < 1L << 31 && perTrack < 1 << 16 && heads < 1 << 16;
    long counted = sane ? cylinders * perTrack * heads : Long.MAX_VALUE;
    if (counted > medium.sectors()) {
      findings.add(
          Finding.wrong(
              "P-2",
              "block " + at,
              sane
                  ? "The table counts "
                      + Say.count(cylinders)
                      + " × "
                      + heads
                      + " × "
                      + perTrack
                      + " = "
                      + Say.sectors(counted)
                      + "; the medium has "
                      + Say.count(medium.sectors())
                      + "."
                  : "The geometry of the drive in the table makes no sense.",
              "The image is cut off, or of another drive; a tool that trusts the figure writes past"
                  + " the end."));
    }
    long last = parts.stream().mapToLong(x -> x).max().orElse(at);
    long high = Bytes.be32(rdsk, HIGH_BLOCK);
    if (high < last && high != 0) {
      findings.add(
          Finding.wrong(
              "P-14",
              "block " + at,
              "The table says that its last own block is "
                  + Say.count(high)
                  + "; its chain goes to "
                  + Say.count(last)
                  + ".",
              "A tool that trusts the figure writes over the chain; build the table anew."));
    }
  }

  /** Blocks that the old drive gave up: the host reads others in their place. */
  private static void badBlocks(Medium medium, long first, List<Finding> findings) {
    Set<Long> seen = new HashSet<>();
    List<String> bad = new ArrayList<>();
    long next = first;
    while (next < medium.sectors() && seen.add(next) && seen.size() <= MOST_BLOCKS) {
      byte[] b = medium.sector(next);
      if (Bytes.be32(b, 0) != BADB) break;
      checksum(b, "BADB at block " + next, findings);
      for (int i = 0; i < BAD_PAIRS; i++) {
        long block = Bytes.be32(b, BAD_AT + 8 * i);
        if (block > 0 && block != END && block < medium.sectors()) bad.add(Say.count(block));
      }
      next = Bytes.be32(b, NEXT);
    }
    if (bad.isEmpty()) return;
    String some = String.join(", ", bad.subList(0, Math.min(5, bad.size())));
    findings.add(
        Finding.note(
            "P-14",
            "bad blocks",
            "The table lists "
                + Say.plural(bad.size(), "bad block", "bad blocks")
                + " of the old drive, "
                + some
                + (bad.size() > 5 ? " and more" : "")
                + "; a card has none of them, and a rebuild leaves the list out."));
  }

  /** The codes of volumes for which filesystem drivers lie in the table's blocks (P-13). */
  private static List<String> drivers(Medium medium, long first, List<Finding> findings) {
    List<String> out = new ArrayList<>();
    Set<Long> seen = new HashSet<>();
    long next = first;
    while (next < medium.sectors() && out.size() < MOST_PARTS && seen.add(next)) {
      byte[] b = medium.sector(next);
      if (Bytes.be32(b, 0) != FSHD) break;
      checksum(b, "FSHD at block " + next, findings);
      out.add(dosType(Bytes.be32(b, FILESYSTEM_TYPE)));
      segments(medium, b, seen, findings);
      next = Bytes.be32(b, NEXT);
    }
    return out;
  }

  /** A driver whose chain does not end is loaded by no machine. */
  private static void segments(Medium medium, byte[] head, Set<Long> seen, List<Finding> findings) {
    String name = "the driver for " + dosType(Bytes.be32(head, FILESYSTEM_TYPE));
    long next = Bytes.be32(head, SEGMENTS);
    boolean any = false;
    while (next < medium.sectors() && seen.size() <= MOST_BLOCKS && seen.add(next)) {
      byte[] b = medium.sector(next);
      if (Bytes.be32(b, 0) != LSEG) break;
      checksum(b, "LSEG at block " + next, findings);
      any = true;
      next = Bytes.be32(b, NEXT);
    }
    if (any && next == END) return;
    findings.add(
        Finding.wrong(
            "P-14",
            name,
            "The blocks of "
                + name
                + " do not come to an end"
                + (next == END ? "." : ": block " + Say.count(next) + " is none of them."),
            "The machine does not load it: bring the driver's file at Plan and build anew."));
  }

  /** All blocks that RDSK keeps for the table, whether something stands in them or not. */
  @Override
  public List<Place> places(TableReading table, Medium medium) {
    for (long s = 0; s < Math.min(16, medium.sectors()); s++) {
      byte[] b = medium.sector(s);
      if (Bytes.be32(b, 0) != RDSK) continue;
      long end = Math.min(medium.sectors(), Bytes.be32(b, RDB_LOW + 4) + 1);
      return List.of(Place.of(name() + " table", "", 0, Math.max(s + 1, end), 0));
    }
    return List.of();
  }

  @Override
  public Optional<TableMaker> maker() {
    return Optional.of(new RdbWriter());
  }

  private static void partition(
      Medium medium,
      List<TableEntry> entries,
      List<Finding> findings,
      byte[] p,
      long at,
      long reserved) {
    long perBlock = Math.max(1, Bytes.be32(p, ENVIRONMENT + 4) / 128);
    long surfaces = Bytes.be32(p, ENVIRONMENT + 12);
    long perTrack = Bytes.be32(p, ENVIRONMENT + 20);
    long low = Bytes.be32(p, ENVIRONMENT + 36);
    long high = Bytes.be32(p, ENVIRONMENT + 40);
    int length = Math.min(30, p[NAME] & 0xFF);
    String name =
        new String(p, NAME + 1, length, StandardCharsets.ISO_8859_1).replaceAll("\\p{Cntrl}", "");
    boolean bounded = surfaces < 1 << 16 && perTrack < 1 << 16 && perBlock < 64 && high >= low;
    long cylinder = bounded ? surfaces * perTrack * perBlock : 0;
    int number = entries.size() + 1;
    if (cylinder == 0 || high > medium.sectors()) {
      findings.add(
          Finding.wrong(
              "P-2",
              "block " + at,
              "Partition " + name + " makes no sense: cylinders " + low + " to " + high + ".",
              "It is not listed."));
      return;
    }
    long start = low * cylinder;
    long sectors = (high - low + 1) * cylinder;
    boolean bootable = (Bytes.be32(p, FLAGS) & 1) != 0;
    entries.add(
        TableEntry.plain(
                number,
                start,
                sectors,
                name + ", " + dosType(Bytes.be32(p, DOS_TYPE)),
                bootable,
                at)
            .named(name));
    if (start + sectors > medium.sectors()) {
      findings.add(
          Finding.wrong(
              "P-2",
              "partition " + name,
              name
                  + " ends "
                  + Say.sectors(start + sectors - medium.sectors())
                  + " past the end of the medium.",
              "The image is cut off, or of another drive."));
    }
    if (name.isBlank()) {
      findings.add(
          Finding.wrong(
              "P-13",
              "block " + at,
              "Entry " + number + " has no name: the machine cannot call the volume anything.",
              "Give it one, as DH" + (number - 1) + "."));
    }
    other(medium, start, p, name, findings);
    if (start < reserved) {
      findings.add(
          Finding.wrong(
              "P-10",
              "partition " + name,
              name + " begins inside the blocks of the table itself.",
              "Start it behind them."));
    }
    if (start + sectors > OFFSETS_32) {
      // The table does not say what the ROM has: a large drive may be just right (P-12a).
      findings.add(
          Finding.note(
              "P-12a",
              "partition " + name,
              name
                  + " ends past 4 GiB: only a 64-bit driver, of the ROM or in the table, mounts it"
                  + " whole; with another one writes wrap to the start of the drive."));
    }
    long transfer = Bytes.be32(p, TRANSFER);
    if (transfer > SAFE_TRANSFER) {
      findings.add(
          Finding.note(
              "P-11",
              "partition " + name,
              String.format(
                  "%s has MaxTransfer 0x%X; 0x1FE00 is safe for hosts that count blocks in 8 bits.",
                  name, transfer)));
    }
  }

  /** A type that is not what the volume itself says: the machine mounts it by the wrong rules. */
  private static void other(
      Medium medium, long start, byte[] p, String name, List<Finding> findings) {
    if (start < 0 || start >= medium.sectors()) return;
    long said = Bytes.be32(p, DOS_TYPE);
    long there;
    try {
      there = Bytes.be32(medium.sector(start), 0);
    } catch (UnreadableException e) {
      return;
    }
    boolean both = said >>> 8 == DOS && there >>> 8 == DOS;
    if (!both || said == there) return;
    findings.add(
        Finding.wrong(
            "P-13",
            "partition " + name,
            "The table says that "
                + name
                + " is "
                + dosType(said)
                + ", its first block says "
                + dosType(there)
                + ".",
            "Machines go by the table; the entry becomes what the volume is."));
  }

  /** "DOS\1" as it is written: three letters and a figure. */
  static String dosType(long t) {
    char[] c = {(char) (t >> 24 & 0xFF), (char) (t >> 16 & 0xFF), (char) (t >> 8 & 0xFF)};
    for (char x : c) if (x < 0x20 || x > 0x7E) return String.format("0x%08X", t);
    return new String(c) + "\\" + (t & 0xFF);
  }

  /** Whether the longs that a block counts sum to zero. */
  static boolean sums(byte[] b) {
    long longs = Bytes.be32(b, SUMMED_LONGS);
    long sum = 0;
    for (int i = 0; i < Math.min(128, longs); i++) sum += Bytes.be32(b, i * 4);
    return longs >= 1 && longs <= 128 && (sum & 0xFFFF_FFFFL) == 0;
  }

  private static void checksum(byte[] b, String where, List<Finding> findings) {
    if (sums(b)) return;
    findings.add(
        Finding.wrong(
            "P-14",
            where,
            "The checksum of " + where + " is wrong.",
            "The machine will not take it: mend it on a copy where what stands in it makes sense."));
  }
}
