package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import lanternshed.core.Samples;
import lanternshed.core.boot.BootChain;
import lanternshed.core.boot.pc.BootCode;
import lanternshed.core.boot.pc.PcBoot;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.volume.fat.FatGrow;
import lanternshed.core.volume.fat.FatVolume;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What can be said against a recipe is said before the first byte is written. */
class RecipeTest {
  @TempDir Path home;

  private static final String GOOD =
      """
      {"form":"lantern shed recipe, form 1","strategy":"REBUILD","sectors":100800,
       "geometry":{"cylinders":100,"heads":16,"sectors":63},"signature":"0000beef","bootCode":"OWN",
       "sourceSha256":"","volumes":[
        {"start":63,"length":50337,"tableSector":0,"logical":false,"active":true,"type":4,
         "kind":"FAT16","clusterBytes":0,"rootEntries":0,"label":"MILL","serial":"00000001",
         "from":-1,"folder":"","systemFile":""},
        {"start":50463,"length":20097,"tableSector":50400,"logical":true,"active":false,"type":1,
         "kind":"FAT12","clusterBytes":0,"rootEntries":0,"label":"TWO","serial":"00000002",
         "from":-1,"folder":"","systemFile":""},
        {"start":70623,"length":30177,"tableSector":70560,"logical":true,"active":false,"type":1,
         "kind":"FAT12","clusterBytes":0,"rootEntries":0,"label":"THREE","serial":"00000003",
         "from":-1,"folder":"","systemFile":""}]}
      """;

  static Stream<Arguments> bad() {
    return Stream.of(
        Arguments.of("\"signature\":\"0000beef\"", "\"signature\":\"xyz\"", "eight hexadecimal"),
        Arguments.of("\"serial\":\"00000001\"", "\"serial\":\"xyz\"", "eight hexadecimal digits"),
        Arguments.of("\"type\":4", "\"type\":1", "the type 01 (FAT12) does not say so"),
        Arguments.of("\"type\":4", "\"type\":6", "does not say so"),
        Arguments.of("\"type\":4", "\"type\":131", "the type 83"),
        Arguments.of("\"kind\":\"FAT16\"", "\"kind\":\"NTFS\"", "CP/M 2.2 are made"),
        Arguments.of("\"rootEntries\":0", "\"rootEntries\":37", "multiple of 16"),
        Arguments.of("\"rootEntries\":0", "\"rootEntries\":70000", "multiple of 16"),
        Arguments.of(
            "\"tableSector\":50400,\"logical\":true,\"active\":false",
            "\"tableSector\":50400,\"logical\":true,\"active\":true",
            "2 volumes of the recipe are active"),
        Arguments.of("\"sectors\":100800", "\"sectors\":1152921504606846976", "at most"),
        Arguments.of("\"clusterBytes\":0", "\"clusterBytes\":-512", "a power of two"),
        Arguments.of("\"tableSector\":0", "\"tableSector\":-1", "0 is for none"),
        Arguments.of("\"label\":\"MILL\"", "\"label\":\"" + "A".repeat(400) + "\"", "400 letters"),
        Arguments.of(
            "\"sourceSha256\":\"\"", "\"sourceSha256\":\"x\"", "has 64 hexadecimal digits"),
        Arguments.of("\"tableSector\":50400", "\"tableSector\":0", "its own table must lie before"),
        Arguments.of("\"tableSector\":70560", "\"tableSector\":60000", "its own table must lie"),
        Arguments.of("\"start\":50463", "\"start\":50000", "after the one before it"),
        Arguments.of("\"length\":30177", "\"length\":40000", "does not lie inside the image"),
        Arguments.of(
            "\"tableSector\":70560,\"logical\":true",
            "\"tableSector\":0,\"logical\":false",
            "the logical ones come last"));
  }

