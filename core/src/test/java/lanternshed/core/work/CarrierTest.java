package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import lanternshed.core.Tool;
import lanternshed.core.family.CarrierCheck;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Profiles;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.plan.Plan;
import lanternshed.core.plan.PlanRequest;
import lanternshed.core.plan.PlanRequest.Carried;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.plan.Planner;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** P-32: a card whose files are drives; planned, built, proved, and read by other tools. */
class CarrierTest {
  private static final Survey NOTHING =
      new Survey(0, Optional.empty(), List.of(), List.of(), List.of());
  private static final Card CARD = new Card("card", 0, 2_000_000);
  private static final long GIB_4 = 4L << 30;

  @TempDir private Path folder;

  private static Plan plan(String machine, String system, Card card, List<Carried> carried) {
    return Planner.plan(
        Profiles.get(machine),
        new PlanRequest(
            machine,
            "",
            system,
            card,
            List.of(),
            Strategy.CARRY,
            PlanRequest.School.MACHINE,
            List.of(),
            false,
            carried),
        NOTHING);
  }

  private static String first(Plan p) {
    return p.verdicts().get(0).text();
  }

  @ParameterizedTest
  @CsvSource({"carrier-fat32, FAT32, 0C", "carrier-exfat, exFAT, 07"})
  void aCarrierIsBuiltAndOtherToolsReadTheSameBytes(String system, String kind, String type)
      throws Exception {
    MemoryStock shelf = new MemoryStock();
    List<Carried> drives =
        List.of(
            shelf.add("sounds", 3_000_320, -1),
            shelf.add("empty", 0, -1),
            shelf.add("tour", 70_656, 4));
    Plan p = plan("scsi-sampler", system, CARD, drives);
    assertThat(p.buildable()).as(first(p)).isTrue();
    Plan.PlannedVolume v = p.volumes().get(0);
    assertThat(v.kind()).isEqualTo(kind);
    assertThat(v.type()).isEqualTo(type);
    assertThat(v.start() % 8192).isZero();
    assertThat(v.files())
        .extracting(Plan.CarriedFile::name)
        .containsExactly("DRIVE0.IMG", "DRIVE1.IMG", "DRIVE4.IMG");
    Recipe r = Recipe.parse(Recipe.of(p, NOTHING, "", List.of()).toJson());
    Path card = folder.resolve("card.img");
    Path volume = folder.resolve("volume.img");
    try (FileMedium m = FileMedium.create(card, r.sectors())) {
      ImageBuilder.build(r, Optional.empty(), shelf, m, Progress.NONE);
      Proof proof = Proof.of(r, Optional.empty(), m, p.reach(), Progress.NONE);
      assertThat(proof.proved()).as("%s", proof).isTrue();
      assertThat(proof.files()).isEqualTo(3);
      Volume made = Volumes.find(m, 1).volume();
      for (Node n : made.all()) assertThat(made.sectorsOf(n).size()).isLessThan(2);
      Proof other = Proof.of(renamed(r), Optional.empty(), m, p.reach(), Progress.NONE);
      assertThat(other.proved()).isFalse();
      assertThat(other.differing())
          .containsExactlyInAnyOrder("DRIVE0.IMX", "DRIVE0.IMG, which the recipe has not");
    }
    Path straight = folder.resolve("straight.img");
    try (FileMedium m = FileMedium.create(straight, r.sectors())) {
      long[] last = new long[2];
      Progress progress =
          (phase, done, total) -> {
            assertThat(phase).startsWith("writing the files of");
            assertThat(done).isBetween(last[0], total);
            last[0] = done;
            last[1] = total;
          };
      ImageBuilder.build(r, Optional.empty(), files(shelf), m, progress);
      assertThat(last).as("how far it was at the end").containsOnly(3_000_320 + 70_656);
    }
    assertThat(Files.mismatch(straight, card)).as("copied by the kernel").isEqualTo(-1);
    Tool.run("dd if=" + card + " of=" + volume + " bs=4M skip=1 conv=sparse status=none");
    if (kind.equals("FAT32")) {
      assertThat(Tool.run("fsck.fat -n " + volume)).doesNotContain("differ");
      for (Carried c : drives.subList(0, 1)) {
        Path out = folder.resolve("out");
        Tool.run("mcopy -n -i " + volume + " ::DRIVE0.IMG " + out);
        assertThat(Files.readAllBytes(out)).isEqualTo(shelf.images.get(c.sha256()));
      }
    } else {
      assertThat(Tool.run("fsck.exfat -n " + volume)).contains("clean");
    }
  }

