package lanternshed.core.table.rdb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableMaker.Slot;
import lanternshed.core.table.TableReading;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RdbTest {
  private static final Geometry G = new Geometry(200, 16, 32);
  private static final long CYLINDER = 512;

  private static List<Slot> slots() {
    return List.of(
        new Slot(2 * CYLINDER, 40 * CYLINDER, "DOS\\1", true, false, 0),
        new Slot(42 * CYLINDER, 100 * CYLINDER, "DOS\\3", false, false, 0));
  }

  /** Two drivers of one and of three segments, out of order and far apart. */
  private static MemoryMedium withDrivers() {
    MemoryMedium m = new MemoryMedium(200 * CYLINDER);
    new RdbWriter().write(m, G, new byte[0], 0, slots());
    block(m, 100, Rdb.FSHD, 300, 0x444F5303L, 200);
    block(m, 300, Rdb.FSHD, Rdb.END, 0x50465303L, 90);
    block(m, 200, Rdb.LSEG, 120, 0, 0);
    block(m, 120, Rdb.LSEG, 250, 0, 0);
    block(m, 250, Rdb.LSEG, Rdb.END, 0, 0);
    block(m, 90, Rdb.LSEG, Rdb.END, 0, 0);
    byte[] rdsk = m.sector(0);
    Bytes.putBe32(rdsk, Rdb.FILESYSTEM_LIST, 100);
    seal(rdsk);
    m.write(0, 1, rdsk, 0);
    return m;
  }

  private static void block(MemoryMedium m, long at, long id, long next, long type, long segments) {
    byte[] b = new byte[512];
    Bytes.putBe32(b, 0, id);
    Bytes.putBe32(b, Rdb.SUMMED_LONGS, 128);
    Bytes.putBe32(b, Rdb.NEXT, next);
    if (id == Rdb.FSHD) {
      Bytes.putBe32(b, Rdb.FILESYSTEM_TYPE, type);
      Bytes.putBe32(b, Rdb.SEGMENTS, segments);
    } else {
      Bytes.putBe32(b, 20, 0xC0DE_0000L + at);
    }
    seal(b);
    m.write(at, 1, b, 0);
  }

  private static void seal(byte[] b) {
    Bytes.putBe32(b, Rdb.CHECKSUM, 0);
    long sum = 0;
    for (int i = 0; i < Bytes.be32(b, Rdb.SUMMED_LONGS); i++) sum += Bytes.be32(b, 4 * i);
    Bytes.putBe32(b, Rdb.CHECKSUM, -sum);
  }

  @Test
  void whatIsWrittenReadsBackOnItsCylindersWithoutAFinding() {
    MemoryMedium m = new MemoryMedium(200 * CYLINDER);
    new RdbWriter().write(m, G, new byte[0], 0, slots());
    TableReading r = new Rdb().read(m).orElseThrow();
    assertThat(r.findings()).isEmpty();
    assertThat(r.entries()).extracting(e -> e.start()).containsExactly(1024L, 21_504L);
    assertThat(r.entries()).extracting(e -> e.length()).containsExactly(20_480L, 51_200L);
    assertThat(r.entries())
        .extracting(e -> e.typeName())
        .containsExactly("DH0, DOS\\1", "DH1, DOS\\3");
    assertThat(r.startOrder()).containsExactly(1);
    assertThat(r.drivers()).isEmpty();
  }

  @Test
  void driversComeOverToAnotherCardWithTheirSegments() {
    MemoryMedium old = withDrivers();
    assertThat(new Rdb().read(old).orElseThrow().drivers()).containsExactly("DOS\\3", "PFS\\3");
    RdbWriter w = new RdbWriter();
    byte[] kept = w.kept(old);
    assertThat(kept).hasSize(6 * 512);
    MemoryMedium m = new MemoryMedium(200 * CYLINDER);
    w.write(m, G, kept, 0, slots());
    TableReading r = new Rdb().read(m).orElseThrow();
    assertThat(r.findings()).isEmpty();
    assertThat(r.drivers()).containsExactly("DOS\\3", "PFS\\3");
    // The same blocks in the same order, whatever their numbers are now.
    byte[] again = w.kept(m);
    assertThat(again).hasSize(kept.length);
    for (int i = 0; i < 6; i++) {
      assertThat(Bytes.be32(again, i * 512 + 20)).isEqualTo(Bytes.be32(kept, i * 512 + 20));
    }
  }

  /** A general partition program reads the same places, names and start flags. */
  @Test
  void aGeneralToolReadsTheTable(@TempDir Path home) {
    MemoryMedium m = withDrivers();
    Path file = home.resolve("drive");
    Samples.toFile(m, file);
    List<String> lines =
        Tool.run("parted -s -m " + file + " unit s print")
            .lines()
            .filter(l -> l.matches("[0-9]:.*"))
            .toList();
    List<TableEntry> entries = new Rdb().read(m).orElseThrow().entries();
    assertThat(lines).hasSameSizeAs(entries);
    for (int i = 0; i < lines.size(); i++) {
      TableEntry e = entries.get(i);
      String[] f = lines.get(i).split(":");
      assertThat(f[1]).isEqualTo(e.start() + "s");
      assertThat(f[2]).isEqualTo(e.end() - 1 + "s");
      assertThat(f[5]).isEqualTo(e.name());
      assertThat(f[6].contains("boot")).isEqualTo(e.active());
    }
  }

  /** P-14: each kind of block with a wrong sum, mended on a copy; nothing but sums is written. */
  @Test
  void wrongSumsAreWrittenAnewAndNothingElse() {
    MemoryMedium whole = withDrivers();
    block(whole, 150, Rdb.BADB, Rdb.END, 0, 0);
    byte[] rdsk = whole.sector(0);
    Bytes.putBe32(rdsk, Rdb.BAD_BLOCKS, 150);
    seal(rdsk);
    whole.write(0, 1, rdsk, 0);
    assertThat(new Rdb().mending(whole).orElseThrow().changes()).isEmpty();
    MemoryMedium m = MemoryMedium.of(whole.sectors(0, 400));
    long part = Bytes.be32(rdsk, Rdb.PART_LIST);
    for (long at : List.of(0L, part, 100L, 120L, 90L, 150L)) {
      byte[] b = m.sector(at);
      b[Rdb.CHECKSUM + 3] ^= 0x5A;
      m.write(at, 1, b, 0);
    }
    var mending = new Rdb().mending(m).orElseThrow();
    assertThat(mending.changes()).hasSize(6).allMatch(f -> f.rule().equals("P-14"));
    mending.apply(m);
    assertThat(m.sectors(0, 400)).isEqualTo(whole.sectors(0, 400));
    assertThat(new Rdb().read(m).orElseThrow().findings())
        .noneMatch(f -> f.what().contains("checksum"));
  }

  /** Whose long is changed (the table's own block, or an entry's), where, to what; what is said. */
  @ParameterizedTest
  @CsvSource({
    "table, 64, 400, '400 × 16 × 32 = 204\u202F800 sectors; the medium has 102\u202F400'",
    "table, 64, 4294967295, makes no sense",
    "table, 152, 1, its last own block is 1; its chain goes to",
    "entry, 164, 41, Entries 1 and 2 overlap",
    "entry, 36, 0, has no name",
    "volume, 0, 1146049282, 'DH1 is DOS\\3, its first block says DOS\\2'",
  })
  void whatTheTableSaysWrongIsTold(String whose, int at, long value, String said) {
    MemoryMedium m = new MemoryMedium(200 * CYLINDER);
    new RdbWriter().write(m, G, new byte[0], 0, slots());
    byte[] dos3 = m.sector(42 * CYLINDER);
    Bytes.putBe32(dos3, 0, 0x444F5303L);
    m.write(42 * CYLINDER, 1, dos3, 0);
    assertThat(new Rdb().read(m).orElseThrow().findings()).isEmpty();
    long first = Bytes.be32(m.sector(0), Rdb.PART_LIST);
    long second = Bytes.be32(m.sector(first), Rdb.NEXT);
    long block = whose.equals("table") ? 0 : whose.equals("entry") ? second : 42 * CYLINDER;
    byte[] b = m.sector(block);
    Bytes.putBe32(b, at, value);
    if (!whose.equals("volume")) seal(b);
    m.write(block, 1, b, 0);
    assertThat(new Rdb().read(m).orElseThrow().findings())
        .anyMatch(f -> f.what().contains(said) && f.weight() == Finding.Weight.WRONG);
  }

  @Test
  void badBlocksOfTheOldDriveAreTold() {
    MemoryMedium m = withDrivers();
    byte[] bad = new byte[512];
    Bytes.putBe32(bad, 0, Rdb.BADB);
    Bytes.putBe32(bad, Rdb.SUMMED_LONGS, 128);
    Bytes.putBe32(bad, Rdb.NEXT, Rdb.END);
    for (int i = 0; i < 7; i++) Bytes.putBe32(bad, 24 + 8 * i, 5000 + i);
    seal(bad);
    m.write(150, 1, bad, 0);
    byte[] rdsk = m.sector(0);
    Bytes.putBe32(rdsk, Rdb.BAD_BLOCKS, 150);
    seal(rdsk);
    m.write(0, 1, rdsk, 0);
    assertThat(new Rdb().read(m).orElseThrow().findings())
        .anyMatch(f -> f.what().contains("7 bad blocks") && f.weight() == Finding.Weight.NOTE);
  }

  @Test
  void whatLiesOffItsCylindersOrIsNoDriverIsRefused() {
    MemoryMedium m = new MemoryMedium(200 * CYLINDER);
    RdbWriter w = new RdbWriter();
    List<Slot> off = List.of(new Slot(1000, 5120, "DOS\\1", true, false, 0));
    assertThatThrownBy(() -> w.write(m, G, new byte[0], 0, off))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("cylinders");
    assertThatThrownBy(() -> w.write(m, G, new byte[512], 0, slots()))
        .hasMessageContaining("neither FSHD nor LSEG");
    byte[] long1100 = new byte[1100 * 512];
    for (int i = 0; i < 1100; i++) Bytes.putBe32(long1100, i * 512, i == 0 ? Rdb.FSHD : Rdb.LSEG);
    assertThatThrownBy(() -> w.write(m, G, long1100, 0, slots()))
        .hasMessageContaining("first volume starts at block");
  }

  /** Random longs in every block of the chain: findings, never a fault, never without an end. */
  @Test
  void randomChainsAreBoundedAndTold() {
    Random r = new Random(3);
    long[] blocks = {0, 1, 2, 90, 100, 120, 200, 250, 300};
    for (int trial = 0; trial < 1000; trial++) {
      MemoryMedium m = withDrivers();
      for (int i = 0; i <= r.nextInt(5); i++) {
        long at = blocks[r.nextInt(blocks.length)];
        byte[] b = m.sector(at);
        long value = r.nextBoolean() ? blocks[r.nextInt(blocks.length)] : r.nextInt();
        Bytes.putBe32(b, 4 * (1 + r.nextInt(55)), value);
        if (r.nextBoolean() && Bytes.be32(b, 4) <= 128) seal(b);
        m.write(at, 1, b, 0);
      }
      TableReading t = new Rdb().read(m).orElseThrow();
      assertThat(t.findings()).allMatch((Finding f) -> !f.what().isBlank());
      assertThat(t.entries()).allMatch(e -> e.start() >= 0 && e.length() > 0);
      new Rdb().places(t, m);
      byte[] kept = new RdbWriter().kept(m);
      assertThat(kept.length % 512).isZero();
    }
  }
}
