package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import lanternshed.core.Samples;
import lanternshed.core.Trials;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.ReadOnlyMedium;
import lanternshed.core.medium.Wrapper;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.fat.FatVolume;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** What is kept is what was read, what is claimed was looked at. */
@Tag("trial")
class NothingIsLostTest {
  private static final Geometry G = new Geometry(120, 8, 63);
  @TempDir Path home;

  private static Rescue.Settings safe() {
    return Rescue.Settings.of(Rescue.Wish.USUAL, true);
  }

  /** Stops after so many bytes. */
  private static Progress until(long bytes) {
    return (phase, done, total) -> {
      if (done >= bytes) throw new StoppedException("enough");
    };
  }

  private void halfRescued(Medium drive) {
    assertThatThrownBy(
            () ->
                Rescue.run(
                    drive, home.resolve("i"), home.resolve("m"), safe(), until(drive.bytes() / 2)))
        .isInstanceOf(StoppedException.class);
  }

  @Test
  void anotherDriveOfTheSameSizeIsNotMixedIntoTheImage() throws IOException {
    MemoryMedium first = Samples.drive(G);
    MemoryMedium second = new MemoryMedium(first.sectors());
    Random dice = new Random(2);
    byte[] b = new byte[512];
    for (long s = 0; s < second.sectors(); s++) {
      dice.nextBytes(b);
      second.write(s, 1, b, 0);
    }
    halfRescued(first);
    byte[] before = Files.readAllBytes(home.resolve("i"));
    assertThatThrownBy(
            () -> Rescue.run(second, home.resolve("i"), home.resolve("m"), safe(), Progress.NONE))
        .hasMessageContaining("another medium of the same size")
        .hasMessageContaining("Nothing was read");
    assertThat(Files.readAllBytes(home.resolve("i"))).isEqualTo(before);
    Rescue.Report r =
        Rescue.run(first, home.resolve("i"), home.resolve("m"), safe(), Progress.NONE);
    assertThat(r.lost()).isZero();
    try (FileMedium m = FileMedium.open(home.resolve("i"))) {
      assertThat(Samples.digests(Samples.volume(m, G)))
          .isEqualTo(Samples.digests(Samples.volume(first, G)));
    }
  }

  @Test
  void whatIsGoneOrCutOrInUseIsSaidInWords() throws IOException {
    MemoryMedium drive = Samples.drive(G);
    halfRescued(drive);
    Path image = home.resolve("i");
    Path map = home.resolve("m");
    try (FileMedium other = FileMedium.openWritable(image)) {
      other.lock();
      assertThatThrownBy(() -> Rescue.run(drive, image, map, safe(), Progress.NONE))
          .hasMessageContaining("is being written by somebody else");
    }
    byte[] all = Files.readAllBytes(image);
    Files.write(image, java.util.Arrays.copyOf(all, 512 * 100));
    assertThatThrownBy(() -> Rescue.run(drive, image, map, safe(), Progress.NONE))
        .hasMessageContaining("The image has 100")
        .hasMessageContaining("it was cut since");
    Files.delete(image);
    assertThatThrownBy(() -> Rescue.run(drive, image, map, safe(), Progress.NONE))
        .hasMessageContaining("its image i is gone");
    assertThatThrownBy(() -> Rescue.run(new MemoryMedium(99), image, map, safe(), Progress.NONE))
        .hasMessageContaining("this one has 99");
  }

  @Test
  void theMapNeverTellsOfMoreThanWasRead() {
    MemoryMedium drive = Samples.full(new Geometry(400, 16, 63));
    long[] worst = {0};
    List<Long> forced = new ArrayList<>();
    Path map = home.resolve("m");
    Rescue.run(
        drive,
        home.resolve("i"),
        map,
        safe(),
        (phase, done, total) -> {
          if (!Files.exists(map)) return;
          long told = RescueMap.load(map).counts().get(RescueMap.State.READ) * 512;
          forced.add(told);
          worst[0] = Math.max(worst[0], told - done);
        });
    assertThat(worst[0]).isLessThanOrEqualTo(0);
    assertThat(forced.stream().distinct().count()).isGreaterThan(4);
  }

