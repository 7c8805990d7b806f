package lanternshed.core.volume;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.table.TableMaker;
import lanternshed.core.table.mbr.MbrWriter;
import lanternshed.core.volume.fat.FatKind;
import lanternshed.core.volume.fat.FatLayout;
import lanternshed.core.volume.fat.FatVolume;
import lanternshed.core.volume.fat.Floppy;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;

/** What general tools made is read to the byte, and they accept what is made here. */
class FatToolsTest {
  private static final Geometry G = new Geometry(1024, 255, 63);
  @TempDir private Path folder;

  /** Volumes in KiB by size and odd start; the last two are the edges of their kind. */
  static Stream<Arguments> volumes() {
    return Stream.of(
        Arguments.of(5 * 1024, 63, "-s 1"),
        Arguments.of(32_665, 17, ""),
        Arguments.of(32 * 1024, 1, ""),
        Arguments.of(127 * 1024, 33, ""),
        Arguments.of(128 * 1024, 2048, ""),
        Arguments.of(504 * 1024, 63, ""),
        Arguments.of(2047 * 1024, 129, ""),
        Arguments.of(64 * 1024, 8192, "-s 2 -R 8"));
  }

  private Path tree(int most) throws Exception {
    Path root = folder.resolve("tree");
    Files.createDirectories(root.resolve("SETS/INNER"));
    Files.createDirectories(root.resolve("A long folder name"));
    Files.write(root.resolve("EMPTY.TXT"), new byte[0]);
    Files.write(root.resolve("ONE.BIN"), Samples.content(1, 1));
    Files.write(root.resolve("SETS/EXACT.BIN"), Samples.content(2, 32_768));
    Files.write(root.resolve("SETS/INNER/BIG.DAT"), Samples.content(3, most));
    Files.write(root.resolve("A long folder name/Mixed Case name.text"), Samples.content(4, 777));
    for (int i = 0; i < 40; i++) {
      Files.write(root.resolve("SETS/INNER/F" + i + ".PAT"), Samples.content(i, i * 313));
    }
    return root;
  }

  @ParameterizedTest
  @MethodSource("volumes")
  void aVolumeOfTheGeneralToolsIsReadToFileAndByte(int kib, int start, String options)
      throws Exception {
    Path root = tree(Math.min(kib * 256, 3_000_000));
    Path image = folder.resolve("tools.img");
    FileMedium.create(image, start + kib * 2L).close();
    Tool.run(
        "printf 'label: dos\\nstart="
            + start
            + ",type=6,bootable\\n' | sfdisk -q --no-tell-kernel "
            + image);
    Tool.run("mkfs.fat -F 16 -n MILL " + options + " --offset " + start + " " + image + " " + kib);
    Tool.run("mcopy -s -i " + image + "@@" + start * 512L + " " + root + "/* ::/");
    try (FileMedium m = FileMedium.open(image)) {
      Survey s = Surveyor.survey(m);
      Survey.Found v = s.volumes().get(0);
      assertThat(v.kind()).isEqualTo("FAT16");
      assertThat(v.label()).isEqualTo("MILL");
      assertThat(v.start()).isEqualTo(start);
      Map<String, String> expected = Tool.digests(root);
      assertThat(v.files()).isEqualTo(expected.size());
      assertThat(v.folders()).isEqualTo(3);
      assertThat(
              v.findings().stream()
                  .filter(f -> f.rule().equals("F-9") && f.weight() != Finding.Weight.NOTE))
          .isEmpty();
      FatVolume volume = FatVolume.open(new SliceMedium(m, start, v.length()));
      assertThat(Samples.digests(volume)).isEqualTo(expected);
      String free = Tool.run("mdir -i " + image + "@@" + start * 512L + " ::/ | tail -2");
      assertThat(free.replaceAll("[^0-9]", "")).isEqualTo(String.valueOf(v.use().freeBytes()));
    }
  }

