package lanternshed.core.volume.exfat;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Stream;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.Trials;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.Mending;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** exFAT: what is made here is right for a general check, and what is damaged is mended for it. */
@Tag("trial")
class ExfatTest {
  @TempDir static Path home;
  private static final int STAMP = 0x1D21_6000;
  private static Path card;
  private static Map<String, String> whole;

  @BeforeAll
  static void make() throws IOException {
    card = home.resolve("card");
    whole = fill(card, 24L << 20, 4096, new Random(4));
  }

  private static Map<String, String> fill(Path p, long bytes, int cluster, Random dice)
      throws IOException {
    FileSet b = new FileSet();
    Map<String, String> out = new TreeMap<>();
    for (int d = 0; d < 4; d++) {
      String folder = d == 3 ? "Set 2/Größere Mühle, " + d : "Set " + d;
      b.folder(folder, 0, STAMP);
      for (int f = 0; f < 12; f++) {
        byte[] content = new byte[f == 0 ? 0 : dice.nextInt(30_000)];
        dice.nextBytes(content);
        String path = folder + "/Heron pattern in a long name no. " + f + ".pat";
        b.file(path, content.length, 0x20, STAMP, s -> s.take(content, 0, content.length));
        out.put(path, Tool.sha256(content));
      }
    }
    try (FileMedium m = FileMedium.create(p, bytes / 512)) {
      Samples.exfat(bytes / 512, 0, cluster, "Mill", b, m);
    }
    return out;
  }

  private static String checked(Path p) {
    return Tool.ask("fsck.exfat -n " + p + " 2>&1").text();
  }

  private static Map<String, String> digests(Volume v) {
    Map<String, String> out = new TreeMap<>();
    for (Node n : v.all()) {
      if (!n.folder() && v.notWhole(n).isEmpty()) {
        out.put(n.path(), Tool.sha256(Samples.bytes(v, n)));
      }
    }
    return out;
  }

  private static ExfatVolume open(Medium m) {
    return ExfatVolume.recognise(m).orElseThrow();
  }

  @Test
  void whatIsMadeIsCleanForAGeneralCheckAndComesBackTheSame() throws IOException {
    Random dice = new Random(9);
    for (int cluster : new int[] {512, 4096, 32_768, 131_072}) {
      Path p = home.resolve("made" + cluster);
      Map<String, String> made = fill(p, (16L + dice.nextInt(40)) << 20, cluster, dice);
      assertThat(checked(p)).contains("clean");
      try (FileMedium m = FileMedium.open(p)) {
        ExfatVolume v = open(m);
        assertThat(v.check()).isEmpty();
        assertThat(digests(v)).isEqualTo(made);
        assertThat(v.label()).isEqualTo("Mill");
        // In one piece, and readable from another opening.
        for (Node n : v.all()) {
          assertThat(v.sectorsOf(n)).hasSizeLessThanOrEqualTo(1);
          if (!n.folder()) assertThat(Samples.bytes(open(m), n)).hasSize((int) n.bytes());
        }
      }
    }
  }

  @Test
  void whatDoesNotFitIsSaidBeforeAnythingIsWritten() throws IOException {
    FileSet b = new FileSet();
    b.file("BIG.IMG", 4 << 20, 0, STAMP, s -> {});
    Path p = home.resolve("small");
    try (FileMedium m = FileMedium.create(p, 2048)) {
      assertThatThrownBy(() -> Samples.exfat(2048, 0, 4096, "", b, m))
          .isInstanceOf(VolumeException.class)
          .hasMessageContaining("make it larger");
      assertThat(Bytes.allZero(m.sector(0), 0, 512)).isTrue();
    }
    assertThatThrownBy(() -> b.file("big.img", 1, 0, STAMP, s -> {})).hasMessageContaining("two");
    assertThatThrownBy(() -> ExfatLayout.fresh(100, 0, 32_768, 1)).hasMessageContaining("small");
    FileSet named = new FileSet();
    named.file("a:b", 1, 0, STAMP, s -> {});
    assertThatThrownBy(() -> Samples.exfat(9_000, 0, 4096, "", named, new MemoryMedium(9_000)))
        .hasMessageContaining("\":\"");
  }

  /** A volume under damage. */
  private record Damaged(Medium m, ExfatVolume v) {
    void put(long sector, int at, int... bytes) {
      byte[] b = m.sector(sector);
      for (int i = 0; i < bytes.length; i++) b[at + i] = (byte) bytes[i];
      m.write(sector, 1, b, 0);
    }

