package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import java.util.stream.Stream;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Sink;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;
import lanternshed.core.volume.fat.FatVolume;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FilesOutTest {
  private static final Predicate<Node> ALL = FilesOut.under("");
  private static final Geometry G = new Geometry(60, 16, 63);
  private final MemoryMedium drive = Samples.drive(G);
  private final FatVolume volume = Samples.volume(drive, G);
  @TempDir private Path folder;

  private static Node file(String path, long bytes) {
    return new Node(path, path, path, false, bytes, 0, Samples.STAMP, 7);
  }

  private static Volume volumeOf(List<Node> nodes, String content) {
    Volume v = mock(Volume.class);
    when(v.all()).thenReturn(nodes);
    byte[] b = content.getBytes(StandardCharsets.US_ASCII);
    doAnswer(
            call -> {
              Node n = call.getArgument(0);
              Sink to = call.getArgument(1);
              to.take(b, 0, b.length);
              if (n.bytes() > b.length) throw new VolumeException(n.path() + " ends too early.");
              return null;
            })
        .when(v)
        .read(any(), any());
    return v;
  }

  @Test
  void everythingComesOutWithItsTimesAndAGeneralToolAgreesWithTheDigests() throws Exception {
    FilesOut.Report r = FilesOut.copy(volume, ALL, FilesOut.into(folder), Map.of());
    assertThat(r.notWhole()).isEmpty();
    assertThat(r.files()).isEqualTo(volume.all().stream().filter(n -> !n.folder()).count());
    assertThat(Tool.run("cd " + folder + " && sha256sum -c --quiet --strict SHA256SUMS")).isEmpty();
    for (Node n : volume.all()) {
      if (n.folder()) continue;
      Path p = folder.resolve(n.path());
      assertThat(Files.readAllBytes(p)).isEqualTo(Samples.bytes(volume, n));
      assertThat(Files.getLastModifiedTime(p).toMillis()).isEqualTo(FilesOut.millis(n.stamp()));
    }
    assertThatThrownBy(() -> FilesOut.copy(volume, ALL, FilesOut.into(folder), Map.of()))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("is there already");
  }

  @Test
  void aFolderBringsOnlyWhatIsInIt() throws Exception {
    FilesOut.copy(volume, FilesOut.under("set2"), FilesOut.into(folder), Map.of());
    try (Stream<Path> top = Files.list(folder)) {
      assertThat(top.map(p -> p.getFileName().toString()))
          .containsExactlyInAnyOrder("SET2", FilesOut.DIGESTS);
    }
    assertThat(Files.readString(folder.resolve(FilesOut.DIGESTS)).lines()).hasSize(15);
    assertThat(volume.all()).noneMatch(FilesOut.under("SET"));
  }

  @Test
  void onlyWhatHasTheLettersComes() throws Exception {
    FilesOut.Report r =
        FilesOut.copy(volume, n -> n.hasLetters("p14.pat"), FilesOut.into(folder), Map.of());
    assertThat(r.files()).isEqualTo(4);
    assertThat(folder.resolve("SET3/P14.PAT")).hasSize(14 * 1777);
  }

  @Test
  void aFileThatBreaksOffAndOneWithHolesAreKeptAndNamed() throws Exception {
    Volume v = volumeOf(List.of(file("A", 4), file("B", 90), file("C", 4)), "data");
    FilesOut.Report r =
        FilesOut.copy(v, ALL, FilesOut.into(folder), Map.of("C", "2 sectors did not come back"));
    assertThat(r.notWhole())
        .containsExactly("B: B ends too early.", "C: 2 sectors did not come back");
    assertThat(Files.readString(folder.resolve("B"))).isEqualTo("data");
    assertThat(Files.readString(folder.resolve(FilesOut.NOT_WHOLE))).contains("B ends too early");
  }

  @ParameterizedTest
  @CsvSource({
    "1996, 1, 31, 13, 5, 58, 1996-01-31T13:05:58",
    "1996, 2, 29, 0, 0, 0, 1996-02-29T00:00:00",
    "1995, 2, 31, 0, 0, 0, 1995-02-28T00:00:00",
    "1980, 0, 0, 31, 63, 62, 1980-01-01T23:59:58",
  })
  void timesAreTheVolumesOwn(int y, int m, int d, int h, int min, int s, LocalDateTime time) {
    int stamp = (y - 1980 << 9 | m << 5 | d) << 16 | h << 11 | min << 5 | s / 2;
    assertThat(FilesOut.millis(stamp))
        .isEqualTo(time.atZone(ZoneId.systemDefault()).toInstant().toEpochMilli());
  }

  @ParameterizedTest
  @CsvSource({
    "../../etc/passwd, _/_/etc/passwd",
    "A/../B, A/_/B",
    "C:\\X, C__X",
    "...., _",
    "/abs, _abs",
    ".HIDDEN, .HIDDEN",
  })
  void aNameNeverLeadsOut(String path, String safe) {
    assertThat(FilesOut.safe(path)).isEqualTo(safe);
  }

  @Test
  void namesOfADamagedFolderStayBelowAndNeverCollide() throws Exception {
    List<Node> nodes = new ArrayList<>();
    for (String p : List.of("../X", "../X", "SHA256SUMS", "a", "A")) nodes.add(file(p, 4));
    Path inner = folder.resolve("inner");
    FilesOut.copy(volumeOf(nodes, "data"), ALL, FilesOut.into(inner), Map.of());
    try (Stream<Path> all = Files.walk(folder)) {
      assertThat(all.filter(Files::isRegularFile).map(p -> inner.relativize(p).toString()))
          .containsExactlyInAnyOrder("_/X", "_/X~2", "SHA256SUMS", "SHA256SUMS~2", "a", "A~2");
    }
  }

  /** What is written aside takes no name that a file of the volume, or of this computer, has. */
  @Test
  void aFileThatIsCalledAPartOfAnotherIsNotWrittenOver() throws Exception {
    lanternshed.core.volume.FileSet files = new lanternshed.core.volume.FileSet();
    for (String name : new String[] {"warp.pat.part", "warp.pat", "weft.pat"}) {
      byte[] b = name.getBytes(java.nio.charset.StandardCharsets.US_ASCII);
      files.file(name, b.length, 0, Samples.STAMP, s -> s.take(b, 0, b.length));
    }
    lanternshed.core.medium.MemoryMedium m = new lanternshed.core.medium.MemoryMedium(9_000);
    Samples.exfat(9_000, 0, 4096, "", files, m);
    java.nio.file.Path to = java.nio.file.Files.createTempDirectory("out");
    java.nio.file.Files.writeString(to.resolve("weft.pat.part"), "mine");
    FilesOut.copy(
        lanternshed.core.survey.Volumes.find(m, 0).volume(),
        FilesOut.under(""),
        FilesOut.into(to),
        java.util.Map.of());
    for (String name : new String[] {"warp.pat.part", "warp.pat", "weft.pat"}) {
      assertThat(to.resolve(name)).hasContent(name);
    }
    assertThat(to.resolve("weft.pat.part")).hasContent("mine");
    try (var all = java.nio.file.Files.list(to)) {
      assertThat(all).hasSize(5);
    }
  }
}
