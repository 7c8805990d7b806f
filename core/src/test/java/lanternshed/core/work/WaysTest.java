package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.boot.Start;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Profiles;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.plan.Plan;
import lanternshed.core.plan.PlanRequest;
import lanternshed.core.plan.PlanRequest.School;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.plan.Planner;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Volume;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Sources of every kind, by every strategy: what plans as buildable is built and proved with all
 * that was promised, and what is not possible stops in the plan.
 */
class WaysTest {
  @TempDir Path home;
  private static final Card CARD = new Card("card", 4_000_000_000L, 7_800_000L);

  private Path files() throws IOException {
    Path tree = Files.createDirectories(home.resolve("tree"));
    Random dice = new Random(6);
    for (int d = 0; d < 3; d++) {
      Path f = Files.createDirectories(tree.resolve("Größere Muster " + d));
      for (int i = 0; i < 12; i++) {
        byte[] b = new byte[dice.nextInt(20_000)];
        dice.nextBytes(b);
        Files.write(f.resolve(i % 2 == 0 ? "P" + i + ".PAT" : "Heron pattern no. " + i), b);
      }
    }
    return tree;
  }

  /** A disk with one volume that a general tool filled. */
  private Path disk(String table, String type, String mkfs) throws IOException {
    Path disk = home.resolve("disk.img");
    Tool.run("rm -f " + disk + "; truncate -s 200M " + disk);
    Tool.run(
        "printf 'label: "
            + table
            + "\\nstart=2048"
            + (type.isEmpty() ? "" : ",type=" + type)
            + "\\n' | sfdisk -q --no-tell-kernel "
            + disk);
    Path volume = home.resolve("volume.img");
    Tool.run("rm -f " + volume + "; truncate -s 150M " + volume + " && " + mkfs + " " + volume);
    if (mkfs.startsWith("mkfs.fat")) {
      Tool.run("LC_ALL=C.UTF-8 mcopy -s -m -i " + volume + " " + files() + "/* ::");
      Tool.run("mattrib +h +r -i " + volume + " '::/Größere Muster 1/P2.PAT' 2>/dev/null || true");
    }
    Tool.run("dd if=" + volume + " of=" + disk + " bs=1M seek=1 conv=notrunc,sparse status=none");
    return disk;
  }

  private static Plan plan(String machine, String system, Strategy s, Survey survey) {
    return Planner.plan(
        Profiles.get(machine),
        new PlanRequest(
            machine, "", system, CARD, List.of(), s, School.MACHINE, List.of(), false, List.of()),
        survey);
  }

  private Proof proved(Path source, Plan p, Survey survey, Path to) {
    Recipe r = Recipe.parse(Recipe.of(p, survey, "ab".repeat(32), List.of()).toJson());
    try (FileMedium from = FileMedium.open(source);
        FileMedium m = FileMedium.create(to, r.sectors())) {
      Optional<Medium> s = Optional.of(from);
      ImageBuilder.build(r, s, Stock.EMPTY, m, Progress.NONE);
      return Proof.of(r, s, m, p.reach(), Progress.NONE);
    }
  }

  private static Map<String, String> digests(Path image) {
    try (FileMedium m = FileMedium.open(image)) {
      Map<String, String> out = new TreeMap<>();
      Volumes.all(m).forEach(o -> out.putAll(Samples.digests(o.volume())));
      return out;
    }
  }

  @Test
  void aFat32DiskOfTheSecondEditionComesOverByAllThreeWaysWithItsLongNames() throws IOException {
    Path source = disk("dos", "c", "mkfs.fat -F 32 -s 1 -n MILL");
    Survey survey;
    try (FileMedium m = FileMedium.open(source)) {
      survey = Surveyor.survey(m);
    }
    Map<String, String> before = digests(source);
    assertThat(before).hasSize(36).containsKey("Größere Muster 1/Heron pattern no. 3");
    for (Strategy s : List.of(Strategy.CLONE, Strategy.GROW, Strategy.REBUILD)) {
      Plan p = plan("pc-late90s", "w95-2", s, survey);
      assertThat(p.buildable()).as(s + ": " + p.verdicts()).isTrue();
      Path to = home.resolve(s + ".img");
      Proof proof = proved(source, p, survey, to);
      assertThat(proof.differing()).isEmpty();
      assertThat(proof.proved()).as(s + ": " + proof).isTrue();
      assertThat(proof.start().kind()).isEqualTo(Start.Kind.NOT_MEANT);
      assertThat(digests(to)).isEqualTo(before);
      if (s == Strategy.CLONE) continue;
      long start = p.volumes().get(0).start();
      Path volume = home.resolve(s + ".vol");
      Tool.run(
          "dd if=" + to + " of=" + volume + " bs=512 skip=" + start + " conv=sparse status=none");
      Tool.run("truncate -s " + p.volumes().get(0).length() * 512 + " " + volume);
      assertThat(Tool.run("fsck.fat -n " + volume + " | grep -v '^fsck.fat\\|clusters$' || true"))
          .isBlank();
    }
  }