  @Test
  void aFlippedByteIsFoundWhereverItIsAndAnUntouchedImageNever() throws IOException {
    Path p = home.resolve("image");
    Samples.toFile(Samples.full(new Geometry(100, 16, 63)), p);
    Digests d;
    try (FileMedium m = FileMedium.open(p)) {
      d = Digests.of(m, Progress.NONE, "");
      VerifiedMedium v = new VerifiedMedium(new ReadOnlyMedium(m), d.chunks(), m.sectors());
      assertThat(FatVolume.open(Volumes.slice(v, 63, v.sectors() - 63)).check()).isEmpty();
    }
    Random dice = new Random(8);
    for (int i = 0; i < Trials.turns(10, 300); i++) {
      byte[] b = Files.readAllBytes(p);
      int at = dice.nextInt(b.length);
      b[at] ^= 1 << dice.nextInt(8);
      Path spoiled = home.resolve("spoiled");
      Files.write(spoiled, b);
      try (FileMedium m = FileMedium.open(spoiled)) {
        Medium v = new VerifiedMedium(m, d.chunks(), m.sectors());
        assertThatThrownBy(() -> v.sector(at / 512))
            .isInstanceOf(ShedException.class)
            .hasMessageContaining("has changed on the disk");
      }
    }
    Files.write(p, java.util.Arrays.copyOf(Files.readAllBytes(p), 512_000));
    assertThatThrownBy(() -> new VerifiedMedium(FileMedium.open(p), d.chunks(), 100_800))
        .hasMessageContaining("100 800".replace(' ', '\u202F'));
  }

  @Test
  void chunkDigestsOfAnOlderVersionStillVouch() throws Exception {
    MemoryMedium m = Samples.drive(G);
    byte[] all = m.sectors(0, (int) m.sectors());
    List<String> old = new ArrayList<>();
    for (int at = 0; at < all.length; at += Digests.CHUNK_BYTES) {
      var sha = java.security.MessageDigest.getInstance("SHA-512/256");
      sha.update(all, at, Math.min(Digests.CHUNK_BYTES, all.length - at));
      old.add(java.util.HexFormat.of().formatHex(sha.digest()));
    }
    Medium v = new VerifiedMedium(m, old, m.sectors());
    assertThat(v.sector(m.sectors() - 1)).isEqualTo(m.sector(m.sectors() - 1));
    m.write(5, 1, new byte[512], 0);
    m.write(5, 1, Samples.content(1, 512), 0);
    Medium again = new VerifiedMedium(m, old, m.sectors());
    assertThatThrownBy(() -> again.sector(0)).hasMessageContaining("has changed");
  }

  // ---- volumes without a table ------------------------------------------------------------------

  private static MemoryMedium copy(Medium m) {
    MemoryMedium out = new MemoryMedium(m.sectors());
    for (long s = 0; s < m.sectors(); s += 63) {
      int n = (int) Math.min(63, m.sectors() - s);
      out.write(s, n, m.sectors(s, n), 0);
    }
    return out;
  }

  private static void blank(Medium m, long lba) {
    // A medium in memory is sparse: what is not zero must be written over first.
    m.write(lba, 1, new byte[512], 0);
  }

  @Test
  void withSectorZeroGoneTheVolumeIsFoundAndACopyWithATableIsWhole() {
    MemoryMedium drive = Samples.drive(G);
    var whole = Samples.digests(Samples.volume(drive, G));
    MemoryMedium damaged = copy(drive);
    blank(damaged, 0);
    assertThat(Surveyor.survey(damaged).stop()).isPresent();
    List<LostVolumes.Found> found = LostVolumes.find(damaged, Progress.NONE);
    assertThat(found).hasSize(1);
    assertThat(found.get(0).start()).isEqualTo(63);
    assertThat(found.get(0).whole()).isEqualTo(whole.size());
    LostVolumes.restore(damaged, found);
    assertThat(Samples.digests(Volumes.find(damaged, 1).volume())).isEqualTo(whole);
  }

