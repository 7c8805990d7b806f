package lanternshed.core.medium;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class MediumTest {
  @TempDir private Path folder;

  private static byte[] filled(int value) {
    byte[] b = new byte[512];
    java.util.Arrays.fill(b, (byte) value);
    return b;
  }

  @Test
  void nothingIsReadOrWrittenOutside() {
    Medium m = new MemoryMedium(10);
    assertThatThrownBy(() -> m.read(9, 2, new byte[1024], 0))
        .hasMessageContaining("ends at sector 10");
    assertThatThrownBy(() -> m.write(-1, 1, new byte[512], 0)).isInstanceOf(MediumException.class);
    Medium slice = new SliceMedium(m, 4, 100);
    assertThat(slice.sectors()).isEqualTo(6);
    assertThatThrownBy(() -> slice.sector(6)).isInstanceOf(MediumException.class);
    assertThatThrownBy(() -> new SliceMedium(m, 11, 1)).hasMessageContaining("outside");
  }

  @Test
  void aTebibyteWithOneSectorCostsNextToNothing() {
    MemoryMedium m = new MemoryMedium(1L << 31);
    m.write((1L << 31) - 1, 1, filled(7), 0);
    assertThat(m.sector((1L << 31) - 1)).isEqualTo(filled(7));
    assertThat(m.sector(12345)).containsOnly(0);
  }

  @Test
  void aFileTellsItsTailAndIsNeverWrittenAsAnOriginal() throws Exception {
    Path file = folder.resolve("a.img");
    Files.write(file, new byte[1500]);
    try (FileMedium m = FileMedium.open(file)) {
      assertThat(m.sectors()).isEqualTo(2);
      assertThat(m.tailBytes()).isEqualTo(476);
      assertThatThrownBy(() -> m.write(0, 1, new byte[512], 0))
          .hasMessageContaining("reading only");
    }
    assertThatThrownBy(() -> FileMedium.create(file, 1)).hasMessageContaining("not replaced");
    assertThatThrownBy(() -> FileMedium.open(folder.resolve("none")))
        .hasMessageContaining("no file");
    assertThatThrownBy(() -> new ReadOnlyMedium(new MemoryMedium(1)).write(0, 1, filled(1), 0))
        .hasMessageContaining("original");
  }

  /** A begin that the disk refuses keeps nothing: the next one gets the file and its lock. */
  @Test
  void aBeginThatFailedStandsInNobodysWay() throws Exception {
    Path file = folder.resolve("begun.img");
    long more = Long.MAX_VALUE / 512;
    assertThatThrownBy(() -> FileMedium.begin(file, more)).hasMessageContaining("cannot be made");
    try (FileMedium m = FileMedium.begin(file, 8)) {
      assertThat(Files.size(file)).isEqualTo(8 * 512);
      assertThatThrownBy(() -> FileMedium.begin(file, 8)).hasMessageContaining("somebody else");
      m.write(0, 1, new byte[512], 0);
    }
    FileMedium.begin(file, 8).close();
  }

  /** Through a slice too; what is read-only, no file, or fills its last sector up is told. */
  @Test
  void theKernelCopiesFromFileToFile() throws Exception {
    Path from = folder.resolve("from.img");
    byte[] b = new byte[9 * 512];
    new java.util.Random(2).nextBytes(b);
    Files.write(from, b);
    Path to = folder.resolve("to.img");
    try (FileMedium source = FileMedium.open(from);
        FileMedium target = FileMedium.create(to, 20)) {
      target.write(10, 1, filled(7), 0);
      Medium slice = new SliceMedium(target, 3, 8);
      assertThat(slice.take(source, 1, 5, 2)).isTrue();
      byte[] got = target.sectors(0, 20);
      byte[] wanted = new byte[20 * 512];
      System.arraycopy(b, 512, wanted, 5 * 512, 5 * 512);
      java.util.Arrays.fill(wanted, 10 * 512, 11 * 512, (byte) 7);
      assertThat(got).isEqualTo(wanted);
      assertThatThrownBy(() -> slice.take(source, 0, 5, 4))
          .hasMessageContaining("ends at sector 8");
      assertThatThrownBy(() -> slice.take(source, 5, 5, 0))
          .hasMessageContaining("from.img, which ends");
      assertThat(source.take(target, 0, 1, 0)).as("an original").isFalse();
      assertThat(new MemoryMedium(9).take(source, 0, 9, 0)).as("no file").isFalse();
      assertThat(new ReadOnlyMedium(target).take(source, 0, 9, 0)).as("a wrapper").isFalse();
      Files.write(from, new byte[512]);
      assertThatThrownBy(() -> slice.take(source, 1, 5, 2)).hasMessageContaining("became shorter");
    }
    Path small = folder.resolve("small.img");
    Files.write(small, new byte[683 * 256]);
    try (FileMedium source = FileMedium.open(small);
        FileMedium target = FileMedium.create(folder.resolve("t2.img"), 400)) {
      assertThat(target.take(source, 0, 341, 0)).isTrue();
      assertThat(target.take(source, 0, 342, 0)).as("its last sector is half there").isFalse();
    }
  }

  @Test
  void aFailingDriveFailsAndRecoversWhereItsDamageSays() {
    MemoryMedium base = new MemoryMedium(1000);
    base.write(21, 1, filled(9), 0);
    Damage damage =
        new Damage(
            List.of(
                new Damage.Zone(10, 2, Damage.Kind.DEAD, 0),
                new Damage.Zone(21, 1, Damage.Kind.LATE, 1),
                new Damage.Zone(100, 50, Damage.Kind.SLOW, 0)));
    Pace pace = Pace.counted();
    FailingDrive d = new FailingDrive(base, damage, pace);
    assertThatThrownBy(() -> d.read(0, 20, new byte[20 * 512], 0))
        .isInstanceOfSatisfying(UnreadableException.class, e -> assertThat(e.lba()).isEqualTo(10));
    assertThatThrownBy(() -> d.sector(21)).isInstanceOf(UnreadableException.class);
    assertThat(d.sector(21)).isEqualTo(filled(9));
    long before = pace.nanos();
    d.sector(120);
    assertThat(pace.nanos() - before).isGreaterThan(10_000_000);
    assertThat(Damage.scattered(5, 10_000, 3, 3, 3))
        .isEqualTo(Damage.scattered(5, 10_000, 3, 3, 3));
  }

  @Test
  void aCardOfFalseCapacityWraps() {
    CardStandIn c = new CardStandIn(new MemoryMedium(100), "card", 300, 100, Pace.counted());
    c.write(5, 1, filled(1), 0);
    c.write(205, 1, filled(2), 0);
    assertThat(c.sectors()).isEqualTo(300);
    assertThat(c.sector(5)).isEqualTo(filled(2));
    byte[] across = new byte[2 * 512];
    c.read(99, 2, across, 0);
    assertThat(across).containsOnly(0);
    assertThatThrownBy(() -> new CardStandIn(new MemoryMedium(10), "c", 10, 11, Pace.counted()))
        .isInstanceOf(MediumException.class);
  }
}