  @Test
  void aProofMissesNoLongNameNoTimeAndNoMark() throws IOException {
    Path source = disk("dos", "6", "mkfs.fat -F 16 -s 8");
    Survey survey;
    try (FileMedium m = FileMedium.open(source)) {
      survey = Surveyor.survey(m);
    }
    // Long names come over to a system that does not know them: it shows the short ones.
    Plan p = plan("controller-pc", "dos-5", Strategy.REBUILD, survey);
    Path to = home.resolve("rebuilt.img");
    assertThat(proved(source, p, survey, to).proved()).isTrue();
    assertThat(digests(to)).isEqualTo(digests(source));
    Recipe r = Recipe.of(p, survey, "ab".repeat(32), List.of());
    for (int at : new int[] {-32 + 1, 11, 22}) {
      Path spoiled = home.resolve("spoiled.img");
      Files.copy(to, spoiled, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
      try (FileMedium from = FileMedium.open(source);
          FileMedium m = FileMedium.openWritable(spoiled)) {
        Volumes.Opened o = Volumes.all(m).get(0);
        var folder = o.volume().list(o.volume().root()).get(0);
        long lba = o.start() + o.volume().sectorsOf(folder).get(0)[0];
        spoil(m, lba, at);
        Proof proof = Proof.of(r, Optional.of(from), m, p.reach(), Progress.NONE);
        assertThat(proof.proved()).as("byte " + at).isFalse();
      }
    }
  }

  /** Changes a byte relative to the first short entry that has a long name. */
  private static void spoil(Medium m, long lba, int at) {
    byte[] b = m.sectors(lba, 4);
    for (int e = 64; e < b.length; e += 32) {
      if ((b[e + 11] & 0x3F) == 0x0F || (b[e - 32 + 11] & 0x3F) != 0x0F) continue;
      b[e + at] ^= 2;
      m.write(lba, 4, b, 0);
      return;
    }
    throw new IllegalStateException("no long name");
  }

  @Test
  void anExfatCardIsRebuiltOnFat32AndCannotBeGrown() throws IOException {
    Path source = disk("dos", "7", "true");
    Path card = home.resolve("card.img");
    try (FileMedium from = FileMedium.open(source);
        FileMedium m = FileMedium.create(card, from.sectors())) {
      m.write(0, 1, from.sector(0), 0);
      FileSet b = new FileSet();
      b.folder("Größere Muster", 0, Samples.STAMP);
      for (int i = 0; i < 9; i++) {
        byte[] c = Samples.content(i, 7_000);
        b.file(
            "Größere Muster/Heron no. " + i + ".pattern",
            c.length,
            0x20,
            Samples.STAMP,
            s -> s.take(c, 0, c.length));
      }
      Samples.exfat(
          300_000, 2048, 0, "Mill", b, new lanternshed.core.medium.SliceMedium(m, 2048, 300_000));
    }
    Survey survey;
    try (FileMedium m = FileMedium.open(card)) {
      survey = Surveyor.survey(m);
    }
    assertThat(survey.volumes().get(0).kind()).isEqualTo("exFAT");
    Plan p = plan("pc-late90s", "w95-2", Strategy.REBUILD, survey);
    assertThat(p.buildable()).isTrue();
    Path to = home.resolve("rebuilt.img");
    Proof proof = proved(card, p, survey, to);
    assertThat(proof.proved()).as("" + proof).isTrue();
    assertThat(digests(to)).isEqualTo(digests(card));
    Plan grow = plan("pc-late90s", "w95-2", Strategy.GROW, survey);
    assertThat(grow.buildable()).isFalse();
    assertThat(grow.verdicts().get(0).text()).contains("not possible here");
  }

  @Test
  void whatIsUnknownIsClonedAndProvedByItsSectors() throws IOException {
    for (String table : List.of("dos", "gpt")) {
      Path source = disk(table, "", "head -c 3000000 /dev/urandom >");
      Survey survey;
      try (FileMedium m = FileMedium.open(source)) {
        survey = Surveyor.survey(m);
      }
      Plan p = plan("pc-late90s", "nt", Strategy.CLONE, survey);
      assertThat(p.buildable()).as(table + p.verdicts()).isTrue();
      Path to = home.resolve(table + ".img");
      assertThat(proved(source, p, survey, to).proved()).isTrue();
      assertThat(Files.mismatch(source, to)).isEqualTo(-1);
      assertThat(plan("pc-late90s", "nt", Strategy.GROW, survey).buildable()).isFalse();
    }
  }

  @Test
  void aVolumeIsReadableFromAnyOpening() throws IOException {
    Path source = disk("dos", "c", "mkfs.fat -F 32 -s 1");
    try (FileMedium m = FileMedium.open(source)) {
      Volume one = Volumes.find(m, 1).volume();
      for (var n : one.all()) {
        if (n.folder()) continue;
        Volume fresh = Volumes.find(m, 1).volume();
        assertThat(Samples.bytes(fresh, n)).isEqualTo(Samples.bytes(one, n));
      }
    }
  }
}
