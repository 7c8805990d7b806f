package lanternshed.core.table.rdb;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.TableDrivers;
import lanternshed.core.table.TableMaker;

/**
 * Writes the block-chained table: RDSK in block 0, one PART a volume behind it, then the drivers
 * that an old table carried. Volumes are entered in cylinders.
 */
final class RdbWriter implements TableMaker {
  private static final int BLOCK = 512;
  private static final int LONGS = 64;
  private static final int HOST_ID = 7;

  /** No drive behind this one answers otherwise; the drive's names are valid. */
  private static final int RDSK_FLAGS = 0x12;

  private static final int BOOTABLE = 1;
  private static final int NO_PRIORITY = -128;
  private static final int BUFFERS = 30;
  private static final long MASK = 0x7FFF_FFFEL;
  private static final int RESERVED_BLOCKS = 2;

  /** Drivers take a few dozen KiB; what says more is none. */
  private static final int MOST_DRIVER_BLOCKS = 4_096;

  /** DosType by published kind: the figure of its boot block. */
  private static final List<String> KINDS =
      List.of("OFS", "FFS", "OFS-INTL", "FFS-INTL", "OFS-DC", "FFS-DC");

  private static final Map<String, Long> TYPES =
      IntStream.range(0, KINDS.size())
          .boxed()
          .collect(Collectors.toMap(i -> "DOS\\" + i, i -> 0x444F_5300L + i));

  @Override
  public String type(String kind, long sectors, boolean byLba) {
    int flag = KINDS.indexOf(kind);
    if (flag < 0) throw new ShedException("A volume of " + kind + " has no DosType here.");
    return "DOS\\" + flag;
  }

  @Override
  public String typeName(String type) {
    return TYPES.containsKey(type) ? KINDS.get((int) (TYPES.get(type) & 0xFF)) : type;
  }

  @Override
  public Optional<String> refusal(String type, String kind, long sectors) {
    if (typeName(type).equals(kind)) return Optional.empty();
    return Optional.of("the DosType " + type + " does not say so");
  }

