package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import lanternshed.core.medium.CardStandIn;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.Pace;
import lanternshed.core.medium.Wrapper;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** W-6: cards that have less than they say, found by a quick look and by a full one. */
class TrueSizeTest {
  private static final long SEED = 42;

  private static CardStandIn card(long claimed, long real, boolean loses) {
    return new CardStandIn(new MemoryMedium(real), "a card", claimed, real, loses, Pace.counted());
  }

  private static TrueSize.Report full(Medium m) {
    TrueSize.fill(m, SEED, 0, s -> {}, Progress.NONE);
    return TrueSize.readAll(m, SEED, Progress.NONE);
  }

  @ParameterizedTest
  @CsvSource({
    "100000, 100000, false, TRUE", "100000, 50000, false, WRAPS", "100000, 33333, false, WRAPS",
    "100000, 99999, true, LOSES", "100000, 2049, true, LOSES", "100000, 3000, false, WRAPS",
    "100000, 97000, false, WRAPS", "2048, 2048, false, TRUE", "131072, 65536, false, WRAPS",
    "131072, 65536, true, LOSES",
  })
  void theTrueSizeIsFoundToTheSector(long claimed, long real, boolean loses, TrueSize.Kind kind) {
    TrueSize.Report quick = TrueSize.quick(card(claimed, real, loses), SEED, Progress.NONE);
    assertThat(quick.kind()).as(quick.sentence()).isEqualTo(kind);
    assertThat(quick.sectors()).as(quick.sentence()).isEqualTo(real);
    assertThat(quick.looked()).isLessThanOrEqualTo(claimed);
    TrueSize.Report all = full(card(claimed, real, loses));
    assertThat(all.kind()).isEqualTo(kind);
    assertThat(all.sectors()).isEqualTo(real);
    assertThat(all.looked()).isEqualTo(claimed);
    assertThat(all.because().lines()).hasSizeGreaterThan(2);
  }

  @Test
  void anySizeAtWhichACardWrapsOrEndsIsFoundByTheQuickLook() {
    SplittableRandom random = new SplittableRandom(7);
    for (int i = 0; i < 120; i++) {
      long claimed = random.nextLong(10_000, 300_000);
      // Also where less than a stride is missing, and where less than the run is there.
      long real =
          switch (i % 3) {
            case 0 -> claimed - random.nextLong(1, 600);
            case 1 -> random.nextLong(1, 2048);
            default -> random.nextLong(2048, claimed);
          };
      boolean loses = random.nextBoolean();
      TrueSize.Report r = TrueSize.quick(card(claimed, real, loses), i, Progress.NONE);
      assertThat(r.sectors()).as("%d of %d, loses %s", real, claimed, loses).isEqualTo(real);
    }
  }

  @Test
  void aQuickLookWritesLittleOfALargeCard() {
    long claimed = 128L << 21;
    Map<Long, byte[]> kept = new HashMap<>();
    Medium large =
        new Wrapper(new MemoryMedium(claimed)) {
          @Override
          public void write(long lba, int count, byte[] from, int at) {
            for (int i = 0; i < count; i++) {
              kept.put(lba + i, Arrays.copyOfRange(from, at + i * 512, at + i * 512 + 512));
            }
          }

          @Override
          public void read(long lba, int count, byte[] into, int at) {
            for (int i = 0; i < count; i++) {
              System.arraycopy(kept.get(lba + i), 0, into, at + i * 512, 512);
            }
          }

          @Override
          public String name() {
            return "a large card";
          }
        };
    TrueSize.Report r = TrueSize.quick(large, SEED, Progress.NONE);
    assertThat(r.kind()).isEqualTo(TrueSize.Kind.TRUE);
    assertThat(r.looked()).isEqualTo(kept.size()).isLessThan(claimed / 5000);
  }

  @Test
  void sectorsThatDoNotKeepOrReadAreCountedAndTheFirstIsNamed() {
    MemoryMedium kept = new MemoryMedium(10_000);
    Medium spoilt =
        new Wrapper(kept) {
          @Override
          public void write(long lba, int count, byte[] from, int at) {
            byte[] b = from.clone();
            for (int i = 0; i < count; i++) if (lba + i == 700) b[at + i * 512 + 99] ^= 1;
            kept.write(lba, count, b, at);
          }

          @Override
          public void read(long lba, int count, byte[] into, int at) {
            if (lba <= 900 && lba + count > 900) throw new MediumException("900 does not read");
            kept.read(lba, count, into, at);
          }

          @Override
          public String name() {
            return "a spoilt card";
          }
        };
    TrueSize.Report r = full(spoilt);
    assertThat(r.kind()).isEqualTo(TrueSize.Kind.BAD);
    assertThat(r.sentence()).startsWith("2 sectors do not keep").contains("the first is 700");
  }

  @Test
  void aFullLookGoesOnWhereItWasSafe() {
    CardStandIn wraps = card(60_000, 40_000, false);
    List<Long> safe = new ArrayList<>();
    try {
      TrueSize.fill(
          wraps,
          SEED,
          0,
          safe::add,
          (p, done, total) -> {
            if (done > 30_000L * 512) throw new StoppedException("pulled");
          });
    } catch (StoppedException e) {
      assertThat(safe).isNotEmpty();
    }
    long from = safe.get(safe.size() - 1);
    TrueSize.fill(wraps, SEED, from, safe::add, Progress.NONE);
    TrueSize.Report r = TrueSize.readAll(wraps, SEED, Progress.NONE);
    assertThat(r.kind()).isEqualTo(TrueSize.Kind.WRAPS);
    assertThat(r.sectors()).isEqualTo(40_000);
  }
}