    /** Sector and byte of the set of a path. */
    long[] setOf(String path) {
      int slash = path.lastIndexOf('/');
      ExfatVolume.Folder f = v.tree().get(slash < 0 ? "" : path.substring(0, slash));
      int at = f.sets().stream().filter(e -> e.node().path().equals(path)).findFirst().get().at();
      List<long[]> runs = v.sectorsOf(f.node());
      return new long[] {runs.get(0)[0] + at / 512, at % 512};
    }

    void inSet(String path, int at, int... bytes) {
      long[] s = setOf(path);
      put(s[0] + (s[1] + at) / 512, (int) (s[1] + at) % 512, bytes);
    }

    /** Makes the clusters of a path a chain of the FAT. */
    void chain(String path, long... clusters) {
      for (int i = 0; i < clusters.length; i++) {
        long at = v.layout().fatAt() + clusters[i] * 4;
        byte[] b = m.sector(at / 512);
        Bytes.put32(b, (int) (at % 512), i + 1 < clusters.length ? clusters[i + 1] : 0);
        m.write(at / 512, 1, b, 0);
      }
      inSet(path, 33, 1);
    }

    long first(String path) {
      return v.all().stream().filter(n -> n.path().equals(path)).findFirst().orElseThrow().first();
    }

    /** Changes the entry of bitmap or upcase table. */
    void inRoot(int kind, int at, int... bytes) {
      int entry = ExfatVolume.find(v.tree().get("").bytes(), kind);
      put(v.sectorsOf(v.root()).get(0)[0] + entry / 512, entry % 512 + at, bytes);
    }

    long upcaseSector() {
      return v.layout().byteOf(v.table(ExfatEntries.UPCASE).orElseThrow().first()) / 512;
    }

    long bitmapSector() {
      return v.layout().heapAt() / 512;
    }
  }

  private interface Damage {
    void on(Damaged d);
  }

  private record Case(String name, Damage damage, int least, String said) {
    @Override
    public String toString() {
      return name;
    }
  }

  private static final String SOME = "Set 1/Heron pattern in a long name no. 5.pat";
  private static final String OTHER = "Set 1/Heron pattern in a long name no. 6.pat";

  static Stream<Case> cases() {
    return Stream.of(
        new Case("boot sector zeroed", d -> d.m.write(0, 1, new byte[512], 0), 48, "copy is read"),
        new Case("boot code changed", d -> d.put(0, 130, 1, 2), 48, "that of its copy is right"),
        new Case("copy changed", d -> d.put(12, 130, 1, 2), 48, "its copy differ"),
        new Case(
            "checksums zeroed",
            d -> {
              d.put(11, 0, 0);
              d.put(23, 0, 0);
            },
            48,
            "checksum of the boot region is wrong"),
        new Case("not closed", d -> d.put(0, 106, 2), 48, "not closed properly"),
        new Case(
            "a used cluster free in the bitmap",
            d -> d.put(d.bitmapSector(), 3, 0),
            48,
            "used and free in the bitmap"),
        new Case("lost clusters", d -> d.put(d.bitmapSector(), 500, 7), 48, "belong to no file"),
        new Case(
            "the upcase table's checksum",
            d -> d.inRoot(ExfatEntries.UPCASE, 4, 1, 2, 3, 4),
            48,
            "checksum of the upcase table"),
        new Case(
            "the upcase table",
            d -> d.put(d.upcaseSector(), 130, 77),
            48,
            "checksum of the upcase"),
        new Case(
            "the upcase table's length",
            d -> d.inRoot(ExfatEntries.UPCASE, 24, 0x10),
            48,
            "checksum of the upcase table"),
        new Case("a set's checksum", d -> d.inSet(SOME, 2, 1, 2), 48, "checksum of the entry"),
        new Case("a set's letter", d -> d.inSet(SOME, 64 + 2, 'K'), 47, "checksum of the entry"),
        new Case("more written than long", d -> d.inSet(SOME, 32 + 14, 9), 48, "more of it was"),
        new Case("a chain that breaks", d -> d.chain(SOME, d.first(SOME)), 47, "breaks off"),
        new Case(
            "a chain that loops", d -> d.chain(SOME, d.first(SOME), d.first(SOME)), 47, "breaks"),
        new Case(
            "a file outside", d -> d.inSet(SOME, 32 + 20, 0, 0, 0, 9), 47, "breaks off after 0"),
        new Case(
            "two files with one start",
            d -> {
              byte[] b = new byte[4];
              Bytes.put32(b, 0, d.first(OTHER));
              d.inSet(SOME, 32 + 20, b[0], b[1], b[2], b[3]);
            },
            47,
            "shares clusters"),
        new Case(
            "a folder outside", d -> d.inSet("Set 1", 32 + 20, 0, 0, 0, 9), 36, "not gone into"),
        new Case("a set cut short", d -> d.inSet(SOME, 64, 0x41), 47, "belong to no file"),
        new Case(
            "the root's chain cut",
            d -> {
              long at = d.v.layout().fatAt() + d.v.layout().root() * 4;
              d.put(at / 512, (int) (at % 512), 0, 0, 0, 0);
            },
            48,
            "chain of the root folder breaks off"));
  }

