package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.boot.Start;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Profiles;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.plan.Plan;
import lanternshed.core.plan.PlanRequest;
import lanternshed.core.plan.PlanRequest.School;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.plan.Planner;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.survey.Volumes;
import lanternshed.core.table.TableMaker;
import lanternshed.core.table.rdb.DriverFiles;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Every family on cards too small, fitting and far too large: plan, build, proof, and the files
 * again from what was written.
 */
class FamiliesTest {

  /**
   * @param fitting sectors of a card on which the files go
   * @param start the text that the machine starts with; "" where it starts nothing here
   */
  record Way(String machine, String firmware, String system, long fitting, String start) {
    @Override
    public String toString() {
      return machine + " " + firmware + " " + system;
    }
  }

  static List<Way> ways() {
    return List.of(
        new Way("m68k-rdb", "ata-2", "rdb-2", 60_000, "S/Startup-Sequence"),
        new Way("m68k-rdb", "rom-1", "rdb-1", 60_000, "S/Startup-Sequence"),
        new Way("m68k-rdb", "rom-1", "rdb-1-ffs", 60_000, "S/Startup-Sequence"),
        new Way("m68k-rdb", "ata-64", "rdb-64", 60_000, "S/Startup-Sequence"),
        new Way("m68k-ahdi", "dma", "ahdi-1", 96_000, ""),
        new Way("m68k-ahdi", "dma", "ahdi-2", 96_000, ""),
        new Way("m68k-ahdi", "ata", "ahdi-3", 96_000, ""),
        new Way("m68k-ahdi", "dma-10", "ahdi-shared", 60_000, ""),
        new Way("m68k-ahdi", "dma", "ahdi-both", 150_000, ""),
        new Way("z80-cpm-card", "", "cpm-22", 8_000, ""),
        new Way("z80-cpm-card", "", "cpm-32", 30_000, ""),
        new Way("z80-cpm-card", "", "cpm-512", 100_000, ""),
        new Way("m6803-cart", "", "card-fat16", 60_000, ""),
        new Way("m6803-cart", "", "card-fat32", 60_000, ""),
        new Way("player-18", "", "card-fat32", 60_000, ""),
        new Way("m6502-idecart", "", "slots-fat32", 300_000, ""));
  }

  private static final byte[] DRIVER = DriverFiles.file("$VER: ffs 40.1", 700, 1);

  private final MemoryStock stock = new MemoryStock();

  Map<String, byte[]> files(Way w) {
    Map<String, byte[]> out = new TreeMap<>();
    if (w.start().startsWith("S/")) {
      out.put(
          w.start(), "Copy ; this\nC:List\nEcho \"ready\"\n".getBytes(StandardCharsets.US_ASCII));
      out.put("C/Copy", Samples.content(1, 3000));
      out.put("C/List", Samples.content(2, 5000));
    }
    for (int i = 0; i < 20; i++) {
      String folder = w.system().startsWith("cpm") ? "USER2/" : "SETS/";
      out.put(folder + "P" + i + ".PAT", Samples.content(i, i * 8001));
    }
    return out;
  }

  /** What a folder of a desktop looks like to the planner. */
  private static Survey brought(Map<String, byte[]> files) {
    long[] sizes = files.values().stream().mapToLong(b -> b.length).toArray();
    long bytes = Arrays.stream(sizes).sum();
    Survey.Found f =
        new Survey.Found(
            0,
            0,
            0,
            "files",
            "FILES",
            true,
            false,
            new Volume.Use(1, bytes, 0, 0),
            sizes.length,
            3,
            0,
            bytes,
            sizes,
            4,
            List.of(),
            false,
            List.of(),
            List.of());
    return new Survey(0, Optional.empty(), List.of(f), List.of(), List.of());
  }

  /** What a ROM of this way does not mount; a later card has it from the one before. */
  private List<PlanRequest.Driver> drivers(Way w, boolean keep) {
    if (keep || !w.system().equals("rdb-1-ffs")) return List.of();
    String sha = stock.put(DRIVER);
    return List.of(new PlanRequest.Driver("DOS\\1", "FFS", "40.1", DRIVER.length, sha));
  }

