package lanternshed.core.volume.ffs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.time.LocalDateTime;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import lanternshed.core.Samples;
import lanternshed.core.Trials;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.Mending;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;
import lanternshed.core.work.FilesOut;
import lanternshed.core.work.Stamp;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

@Tag("trial")
class FfsTest {
  private static final Geometry G = new Geometry(80, 2, 11);
  private static final int FLOPPY = 1760;

  private static MemoryMedium made(String kind, long sectors, FileSet files) {
    MemoryMedium m = new MemoryMedium(sectors);
    Maker maker = new Ffs().maker().orElseThrow();
    Maker.Wish wish =
        new Maker.Wish(Optional.of(kind), sectors, 0, 0, 0, G, "Saltern", 0, true, Samples.STAMP);
    maker.write(maker.layout(wish), files, m, new byte[0], (p, b) -> {});
    return m;
  }

  private static Volume open(MemoryMedium m) {
    return new Ffs().recognise(m, Hint.PART).orElseThrow().volume().orElseThrow();
  }

  private static byte[] image(MemoryMedium m) {
    return m.sectors(0, (int) m.sectors());
  }

  private static FileSet random(Random r, Map<String, byte[]> content, int files, int most) {
    FileSet out = new FileSet();
    List<String> folders = new java.util.ArrayList<>(List.of(""));
    for (int i = 0; i < files; i++) {
      String in = folders.get(r.nextInt(folders.size()));
      String name = (r.nextBoolean() ? "Gewebe für " : "warp ") + i + (r.nextBoolean() ? ".é" : "");
      String path = in.isEmpty() ? name : in + "/" + name;
      if (r.nextInt(6) == 0) {
        out.folder(path, 0x20, Samples.STAMP);
        folders.add(path);
      } else {
        byte[] b = new byte[r.nextInt(most)];
        r.nextBytes(b);
        content.put(path, b);
        out.file(path, b.length, r.nextInt(2) | 0x20, Samples.STAMP, s -> s.take(b, 0, b.length));
      }
    }
    return out;
  }

  @ParameterizedTest
  @CsvSource({
    "OFS,1760,40,9000", "FFS,1760,40,9000", "OFS-INTL,3520,200,5000", "FFS-INTL,3520,60,9000",
    "OFS-DC,3520,200,4000", "FFS-DC,20000,300,20000", "FFS,120001,50,300000", "OFS,4063,90,12000",
  })
  void whatIsLaidDownReadsBackAndASecondReaderFindsItByItsNames(
      String kind, int sectors, int files, int most) {
    Map<String, byte[]> content = new HashMap<>();
    MemoryMedium m = made(kind, sectors, random(new Random(files + most), content, files, most));
    Volume v = open(m);
    FfsWitness witness = new FfsWitness(image(m));
    assertThat(v.kind()).isEqualTo(kind);
    assertThat(v.label()).isEqualTo("Saltern");
    assertThat(v.check()).isEmpty();
    Map<String, byte[]> read = new HashMap<>();
    for (Node n : v.all()) {
      assertThat(n.stamp()).isEqualTo(Samples.STAMP);
      assertThat(witness.find(n.path())).isEqualTo((int) n.first());
      if (!n.folder()) read.put(n.path(), Samples.bytes(v, n));
    }
    assertThat(read.keySet()).isEqualTo(content.keySet());
    content.forEach(
        (path, b) -> {
          assertThat(read.get(path)).as(path).isEqualTo(b);
          assertThat(witness.content(path)).as(path).isEqualTo(b);
        });
    long free = 0;
    for (int b = 2; b < sectors; b++) if (witness.free(b)) free++;
    assertThat(v.use().free()).isEqualTo(free).isPositive();
  }

  @Test
  void aHeaderKeepsItsCommentItsProtectionAndItsFiftieths() {
    FileSet files = new FileSet();
    heron(files);
    byte[] kept = new byte[FfsBlock.BYTES];
    Bytes.putBe32(kept, FfsBlock.PROTECTION, 0x45);
    FfsBlock.putText(kept, FfsBlock.COMMENT, "die Kette".getBytes(StandardCharsets.ISO_8859_1));
    Bytes.putBe32(kept, FfsBlock.DATE, 3);
    Bytes.putBe32(kept, FfsBlock.DATE + 8, 1234);
    files.item("Heron").own(FfsBlock.kept(kept));
    MemoryMedium m = made("FFS", FLOPPY, files);
    Volume v = open(m);
    Node there = v.all().get(0);
    assertThat(new FfsWitness(image(m)).comment("HERON")).isEqualTo("die Kette");
    assertThat(v.own(there)).isEqualTo(FfsBlock.kept(kept));
    assertThat(there.attributes()).isEqualTo(0x21);
    // 1978, which no stamp can say, and 1 234 fiftieths.
    assertThat(there.time()).contains(LocalDateTime.of(1978, 1, 4, 0, 0, 24));
    assertThat(FilesOut.millis(there)).isLessThan(FilesOut.millis(Stamp.NONE));
    FileSet again = new FileSet();
    heron(again);
    again.item("Heron").own(v.own(there));
    assertThat(image(made("FFS", FLOPPY, again))).isEqualTo(image(m));
  }

