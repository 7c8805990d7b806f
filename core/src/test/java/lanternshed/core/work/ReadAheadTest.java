package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Arrays;
import java.util.List;
import java.util.Random;
import lanternshed.core.medium.Damage;
import lanternshed.core.medium.FailingDrive;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.Pace;
import lanternshed.core.medium.UnreadableException;
import org.junit.jupiter.api.Test;

/** What is read ahead is what would have been read, in whatever order it is asked for. */
class ReadAheadTest {
  private static final int SECTORS = 1000;

  private static MemoryMedium random() {
    MemoryMedium m = new MemoryMedium(SECTORS);
    byte[] b = new byte[SECTORS * 512];
    new Random(5).nextBytes(b);
    m.write(0, SECTORS, b, 0);
    return m;
  }

  @Test
  void anyOrderGivesTheSectorsThatWereAskedFor() {
    MemoryMedium m = random();
    Random random = new Random(6);
    try (ReadAhead r = new ReadAhead(m, 16)) {
      long lba = 0;
      for (int i = 0; i < 2000; i++) {
        int n = (int) Math.min(1 + random.nextInt(16), SECTORS - lba);
        byte[] b = r.at(lba, n, SECTORS);
        assertThat(Arrays.copyOf(b, n * 512)).isEqualTo(m.sectors(lba, n));
        // Mostly straight on, now and then elsewhere.
        lba = random.nextInt(8) == 0 || lba + n >= SECTORS ? random.nextInt(SECTORS - 1) : lba + n;
      }
    }
  }

  /** A sector that does not come back is told when it is asked for, and not before. */
  @Test
  void aBadSectorFailsWhereItIsAskedFor() {
    Damage bad = new Damage(List.of(new Damage.Zone(32, 1, Damage.Kind.DEAD, 0)));
    FailingDrive drive = new FailingDrive(random(), bad, Pace.counted());
    try (ReadAhead r = new ReadAhead(drive, 16)) {
      r.at(0, 16, SECTORS);
      r.at(16, 16, SECTORS);
      assertThatThrownBy(() -> r.at(32, 16, SECTORS)).isInstanceOf(UnreadableException.class);
      assertThat(r.at(48, 16, SECTORS)).hasSize(16 * 512);
    }
  }
}
