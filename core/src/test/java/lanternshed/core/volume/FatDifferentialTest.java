package lanternshed.core.volume;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.Trials;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.volume.fat.FatVolume;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Random volumes that the general tools make: FAT12, 16 and 32, sectors of 512 to 4 096 bytes, odd
 * starts, one or two FATs, long Unicode names, fragmented by deleting and filling again. Each is
 * read here to the same files and bytes, and what both checkers think of it is the same.
 */
@Tag("trial")
class FatDifferentialTest {
  private static final int VOLUMES = Trials.turns(60, 1000);
  private static final String[] WORDS = {
    "Muster", "größe", "Tide", "ræv", "Élan", "Ωmega", "short", "FERN", "a b", "日本", "x.y", "ñ"
  };

  @TempDir private Path home;

  private static String name(Random dice, int number) {
    StringBuilder out = new StringBuilder();
    int words = 1 + dice.nextInt(5);
    for (int i = 0; i < words; i++) out.append(WORDS[dice.nextInt(WORDS.length)]);
    return out.append(number).append(dice.nextBoolean() ? ".pat" : "").toString();
  }

  private static void files(Random dice, Path root, int from, int many) throws IOException {
    List<Path> folders = new ArrayList<>(List.of(root));
    for (int d = 0; d < 3; d++) {
      Path parent = folders.get(dice.nextInt(folders.size()));
      folders.add(Files.createDirectories(parent.resolve(name(dice, from * 10 + d))));
    }
    for (int f = 0; f < many; f++) {
      byte[] b = new byte[dice.nextInt(5) == 0 ? 0 : dice.nextInt(6000)];
      dice.nextBytes(b);
      Files.write(folders.get(dice.nextInt(folders.size())).resolve(name(dice, from + f)), b);
    }
  }

  @Test
  void whatTheGeneralToolsMakeIsReadToTheByte() throws IOException {
    for (int turn = 0; turn < VOLUMES; turn++) one(turn);
  }

  private void one(int turn) throws IOException {
    Random dice = new Random(turn);
    int sector = 512 << dice.nextInt(4);
    int kind = new int[] {12, 16, 32}[turn % 3];
    int cluster = kind == 12 ? 4 : 1;
    long clusters = kind == 12 ? 2000 : kind == 16 ? 5000 + dice.nextInt(4000) : 66_000;
    long kib = (clusters * cluster * sector + sector * 2000L) / 1024;
    int start = turn % 2 == 0 ? 0 : (1 + dice.nextInt(300)) * (sector / 512);
    String said = "volume " + turn + ": FAT" + kind + ", sectors of " + sector + ", start " + start;
    Path image = home.resolve("v");
    FileMedium.create(image, start + kib * 2 + 16).close();
    Tool.run(
        String.format(
                "mkfs.fat -F %d -S %d -s %d -f %d -r %d %s --offset %d %s %d",
                kind,
                sector,
                cluster,
                1 + dice.nextInt(2),
                kind == 32 ? 0 : 512 << dice.nextInt(2),
                dice.nextBoolean() ? "-n MILL" : "",
                start / (sector / 512),
                image,
                kib)
            .replace("-r 0", ""));
    String at = "-i " + image + "@@" + start * 512L;
    String mtools = "MTOOLS_SKIP_CHECK=1 LC_ALL=C.UTF-8 ";
    Path root = Files.createDirectory(home.resolve("files" + turn));
    files(dice, root, 100, 4 + dice.nextInt(14));
    Tool.run(mtools + "mcopy -Q -s " + at + " " + root + "/* ::/");
    // Holes among the clusters, filled by files that do not fit into any one of them.
    byte[] first = new byte[sector * cluster * 3 + 7];
    for (int i = 0; i < 3; i++) {
      Files.write(root.resolve("HOLE" + i), first);
      Tool.run(mtools + "mcopy -Q " + at + " " + root.resolve("HOLE" + i) + " ::/");
    }
    Tool.run(mtools + "mdel " + at + " ::/HOLE0 ::/HOLE2");
    Files.delete(root.resolve("HOLE0"));
    Files.delete(root.resolve("HOLE2"));
    byte[] large = new byte[sector * cluster * 9 + 11];
    dice.nextBytes(large);
    Files.write(root.resolve("LARGE"), large);
    Tool.run(mtools + "mcopy -Q " + at + " " + root.resolve("LARGE") + " ::/");
    try (FileMedium m = FileMedium.open(image)) {
      FatVolume v = FatVolume.open(new SliceMedium(m, start, m.sectors() - start));
      assertThat(v.kind()).as(said).isEqualTo("FAT" + kind);
      assertThat(Samples.digests(v)).as(said).isEqualTo(Tool.digests(root));
      if (start == 0) {
        boolean clean = Tool.ask("fsck.fat -n " + image).exit() == 0;
        assertThat(v.check().isEmpty()).as(said + v.check()).isEqualTo(clean);
      } else {
        assertThat(v.check()).as(said).isEmpty();
      }
    }
    Files.delete(image);
  }
}
