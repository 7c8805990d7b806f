package lanternshed.core.survey;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Stream;
import lanternshed.core.Samples;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.table.TableMaker;
import lanternshed.core.table.mbr.MbrWriter;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.fat.FatKind;
import lanternshed.core.volume.fat.Floppy;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

class SurveyorTest {
  private static final Geometry G = new Geometry(240, 8, 32);

  private static void edit(MemoryMedium m, long sector, Consumer<byte[]> change) {
    byte[] b = m.sector(sector);
    change.accept(b);
    m.write(sector, 1, b, 0);
  }

  private static List<String> rules(Survey s) {
    return s.allFindings().stream().map(Finding::rule).toList();
  }

  @Test
  void aWholeDriveIsSurveyedToTheNumbersThatThePlanNeeds() {
    Survey s = Surveyor.survey(Samples.drive(G));
    assertThat(s.allFindings()).isEmpty();
    assertThat(s.sectors()).isEqualTo(G.total());
    Survey.Found v = s.volumes().get(0);
    assertThat(v.number()).isEqualTo(1);
    assertThat(v.active()).isTrue();
    assertThat(v.bootCode()).isTrue();
    assertThat(v.files()).isEqualTo(62);
    assertThat(v.folders()).isEqualTo(4);
    assertThat(v.sizes()).hasSize(62);
    assertThat(v.bytes()).isEqualTo(java.util.Arrays.stream(v.sizes()).sum());
    assertThat(v.systemFiles()).containsExactly("LOOMIO.SYS", "LOOMDOS.SYS");
    assertThat(v.rootEntries()).isEqualTo(6);
    long taken = 4;
    for (long n : v.sizes()) taken += (n + v.use().clusterBytes() - 1) / v.use().clusterBytes();
    assertThat(v.use().clusters() - v.use().free()).isEqualTo(taken);
  }

  @Test
  void theGeometryComesFromTableAndBootSectorAndTheyAgree() {
    Survey s = Surveyor.survey(Samples.drive(G));
    assertThat(s.geometry()).hasSize(2);
    assertThat(s.agreedGeometry()).isPresent();
    assertThat(s.geometry())
        .allSatisfy(
            g -> {
              assertThat(g.heads()).isEqualTo(8);
              assertThat(g.sectors()).isEqualTo(32);
              assertThat(g.evidence()).isNotBlank();
            });
  }

  /** What is done to the drive, and the rules that must speak. */
  static Stream<Arguments> faults() {
    return Stream.of(
        fault("heads differ", m -> edit(m, 32, b -> Bytes.put16(b, 0x1A, 16)), "G-15"),
        fault("hidden differ", m -> edit(m, 32, b -> Bytes.put32(b, 0x1C, 0)), "B-6"),
        fault("type differs", m -> edit(m, 0, b -> b[450] = 1), "P-4"),
        fault("unknown type", m -> edit(m, 0, b -> b[450] = 0x52), "P-4"),
        fault("not active", m -> edit(m, 0, b -> b[446] = 0), "P-1"),
        fault("no mark", m -> edit(m, 0, b -> b[511] = 0), "P-5"),
        fault("end past the medium", m -> edit(m, 0, b -> Bytes.put32(b, 458, 90_000)), "P-2"),
        fault("start C/H/S", m -> edit(m, 0, b -> b[447] = 3), "P-3"),
        fault("a modern guard", m -> edit(m, 0, b -> b[450] = (byte) 0xEE), "P-5"),
        fault("no boot sector", m -> m.write(32, 1, new byte[512], 0), "P-4"),
        fault("FATs differ", m -> edit(m, 33, b -> b[40] ^= 1), "F-9"));
  }

