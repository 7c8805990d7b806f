package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.List;
import lanternshed.core.Samples;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Damage;
import lanternshed.core.medium.FailingDrive;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.Pace;
import lanternshed.core.medium.UnreadableException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

class PatientReaderTest {
  private static final Geometry G = new Geometry(20, 16, 63);

  private static FailingDrive drive(Damage.Kind kind, int tries) {
    Damage d = new Damage(List.of(new Damage.Zone(1000, 4, kind, tries)));
    return new FailingDrive(Samples.drive(G), d, Pace.counted());
  }

  @Test
  void whatReadsIsReadAndWhatFailsFails() throws Exception {
    MemoryMedium base = Samples.drive(G);
    byte[] b = new byte[512 * 8];
    try (PatientReader r = new PatientReader(drive(Damage.Kind.DEAD, 0), Duration.ofSeconds(5))) {
      r.read(63, 8, b);
      assertThat(b).isEqualTo(base.sectors(63, 8));
      assertThatThrownBy(() -> r.read(998, 8, b)).isInstanceOf(UnreadableException.class);
    }
  }

  @Test
  @Timeout(10)
  void aReadThatHangsIsGivenUpAndTheDriveCanBeAskedAgain() throws Exception {
    FailingDrive d = drive(Damage.Kind.STALL, 1);
    byte[] b = new byte[512 * 8];
    try (PatientReader r = new PatientReader(d, Duration.ofMillis(150))) {
      assertThatThrownBy(() -> r.read(998, 8, b)).isInstanceOf(PatientReader.Stalled.class);
    }
    try (PatientReader again = new PatientReader(d, Duration.ofMillis(2000))) {
      again.read(998, 8, b);
      assertThat(b).isEqualTo(Samples.drive(G).sectors(998, 8));
    }
  }

  @Test
  void withoutABoundItReadsInTheCallersOwnThread() throws Exception {
    byte[] b = new byte[512];
    try (PatientReader r = new PatientReader(Samples.drive(G), Duration.ZERO)) {
      r.read(0, 1, b);
    }
    assertThat(b[510]).isEqualTo((byte) 0x55);
  }

  @Test
  void whatIsInUseIsFoundWithoutGapOrOverlap() {
    MemoryMedium m = Samples.drive(G);
    List<long[]> used = Wanted.used(m);
    long end = -1;
    for (long[] u : used) {
      assertThat(u[0]).isGreaterThan(end);
      assertThat(u[1]).isPositive();
      end = u[0] + u[1];
    }
    assertThat(used.get(0)[0]).isZero();
    assertThat(end).isLessThanOrEqualTo(G.total());
    for (var n : Samples.volume(m, G).all()) {
      for (long[] run : Samples.volume(m, G).sectorsOf(n)) {
        long at = 63 + run[0];
        assertThat(used).as(n.path()).anyMatch(u -> at >= u[0] && at + run[1] <= u[0] + u[1]);
      }
    }
    assertThat(Wanted.used(new MemoryMedium(5000))).as("nothing is known of it").isEmpty();
  }
}