  private Plan plan(Way w, long card, Survey survey, boolean keep) {
    return Planner.plan(
        Profiles.get(w.machine()),
        new PlanRequest(
            w.machine(),
            w.firmware(),
            w.system(),
            new Card("card", card * 512, card),
            List.of(),
            Strategy.REBUILD,
            School.MACHINE,
            List.of(),
            keep,
            List.of(),
            drivers(w, keep),
            PlanRequest.Bench.NOTHING),
        survey);
  }

  private Medium build(Recipe r, Optional<Medium> source, Plan plan) {
    assertThat(RecipeText.read(r.toJson())).isEqualTo(r);
    MemoryMedium image = new MemoryMedium(r.sectors());
    ImageBuilder.build(r, source, stock, image, Progress.NONE);
    Proof proof = Proof.of(r, source, image, plan.reach(), Progress.NONE);
    assertThat(proof.differing()).isEmpty();
    assertThat(proof.table()).extracting(Finding::what).isEmpty();
    assertThat(proof.volumes()).extracting(Finding::what).isEmpty();
    assertThat(proof.start().sentence()).doesNotContain("Will not");
    assertThat(proof.proved()).isTrue();
    return image;
  }

  static Map<String, byte[]> content(Medium image) {
    Map<String, byte[]> out = new TreeMap<>();
    for (Volumes.Opened o : Volumes.all(image)) {
      for (Node n : o.volume().all()) {
        if (!n.folder()) out.put(n.path(), Samples.bytes(o.volume(), n));
      }
    }
    return out;
  }

  private static void same(Map<String, byte[]> there, Map<String, byte[]> wanted) {
    assertThat(there.keySet()).isEqualTo(wanted.keySet());
    wanted.forEach((p, b) -> assertThat(there.get(p)).as(p).isEqualTo(b));
  }

  /** A card with files of a desktop, by the family's own plan. */
  Medium card(Way w, Map<String, byte[]> files) {
    List<Recipe.FileFrom> from = new ArrayList<>();
    files.forEach(
        (p, b) -> from.add(new Recipe.FileFrom(p, b.length, stock.put(b), "1994-03-01T10:20:00")));
    Survey desk = brought(files);
    Plan fresh = plan(w, w.fitting(), desk, false);
    assertThat(fresh.buildable()).as("" + fresh.verdicts()).isTrue();
    assertThat(fresh.steps()).isNotEmpty();
    return build(Recipe.of(fresh, desk, "", from), Optional.empty(), fresh);
  }

  /** P-31: a FAT32 volume for the desktop, wherever one has room for the clusters of FAT32. */
  @Test
  void theVolumeBesideNativeSlotsIsFat32AsItsNameSays() {
    Way w = new Way("m6502-idecart", "", "slots-fat32", 600_000, "");
    Plan plan = plan(w, w.fitting(), brought(files(w)), false);
    assertThat(plan.volumes()).extracting(Plan.PlannedVolume::kind).contains("FAT32");
    assertThat(plan.volumes()).extracting(Plan.PlannedVolume::kind).doesNotContain("FAT16");
    same(content(card(w, files(w))), files(w));
  }

  @ParameterizedTest
  @MethodSource("ways")
  void filesBecomeACardAndTheCardBecomesALargerOne(Way w) {
    Map<String, byte[]> files = files(w);
    Medium first = card(w, files);
    same(content(first), files);

    Survey old = Surveyor.survey(first);
    assertThat(old.allFindings()).filteredOn(f -> f.weight() != Finding.Weight.NOTE).isEmpty();
    if (!w.start().isEmpty()) {
      assertThat(old.volumes().get(0).systemFiles()).containsExactly(w.start());
    }
    Plan larger = plan(w, 2 * w.fitting(), old, true);
    Recipe recipe = Recipe.parse(Recipe.of(larger, old, "ab".repeat(32), List.of()).toJson());
    Medium second = build(recipe, Optional.of(first), larger);
    same(content(second), files);
    if (!w.start().isEmpty()) {
      assertThat(larger.start().sentence()).contains(w.start());
    }

    boolean driven = w.system().equals("rdb-1-ffs");
    for (Medium m : List.of(first, second)) {
      assertThat(Surveyor.survey(m).table().map(t -> t.drivers()).orElse(List.of()))
          .isEqualTo(driven ? List.of("DOS\\1") : List.of());
    }

    Plan small = plan(w, 2100, old, true);
    assertThat(small.buildable()).isFalse();
    assertThatThrownBy(() -> Recipe.of(small, old, "", List.of()))
        .isInstanceOf(ShedException.class);
    Plan huge = plan(w, 10_000_000_000L, old, true);
    assertThat(huge.buildable()).isTrue();
    assertThat(huge.volumes())
        .allSatisfy(v -> assertThat(v.end()).isLessThanOrEqualTo(huge.reach()));
  }

