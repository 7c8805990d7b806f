package lanternshed.core.volume.cpm;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import lanternshed.core.Samples;
import lanternshed.core.catalogue.LaidOutMedium;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.SmallDisks;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;
import lanternshed.core.work.Edit;
import lanternshed.core.work.Progress;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class CpmTest {
  private static final Geometry G = new Geometry(1, 1, 8);

  private static CpmLayout layout(long sectors, int block) {
    return new CpmMaker()
        .layout(
            new Maker.Wish(Optional.of(CpmLayout.KIND), sectors, 0, block, 0, G, "", 0, false, 0));
  }

  private static MemoryMedium made(CpmLayout l, long sectors, FileSet files) {
    MemoryMedium m = new MemoryMedium(sectors);
    new CpmMaker().write(l, files, m, new byte[0], (p, b) -> {});
    return m;
  }

  private static FileSet random(Random r, Map<String, byte[]> content, int files, int most) {
    FileSet out = new FileSet();
    out.folder("USER3", 0, 0);
    for (int i = 0; i < files; i++) {
      String name = "LOG" + i + (r.nextBoolean() ? ".DAT" : "");
      String path = r.nextInt(4) == 0 ? "USER3/" + name : name;
      byte[] b =
          new byte[r.nextInt(5) == 0 && most > 4000 ? r.nextInt(4) * 16_384 : r.nextInt(most)];
      r.nextBytes(b);
      content.put(path, b);
      Samples.file(out, path, 0x20 | r.nextInt(2), b);
    }
    return out;
  }

  private static Volume open(MemoryMedium m) {
    return new Cpm().recognise(m, Hint.NO_TABLE).flatMap(Recognised::volume).orElseThrow();
  }

  /** Sectors, block: the edges of byte and word numbers, of EXM, and of the ceiling of 8 MiB. */
  @ParameterizedTest
  @CsvSource({
    "360,1024",
    "512,1024",
    "1024,2048",
    "1028,2048",
    "2048,4096",
    "2056,4096",
    "16384,4096",
    "16384,2048",
    "16384,8192",
    "65536,8192",
    "65536,16384",
  })
  void whatIsLaidDownIsInferredAndReadBackByTwoReaders(int sectors, int block) {
    Map<String, byte[]> content = new HashMap<>();
    CpmLayout l = layout(sectors, block);
    FileSet files = random(new Random(sectors + block), content, 30, sectors * 512 / 100);
    MemoryMedium m = made(l, sectors, files);
    Volume v = open(m);
    assertThat(((CpmLayout) v.layoutAsItLies().orElseThrow()).block()).isEqualTo(block);
    assertThat(v.check()).isEmpty();
    Map<String, byte[]> read = new HashMap<>();
    for (Node n : v.all()) if (!n.folder()) read.put(n.path(), Samples.bytes(v, n));
    assertThat(read.keySet()).isEqualTo(content.keySet());
    content.forEach((p, b) -> assertThat(read.get(p)).as(p).isEqualTo(b));
    long used = content.values().stream().mapToLong(b -> (b.length + block - 1) / block).sum();
    assertThat(v.use().free()).isEqualTo(l.clusterCount() - used);
    Map<String, byte[]> second = new CpmWitness(m.sectors(0, sectors), block, l.entries()).files();
    assertThat(second).hasSameSizeAs(content);
    content.forEach(
        (p, b) -> {
          String[] parts = p.substring(p.indexOf('/') + 1).split("\\.");
          String name = String.format("%-8s%-3s", parts[0], parts.length > 1 ? parts[1] : "");
          byte[] there = second.get((p.startsWith("USER3/") ? "3:" : "0:") + name);
          assertThat(there.length).isEqualTo((b.length + 127) / 128 * 128);
          assertThat(Arrays.copyOf(there, b.length)).isEqualTo(b);
          for (int i = b.length; i < there.length; i++) assertThat(there[i]).isEqualTo((byte) 0x1A);
        });
  }

  /** The published order of the 8-inch disk: every sixth sector of 26, counted from 1. */
  private static final int[] EVERY_SIXTH = {
    1, 7, 13, 19, 25, 5, 11, 17, 23, 3, 9, 15, 21, 2, 8, 14, 20, 26, 6, 12, 18, 24, 4, 10, 16, 22
  };

  /** A disk of 77 tracks as a reader of whole tracks delivers it, two of them reserved. */
  private static byte[] eightInch(byte[] used, boolean skewed) {
    byte[] out = new byte[77 * 26 * 128];
    Arrays.fill(out, 0, 6656, (byte) 0x76);
    Arrays.fill(out, 6656, out.length, (byte) 0xE5);
    for (int at = 0; at < used.length; at += 128) {
      int track = at / 3328;
      int sector = at % 3328 / 128;
      int place = skewed ? EVERY_SIXTH[sector] - 1 : sector;
      System.arraycopy(used, at, out, 6656 + track * 3328 + place * 128, 128);
    }
    return out;
  }

  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void theSkewOfAnEightInchDiskIsInferredAndEveryFileReads(boolean skewed) {
    Map<String, byte[]> content = new HashMap<>();
    FileSet files = random(new Random(8), content, 20, 9000);
    MemoryMedium laid = made(layout(486, 1024), 486, files);
    assertThat(layout(486, 1024).entries()).isEqualTo(64);
    byte[] disk = eightInch(laid.sectors(0, 486), skewed);
    MemoryMedium m = MemoryMedium.of(disk);
    assertThat(SmallDisks.sectors(disk.length)).isEqualTo(m.sectors());
    assertThat(Opener.bytes(m)).as("it is handed out as long as it came").isEqualTo(disk.length);
    Volume v = open(m);
    CpmLayout l = (CpmLayout) v.layoutAsItLies().orElseThrow();
    assertThat(l.skew()).isEqualTo(skewed ? 6 : 0);
    assertThat(v.check()).isEmpty();
    Map<String, byte[]> read = new HashMap<>();
    for (Node n : v.all()) if (!n.folder()) read.put(n.path(), Samples.bytes(v, n));
    assertThat(read.keySet()).isEqualTo(content.keySet());
    content.forEach((path, b) -> assertThat(read.get(path)).as(path).isEqualTo(b));
    // Every sector in which a file's bytes lie is named as its own.
    for (Node n : v.all()) {
      for (long[] run : v.sectorsOf(n)) {
        assertThat(run[0]).isGreaterThanOrEqualTo(13);
        assertThat(run[0] + run[1]).isLessThanOrEqualTo(m.sectors());
      }
    }
    assertThat(v.remakeable()).isTrue();
  }

  /** Reserved tracks and the order of sectors stay; one file goes, one comes, the rest is there. */
  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void anEightInchDiskWithItsSystemIsEditedOnACopy(boolean skewed) {
    Map<String, byte[]> content = new HashMap<>();
    FileSet files = random(new Random(18), content, 20, 9000);
    MemoryMedium laid = made(layout(486, 1024), 486, files);
    byte[] disk = eightInch(laid.sectors(0, 486), skewed);
    byte[] system = new byte[6656];
    new Random(19).nextBytes(system);
    System.arraycopy(system, 0, disk, 0, 6656);
    MemoryMedium m = MemoryMedium.of(disk);
    byte[] fresh = new byte[5_000];
    new Random(20).nextBytes(fresh);
    String gone = content.keySet().stream().sorted().findFirst().orElseThrow();
    MemoryMedium copy = new MemoryMedium(m.sectors());
    // Files of noise say nothing of the order of sectors: a person does.
    String said = Volumes.find(m, 0).volume().guesses().get(0);
    Edit.make(
        new LaidOutMedium(m, said),
        0,
        List.of(
            new Edit.Change.Remove(gone),
            new Edit.Change.Put("NEW.COM", 5_000, 0, s -> s.take(fresh, 0, 5_000))),
        copy,
        Progress.NONE);
    content.remove(gone);
    content.put("NEW.COM", fresh);

    byte[] now = copy.sectors(0, (int) copy.sectors());
    assertThat(Arrays.copyOf(now, 6656)).isEqualTo(system);
    // What lies behind the last block, as it was.
    int end = 77 * 26 * 128;
    assertThat(now[end - 1]).isEqualTo(disk[end - 1]);
    // By the published order and a reader of its own.
    byte[] used = new byte[243 * 1024];
    for (int at = 0; at < used.length; at += 128) {
      int place = skewed ? EVERY_SIXTH[at % 3328 / 128] - 1 : at % 3328 / 128;
      System.arraycopy(now, 6656 + at / 3328 * 3328 + place * 128, used, at, 128);
    }
    Map<String, byte[]> second = new CpmWitness(used, 1024, 64).files();
    assertThat(second).hasSameSizeAs(content);
    // And without being told how it was laid down.
    Volume v = open(copy);
    assertThat(((CpmLayout) v.layoutAsItLies().orElseThrow()).skew()).isEqualTo(skewed ? 6 : 0);
    assertThat(v.check()).isEmpty();
    Map<String, byte[]> read = new HashMap<>();
    for (Node n : v.all()) if (!n.folder()) read.put(n.path(), Samples.bytes(v, n));
    assertThat(read.keySet()).isEqualTo(content.keySet());
    content.forEach((path, b) -> assertThat(read.get(path)).as(path).isEqualTo(b));
    assertThat(m.sectors(0, (int) m.sectors())).startsWith(disk);
  }

  /** Nine sectors of 512 bytes a track, every second one next; none is said anywhere on it. */
  @Test
  void anotherOrderOfSectorsIsFoundByItsFolder() {
    int[] order = {0, 2, 4, 6, 8, 1, 3, 5, 7};
    Map<String, byte[]> content = new HashMap<>();
    FileSet files = random(new Random(9), content, 25, 3900);
    MemoryMedium laid = made(layout(360, 1024), 360, files);
    MemoryMedium m = new MemoryMedium(360);
    for (int s = 0; s < 360; s++) {
      m.write(s / 9 * 9 + order[s % 9], 1, laid.sector(s), 0);
    }
    Volume v = open(m);
    assertThat(((CpmLayout) v.layoutAsItLies().orElseThrow()).skew()).isEqualTo(2);
    assertThat(v.check()).isEmpty();
    Map<String, byte[]> read = new HashMap<>();
    for (Node n : v.all()) if (!n.folder()) read.put(n.path(), Samples.bytes(v, n));
    content.forEach((path, b) -> assertThat(read.get(path)).as(path).isEqualTo(b));
  }

  /**
   * @param d tracks in all, sectors of each, how many tracks are reserved, and the skew
   */
  private static MemoryMedium unnamed(MemoryMedium laid, int[] d) {
    int sectors = d[0] * d[1];
    MemoryMedium m = new MemoryMedium(sectors);
    byte[] system = new byte[d[2] * d[1] * 512];
    new Random(3).nextBytes(system);
    m.write(0, d[2] * d[1], system, 0);
    boolean[] taken = new boolean[d[1]];
    int[] order = new int[d[1]];
    for (int i = 0, next = 0; i < d[1]; i++) {
      while (taken[next]) next = (next + 1) % d[1];
      taken[next] = true;
      order[i] = next;
      next = (next + d[3]) % d[1];
    }
    for (int s = 0; s < laid.sectors(); s++) {
      int at = (d[2] + s / d[1]) * d[1] + order[s % d[1]];
      if (at < sectors) m.write(at, 1, laid.sector(s), 0);
    }
    return m;
  }

  /** Two orders of sectors that give the same folder and other files: the one taken is a guess. */
  @Test
  void ofTwoOrdersThatAreAsGoodOneIsAGuessAndTheOtherIsTold() {
    Map<String, byte[]> content = new HashMap<>();
    FileSet files = random(new Random(12), content, 25, 20_000);
    CpmLayout l = layout(2496, 4096);
    MemoryMedium m = unnamed(made(l, 2496, files), new int[] {160, 16, 4, 2});
    Volume v = open(m);
    assertThat(v.guesses()).hasSizeGreaterThan(1);
    assertThat(v.inferred().orElseThrow().lines())
        .filteredOn(x -> x.label().equals("fits as well"))
        .isNotEmpty();
    Survey s = Surveyor.survey(m);
    assertThat(s.allFindings())
        .anyMatch(f -> f.weight() == Finding.Weight.WRONG && f.what().contains("is a guess"));
    // By the right figures every file comes; what a person says is no guess.
    String figures = "offset=32768,block=4096,sector=512,track=16,skew=2,entries=" + l.entries();
    assertFiles(laidOut(m, figures), content);
  }

  private static Volume laidOut(Medium m, String figures) {
    return Volumes.find(new LaidOutMedium(m, "cpm:" + figures), 0).volume();
  }

  private static Map<String, byte[]> texts(FileSet into, int count, int least, Random r) {
    Map<String, byte[]> out = new HashMap<>();
    for (int i = 0; i < count; i++) {
      StringBuilder text = new StringBuilder();
      while (text.length() < least + r.nextInt(4000)) {
        text.append("line ").append(r.nextInt(100_000)).append(" of the mill\r\n");
      }
      byte[] b = text.append((char) 0x1A).toString().getBytes(StandardCharsets.US_ASCII);
      String name = "TEXT" + i + ".TXT";
      Samples.file(into, name, 0x20, b);
      out.put(name, b);
    }
    return out;
  }

  /** C-8: where a folder leaves it open, texts say in which order their sectors lie. */
  @ParameterizedTest
  @ValueSource(ints = {2, 3, 5})
  void textsDecideWhereTheFolderDoesNot(int skew) {
    FileSet files = new FileSet();
    Map<String, byte[]> content = texts(files, 12, 3000, new Random(skew));
    MemoryMedium laid = made(layout(2496, 4096), 2496, files);
    MemoryMedium m = unnamed(laid, new int[] {160, 16, 4, skew});
    Volume v = open(m);
    assertThat(((CpmLayout) v.layoutAsItLies().orElseThrow()).skew()).isEqualTo(skew);
    assertThat(v.guesses()).as(v.inferred().toString()).isEmpty();
    assertFiles(v, content);
  }

  /** Layouts that no list has: what is read is told as a guess, or every file of it is right. */
  @ParameterizedTest
  @CsvSource({
    // offset, bytes of a sector, sectors of a track, block, skew
    "4096, 128, 64, 4096, 3",
    "12288, 512, 12, 4096, 1",
    "12288, 512, 12, 4096, 5",
    "8192, 256, 32, 2048, 3",
    "10240, 1024, 5, 2048, 2",
  })
  void whatIsReadWrongIsNeverCalledRight(int offset, int sector, int track, int block, int skew) {
    for (boolean text : new boolean[] {true, false}) {
      FileSet files = new FileSet();
      Map<String, byte[]> content = new HashMap<>();
      if (text) content = texts(files, 7, 5000, new Random(offset + skew));
      else files = random(new Random(offset + skew), content, 7, 9000);
      int whole = 1200;
      MemoryMedium laid = made(layout(whole, block), whole, files);
      byte[] disk = new byte[Math.max(1280, whole + offset / 512 + track * sector / 512) * 512];
      Arrays.fill(disk, (byte) 0xE5);
      byte[] used = laid.sectors(0, whole);
      CpmLayout given =
          CpmLayout.of(
              MemoryMedium.of(disk),
              "offset="
                  + offset
                  + " block="
                  + block
                  + " entries="
                  + layout(whole, block).entries()
                  + " sector="
                  + sector
                  + " track="
                  + track
                  + " skew="
                  + skew);
      for (int at = 0; at < used.length; at += sector) {
        CpmLayout.Piece p = given.piece(at, sector);
        System.arraycopy(used, at, disk, (int) p.sector() * 512 + p.skip(), sector);
      }
      MemoryMedium m = MemoryMedium.of(disk);
      assertFiles(laidOut(m, given.figures(m)), content);
      Optional<Volume> v =
          new Cpm()
              .recognise(m, Hint.NO_TABLE)
              .flatMap(Recognised::volume)
              .filter(x -> x.guesses().isEmpty());
      if (v.isPresent()) assertFiles(v.get(), content);
    }
  }

  private static void assertFiles(Volume v, Map<String, byte[]> content) {
    Map<String, byte[]> read = new HashMap<>();
    for (Node n : v.all()) if (!n.folder()) read.put(n.path(), Samples.bytes(v, n));
    assertThat(read.keySet()).isEqualTo(content.keySet());
    content.forEach(
        (path, b) -> assertThat(Arrays.copyOf(read.get(path), b.length)).as(path).isEqualTo(b));
  }

  /** Disks whose figures stand in no set: tracks, sides, sectors a track, reserved, block, skew. */
  @ParameterizedTest
  @CsvSource({
    "40,2,10,3,2048,1",
    "40,2,10,3,2048,3",
    "80,1,9,2,2048,1",
    "77,1,8,2,2048,4",
    "80,2,16,4,4096,1",
    "35,1,10,1,1024,1"
  })
  void aDiskThatNoSetNamesIsWorkedOutFromItsFolder(
      int tracks, int sides, int perTrack, int reserved, int block, int skew) {
    int sectors = tracks * sides * perTrack;
    int behind = sectors - reserved * perTrack;
    int whole = behind * 512 / block * block / 512;
    Map<String, byte[]> content = new HashMap<>();
    FileSet files = random(new Random(sectors + skew), content, 25, whole * 512 / 60);
    MemoryMedium laid = made(layout(whole, block), whole, files);
    MemoryMedium m = unnamed(laid, new int[] {tracks * sides, perTrack, reserved, skew});
    Volume v = open(m);
    CpmLayout l = (CpmLayout) v.layoutAsItLies().orElseThrow();
    assertThat(l.offset()).isEqualTo(reserved * perTrack * 512L);
    assertThat(l.block()).isEqualTo(block);
    assertThat(v.check()).isEmpty();
    Map<String, byte[]> read = new HashMap<>();
    for (Node n : v.all()) if (!n.folder()) read.put(n.path(), Samples.bytes(v, n));
    assertThat(read.keySet()).isEqualTo(content.keySet());
    content.forEach((path, b) -> assertThat(read.get(path)).as(path).isEqualTo(b));
  }

  /** What only looks a little like a folder is none: blank disks, texts, and noise. */
  @Test
  void nothingIsWorkedOutWhereNoFolderIs() {
    Random r = new Random(21);
    int taken = 0;
    for (int i = 0; i < 300; i++) {
      byte[] disk = new byte[new int[] {800, 1440, 720, 616, 2560}[i % 5] * 512];
      Arrays.fill(disk, (byte) (i % 3 == 0 ? 0xE5 : i % 3 == 1 ? 0 : 0xF6));
      for (int k = 0; k < r.nextInt(40); k++) {
        byte[] some = new byte[1 + r.nextInt(3000)];
        if (k % 2 == 0) r.nextBytes(some);
        else for (int c = 0; c < some.length; c++) some[c] = (byte) (' ' + r.nextInt(90));
        int at = r.nextInt(disk.length / 512) * 512;
        System.arraycopy(some, 0, disk, at, Math.min(some.length, disk.length - at));
      }
      if (new Cpm().recognise(MemoryMedium.of(disk), Hint.NO_TABLE).isPresent()) taken++;
    }
    assertThat(taken).isZero();
  }

  /** F-15 at the edges of byte and word, by the published table of EXM. */
  @ParameterizedTest
  @CsvSource({
    "512,1024,255,0,C0 00",
    "1024,2048,255,1,80 00",
    "1028,2048,256,0,80 00",
    "2048,4096,255,3,80 00",
    "16384,4096,2047,1,F0 00",
  })
  void theFiguresAreThoseOfTheStatusCommand(int sectors, int block, int dsm, int exm, String al) {
    CpmLayout l = layout(sectors, block);
    assertThat(l.blocks() - 1).isEqualTo(dsm);
    assertThat(l.extents() - 1).isEqualTo(exm);
    assertThat(String.format("%02X %02X", l.al() >> 8, l.al() & 0xFF)).isEqualTo(al);
    assertThat(l.because().result()).isEqualTo(l.clusterCount() * block / 1024);
  }

  @ParameterizedTest
  @ValueSource(strings = {"lower.txt", "TOOLONGNAME", "A.LONG", "A,B", "IN/A.TXT"})
  void aNameThatCannotStandIsRefused(String path) {
    FileSet files = new FileSet();
    if (path.startsWith("IN/")) files.folder("IN", 0, 0);
    Samples.file(files, path, 0x20, new byte[3]);
    CpmLayout l = layout(2048, 0);
    assertThatThrownBy(() -> made(l, 2048, files)).isInstanceOf(VolumeException.class);
  }

  @Test
  void theFolderEndsWithItsLastEntryAndTheVolumeWithItsLastBlock() {
    CpmLayout l = layout(512, 1024);
    FileSet full = new FileSet();
    for (int i = 0; i < l.entries(); i++) Samples.file(full, "F" + i, 0x20, new byte[0]);
    assertThat(new CpmMaker().fit(l, full).fits()).isTrue();
    Samples.file(full, "ONEMORE", 0x20, new byte[0]);
    assertThat(new CpmMaker().fit(l, full).fits()).isFalse();
    FileSet large = new FileSet();
    Samples.file(large, "ALL.BIN", 0x20, new byte[(int) l.clusterCount() * 1024]);
    assertThat(open(made(l, 512, large)).use().free()).isZero();
    FileSet over = new FileSet();
    Samples.file(over, "ALL.BIN", 0x20, new byte[(int) l.clusterCount() * 1024 + 1]);
    assertThatThrownBy(() -> made(l, 512, over)).isInstanceOf(VolumeException.class);
  }

  @Test
  void eachDamageIsTold() {
    CpmLayout l = layout(2048, 4096);
    FileSet files = new FileSet();
    for (int i = 0; i < 40; i++) Samples.file(files, "P" + i, 0x20, Samples.content(i, 9000));
    byte[] image = made(l, 2048, files).sectors(0, 2048);
    byte[] twice = image.clone();
    twice[16] = image[32 + 16];
    assertThat(told(twice, l)).anyMatch(w -> w.contains("belongs to"));
    byte[] user = image.clone();
    user[0] = 77;
    assertThat(told(user, l)).anyMatch(w -> w.contains("no sense"));
    byte[] again = image.clone();
    System.arraycopy(image, 0, again, 40 * 32, 16);
    assertThat(told(again, l)).anyMatch(w -> w.contains("twice"));
  }

  private static List<String> told(byte[] image, CpmLayout l) {
    return new CpmVolume(MemoryMedium.of(image), l, Optional.empty(), List.of())
        .check().stream().map(Finding::what).toList();
  }

  @Test
  void randomFoldersAreBoundedAndNeverAFault() {
    Random r = new Random(5);
    CpmLayout l = layout(2048, 2048);
    byte[] image = made(l, 2048, random(r, new HashMap<>(), 60, 9000)).sectors(0, 2048);
    for (int trial = 0; trial < 500; trial++) {
      byte[] b = image.clone();
      for (int i = 0; i <= r.nextInt(40); i++) {
        b[r.nextInt(l.entries() * 32)] = (byte) r.nextInt(256);
      }
      CpmVolume v = new CpmVolume(MemoryMedium.of(b), l, Optional.empty(), List.of());
      v.check();
      v.places();
      v.inUse();
      v.use();
      for (Node n : v.all()) {
        v.sectorsOf(n);
        try {
          v.read(n, (x, at, length) -> {});
        } catch (VolumeException e) {
          assertThat(v.notWhole(n)).isPresent();
        }
      }
    }
  }
}