  private static Arguments fault(String name, Consumer<MemoryMedium> how, String rule) {
    return Arguments.of(name, how, rule);
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("faults")
  void everyFaultIsSaidByItsRuleInOneSentence(
      String name, Consumer<MemoryMedium> how, String rule) {
    MemoryMedium m = Samples.drive(G);
    how.accept(m);
    Survey s = Surveyor.survey(m);
    assertThat(rules(s)).contains(rule);
    assertThat(s.allFindings())
        .allSatisfy(
            f -> {
              assertThat(f.what()).isNotBlank().endsWith(".");
              assertThat(f.where()).isNotBlank();
              if (f.weight() != Finding.Weight.NOTE) assertThat(f.todo()).isNotBlank();
            });
    assertThat(s.allFindings())
        .isSortedAccordingTo(java.util.Comparator.comparing(Finding::weight));
  }

  @Test
  void aFloppyHasNoTableAndItsVolumeIsNumberNought() {
    MemoryMedium m = new MemoryMedium(Floppy.F720K.geometry().total());
    Samples.write(Floppy.F720K.layout("PATTERN3", 5), new FileSet(), m, new byte[0]);
    Survey s = Surveyor.survey(m);
    assertThat(s.table()).isEmpty();
    assertThat(s.volumes()).hasSize(1);
    assertThat(s.volumes().get(0).number()).isZero();
    assertThat(s.volumes().get(0).label()).isEqualTo("PATTERN3");
    assertThat(rules(s)).containsExactly("P-30");
    assertThat(s.findings().get(0).weight()).isEqualTo(Finding.Weight.NOTE);
  }

  @Test
  void bytesBehindTheLastSectorAreANoteWhereEverythingEndsBeforeThem() {
    Geometry g = new Geometry(60, 16, 63);
    Survey whole = Surveyor.survey(Samples.drive(g));
    assertThat(whole.withTail(0)).isSameAs(whole);
    assertThat(whole.withTail(64).allFindings())
        .anyMatch(f -> f.rule().equals("U-1") && f.weight() == Finding.Weight.NOTE);
    Survey cut = Surveyor.survey(new SliceMedium(Samples.drive(g), 0, 30_000));
    assertThat(cut.withTail(64).allFindings())
        .anyMatch(f -> f.rule().equals("U-1") && f.weight() == Finding.Weight.WRONG);
  }

  /** What lies there is said, not what a FAT would have there where nothing looks like one. */
  @Test
  void anEntryOverNothingSaysWhatBeginsThere() {
    assertThat(overNothing(b -> {})).contains("its first 64 sectors hold only zeros");
    assertThat(overNothing(b -> b[7] = 1)).endsWith("nothing that is known begins there.");
    assertThat(overNothing(b -> b[0] = (byte) 0xE9)).contains("This is no FAT boot sector");
  }

  /** An entry may begin where its medium ends, or have no length: that is told and no failure. */
  @Test
  void anEntryWithoutASectorIsToldAsWell() {
    for (long[] e : new long[][] {{G.total(), 32}, {G.total() - 1, 1}, {32, 0}, {G.total(), 0}}) {
      MemoryMedium m = Samples.drive(G);
      edit(
          m,
          0,
          b -> {
            Bytes.put32(b, 454, e[0]);
            Bytes.put32(b, 458, e[1]);
          });
      m.write(G.total() - 1, 1, new byte[512], 0);
      assertThat(Surveyor.survey(m).allFindings()).as(e[0] + "+" + e[1]).isNotEmpty();
    }
  }

  private static String overNothing(Consumer<byte[]> first) {
    MemoryMedium m = Samples.drive(G);
    m.write(32, 64, new byte[64 * 512], 0);
    edit(m, 32, first);
    Survey.Found v = Surveyor.survey(m).volumes().get(0);
    assertThat(v.readable()).isFalse();
    return v.findings().get(0).what();
  }

  @Test
  void severalVolumesAreReadInTheOrderOfTheTable() {
    Geometry g = new Geometry(400, 16, 63);
    MemoryMedium m = new MemoryMedium(g.total());
    long[][] places = {{63, 100_737}, {100_863, 100_737}, {201_663, 100_737}};
    for (int i = 0; i < 3; i++) {
      Samples.write(
          Samples.layout(g, places[i][0], places[i][1], FatKind.FAT16, 0, "VOL" + i),
          new FileSet(),
          new SliceMedium(m, places[i][0], places[i][1]),
          new byte[0]);
    }
    new MbrWriter()
        .write(
            m,
            g,
            new byte[0],
            1,
            List.of(
                new TableMaker.Slot(63, 100_737, "06", true, false, 0),
                new TableMaker.Slot(100_863, 100_737, "06", false, true, 100_800),
                new TableMaker.Slot(201_663, 100_737, "06", false, true, 201_600)));
    Survey s = Surveyor.survey(m);
    assertThat(s.volumes()).extracting(Survey.Found::label).containsExactly("VOL0", "VOL1", "VOL2");
    assertThat(s.volumes()).extracting(Survey.Found::number).containsExactly(1, 5, 6);
    assertThat(s.allFindings()).isEmpty();
  }

  @Test
  void nothingOnAMediumIsSaidAndNotGuessed() {
    assertThat(Surveyor.survey(new MemoryMedium(0)).findings().get(0).what()).contains("empty");
    Survey zero = Surveyor.survey(new MemoryMedium(1000));
    assertThat(zero.findings().get(0).what()).contains("all zero");
    assertThat(zero.findings().get(0).weight()).isEqualTo(Finding.Weight.STOPS);
    MemoryMedium noise = MemoryMedium.of(Samples.content(3, 51_200));
    assertThat(Surveyor.survey(noise).findings().get(0).what()).contains("neither");
  }

  // ---- holes ------------------------------------------------------------------------------------

  @Test
  void everyHoleIsNamedOnceByWhatLiesThere() {
    MemoryMedium m = Samples.drive(G);
    var v = Samples.volume(m, G);
    var l = v.layout();
    var file =
        v.all().stream().filter(n -> n.path().equals("SET2/P9.PAT")).findFirst().orElseThrow();
    var folder = v.all().stream().filter(n -> n.path().equals("SET2")).findFirst().orElseThrow();
    long fileAt = 32 + v.sectorsOf(file).get(0)[0];
    long folderAt = 32 + v.sectorsOf(folder).get(0)[0];
    long freeAt = G.total() - 10;
    List<long[]> holes =
        List.of(
            new long[] {0, 1},
            new long[] {32, 1},
            new long[] {32 + l.fatStart(), 3},
            new long[] {32 + l.rootStart(), 2},
            new long[] {folderAt, 1},
            new long[] {fileAt, 5},
            new long[] {freeAt, 4},
            new long[] {5, 2});
    assertThat(Holes.name(m, holes))
        .containsExactlyInAnyOrder(
            new Holes.Hit("table", "", 1, 0, 0),
            new Holes.Hit("boot sector", "", 1, 0, 32),
            new Holes.Hit("FAT", "", 3, 0, 32 + l.fatStart()),
            new Holes.Hit("root folder", "", 2, 0, 32 + l.rootStart()),
            new Holes.Hit("folder", "SET2", 1, 0, folderAt),
            new Holes.Hit("file", "SET2/P9.PAT", 5, file.bytes(), fileAt),
            new Holes.Hit("free space", "", 4, 0, freeAt),
            new Holes.Hit("outside", "", 2, 0, 5));
  }

  @Test
  void aHoleOverManyThingsIsSharedOut() {
    MemoryMedium m = Samples.drive(G);
    List<Holes.Hit> hits = Holes.name(m, List.of(new long[] {0, G.total()}));
    assertThat(hits.stream().mapToLong(Holes.Hit::sectors).sum()).isEqualTo(G.total());
    assertThat(hits.stream().filter(h -> h.kind().equals("file")).count()).isGreaterThan(50);
    assertThat(Holes.name(m, List.of())).isEmpty();
  }

  @Test
  void holesInWhatWouldNameThemAreStillCounted() {
    MemoryMedium m = Samples.drive(G);
    m.write(32, 1, new byte[512], 0);
    List<Holes.Hit> hits = Holes.name(m, List.of(new long[] {32, 1}, new long[] {5000, 7}));
    assertThat(hits.stream().mapToLong(Holes.Hit::sectors).sum()).isEqualTo(8);
  }
}