  /** P-13: the proof reads the driver back, and a recipe says no more than its table takes. */
  @Test
  void aDriverIsProvedAndARecipeForItIsHeldAgainstItsTable() {
    Way w = new Way("m68k-rdb", "rom-1", "rdb-1-ffs", 60_000, "S/Startup-Sequence");
    Survey none = new Survey(0, Optional.empty(), List.of(), List.of(), List.of());
    Plan plan = plan(w, 60_000, none, false);
    Recipe r = Recipe.of(plan, none, "", List.of());
    Medium image = build(r, Optional.empty(), plan);
    for (int i = 1; i < 16; i++) {
      byte[] b = image.sector(i);
      if (!new String(b, 0, 4, StandardCharsets.ISO_8859_1).equals("LSEG")) continue;
      // Two longs change places, which no sum tells.
      byte[] first = Arrays.copyOfRange(b, 100, 104);
      System.arraycopy(b, 104, b, 100, 4);
      System.arraycopy(first, 0, b, 104, 4);
      image.write(i, 1, b, 0);
      break;
    }
    assertThat(
            Proof.of(r, Optional.empty(), build(r, Optional.empty(), plan), 60_000, Progress.NONE)
                .boot()
                .links())
        .extracting(l -> l.rule() + " " + l.evidence())
        .contains("P-13 the table holds one for DOS\\1, to its end");
    Proof other = Proof.of(r, Optional.empty(), image, plan.reach(), Progress.NONE);
    assertThat(other.proved()).isFalse();
    assertThat(other.table())
        .extracting(Finding::what)
        .containsExactly("The table does not hold FFS as it was brought.");

    Recipe.DriverFrom d = r.drivers().get(0);
    assertThatThrownBy(
            () -> ImageBuilder.build(r, Optional.empty(), Stock.EMPTY, image, Progress.NONE))
        .hasMessageContaining("FFS is not on the shelf any more");
    assertThatThrownBy(() -> with(r, d, d)).hasMessageContaining("two drivers for DOS\\1");
    assertThatThrownBy(() -> with(r, new Recipe.DriverFrom("DOS\\3", "F", d.bytes(), d.sha256())))
        .hasMessageContaining("no volume of the recipe is that");
    assertThatThrownBy(() -> with(r, new Recipe.DriverFrom(d.type(), " ", 1, d.sha256())))
        .hasMessageContaining("makes no sense");
    Recipe.DriverFrom longer = new Recipe.DriverFrom(d.type(), "FFS", d.bytes() + 1, d.sha256());
    assertThatThrownBy(
            () ->
                ImageBuilder.build(with(r, longer), Optional.empty(), stock, image, Progress.NONE))
        .hasMessageContaining("is not what its digest says");
    Way pc = new Way("m6803-cart", "", "card-fat16", 60_000, "");
    Recipe fat = Recipe.of(plan(pc, 60_000, none, false), none, "", List.of());
    assertThatThrownBy(() -> with(fat, d)).hasMessageContaining("no blocks for drivers");
  }

  /** The same with other drivers, held against its table. */
  private static Recipe with(Recipe r, Recipe.DriverFrom... drivers) {
    Recipe now =
        new Recipe(
            r.form(),
            r.family(),
            r.table(),
            r.strategy(),
            r.sectors(),
            r.geometry(),
            r.signature(),
            r.bootCode(),
            r.sourceSha256(),
            List.of(drivers),
            r.volumes());
    ImageBuilder.examine(now, "");
    return now;
  }

