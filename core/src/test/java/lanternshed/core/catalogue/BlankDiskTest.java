package lanternshed.core.catalogue;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.stream.Stream;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.Volume;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

class BlankDiskTest {
  static Stream<BlankDisk> disks() {
    return BlankDisk.ALL.stream();
  }

  /** Opens again as its kind, whole and empty; general tools accept those that they know. */
  @ParameterizedTest
  @MethodSource("disks")
  void eachIsFormattedAndEmpty(BlankDisk d, @TempDir Path home) {
    MemoryMedium m = new MemoryMedium(d.sectors());
    d.format(m, "MILL", Samples.STAMP);
    Volume v = Volumes.find(m, 0).volume();
    assertThat(v.kind()).isEqualTo(d.kind());
    assertThat(v.check()).isEmpty();
    assertThat(v.all()).isEmpty();
    assertThat(v.use().free()).isPositive();
    // Whatever somebody calls it becomes a label that can stand there.
    for (String name : new String[] {"", "☃ Ünïcode: a \"very\" long name/of * a disk", "a\tb"}) {
      MemoryMedium odd = new MemoryMedium(d.sectors());
      d.format(odd, name, Samples.STAMP);
      assertThat(Volumes.find(odd, 0).volume().check()).as(name).isEmpty();
    }
    if (!d.kind().equals("FAT12")) return;
    Path file = home.resolve("disk");
    Samples.toFile(m, file);
    assertThat(Tool.run("fsck.fat -n " + file)).contains(", 0/");
    assertThat(Tool.run("mdir -i " + file + " ::")).contains("MILL");
  }
}