  @ParameterizedTest
  @MethodSource("bad")
  void aBadRecipeIsRefusedInASentence(String good, String bad, String said) {
    assertThat(GOOD).contains(good);
    ImageBuilder.examine(Recipe.parse(GOOD), "");
    Recipe r = Recipe.parse(GOOD.replaceFirst(Pattern.quote(good), bad));
    MemoryMedium target = new MemoryMedium(100_800);
    assertThatThrownBy(
            () -> ImageBuilder.build(r, Optional.empty(), Stock.EMPTY, target, Progress.NONE))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining(said);
    for (int s = 0; s < 100_800; s++) {
      assertThat(Bytes.allZero(target.sector(s), 0, 512)).isTrue();
    }
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "\"geometry\":{\"cylinders\":100,\"heads\":16,\"sectors\":63}",
        "\"signature\":\"0000beef\"",
        "\"kind\":\"FAT16\"",
        "\"label\":\"MILL\"",
        "\"serial\":\"00000001\"",
        "\"folder\":\"\"",
        "\"sourceSha256\":\"\""
      })
  void whatARecipeDoesNotSayIsNamed(String said) {
    String word = said.substring(0, said.indexOf(':'));
    for (String instead : List.of(word + ":null", "\"remark" + word.substring(1) + ":1")) {
      assertThatThrownBy(() -> Recipe.parse(GOOD.replaceFirst(Pattern.quote(said), instead)))
          .isInstanceOf(ShedException.class)
          .hasMessageContaining("does not say " + word);
    }
    String nothing = GOOD.substring(0, GOOD.indexOf("\"volumes\":[")) + "\"volumes\":[null]}";
    assertThatThrownBy(() -> Recipe.parse(nothing))
        .hasMessageContaining("Volume 1 of the recipe does not say");
  }

  @Test
  void theGoodOneIsBuiltAndProved() {
    MemoryMedium target = new MemoryMedium(100_800);
    Recipe r = Recipe.parse(GOOD);
    ImageBuilder.build(r, Optional.empty(), Stock.EMPTY, target, Progress.NONE);
    Proof p = Proof.of(r, Optional.empty(), target, 100_800, Progress.NONE);
    assertThat(p.table()).isEmpty();
    assertThat(p.volumes()).isEmpty();
    assertThat(p.proved()).isTrue();
  }

  @Test
  void anotherSourceThanTheRecipeAsksForIsRefused() {
    Recipe r =
        Recipe.parse(
            GOOD.replace("\"sourceSha256\":\"\"", "\"sourceSha256\":\"" + "0".repeat(64) + "\""));
    assertThatThrownBy(() -> ImageBuilder.examine(r, "ab".repeat(32)))
        .hasMessageContaining("asks for the image with the SHA-256 0000");
    ImageBuilder.examine(r, "0".repeat(64));
  }

  private Recipe fromFolder(Path folder) {
    return Recipe.parse(GOOD.replaceFirst("\"folder\":\"\"", "\"folder\":\"" + folder + "\""));
  }

  @Test
  void whatCannotComeOverFromAFolderIsSaidBeforeBuilding() throws Exception {
    Path files = Files.createDirectories(home.resolve("files"));
    Files.writeString(files.resolve("A.TXT"), "a");
    MemoryMedium target = new MemoryMedium(100_800);
    Path link = Files.createSymbolicLink(files.resolve("LINK"), files.resolve("A.TXT"));
    assertThatThrownBy(() -> ImageBuilder.examine(fromFolder(files), ""))
        .hasMessageContaining("LINK is a link");
    Files.delete(link);
    Path point = Files.writeString(files.resolve("NAME."), "x");
    assertThatThrownBy(() -> ImageBuilder.examine(fromFolder(files), ""))
        .hasMessageContaining("ends with a point");
    Files.delete(point);
    Path deep = files;
    for (int i = 0; i < 40; i++) deep = deep.resolve("D" + i);
    Files.createDirectories(deep);
    assertThatThrownBy(
            () ->
                ImageBuilder.build(
                    fromFolder(files), Optional.empty(), Stock.EMPTY, target, Progress.NONE))
        .hasMessageContaining("Put it less deep");
    assertThat(Bytes.allZero(target.sector(63), 0, 512)).isTrue();
  }

  /** In and out by one clock: a general tool reads the same time of day as this computer shows. */
  @Test
  void aTimeIsTheSameAfterTheWayInAndOut() throws Exception {
    Path files = Files.createDirectories(home.resolve("timed"));
    Path a = Files.writeString(files.resolve("A.TXT"), "a");
    Files.setLastModifiedTime(a, FileTime.fromMillis(1_000_000_000_000L));
    Recipe r = fromFolder(files);
    MemoryMedium target = new MemoryMedium(100_800);
    ImageBuilder.build(r, Optional.empty(), Stock.EMPTY, target, Progress.NONE);
    assertThat(Proof.of(r, Optional.empty(), target, 100_800, Progress.NONE).proved()).isTrue();
    FatVolume v = FatVolume.open(new SliceMedium(target, 63, 50_337));
    assertThat(FilesOut.millis(v.list(v.root()).get(0).stamp())).isEqualTo(1_000_000_000_000L);
    // A proof from a folder compares content, too.
    Files.writeString(a, "b");
    Files.setLastModifiedTime(a, FileTime.fromMillis(1_000_000_000_000L));
    Proof p = Proof.of(r, Optional.empty(), target, 100_800, Progress.NONE);
    assertThat(p.differing()).containsExactly("A.TXT");
    assertThat(p.proved()).isFalse();
    Files.writeString(files.resolve("B.TXT"), "new");
    assertThat(Proof.of(r, Optional.empty(), target, 100_800, Progress.NONE).differing())
        .contains("B.TXT");
  }

  @Test
  void aLabelInTheFirstSlotOfTheRootStopsTheStartAndIsNeverBuiltThere() {
    Geometry g = new Geometry(200, 16, 63);
    MemoryMedium m = Samples.drive(g);
    assertThat(new PcBoot().walk(m, g, g.total()).holds()).isTrue();
    SliceMedium slice = new SliceMedium(m, 63, g.total() - 63);
    FatVolume v = FatVolume.open(slice);
    long rootAt = v.layout().rootStart();
    byte[] root = slice.sectors(rootAt, v.layout().rootSectors());
    // The label stands behind the two system files; it comes to the front here.
    byte[] moved = root.clone();
    System.arraycopy(root, 64, moved, 0, 32);
    System.arraycopy(root, 0, moved, 32, 64);
    slice.write(rootAt, v.layout().rootSectors(), moved, 0);
    assertThat(FatVolume.open(slice).label()).isEqualTo("PATTERNS");
    BootChain walked = new PcBoot().walk(m, g, g.total());
    assertThat(walked.holds()).isFalse();
    assertThat(walked.broken().orElseThrow().rule()).isEqualTo("B-8");
    assertThat(walked.broken().orElseThrow().evidence()).contains("entry 2 of the root");
    assertThat(walked.message()).contains(BootCode.Message.NO_SYSTEM.text());
    // Growing puts the system files first again.
    MemoryMedium grown = new MemoryMedium(g.total());
    new FatGrow()
        .grow(FatVolume.open(slice), grown, g.total() - 63, g, 63, new byte[0], (n, all) -> {});
    FatVolume after = FatVolume.open(grown);
    assertThat(after.bootFacts().orElseThrow().first().get(0).slot()).isZero();
    assertThat(after.label()).isEqualTo("PATTERNS");
    assertThat(Samples.digests(after)).isEqualTo(Samples.digests(v));
  }

  @Test
  void theFormsBeforeAreReadAndSayTheSameByKeys() {
    String two =
        """
        {"form": "lantern shed recipe, form 2", "strategy": "REBUILD", "sectors": 2000,
         "geometry": {"cylinders": 10, "heads": 4, "sectors": 32}, "signature": "00000001",
         "bootCode": "OWN", "sourceSha256": "", "volumes": [{"start": 32, "length": 1900,
         "tableSector": 0, "logical": false, "active": true, "type": 14, "kind": "FAT16",
         "clusterBytes": 0, "rootEntries": 512, "label": "OLD", "serial": "00000002", "from": -1,
         "folder": "", "systemFile": "", "longNames": true}]}
        """;
    Recipe r = Recipe.parse(two);
    assertThat(r.form()).isEqualTo(Recipe.FORM);
    assertThat(r.family()).isEqualTo("pc");
    assertThat(r.table()).isEqualTo("MBR");
    assertThat(r.volumes().get(0).type()).isEqualTo("0E");
    assertThat(r.volumes().get(0).files()).isEmpty();
    assertThat(Recipe.parse(r.toJson())).isEqualTo(r);
    Recipe one = Recipe.parse(two.replace("form 2", "form 1").replace(", \"longNames\": true", ""));
    // Nobody decided that long names stay behind: that form had no word for them.
    assertThat(one.volumes().get(0).longNames()).isTrue();
    Recipe decided = Recipe.parse(two.replace("\"longNames\": true", "\"longNames\": false"));
    assertThat(decided.volumes().get(0).longNames()).isFalse();
  }
}