  /** P-23: the desktop's view of the volume holds the same files, and general tools accept it. */
  @ParameterizedTest
  @CsvSource({"20000", "150000", "1000000"})
  void aVolumeWithTwoBootSectorsIsOneForBothSides(long card, @TempDir Path home) throws Exception {
    Way w = new Way("m68k-ahdi", "dma", "ahdi-both", card, "");
    Map<String, byte[]> files = files(w);
    Medium image = card(w, files);
    Plan plan = plan(w, card, brought(files), false);
    byte[] root = image.sector(0);
    long start = Bytes.u32(root, 0x1F6);
    assertThat(start).isEqualTo(plan.volumes().get(0).start() - 1);
    Path file = home.resolve("card.img");
    Samples.toFile(image, file);
    String at = file + "@@" + start * 512;
    // What the machine's entry looks like to a desktop has no type and begins past any card.
    String listed = Tool.run("sfdisk -d " + file + " | grep start= | grep -vc 'type=0$'");
    assertThat(listed.strip()).isEqualTo("1");
    Tool.run("dd if=" + file + " of=" + home + "/v bs=512 skip=" + start + " status=none");
    assertThat(Tool.run("fsck.fat -n " + home + "/v")).contains("files");
    Tool.run("mcopy -s -i " + at + " ::/ " + home + "/out");
    for (Map.Entry<String, byte[]> f : files.entrySet()) {
      assertThat(Files.readAllBytes(home.resolve("out").resolve(f.getKey())))
          .isEqualTo(f.getValue());
    }
    // A desktop that writes to it leaves the machine's view whole.
    Files.write(home.resolve("NEW.TXT"), Samples.content(5, 70_000));
    Tool.run("mcopy -i " + at + " " + home + "/NEW.TXT ::/NEW.TXT");
    try (FileMedium m = FileMedium.open(file)) {
      Volume v = Volumes.find(m, 1).volume();
      assertThat(v.check()).isEmpty();
      assertThat(content(m)).containsKey("NEW.TXT").hasSize(files.size() + 1);
      assertThat(content(m).get("NEW.TXT")).isEqualTo(Samples.content(5, 70_000));
    }
    // A view that lies elsewhere is told.
    root[0x1F6] ^= 4;
    image.write(0, 1, root, 0);
    assertThat(Surveyor.survey(image).allFindings()).anyMatch(f -> f.rule().equals("P-23"));
  }

  /** At the edge of the binding peg: one sector less, exactly, one more. */
  @ParameterizedTest
  @MethodSource("ways")
  void atTheEdgeOfTheLowestPegNothingLiesPastIt(Way w) {
    Survey desk = brought(files(w));
    long edge = plan(w, 10_000_000_000L, desk, false).binding().sectors();
    for (long card : List.of(edge - 1, edge, edge + 1)) {
      Plan p = plan(w, card, desk, false);
      assertThat(p.buildable()).as(card + ": " + p.verdicts().get(0).text()).isTrue();
      assertThat(p.reach()).isLessThanOrEqualTo(Math.min(edge, card));
      long end = p.volumes().stream().mapToLong(Plan.PlannedVolume::end).max().orElse(0);
      assertThat(end).isLessThanOrEqualTo(p.reach());
      assertThat(p.imageSectors()).isLessThanOrEqualTo(card);
      assertThat(p.binding().sectors()).isEqualTo(Math.min(edge, card));
    }
  }

