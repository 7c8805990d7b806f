package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.AdditionalAnswers.delegatesTo;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.ArgumentMatchers.longThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.fat.FatVolume;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ComparisonTest {
  @TempDir private Path folder;

  private static MemoryMedium filled(long sectors) {
    MemoryMedium m = new MemoryMedium(sectors);
    byte[] b = Samples.content(1, (int) sectors * 512);
    m.write(0, (int) sectors, b, 0);
    return m;
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2047, 2048, 2049, 5000})
  void theFirstDifferenceIsFoundWhereverItLies(long sectors) {
    for (long at : new long[] {0, sectors / 2, sectors - 1}) {
      MemoryMedium a = filled(sectors);
      MemoryMedium b = filled(sectors);
      assertThat(Comparison.of(a, b, 0, Progress.NONE, "").identical()).isTrue();
      byte[] s = b.sector(at);
      s[511] ^= 1;
      b.write(at, 1, s, 0);
      Comparison c = Comparison.of(a, b, 0, Progress.NONE, "");
      assertThat(c.first()).isEqualTo(at);
      assertThat(c.differing()).isEqualTo(1);
      assertThat(c.identical()).isFalse();
    }
  }

  @Test
  void neighboursAreOneRangeAndALongerOneIsSaid() {
    MemoryMedium a = filled(300);
    MemoryMedium b = new MemoryMedium(310);
    b.write(0, 300, a.sectors(0, 300), 0);
    b.write(10, 3, new byte[3 * 512], 0);
    b.write(20, 1, new byte[512], 0);
    Comparison c = Comparison.of(a, b, 0, Progress.NONE, "");
    assertThat(c.ranges()).containsExactly(new long[] {10, 3}, new long[] {20, 1});
    assertThat(c.longer()).isEqualTo(-10);
    assertThat(c.compared()).isEqualTo(300);
  }

  @Test
  void thousandsOfDifferencesAreCountedAndTheFirstHundredListed() {
    MemoryMedium a = filled(4000);
    MemoryMedium b = filled(4000);
    for (long s = 0; s < 4000; s += 2) b.write(s, 1, new byte[512], 0);
    Comparison c = Comparison.of(a, b, 0, Progress.NONE, "");
    assertThat(c.differing()).isEqualTo(2000);
    assertThat(c.ranges()).hasSize(100);
  }

  @Test
  void onlyChunksWhoseDigestsDifferAreReadAndEveryRunIsTold() {
    MemoryMedium a = filled(100_000);
    MemoryMedium b = filled(100_000);
    List<String> x = Digests.of(a, Progress.NONE, "").chunks();
    for (long s : new long[] {32_767, 32_768, 40_000, 99_999}) b.write(s, 1, new byte[512], 0);
    List<String> y = Digests.of(b, Progress.NONE, "").chunks();
    List<Long> runs = new ArrayList<>();
    Medium watched = mock(Medium.class, delegatesTo(a));
    Comparison c =
        Comparison.byChunk(
            watched, b, x, y, (start, n) -> runs.addAll(List.of(start, n)), Progress.NONE);
    assertThat(c.differing()).isEqualTo(4);
    assertThat(c.chunks()).isEqualTo(3);
    verify(watched, never()).read(longThat(lba -> lba / 32_768 == 2), anyInt(), any(), anyInt());
    assertThat(runs).containsExactly(32_767L, 2L, 40_000L, 1L, 99_999L, 1L);
  }

  @Test
  void digestsThatHideADifferenceAreNotBelieved() {
    MemoryMedium a = filled(2000);
    MemoryMedium b = filled(2000);
    b.write(7, 1, new byte[512], 0);
    List<String> one = List.of("the same");
    Comparison c = Comparison.byChunk(a, b, one, one, Comparison.Runs.NONE, Progress.NONE);
    assertThat(c.first()).isEqualTo(7);
  }

  @Test
  void twinsAreFoundByContentAndTheMostWastefulStandFirst() {
    Geometry g = new Geometry(60, 16, 63);
    MemoryMedium drive = Samples.drive(g);
    FatVolume v = Samples.volume(drive, g);
    for (String to : List.of("SET1/P5.PAT", "SET2/P5.PAT", "SET3/P9.PAT")) {
      long[] from = v.sectorsOf(node(v, "SET0" + to.substring(4))).get(0);
      long at = g.sectors() + v.sectorsOf(node(v, to)).get(0)[0];
      drive.write(at, (int) from[1], drive.sectors(g.sectors() + from[0], (int) from[1]), 0);
    }
    List<Twins> twins = Twins.of(v, Progress.NONE);
    Map<String, List<String>> expected =
        v.all().stream()
            .filter(n -> !n.folder() && n.bytes() > 0)
            .collect(
                Collectors.groupingBy(
                    n -> Tool.sha256(Samples.bytes(v, n)),
                    Collectors.mapping(Node::path, Collectors.toList())));
    expected.values().removeIf(l -> l.size() < 2);
    assertThat(twins).isNotEmpty();
    assertThat(twins).hasSameSizeAs(expected.keySet());
    for (Twins t : twins) assertThat(t.paths()).isEqualTo(expected.get(t.sha256()));
    assertThat(twins).isSortedAccordingTo(Comparator.comparingLong(Twins::spare).reversed());
  }

  @Test
  void aVolumeLaidAnewHasOtherSectorsAndTheSameFiles() {
    Geometry g = new Geometry(60, 16, 63);
    Geometry other = new Geometry(90, 8, 63);
    MemoryMedium one = Samples.drive(g);
    MemoryMedium two = Samples.drive(other);
    FatVolume a = Samples.volume(one, g);
    FatVolume b = Samples.volume(two, other);
    FileComparison same = FileComparison.of(a, b, FileComparison.Known.NOTHING, Progress.NONE);
    assertThat(same.same()).isEqualTo(62);
    assertThat(same.differing()).isEmpty();
    long at = other.sectors() + b.sectorsOf(node(b, "SET1/P9.PAT")).get(0)[0];
    two.write(at, 1, new byte[512], 0);
    FileComparison changed = FileComparison.of(a, b, FileComparison.Known.NOTHING, Progress.NONE);
    assertThat(changed.differing()).containsExactly("SET1/P9.PAT");
    assertThat(changed.same()).isEqualTo(61);
  }

  @Test
  void whatLiesInTheSameUntouchedSectorsIsNotRead() {
    Geometry g = new Geometry(60, 16, 63);
    FatVolume a = Samples.volume(Samples.drive(g), g);
    FatVolume b = Samples.volume(Samples.drive(g), g);
    FileComparison.Known inPlace =
        FileComparison.inPlace(a, b, n -> !n.path().equals("SET0/P3.PAT"));
    assertThat(inPlace.same(node(a, "SET0/P4.PAT"), node(b, "SET0/P4.PAT"))).isTrue();
    assertThat(inPlace.same(node(a, "SET0/P3.PAT"), node(b, "SET0/P3.PAT"))).isFalse();
    assertThat(inPlace.same(node(a, "SET0/P4.PAT"), node(b, "SET0/P5.PAT"))).isFalse();
  }

  @Test
  void whatOnlyOneHasIsNamed() {
    Node x = new Node("X", "X", "X", false, 0, 0, 0, 0);
    Node y = new Node("Y", "Y", "Y", false, 0, 0, 0, 0);
    Volume a = mock(Volume.class);
    Volume b = mock(Volume.class);
    when(a.all()).thenReturn(List.of(x));
    when(b.all()).thenReturn(List.of(y));
    FileComparison c = FileComparison.of(a, b, FileComparison.Known.NOTHING, Progress.NONE);
    assertThat(c).isEqualTo(new FileComparison(0, List.of(), List.of("X"), List.of("Y")));
    Node longer = new Node("X", "X", "X", false, 5, 0, 0, 0);
    when(b.all()).thenReturn(List.of(longer));
    assertThat(FileComparison.of(a, b, (n, m) -> true, Progress.NONE).differing())
        .as("another length is another file, wherever it lies")
        .containsExactly("X");
  }

  private static Node node(FatVolume v, String path) {
    return v.all().stream().filter(n -> n.path().equals(path)).findFirst().orElseThrow();
  }

  // ---- digests ----------------------------------------------------------------------------------

  @ParameterizedTest
  @ValueSource(longs = {1, 2048, 32_767, 32_768, 32_769, 70_000})
  void digestsAreThoseOfTheWholeAndOfEachChunk(long sectors) throws IOException {
    MemoryMedium m = filled(sectors);
    byte[] all = m.sectors(0, (int) sectors);
    Digests d = Digests.of(m, Progress.NONE, "");
    assertThat(d.sha256()).isEqualTo(Tool.sha256(all));
    java.util.zip.CRC32 crc = new java.util.zip.CRC32();
    crc.update(all);
    assertThat(d.crc32()).isEqualTo(crc.getValue());
    int chunk = Digests.CHUNK_BYTES;
    assertThat(d.chunks()).hasSize((all.length + chunk - 1) / chunk);
    Path file = Files.write(folder.resolve("all"), all);
    assertThat(d.chunks()).isEqualTo(Tool.chunkDigests(file));
  }

  @Test
  void anotherByteIsPlacedInItsChunk() {
    MemoryMedium m = filled(70_000);
    Digests before = Digests.of(m, Progress.NONE, "");
    m.write(40_000, 1, new byte[512], 0);
    Digests after = Digests.of(m, Progress.NONE, "");
    assertThat(after.sha256()).isNotEqualTo(before.sha256());
    assertThat(after.chunks().get(0)).isEqualTo(before.chunks().get(0));
    assertThat(after.chunks().get(1)).isNotEqualTo(before.chunks().get(1));
    assertThat(after.chunks().get(2)).isEqualTo(before.chunks().get(2));
  }

  @Test
  void progressIsToldToTheEndAndCanStopTheWork() {
    long[] last = {0, 0};
    Digests.of(
        filled(10_000),
        (phase, done, total) -> {
          assertThat(phase).isEqualTo("reading");
          assertThat(done).isGreaterThan(last[0]);
          last[0] = done;
          last[1] = total;
        },
        "reading");
    assertThat(last[0]).isEqualTo(last[1]).isEqualTo(10_000 * 512);
    org.assertj.core.api.Assertions.assertThatThrownBy(
            () ->
                Comparison.of(
                    filled(10_000),
                    filled(10_000),
                    0,
                    (p, done, total) -> {
                      throw new StoppedException("enough");
                    },
                    ""))
        .isInstanceOf(StoppedException.class);
  }
}
