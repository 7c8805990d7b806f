package lanternshed.core.volume;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.Consumer;
import java.util.stream.Stream;
import lanternshed.core.Samples;
import lanternshed.core.Trials;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.volume.fat.FatFormat;
import lanternshed.core.volume.fat.FatGrow;
import lanternshed.core.volume.fat.FatKind;
import lanternshed.core.volume.fat.FatLayout;
import lanternshed.core.volume.fat.FatMaker;
import lanternshed.core.volume.fat.FatVolume;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

@Tag("trial")
class FatTest {
  static final Geometry G = new Geometry(100, 16, 63);

  private static FatVolume volume(MemoryMedium drive) {
    return Samples.volume(drive, G);
  }

  // ---- sizes ------------------------------------------------------------------------------------

  @ParameterizedTest
  @CsvSource({"1,FAT12", "4084,FAT12", "4085,FAT16", "65524,FAT16", "65525,FAT32"})
  void theKindFollowsFromTheClustersAlone(long clusters, FatKind kind) {
    assertThat(FatKind.of(clusters)).isEqualTo(kind);
  }

  @ParameterizedTest
  @CsvSource({
    "128,2048",
    "129,4096",
    "256,4096",
    "257,8192",
    "512,8192",
    "513,16384",
    "1023,16384",
    "1024,32768",
    "1025,32768",
    "2047,32768"
  })
  // At exactly 1024 MiB clusters of 16 KiB would be 65 518, within the margin of the threshold.
  void theDefaultClusterFollowsTheSize(long mib, int cluster) {
    FatLayout l = Samples.layout(G, 63, mib * 2048, FatKind.FAT16, 0, "X");
    assertThat(l.clusterBytes()).isEqualTo(cluster);
    assertThat(l.clusters()).isBetween(4085 + 16, 65_524 - 16);
    assertThat(FatFormat.sum(l).result()).isEqualTo(l.clusters());
  }

  @Test
  void sixteenClustersAreKeptClearOfBothThresholds() {
    for (long s = 8200; s < 8400; s++) {
      Maker.Wish w = Samples.wish("FAT12", s, 1024, G, 1, "X", 0);
      try {
        assertThat(FatFormat.layout(w).clusters()).isLessThanOrEqualTo(4084 - 16);
      } catch (VolumeException e) {
        assertThat(e).hasMessageContaining("not possible");
      }
    }
    Maker.Wish tooBig = Samples.wish("FAT16", 5_000_000, 0, G, 1, "X", 0);
    assertThatThrownBy(() -> FatFormat.layout(tooBig)).hasMessageContaining("65\u202F524 clusters");
  }

  @ParameterizedTest
  @CsvSource({
    "patterns, PATTERNS",
    "' My vol ', MY VOL",
    "averylonglabelindeed, AVERYLONGLA",
    "a/b.c*, A_B_C_",
    "'', ''",
    "ÄÖ, __"
  })
  void aLabelIsMadeOneThatEverySystemShows(String wanted, String label) {
    assertThat(FatFormat.label(wanted)).isEqualTo(label);
  }

  // ---- fit and names ----------------------------------------------------------------------------

  @Test
  void itFitsToTheLastClusterAndNotOneMore() {
    FatLayout l = Samples.layout(G, 63, 20_000, FatKind.FAT16, 2048, "");
    long all = (long) l.clusters() * l.clusterBytes();
    FileSet exact = new FileSet();
    exact.file("A.BIN", all, 0, 0, s -> s.take(new byte[(int) all], 0, (int) all));
    assertThat(fits(l, exact)).isTrue();
    MemoryMedium m = new MemoryMedium(20_000);
    Samples.write(l, exact, m, new byte[0]);
    assertThat(FatVolume.open(m).use().free()).isZero();
    assertThat(FatVolume.open(m).check()).isEmpty();
    FileSet more = new FileSet();
    more.file("A.BIN", all + 1, 0, 0, s -> {});
    assertThat(fits(l, more)).isFalse();
    MemoryMedium untouched = new MemoryMedium(20_000);
    assertThatThrownBy(() -> Samples.write(l, more, untouched, new byte[0]))
        .hasMessageContaining("make it larger");
    assertThat(untouched.sector(0)).containsOnly(0);
  }

  private static boolean fits(FatLayout l, FileSet files) {
    return new FatMaker().fit(FatMaker.of(l, false, 0), files).fits();
  }

