package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import lanternshed.core.Child;
import lanternshed.core.Trials;
import lanternshed.core.medium.Copy;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.node.NodeNow;
import lanternshed.core.node.OwnNodes;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * The process is really killed while it writes a block device of the system: what it said to be
 * safe lies there, and it goes on from there to the end (W-5 to W-7, Z-3).
 */
@Tag("trial")
class KilledOnNodeTest {
  private static final long SEED = 5;
  private static final Wipe.Order ORDER = Wipe.Order.of(Wipe.School.NOISE, true, new byte[16]);

  /** Kills of each kind; the trials ask for more. */
  private static final int KILLS = Trials.turns(2, 50);

  @TempDir private Path folder;

  /** What is killed, over so many sectors that some of them are safe before the end. */
  enum Kind {
    WRITE(300_000) {
      @Override
      void run(Medium image, Medium held, Medium card, long from, Path place) {
        CardWriter.write(image, card, from, p -> keep(place, p), Progress.NONE);
      }
    },
    CHANGES(300_000) {
      @Override
      void run(Medium image, Medium held, Medium card, long from, Path place) {
        CardWriter.write(image, Optional.of(held), card, from, p -> keep(place, p), Progress.NONE);
      }
    },
    TRUE_SIZE(300_000) {
      @Override
      void run(Medium image, Medium held, Medium card, long from, Path place) {
        TrueSize.fill(card, SEED, from, p -> keep(place, p), Progress.NONE);
      }
    },
    WIPE(400_000) {
      @Override
      void run(Medium image, Medium held, Medium card, long from, Path place) {
        new Wipe(card, ORDER).overwrite(from, (p, so) -> keep(place, p), Progress.NONE);
      }
    };

    private final int sectors;

    Kind(int sectors) {
      this.sectors = sectors;
    }

    abstract void run(Medium image, Medium held, Medium card, long from, Path place);
  }

  private static void keep(Path place, long safe) {
    try {
      Path next = place.resolveSibling("next");
      Files.writeString(next, String.valueOf(safe));
      Files.move(next, place, StandardCopyOption.ATOMIC_MOVE);
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
  }

  private static long place(Path place) throws IOException {
    return Files.exists(place) ? Long.parseLong(Files.readString(place)) : 0;
  }

  private static Medium card(String node) {
    OwnNodes nodes = new OwnNodes(List.of(node + ":write"), System::nanoTime);
    NodeNow now = nodes.now(node);
    return nodes.openWritable(node, now.identity(), now.insertion());
  }

  /** What the killed process does: arguments are kind, node and folder. */
  static final class Killed {
    public static void main(String[] args) throws IOException {
      Path folder = Path.of(args[2]);
      Path place = folder.resolve("place");
      try (Medium image = FileMedium.open(folder.resolve("image"));
          Medium held = FileMedium.open(folder.resolve("held"));
          Medium card = card(args[1])) {
        Kind.valueOf(args[0]).run(image, held, card, place(place), place);
      }
    }
  }

  private static String run(String... command) throws IOException, InterruptedException {
    Process p = new ProcessBuilder(command).redirectErrorStream(true).start();
    String said = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip();
    if (p.waitFor() != 0) throw new IOException(said);
    return said;
  }

  @ParameterizedTest
  @EnumSource
  void whatIsSaidToBeSafeLiesOnTheDeviceAndItGoesOn(Kind kind) throws Exception {
    Path under = Path.of("target").resolve("killed-" + kind + ".img").toAbsolutePath();
    Files.deleteIfExists(under);
    FileMedium.create(under, kind.sectors).close();
    String node = "";
    try {
      node = run("losetup", "-f", "--show", under.toString());
      card(node).close();
    } catch (IOException | RuntimeException e) {
      if (!node.isEmpty()) run("losetup", "-d", node);
      Assumptions.abort("No file can be a device on this computer: " + e.getMessage());
    }
    try {
      killed(kind, node);
    } finally {
      run("losetup", "-d", node);
      Files.delete(under);
    }
  }

  private void killed(Kind kind, String node) throws Exception {
    Random random = new Random(kind.ordinal());
    // The card holds one image; the other differs from it here and there.
    try (FileMedium held = FileMedium.create(folder.resolve("held"), kind.sectors);
        FileMedium image = FileMedium.create(folder.resolve("image"), kind.sectors);
        FileMedium wanted = FileMedium.create(folder.resolve("wanted"), kind.sectors)) {
      byte[] b = new byte[1 << 20];
      for (int lba = 0; lba + 2048 <= kind.sectors; lba += 2048) {
        random.nextBytes(b);
        held.write(lba, 2048, b, 0);
        if (lba % 6144 == 0) random.nextBytes(b);
        image.write(lba, 2048, b, 0);
      }
      Copy.all(held, wanted, (n, all) -> {});
      kind.run(image, held, wanted, 0, folder.resolve("place"));
      Files.delete(folder.resolve("place"));
      int kills = 0;
      int within = 0;
      int ended = 0;
      again(held, node);
      while (kills < KILLS || ended == 0) {
        Process p =
            Child.start(Killed.class, folder.resolve("log"), kind.name(), node, folder.toString());
        boolean done = kills < KILLS ? stopped(p, kills, random) : p.waitFor(3, TimeUnit.MINUTES);
        p.destroyForcibly().waitFor();
        String log = Files.readString(folder.resolve("log"));
        assertThat(done && p.exitValue() != 0).as(log).isFalse();
        long safe = place(folder.resolve("place"));
        if (!done) kills++;
        if (!done && safe > 0 && safe < kind.sectors) within++;
        lies(wanted, node, done ? kind.sectors : safe);
        if (done) {
          ended++;
          assertThat(safe).isEqualTo(kind.sectors);
          again(held, node);
        }
      }
      System.out.println(
          kind + ": " + kills + " kills, " + within + " within, " + ended + " ended");
      assertThat(within).isPositive();
    }
  }

  /**
   * Waits for the moment of the next kill: at any time from the start on, or, however fast this
   * computer is, behind a place that was kept since.
   *
   * @return whether the process had ended by itself
   */
  private boolean stopped(Process p, int kills, Random random) throws Exception {
    if (kills % 3 == 0) return p.waitFor(100 + random.nextInt(600), TimeUnit.MILLISECONDS);
    long before = place(folder.resolve("place"));
    while (p.isAlive() && place(folder.resolve("place")) == before) Thread.sleep(2);
    return p.waitFor(random.nextInt(60), TimeUnit.MILLISECONDS);
  }

  /** A card that holds what was on it before, and nothing begun. */
  private void again(Medium held, String node) throws IOException {
    Files.deleteIfExists(folder.resolve("place"));
    try (Medium card = card(node)) {
      Copy.all(held, card, (n, all) -> {});
      card.flush();
    }
  }

  private static void lies(Medium wanted, String node, long until) {
    try (Medium card = card(node)) {
      Comparison c =
          Comparison.of(
              new SliceMedium(wanted, 0, until),
              new SliceMedium(card, 0, until),
              0,
              Progress.NONE,
              "");
      assertThat(c.differing()).as("before sector " + until).isZero();
    }
  }
}
