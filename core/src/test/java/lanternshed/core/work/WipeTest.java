package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.SplittableRandom;
import java.util.concurrent.TimeUnit;
import lanternshed.core.Trials;
import lanternshed.core.measure.Sha256;
import lanternshed.core.medium.CardStandIn;
import lanternshed.core.medium.Damage;
import lanternshed.core.medium.FailingDrive;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.Pace;
import lanternshed.core.medium.UnreadableException;
import lanternshed.core.medium.UnwritableException;
import lanternshed.core.medium.Wrapper;
import lanternshed.core.work.Wipe.Order;
import lanternshed.core.work.Wipe.Report;
import lanternshed.core.work.Wipe.School;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Z-3: what is said to be gone is gone, and what may be there is named. */
@Tag("trial")
class WipeTest {
  private static final int SECTORS = 20_001;
  private static final byte[] KEY = "sixteen of bytes".getBytes();

  private static MemoryMedium full(int sectors) {
    MemoryMedium m = new MemoryMedium(sectors);
    byte[] b = new byte[sectors * 512];
    new Random(3).nextBytes(b);
    m.write(0, sectors, b, 0);
    return m;
  }

  private static Report wiped(Medium m, School school, boolean whole) {
    Wipe w = new Wipe(m, Order.of(school, whole, KEY));
    w.overwrite(0, (place, so) -> {}, Progress.NONE);
    return w.look(Progress.NONE);
  }

  private static long kept(Medium before, Medium after, int sectors) {
    long n = 0;
    for (int s = 0; s < sectors; s++) {
      if (Arrays.equals(before.sector(s), after.sector(s))) n++;
    }
    return n;
  }

  @ParameterizedTest
  @EnumSource(School.class)
  void nothingOfWhatWasThereStaysAndTheDigestIsOfWhatIsThereNow(School school) {
    MemoryMedium m = full(SECTORS);
    Report r = wiped(m, school, true);
    assertThat(kept(full(SECTORS), m, SECTORS)).isZero();
    assertThat(r.wiped()).as(r.sentence()).isTrue();
    assertThat(r.held()).isEqualTo(r.looked()).isEqualTo(SECTORS);
    assertThat(r.sha256()).isEqualTo(Sha256.of(m.sectors(0, SECTORS)));
    boolean empty = Arrays.equals(m.sectors(0, SECTORS), new byte[SECTORS * 512]);
    assertThat(empty).isEqualTo(school != School.NOISE);
    assertThat(r.because().result()).isEqualTo(SECTORS);
  }

  @Test
  void theNoiseIsThatOfAGeneralTool(@TempDir Path folder) throws Exception {
    Path zeros = folder.resolve("zeros");
    Path noise = folder.resolve("noise");
    Files.write(zeros, new byte[SECTORS * 512]);
    String hex = java.util.HexFormat.of().formatHex(KEY);
    String iv = "0".repeat(32);
    Process p =
        new ProcessBuilder(
                "openssl",
                "enc",
                "-aes-128-ctr",
                "-nosalt",
                "-K",
                hex,
                "-iv",
                iv,
                "-in",
                zeros.toString(),
                "-out",
                noise.toString())
            .redirectErrorStream(true)
            .start();
    assertThat(p.waitFor(60, TimeUnit.SECONDS)).isTrue();
    assertThat(p.exitValue()).isZero();
    MemoryMedium m = full(SECTORS);
    wiped(m, School.NOISE, true);
    assertThat(Sha256.of(m.sectors(0, SECTORS))).isEqualTo(Sha256.of(bytes(noise)));
  }

  private static byte[] bytes(Path file) throws IOException {
    return Files.readAllBytes(file);
  }

  @Test
  void whatCannotBeOverwrittenIsNamedToTheSector() {
    MemoryMedium base = full(SECTORS);
    Damage damage =
        new Damage(
            List.of(
                new Damage.Zone(100, 7, Damage.Kind.DEAD, 0),
                new Damage.Zone(5000, 30, Damage.Kind.LATE, 1),
                new Damage.Zone(9000, 3, Damage.Kind.STALL, 9),
                new Damage.Zone(SECTORS - 1, 1, Damage.Kind.DEAD, 0)));
    Report r = wiped(FailingDrive.toWipe(base, damage, Pace.counted()), School.NOISE_ZEROS, true);
    assertThat(r.unwritten())
        .containsExactly(new Span(100, 7), new Span(9000, 3), new Span(SECTORS - 1, 1));
    assertThat(r.wiped()).isFalse();
    assertThat(r.sha256()).isEmpty();
    assertThat(r.sentence()).contains("may still hold what was there");
    // Those that come late hold the pattern and are read a second time.
    assertThat(kept(full(SECTORS), base, SECTORS)).isEqualTo(11);
    assertThat(r.left()).as(r.toString()).isEqualTo(11);
  }

  /** A medium that says it wrote, and did not, now and then. */
  private static final class Forgetful extends Wrapper {
    private final int oneIn;
    long kept;

