package lanternshed.core.volume;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.Trials;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.fat.FatLayout;
import lanternshed.core.volume.fat.FatRepair;
import lanternshed.core.volume.fat.FatVolume;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Volumes that others made, damaged as drives are: what is whole on the medium by either FAT comes
 * whole, nothing stands twice, the check names what is wrong, and a mended copy is clean for a
 * general tool and loses no file that was whole.
 */
@Tag("trial")
class DamagedVolumeTest {
  @TempDir static Path home;
  private static final int FILES = 44;
  private static final Map<Integer, Map<String, String>> WHOLE = new TreeMap<>();

  @BeforeAll
  static void fill() throws IOException {
    Path tree = home.resolve("tree");
    Random dice = new Random(3);
    for (int d = 0; d < 4; d++) {
      Path f = Files.createDirectories(tree.resolve("SET" + d + (d == 3 ? "/DEEP/DEEPER" : "")));
      for (int i = 0; i < (d == 1 ? 14 : 10); i++) {
        byte[] b = new byte[200 + dice.nextInt(9000)];
        dice.nextBytes(b);
        Files.write(f.resolve(i < 10 ? "P" + i + ".PAT" : "Heron pattern no. " + i + ".pat"), b);
      }
    }
    for (int kind : new int[] {12, 16, 32}) {
      Path p = volume(kind);
      String size = kind == 12 ? "2M -s 1" : kind == 16 ? "12M -s 2" : "40M -s 1";
      String[] x = size.split(" ", 2);
      Tool.run(
          "truncate -s "
              + x[0]
              + " "
              + p
              + " && mkfs.fat -n MILL -F "
              + kind
              + " "
              + x[1]
              + " "
              + p);
      Tool.run("mcopy -s -i " + p + " " + tree + "/* ::");
      try (FileMedium m = FileMedium.open(p)) {
        Map<String, String> all = Samples.digests(FatVolume.open(m));
        assertThat(all).hasSize(FILES);
        WHOLE.put(kind, all);
      }
    }
  }

  private static Path volume(int kind) {
    return home.resolve("fat" + kind);
  }

  /** A volume under damage: its bytes by the fields of its boot sector. */
  private record Damaged(Medium m, FatLayout l) {
    void fill(long sector, int count, int value) {
      byte[] b = new byte[512];
      java.util.Arrays.fill(b, (byte) value);
      for (int i = 0; i < count; i++) m.write(sector + i, 1, b, 0);
    }

    void random(long sector, int count, long start) {
      byte[] b = new byte[512];
      Random dice = new Random(start);
      for (int i = 0; i < count; i++) {
        dice.nextBytes(b);
        m.write(sector + i, 1, b, 0);
      }
    }

    void put(long sector, int at, int... bytes) {
      byte[] b = m.sector(sector);
      for (int i = 0; i < bytes.length; i++) b[at + i] = (byte) bytes[i];
      m.write(sector, 1, b, 0);
    }

    /** First cluster of a path. */
    long first(String path) {
      return node(path).first();
    }

    Node node(String path) {
      return FatVolume.open(m).all().stream()
          .filter(n -> n.path().equals(path))
          .findFirst()
          .orElseThrow();
    }

    long sectorOf(String path) {
      return l.sectorOf(first(path));
    }

    /** Where the entry of a path stands: its sector, and the byte in it. */
    int[] entryOf(String path) {
      FatVolume v = FatVolume.open(m);
      boolean label = path.equals(v.label());
      byte[] name = new byte[11];
      java.util.Arrays.fill(name, (byte) ' ');
      String[] parts = label ? new String[] {path} : node(path).name().split("\\.");
      for (int p = 0; p < parts.length; p++) {
        byte[] t = parts[p].getBytes(java.nio.charset.StandardCharsets.US_ASCII);
        System.arraycopy(t, 0, name, p * 8, t.length);
      }
      int slash = path.lastIndexOf('/');
      Node folder = slash < 0 ? v.root() : node(path.substring(0, slash));
      List<long[]> runs = v.sectorsOf(folder);
      if (runs.isEmpty()) runs = List.of(new long[] {l.rootStart(), l.rootSectors()});
      for (long[] run : runs) {
        for (long s = run[0]; s < run[0] + run[1]; s++) {
          byte[] b = m.sector(s);
          for (int at = 0; at < 512; at += 32) {
            if (java.util.Arrays.equals(b, at, at + 11, name, 0, 11)) {
              return new int[] {(int) s, at};
            }
          }
        }
      }
      throw new IllegalStateException(path + " has no entry");
    }

