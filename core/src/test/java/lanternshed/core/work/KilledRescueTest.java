package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import lanternshed.core.Child;
import lanternshed.core.Samples;
import lanternshed.core.Trials;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Damage;
import lanternshed.core.medium.FailingDrive;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Pace;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The process is really killed, at random moments: the map never claims what is not there. */
@Tag("trial")
class KilledRescueTest {
  private static final Geometry G = new Geometry(60, 16, 63);
  private static final int KILLS = Trials.turns(20, 200);
  private static final int HANDS = 3;
  @TempDir private Path folder;

  private static FailingDrive drive(FileMedium base, Pace pace) {
    return new FailingDrive(base, Damage.scattered(4, G.total(), 5, 2, 0), pace);
  }

  /** What the killed process does: arguments are source, image and map. */
  static final class Killed {
    public static void main(String[] args) {
      // A hundredth of the drive's own time: some hundred milliseconds for all of it.
      try (FailingDrive d = drive(FileMedium.open(Path.of(args[0])), Pace.lived(1))) {
        Rescue.Settings s =
            new Rescue.Settings(
                () -> new Rescue.Wish(2, args[3].equals("files"), false),
                false,
                System::nanoTime,
                Duration.ofSeconds(20));
        Rescue.run(d, Path.of(args[1]), Path.of(args[2]), s, Progress.NONE);
      }
    }
  }

  private int hand(int number, Path base) throws Exception {
    Random random = new Random(number);
    Path image = folder.resolve(number + ".img");
    Path map = folder.resolve(number + ".map");
    int kills = 0;
    while (kills < KILLS / HANDS + 1) {
      Process p =
          Child.start(
              Killed.class,
              folder.resolve(number + ".log"),
              base.toString(),
              image.toString(),
              map.toString(),
              number == 0 ? "files" : "plain");
      boolean ended = p.waitFor(150 + random.nextInt(500), TimeUnit.MILLISECONDS);
      p.destroyForcibly().waitFor();
      assertThat(ended && p.exitValue() != 0).as(() -> log(number)).isFalse();
      if (!ended) kills++;
      check(base, image, map, ended);
      if (ended) {
        Files.delete(image);
        Files.delete(map);
      }
    }
    return kills;
  }

  private String log(int number) {
    try {
      return Files.readString(folder.resolve(number + ".log"));
    } catch (java.io.IOException e) {
      return e.toString();
    }
  }

  private static void check(Path base, Path image, Path map, boolean whole) {
    if (!Files.exists(map)) {
      assertThat(Files.exists(image)).as("an image is never without its map").isFalse();
      return;
    }
    RescueMap m = RescueMap.load(map);
    if (!Files.exists(image)) {
      assertThat(m.counts().get(RescueMap.State.UNREAD)).isEqualTo(m.sectors());
      return;
    }
    try (FileMedium a = FileMedium.open(base);
        FileMedium b = FileMedium.open(image)) {
      byte[] x = new byte[2048 * 512];
      byte[] y = new byte[2048 * 512];
      for (RescueMap.Range r : m.ranges()) {
        if (r.state() != RescueMap.State.READ && r.state() != RescueMap.State.LATE) continue;
        for (long s = r.start(); s < r.end(); s += 2048) {
          int n = (int) Math.min(2048, r.end() - s);
          a.read(s, n, x, 0);
          b.read(s, n, y, 0);
          assertThat(java.util.Arrays.equals(x, 0, n * 512, y, 0, n * 512))
              .as("sectors from %d are as the map claims", s)
              .isTrue();
        }
      }
    }
    if (whole) assertThat(m.ranges(RescueMap.State.UNREAD)).isEmpty();
  }

  @Test
  void killsLoseNothingAndInventNothing() throws Exception {
    Path base = folder.resolve("base");
    Samples.toFile(Samples.drive(G), base);
    ExecutorService hands = Executors.newFixedThreadPool(HANDS);
    try {
      List<Future<Integer>> all = new ArrayList<>();
      for (int i = 0; i < HANDS; i++) {
        int number = i;
        all.add(hands.submit(() -> hand(number, base)));
      }
      int kills = 0;
      for (Future<Integer> f : all) kills += f.get();
      assertThat(kills).isGreaterThanOrEqualTo(KILLS);
    } finally {
      hands.shutdownNow();
    }
  }
}