  /** As a volume of this kind lists it: read only, and older than marks of time can say. */
  private static void heron(FileSet files) {
    byte[] b = Samples.content(1, 700);
    files.file("Heron", b.length, 0x21, 0, s -> s.take(b, 0, b.length));
  }

  @Test
  void aFullVolumeTakesItsLastBlockAndNotOneMore() {
    Maker maker = new FfsMaker();
    Maker.Layout l =
        maker.layout(
            new Maker.Wish(Optional.of("FFS"), FLOPPY, 0, 0, 0, G, "", 0, true, Samples.STAMP));
    assertThat(l.clusterCount()).isEqualTo(1756);
    // 1 header, 23 extensions, 1732 blocks of data: 1756.
    FileSet full = new FileSet();
    Samples.file(full, "full", 0x20, new byte[1731 * 512]);
    assertThat(maker.fit(l, full).needed()).isEqualTo(1 + 24 + 1731);
    assertThat(maker.fit(l, full).fits()).isTrue();
    assertThat(open(made("FFS", FLOPPY, full)).use().free()).isZero();
    FileSet over = new FileSet();
    Samples.file(over, "over", 0x20, new byte[1731 * 512 + 1]);
    assertThat(maker.fit(l, over).fits()).isFalse();
    assertThatThrownBy(() -> made("FFS", FLOPPY, over)).isInstanceOf(VolumeException.class);
  }

  /** A link to elsewhere is told and refused, never an empty file; one to a file reads as it. */
  @Test
  void linksAreToldAndNeverTakenForEmptyFiles() {
    FileSet files = new FileSet();
    for (int i = 0; i < 3; i++) Samples.file(files, "file " + i, 0x20, Samples.content(i, 900));
    MemoryMedium m = made("FFS", FLOPPY, files);
    Node first = open(m).all().get(0);
    Node second = open(m).all().get(1);
    byte[] target = Samples.bytes(open(m), second);
    link(m, first, FfsBlock.LINK_TO_FILE, second.first());
    Node hard = open(m).all().get(0);
    assertThat(Samples.bytes(open(m), hard)).isEqualTo(target);
    for (int type : new int[] {FfsBlock.SOFT_LINK, FfsBlock.LINK_TO_FOLDER}) {
      link(m, first, type, 0);
      Volume v = open(m);
      Node elsewhere = v.all().get(0);
      assertThat(v.notWhole(elsewhere)).isPresent();
      assertThatThrownBy(() -> v.read(elsewhere, (b, at, length) -> {}))
          .hasMessageContaining("is a link");
      assertThat(v.remakeable()).isFalse();
      assertThat(v.check()).extracting(Finding::what).anyMatch(w -> w.endsWith("is a link."));
    }
  }