  @ParameterizedTest
  @MethodSource("cases")
  void damageIsNamedAndMended(Case c) throws IOException {
    Path p = home.resolve("damaged");
    Files.copy(card, p, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    Map<String, String> before;
    Path mended = home.resolve("mended");
    try (FileMedium m = FileMedium.openWritable(p)) {
      c.damage().on(new Damaged(m, open(m)));
      ExfatVolume v = open(m);
      before = digests(v);
      long kept =
          before.entrySet().stream()
              .filter(e -> e.getValue().equals(whole.get(e.getKey())))
              .count();
      assertThat(kept).isGreaterThanOrEqualTo(c.least());
      assertThat(v.check()).extracting(Finding::what).anyMatch(w -> w.contains(c.said()));
    }
    mend(p, mended, before);
  }

  /** A letter that no name has is told and stays: a new hash would only make it look right. */
  @Test
  void aNameThatNoSystemOpensGetsNoNewHash() throws IOException {
    Path p = home.resolve("odd name");
    Files.copy(card, p);
    try (FileMedium m = FileMedium.openWritable(p)) {
      Damaged d = new Damaged(m, open(m));
      d.inSet(OTHER, 64 + 2, ':');
      ExfatVolume v = open(m);
      assertThat(v.check())
          .extracting(Finding::what)
          .anyMatch(w -> w.contains("has the character \":\": no system opens it"));
      Mending plan = v.mending().orElseThrow();
      assertThat(plan.changes()).noneMatch(c -> c.what().contains("hash"));
      plan.apply(m);
      assertThat(open(m).check()).extracting(Finding::what).anyMatch(w -> w.contains("no system"));
    }
  }

  private static void mend(Path p, Path mended, Map<String, String> before) throws IOException {
    Files.copy(p, mended, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    try (FileMedium from = FileMedium.open(p);
        FileMedium to = FileMedium.openWritable(mended)) {
      Mending plan = open(from).mending().orElseThrow();
      plan.apply(to);
    }
    try (FileMedium m = FileMedium.open(mended)) {
      ExfatVolume v = open(m);
      assertThat(v.check()).isEmpty();
      assertThat(v.mending().orElseThrow().changes()).isEmpty();
      assertThat(digests(v)).containsAllEntriesOf(before);
    }
    assertThat(checked(mended)).contains("clean").doesNotContain("ERROR");
  }

  /** A table that others wrote is kept where it makes sense and every name agrees with it. */
  @Test
  void whatOthersCallUpperCaseIsKeptWhereOnlyItsChecksumIsSpoiled() throws IOException {
    Path p = home.resolve("others");
    byte[] theirs;
    byte[] entry;
    try (FileMedium m = FileMedium.open(card)) {
      ExfatVolume.Folder f = open(m).tree().get("Set 1");
      ExfatVolume.EntrySet e = f.sets().get(0);
      assertThat(e.stream().bytes()).isZero();
      entry = Arrays.copyOfRange(f.bytes(), e.at(), e.at() + e.length());
    }
    try (FileMedium m = FileMedium.create(p, (24 << 20) / 512)) {
      Tool.run("mkfs.exfat -c 4K " + p);
      ExfatVolume v = open(m);
      byte[] root = v.tree().get("").bytes();
      int end = 0;
      while (root[end] != 0) end += ExfatEntries.ENTRY;
      long at = v.sectorsOf(v.root()).get(0)[0];
      byte[] first = m.sector(at);
      System.arraycopy(entry, 0, first, end, entry.length);
      m.write(at, 1, first, 0);
    }
    assertThat(checked(p)).contains("clean");
    try (FileMedium m = FileMedium.openWritable(p)) {
      Damaged d = new Damaged(m, open(m));
      theirs = m.sectors(d.upcaseSector(), 11);
      d.inRoot(ExfatEntries.UPCASE, 4, 1, 2, 3, 4);
    }
    Map<String, String> before =
        Map.of("Heron pattern in a long name no. 0.pat", Tool.sha256(new byte[0]));
    Path mended = home.resolve("mended");
    mend(p, mended, before);
    assertThat(upcase(mended, 11)).isEqualTo(theirs);

    try (FileMedium m = FileMedium.openWritable(p)) {
      new Damaged(m, open(m)).put(new Damaged(m, open(m)).upcaseSector() + 1, 8, 1, 2, 3, 4, 5);
    }
    mend(p, mended, before);
    byte[] own = Upcase.table();
    assertThat(upcase(mended, 11)).startsWith(own);
  }

  /** Its entry may name any cluster, of the root and the bitmap too: nothing of theirs is lost. */
  @Test
  void whereTheUpcaseTableIsSaidToBeNothingOfOthersIsOverwritten() throws IOException {
    List<Long> places = new ArrayList<>();
    try (FileMedium m = FileMedium.open(card)) {
      ExfatVolume v = open(m);
      places.add(v.layout().root());
      places.add(v.table(ExfatEntries.BITMAP).orElseThrow().first());
      for (Node n : v.all()) if (n.first() > 0) places.add(n.first());
    }
    Path p = home.resolve("elsewhere");
    for (int turn = 0; turn < places.size() + 40; turn++) {
      Random dice = new Random(turn);
      long first = turn < places.size() ? places.get(turn) : dice.nextInt(9000);
      Files.copy(card, p, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
      Map<String, String> before;
      try (FileMedium m = FileMedium.openWritable(p)) {
        Damaged d = new Damaged(m, open(m));
        byte[] b = new byte[4];
        Bytes.put32(b, 0, first);
        d.inRoot(ExfatEntries.UPCASE, 20, b[0], b[1], b[2], b[3]);
        if (turn % 3 == 0) d.inRoot(ExfatEntries.UPCASE, 24 + dice.nextInt(8), dice.nextInt(256));
        before = digests(open(m));
      }
      assertThat(before).isEqualTo(whole);
      mend(p, home.resolve("mended"), before);
    }
  }

  /** A chain that comes back to itself ends there, whatever length is said. */
  @Test
  void aRingOfClustersTakesNoMoreThanItHas() throws IOException {
    Path p = home.resolve("ring");
    Files.copy(card, p, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    try (FileMedium m = FileMedium.openWritable(p)) {
      for (int[] ring : new int[][] {{9}, {9, 7}, {9, 40, 8, 30, 12}, {50, 51, 52, 9, 40}}) {
        Damaged d = new Damaged(m, open(m));
        for (int i = 0; i < ring.length; i++) {
          long at = d.v.layout().fatAt() + ring[i] * 4L;
          d.put(at / 512, (int) (at % 512), ring[(i + 1) % ring.length], 0, 0, 0);
        }
        ExfatVolume v = open(m);
        long huge = Long.MAX_VALUE >> 2;
        List<long[]> runs = v.runs(new ExfatVolume.Stream(0, ring[0], huge, huge));
        assertThat(runs.stream().mapToLong(r -> r[1]).sum())
            .isBetween((long) ring.length, 3L * ring.length);
        d.inRoot(ExfatEntries.UPCASE, 20, ring[0], 0, 0, 0);
        assertThat(v.check()).isNotEmpty();
      }
    }
  }

  private static byte[] upcase(Path p, int sectors) throws IOException {
    try (FileMedium m = FileMedium.open(p)) {
      return m.sectors(new Damaged(m, open(m)).upcaseSector(), sectors);
    }
  }

  @Test
  void randomScratchesAreMendedForAGeneralCheck() throws IOException {
    List<String> odd = new ArrayList<>();
    for (int turn = 0; turn < Trials.turns(40, 2000); turn++) {
      Random dice = new Random(turn);
      Path p = home.resolve("scratched");
      Files.copy(card, p, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
      Map<String, String> before;
      boolean clean;
      try (FileMedium m = FileMedium.openWritable(p)) {
        ExfatVolume v = open(m);
        List<long[]> places = new ArrayList<>();
        v.tree().values().forEach(f -> places.addAll(v.sectorsOf(f.node())));
        places.add(new long[] {v.layout().fatAt() / 512, 1});
        places.add(new long[] {v.layout().heapAt() / 512, 1});
        places.add(new long[] {new Damaged(m, v).upcaseSector(), 2});
        long[] place = places.get(dice.nextInt(places.size()));
        long lba = place[0] + dice.nextInt((int) place[1]);
        byte[] b = m.sector(lba);
        b[dice.nextInt(512)] ^= (byte) (1 << dice.nextInt(8));
        m.write(lba, 1, b, 0);
        ExfatVolume now = open(m);
        before = digests(now);
        clean = now.check().isEmpty();
      }
      if (clean && !checked(p).contains("clean")) odd.add(turn + ": " + checked(p));
      try (FileMedium m = FileMedium.open(p)) {
        ExfatRepair r = ExfatRepair.plan(open(m));
        // What cannot be mended is said.
        if (r.changes().size() < r.findings().size()) continue;
      }
      mend(p, home.resolve("mended"), before);
    }
    assertThat(odd).isEmpty();
  }
}