  /** The FSHD and LSEG blocks of its drivers, one behind the other. */
  @Override
  public byte[] kept(Medium old) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    for (long s = 0; s < Math.min(16, old.sectors()); s++) {
      byte[] b = old.sector(s);
      if (Bytes.be32(b, 0) != Rdb.RDSK) continue;
      Set<Long> seen = new HashSet<>();
      long next = Bytes.be32(b, Rdb.FILESYSTEM_LIST);
      while (is(old, next, Rdb.FSHD) && seen.add(next) && seen.size() < MOST_DRIVER_BLOCKS) {
        byte[] head = old.sector(next);
        out.writeBytes(head);
        long segment = Bytes.be32(head, Rdb.SEGMENTS);
        while (is(old, segment, Rdb.LSEG) && seen.add(segment)) {
          if (seen.size() > MOST_DRIVER_BLOCKS) return new byte[0];
          byte[] l = old.sector(segment);
          out.writeBytes(l);
          segment = Bytes.be32(l, Rdb.NEXT);
        }
        next = Bytes.be32(head, Rdb.NEXT);
      }
      break;
    }
    return out.toByteArray();
  }

  @Override
  public Optional<TableDrivers> drivers() {
    return Optional.of(new RdbDrivers());
  }

  private static boolean is(Medium m, long block, long id) {
    return block < m.sectors() && Bytes.be32(m.sector(block), 0) == id;
  }

  @Override
  public void write(
      Medium medium, Geometry geometry, byte[] code, long signature, List<Slot> slots) {
    long cylinder = geometry.perCylinder();
    List<byte[]> blocks = new ArrayList<>();
    blocks.add(new byte[BLOCK]);
    for (Slot s : slots) {
      if (s.start() % cylinder != 0 || s.length() % cylinder != 0) {
        throw new ShedException(
            "A volume from sector "
                + Say.count(s.start())
                + " does not lie on cylinders of "
                + Say.count(cylinder)
                + " blocks.");
      }
      blocks.add(part(geometry, s, blocks.size() - 1, blocks.size() < slots.size()));
    }
    int drivers = blocks.size();
    relinked(code, drivers, blocks);
    long first = slots.stream().mapToLong(Slot::start).min().orElse(medium.sectors());
    if (blocks.size() > first) {
      throw new ShedException(
          "The table needs "
              + Say.count(blocks.size())
              + " blocks; the first volume starts at block "
              + Say.count(first)
              + ".");
    }
    blocks.set(0, rdsk(medium, geometry, first, blocks.size(), drivers, slots.isEmpty()));
    for (int i = 0; i < blocks.size(); i++) {
      byte[] b = blocks.get(i);
      seal(b);
      medium.write(i, 1, b, 0);
    }
  }

  private static byte[] rdsk(
      Medium m, Geometry g, long first, int blocks, int drivers, boolean empty) {
    byte[] b = new byte[BLOCK];
    long cylinders = m.sectors() / g.perCylinder();
    head(b, Rdb.RDSK);
    Arrays.fill(b, Rdb.BAD_BLOCKS, Rdb.CYLINDERS, (byte) 0xFF);
    Bytes.putBe32(b, Rdb.BLOCK_BYTES, BLOCK);
    Bytes.putBe32(b, Rdb.FLAGS, RDSK_FLAGS);
    Bytes.putBe32(b, Rdb.PART_LIST, empty ? Rdb.END : 1);
    Bytes.putBe32(b, Rdb.FILESYSTEM_LIST, drivers < blocks ? drivers : Rdb.END);
    Bytes.putBe32(b, Rdb.CYLINDERS, cylinders);
    Bytes.putBe32(b, Rdb.CYLINDERS + 4, g.sectors());
    Bytes.putBe32(b, Rdb.CYLINDERS + 8, g.heads());
    Bytes.putBe32(b, Rdb.CYLINDERS + 12, 1);
    Bytes.putBe32(b, Rdb.CYLINDERS + 16, cylinders);
    Bytes.putBe32(b, Rdb.CYLINDERS + 32, cylinders);
    Bytes.putBe32(b, Rdb.CYLINDERS + 36, cylinders);
    Bytes.putBe32(b, Rdb.RDB_LOW, 0);
    Bytes.putBe32(b, Rdb.RDB_LOW + 4, first - 1);
    Bytes.putBe32(b, Rdb.RDB_LOW + 8, first / g.perCylinder());
    Bytes.putBe32(b, Rdb.RDB_LOW + 12, cylinders - 1);
    Bytes.putBe32(b, Rdb.RDB_LOW + 16, g.perCylinder());
    Bytes.putBe32(b, Rdb.RDB_LOW + 24, blocks - 1L);
    byte[] names = "LANTERN SHED    IMAGE   1.0 ".getBytes(StandardCharsets.US_ASCII);
    System.arraycopy(names, 0, b, 160, names.length);
    return b;
  }

  private static byte[] part(Geometry g, Slot s, int number, boolean more) {
    byte[] b = new byte[BLOCK];
    head(b, Rdb.PART);
    Bytes.putBe32(b, Rdb.NEXT, more ? number + 2L : Rdb.END);
    Bytes.putBe32(b, Rdb.FLAGS, s.active() ? BOOTABLE : 0);
    byte[] name = String.format(Locale.ROOT, "DH%d", number).getBytes(StandardCharsets.US_ASCII);
    b[Rdb.NAME] = (byte) name.length;
    System.arraycopy(name, 0, b, Rdb.NAME + 1, name.length);
    long[] environment = {
      16,
      BLOCK / 4,
      0,
      g.heads(),
      1,
      g.sectors(),
      RESERVED_BLOCKS,
      0,
      0,
      s.start() / g.perCylinder(),
      s.end() / g.perCylinder() - 1,
      BUFFERS,
      0,
      Rdb.SAFE_TRANSFER,
      MASK,
      s.active() ? 0 : NO_PRIORITY,
      dosType(s.type())
    };
    for (int i = 0; i < environment.length; i++) {
      Bytes.putBe32(b, Rdb.ENVIRONMENT + 4 * i, environment[i]);
    }
    return b;
  }

  static long dosType(String type) {
    Long t = TYPES.get(type);
    if (t == null) throw new ShedException("\"" + type + "\" is no DosType of this table.");
    return t;
  }

  /** Drivers at their new place: each head names its first segment and the next head. */
  private static void relinked(byte[] code, int at, List<byte[]> blocks) {
    if (code.length % BLOCK != 0) {
      throw new ShedException("The drivers have " + code.length + " bytes, which is no block.");
    }
    int n = code.length / BLOCK;
    int head = -1;
    for (int i = 0; i < n; i++) {
      byte[] b = Arrays.copyOfRange(code, i * BLOCK, (i + 1) * BLOCK);
      long id = Bytes.be32(b, 0);
      if (id != Rdb.FSHD && id != Rdb.LSEG || i == 0 && id != Rdb.FSHD) {
        throw new ShedException("Block " + (i + 1) + " of the drivers is neither FSHD nor LSEG.");
      }
      boolean last = i + 1 == n || Bytes.be32(code, (i + 1) * BLOCK) == Rdb.FSHD;
      if (id == Rdb.FSHD) {
        if (head >= 0) Bytes.putBe32(blocks.get(head), Rdb.NEXT, at + (long) i);
        head = at + i;
        Bytes.putBe32(b, Rdb.NEXT, Rdb.END);
        Bytes.putBe32(b, Rdb.SEGMENTS, last ? Rdb.END : at + i + 1L);
      } else {
        Bytes.putBe32(b, Rdb.NEXT, last ? Rdb.END : at + i + 1L);
      }
      blocks.add(b);
    }
  }

  static void head(byte[] b, long id) {
    Bytes.putBe32(b, 0, id);
    Bytes.putBe32(b, Rdb.SUMMED_LONGS, LONGS);
    Bytes.putBe32(b, Rdb.HOST, HOST_ID);
  }

  private static void seal(byte[] b) {
    long longs = Math.min(128, Bytes.be32(b, Rdb.SUMMED_LONGS));
    Bytes.putBe32(b, Rdb.CHECKSUM, 0);
    long sum = 0;
    for (int i = 0; i < longs; i++) sum += Bytes.be32(b, 4 * i);
    Bytes.putBe32(b, Rdb.CHECKSUM, -sum);
  }
}
