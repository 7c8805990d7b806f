package lanternshed.core.catalogue;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.boot.pc.PcBoot;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Profiles;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.plan.Plan;
import lanternshed.core.plan.PlanRequest;
import lanternshed.core.plan.Planner;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.survey.Volumes;
import lanternshed.core.survey.Whereabouts;
import lanternshed.core.table.TableMaker;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.fat.FatKind;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Every table and filesystem that is known, through every verb: each cell is a success that is
 * looked at, or one sentence; never a fault.
 */
class MatrixTest {
  @TempDir static Path home;
  private static final long SECTORS = 40_000;
  private static final Geometry G = new Geometry(40, 16, 63);

  /**
   * @param kind what the survey must call the volume
   * @param files how many it lists; −1 for one whose files are not read
   */
  private record Cell(String name, Medium medium, String scheme, String kind, int files) {
    @Override
    public String toString() {
      return name;
    }
  }

  private static FileSet files() {
    FileSet b = new FileSet();
    b.folder("SETS", 0, Samples.STAMP);
    for (int i = 0; i < 9; i++) Samples.file(b, "SETS/P" + i, 0x20, Samples.content(i, i * 700));
    return b;
  }

  private static void text(byte[] b, int at, String s) {
    byte[] t = s.getBytes(StandardCharsets.US_ASCII);
    System.arraycopy(t, 0, b, at, t.length);
  }

  private static void be32(byte[] b, int at, long v) {
    for (int i = 0; i < 4; i++) b[at + i] = (byte) (v >> 24 - 8 * i);
  }

  private static MemoryMedium fat(FatKind kind, long sectors, long start) {
    MemoryMedium m = new MemoryMedium(sectors);
    int cluster = kind == FatKind.FAT16 ? 2048 : kind == FatKind.FAT12 ? 8192 : 512;
    Samples.write(
        Samples.layout(G, start, sectors, kind, cluster, "MILL"), files(), m, new byte[0]);
    return m;
  }

  private static MemoryMedium exfat() {
    MemoryMedium m = new MemoryMedium(SECTORS);
    Samples.exfat(SECTORS, 0, 4096, "MILL", files(), m);
    return m;
  }

  private static MemoryMedium ntfs() {
    MemoryMedium m = new MemoryMedium(SECTORS);
    byte[] b = new byte[512];
    text(b, 3, "NTFS    ");
    Bytes.put16(b, 11, 512);
    b[13] = 8;
    Bytes.put64(b, 0x28, SECTORS - 1);
    Bytes.put64(b, 0x30, 4);
    b[0x40] = -10;
    Bytes.put16(b, 510, 0xAA55);
    m.write(0, 1, b, 0);
    m.write(SECTORS - 1, 1, b, 0);
    byte[] r = new byte[1024];
    Bytes.put16(r, 0x14, 56);
    Bytes.put32(r, 56, 0x60);
    Bytes.put32(r, 60, 40);
    Bytes.put32(r, 72, 8);
    Bytes.put16(r, 76, 24);
    byte[] name = "Mill".getBytes(StandardCharsets.UTF_16LE);
    System.arraycopy(name, 0, r, 80, name.length);
    m.write(4 * 8 + 6, 2, r, 0);
    return m;
  }

  private static MemoryMedium hfs(boolean plus) {
    MemoryMedium m = new MemoryMedium(SECTORS);
    byte[] b = new byte[512];
    text(b, 0, plus ? "H+" : "BD");
    if (plus) {
      be32(b, 40, 4096);
      be32(b, 44, 4_000);
      be32(b, 48, 1_000);
    } else {
      b[18] = 0x10;
      be32(b, 20, 512);
      b[36] = 4;
      text(b, 37, "Mill");
    }
    m.write(2, 1, b, 0);
    return m;
  }