    Forgetful(Medium base, int oneIn) {
      super(base);
      this.oneIn = oneIn;
    }

    @Override
    public void write(long lba, int count, byte[] from, int at) {
      for (int i = 0; i < count; i++) {
        if ((lba + i) % oneIn == 0) kept++;
        else super.write(lba + i, 1, from, at + i * 512);
      }
    }
  }

  @Test
  void whatReadsBackOtherwiseIsNoClaim() {
    Forgetful m = new Forgetful(full(SECTORS), 500);
    Report whole = wiped(m, School.NOISE, true);
    assertThat(whole.left()).isEqualTo(m.kept);
    assertThat(whole.held()).isEqualTo(SECTORS - m.kept);
    Report sample = wiped(new Forgetful(full(SECTORS), 500), School.NOISE, false);
    assertThat(sample.looked()).isEqualTo(6905);
    assertThat(sample.wiped()).as("one in 500, and one in 1 000 would be met").isFalse();
    Report none = wiped(new Forgetful(full(40_000), 2), School.NOISE, false);
    assertThat(none.held()).isBetween(2500L, 4400L);
    assertThat(none.left()).isEqualTo(none.looked() - none.held());
    assertThat(wiped(full(3000), School.ZEROS, false).looked()).isEqualTo(3000);
  }

  @Test
  void aCardThatHoldsLessThanItSaysIsToldByNoise() {
    CardStandIn card = new CardStandIn(full(5000), "a card", 20_000, 5000, false, Pace.counted());
    Report r = wiped(card, School.NOISE, true);
    assertThat(r.wiped()).isFalse();
    assertThat(r.sentence()).contains("less than it says");
  }

  /** Is gone after some sectors, as a card that is pulled. */
  private static final class Pulled extends Wrapper {
    private long until;

    Pulled(Medium base, long until) {
      super(base);
      this.until = until;
    }

    @Override
    public synchronized void read(long lba, int count, byte[] into, int at) {
      if (--until < 0) throw new UnreadableException("the card that is gone", lba);
      super.read(lba, count, into, at);
    }

    @Override
    public synchronized void write(long lba, int count, byte[] from, int at) {
      if (--until < 0) throw new UnwritableException("The card is gone.");
      super.write(lba, count, from, at);
    }
  }

  /** A full disk below a stand-in is no fault of its sectors. */
  @Test
  void aFullDiskEndsItAndNoSectorIsBlamed() {
    Medium m =
        new Wrapper(full(SECTORS)) {
          @Override
          public void write(long lba, int count, byte[] from, int at) {
            if (lba > 10_000) throw new MediumException("No space left on the disk.");
            super.write(lba, count, from, at);
          }
        };
    List<Order> so = new ArrayList<>();
    Wipe w = new Wipe(m, Order.of(School.NOISE, true, KEY));
    assertThatThrownBy(() -> w.overwrite(0, (place, o) -> so.add(o), Progress.NONE))
        .hasMessageContaining("No space left");
    assertThat(so).allMatch(o -> o.unwritten().isEmpty());
  }

  @Test
  void pulledAtAnyMomentItGoesOnAndClaimsNothingBefore() {
    SplittableRandom random = new SplittableRandom(11);
    MemoryMedium before = full(SECTORS);
    for (int i = 0; i < Trials.turns(15, 300); i++) {
      MemoryMedium card = full(SECTORS);
      long[] place = {0};
      List<Order> so = new ArrayList<>(List.of(Order.of(School.NOISE_ZEROS, true, KEY)));
      Pulled m = new Pulled(card, random.nextLong(1, 30));
      Wipe first = new Wipe(m, so.get(0));
      assertThatThrownBy(
              () -> {
                first.overwrite(
                    0,
                    (p, o) -> {
                      place[0] = p;
                      so.set(0, o);
                    },
                    Progress.NONE);
                first.look(Progress.NONE);
              })
          .isInstanceOf(MediumException.class)
          .hasMessageContaining("gone");
      assertThat(so.get(0).unwritten()).as("what was pulled is not unwritable").isEmpty();
      Wipe again = new Wipe(card, so.get(0));
      if (place[0] > 0) {
        assertThat(again.begun(place[0])).isTrue();
        assertThat(new Wipe(before, so.get(0)).begun(place[0])).isFalse();
      }
      again.overwrite(place[0], (p, o) -> {}, Progress.NONE);
      assertThat(again.look(Progress.NONE).wiped()).isTrue();
      assertThat(kept(before, card, SECTORS)).isZero();
    }
  }

  @Test
  void aMediumOnWhichEverySecondSectorFailsFillsNoMemory() {
    Spans s = new Spans();
    for (int i = 0; i < 100_000; i += 2) s.add(i, 1);
    assertThat(s.list()).hasSizeLessThanOrEqualTo(1000);
    for (int i = 0; i < 100_000; i += 2) assertThat(s.has(i)).isTrue();
    s.add(1, 1);
    assertThat(s.list().get(0)).isEqualTo(new Span(0, 3));
  }
}
