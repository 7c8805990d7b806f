package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import java.util.Random;
import lanternshed.core.medium.Damage;
import lanternshed.core.medium.FailingDrive;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.Pace;
import org.junit.jupiter.api.Test;

/** A write goes on only on the card that it was begun on. */
class BegunTest {
  private static final int SECTORS = 4000;

  private static MemoryMedium filled(long seed, int sectors) {
    MemoryMedium m = new MemoryMedium(SECTORS);
    byte[] b = new byte[sectors * 512];
    new Random(seed).nextBytes(b);
    m.write(0, sectors, b, 0);
    return m;
  }

  @Test
  void theCardThatHoldsWhatWasWrittenIsTheOne() {
    Medium image = filled(1, SECTORS);
    for (int from : new int[] {1, 2, 63, 64, 65, 2048, SECTORS}) {
      assertThat(Begun.on(filled(1, from), from, image::sector)).as("" + from).isTrue();
      assertThat(Begun.on(filled(2, SECTORS), from, image::sector)).as("" + from).isFalse();
      assertThat(Begun.on(new MemoryMedium(SECTORS), from, image::sector)).isFalse();
    }
  }

  @Test
  void beforeAnythingIsWrittenNoCardIs() {
    Medium image = new MemoryMedium(SECTORS);
    assertThat(Begun.on(new MemoryMedium(SECTORS), 0, image::sector)).isFalse();
    assertThat(Begun.on(new MemoryMedium(10), SECTORS, image::sector)).isFalse();
  }

  /** An image that is empty up to there does not make every card that is empty there the one. */
  @Test
  void theFirstSectorAndTheLastAreAlwaysLookedAt() {
    Medium image = new MemoryMedium(SECTORS);
    for (long at : new long[] {0, 1999}) {
      MemoryMedium other = new MemoryMedium(SECTORS);
      byte[] b = new byte[512];
      Arrays.fill(b, (byte) 7);
      other.write(at, 1, b, 0);
      assertThat(Begun.on(other, 2000, image::sector)).isFalse();
    }
  }

  @Test
  void aCardThatDoesNotReadThereIsNot() {
    Medium image = filled(1, SECTORS);
    Damage bad = new Damage(List.of(new Damage.Zone(0, 1, Damage.Kind.DEAD, 0)));
    FailingDrive card = new FailingDrive(filled(1, SECTORS), bad, Pace.counted());
    assertThat(Begun.on(card, 2000, image::sector)).isFalse();
  }

  @Test
  void aLookAtTheTrueSizeKnowsItsOwnSectors() {
    MemoryMedium card = new MemoryMedium(SECTORS);
    TrueSize.fill(card, 9, 0, s -> {}, Progress.NONE);
    assertThat(TrueSize.begun(card, 9, SECTORS)).isTrue();
    assertThat(TrueSize.begun(card, 8, SECTORS)).as("of an earlier look").isFalse();
  }
}