    /** Changes a byte of an entry. */
    void inEntry(String path, int byteOfIt, int... values) {
      int[] e = entryOf(path);
      put(e[0], e[1] + byteOfIt, values);
    }

    boolean wide() {
      return l.kind().bits() == 32;
    }

    /** Sets an entry in both FATs. */
    void entry(long cluster, long value) {
      for (int copy = 0; copy < l.fats(); copy++) {
        long start = (l.fatStart() + copy * l.fatSectors()) * 512;
        int bits = l.kind().bits();
        long at = start + cluster * bits / 8;
        byte[] b = m.sectors(at / 512, 2);
        int i = (int) (at % 512);
        if (bits == 12) {
          int pair = Bytes.u16(b, i);
          Bytes.put16(
              b, i, (int) (cluster % 2 == 0 ? pair & 0xF000 | value : pair & 0x000F | value << 4));
        } else if (bits == 16) Bytes.put16(b, i, (int) value);
        else Bytes.put32(b, i, value);
        m.write(at / 512, 2, b, 0);
      }
    }
  }

  private interface Damage {
    void on(Damaged d);
  }

  /**
   * @param least how many of the files must still come whole
   * @param said what the check must say
   */
  private record Case(String name, Damage damage, int least, String said) {
    @Override
    public String toString() {
      return name;
    }
  }

  private static final List<Case> CASES =
      List.of(
          new Case("first sector of FAT 1 zeroed", d -> d.fill(d.l.fatStart(), 1, 0), 44, "FAT"),
          new Case(
              "second sector of FAT 1 unread", d -> d.fill(d.l.fatStart() + 1, 1, 'N'), 44, "FAT"),
          new Case("FAT 1 random", d -> d.random(d.l.fatStart(), 2, 5), 44, "FAT"),
          new Case(
              "FAT 2 zeroed",
              d -> d.fill(d.l.fatStart() + d.l.fatSectors(), 1, 0),
              44,
              "FATs differ"),
          new Case(
              "folder of random bytes",
              d -> d.random(d.sectorOf("SET1"), 1, 7),
              30,
              "is not gone into"),
          new Case(
              "folder leads into itself",
              d -> d.entry(d.first("SET1"), d.first("SET1")),
              30,
              "comes back to itself"),
          new Case(
              "two folders lead to each other",
              d -> {
                d.entry(d.first("SET1"), d.first("SET2"));
                d.entry(d.first("SET2"), d.first("SET1"));
              },
              20,
              "another folder"),
          new Case(
              "file runs into a folder",
              d -> d.entry(d.first("SET0/P0.PAT"), d.first("SET2")),
              43,
              "runs into a folder"),
          new Case(
              "file runs into another file",
              d -> d.entry(d.first("SET0/P0.PAT"), d.first("SET0/P5.PAT")),
              42,
              "belongs to both"),
          new Case(
              "chain of a file freed", d -> d.entry(d.first("SET0/P0.PAT"), 0), 43, "free cluster"),
          new Case(
              "\"..\" leads elsewhere",
              d -> d.put(d.sectorOf("SET1"), 32 + 26, 9, 0),
              44,
              "The entry \"..\""),
          new Case(
              "\".\" leads elsewhere",
              d -> d.put(d.sectorOf("SET1"), 26, 9, 0),
              44,
              "The entry \".\""),
          new Case(
              "flag of the boot sector",
              d -> d.put(0, d.wide() ? 0x41 : 0x25, 1),
              44,
              "not closed properly"),
          new Case("a folder with a length", d -> d.inEntry("SET1", 28, 9), 44, "has a length of"),
          new Case(
              "a name's first character zero",
              d -> d.inEntry("SET1/P3.PAT", 0, 0),
              43,
              "behind an end mark"),
          new Case(
              "the first character of a long-named entry zero",
              d -> d.inEntry("SET1/Heron pattern no. 11.pat", 0, 0),
              44,
              "behind an end mark"),
          new Case(
              "a folder's first character zero",
              d -> d.inEntry("SET1", 0, 0),
              20,
              "behind an end mark"),
          new Case(
              "a folder marked as label",
              d -> d.inEntry("SET1", 11, 0x18),
              44,
              "by its content it is a folder"),
          new Case(
              "a folder marked as file",
              d -> d.inEntry("SET2", 11, 0x20),
              44,
              "by its content it is a folder"),
          new Case(
              "a file marked as label",
              d -> d.inEntry("SET1/P3.PAT", 11, 0x28),
              44,
              "by its content it is a file"),
          new Case(
              "a file marked as folder",
              d -> d.inEntry("SET1/P3.PAT", 11, 0x30),
              44,
              "by its content it is a file"),
          new Case(
              "the extension of two blanks and a letter",
              d -> d.inEntry("SET1/P3.PAT", 8, ' ', ' ', 'A'),
              43,
              "a space inside its extension"),
          new Case(
              "a long name's sum spoiled",
              d -> {
                int[] e = d.entryOf("SET1/Heron pattern no. 11.pat");
                int at = e[1] >= 32 ? e[1] - 32 : 512 - 32;
                d.put(e[1] >= 32 ? e[0] : e[0] - 1, at + 13, 0x77);
              },
              43,
              "pieces of long names"),
          new Case(
              "a label with a cluster and a length",
              d -> d.inEntry("MILL", 26, 0x70, 0, 5),
              44,
              "claims a cluster"),
          new Case(
              "no \".\" and no \"..\"",
              d -> d.put(d.sectorOf("SET1"), 0, 'X', 'Y', 'Z'),
              43,
              "does not begin with"));