  /** More volumes than a root sector or a table has entries: the others stand in its chain. */
  @ParameterizedTest
  @CsvSource({
    "m68k-ahdi, dma, ahdi-2, MACHINE", "m68k-ahdi, dma, ahdi-2, FLASH",
    "m68k-ahdi, dma, ahdi-shared, MACHINE", "m68k-rdb, ata-2, rdb-2, FLASH",
  })
  void sevenVolumesAreBuiltAndReadBack(
      String machine, String firmware, String system, School school) {
    List<PlanRequest.Wish> wishes = new ArrayList<>();
    for (int i = 1; i <= 7; i++) wishes.add(new PlanRequest.Wish("V" + i, i * 40_000L, 0, -1));
    Survey none = new Survey(0, Optional.empty(), List.of(), List.of(), List.of());
    Plan p =
        Planner.plan(
            Profiles.get(machine),
            new PlanRequest(
                machine,
                firmware,
                system,
                new Card("card", 300_000 * 512L, 300_000),
                List.of(),
                Strategy.REBUILD,
                school,
                wishes,
                false,
                List.of()),
            none);
    assertThat(p.buildable()).as("" + p.verdicts()).isTrue();
    Medium image = build(Recipe.of(p, none, "", List.of()), Optional.empty(), p);
    Survey s = Surveyor.survey(image);
    assertThat(s.volumes()).hasSize(7).allMatch(Survey.Found::readable);
    for (int i = 0; i < 7; i++) {
      assertThat(s.volumes().get(i).start()).isEqualTo(p.volumes().get(i).start());
      assertThat(s.volumes().get(i).length()).isEqualTo(p.volumes().get(i).length());
    }
  }

  private List<Recipe.FileFrom> kept(Map<String, byte[]> files) {
    List<Recipe.FileFrom> out = new ArrayList<>();
    files.forEach((p, b) -> out.add(new Recipe.FileFrom(p, b.length, stock.put(b), "")));
    return out;
  }

  /** A desktop writes small letters; a machine that keeps none has them in capitals (F-7). */
  @ParameterizedTest
  @CsvSource({"m68k-ahdi, dma, ahdi-2, 60000", "z80-cpm-card, rom, cpm-22, 8000"})
  void smallLettersOfADesktopBecomeCapitals(String machine, String rom, String system, long card) {
    Map<String, byte[]> files = Map.of("heron.fnt", new byte[700], "Read.me", new byte[9]);
    Survey desk = brought(files);
    Plan p = plan(new Way(machine, rom, system, card, ""), card, desk, false);
    assertThat(p.verdicts()).anyMatch(v -> v.text().equals("Every name can stand, in capitals."));
    Medium image = build(Recipe.of(p, desk, "", kept(files)), Optional.empty(), p);
    assertThat(content(image).keySet()).containsExactlyInAnyOrder("HERON.FNT", "READ.ME");
  }

  @Test
  void anOwnBootBlockIsLaidDownWithItsSumWhereTheOldOneIsNotKept() {
    Way w = ways().get(0);
    Map<String, byte[]> files = files(w);
    Survey desk = brought(files);
    Plan fresh = plan(w, w.fitting(), desk, false);
    Medium first = build(Recipe.of(fresh, desk, "", kept(files)), Optional.empty(), fresh);
    Survey old = Surveyor.survey(first);
    Plan p = plan(w, w.fitting(), old, false);
    assertThat(p.verdicts()).noneMatch(v -> v.rule().equals("B-9"));
    Recipe r = Recipe.of(p, old, "", List.of());
    Medium image = build(r, Optional.of(first), p);
    Proof proof = Proof.of(r, Optional.of(first), image, p.reach(), Progress.NONE);
    assertThat(proof.boot().links())
        .anyMatch(l -> l.evidence().equals("DOS, code, and a checksum that is right"));
    assertThat(proof.start().sentence()).contains("all 6 links hold");
  }

  /** A drive whose root sector and boot sector are executed, with a driver in its root. */
  private static Medium withDriver() {
    MemoryMedium m = new MemoryMedium(60_000);
    byte[] code = new byte[512];
    code[0] = 0x60;
    code[1] = 0x38;
    code[0x40] = 0x4E;
    int sum = 0;
    for (int i = 0; i < 510; i += 2) sum += Bytes.be16(code, i);
    Bytes.putBe16(code, 510, 0x1234 - sum);
    FileSet files = new FileSet();
    Samples.file(files, "DRIVER.SYS", 0x20, Samples.content(1, 5000));
    Maker maker = Catalogue.maker("FAT16");
    Maker.Wish wish =
        Samples.wish("FAT16", 59_968, 0, new Geometry(1, 1, 32), 32, "MILL", 7).of(1024, true);
    Medium slice = new SliceMedium(m, 32, 59_968);
    maker.write(maker.layout(wish), files, slice, code, (p, n) -> {});
    TableMaker.Slot slot = new TableMaker.Slot(32, 59_968, "BGM", true, false, 0);
    TableMaker tables = Catalogue.table("AHDI").maker().orElseThrow();
    tables.write(m, new Geometry(1, 1, 32), code, 0, List.of(slot));
    return m;
  }