  @Test
  void withTheBootSectorGoneTooItsTwoFatsTellWhereItIs() {
    MemoryMedium drive = Samples.drive(G);
    var whole = Samples.digests(Samples.volume(drive, G));
    MemoryMedium damaged = copy(drive);
    blank(damaged, 0);
    blank(damaged, 63);
    List<LostVolumes.Found> found = LostVolumes.find(damaged, Progress.NONE);
    assertThat(found).hasSize(1);
    assertThat(found.get(0).evidence()).contains("two equal FATs");
    LostVolumes.restore(damaged, found);
    assertThat(Samples.digests(Volumes.find(damaged, 1).volume())).isEqualTo(whole);
  }

  @Test
  void withTheFirstFatSpoiledAsWellTheSecondIsEnough() {
    MemoryMedium drive = Samples.drive(G);
    var whole = Samples.digests(Samples.volume(drive, G));
    for (int gone : new int[] {2, 5, 12}) {
      MemoryMedium damaged = copy(drive);
      blank(damaged, 0);
      for (int s = 0; s < gone; s++) blank(damaged, 63 + s);
      List<LostVolumes.Found> found = LostVolumes.find(damaged, Progress.NONE);
      assertThat(found).hasSize(1);
      assertThat(found.get(0).evidence()).contains("its second FAT");
      assertThat(found.get(0).whole()).isEqualTo(whole.size());
      LostVolumes.restore(damaged, found);
      assertThat(Samples.digests(Volumes.find(damaged, 1).volume())).isEqualTo(whole);
    }
  }

  @Test
  void aFat32OfAGeneralToolIsFoundByTheBackupOfItsBootSector() throws IOException {
    Path p = home.resolve("fat32");
    lanternshed.core.Tool.run(
        "truncate -s 40M "
            + p
            + " && mkfs.fat -F 32 -s 1 "
            + p
            + " && head -c 5000 /dev/urandom > "
            + home.resolve("x")
            + " && mcopy -i "
            + p
            + " "
            + home.resolve("x")
            + " ::A.DAT");
    try (FileMedium m = FileMedium.openWritable(p)) {
      m.write(0, 1, new byte[512], 0);
      List<LostVolumes.Found> found = LostVolumes.find(m, Progress.NONE);
      assertThat(found).hasSize(1);
      assertThat(found.get(0).evidence()).contains("backup");
      assertThat(found.get(0).files()).isEqualTo(1);
      LostVolumes.restore(m, found);
      assertThat(Samples.digests(FatVolume.open(m)).get("A.DAT"))
          .isEqualTo(lanternshed.core.Tool.sha256(Files.readAllBytes(home.resolve("x"))));
    }
  }

  private static void be32(byte[] b, int at, long v) {
    for (int i = 0; i < 4; i++) b[at + i] = (byte) (v >> 24 - 8 * i);
  }

  /** A header block whose longs sum to zero. */
  private static void header(Medium m, long lba, long key, int type, String name) {
    byte[] b = new byte[512];
    be32(b, 0, 2);
    be32(b, 4, key);
    be32(b, 508, type);
    b[432] = (byte) name.length();
    for (int i = 0; i < name.length(); i++) b[433 + i] = (byte) name.charAt(i);
    long sum = 0;
    for (int i = 0; i < 512; i += 4) sum += lanternshed.core.measure.Bytes.be32(b, i);
    be32(b, 20, -sum);
    m.write(lba, 1, b, 0);
  }