  private static final List<Case> OF_FAT32 =
      List.of(
          new Case("the boot sector zeroed", d -> d.fill(0, 1, 0), 44, "Its copy in sector 6"),
          new Case(
              "the boot sector random",
              d -> d.random(0, 1, 12),
              44,
              "Its copy in sector 6 is read"),
          new Case(
              "the copy of the boot sector spoiled",
              d -> d.put(6, 0x0D, 1, 2, 3),
              44,
              "and its copy in sector 6 differ"),
          new Case("FSInfo random", d -> d.random(1, 1, 3), 44, "FSInfo lacks its marks"),
          new Case(
              "the copy of FSInfo random",
              d -> d.random(7, 1, 3),
              44,
              "The copy of FSInfo in sector 7 lacks its marks"),
          new Case("a wrong free count", d -> d.put(1, 488, 5, 0, 0, 0), 44, "FSInfo says 5"));

  static Stream<Arguments> cases() {
    return Stream.of(12, 16, 32)
        .flatMap(
            k ->
                Stream.concat(CASES.stream(), k == 32 ? OF_FAT32.stream() : Stream.empty())
                    .map(c -> Arguments.of(k, c)));
  }

  private static long wholeFiles(Map<String, String> before, Map<String, String> now) {
    return before.entrySet().stream().filter(e -> e.getValue().equals(now.get(e.getKey()))).count();
  }

  /** Path and digest of what comes whole; a file that does not is left out. */
  private static Map<String, String> digests(Volume v) {
    Map<String, String> out = new TreeMap<>();
    for (Node n : v.all()) {
      if (n.folder() || v.notWhole(n).isPresent()) continue;
      out.put(n.path(), Tool.sha256(Samples.bytes(v, n)));
    }
    return out;
  }

