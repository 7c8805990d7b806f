package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Optional;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Volume;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Mending changes nothing of a sound volume, however odd it is. */
class MendInvariantTest {
  private static final Geometry G = new Geometry(240, 8, 32);
  @TempDir private Path home;

  @ParameterizedTest
  @CsvSource({
    "FAT16, 150, fsck.fat -n",
    "FAT16, 900, fsck.fat -n",
    "FAT32, 150, fsck.fat -n",
    "exFAT, 150, fsck.exfat -n",
    "exFAT, 900, ",
    "FFS, 150, ",
    "FFS, 3000, ",
    "OFS, 150, "
  })
  void foldersMayLieDeep(String kind, int depth, String checker) {
    MemoryMedium m = new MemoryMedium(80_000);
    Maker maker = Catalogue.maker(kind);
    FileSet files = new FileSet();
    StringBuilder path = new StringBuilder();
    for (int i = 0; i < depth; i++) {
      path.append(i == 0 ? "D" : "/D");
      files.folder(path.toString(), 0, Samples.STAMP);
    }
    Samples.file(files, path + "/LAST.TXT", 0x20, new byte[3000]);
    Maker.Wish wish =
        new Maker.Wish(
            Optional.of(kind), 80_000, 0, kind.equals("FAT32") ? 512 : 0, 0, G, "DEEP", 5, true, 0);
    maker.write(maker.layout(wish), files, m, new byte[0], (p, n) -> {});
    if (checker != null) {
      Path image = home.resolve("deep");
      Samples.toFile(m, image);
      assertThat(Tool.ask(checker + " " + image).exit()).isZero();
    }
    Volume v = Volumes.find(m, 0).volume();
    assertThat(v.all()).hasSize(depth + 1);
    assertThat(v.check()).isEmpty();
    assertThat(v.mending().orElseThrow().changes()).isEmpty();
  }
}