  @ParameterizedTest
  @CsvSource({
    "FAT12,1024",
    "FAT16,1024",
    "FAT32,1024",
    "FAT12,2048",
    "FAT16,2048",
    "FAT32,2048",
    "FAT12,4096",
    "FAT16,4096",
    "FAT32,4096",
  })
  void whatIsMadeWithLargerSectorsIsAcceptedAndReadByTheGeneralTools(String kind, int bytes)
      throws Exception {
    Path image = folder.resolve("made.img");
    long clusters = kind.equals("FAT12") ? 2_000 : kind.equals("FAT16") ? 9_000 : 70_000;
    long sectors = clusters * bytes / 512;
    FileSet files = new FileSet();
    files.folder("Longer folder name", 0, Samples.STAMP);
    for (int i = 0; i < 40; i++) {
      Samples.file(files, "Longer folder name/Pattern " + i, 0x20, Samples.content(i, i * 1501));
    }
    Maker maker = Catalogue.maker(kind);
    Maker.Layout layout =
        maker.layout(Samples.wish(kind, sectors, bytes, G, 0, "MILL", 7).of(bytes, false));
    try (FileMedium m = FileMedium.create(image, sectors)) {
      maker.write(layout, files, m, new byte[0], (p, n) -> {});
      FatVolume v = FatVolume.open(m);
      assertThat(v.kind()).isEqualTo(kind);
      assertThat(v.check()).isEmpty();
      assertThat(v.layout().bytesPerSector()).isEqualTo(bytes);
      Path out = Files.createDirectory(folder.resolve("out"));
      Tool.run("fsck.fat -n " + image);
      Tool.run("mcopy -s -m -i " + image + " '::/*' " + out);
      assertThat(Samples.digests(v)).isEqualTo(Tool.digests(out)).hasSize(40);
    }
  }

  /** Kind, KiB, sectors a cluster, start, label: every cluster size of both kinds at odd places. */
  static Stream<Arguments> grid() {
    Stream.Builder<Arguments> out = Stream.builder();
    int[] starts = {63, 1, 2048, 8193};
    for (int k = 0; k <= 6; k++) {
      int cluster = 1 << k;
      String label = k % 2 == 0 ? "-n GRID" : "";
      out.add(
          Arguments.of("FAT16", Math.max(6_000, 3_000 * cluster), cluster, starts[k % 4], label));
      if (k <= 4) {
        out.add(Arguments.of("FAT32", 34_000 * cluster, cluster, starts[(k + 1) % 4], label));
      }
    }
    return out.build();
  }

  @ParameterizedTest(name = "{0}, {1} KiB, {2} sectors a cluster at {3}")
  @MethodSource("grid")
  void overAGridTheSameFilesAndDigestsAreRead(
      String kind, int kib, int cluster, int start, String label) throws Exception {
    Path root = tree(300_000);
    Path image = folder.resolve("grid.img");
    FileMedium.create(image, start + kib * 2L).close();
    String type = kind.equals("FAT16") ? "6" : "c";
    Tool.run(
        "printf 'label: dos\\nstart="
            + start
            + ",type="
            + type
            + "\\n' | sfdisk -q --no-tell-kernel "
            + image);
    String at = image + "@@" + start * 512L;
    Tool.run(
        "mkfs.fat -F "
            + kind.substring(3)
            + " -s "
            + cluster
            + " "
            + label
            + " --offset "
            + start
            + " "
            + image
            + " "
            + kib);
    Tool.run("mcopy -s -i " + at + " " + root + "/* ::/ && mdel -i " + at + " ::/ONE.BIN");
    Files.delete(root.resolve("ONE.BIN"));
    try (FileMedium m = FileMedium.open(image)) {
      Survey.Found v = Surveyor.survey(m).volumes().get(0);
      assertThat(v.kind()).isEqualTo(kind);
      assertThat(v.label()).isEqualTo(label.isEmpty() ? "" : "GRID");
      assertThat(v.use().clusterBytes()).isEqualTo(cluster * 512L);
      FatVolume volume = FatVolume.open(new SliceMedium(m, start, v.length()));
      assertThat(Samples.digests(volume)).isEqualTo(Tool.digests(root));
      assertThat(volume.check()).isEmpty();
      assertThat(volume.deleted()).extracting(Node::path).containsExactly("_NE.BIN");
    }
  }

  @ParameterizedTest
  @EnumSource(Floppy.class)
  void aFloppyOfTheGeneralToolIsReadAndOursIsAccepted(Floppy floppy) throws Exception {
    Path root = tree(40_000);
    Path theirs = folder.resolve("theirs.img");
    long kib = floppy.geometry().total() / 2;
    Tool.run("mkfs.fat -F 12 -C " + theirs + " " + kib);
    Tool.run("mcopy -i " + theirs + " " + root + "/*.* " + root + "/SETS/EXACT.BIN ::/");
    try (FileMedium m = FileMedium.open(theirs)) {
      Survey.Found v = Surveyor.survey(m).volumes().get(0);
      assertThat(v.kind()).isEqualTo("FAT12");
      assertThat(v.files()).isEqualTo(3);
      assertThat(Samples.digests(FatVolume.open(m)).values())
          .contains(Tool.sha256(Samples.content(2, 32_768)), Tool.sha256(Samples.content(1, 1)));
    }
    Path ours = folder.resolve("ours.img");
    build(ours, floppy.layout("PATTERNS", 0x1234), 0, floppy.geometry().total(), 60_000);
    accepted(ours, 0);
    try (FileMedium m = FileMedium.open(ours)) {
      FatLayout l = FatVolume.open(m).layout();
      assertThat(l.fatSectors()).isEqualTo(floppy.layout("", 0).fatSectors());
      assertThat(l.clusters()).isLessThanOrEqualTo((int) (l.fatSectors() * 512 * 8 / 12 - 2));
    }
  }