  @Test
  void rootBlocksAndCpmFoldersAreFoundAndGoIntoNoTable() {
    MemoryMedium m = new MemoryMedium(40_000);
    long start = 1_000;
    header(m, start + 5_000, 0, 1, "Atelier");
    for (int k : new int[] {40, 4_100, 5_001, 7_777}) header(m, start + k, k, -3, "Weave" + k);
    header(m, start + 30, 4_711, 2, "a stray of another volume");
    byte[] b = new byte[512];
    java.util.Arrays.fill(b, (byte) 0xE5);
    byte[] empty = b.clone();
    for (int i = 0; i < 4; i++) {
      java.util.Arrays.fill(b, i * 32, i * 32 + 32, (byte) 0);
      byte[] name = ("HUMID" + i + "  DAT").getBytes(java.nio.charset.StandardCharsets.US_ASCII);
      System.arraycopy(name, 0, b, i * 32 + 1, 11);
      b[i * 32 + 15] = 20;
      b[i * 32 + 16] = (byte) (4 + i);
    }
    long folder = 20_000;
    m.write(folder, 1, b, 0);
    for (int s = 1; s < 64; s++) m.write(folder + s, 1, empty, 0);
    List<LostVolumes.Found> found = LostVolumes.find(m, Progress.NONE);
    assertThat(found).extracting(LostVolumes.Found::kind).contains("OFS or FFS", "CP/M 2.2");
    LostVolumes.Found ffs = found.get(0);
    assertThat(ffs.start()).isEqualTo(start);
    assertThat(ffs.length()).isEqualTo(10_000);
    assertThat(ffs.label()).isEqualTo("Atelier");
    assertThat(ffs.evidence()).contains("4 headers");
    assertThat(found.get(1).evidence()).contains("20000");
    org.assertj.core.api.Assertions.assertThatThrownBy(() -> LostVolumes.restore(m, found))
        .hasMessageContaining("leave it out");
  }

  @Test
  void nothingIsFoundWhereNothingIs() {
    MemoryMedium m = new MemoryMedium(20_000);
    Random dice = new Random(1);
    byte[] b = new byte[512];
    for (int s = 0; s < 20_000; s++) {
      dice.nextBytes(b);
      m.write(s, 1, b, 0);
    }
    assertThat(LostVolumes.find(m, Progress.NONE)).isEmpty();
  }

  /** Every sector looks like the begin of a FAT, and of a folder: what is tried is bounded. */
  @Test
  @Tag("only-trial")
  @Timeout(60)
  void aMediumFullOfWhatLooksLikeFatsIsSearchedToItsEnd() {
    MemoryMedium m = new MemoryMedium(20_000);
    byte[] b = new byte[512];
    for (int at = 0; at < 512; at += 32) {
      for (int i = 3; i < 11; i++) b[at + i] = 'A';
      b[at + 11] = 0x20;
      b[at + 26] = 2;
      b[at + 28] = 1;
    }
    b[0] = (byte) 0xF8;
    b[1] = -1;
    b[2] = -1;
    for (int s = 0; s < 20_000; s++) {
      b[100] = (byte) s;
      b[200] = (byte) (s >> 8);
      m.write(s, 1, b, 0);
    }
    List<String> seen = new java.util.ArrayList<>();
    LostVolumes.find(m, (what, done, all) -> seen.add(done + " of " + all));
    assertThat(seen.get(seen.size() - 1)).isEqualTo("10240000 of 10240000");
  }

  @Test
  void aProofThatComparedNothingIsNone() {
    MemoryMedium text = new MemoryMedium(2000);
    Recipe r =
        Recipe.parse(
            """
            {"form":"lantern shed recipe, form 1","strategy":"CLONE","sectors":2000,
             "geometry":{"cylinders":1,"heads":16,"sectors":63},"signature":"00000000",
             "bootCode":"SOURCE","sourceSha256":"","volumes":[]}""");
    Proof p = Proof.of(r, java.util.Optional.of(text), text, 2000, Progress.NONE);
    assertThat(p.proved()).as("every sector was compared").isTrue();
    assertThat(p.sectors()).isEqualTo(2000);
    Proof none = new Proof(List.of(), List.of(), 0, 0, List.of(), false, p.boot(), p.start());
    assertThat(none.proved()).isFalse();
  }

  /** A wrapper of the tests' own shows that media can be wrapped from outside their package. */
  @Test
  void aMediumCanBeWrapped() {
    Medium m = new Wrapper(new MemoryMedium(3)) {};
    assertThat(m.sectors()).isEqualTo(3);
  }
}
