package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.Mending;
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

  /** What its list does not name it does not write, on a volume that general tools have filled. */
  @ParameterizedTest
  @CsvSource({"12, 4000", "16, 20000", "32, 80000"})
  void whatTheListDoesNotNameIsNotWritten(int bits, int sectors) throws Exception {
    Path image = home.resolve("by tools " + bits);
    Path text = Files.writeString(home.resolve("text"), "of the mill ".repeat(900));
    Tool.run("truncate -s " + sectors * 512L + " '" + image + "'");
    Tool.run("mkfs.fat -F" + bits + (bits == 32 ? " -s1" : "") + " '" + image + "'");
    Tool.run("mmd -i '" + image + "' ::A ::A/B");
    for (String to : List.of("::ONE.TXT", "::A/TWO.TXT", "::A/B/THREE.TXT", "::FOUR.TXT")) {
      Tool.run("mcopy -i '" + image + "' " + text + " " + to);
    }
    Tool.run("mdel -i '" + image + "' ::ONE.TXT");
    byte[] before = Files.readAllBytes(image);
    byte[] sound = before.clone();
    mended(sound, 0);
    assertThat(sound).as("sound before, and as it was after").isEqualTo(before);
    // One cluster of nobody's in both copies of the table: these two places, and a count.
    byte[] lost = before.clone();
    FatLayoutBytes l = new FatLayoutBytes(before, bits);
    for (int at : l.entry(l.free())) lost[at] |= (byte) 0xFF;
    byte[] damaged = lost.clone();
    mended(lost, 1);
    for (int i = 0; i < lost.length; i++) {
      if (lost[i] == damaged[i]) continue;
      assertThat(lost[i]).as("byte " + i).isEqualTo(before[i]);
    }
    assertThat(lost).isEqualTo(before);
  }

  private static void mended(byte[] volume, int changes) {
    MemoryMedium m = MemoryMedium.of(volume);
    Mending plan = Volumes.find(m, 0).volume().mending().orElseThrow();
    assertThat(plan.changes()).as(plan.changes().toString()).hasSize(changes);
    plan.apply(m);
    System.arraycopy(m.sectors(0, volume.length / 512), 0, volume, 0, volume.length);
  }

  /** Where a general tool's volume has its entries, by the published layout. */
  private record FatLayoutBytes(byte[] b, int bits) {
    private int u16(int at) {
      return b[at] & 0xFF | (b[at + 1] & 0xFF) << 8;
    }

    private int fatBytes() {
      return (u16(22) == 0 ? u16(36) : u16(22)) * 512;
    }

    /** A cluster near the end of those that the table has. */
    int free() {
      return (int) (fatBytes() * 8L / bits) / 2 & ~1;
    }

    /** Bytes of an entry in both copies, where all bits of them are its own. */
    List<Integer> entry(int cluster) {
      int at = u16(14) * 512 + (int) ((long) cluster * bits / 8);
      return List.of(at, at + fatBytes());
    }
  }

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