  private static MemoryMedium ffs() {
    MemoryMedium m = new MemoryMedium(SECTORS);
    byte[] b = new byte[512];
    text(b, 0, "DOS\1");
    m.write(0, 1, b, 0);
    return m;
  }

  private static MemoryMedium filled(String kind, long sectors) {
    MemoryMedium m = new MemoryMedium(sectors);
    Maker maker = Catalogue.maker(kind);
    Maker.Layout l = maker.layout(Samples.wish(kind, sectors, 0, G, 0, "MILL", 0));
    lay(maker, l, files(), m);
    return m;
  }

  private static MemoryMedium small(String kind, long sectors) {
    MemoryMedium m = new MemoryMedium(sectors);
    Maker maker = Catalogue.maker(kind);
    FileSet b = new FileSet();
    for (int i = 0; i < 5; i++) Samples.file(b, "P" + i, 0x20, Samples.content(i, i * 700));
    Maker.Wish wish = Samples.wish(kind, sectors, 0, G, 0, "MILL", 0);
    lay(maker, maker.layout(wish), b, m);
    return m;
  }

  /** Every maker says of every file how much of it it laid down, and of none too much. */
  private static void lay(Maker maker, Maker.Layout l, FileSet files, Medium m) {
    Map<String, Long> told = new TreeMap<>();
    maker.write(l, files, m, new byte[0], (p, n) -> told.merge(p, n, Long::sum));
    for (FileSet.Item i : files.items()) {
      if (i.bytes() > 0) assertThat(told).as(m.name()).containsEntry(i.path(), i.bytes());
    }
    told.forEach((path, n) -> assertThat(n).isEqualTo(files.item(path).bytes()));
  }

  private static MemoryMedium rdb() {
    MemoryMedium m = new MemoryMedium(SECTORS + 2016);
    Medium v = filled("FFS", 38_304);
    m.write(2016, 38_304, v.sectors(0, 38_304), 0);
    TableMaker t = Catalogue.table("RDB").maker().orElseThrow();
    TableMaker.Slot slot = new TableMaker.Slot(2016, 38_304, "DOS\\1", true, false, 0);
    t.write(m, G, new byte[0], 0, List.of(slot));
    return m;
  }

  private static MemoryMedium cpm() {
    MemoryMedium m = new MemoryMedium(SECTORS);
    byte[] b = new byte[512];
    java.util.Arrays.fill(b, (byte) 0xE5);
    byte[] empty = b.clone();
    for (int i = 0; i < 3; i++) {
      java.util.Arrays.fill(b, i * 32, i * 32 + 32, (byte) 0);
      text(b, i * 32 + 1, "HUMID" + i + "  DAT");
      b[i * 32 + 15] = 20;
      b[i * 32 + 16] = (byte) (8 + i);
    }
    m.write(0, 1, b, 0);
    for (int s = 1; s < 64; s++) m.write(s, 1, empty, 0);
    return m;
  }

  private static FileMedium made(String name, String command) {
    Path p = home.resolve(name);
    Tool.run("truncate -s 20M " + p + " && " + command + " " + p + " >/dev/null 2>&1");
    return FileMedium.open(p);
  }

  /** A volume inside a table. */
  private static Medium in(Medium table, long start, Medium volume) {
    long n = Math.min(volume.sectors(), table.sectors() - start);
    byte[] b = volume.sectors(0, (int) n);
    new SliceMedium(table, start, n).write(0, (int) n, b, 0);
    return table;
  }

  private static Medium sfdisk(String name, String label, Medium volume) throws Exception {
    Path p = home.resolve(name);
    Tool.run("truncate -s 30M " + p);
    Tool.run("printf 'label: " + label + "\\nstart=2048\\n' | sfdisk -q --no-tell-kernel " + p);
    return in(FileMedium.openWritable(p), 2048, volume);
  }