  /** The same contents as files of this computer. */
  private Stock files(MemoryStock shelf) {
    return sha256 ->
        shelf
            .find(sha256)
            .map(
                held -> {
                  try {
                    byte[] b = held.head((int) held.bytes());
                    return new FileContent(Files.write(folder.resolve(sha256), b));
                  } catch (IOException e) {
                    throw new UncheckedIOException(e);
                  }
                });
  }

  @Test
  void aSetOfFloppiesGoesOnWithTheListThatNumbersThem() throws Exception {
    MemoryStock shelf = new MemoryStock();
    List<Carried> disks =
        List.of(shelf.add("Patterns, spring", 737_280, 7), shelf.add("Patterns", 1_474_560, -1));
    Plan p = plan("floppy-instrument", "", CARD, disks);
    assertThat(p.buildable()).as(first(p)).isTrue();
    assertThat(p.verdicts()).anyMatch(v -> v.text().startsWith("2 disks are files in one piece"));
    Recipe r = RecipeText.read(Recipe.of(p, NOTHING, "", List.of()).toJson());
    MemoryMedium m = new MemoryMedium(r.sectors());
    ImageBuilder.build(r, Optional.empty(), shelf, m, Progress.NONE);
    assertThat(Proof.of(r, Optional.empty(), m, p.reach(), Progress.NONE).proved()).isTrue();
    Volume made = Volumes.find(m, 1).volume();
    assertThat(CarrierCheck.of(Profiles.get("floppy-instrument").carrier(), made)).isEmpty();
    ByteArrayOutputStream list = new ByteArrayOutputStream();
    Node slots =
        made.all().stream().filter(n -> n.path().equals("SLOTS.TXT")).findFirst().orElseThrow();
    made.read(slots, list::write);
    assertThat(list.toString())
        .containsSubsequence("000 DISK000.IMG Patterns\r", "007 DISK007.IMG Patterns, spring\r");
    // A text that is not the one of its digest is no recipe.
    assertThatThrownBy(
            () -> ImageBuilder.examine(Recipe.parse(r.toJson().replace("spring", "summer")), ""))
        .hasMessageContaining("has a text SLOTS.TXT");
  }

  private static Recipe renamed(Recipe r) {
    return Recipe.parse(r.toJson().replace("DRIVE0.IMG", "DRIVE0.IMX"));
  }

  @Test
  void exactlyFourGibIsOneByteTooLongForFat32() {
    Card large = new Card("card", 0, 62_000_000);
    String sha = "ab".repeat(32);
    for (long bytes : new long[] {GIB_4 - 512, GIB_4}) {
      List<Carried> c = List.of(new Carried("big", sha, bytes, 0));
      Plan fat = plan("scsi-8bit-unit", "carrier-fat32", large, c);
      assertThat(fat.buildable()).as("" + bytes).isEqualTo(bytes < GIB_4);
      if (!fat.buildable()) assertThat(first(fat)).contains("too long for a file of FAT32");
      assertThat(plan("scsi-8bit-unit", "carrier-exfat", large, c).buildable()).isTrue();
    }
  }

