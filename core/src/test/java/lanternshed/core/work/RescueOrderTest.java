package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import lanternshed.core.Samples;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Damage;
import lanternshed.core.medium.FailingDrive;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.Pace;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.fat.FatVolume;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a rescue saves and how soon, in the stand-in's own clock. */
class RescueOrderTest {
  private static final long SECTOR_NANOS = 512_000;
  @TempDir private Path folder;

  private Rescue.Report run(FailingDrive d, Pace pace, Rescue.Wish wish, Progress p) {
    Rescue.Settings s = new Rescue.Settings(() -> wish, false, pace::nanos, Duration.ofSeconds(1));
    return Rescue.run(d, folder.resolve("i"), folder.resolve("i.map"), s, p);
  }

  @Test
  void fortyFailingZonesEightSlowOnesAndAStallCostLittleMoreThanAPerfectOrder() {
    long sectors = 2L << 20;
    MemoryMedium base = new MemoryMedium(sectors);
    Random random = new Random(5);
    byte[] b = new byte[512];
    for (int i = 0; i < 2000; i++) {
      random.nextBytes(b);
      base.write((long) (random.nextDouble() * sectors), 1, b, 0);
    }
    List<Damage.Zone> zones = new ArrayList<>(Damage.scattered(11, sectors, 30, 10, 8).zones());
    zones.add(new Damage.Zone(1_400_003, 1, Damage.Kind.STALL, 1));
    Damage damage = new Damage(zones);
    Pace pace = Pace.counted();
    FailingDrive drive = new FailingDrive(base, damage, pace);
    boolean[] dead = new boolean[(int) sectors];
    for (Damage.Zone z : zones) {
      if (z.kind() != Damage.Kind.DEAD) continue;
      for (long s = z.start(); s < z.start() + z.length(); s++) dead[(int) s] = true;
    }
    long lost = 0;
    for (boolean d : dead) if (d) lost++;
    long readable = sectors - lost;
    long threshold = (readable * 99 / 100 + lost) * 512;
    long[] reached = {0};
    Progress p =
        (phase, done, total) -> {
          if (reached[0] == 0 && !phase.startsWith("digesting") && done >= threshold) {
            reached[0] = pace.nanos();
          }
        };
    assertThatThrownBy(() -> run(drive, pace, Rescue.Wish.USUAL, p))
        .isInstanceOf(StoppedException.class)
        .hasMessageContaining("answered nothing at sector")
        .hasMessageContaining("go on");
    Rescue.Report r = run(drive, pace, Rescue.Wish.USUAL, p);
    assertThat(r.lost()).as("all that can come at all came").isEqualTo(lost);
    assertThat(r.left()).isZero();
    // Perfect: the fastest 99 % from front to back, one step over each bad place.
    double perfect = readable * 0.99 * SECTOR_NANOS + zones.size() * 1e6;
    double ratio = reached[0] / perfect;
    System.out.printf("time to 99 %% of the readable sectors: %.3f of a perfect order%n", ratio);
    assertThat(ratio).isLessThanOrEqualTo(1.1);
    try (FileMedium m = FileMedium.open(folder.resolve("i"))) {
      for (long s = 0; s < sectors; s += 997) {
        byte[] want = dead[(int) s] ? Rescue.marker(s) : base.sector(s);
        assertThat(m.sector(s)).isEqualTo(want);
      }
    }
    long[] slowest = RescueMap.load(folder.resolve("i.map")).slowest();
    for (Damage.Zone z : zones) {
      if (z.kind() != Damage.Kind.SLOW) continue;
      assertThat(slowest[(int) (z.start() * RescueMap.PARTS / sectors)]).isGreaterThan(4_000_000);
    }
  }

  /** A drive on which a quarter is in use, spread over all of it: three of four files deleted. */
  private static MemoryMedium quarterFull(Geometry g, List<long[]> used) {
    MemoryMedium m = Samples.full(g);
    FatVolume v = Samples.volume(m, g);
    byte[] two = new byte[512];
    int n = 0;
    for (Node f : v.all()) {
      if (f.folder() || n++ % 4 == 0) continue;
      for (long[] run : v.sectorsOf(f)) {
        long first = (run[0] - v.layout().firstData()) / v.layout().sectorsPerCluster() + 2;
        long count = run[1] / v.layout().sectorsPerCluster();
        for (long c = first; c < first + count; c++) {
          for (int copy = 0; copy < 2; copy++) {
            long lba =
                g.sectors() + v.layout().fatStart() + copy * v.layout().fatSectors() + c * 2 / 512;
            m.read(lba, 1, two, 0);
            two[(int) (c * 2 % 512)] = 0;
            two[(int) (c * 2 % 512) + 1] = 0;
            m.write(lba, 1, two, 0);
          }
        }
      }
    }
    FatVolume now = Samples.volume(m, g);
    for (long[] run : now.inUse()) used.add(new long[] {g.sectors() + run[0], run[1]});
    return m;
  }