  /**
   * Some systems take room ahead: what a table counts is the file's, as who removes it frees it.
   */
  @Test
  void roomThatAFileTookAheadIsItsOwnUntilItIsRemoved() {
    FileSet files = new FileSet();
    Samples.file(files, "short", 0x20, Samples.content(1, 900));
    Samples.file(files, "long", 0x20, Samples.content(2, 100 * 512));
    MemoryMedium m = made("FFS", FLOPPY, files);
    for (Node n : open(m).all()) {
      boolean ext = n.path().equals("long");
      long table = ext ? Bytes.be32(m.sector(n.first()), FfsBlock.EXTENSION) : n.first();
      byte[] h = m.sector(table);
      int there = (int) Bytes.be32(h, FfsBlock.HIGH_SEQ);
      Bytes.putBe32(h, FfsBlock.HIGH_SEQ, there + 2);
      for (int i = 0; i < 2; i++) {
        Bytes.putBe32(h, FfsBlock.TABLE + 4 * (71 - there - i), (ext ? 1700 : 1600) + i);
      }
      FfsBlock.seal(h, FfsBlock.CHECKSUM);
      m.write(table, 1, h, 0);
    }
    // Free in the bitmap: the next file would lie in them, and go with the first that is removed.
    assertThat(open(m).check())
        .extracting(Finding::what)
        .anyMatch(w -> w.startsWith("4 blocks in use are marked free"));
    open(m).mending().orElseThrow().apply(m);
    assertThat(open(m).check())
        .singleElement()
        .satisfies(f -> assertThat(f.weight()).isEqualTo(Finding.Weight.NOTE))
        .satisfies(
            f -> assertThat(f.what()).startsWith("4 blocks are kept by files past their ends"));
    assertThat(new FfsWitness(image(m)).free(1701)).isFalse();
    for (Node n : open(m).all()) assertThat(Samples.bytes(open(m), n)).hasSize((int) n.bytes());
    // One of them is another file's as well.
    byte[] h =
        m.sector(
            open(m).all().stream().filter(n -> n.path().equals("short")).findFirst().get().first());
    Bytes.putBe32(h, FfsBlock.TABLE + 4 * 69, 1700);
    FfsBlock.seal(h, FfsBlock.CHECKSUM);
    m.write(Bytes.be32(h, FfsBlock.OWN_KEY), 1, h, 0);
    assertThat(open(m).check())
        .extracting(Finding::what)
        .anyMatch(w -> w.contains("past its end, belongs to something else"));
  }

  private static void link(MemoryMedium m, Node from, int type, long to) {
    byte[] h = m.sector(from.first());
    Bytes.putBe32(h, FfsBlock.SECONDARY_TYPE, type);
    Bytes.putBe32(h, FfsLayout.REAL_ENTRY, to);
    FfsBlock.seal(h, FfsBlock.CHECKSUM);
    m.write(from.first(), 1, h, 0);
  }

  @ParameterizedTest
  @ValueSource(strings = {"a:b", "1234567890123456789012345678901", "Ж"})
  void aNameThatCannotStandIsRefusedBeforeAByteIsWritten(String name) {
    FileSet files = new FileSet();
    Samples.file(files, name, 0x20, new byte[3]);
    assertThatThrownBy(() -> made("FFS", FLOPPY, files))
        .isInstanceOf(VolumeException.class)
        .hasMessageContaining(name);
  }

  /** What a damage does, and what the check says of it. */
  private record Damage(
      String name, int block, int offset, long value, String says, boolean mends) {
    @Override
    public String toString() {
      return name;
    }
  }

  private static List<Damage> damages() {
    return List.of(
        new Damage("bitmap not valid", 880, FfsBlock.BITMAP_FLAG, 0, "not valid", true),
        new Damage(
            "root's name", 880, FfsBlock.NAME + 1, 0x41414141L, "checksum of the root", true),
        new Damage("a page of the bitmap", 881, 8, 0, "checksum of a block of the bitmap", true),
        new Damage("a header's date", 2, FfsBlock.DATE, 99, "checksum of", true),
        new Damage("a header's parent", 2, FfsBlock.PARENT, 7, "names another folder", true),
        new Damage("a header's own number", 2, FfsBlock.OWN_KEY, 7, "says it is block 7", true),
        new Damage(
            "a pointer outside", 2, FfsBlock.TABLE + 4 * 71, 9999, "none of this vol", false),
        new Damage("a pointer of another", 2, FfsBlock.TABLE + 4 * 71, 881, "belongs to", false));
  }

  @ParameterizedTest
  @org.junit.jupiter.params.provider.MethodSource("damages")
  void eachDamageIsToldAndWhatCanBeMendedIs(Damage d) {
    Map<String, byte[]> content = new LinkedHashMap<>();
    FileSet files = new FileSet();
    for (int i = 0; i < 5; i++) {
      byte[] b = Samples.content(i, 3000);
      content.put("file " + i, b);
      Samples.file(files, "file " + i, 0x20, b);
    }
    MemoryMedium m = made("FFS", FLOPPY, files);
    byte[] b = m.sector(d.block());
    Bytes.putBe32(b, d.offset(), d.value());
    m.write(d.block(), 1, b, 0);
    assertThat(open(m).check()).extracting(Finding::what).anyMatch(w -> w.contains(d.says()));
    Mending mending = open(m).mending().orElseThrow();
    mending.apply(m);
    if (d.mends()) {
      Volume v = open(m);
      assertThat(v.check()).isEmpty();
      assertThat(v.mending().orElseThrow().changes()).isEmpty();
      for (Node n : v.all()) assertThat(Samples.bytes(v, n)).isEqualTo(content.get(n.path()));
    }
  }