  private static Medium apm() {
    MemoryMedium m = new MemoryMedium(SECTORS + 64);
    byte[] b = new byte[512];
    text(b, 0, "ER");
    b[2] = 2;
    m.write(0, 1, b, 0);
    String[] types = {"X_partition_map", "X_HFS"};
    for (int i = 0; i < 2; i++) {
      b = new byte[512];
      text(b, 0, "PM");
      be32(b, 4, 2);
      be32(b, 8, i == 0 ? 1 : 64);
      be32(b, 12, i == 0 ? 63 : SECTORS);
      text(b, 48, types[i]);
      m.write(i + 1, 1, b, 0);
    }
    return in(m, 64, hfs(true));
  }

  private static Medium ahdi() {
    MemoryMedium m = new MemoryMedium(SECTORS + 64);
    byte[] b = new byte[512];
    b[0x1C6] = 1;
    text(b, 0x1C7, "GEM");
    be32(b, 0x1CA, 2);
    be32(b, 0x1CE, 8_000);
    m.write(0, 1, b, 0);
    // Fewer clusters than FAT16 has elsewhere: here the table has 16 bits an entry all the same.
    MemoryMedium v = new MemoryMedium(8_000);
    byte[] boot = new byte[512];
    Bytes.put16(boot, 11, 512);
    boot[13] = 2;
    Bytes.put16(boot, 14, 1);
    boot[16] = 2;
    Bytes.put16(boot, 17, 256);
    Bytes.put16(boot, 19, 8_000);
    Bytes.put16(boot, 22, 16);
    Bytes.put16(boot, 24, 17);
    Bytes.put16(boot, 26, 4);
    v.write(0, 1, boot, 0);
    byte[] fat = new byte[512];
    for (int i = 0; i < 3; i++) Bytes.put16(fat, i * 2, 0xFFFF);
    v.write(1, 1, fat, 0);
    v.write(17, 1, fat, 0);
    byte[] root = new byte[512];
    text(root, 0, "FONT    FNT");
    Bytes.put16(root, 26, 2);
    Bytes.put32(root, 28, 700);
    v.write(33, 1, root, 0);
    return in(m, 2, v);
  }

  static Stream<Cell> cells() throws Exception {
    List<Cell> out = new ArrayList<>();
    out.add(new Cell("FAT12 bare", fat(FatKind.FAT12, SECTORS, 0), "", "FAT12", 9));
    out.add(new Cell("FAT16 bare", fat(FatKind.FAT16, SECTORS, 0), "", "FAT16", 9));
    out.add(new Cell("FAT32 bare", fat(FatKind.FAT32, 70_000, 0), "", "FAT32", 9));
    out.add(new Cell("exFAT bare", exfat(), "", "exFAT", 9));
    out.add(new Cell("NTFS bare", ntfs(), "", "NTFS", -1));
    out.add(new Cell("HFS bare", hfs(false), "", "HFS", -1));
    out.add(new Cell("HFS+ bare", hfs(true), "", "HFS+", -1));
    out.add(new Cell("FFS bare, no root", ffs(), "", "FFS", -1));
    out.add(new Cell("OFS bare", filled("OFS", 1760), "", "OFS", 9));
    out.add(new Cell("FFS-DC bare", filled("FFS-DC", SECTORS), "", "FFS-DC", 9));
    out.add(new Cell("FFS in RDB", rdb(), "RDB", "FFS", 9));
    for (String kind : List.of("two-sector catalogue", "link-and-map", "linked-sector")) {
      long sectors = kind.startsWith("two") ? 400 : kind.startsWith("link-") ? 342 : 180;
      out.add(new Cell(kind + " bare", small(kind, sectors), "", kind, 5));
    }
    out.add(new Cell("CP/M bare", cpm(), "", "CP/M 2.2", 3));
    out.add(new Cell("ext2 bare", made("e2", "mkfs.ext2 -q -L mill -F"), "", "ext2", -1));
    out.add(new Cell("ext4 bare", made("e4", "mkfs.ext4 -q -L mill -F"), "", "ext4", -1));
    out.add(new Cell("swap bare", made("sw", "mkswap -L mill"), "", "swap", -1));
    Map<String, Medium> inside =
        Map.of("FAT16", fat(FatKind.FAT16, SECTORS, 2048), "exFAT", exfat(), "NTFS", ntfs());
    for (String table : List.of("dos", "gpt")) {
      for (Map.Entry<String, Medium> v : inside.entrySet()) {
        Medium m = sfdisk(table + v.getKey(), table, v.getValue());
        int files = v.getKey().equals("NTFS") ? -1 : 9;
        String scheme = table.equals("dos") ? "MBR" : "GPT";
        out.add(new Cell(v.getKey() + " in " + scheme, m, scheme, v.getKey(), files));
      }
    }
    out.add(new Cell("HFS+ in APM", apm(), "APM", "HFS+", -1));
    out.add(new Cell("FAT16 in AHDI", ahdi(), "AHDI", "FAT16", 1));
    return out.stream();
  }