  private long untilUsedIsRead(MemoryMedium base, List<long[]> used, Rescue.Wish wish)
      throws Exception {
    Pace pace = Pace.counted();
    FailingDrive d = new FailingDrive(base, Damage.none(), pace);
    long[] last = {0};
    boolean[] want = new boolean[(int) base.sectors()];
    for (long[] u : used) for (long s = u[0]; s < u[0] + u[1]; s++) want[(int) s] = true;
    long[] left = {used.stream().mapToLong(u -> u[1]).sum()};
    var counting =
        new lanternshed.core.medium.Medium() {
          @Override
          public int sectorSize() {
            return 512;
          }

          @Override
          public long sectors() {
            return d.sectors();
          }

          @Override
          public void read(long lba, int count, byte[] into, int at) {
            d.read(lba, count, into, at);
            for (long s = lba; s < lba + count; s++) {
              if (!want[(int) s]) continue;
              want[(int) s] = false;
              if (--left[0] == 0) last[0] = pace.nanos();
            }
          }

          @Override
          public void write(long lba, int count, byte[] from, int at) {
            throw new UnsupportedOperationException();
          }

          @Override
          public String name() {
            return "counting";
          }
        };
    java.nio.file.Files.deleteIfExists(folder.resolve("i"));
    java.nio.file.Files.deleteIfExists(folder.resolve("i.map"));
    Rescue.Settings s = new Rescue.Settings(() -> wish, false, pace::nanos, Duration.ZERO);
    Rescue.run(counting, folder.resolve("i"), folder.resolve("i.map"), s, Progress.NONE);
    return last[0];
  }

  @Test
  void filesFirstHasEveryUsedClusterAtLeastTwiceAsSoon() throws Exception {
    Geometry g = new Geometry(300, 16, 63);
    List<long[]> used = new ArrayList<>();
    MemoryMedium base = quarterFull(g, used);
    long share = used.stream().mapToLong(u -> u[1]).sum() * 100 / g.total();
    assertThat(share).isBetween(20L, 30L);
    long plain = untilUsedIsRead(base, used, Rescue.Wish.USUAL);
    long files = untilUsedIsRead(base, used, new Rescue.Wish(2, true, false));
    System.out.printf(
        "all used clusters read %.1f times sooner with files first%n", plain / (double) files);
    assertThat(plain).isGreaterThanOrEqualTo(2 * files);
    Rescue.Report whole = report(base, new Rescue.Wish(2, true, false));
    assertThat(whole.left()).isZero();
    Rescue.Report part = report(base, new Rescue.Wish(2, true, true));
    assertThat(part.left()).as("free space is left out for good").isGreaterThan(g.total() / 2);
    assertThat(part.lost()).isZero();
  }

  private Rescue.Report report(MemoryMedium base, Rescue.Wish wish) throws Exception {
    java.nio.file.Files.deleteIfExists(folder.resolve("i"));
    java.nio.file.Files.deleteIfExists(folder.resolve("i.map"));
    return Rescue.run(
        base,
        folder.resolve("i"),
        folder.resolve("i.map"),
        Rescue.Settings.of(wish, false),
        Progress.NONE);
  }

  @Test
  void theWishMayChangeWhileItRuns() throws Exception {
    Geometry g = new Geometry(300, 16, 63);
    MemoryMedium base = quarterFull(g, new ArrayList<>());
    Rescue.Wish[] wish = {Rescue.Wish.USUAL};
    List<String> phases = new ArrayList<>();
    Progress p =
        (phase, done, total) -> {
          if (!phases.contains(phase)) phases.add(phase);
          if (done > total / 10) wish[0] = new Rescue.Wish(0, true, true);
        };
    Rescue.Settings s = new Rescue.Settings(() -> wish[0], false, () -> 0, Duration.ZERO);
    Rescue.Report r = Rescue.run(base, folder.resolve("i"), folder.resolve("i.map"), s, p);
    assertThat(phases).containsSubsequence("reading forward", "reading what is in use");
    assertThat(r.left()).isPositive();
  }
}