  @ParameterizedTest
  @MethodSource("volumes")
  void aVolumeMadeHereIsAcceptedWithoutAWord(int kib, int start, String options) {
    Path image = folder.resolve("ours.img");
    FatLayout l = Samples.layout(G, start, kib * 2L, FatKind.FAT16, 0, "MILL");
    build(image, l, start, start + kib * 2L, Math.min(kib * 256, 3_000_000));
    accepted(image, start);
    assertThat(Tool.run("sfdisk --verify " + image)).contains("No errors detected");
  }

  private void build(Path image, FatLayout l, long start, long sectors, int big) {
    FileSet b = new FileSet();
    Samples.file(b, "LOOMIO.SYS", 0x27, Samples.content(5, 3000));
    b.folder("SETS", 0, Samples.STAMP);
    b.folder("SETS/INNER", 0, Samples.STAMP);
    Samples.file(b, "EMPTY.TXT", 0x20, new byte[0]);
    Samples.file(b, "SETS/BIG.DAT", 0x20, Samples.content(3, big));
    for (int i = 0; i < 40; i++) {
      Samples.file(b, "SETS/INNER/F" + i + ".PAT", 0x20, Samples.content(i, i * 31));
    }
    try (FileMedium m = FileMedium.create(image, sectors)) {
      Samples.write(l, b, new SliceMedium(m, start, sectors - start), new byte[0]);
      if (start > 0) {
        int type = l.total() < 65_536 ? 4 : 6;
        new MbrWriter()
            .write(
                m,
                G,
                new byte[0],
                1,
                java.util.List.of(
                    new TableMaker.Slot(
                        start, l.total(), String.format("%02X", type), true, false, 0)));
      }
    }
  }

  /**
   * The general check is silent, and the files come out of the general tool as they come out of
   * ours.
   */
  private void accepted(Path image, long start) {
    Path volume = image;
    if (start > 0) {
      volume = folder.resolve("volume.img");
      Tool.run(
          "dd if="
              + image
              + " of="
              + volume
              + " bs=512 skip="
              + start
              + " conv=sparse status=none");
    }
    Tool.Answer a = Tool.ask("fsck.fat -n " + volume);
    assertThat(a.exit()).as(a.text()).isZero();
    assertThat(a.text().lines().filter(x -> !x.startsWith("fsck.fat ") && !x.contains(" files, ")))
        .isEmpty();
    Path out = folder.resolve("out");
    Tool.run("rm -rf " + out + " && mkdir " + out);
    Tool.run("mcopy -s -n -i " + volume + " '::/*' " + out + "/");
    try (FileMedium m = FileMedium.open(volume)) {
      FatVolume v = FatVolume.open(m);
      assertThat(v.check()).isEmpty();
      assertThat(Samples.digests(v)).isEqualTo(new TreeMap<>(Tool.digests(out))).hasSize(43);
    }
  }

  @Test
  void theSameInputsGiveTheSameBytes() {
    Path a = folder.resolve("a.img");
    Path b = folder.resolve("b.img");
    FatLayout l = Samples.layout(G, 63, 65_000, FatKind.FAT16, 0, "MILL");
    build(a, l, 63, 65_063, 100_000);
    build(b, l, 63, 65_063, 100_000);
    assertThat(Tool.run("cmp " + a + " " + b)).isEmpty();
  }

  /** A desktop knows a volume that the ROM of this family reads too for what it is (P-23). */
  @Test
  void aVolumeThatBothSidesReadIsKnownByTheDesktopsTools() throws Exception {
    Maker maker = Catalogue.maker("FAT16");
    Maker.Wish wish = Samples.wish("FAT16", 60_000, 0, G, 63, "MILL", 0x12_3456).of(512, true);
    Path p = folder.resolve("shared.img");
    try (FileMedium m = FileMedium.create(p, 60_000)) {
      FileSet files = new FileSet();
      Samples.file(files, "LOG.DAT", 0x20, new byte[700]);
      maker.write(maker.layout(wish), files, m, new byte[0], (path, n) -> {});
    }
    assertThat(Tool.run("blkid -p -o export " + p)).contains("TYPE=vfat", "LABEL=MILL");
    assertThat(Tool.run("fsck.fat -n " + p)).doesNotContain("differ", "abel");
    assertThat(Tool.run("mdir -b -i " + p)).contains("LOG.DAT");
  }
}