  @ParameterizedTest
  @MethodSource("cells")
  void everyVerbSucceedsOrSaysASentence(Cell c) {
    Survey s = Surveyor.survey(c.medium());
    assertThat(s.table().map(t -> t.scheme()).orElse("")).isEqualTo(c.scheme());
    assertThat(s.volumes()).hasSize(1);
    assertThat(s.volumes().get(0).kind()).isEqualTo(c.kind());
    assertThat(s.volumes().get(0).readable()).isEqualTo(c.files() >= 0);
    // list, get, check, places: of what is read all of it, of the rest one sentence.
    if (c.files() >= 0) {
      Volume v = Volumes.find(c.medium(), 0).volume();
      List<Node> files = v.all().stream().filter(n -> !n.folder()).toList();
      assertThat(files).hasSize(c.files());
      for (Node n : files) assertThat(Samples.bytes(v, n)).hasSize((int) n.bytes());
      assertThat(v.check()).isEmpty();
      assertThat(v.places()).anyMatch(p -> p.kind().equals("file"));
      assertThat(v.inUse()).isNotEmpty();
      v.mending().ifPresent(x -> assertThat(x.changes()).isEmpty());
    } else {
      assertThatCode(() -> Volumes.find(c.medium(), 0))
          .isInstanceOf(ShedException.class)
          .hasMessageContaining("no volume that can be read");
    }
    assertThat(Whereabouts.of(c.medium()).places()).isNotNull();
    // plan by each strategy, and the boot chain.
    for (PlanRequest.Strategy strategy : PlanRequest.Strategy.values()) {
      Card card = new Card("card", 4_000_000_000L, 7_800_000L);
      PlanRequest r =
          new PlanRequest(
              "pc-late90s",
              "",
              "nt",
              card,
              List.of(),
              strategy,
              PlanRequest.School.MACHINE,
              List.of(),
              false,
              List.of());
      Plan p = Planner.plan(Profiles.get("pc-late90s"), r, s);
      if (strategy == PlanRequest.Strategy.CLONE) assertThat(p.buildable()).isTrue();
      else if (!p.buildable()) assertThat(p.verdicts().get(0).text()).isNotBlank();
    }
    assertThatCode(() -> new PcBoot().walk(c.medium(), G, c.medium().sectors()))
        .doesNotThrowAnyException();
  }

  @ParameterizedTest
  @MethodSource("cells")
  void cutAtAnyPlaceNothingFails(Cell c) {
    for (long sectors : new long[] {1, 2, 3, 33, 64, 100, 2049, c.medium().sectors() / 2}) {
      Medium cut = new SliceMedium(c.medium(), 0, sectors);
      assertThatCode(() -> Surveyor.survey(cut)).doesNotThrowAnyException();
      assertThatCode(() -> Whereabouts.of(cut)).doesNotThrowAnyException();
    }
  }
}
