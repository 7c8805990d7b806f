package lanternshed.core.volume;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.Trials;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.volume.fat.FatGrow;
import lanternshed.core.volume.fat.FatKind;
import lanternshed.core.volume.fat.FatMaker;
import lanternshed.core.volume.fat.FatVolume;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Volumes with long names and of FAT32, made here and judged by general tools. */
@Tag("trial")
class FatMakerTest {
  @TempDir Path home;
  private static final Geometry G = new Geometry(1024, 16, 63);
  private static final String[] WORDS = {
    "Heron",
    "größere Mühle",
    "Weave",
    "pattern no.",
    "a.b.c",
    "ΩΣ",
    "x",
    "Жаккард",
    "README",
    "loom"
  };

  private static Maker.Layout layout(String kind, long sectors, int cluster) {
    return new FatMaker().layout(Samples.wish(kind, sectors, cluster, G, 0, "Mill", 0x1234_5678L));
  }

  private static void write(Path p, Maker.Layout l, FileSet files) {
    try (FileMedium m = FileMedium.create(p, l.sectorCount())) {
      new FatMaker().write(l, files, m, new byte[0], (path, n) -> {});
    }
  }

  private static void silent(Path p) {
    assertThat(Tool.run("fsck.fat -n " + p + " | grep -v '^fsck.fat\\|clusters$' || true"))
        .isBlank();
  }

  private static FileSet random(Random dice, Map<String, byte[]> content, int many) {
    FileSet out = new FileSet();
    String[] folders = new String[1 + dice.nextInt(4)];
    for (int d = 0; d < folders.length; d++) {
      folders[d] = d == 0 ? "" : (d > 2 ? folders[d - 1] : "") + name(dice, d) + "/";
      if (d > 2) folders[d] = folders[d - 1] + name(dice, d) + "/";
      if (d > 0) out.folder(folders[d].substring(0, folders[d].length() - 1), 0, Samples.STAMP);
    }
    for (int f = 0; f < many; f++) {
      byte[] b = new byte[dice.nextInt(4) == 0 ? 0 : dice.nextInt(9_000)];
      dice.nextBytes(b);
      String path = folders[dice.nextInt(folders.length)] + name(dice, 100 + f);
      out.file(path, b.length, 0x20, Samples.STAMP, s -> s.take(b, 0, b.length));
      content.put(path, b);
    }
    return out;
  }

  private static String name(Random dice, int number) {
    StringBuilder out = new StringBuilder();
    for (int i = 0; i <= dice.nextInt(4); i++) out.append(WORDS[dice.nextInt(WORDS.length)]);
    return out.append(' ').append(number).append(dice.nextBoolean() ? ".pat" : "").toString();
  }

  @Test
  void randomVolumesAreTheSameForGeneralTools() throws IOException {
    for (int turn = 0; turn < Trials.turns(15, 600); turn++) {
      Random dice = new Random(turn);
      String kind = new String[] {"FAT12", "FAT16", "FAT32"}[turn % 3];
      long sectors =
          kind.equals("FAT12")
              ? 8_000
              : kind.equals("FAT16") ? 40_000 : 70_000 + dice.nextInt(9999);
      Map<String, byte[]> content = new TreeMap<>();
      FileSet files = random(dice, content, 5 + dice.nextInt(120));
      Path p = home.resolve("v" + turn);
      write(p, layout(kind, sectors, kind.equals("FAT32") ? 512 : 0), files);
      silent(p);
      Path out = Files.createDirectory(home.resolve("out" + turn));
      Tool.run("MTOOLS_SKIP_CHECK=1 LC_ALL=C.UTF-8 mcopy -n -s -i " + p + " ::/ " + out);
      Map<String, String> theirs = Tool.digests(out);
      Map<String, String> wanted = new TreeMap<>();
      content.forEach((path, b) -> wanted.put(path, Tool.sha256(b)));
      assertThat(theirs).as("volume " + turn).isEqualTo(wanted);
      try (FileMedium m = FileMedium.open(p)) {
        FatVolume v = FatVolume.open(m);
        assertThat(v.kind()).isEqualTo(kind);
        assertThat(v.check()).isEmpty();
        assertThat(Samples.digests(v)).isEqualTo(wanted);
        assertThat(v.mending().orElseThrow().changes()).isEmpty();
      }
      Files.delete(p);
    }
  }

  @Test
  void tenThousandFilesInOneFolderHaveTenThousandShortNames() {
    FileSet files = new FileSet();
    files.folder("Patterns", 0, Samples.STAMP);
    for (int i = 0; i < 10_000; i++) {
      files.file("Patterns/A pattern of the mill no. " + i + ".pat", 0, 0x20, 0, s -> {});
    }
    Path p = home.resolve("many");
    write(p, layout("FAT32", 140_000, 512), files);
    silent(p);
    try (FileMedium m = FileMedium.open(p)) {
      FatVolume v = FatVolume.open(m);
      assertThat(v.all().stream().map(Node::name).distinct()).hasSize(10_001);
    }
  }

