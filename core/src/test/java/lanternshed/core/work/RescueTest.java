package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Damage;
import lanternshed.core.medium.FailingDrive;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.Pace;
import lanternshed.core.survey.Holes;
import lanternshed.core.work.RescueMap.State;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class RescueTest {
  private static final Geometry G = new Geometry(100, 16, 63);
  private static final Rescue.Settings FAST = Rescue.Settings.of(Rescue.Wish.USUAL, false);
  @TempDir private Path folder;

  private Path image() {
    return folder.resolve("r.img");
  }

  private Path map() {
    return folder.resolve("r.img.map");
  }

  private Rescue.Report rescue(Medium source, Progress progress) {
    return Rescue.run(source, image(), map(), FAST, progress);
  }

  @Test
  void aCleanDriveComesWholeWithItsDigests() {
    MemoryMedium drive = Samples.drive(G);
    Rescue.Report r = rescue(drive, Progress.NONE);
    assertThat(r.lost()).isZero();
    assertThat(r.read()).isEqualTo(G.total());
    assertThat(Tool.run("sha256sum " + image())).startsWith(r.digests().sha256());
    assertThat(r.digests().chunks()).isEqualTo(Tool.chunkDigests(image()));
    try (FileMedium m = FileMedium.open(image())) {
      assertThat(Comparison.of(drive, m, 0, Progress.NONE, "").identical()).isTrue();
      assertThat(Digests.of(m, Progress.NONE, "")).isEqualTo(r.digests());
    }
  }

  /** A kill between the making of the file and its length leaves a map and an empty image. */
  @Test
  void anImageThatWasOnlyJustMadeIsBegunAnew() throws IOException {
    MemoryMedium drive = Samples.drive(G);
    new RescueMap(drive.sectors()).save(map());
    Files.createFile(image());
    assertThat(rescue(drive, Progress.NONE).read()).isEqualTo(G.total());
    // Of one that held something the map tells, and its image is not made anew.
    Files.write(image(), new byte[0]);
    assertThatThrownBy(() -> rescue(drive, Progress.NONE)).hasMessageContaining("it was cut since");
  }

  @Test
  void everythingThatReadsIsSavedAndTheRestIsMarkedAndNamed() {
    MemoryMedium base = Samples.drive(G);
    Damage damage = Damage.scattered(9, G.total(), 12, 8, 2);
    List<Damage.Zone> more = new ArrayList<>(damage.zones());
    var volume = Samples.volume(base, G);
    var hit =
        volume.all().stream()
            .filter(n -> n.path().equals("SET1/P12.PAT"))
            .findFirst()
            .orElseThrow();
    long at = 63 + volume.sectorsOf(hit).get(0)[0];
    more.add(new Damage.Zone(at + 3, 2, Damage.Kind.DEAD, 0));
    Damage all = new Damage(more);
    FailingDrive drive = new FailingDrive(base, all, Pace.counted());
    Rescue.Report r = rescue(drive, Progress.NONE);
    try (FileMedium m = FileMedium.open(image())) {
      for (long s = 0; s < G.total(); s++) {
        long sector = s;
        boolean dead =
            all.zones().stream()
                .anyMatch(
                    z ->
                        z.kind() == Damage.Kind.DEAD
                            && sector >= z.start()
                            && sector < z.start() + z.length());
        assertThat(m.sector(s))
            .as("sector " + s)
            .isEqualTo(dead ? Rescue.marker(s) : base.sector(s));
      }
      List<long[]> holes =
          r.failed().stream().map(x -> new long[] {x.start(), x.length()}).toList();
      List<Holes.Hit> hits = Holes.name(m, holes);
      assertThat(hits).contains(new Holes.Hit("file", "SET1/P12.PAT", 2, hit.bytes(), at + 3));
      assertThat(hits.stream().mapToLong(Holes.Hit::sectors).sum()).isEqualTo(r.lost());
    }
    assertThat(r.late()).isPositive();
    assertThat(Tool.run("sha256sum " + image())).startsWith(r.digests().sha256());
  }

  @Test
  void aPlaceThatHangsEveryTimeCostsAFewPausesAndNothingElseIsLost() {
    MemoryMedium base = Samples.drive(G);
    Damage hangs = new Damage(List.of(new Damage.Zone(70_000, 3, Damage.Kind.STALL, 99)));
    Rescue.Settings settings =
        new Rescue.Settings(() -> Rescue.Wish.USUAL, false, () -> 0, Duration.ofMillis(300));
    int pauses = 0;
    Rescue.Report r = null;
    while (r == null && pauses < 9) {
      try {
        // Each time as after a restart: the drive has forgotten that it was asked before.
        FailingDrive drive = new FailingDrive(base, hangs, Pace.counted());
        r = Rescue.run(drive, image(), map(), settings, Progress.NONE);
      } catch (StoppedException e) {
        assertThat(e).hasMessageContaining("answered nothing");
        pauses++;
      }
    }
    assertThat(r).isNotNull();
    assertThat(pauses).as("forward, backward, two retries").isEqualTo(4);
    assertThat(r.failed()).containsExactly(new RescueMap.Range(70_000, 3, RescueMap.State.FAILED));
  }

  @Test
  void aRescueThatIsStoppedAnywhereGoesOnToTheSameImage() {
    MemoryMedium base = Samples.drive(G);
    Damage damage = Damage.scattered(4, G.total(), 6, 0, 0);
    Random random = new Random(1);
    int stops = 0;
    Rescue.Report r = null;
    while (r == null) {
      int[] left = {random.nextInt(40) + 1};
      FailingDrive drive = new FailingDrive(base, damage, Pace.counted());
      try {
        r =
            rescue(
                drive,
                (p, done, total) -> {
                  boolean reads = !p.startsWith("digesting") && !p.startsWith("looking");
                  if (reads && left[0]-- == 0) throw new StoppedException("stop");
                });
      } catch (StoppedException e) {
        stops++;
        claimsNoMoreThanIsThere(base);
      }
    }
    assertThat(stops).isGreaterThan(2);
    assertThat(r.read() + r.late() + r.lost()).isEqualTo(G.total());
    claimsNoMoreThanIsThere(base);
  }

  /** What a disk loses of a half image while the work stands is no part of what came. */
  @Test
  void whatTheImageDoesNotHoldAnyMoreIsReadAgain() throws Exception {
    MemoryMedium base = Samples.drive(G);
    byte[] some = new byte[512];
    new Random(3).nextBytes(some);
    for (long s = 0; s < G.total(); s += 7) base.write(s, 1, some, 0);
    long stopAt = G.total() * 512 * 3 / 4;
    Progress stops =
        (p, done, total) -> {
          if (done >= stopAt) throw new StoppedException("stop");
        };
    assertThatThrownBy(() -> rescue(base, stops)).isInstanceOf(StoppedException.class);
    try (RandomAccessFile f = new RandomAccessFile(image().toFile(), "rw")) {
      f.seek(3 << 20);
      f.write(new byte[4 << 20]);
    }
    Rescue.Report r = rescue(base, Progress.NONE);
    assertThat(r.again()).isBetween(4L << 11, 5L << 11);
    assertThat(r.lost()).isZero();
    assertThat(r.digests().sha256()).isEqualTo(Digests.of(base, Progress.NONE, "").sha256());
    // An image that holds what came is left alone.
    assertThat(rescue(base, Progress.NONE).again()).isZero();
  }

  /** A drive that gave a sector once and no more: what is left of it is not written over. */
  @Test
  void whatCameOnceIsNotWrittenOverWhenItDoesNotComeAgain() throws Exception {
    MemoryMedium base = Samples.drive(G);
    byte[] some = new byte[512];
    new Random(3).nextBytes(some);
    for (long s = 0; s < G.total(); s++) base.write(s, 1, some, 0);
    Progress stops =
        (p, done, total) -> {
          if (done >= G.total() * 256) throw new StoppedException("stop");
        };
    assertThatThrownBy(() -> rescue(base, stops)).isInstanceOf(StoppedException.class);
    try (RandomAccessFile f = new RandomAccessFile(image().toFile(), "rw")) {
      f.seek(5000 * 512);
      f.write(new byte[512]);
    }
    Damage dies = new Damage(List.of(new Damage.Zone(4990, 20, Damage.Kind.DEAD, 0)));
    Rescue.Report r = rescue(new FailingDrive(base, dies, Pace.counted()), Progress.NONE);
    assertThat(r.again()).isPositive();
    assertThat(r.lost()).isEqualTo(20);
    try (FileMedium image = FileMedium.open(image())) {
      for (long s = 4990; s < 5010; s++) {
        assertThat(image.sector(s)).isEqualTo(s == 5000 ? Rescue.marker(s) : some);
      }
    }
  }

  private void claimsNoMoreThanIsThere(Medium base) {
    RescueMap m = RescueMap.load(map());
    try (FileMedium image = FileMedium.open(image())) {
      for (RescueMap.Range x : m.ranges(State.READ)) {
        int n = (int) x.length();
        assertThat(image.sectors(x.start(), n)).isEqualTo(base.sectors(x.start(), n));
      }
    }
  }

  @Test
  void aProcessKilledAtAnyInstantLosesAndInventsNothing() throws Exception {
    MemoryMedium base = Samples.drive(G);
    Path source = folder.resolve("source.img");
    Samples.toFile(base, source);
    String java = System.getProperty("java.home") + "/bin/java";
    Random random = new Random(5);
    for (int i = 0; i < 6; i++) {
      Process p =
          new ProcessBuilder(
                  java,
                  "-XX:TieredStopAtLevel=1",
                  "-cp",
                  System.getProperty("java.class.path"),
                  "lanternshed.core.cli.Shed",
                  "image",
                  "rescue",
                  source.toString(),
                  image().toString())
              .redirectErrorStream(true)
              .redirectOutput(folder.resolve("log").toFile())
              .start();
      Thread.sleep(150 + random.nextInt(400));
      p.destroyForcibly().waitFor();
      if (Files.exists(map()) && Files.exists(image())) claimsNoMoreThanIsThere(base);
    }
    rescue(base, Progress.NONE);
    assertThat(Tool.run("cmp " + source + " " + image())).isEmpty();
  }

  @Test
  void anotherMediumIsNotReadIntoTheSameImage() {
    rescue(new MemoryMedium(1000), Progress.NONE);
    assertThatThrownBy(() -> rescue(new MemoryMedium(1001), Progress.NONE))
        .hasMessageContaining("another medium");
  }

  @Test
  void anImageWithoutAMapIsNotWrittenOver() throws Exception {
    Files.write(image(), new byte[512]);
    assertThatThrownBy(() -> rescue(new MemoryMedium(1), Progress.NONE))
        .hasMessageContaining("not written over");
  }

  @Test
  void aMapThatMakesNoSenseIsRefusedWithItsLine() {
    String head = "lantern shed rescue map, form 1";
    assertThat(
            RescueMap.parse(List.of(head, "sectors 10", "retried 0 0", "0 4 read", "4 6 failed"))
                .ranges())
        .hasSize(2);
    assertThatThrownBy(() -> RescueMap.parse(List.of("x", "y", "z")))
        .hasMessageContaining("no rescue map");
    assertThatThrownBy(
            () ->
                RescueMap.parse(List.of(head, "sectors 10", "retried 0 0", "0 4 read", "5 5 read")))
        .hasMessageContaining("Line 5");
    assertThatThrownBy(
            () -> RescueMap.parse(List.of(head, "sectors 10", "retried 0 0", "0 4 read")))
        .hasMessageContaining("Line 4");
    assertThatThrownBy(
            () -> RescueMap.parse(List.of(head, "sectors 10", "retried 0 0", "0 99 read")))
        .hasMessageContaining("Line 4");
  }

  @Test
  void aMapKeepsRunsTogetherAndCountsThem() {
    RescueMap m = new RescueMap(100);
    Random random = new Random(2);
    State[] plain = new State[100];
    java.util.Arrays.fill(plain, State.UNREAD);
    for (int i = 0; i < 2000; i++) {
      int at = random.nextInt(100);
      int n = random.nextInt(100 - at) + 1;
      State s = State.values()[random.nextInt(4)];
      m.set(at, n, s);
      java.util.Arrays.fill(plain, at, at + n, s);
    }
    long next = 0;
    for (RescueMap.Range r : m.ranges()) {
      assertThat(r.start()).isEqualTo(next);
      for (long s = r.start(); s < r.end(); s++) assertThat(plain[(int) s]).isEqualTo(r.state());
      next = r.end();
    }
    assertThat(next).isEqualTo(100);
    for (State s : State.values()) {
      long n = java.util.Arrays.stream(plain).filter(s::equals).count();
      assertThat(m.counts().get(s)).isEqualTo(n);
    }
  }
}