  @Test
  void theRootHasRoomForItsEntriesAndTheLabel() {
    FatLayout l = Samples.layout(G, 63, 20_000, FatKind.FAT16, 2048, "LABEL");
    FileSet b = new FileSet();
    for (int i = 0; i < 511; i++) Samples.file(b, "F" + i, 0, new byte[0]);
    assertThat(fits(l, b)).isTrue();
    Samples.file(b, "ONEMORE", 0, new byte[0]);
    assertThat(fits(l, b)).isFalse();
    assertThatThrownBy(() -> Samples.write(l, b, new MemoryMedium(20_000), new byte[0]))
        .hasMessageContaining("root folder has 512");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "TOOLONGNAME.A",
        "A.LONG",
        "lower.txt",
        "CON",
        "LPT1.TXT",
        "A B.TXT",
        "A+B",
        ".X",
        "A/../B"
      })
  void namesThatNoSystemOpensAreRefused(String name) {
    FatLayout l = Samples.layout(G, 63, 20_000, FatKind.FAT16, 0, "");
    FileSet b = new FileSet();
    assertThatThrownBy(
            () -> {
              b.file(name, 0, 0, 0, s -> {});
              fits(l, b);
            })
        .isInstanceOf(VolumeException.class);
  }

  @Test
  void aSourceThatGivesAnotherLengthIsRefused() {
    FatLayout l = Samples.layout(G, 63, 20_000, FatKind.FAT16, 0, "");
    FileSet b = new FileSet();
    b.file("A.BIN", 10, 0, 0, s -> s.take(new byte[9], 0, 9));
    assertThatThrownBy(() -> Samples.write(l, b, new MemoryMedium(20_000), new byte[0]))
        .hasMessageContaining("announced");
    assertThatThrownBy(() -> b.file("A.BIN", 1, 0, 0, s -> {}))
        .hasMessageContaining("two of the name");
  }

  @Test
  void systemFilesStandFirstAndContiguous() {
    FatVolume v = volume(Samples.drive(G));
    List<Node> root = v.list(v.root());
    assertThat(root.get(0).name()).isEqualTo("LOOMIO.SYS");
    assertThat(root.get(1).name()).isEqualTo("LOOMDOS.SYS");
    assertThat(root.get(0).first()).isEqualTo(2);
    assertThat(v.label()).isEqualTo("PATTERNS");
  }

  // ---- damage -----------------------------------------------------------------------------------

  record Damaged(MemoryMedium drive, FatVolume before) {
    long sector(long inVolume) {
      return 63 + inVolume;
    }

    void edit(long sector, Consumer<byte[]> change) {
      byte[] b = drive.sector(sector);
      change.accept(b);
      drive.write(sector, 1, b, 0);
    }

    /** Sets an entry in both FATs. */
    void fat(int cluster, int value) {
      FatLayout l = before.layout();
      for (int copy = 0; copy < 2; copy++) {
        edit(
            sector(l.fatStart() + copy * l.fatSectors() + cluster / 256),
            b -> Bytes.put16(b, cluster % 256 * 2, value));
      }
    }

    Node node(String path) {
      return before.all().stream().filter(n -> n.path().equals(path)).findFirst().orElseThrow();
    }

    long root() {
      return sector(before.layout().rootStart());
    }
  }

  static Stream<Arguments> damages() {
    return Stream.of(
        damage("FATs differ", d -> d.edit(64, b -> b[100] ^= 1), "The two FATs differ"),
        damage("media byte", d -> d.fat(0, 0xFFF0), "media byte F0"),
        damage("dirty", d -> d.fat(1, 0x7FFF), "not closed properly"),
        damage("errors", d -> d.fat(1, 0xBFFF), "read or write errors"),
        damage(
            "loop",
            d ->
                d.fat((int) d.node("SET0/P9.PAT").first() + 2, (int) d.node("SET0/P9.PAT").first()),
            "comes back to itself"),
        damage(
            "cross-link",
            d -> d.fat((int) d.node("SET0/P9.PAT").first(), (int) d.node("SET0/P10.PAT").first()),
            "belongs to both"),
        damage(
            "outside",
            d -> d.fat((int) d.node("SET1/P8.PAT").first(), 0xFFE0),
            "leaves the volume"),
        damage(
            "into free", d -> d.fat((int) d.node("SET1/P8.PAT").first(), 0), "runs into the free"),
        damage("into bad", d -> d.fat((int) d.node("SET1/P8.PAT").first(), 0xFFF7), "marked bad"),
        damage("lost", d -> d.fat(d.before().layout().clusters(), 0xFFFF), "belong to no file"),
        damage("bad mark", d -> d.fat(d.before().layout().clusters(), 0xFFF7), "is marked bad"),
        damage("length", d -> d.edit(d.root(), b -> Bytes.put32(b, 28, 200_000)), "long, which is"),
        damage(
            "no cluster",
            d -> d.edit(d.root(), b -> Bytes.put16(b, 26, 0)),
            "has no first cluster"),
        damage("lower case", d -> d.edit(d.root(), b -> b[0] = 'l'), "lower-case letter"),
        damage("path in name", d -> d.edit(d.root(), b -> b[2] = '/'), "has the character /"),
        damage("control", d -> d.edit(d.root(), b -> b[2] = 3), "control character 03"),
        damage(
            "twice", d -> d.edit(d.root(), b -> System.arraycopy(b, 0, b, 32, 11)), "stands twice"),
        damage(
            "dot",
            d ->
                d.edit(
                    d.sector(d.before().layout().sectorOf(d.node("SET2").first())),
                    b -> b[26] ^= 1),
            "points to cluster"),
        damage(
            "no dots",
            d ->
                d.edit(
                    d.sector(d.before().layout().sectorOf(d.node("SET2").first())),
                    b -> b[0] = 'X'),
            "does not begin with"),
        damage("label", d -> d.edit(63, b -> b[0x2B] = 'Q'), "says the label is QATTERNS"),
        damage("past end", d -> d.edit(63, b -> Bytes.put32(b, 0x20, 200_000)), "is not here"));
  }

  private static Arguments damage(String name, Consumer<Damaged> how, String said) {
    return Arguments.of(name, how, said);
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("damages")
  @Timeout(10)
  void everyPlantedDamageIsFound(String name, Consumer<Damaged> how, String said) {
    MemoryMedium drive = Samples.drive(G);
    assertThat(volume(drive).check()).isEmpty();
    how.accept(new Damaged(drive, volume(drive)));
    assertThat(volume(drive).check()).extracting(Finding::what).anyMatch(w -> w.contains(said));
    // A survey of it says the same and goes on to the end.
    assertThat(Surveyor.survey(drive).volumes()).hasSize(1);
  }

  @Test
  @Timeout(60)
  void randomDamageNeverThrowsOrHangs() {
    MemoryMedium whole = Samples.drive(G);
    byte[] bytes = whole.sectors(0, 700);
    Random random = new Random(3);
    for (int i = 0; i < Trials.turns(80, 4000); i++) {
      byte[] b = bytes.clone();
      for (int k = 0; k < 60; k++)
        b[63 * 512 + random.nextInt(160 * 512)] = (byte) random.nextInt();
      MemoryMedium m = new MemoryMedium(G.total());
      m.write(0, 700, b, 0);
      var s = Surveyor.survey(m);
      for (var f : s.volumes()) {
        if (!f.readable()) continue;
        FatVolume v = FatVolume.open(new SliceMedium(m, f.start(), f.length()));
        for (Node n : v.all()) {
          assertThat(n.path()).doesNotContain("..").doesNotContain("\\");
          try {
            if (!n.folder() && n.bytes() < 10_000_000) v.read(n, (x, at, len) -> {});
          } catch (VolumeException e) {
            assertThat(e).hasMessageContaining(n.name().isEmpty() ? "" : " ");
          }
        }
      }
    }
  }

  // ---- growing ----------------------------------------------------------------------------------

  @Test
  void aGrownVolumeKeepsEveryFileAndItsClusters() {
    FatVolume old = volume(Samples.drive(G));
    Map<String, String> before = Samples.digests(old);
    MemoryMedium target = new MemoryMedium(200_000);
    new FatGrow()
        .grow(old, target, 200_000, new Geometry(200, 16, 63), 63, new byte[0], (n, all) -> {});
    FatVolume grown = FatVolume.open(target);
    assertThat(grown.check()).isEmpty();
    assertThat(Samples.digests(grown)).isEqualTo(before);
    assertThat(grown.layout().clusterBytes()).isEqualTo(old.layout().clusterBytes());
    assertThat(grown.use().free()).isGreaterThan(old.use().free());
    long most = 65_524L * old.layout().sectorsPerCluster() + 600;
    assertThatThrownBy(() -> FatGrow.layout(old.layout(), most + 10_000, G, 63))
        .hasMessageContaining("rebuild with larger clusters");
    assertThatThrownBy(() -> FatGrow.layout(old.layout(), 1000, G, 63))
        .hasMessageContaining("not made smaller");
  }
}