  @ParameterizedTest(name = "FAT{0}: {1}")
  @MethodSource("cases")
  void whatIsWholeComesWhole(int kind, Case c) throws IOException {
    Path p = home.resolve("damaged");
    Files.copy(volume(kind), p, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    try (FileMedium m = FileMedium.openWritable(p)) {
      c.damage().on(new Damaged(m, FatVolume.open(m).layout()));
      FatVolume v = FatVolume.open(m);
      List<Node> all = v.all();
      Set<String> paths = new HashSet<>();
      all.forEach(n -> assertThat(paths.add(n.path())).as(n.path()).isTrue());
      Map<String, String> now = digests(v);
      assertThat(wholeFiles(WHOLE.get(kind), now)).isGreaterThanOrEqualTo(c.least());
      assertThat(v.check()).extracting(Finding::what).anyMatch(w -> w.contains(c.said()));
    }
    long theirs = byGeneralTool(p, kind);
    try (FileMedium m = FileMedium.open(p)) {
      assertThat(wholeFiles(WHOLE.get(kind), digests(FatVolume.open(m))))
          .as("at least as many whole files as a general tool gets")
          .isGreaterThanOrEqualTo(theirs);
    }
    mends(p, kind);
  }

  private static long byGeneralTool(Path p, int kind) throws IOException {
    Path to = home.resolve("theirs");
    Tool.ask("rm -rf " + to + "; mkdir " + to);
    // What it hangs on is cut short; what it says of it does not matter.
    Tool.ask("MTOOLS_SKIP_CHECK=1 timeout 20 mcopy -n -s -i " + p + " ::/ " + to + " </dev/null");
    Map<String, String> got = new TreeMap<>();
    if (Files.exists(to)) got.putAll(Tool.digests(to));
    return wholeFiles(WHOLE.get(kind), got);
  }

  private static void mends(Path p, int kind) throws IOException {
    Path mended = home.resolve("mended");
    Files.copy(p, mended, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    Map<String, String> before;
    try (FileMedium from = FileMedium.open(p);
        FileMedium to = FileMedium.openWritable(mended)) {
      FatVolume v = FatVolume.open(from);
      before = digests(v);
      FatRepair r = FatRepair.plan(v);
      assertThat(r.changes()).isNotEmpty();
      r.apply(to);
    }
    try (FileMedium m = FileMedium.open(mended)) {
      FatVolume v = FatVolume.open(m);
      assertThat(v.check()).allMatch(f -> f.weight() == Finding.Weight.NOTE);
      assertThat(FatRepair.plan(v).changes()).as("a second time nothing changes").isEmpty();
      Map<String, String> after = digests(v);
      // A name that no system opens gets another one.
      before.forEach((path, digest) -> assertThat(after.values()).as(path).contains(digest));
      assertThat(after.size()).isGreaterThanOrEqualTo(before.size());
    }
    assertThat(byGeneralCheck(mended)).as("FAT" + kind).isBlank();
  }

  /** What a general tool finds, its summary and what it says of labels left out. */
  private static String byGeneralCheck(Path p) {
    return Tool.run(
        "fsck.fat -n "
            + p
            + " | grep -av '^fsck.fat\\|clusters$\\|^Leaving\\|^Volume label\\|Auto-removing label'"
            + " | grep -av 'Auto-copying volume label\\|stored in root directory\\|^$' || true");
  }

  /** A FAT of 16 bits' size and a fixed root with FAT32's number of clusters is neither. */
  @Test
  void fieldsThatContradictEachOtherAreNotTakenForAnotherKind() throws IOException {
    Path p = home.resolve("contradicts");
    Files.copy(volume(16), p, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    try (FileMedium m = FileMedium.openWritable(p)) {
      Damaged d = new Damaged(m, FatVolume.open(m).layout());
      d.put(0, 0x0D, 1);
      d.put(0, 0x13, 0, 0);
      d.put(0, 0x20, 0, 0, 0x10, 0);
      Assertions.assertThrows(VolumeException.class, () -> FatVolume.open(m));
      assertThat(FatVolume.recogniseDamaged(m)).isEmpty();
    }
  }

  /** Where the FAT itself is larger than what is held in memory. */
  @Test
  void aFatOf80MiBIsReadByPages() throws IOException {
    Path p = home.resolve("wide");
    Path file = home.resolve("wide.dat");
    byte[] content = new byte[300_000];
    new Random(8).nextBytes(content);
    Files.write(file, content);
    Tool.run("truncate -s 10G " + p + " && mkfs.fat -F 32 -s 1 " + p);
    Tool.run("mmd -i " + p + " ::/DEEP && mcopy -i " + p + " " + file + " ::/DEEP/WIDE.DAT");
    try (FileMedium m = FileMedium.open(p)) {
      FatVolume v = FatVolume.open(m);
      assertThat(Samples.digests(v)).containsEntry("DEEP/WIDE.DAT", Tool.sha256(content));
      assertThat(v.use().clusters()).isGreaterThan(20_000_000);
      assertThat(v.use().free()).isEqualTo(v.use().clusters() - 1 - 1 - 586);
      Assertions.assertThrows(VolumeException.class, v::mending);
    } finally {
      Files.delete(p);
    }
  }

  @Test
  void foldersOfRandomStructureEndInTimeAndWithFindings() throws IOException {
    for (int kind : new int[] {12, 16, 32}) {
      for (int turn = 0; turn < Trials.turns(15, 600); turn++) {
        int start = turn;
        Path p = home.resolve("random");
        Files.copy(volume(kind), p, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
        try (FileMedium m = FileMedium.openWritable(p)) {
          FatLayout l = FatVolume.open(m).layout();
          hostile(m, l, new Random(start));
          Assertions.assertTimeoutPreemptively(
              Duration.ofSeconds(20),
              () -> {
                FatVolume v = FatVolume.open(m);
                List<Node> all = new ArrayList<>(v.all());
                long room = (long) l.clusters() * l.clusterBytes() / 32 + l.rootEntries();
                assertThat((long) all.size()).isLessThanOrEqualTo(room);
                assertThat(all).allMatch(n -> n.path().length() <= 4096);
                v.check();
                FatRepair.plan(v);
                v.deleted();
              });
        }
      }
    }
  }

  /** Sensible entries that lead anywhere: folders into folders, over and over. */
  private static void hostile(Medium m, FatLayout l, Random dice) {
    for (int k = 0; k < 40; k++) {
      long cluster = 2 + dice.nextInt(Math.min(l.clusters(), 400));
      byte[] b = new byte[512];
      for (int e = 0; e < 16; e++) {
        byte[] name =
            String.format("D%07d   ", dice.nextInt(1000))
                .getBytes(java.nio.charset.StandardCharsets.US_ASCII);
        System.arraycopy(name, 0, b, e * 32, 11);
        b[e * 32 + 11] = (byte) (dice.nextInt(4) > 0 ? 0x10 : 0x20);
        Bytes.put16(b, e * 32 + 24, 0x2345);
        Bytes.put16(b, e * 32 + 26, 2 + dice.nextInt(Math.min(l.clusters(), 400)));
        if (b[e * 32 + 11] == 0x20) Bytes.put32(b, e * 32 + 28, dice.nextInt(100_000));
      }
      if (dice.nextBoolean()) {
        java.util.Arrays.fill(b, 0, 64, (byte) ' ');
        b[0] = '.';
        b[32] = '.';
        b[33] = '.';
        b[11] = 0x10;
        b[43] = 0x10;
        Bytes.put32(b, 12, 0);
        Bytes.put16(b, 26, (int) cluster);
        Bytes.put16(b, 58, dice.nextInt(400));
      }
      m.write(l.sectorOf(cluster), 1, b, 0);
      // And chains that go round.
      long at = l.fatStart() * 512 + cluster * l.kind().bits() / 8;
      byte[] f = m.sectors(at / 512, 1);
      Bytes.put16(f, (int) Math.min(510, at % 512), 2 + dice.nextInt(400));
      m.write(at / 512, 1, f, 0);
    }
  }

  /**
   * Where a general tool and this check do not agree, and why; anything else that one of the two
   * names, the other names too.
   */
  private static final Map<String, String> ONLY_WE_SAY =
      Map.of(
          "lower-case letter", "the older systems do not find such a name; the tool's own does",
          "has the character", "the tool lets =, ; and , pass in short names",
          "a space inside its extension", "the tool lets it pass",
          "belong to no entry", "the tool compares no sums of long names",
          "The label", "what the tool says of labels was left out above",
          "no system uses", "the tool does not look at reserved bits");

  private static final Map<String, String> ONLY_THEY_SAY =
      Map.of("Bad short file name", "the tool reads on behind the end mark; here that is a note");

  @Test
  void randomDamagesAreNamedAsAGeneralToolNamesThem() throws IOException {
    List<String> unexplained = new ArrayList<>();
    int clean = 0;
    int turns = Trials.turns(100, 1000);
    for (int turn = 0; turn < turns; turn++) {
      int kind = List.of(12, 16, 32).get(turn % 3);
      Path p = home.resolve("thousand");
      Files.copy(volume(kind), p, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
      List<String> ours;
      boolean toMend;
      try (FileMedium m = FileMedium.openWritable(p)) {
        scratch(m, new Random(turn));
        ours =
            FatVolume.open(m).check().stream()
                .filter(f -> f.weight() != Finding.Weight.NOTE)
                .map(Finding::what)
                .toList();
        toMend = !FatRepair.plan(FatVolume.open(m)).changes().isEmpty();
      }
      String theirs = byGeneralCheck(p);
      if (ours.isEmpty() && theirs.isBlank()) clean++;
      boolean explained =
          ours.isEmpty() == theirs.isBlank()
              || theirs.isBlank()
                  && ours.stream()
                      .allMatch(o -> ONLY_WE_SAY.keySet().stream().anyMatch(o::contains))
              || ours.isEmpty() && ONLY_THEY_SAY.keySet().stream().anyMatch(theirs::contains);
      if (!explained) unexplained.add(turn + ", FAT" + kind + ": " + ours + " / " + theirs);
      if (toMend) mends(p, kind);
    }
    assertThat(unexplained).isEmpty();
    assertThat(clean).as("not all of it is damage that nobody sees").isLessThan(turns * 3 / 10);
  }

  /** One to three bytes that are wrong in a FAT or in a folder. */
  private static void scratch(Medium m, Random dice) {
    FatVolume v = FatVolume.open(m);
    FatLayout l = v.layout();
    List<long[]> places = new ArrayList<>();
    places.add(new long[] {l.fatStart(), Math.min(2, l.fatSectors())});
    places.add(new long[] {l.fatStart() + l.fatSectors(), Math.min(2, l.fatSectors())});
    if (l.rootEntries() > 0) places.add(new long[] {l.rootStart(), 1});
    v.all().stream().filter(Node::folder).forEach(n -> places.addAll(v.sectorsOf(n)));
    for (int k = 1 + dice.nextInt(3); k > 0; k--) {
      long[] place = places.get(dice.nextInt(places.size()));
      long lba = place[0] + dice.nextInt((int) place[1]);
      byte[] b = m.sector(lba);
      // Where something stands: scratches of empty places hit nothing.
      int at = dice.nextInt(512);
      for (int i = 0; i < 512 && b[at] == 0; i++) at = (at + 1) % 512;
      b[at] = dice.nextBoolean() ? (byte) (b[at] ^ 1 << dice.nextInt(8)) : (byte) dice.nextInt(256);
      m.write(lba, 1, b, 0);
    }
  }

  @Test
  void aCutImageListsAllAndMarksWhatIsNotWhole() throws IOException {
    for (int kind : new int[] {12, 16, 32}) {
      Path p = home.resolve("cut");
      Files.copy(volume(kind), p, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
      long end;
      try (FileMedium m = FileMedium.open(p)) {
        FatVolume v = FatVolume.open(m);
        Node last = v.all().stream().filter(n -> n.path().equals("SET2/P9.PAT")).findFirst().get();
        end = v.layout().sectorOf(last.first()) * 512 + 512;
      }
      Tool.run("truncate -s " + end + " " + p);
      try (FileMedium m = FileMedium.open(p)) {
        FatVolume v = FatVolume.open(m);
        long notWhole = v.all().stream().filter(n -> v.notWhole(n).isPresent()).count();
        long whole = wholeFiles(WHOLE.get(kind), digests(v));
        assertThat(whole).isGreaterThanOrEqualTo(Math.max(25, byGeneralTool(p, kind)));
        assertThat(notWhole).isPositive();
        assertThat(v.check()).anyMatch(f -> f.weight() == Finding.Weight.STOPS);
      }
    }
  }
}