  /** P-22: the driver starts the new card where its code comes over, and only there. */
  @ParameterizedTest
  @CsvSource({
    "ahdi-2, true, STANDS",
    "ahdi-2, false, NOT_MEANT",
    "ahdi-shared, true, NOT_MEANT",
    "ahdi-both, true, NOT_MEANT"
  })
  void aDriverComesAlongOnlyWithItsCode(String system, boolean keep, Start.Kind start) {
    Medium old = withDriver();
    Survey survey = Surveyor.survey(old);
    assertThat(survey.volumes().get(0).systemFiles()).containsExactly("DRIVER.SYS");
    Way w = new Way("m68k-ahdi", "dma", system, 60_000, "");
    Plan p = plan(w, 120_000, survey, keep);
    Recipe r = Recipe.of(p, survey, "", List.of());
    Medium image = build(r, Optional.of(old), p);
    Proof proof = Proof.of(r, Optional.of(old), image, p.reach(), Progress.NONE);
    assertThat(proof.start().kind()).isEqualTo(start);
    boolean comes = start == Start.Kind.STANDS;
    assertThat(p.verdicts())
        .anyMatch(v -> v.rule().equals("P-22") && v.text().contains("comes along") == comes);
    if (!comes) assertThat(image.sector(0)[0x40]).isZero();
  }

  /** W-9: a rebuild that cannot keep its promise stops in the plan and not in the build. */
  @Test
  void aSourceThatDoesNotComeWholeIsNotRebuilt() {
    MemoryMedium m = Samples.drive(new Geometry(240, 8, 32));
    Survey whole = Surveyor.survey(m);
    long start = whole.volumes().get(0).start();
    int fat = Bytes.u16(m.sector(start), 0x16);
    // Every link of the first sector leads to a free cluster, in both copies.
    for (long at : new long[] {start + 1, start + 1 + fat}) {
      byte[] b = m.sector(at);
      for (int i = 4; i < 512; i += 2) {
        int next = Bytes.u16(b, i);
        if (next > 1 && next < 0xFFF0) Bytes.put16(b, i, 0);
      }
      m.write(at, 1, b, 0);
    }
    Survey cut = Surveyor.survey(m);
    assertThat(cut.volumes().get(0).notWhole()).isPositive();
    Way pc = new Way("controller-pc", "", "dos-5", 0, "");
    assertThat(plan(pc, 500_000, whole, true).buildable()).isTrue();
    Plan p = plan(pc, 500_000, cut, true);
    assertThat(p.buildable()).isFalse();
    assertThat(p.verdicts().get(0).text()).contains("not come whole").contains("clone");
  }

  /** The table's codes and the boot blocks' figures are one fact in two rooms that may not meet. */
  @Test
  void everyKindHasTheDosTypeThatItsBootBlockSays() {
    TableMaker tables = Catalogue.table("RDB").maker().orElseThrow();
    List<String> kinds = Catalogue.filesystem("FFS").kinds();
    for (int i = 0; i < kinds.size(); i++) {
      MemoryMedium m = new MemoryMedium(1760);
      Maker maker = Catalogue.maker(kinds.get(i));
      Maker.Wish wish = Samples.wish(kinds.get(i), 1760, 0, new Geometry(1, 1, 1), 0, "A", 0);
      maker.write(maker.layout(wish), new FileSet(), m, new byte[0], (p, n) -> {});
      assertThat(tables.type(kinds.get(i), 1760, false)).isEqualTo("DOS\\" + m.sector(0)[3]);
    }
  }
}
