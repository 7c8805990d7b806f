package lanternshed.core.volume;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import lanternshed.core.Samples;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.work.Edit;
import lanternshed.core.work.Progress;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Disks of linked blocks and of linked sectors: laid down, read by two readers, damaged, edited.
 */
class SmallDisksTest {
  private static final String MAP = "link-and-map";
  private static final String LINKED = "linked-sector";
  private static final String TWO = "two-sector catalogue";
  private static final Geometry G = new Geometry(80, 1, 5);

  private static Maker.Layout layout(String kind, long sectors) {
    return Catalogue.maker(kind).layout(Samples.wish(kind, sectors, 0, G, 0, "QUILTS 3", 0));
  }

  private static MemoryMedium made(String kind, long sectors, FileSet files) {
    MemoryMedium m = new MemoryMedium(sectors);
    Catalogue.maker(kind).write(layout(kind, sectors), files, m, new byte[0], (p, n) -> {});
    return m;
  }

  private static Optional<Volume> open(Medium m, String kind) {
    return Opener.recognise(m, Hint.NO_TABLE)
        .filter(r -> r.kind().equals(kind))
        .flatMap(Recognised::volume);
  }

  private static byte[] all(Medium m) {
    return m.sectors(0, (int) m.sectors());
  }

  /**
   * A second reader, from the published places alone: the file whose name is so spelled on disk.
   */
  private static byte[] blocks(byte[] disk, int tracks, String name) {
    int[] start = tracks(tracks);
    int track = tracks == 80 ? 40 : 18;
    int sector = tracks == 80 ? 3 : 1;
    while (track != 0) {
      int at = start[track] + sector * 256;
      for (int e = at; e < at + 256; e += 32) {
        boolean same = (disk[e + 2] & 0x80) != 0;
        for (int k = 0; k < 16; k++) {
          int wanted = k < name.length() ? name.charAt(k) : 0xA0;
          same &= (disk[e + 5 + k] & 255) == wanted;
        }
        if (!same) continue;
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (int t = disk[e + 3], s = disk[e + 4]; t != 0; ) {
          int b = start[t] + s * 256;
          t = disk[b];
          s = disk[b + 1] & 255;
          out.write(disk, b + 2, t == 0 ? s - 1 : 254);
        }
        return out.toByteArray();
      }
      track = disk[at];
      sector = disk[at + 1] & 255;
    }
    return null;
  }

  /** A second reader of linked sectors; images of 256 bytes begin with three of 128. */
  private static byte[] sectors(byte[] disk, int size, String padded) {
    int shift = size == 256 ? 384 : 0;
    for (int n = 0; n < 64; n++) {
      int dir = 361 + n / 8;
      int e = (size == 256 ? 384 + (dir - 4) * 256 : (dir - 1) * 128) + n % 8 * 16;
      if ((disk[e] & 0x40) == 0 || !new String(disk, e + 5, 11).equals(padded)) continue;
      ByteArrayOutputStream out = new ByteArrayOutputStream();
      for (int s = (disk[e + 3] & 255) + (disk[e + 4] & 255) * 256; s != 0; ) {
        int at = shift == 0 ? (s - 1) * 128 : 384 + (s - 4) * 256;
        int end = at + size - 3;
        assertThat((disk[end] & 255) >> 2).isEqualTo(n);
        out.write(disk, at, disk[end + 2] & 255);
        s = (disk[end] & 3) * 256 + (disk[end + 1] & 255);
      }
      return out.toByteArray();
    }
    return null;
  }