  @Test
  void whatCannotBeCarriedStopsThePlanWithItsReason() {
    String sha = "cd".repeat(32);
    String machine = "scsi-sampler";
    List<Carried> twice = List.of(new Carried("a", sha, 512, 3), new Carried("b", sha, 512, 3));
    assertThat(first(plan(machine, "", CARD, twice))).contains("have one id, 3");
    List<Carried> odd = List.of(new Carried("a", sha, 700, 3));
    assertThat(first(plan(machine, "", CARD, odd))).contains("188 B into a block of 512");
    List<Carried> foreign = List.of(new Carried("a", sha, 512, 9));
    assertThat(first(plan(machine, "", CARD, foreign))).contains("no id that the emulator knows");
    List<Carried> large = List.of(new Carried("a", sha, 1_073_741_824L, 3));
    assertThat(first(plan(machine, "", CARD, large))).contains("take a larger card");
    assertThat(plan(machine, "", CARD, List.of()).verdicts())
        .anyMatch(v -> v.text().contains("No drive is on the carrier yet"));
  }

  /** Any card of at least 1 MiB gets an answer in a sentence, never an exception. */
  @Test
  void aCardTooSmallForACarrierIsSaid() {
    for (long sectors : new long[] {2048, 8191, 8192, 8193, 16_384, 20_000, 60_000}) {
      Card small = new Card("small", 0, sectors);
      for (String system : List.of("carrier-fat32", "carrier-exfat")) {
        Plan p = plan("scsi-sampler", system, small, List.of());
        assertThat(first(p)).as(sectors + system).isNotBlank();
        if (sectors < 16_384) assertThat(p.buildable()).as(sectors + system).isFalse();
      }
    }
  }

  @Test
  void contentThatIsNotWhatItsDigestSaysIsRefusedAndNothingIsProved() {
    MemoryStock shelf = new MemoryStock();
    Carried c = shelf.add("sounds", 51_200, -1);
    Plan p = plan("scsi-sampler", "", CARD, List.of(c));
    Recipe r = Recipe.of(p, NOTHING, "", List.of());
    try (FileMedium m = FileMedium.create(folder.resolve("a.img"), r.sectors())) {
      assertThatThrownBy(
              () -> ImageBuilder.build(r, Optional.empty(), Stock.EMPTY, m, Progress.NONE))
          .isInstanceOf(ShedException.class)
          .hasMessageContaining("DRIVE0.IMG is not on the shelf any more");
    }
    shelf.images.get(c.sha256())[100] ^= 1;
    try (FileMedium m = FileMedium.create(folder.resolve("b.img"), r.sectors())) {
      ImageBuilder.build(r, Optional.empty(), shelf, m, Progress.NONE);
      Proof proof = Proof.of(r, Optional.empty(), m, p.reach(), Progress.NONE);
      assertThat(proof.proved()).isFalse();
      assertThat(proof.differing()).containsExactly("DRIVE0.IMG");
    }
    shelf.images.put(c.sha256(), new byte[512]);
    try (FileMedium m = FileMedium.create(folder.resolve("c.img"), r.sectors())) {
      assertThatThrownBy(() -> ImageBuilder.build(r, Optional.empty(), shelf, m, Progress.NONE))
          .hasMessageContaining("not what its digest says");
    }
  }

  /** P-33: the sheet of a unit that counts 256-byte blocks in steps, at the edge of a partition. */
  @ParameterizedTest
  @CsvSource({
    "65280, 65280",
    "65279, 65024",
    "65281, 65280",
    "65536, 65280|256",
    "130560, 65280|65280"
  })
  void aBlockPartitionedUnitsSheetSaysTheBlocksOfEachPartition(int blocks, String typed) {
    Carried drive = new Carried("drive", "0".repeat(64), blocks * 256L, 0);
    Plan p = plan("scsi-8bit-unit", "carrier-fat32", CARD, List.of(drive));
    assertThat(p.steps())
        .filteredOn(s -> s.text().contains("partition"))
        .filteredOn(s -> !s.value().isEmpty())
        .extracting(s -> s.value())
        .containsExactly(typed.split("\\|"));
  }
}
