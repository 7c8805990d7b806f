package lanternshed.core.volume;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.Consumer;
import java.util.stream.Stream;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.Trials;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.volume.FatTest.Damaged;
import lanternshed.core.volume.fat.FatFormat;
import lanternshed.core.volume.fat.FatLayout;
import lanternshed.core.volume.fat.FatRepair;
import lanternshed.core.volume.fat.FatVolume;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** A copy is mended so that a general tool has nothing to say, and no more than was listed. */
@Tag("trial")
class FatRepairTest {
  @TempDir Path folder;

  static Stream<Arguments> damages() {
    List<String> notMended = List.of("bad mark", "past end");
    return FatTest.damages().filter(a -> !notMended.contains(a.get()[0]));
  }

  private static MemoryMedium copy(Medium m) {
    MemoryMedium out = new MemoryMedium(m.sectors());
    for (long s = 0; s < m.sectors(); s += 63) {
      int n = (int) Math.min(63, m.sectors() - s);
      out.write(s, n, m.sectors(s, n), 0);
    }
    return out;
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("damages")
  void afterRepairTheGeneralToolIsSilent(String name, Consumer<Damaged> how, String said) {
    MemoryMedium drive = Samples.drive(FatTest.G);
    Map<String, String> whole = Samples.digests(Samples.volume(drive, FatTest.G));
    how.accept(new Damaged(drive, Samples.volume(drive, FatTest.G)));
    MemoryMedium before = copy(drive);
    FatVolume v = Samples.volume(drive, FatTest.G);
    FatRepair r = FatRepair.plan(v);
    assertThat(r.changes()).as("every change is listed").isNotEmpty();
    MemoryMedium mended = copy(drive);
    r.apply(new SliceMedium(mended, 63, mended.sectors() - 63));
    assertThat(drive.sectors(0, 700))
        .as("the original is as it was")
        .isEqualTo(before.sectors(0, 700));
    FatVolume after = Samples.volume(mended, FatTest.G);
    assertThat(after.check()).allMatch(f -> f.weight() == Finding.Weight.NOTE);
    assertThat(FatRepair.plan(after).changes()).isEmpty();
    Path p = folder.resolve("volume");
    Samples.toFile(new SliceMedium(mended, 63, mended.sectors() - 63), p);
    assertThat(Tool.run("fsck.fat -n " + p + " | grep -v '^fsck.fat\\|clusters$' || true"))
        .isBlank();
    // What was not touched is as it was.
    Map<String, String> now = Samples.digests(after);
    long same =
        whole.entrySet().stream().filter(e -> e.getValue().equals(now.get(e.getKey()))).count();
    assertThat(same)
        .isGreaterThanOrEqualTo(
            whole.size() - (name.equals("no dots") || name.equals("dot") ? 16 : 2));
  }

  @Test
  void aFat32OfAGeneralToolIsMendedWithItsFreeCountAndLongNames() {
    Path p = folder.resolve("fat32");
    Tool.run("truncate -s 64M " + p + " && mkfs.fat -F 32 -s 1 -n MILL " + p);
    Tool.run(
        "head -c 70000 /dev/urandom > "
            + folder.resolve("x")
            + " && mcopy -i "
            + p
            + " "
            + folder.resolve("x")
            + " '::A long name of a pattern.dat'");
    try (FileMedium m = FileMedium.openWritable(p)) {
      assertThat(FatVolume.open(m).check()).isEmpty();
      byte[] info = m.sector(1);
      info[488] ^= 5;
      m.write(1, 1, info, 0);
      byte[] fat = m.sector(32);
      fat[7] &= ~0x08;
      m.write(32, 1, fat, 0);
      assertThat(FatVolume.open(m).check())
          .extracting(Finding::what)
          .anyMatch(c -> c.contains("FSInfo says"))
          .anyMatch(c -> c.contains("not closed properly"));
      FatRepair r = FatRepair.plan(FatVolume.open(m));
      assertThat(r.changes())
          .extracting(Finding::what)
          .anyMatch(c -> c.contains("dirty"))
          .anyMatch(c -> c.contains("free count becomes"));
      r.apply(m);
      assertThat(FatVolume.open(m).check()).isEmpty();
      assertThat(FatVolume.open(m).all().get(0).longName())
          .isEqualTo("A long name of a pattern.dat");
    }
    assertThat(Tool.run("fsck.fat -n " + p + " | grep -v '^fsck.fat\\|clusters$' || true"))
        .isBlank();
  }

  @Test
  void threeHundredCleanVolumesHaveNoFindingAndNothingToMend() {
    Random dice = new Random(300);
    for (int i = 0; i < 300; i++) {
      Geometry g = new Geometry(1 + dice.nextInt(60), 4 + dice.nextInt(12), 17 + dice.nextInt(46));
      long length = Math.max(2000, g.total());
      FatLayout l =
          FatFormat.layout(
              Samples.wish(null, length, 0, g, 0, dice.nextBoolean() ? "L" + i : "", i));
      FileSet b = new FileSet();
      for (int d = 0; d < dice.nextInt(3); d++) b.folder("D" + d, 0, Samples.STAMP);
      long room = l.clusters() / 2;
      for (int f = 0; f < dice.nextInt(20) && room > 0; f++) {
        int size = (int) Math.min(room * l.clusterBytes(), dice.nextInt(20_000));
        room -= size / l.clusterBytes() + 1;
        Samples.file(b, "F" + f + ".DAT", 0x20, Samples.content(f, size));
      }
      MemoryMedium m = new MemoryMedium(length);
      Samples.write(l, b, m, new byte[0]);
      FatVolume v = FatVolume.open(m);
      assertThat(v.check()).as("volume %d", i).isEmpty();
      assertThat(FatRepair.plan(v).changes()).as("volume %d", i).isEmpty();
    }
  }

  @Test
  void afterRandomDamageTheMendedCopyChecksClean() {
    MemoryMedium whole = Samples.drive(FatTest.G);
    Random dice = new Random(9);
    int mended = 0;
    int turns = Trials.turns(30, 1500);
    for (int i = 0; i < turns; i++) {
      MemoryMedium m = copy(whole);
      FatLayout l = Samples.volume(whole, FatTest.G).layout();
      // In FATs, root folder and the folders that follow: what a check speaks of.
      long from = 63 + l.fatStart();
      long to = 63 + l.firstData() + 200;
      for (int k = 0; k < 1 + dice.nextInt(12); k++) {
        long lba = from + (long) (dice.nextDouble() * (to - from));
        byte[] b = m.sector(lba);
        b[dice.nextInt(512)] = (byte) dice.nextInt();
        m.write(lba, 1, b, 0);
      }
      FatVolume v = Samples.volume(m, FatTest.G);
      FatRepair r = FatRepair.plan(v);
      MemoryMedium to2 = copy(m);
      r.apply(new SliceMedium(to2, 63, to2.sectors() - 63));
      assertThat(Samples.volume(to2, FatTest.G).check())
          .as("damage %d", i)
          .allMatch(f -> f.weight() == Finding.Weight.NOTE);
      if (!r.changes().isEmpty()) mended++;
    }
    assertThat(mended).isGreaterThan(turns * 40 / 150);
  }
}