  /** Entries that hang in another chain than their name asks for: a machine does not find them. */
  @Test
  void entriesInWrongPlacesArePutWhereTheirNamesAsk() {
    Random dice = new Random(6);
    long told = 0;
    for (int turn = 0; turn < Trials.turns(20, 1000); turn++) {
      Map<String, byte[]> content = new HashMap<>();
      MemoryMedium m = made("FFS", FLOPPY, random(dice, content, 40, 900));
      Volume v = open(m);
      List<Node> all = v.all();
      for (int i = 0; i < 3; i++) {
        Node n = all.get(dice.nextInt(all.size()));
        long folder =
            all.stream()
                .filter(f -> f.path().equals(n.parent()))
                .mapToLong(Node::first)
                .findFirst()
                .orElse(v.root().first());
        rehang(m, folder, n.first(), dice.nextInt(FfsBlock.SLOTS));
      }
      told += open(m).check().stream().filter(f -> f.what().contains("another place")).count();
      open(m).mending().orElseThrow().apply(m);
      Volume now = open(m);
      assertThat(now.check()).isEmpty();
      assertThat(now.mending().orElseThrow().changes()).isEmpty();
      Map<String, byte[]> is = new HashMap<>();
      for (Node n : now.all()) if (!n.folder()) is.put(n.path(), Samples.bytes(now, n));
      assertThat(is.keySet()).isEqualTo(content.keySet());
      is.forEach((path, bytes) -> assertThat(bytes).isEqualTo(content.get(path)));
    }
    assertThat(told).as("entries that were told of").isGreaterThan(20);
  }

  /** Takes an entry out of its chain and hangs it at the front of another. */
  private static void rehang(MemoryMedium m, long folder, long entry, int place) {
    long next = Bytes.be32(m.sector(entry), FfsBlock.NEXT_HASH);
    for (int slot = 0; slot < FfsBlock.SLOTS; slot++) {
      long block = folder;
      int at = FfsBlock.TABLE + 4 * slot;
      long to = Bytes.be32(m.sector(block), at);
      while (to != 0 && to != entry) {
        block = to;
        at = FfsBlock.NEXT_HASH;
        to = Bytes.be32(m.sector(block), at);
      }
      if (to == entry) put(m, block, at, next);
    }
    put(m, entry, FfsBlock.NEXT_HASH, Bytes.be32(m.sector(folder), FfsBlock.TABLE + 4 * place));
    put(m, folder, FfsBlock.TABLE + 4 * place, entry);
  }

  private static void put(MemoryMedium m, long block, int at, long value) {
    byte[] b = m.sector(block);
    Bytes.putBe32(b, at, value);
    FfsBlock.seal(b, FfsBlock.CHECKSUM);
    m.write(block, 1, b, 0);
  }

  @Test
  void randomStructuresAreBoundedAndToldAndNeverAFault() {
    Random r = new Random(11);
    Map<String, byte[]> content = new HashMap<>();
    MemoryMedium whole = made("OFS-DC", FLOPPY, random(r, content, 60, 6000));
    byte[] image = image(whole);
    for (int trial = 0; trial < Trials.turns(80, 4000); trial++) {
      byte[] b = image.clone();
      for (int i = 0; i <= r.nextInt(6); i++) {
        int block = r.nextInt(3) == 0 ? 880 : r.nextInt(FLOPPY);
        int at = block * 512 + 4 * r.nextInt(128);
        Bytes.putBe32(b, at, r.nextBoolean() ? r.nextInt(FLOPPY + 9) : r.nextInt());
      }
      MemoryMedium m = MemoryMedium.of(b);
      Optional<Volume> v = new Ffs().recognise(m, Hint.PART).flatMap(x -> x.volume());
      if (v.isEmpty()) continue;
      v.get().check();
      v.get().places();
      v.get().inUse();
      v.get().use();
      for (Node n : v.get().all()) {
        v.get().notWhole(n);
        v.get().sectorsOf(n);
        try {
          v.get().read(n, (x, at, length) -> {});
        } catch (VolumeException e) {
          assertThat(v.get().notWhole(n)).isPresent();
        }
      }
      v.get().mending().orElseThrow().apply(m);
    }
  }
}
