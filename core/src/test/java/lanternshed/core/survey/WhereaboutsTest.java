package lanternshed.core.survey;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.Samples;
import lanternshed.core.measure.Field;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Place;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.fat.FatVolume;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class WhereaboutsTest {
  private static final Geometry G = new Geometry(60, 16, 63);
  private final MemoryMedium drive = Samples.drive(G);
  private final Whereabouts where = Whereabouts.of(drive);

  @Test
  void everySectorOfAVolumeHasItsName() {
    FatVolume v = Samples.volume(drive, G);
    assertThat(where.at(0).orElseThrow().kind()).isEqualTo("table");
    assertThat(where.at(1)).as("between table and volume").isEmpty();
    assertThat(where.at(63).orElseThrow().kind()).isEqualTo("boot sector");
    assertThat(where.at(63 + v.layout().fatStart()).orElseThrow().kind()).isEqualTo("FAT");
    assertThat(where.at(63 + v.layout().rootStart()).orElseThrow().kind()).isEqualTo("root folder");
    for (Node n : v.all()) {
      for (long[] run : v.sectorsOf(n)) {
        Place p = where.at(63 + run[0]).orElseThrow();
        assertThat(p.path()).isEqualTo(n.path());
        assertThat(p.kind()).isEqualTo(n.folder() ? "folder" : "file");
      }
    }
    assertThat(where.at(G.total() - 40).orElseThrow().kind()).isEqualTo("free space");
    assertThat(where.at(G.total() + 5)).isEmpty();
  }

  private static Place first(String kind) {
    return Whereabouts.of(Samples.drive(G)).places().stream()
        .filter(p -> p.kind().equals(kind))
        .findFirst()
        .orElseThrow();
  }

  @ParameterizedTest
  @CsvSource({
    "table, 446, entry 1: flag",
    "table, 454, entry 1: start LBA",
    "table, 511, mark 55 AA",
    "table, 100, boot code",
    "boot sector, 13, sectors per cluster",
    "boot sector, 28, hidden sectors",
    "root folder, 43, entry 2: attributes",
    "folder, 28, entry 1: length",
  })
  void bytesHaveTheSpecificationsNames(String kind, int at, String name) {
    Place p = first(kind);
    assertThat(p.fields(p.start()))
        .anyMatch(f -> f.at() <= at && at < f.at() + f.length() && f.name().equals(name));
  }

  @Test
  void onlyTheFirstSectorOfABootRegionHasItsFields() {
    Place boot = first("boot sector");
    assertThat(boot.fields(boot.start() + 1)).isEmpty();
    Place file = first("file");
    assertThat(file.fields(file.start())).isEmpty();
    Place folder = first("folder");
    assertThat(folder.fields(folder.start() + 1)).isNotEmpty();
    for (String kind : List.of("table", "boot sector", "folder")) {
      int end = 0;
      for (Field f : first(kind).fields(first(kind).start())) {
        assertThat(f.at()).as(f.name()).isGreaterThanOrEqualTo(end);
        end = f.at() + f.length();
      }
      assertThat(end).isLessThanOrEqualTo(512);
    }
  }

  @Test
  void deletedEntriesAreToldAsSuchAndNowhereElse() {
    FatVolume v = Samples.volume(drive, G);
    assertThat(v.deleted()).isEmpty();
    long root = 63 + v.layout().rootStart();
    byte[] b = drive.sector(root);
    b[32] = (byte) 0xE5;
    drive.write(root, 1, b, 0);
    FatVolume now = Samples.volume(drive, G);
    assertThat(now.deleted()).extracting(Node::path).containsExactly("_OOMDOS.SYS");
    assertThat(now.all()).extracting(Node::path).doesNotContain("_OOMDOS.SYS");
  }

  private static Survey.Found found(int number, String kind, boolean active) {
    return new Survey.Found(
        number,
        0,
        1,
        kind,
        "",
        true,
        active,
        new Volume.Use(0, 0, 0, 0),
        0,
        0,
        0,
        0,
        new long[0],
        0,
        List.of(),
        false,
        List.of(),
        List.of());
  }

  @Test
  void lettersAreThoseOfTheSystem() {
    List<Survey.Found> volumes =
        List.of(
            found(1, "FAT16", false),
            found(2, "FAT16", true),
            found(3, "another system's", false),
            found(5, "FAT16", false),
            found(6, "FAT12", false));
    Survey s = new Survey(10, Optional.empty(), volumes, List.of(), List.of());
    assertThat(Letters.of(s)).isEqualTo(Map.of(2, "C", 5, "D", 6, "E", 1, "F"));
  }

  @Test
  void aRunAcrossSeveralFilesNamesEachOfThem() {
    FatVolume v = Samples.volume(drive, G);
    List<Node> files = v.all().stream().filter(n -> !n.folder() && n.bytes() > 0).toList();
    long[] first = v.sectorsOf(files.get(0)).get(0);
    long[] second = v.sectorsOf(files.get(1)).get(0);
    long from = 63 + Math.min(first[0], second[0]);
    long to = 63 + Math.max(first[0] + first[1], second[0] + second[1]);
    assertThat(where.in(from, to - from))
        .extracting(Place::path)
        .contains(files.get(0).path(), files.get(1).path());
    assertThat(where.in(1, 62)).isEmpty();
    assertThat(where.isOnly(files.get(0).path(), 63, v.sectorsOf(files.get(0)))).isTrue();
    assertThat(where.isOnly(files.get(0).path(), 63, v.sectorsOf(files.get(1)))).isFalse();
    assertThat(where.in(0, 64)).extracting(Place::kind).containsExactly("table", "boot sector");
  }

  @Test
  void whereTwoOverlapTheFirstKeepsItsSectors() {
    // Two chains that cross: every sector still has one name, and it is the earlier file's.
    for (Place p : where.places()) {
      if (p.kind().equals("free space")) continue;
      assertThat(where.at(p.start()).orElseThrow()).isEqualTo(p);
      assertThat(where.at(p.start() + p.length() - 1).orElseThrow()).isEqualTo(p);
    }
  }

  @ParameterizedTest
  @CsvSource({
    "LETTERS/AUNT.93, true",
    "TAX93.WK1, true",
    "BIN/SYNTAX.HLP, false",
    "MY.CV, true",
    "RECVR.EXE, false",
    "WEAVE/P1.PAT, false",
    "README.TXT, true",
  })
  void namesThatLookPrivateAreTold(String path, boolean likely) {
    assertThat(PrivateThings.isLikely(path)).isEqualTo(likely);
  }

  @Test
  void damageEndsTheListAndNeverThrows() {
    byte[] b = drive.sector(63);
    b[13] = 0;
    drive.write(63, 1, b, 0);
    assertThat(Whereabouts.of(drive).at(0).orElseThrow().kind()).isEqualTo("table");
    assertThat(Whereabouts.of(new MemoryMedium(0)).places()).isEmpty();
  }
}