  @ParameterizedTest
  @CsvSource({MAP + ",342,60,7000", MAP + ",384,144,1300", MAP + ",1600,296,5000"})
  void linkedBlocksAreReadBackByTwoReaders(String kind, int sectors, int files, int longest) {
    Random r = new Random(sectors);
    FileSet set = new FileSet();
    Map<String, byte[]> content = new HashMap<>();
    for (int i = 0; i < files; i++) {
      byte[] b = new byte[r.nextInt(longest) / (i % 3 + 1)];
      r.nextBytes(b);
      String path = "PIECE no " + i + (i % 2 == 0 ? ".prg" : ".seq");
      content.put(path, b);
      Samples.file(set, path, i % 5 == 0 ? 0x21 : 0x20, b);
    }
    MemoryMedium m = made(kind, sectors, set);
    int tracks = sectors == 342 ? 35 : sectors == 384 ? 40 : 80;
    Volume v = open(m, kind).orElseThrow();
    assertThat(v.label()).isEqualTo("QUILTS 3");
    assertThat(v.check()).isEmpty();
    long used = content.values().stream().mapToLong(b -> Math.max(1, (b.length + 253) / 254)).sum();
    assertThat(v.use().clusters() - v.use().free()).isEqualTo(used);
    for (Node n : v.all()) {
      byte[] read = Samples.bytes(v, n);
      String onDisk = n.name().substring(0, n.name().length() - 4);
      onDisk = onDisk.replace('n', (char) 0xCE).replace('o', (char) 0xCF);
      assertThat(blocks(all(m), tracks, onDisk)).isEqualTo(read);
      assertThat(read).as(n.path()).isEqualTo(content.remove(n.path()));
    }
    assertThat(content).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({"180,128", "360,256"})
  void linkedSectorsAreReadBackByTwoReaders(int sectors, int size) {
    Random r = new Random(sectors);
    FileSet set = new FileSet();
    Map<String, byte[]> content = new HashMap<>();
    for (int i = 0; i < 64; i++) {
      byte[] b = new byte[r.nextInt(10 * size)];
      r.nextBytes(b);
      String path = "F" + i + (i % 2 == 0 ? ".DAT" : "");
      content.put(path, b);
      Samples.file(set, path, i % 5 == 0 ? 0x21 : 0x20, b);
    }
    MemoryMedium m = made(LINKED, sectors, set);
    Volume v = open(m, LINKED).orElseThrow();
    assertThat(v.check()).isEmpty();
    for (Node n : v.all()) {
      String[] parts = (n.name() + ". ").split("\\.");
      String padded = String.format("%-8s%-3s", parts[0], parts[1].strip());
      assertThat(sectors(all(m), size, padded)).isEqualTo(Samples.bytes(v, n));
      assertThat(Samples.bytes(v, n)).as(n.path()).isEqualTo(content.remove(n.path()));
    }
    assertThat(content).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({
    MAP + ",342,254,664",
    MAP + ",384,254,749",
    MAP + ",1600,254,3160",
    LINKED + ",180,125,707",
    LINKED + ",360,253,707"
  })
  void theDiskEndsWithItsLastSector(String kind, long sectors, int data, int there) {
    FileSet full = new FileSet();
    Samples.file(full, "ALL", 0x20, Samples.content(1, data * there));
    Volume v = open(made(kind, sectors, full), kind).orElseThrow();
    assertThat(v.use().free()).isZero();
    assertThat(v.check()).isEmpty();
    assertThat(Samples.bytes(v, v.all().get(0))).isEqualTo(Samples.content(1, data * there));
    FileSet over = new FileSet();
    Samples.file(over, "ALL", 0x20, new byte[data * there + 1]);
    assertThat(Catalogue.maker(kind).fit(layout(kind, sectors), over).fits()).isFalse();
    assertThatThrownBy(() -> made(kind, sectors, over)).isInstanceOf(VolumeException.class);
    assertThatThrownBy(() -> layout(kind, sectors + 1)).isInstanceOf(VolumeException.class);
  }

  @ParameterizedTest
  @CsvSource({
    MAP + ",342,SEVENTEEN LETTERS",
    MAP + ",342,A*",
    MAP + ",342,A.rel",
    LINKED + ",180,lower",
    LINKED + ",180,9A",
    LINKED + ",180,NINELETTE"
  })
  void aNameThatCannotStandIsRefused(String kind, long sectors, String name) {
    FileSet files = new FileSet();
    Samples.file(files, name, 0x20, new byte[3]);
    assertThatThrownBy(() -> made(kind, sectors, files)).isInstanceOf(VolumeException.class);
  }

  @ParameterizedTest
  @CsvSource({MAP + ",342", MAP + ",1600", LINKED + ",180", LINKED + ",360"})
  void damageIsToldAndNeverAFault(String kind, int sectors) {
    Random r = new Random(sectors);
    FileSet files = kind.equals(MAP) ? withRecords(40, Samples.content(99, 35_000)) : new FileSet();
    for (int i = 0; i < 20; i++) Samples.file(files, "F" + i, 0x20, Samples.content(i, 3000));
    MemoryMedium m = made(kind, sectors, files);
    byte[] whole = all(m);
    List<long[]> used = open(m, kind).orElseThrow().inUse();
    int opened = 0;
    int told = 0;
    for (int trial = 0; trial < 600; trial++) {
      byte[] b = whole.clone();
      for (int i = 0; i <= r.nextInt(60); i++) {
        long[] run = used.get(r.nextInt(used.size()));
        b[(int) run[0] * 512 + r.nextInt((int) run[1] * 512)] = (byte) r.nextInt(256);
      }
      Optional<Volume> v = open(MemoryMedium.of(b), kind);
      if (v.isEmpty()) continue;
      opened++;
      if (!v.get().check().isEmpty()) told++;
      assertThat(v.get().check()).allMatch(f -> !f.what().isBlank());
      assertThat(v.get().places()).isNotEmpty();
      v.get().use();
      for (Node n : v.get().all()) {
        assertThat(v.get().sectorsOf(n)).allMatch(s -> s[0] >= 0 && s[0] + s[1] <= sectors);
        try {
          v.get().read(n, (x, at, length) -> {});
        } catch (VolumeException e) {
          assertThat(v.get().notWhole(n)).isPresent();
        }
      }
    }
    assertThat(opened).isGreaterThan(100);
    assertThat(told).isGreaterThan(50);
  }

  /** Names that no system of these disks finds, and a sector that holds more than it can. */
  @ParameterizedTest
  @CsvSource({
    LINKED + ",180,'F1      ','f1      ',no name that its system finds",
    LINKED + ",360,'F1      ','F 1     ',no name that its system finds",
    TWO + ",200,'F1     $','F.1    $',has one of",
    TWO + ",200,'F1     $','F*1    $',has one of"
  })
  void aNameThatItsSystemDoesNotFindIsTold(
      String kind, int sectors, String name, String now, String says) {
    FileSet files = new FileSet();
    for (int i = 0; i < 3; i++) Samples.file(files, "F" + i, 0x20, Samples.content(i, 900));
    MemoryMedium m = made(kind, sectors, files);
    assertThat(open(m, kind).orElseThrow().check()).isEmpty();
    String disk = new String(all(m), StandardCharsets.ISO_8859_1);
    byte[] b = disk.replace(name, now).getBytes(StandardCharsets.ISO_8859_1);
    assertThat(open(MemoryMedium.of(b), kind).orElseThrow().check())
        .extracting(Finding::what)
        .singleElement()
        .asString()
        .contains(says);
  }

  @Test
  void aSectorThatSaysItHoldsMoreThanItCanIsTold() {
    FileSet files = new FileSet();
    Samples.file(files, "F1", 0x20, Samples.content(1, 900));
    MemoryMedium m = made(LINKED, 180, files);
    Volume v = open(m, LINKED).orElseThrow();
    byte[] b = all(m);
    b[(int) (v.all().get(0).first() - 1) * 128 + 127] = 126;
    assertThat(open(MemoryMedium.of(b), LINKED).orElseThrow().check())
        .extracting(Finding::what)
        .anyMatch(w -> w.equals("A sector of F1 says that it holds 126 bytes of 125."));
  }

  @ParameterizedTest
  @CsvSource({MAP + ",342", MAP + ",384", LINKED + ",180", LINKED + ",360"})
  void anEditLeavesTheOthersAsTheyWere(String kind, int sectors) {
    FileSet files = new FileSet();
    for (int i = 0; i < 9; i++) Samples.file(files, "F" + i, 0x21, Samples.content(i, 900));
    MemoryMedium m = made(kind, sectors, files);
    MemoryMedium copy = new MemoryMedium(sectors);
    List<Edit.Change> changes =
        List.of(
            new Edit.Change.Remove(kind.equals(MAP) ? "F3.prg" : "F3"),
            new Edit.Change.Put(
                kind.equals(MAP) ? "NEW.seq" : "NEW.TXT",
                500,
                0,
                s -> s.take(Samples.content(77, 500), 0, 500)));
    assertThat(Edit.make(m, 0, changes, copy, Progress.NONE)).isEqualTo(9);
    Map<String, String> before = Samples.digests(open(m, kind).orElseThrow());
    Map<String, String> after = Samples.digests(open(copy, kind).orElseThrow());
    before.remove(kind.equals(MAP) ? "F3.prg" : "F3");
    after.remove(kind.equals(MAP) ? "NEW.seq" : "NEW.TXT");
    assertThat(after).isEqualTo(before);
  }

  /** A letter of a folder and a small name, and shifted letters, are names of their own. */
  @Test
  void namesThatDifferByTheirLettersStayTwo() {
    FileSet files = FileSet.asTheyLie();
    files.folder("Z", 0, 0);
    Samples.file(files, "Z/A", 0x20, Samples.content(1, 300));
    Samples.file(files, "z", 0x20, Samples.content(2, 300));
    String catalogue = "two-sector catalogue";
    twins(made(catalogue, 400, files), catalogue, "Z", "z", "Z/A");

    FileSet shifted = FileSet.asTheyLie();
    Samples.file(shifted, "AB.prg", 0x20, Samples.content(1, 300));
    Samples.file(shifted, "ab.prg", 0x20, Samples.content(2, 300));
    twins(made(MAP, 342, shifted), MAP, "AB.prg", "ab.prg", "AB.prg");
  }

  private static void twins(MemoryMedium m, String kind, String gone, String stays, String also) {
    Map<String, String> before = Samples.digests(open(m, kind).orElseThrow());
    assertThat(before).containsKeys(stays, also);
    MemoryMedium copy = new MemoryMedium(m.sectors());
    byte[] b = Samples.content(7, 200);
    String fresh = kind.equals(MAP) ? "NEW.seq" : "NEW";
    Edit.Change put = new Edit.Change.Put(fresh, 200, 0, s -> s.take(b, 0, 200));
    Edit.make(m, 0, List.of(put), copy, Progress.NONE);
    Map<String, String> after = Samples.digests(open(copy, kind).orElseThrow());
    assertThat(after.remove(fresh)).isNotNull();
    assertThat(after).isEqualTo(before);

    copy = new MemoryMedium(m.sectors());
    Edit.make(m, 0, List.of(new Edit.Change.Remove(gone)), copy, Progress.NONE);
    before.remove(also);
    assertThat(Samples.digests(open(copy, kind).orElseThrow())).isEqualTo(before);
  }

  @Test
  void lengthsThatEndWithinASectorAreRead(@TempDir Path home) throws Exception {
    for (String kind : List.of(MAP, LINKED)) {
      FileSet files = new FileSet();
      Samples.file(files, "F", 0x20, Samples.content(5, 2000));
      long sectors = kind.equals(MAP) ? 342 : 360;
      byte[] disk = all(made(kind, sectors, files));
      long bytes = layout(kind, sectors).byteCount();
      assertThat(bytes % 512).isPositive();
      Path file = Files.write(home.resolve(kind), Arrays.copyOf(disk, (int) bytes));
      try (FileMedium m = FileMedium.open(file)) {
        assertThat(m.tailBytes()).isZero();
        assertThat(all(m)).isEqualTo(disk);
        assertThat(open(m, kind)).isPresent();
      }
      Files.write(file, Arrays.copyOf(disk, (int) bytes - 1));
      try (FileMedium m = FileMedium.open(file)) {
        assertThat(m.tailBytes()).isPositive();
      }
    }
  }

  @Test
  void theSystemFileOfAStartIsFollowedWhereItGoes() {
    FileSet files = new FileSet();
    for (String f : List.of("FIRST", "DOS.SYS")) {
      Samples.file(files, f, 0x20, Samples.content(4, 1000));
    }
    MemoryMedium m = made(LINKED, 180, files);
    byte[] start = m.sector(0);
    start[14] = 1;
    m.write(0, 1, start, 0);
    MemoryMedium copy = new MemoryMedium(180);
    Edit.make(m, 0, List.of(new Edit.Change.Remove("FIRST")), copy, Progress.NONE);
    Node system = open(copy, LINKED).orElseThrow().all().get(0);
    assertThat(copy.sector(0)[15]).isEqualTo((byte) system.first()).isEqualTo((byte) 4);
  }

  /** First byte of each track, by the published zones. */
  private static int[] tracks(int tracks) {
    int[] start = new int[tracks + 2];
    for (int t = 1; t <= tracks; t++) {
      int n = tracks == 80 ? 40 : t < 18 ? 21 : t < 25 ? 19 : t < 31 ? 18 : 17;
      start[t + 1] = start[t] + n * 256;
    }
    return start;
  }

  /**
   * A second reader of files of records: by the side blocks alone, as a drive finds a record. Of
   * the disk it takes the entry that is the first of the catalogue.
   */
  private static byte[] bySideBlocks(byte[] disk, int tracks, int record, int length) {
    int[] start = tracks(tracks);
    int e = tracks == 80 ? start[40] + 3 * 256 : start[18] + 256;
    assertThat(disk[e + 2] & 7).isEqualTo(4);
    assertThat(disk[e + 23] & 255).isEqualTo(record);
    int first = start[disk[e + 21]] + disk[e + 22] * 256;
    byte[] out = new byte[length];
    for (int b = 0; b * 254 < length; b++) {
      int side = first;
      if (tracks == 80) {
        assertThat(disk[first + 2] & 255).isEqualTo(0xFE);
        int g = first + 3 + 2 * (b / 720);
        side = start[disk[g]] + disk[g + 1] * 256;
      }
      int k = side + 4 + 2 * (b / 120 % 6);
      int at = start[disk[k]] + disk[k + 1] * 256;
      assertThat(disk[at + 2]).isEqualTo((byte) (b / 120 % 6));
      assertThat(disk[at + 3] & 255).isEqualTo(record);
      int p = at + 16 + 2 * (b % 120);
      int block = start[disk[p]] + disk[p + 1] * 256;
      System.arraycopy(disk, block + 2, out, b * 254, Math.min(254, length - b * 254));
    }
    return out;
  }

  private static FileSet withRecords(int record, byte[] content) {
    FileSet files = new FileSet();
    byte[] entry = new byte[32];
    entry[2] = (byte) 0x84;
    entry[23] = (byte) record;
    Samples.file(files, "LOOM.rel", 0x20, content);
    files.items().get(0).own(entry);
    return files;
  }

  /** One side block, two, five; on the large disk a second group. */
  @ParameterizedTest
  @CsvSource({
    "342,35,64,300",
    "342,35,254,30480",
    "342,35,1,150000",
    "384,40,80,31000",
    "1600,80,100,5000",
    "1600,80,33,250000"
  })
  void aFileOfRecordsIsFoundRecordByRecordAndLivesThroughAnEdit(
      int sectors, int tracks, int record, int bytes) {
    byte[] content = Samples.content(sectors + bytes, bytes);
    FileSet files = withRecords(record, content);
    Samples.file(files, "OTHER.seq", 0x20, Samples.content(3, 700));
    MemoryMedium m = made(MAP, sectors, files);
    assertThat(bySideBlocks(all(m), tracks, record, bytes)).isEqualTo(content);
    Volume v = open(m, MAP).orElseThrow();
    assertThat(v.check()).isEmpty();
    long beside = (bytes + 253) / 254 + ((bytes + 253) / 254 + 119) / 120 + sectors / 1600;
    assertThat(v.use().free()).isEqualTo(v.use().clusters() - beside - 3);

    MemoryMedium copy = new MemoryMedium(sectors);
    List<Edit.Change> changes =
        List.of(new Edit.Change.Remove("OTHER.seq"), new Edit.Change.Move("LOOM.rel", "WARP.rel"));
    Edit.make(m, 0, changes, copy, Progress.NONE);
    assertThat(bySideBlocks(all(copy), tracks, record, bytes)).isEqualTo(content);
    assertThat(open(copy, MAP).orElseThrow().check()).isEmpty();
  }

  /** Side blocks that lie are told, and made from the chain where the disk is laid down anew. */
  @Test
  void sideBlocksThatNameOtherBlocksAreToldAndMadeAnew() {
    byte[] content = Samples.content(9, 40_000);
    MemoryMedium m = made(MAP, 342, withRecords(50, content));
    byte[] disk = all(m);
    int[] start = tracks(35);
    int e = start[18] + 256;
    int side = start[disk[e + 21]] + disk[e + 22] * 256;
    disk[side + 16 + 2 * 7] = 30;
    Volume v = open(MemoryMedium.of(disk), MAP).orElseThrow();
    assertThat(v.check())
        .singleElement()
        .satisfies(f -> assertThat(f.what()).contains("its side blocks name other blocks"));
    MemoryMedium copy = new MemoryMedium(342);
    List<Edit.Change> none = List.of(new Edit.Change.Move("LOOM.rel", "LOOM2.rel"));
    Edit.make(MemoryMedium.of(disk), 0, none, copy, Progress.NONE);
    assertThat(bySideBlocks(all(copy), 35, 50, 40_000)).isEqualTo(content);
    assertThat(open(copy, MAP).orElseThrow().check()).isEmpty();
  }
}
