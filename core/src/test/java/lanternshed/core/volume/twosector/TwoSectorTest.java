package lanternshed.core.volume.twosector;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import lanternshed.core.Samples;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class TwoSectorTest {
  private static final Geometry G = new Geometry(80, 1, 5);

  private static MemoryMedium made(long sectors, FileSet files) {
    MemoryMedium m = new MemoryMedium(sectors);
    Maker maker = new CatalogueMaker();
    Maker.Wish wish = Samples.wish(CatalogueLayout.KIND, sectors, 0, G, 0, "Quilt pieces", 0);
    maker.write(maker.layout(wish), files, m, new byte[0], (p, n) -> {});
    return m;
  }

  private static Optional<Volume> open(MemoryMedium m) {
    return Opener.recognise(m, Hint.NO_TABLE)
        .filter(r -> r.kind().equals(CatalogueLayout.KIND))
        .flatMap(Recognised::volume);
  }

  /**
   * A second reader, by the published places alone: title, count, and of a named file its first
   * sector and length.
   */
  private static byte[] found(byte[] disk, char letter, String name) {
    int count = (disk[0x105] & 255) / 8;
    for (int i = 1; i <= count; i++) {
      String there = "";
      for (int k = 0; k < 7; k++) there += (char) (disk[8 * i + k] & 127);
      if (!there.trim().equals(name) || (disk[8 * i + 7] & 127) != letter) continue;
      int mixed = disk[0x100 + 8 * i + 6] & 255;
      int first = (mixed & 3) * 256 + (disk[0x100 + 8 * i + 7] & 255);
      int length =
          (mixed >> 4 & 3) * 65536
              + (disk[0x100 + 8 * i + 5] & 255) * 256
              + (disk[0x100 + 8 * i + 4] & 255);
      return Arrays.copyOfRange(disk, first * 256, first * 256 + length);
    }
    return null;
  }

  @ParameterizedTest
  @ValueSource(longs = {200, 400})
  void whatIsLaidDownIsReadBackByTwoReaders(long sectors) {
    Random r = new Random(sectors);
    Map<String, byte[]> content = new HashMap<>();
    FileSet files = new FileSet();
    files.folder("W", 0, 0);
    for (int i = 0; i < 31; i++) {
      byte[] b = new byte[r.nextInt((int) sectors * 512 / 40)];
      r.nextBytes(b);
      String path = (i % 3 == 0 ? "W/" : "") + "PIECE" + i;
      content.put(path, b);
      Samples.file(files, path, i % 2 == 0 ? 0x21 : 0x20, b);
    }
    files.item("PIECE1").own(new byte[] {0x00, 0x19, 0x03, 0x23, (byte) 0x80, 0x03});
    MemoryMedium m = made(sectors, files);
    byte[] disk = m.sectors(0, (int) sectors);
    Volume v = open(m).orElseThrow();
    assertThat(v.label()).isEqualTo("Quilt pieces");
    assertThat(v.check()).isEmpty();
    for (Node n : v.all()) {
      if (n.folder()) continue;
      assertThat(Samples.bytes(v, n)).as(n.path()).isEqualTo(content.remove(n.path()));
      char letter = n.path().startsWith("W/") ? 'W' : '$';
      assertThat(found(disk, letter, n.name())).isEqualTo(Samples.bytes(v, n));
      if (n.path().equals("PIECE1")) {
        assertThat(v.own(n)).containsExactly(0x00, 0x19, 0x03, 0x23, 0x80, 0x03);
      }
    }
    assertThat(content).isEmpty();
  }

  @Test
  void theCatalogueEndsWithItsThirtyFirstFileAndTheDiskWithItsLastSector() {
    Maker maker = new CatalogueMaker();
    Maker.Layout l = maker.layout(Samples.wish(CatalogueLayout.KIND, 200, 0, G, 0, "", 0));
    FileSet full = new FileSet();
    Samples.file(full, "ALL", 0x20, new byte[398 * 256]);
    assertThat(open(made(200, full)).orElseThrow().use().free()).isZero();
    FileSet over = new FileSet();
    Samples.file(over, "ALL", 0x20, new byte[398 * 256 + 1]);
    assertThat(maker.fit(l, over).fits()).isFalse();
    FileSet many = new FileSet();
    for (int i = 0; i < 31; i++) Samples.file(many, "F" + i, 0x20, new byte[1]);
    assertThat(maker.fit(l, many).fits()).isTrue();
    Samples.file(many, "F31", 0x20, new byte[1]);
    assertThatThrownBy(() -> made(200, many)).isInstanceOf(VolumeException.class);
  }

  @ParameterizedTest
  @ValueSource(strings = {"EIGHTLET", "A.B", "A B", "IN/A"})
  void aNameThatCannotStandIsRefused(String path) {
    FileSet files = new FileSet();
    if (path.startsWith("IN/")) files.folder("IN", 0, 0);
    Samples.file(files, path, 0x20, new byte[3]);
    assertThatThrownBy(() -> made(200, files)).isInstanceOf(VolumeException.class);
  }

  @Test
  void randomCataloguesAreRefusedOrToldAndAreNeverAFault() {
    Random r = new Random(8);
    FileSet files = new FileSet();
    for (int i = 0; i < 12; i++) Samples.file(files, "F" + i, 0x20, Samples.content(i, 3000));
    byte[] disk = made(200, files).sectors(0, 200);
    int opened = 0;
    for (int trial = 0; trial < 1000; trial++) {
      byte[] b = disk.clone();
      for (int i = 0; i <= r.nextInt(4); i++) b[r.nextInt(512)] = (byte) r.nextInt(256);
      int sectors = r.nextInt(4) == 0 ? 1 + r.nextInt(199) : 200;
      Optional<Volume> v = open(MemoryMedium.of(Arrays.copyOf(b, sectors * 512)));
      if (v.isEmpty()) continue;
      opened++;
      assertThat(v.get().check()).allMatch((Finding f) -> !f.what().isBlank());
      v.get().places();
      v.get().use();
      for (Node n : v.get().all()) {
        v.get().sectorsOf(n);
        try {
          v.get().read(n, (x, at, length) -> {});
        } catch (VolumeException e) {
          assertThat(v.get().notWhole(n)).isPresent();
        }
      }
    }
    assertThat(opened).isPositive();
  }

  @Test
  void otherSmallDisksAreNotTakenForIt() {
    for (long sectors : List.of(200L, 320L, 400L)) {
      assertThat(open(new MemoryMedium(sectors))).isEmpty();
      byte[] noise = Samples.content((int) sectors, (int) sectors * 512);
      assertThat(open(MemoryMedium.of(noise))).isEmpty();
    }
  }
}