  @Test
  void theSourcesOwnShortNameIsKept() {
    FileSet files = new FileSet();
    files.file("A long name.txt", "ODD~7.TXT", 3, 0x20, 0, s -> s.take(new byte[3], 0, 3));
    files.file("Another long name.txt", 3, 0x20, 0, s -> s.take(new byte[3], 0, 3));
    files.file("PLAIN.TXT", "PLAIN.TXT", 3, 0x20, 0, s -> s.take(new byte[3], 0, 3));
    MemoryMedium m = new MemoryMedium(40_000);
    new FatMaker().write(layout("FAT16", 40_000, 0), files, m, new byte[0], (p, n) -> {});
    assertThat(FatVolume.open(m).all())
        .extracting(Node::name)
        .containsExactly("ODD~7.TXT", "ANOTHE~1.TXT", "PLAIN.TXT");
    assertThat(FatVolume.open(m).all())
        .extracting(Node::path)
        .containsExactly("A long name.txt", "Another long name.txt", "PLAIN.TXT");
  }

  @ParameterizedTest
  @ValueSource(strings = {"a:b", "ends with a point.", "ends with a space ", "a\u0001b"})
  void longNamesThatNoSystemOpensAreRefused(String name) {
    FileSet files = new FileSet();
    files.file(name, 0, 0, 0, s -> {});
    assertThatThrownBy(() -> new FatMaker().fit(layout("FAT16", 40_000, 0), files))
        .isInstanceOf(VolumeException.class);
  }

  @Test
  void aFat32VolumeGrowsWithItsClustersAndFitsItsFsInfo() throws IOException {
    Map<String, byte[]> content = new TreeMap<>();
    FileSet files = random(new Random(5), content, 80);
    Path small = home.resolve("small");
    Path large = home.resolve("large");
    write(small, layout("FAT32", 70_000, 512), files);
    try (FileMedium from = FileMedium.open(small);
        FileMedium to = FileMedium.create(large, 200_000)) {
      new FatGrow().grow(FatVolume.open(from), to, 200_000, G, 63, new byte[0], (n, all) -> {});
    }
    silent(large);
    try (FileMedium a = FileMedium.open(small);
        FileMedium b = FileMedium.open(large)) {
      FatVolume old = FatVolume.open(a);
      FatVolume now = FatVolume.open(b);
      assertThat(Samples.digests(now)).isEqualTo(Samples.digests(old));
      assertThat(now.check()).isEmpty();
      assertThat(now.use().clusters()).isGreaterThan(old.use().clusters() * 2);
      assertThat(now.layout().serial()).isEqualTo(old.layout().serial());
    }
  }

  @Test
  void theThresholdsOfFat32AreKeptClear() {
    assertThatThrownBy(() -> layout("FAT32", 60_000, 4096)).hasMessageContaining("65\u202F525 to");
    for (long sectors = 66_000; sectors < 67_200; sectors += 100) {
      try {
        assertThat(layout("FAT32", sectors, 512).clusterCount())
            .isGreaterThanOrEqualTo(FatKind.FAT16.mostClusters() + 1 + 16);
      } catch (VolumeException e) {
        assertThat(e).hasMessageContaining("not possible");
      }
    }
    assertThat(
            new FatMaker()
                .layout(new Maker.Wish(Optional.empty(), 8_000_000, 0, 0, 0, G, "", 0, true, 0))
                .kindName())
        .isEqualTo("FAT32");
  }

  /** A letter of two halves may stand in two pieces of a name; a half alone is no letter. */
  @Test
  void aLetterWhoseHalvesStandInTwoPiecesComesBack() throws Exception {
    String name = "twelve lette😀 and so on";
    Path p = home.resolve("pair.img");
    FileSet files = new FileSet();
    files.file(name, 3, 0x20, Samples.STAMP, s -> s.take(new byte[3], 0, 3));
    Maker.Layout l = layout("FAT16", 40_000, 0);
    write(p, l, files);
    silent(p);
    // It knows letters of 16 bits only, and sees two of them there.
    assertThat(Tool.run("LC_ALL=C.UTF-8 mdir -b -i " + p + " ::")).contains("lette__ and so on");
    try (FileMedium m = FileMedium.openWritable(p)) {
      assertThat(FatVolume.open(m).all()).extracting(Node::path).containsExactly(name);
      // The piece with the second half is the one before the entry's last: its letter becomes
      // another.
      for (long at = 0; at < 400; at++) {
        byte[] b = m.sector(at);
        for (int e = 0; e < 512; e += 32) {
          if (b[e + 11] != 0x0F || b[e + 1] != 0 || b[e + 2] != (byte) 0xDE) continue;
          b[e + 2] = 0;
          b[e + 1] = 'x';
          m.write(at, 1, b, 0);
        }
      }
      assertThat(FatVolume.open(m).all())
          .extracting(Node::path)
          .containsExactly("twelve lette·x and so on");
    }
  }
}
