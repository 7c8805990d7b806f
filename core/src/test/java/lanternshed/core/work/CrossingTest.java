package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import lanternshed.core.Trials;
import lanternshed.core.catalogue.BlankDisk;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.names.NameRule;
import lanternshed.core.names.Shelving;
import lanternshed.core.names.TextChange;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.work.Crossing.Choices;
import lanternshed.core.work.Crossing.Coming;
import lanternshed.core.work.Crossing.Crossed;
import lanternshed.core.work.Crossing.Row;
import lanternshed.core.work.Crossing.State;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Files over to volumes and sets of disks, out again, and their names undone. */
@Tag("trial")
class CrossingTest {
  /** 500 for the long trial that the notes give; fewer each day. */
  private static final int TREES = Trials.turns(10, 200);

  private static final String LETTERS = "aäB z9.-_~+,%é中";

  private final Map<String, byte[]> contents = new HashMap<>();

  private final Stock stock = sha -> Optional.ofNullable(contents.get(sha)).map(Stock::held);

  private Coming file(String path, byte[] bytes) {
    String sha = Sha256.of(bytes);
    contents.put(sha, bytes);
    return new Coming(path, bytes.length, 0x1C61_5000, sha, Optional.empty(), "");
  }

  private static byte[] noise(Random r, int most) {
    byte[] b = new byte[r.nextInt(most)];
    r.nextBytes(b);
    return b;
  }

  private List<Coming> tree(Random r, int files, int most) {
    contents.clear();
    List<String> folders = new ArrayList<>(List.of(""));
    for (int i = r.nextInt(4); i > 0; i--) {
      folders.add(folders.get(r.nextInt(folders.size())) + name(r) + "/");
    }
    Set<String> paths = new HashSet<>();
    for (int i = 0; i < files; i++) paths.add(folders.get(r.nextInt(folders.size())) + name(r));
    paths.removeIf(p -> folders.contains(p + "/"));
    return paths.stream().sorted().map(p -> file(p, noise(r, most))).toList();
  }

  private static String name(Random r) {
    StringBuilder out = new StringBuilder("x");
    int[] all = LETTERS.codePoints().toArray();
    for (int n = r.nextInt(12); n > 0; n--) out.appendCodePoint(all[r.nextInt(all.length)]);
    return out.append(r.nextInt(100)).toString();
  }

  private static Choices plain(NameRule rule) {
    return new Choices(rule, Shelving.AS_IT_IS, 0, false, Map.of(), Set.of());
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "360K",
        "1.44M",
        "90-linked",
        "100-two",
        "200-two",
        "170-map",
        "880-ofs",
        "880-ffs"
      })
  void whatGoesOverASetOfDisksComesOutAgainUnderItsOldName(String key) {
    BlankDisk disk = BlankDisk.of(key);
    for (NameRule rule : Catalogue.filesystem(disk.kind()).names()) {
      for (int seed = 0; seed < TREES; seed++) {
        Random r = new Random(seed);
        List<Coming> files = tree(r, 1 + r.nextInt(30), 20_000);
        Crossed c = Crossing.over(Crossing.empty(disk), files, plain(rule));
        assertThat(c.rows())
            .extracting(Row::from)
            .containsExactlyElementsOf(files.stream().map(Coming::path).toList());
        assertThat(c.rows()).noneMatch(x -> x.state() == State.STAYS);
        assertThat(c.least()).isBetween(1, c.fits().size());
        Map<String, String> out = new HashMap<>();
        for (int d = 0; d < c.fits().size(); d++) out.putAll(carried(disk, c.on(d)));
        assertThat(out).hasSize(files.size());
        for (Coming f : files) assertThat(out).containsEntry(f.path(), f.sha256());
      }
    }
  }

  /** Digests by old path of what really lies on a disk after its rows went over. */
  private Map<String, String> carried(BlankDisk disk, List<Row> rows) {
    MemoryMedium made = new MemoryMedium(disk.sectors());
    Edit.make(
        Crossing.blank(disk, "SET"),
        0,
        Crossing.changes(rows, TextChange.NONE, stock),
        made,
        Progress.NONE);
    Volume v = Volumes.at(made, 0).volume();
    Map<String, Node> there = new HashMap<>();
    for (Node n : v.all()) if (!n.folder()) there.put(n.path(), n);
    assertThat(there.keySet())
        .containsExactlyInAnyOrderElementsOf(rows.stream().map(Row::to).toList());
    Map<String, String> out = new HashMap<>();
    for (Row row : rows) {
      Node n = there.get(row.to());
      if (v.keepsTimes()) assertThat(n.stamp()).isEqualTo(row.stamp());
      ByteArrayOutputStream b = new ByteArrayOutputStream();
      v.read(n, b::write);
      out.put(row.from(), Sha256.of(b.toByteArray()));
    }
    return out;
  }

  @ParameterizedTest
  @ValueSource(strings = {"360K", "90-linked", "100-two", "170-map", "880-ffs"})
  void whatIsSaidToFitFitsAndWhatStaysWouldNot(String key) {
    BlankDisk disk = BlankDisk.of(key);
    NameRule rule = Catalogue.filesystem(disk.kind()).names().get(0);
    for (int seed = 0; seed < TREES; seed++) {
      Random r = new Random(seed);
      List<Coming> files = tree(r, 20 + r.nextInt(120), 2 + r.nextInt(60_000));
      Hold hold = Crossing.empty(disk);
      Crossed c = Crossing.onto(hold, files, plain(rule));
      List<Hold.Cargo> aboard =
          c.on(0).stream().map(x -> new Hold.Cargo(x.to(), x.bytes())).toList();
      assertThat(hold.with(aboard).fits()).isTrue();
      MemoryMedium made = new MemoryMedium(disk.sectors());
      if (seed < 5) {
        Edit.make(
            Crossing.blank(disk, ""),
            0,
            Crossing.changes(c.on(0), TextChange.NONE, stock),
            made,
            Progress.NONE);
      }
      Map<String, String> names = new HashMap<>();
      List<String> paths = files.stream().map(Coming::path).toList();
      Hold.names(List.of(hold), rule, paths, Map.of()).forEach(n -> names.put(n.from(), n.to()));
      for (Row row : c.rows()) {
        if (row.state() != State.STAYS) continue;
        List<Hold.Cargo> more = new ArrayList<>(aboard);
        more.add(new Hold.Cargo(names.get(row.from()), row.bytes()));
        assertThat(fits(hold, more)).as(row.from() + " " + row.says()).isFalse();
      }
    }
  }

  private static boolean fits(Hold hold, List<Hold.Cargo> cargo) {
    try {
      return hold.with(cargo).fits();
    } catch (ShedException e) {
      return false;
    }
  }

  @Test
  void filesGoBesideThoseThatAreThereAndTheOriginalStays() {
    BlankDisk disk = BlankDisk.of("720K");
    MemoryMedium first = new MemoryMedium(disk.sectors());
    NameRule rule = NameRule.of("8.3");
    List<Coming> one = List.of(file("Heron pattern.pat", new byte[3000]));
    Crossed c = Crossing.onto(Crossing.empty(disk), one, plain(rule));
    Edit.make(
        Crossing.blank(disk, ""),
        0,
        Crossing.changes(c.rows(), TextChange.NONE, stock),
        first,
        Progress.NONE);
    String before = Sha256.of(first.sectors(0, 1440));

    Choices chosen =
        new Choices(
            rule, Shelving.AS_IT_IS, 0, false, Map.of("b.pat", "OLD/BEES.PAT"), Set.of("c.pat"));
    List<Coming> more =
        List.of(
            file("Heron pattern.pat", new byte[10]),
            file("b.pat", new byte[10]),
            file("c.pat", new byte[10]),
            file("huge.bin", new byte[800_000]));
    Crossed next = Crossing.onto(Edit.hold(first, 0, List.of()), more, chosen);
    assertThat(next.rows())
        .extracting(Row::to)
        .containsExactly("HERONP~1.PAT", "OLD/BEES.PAT", "", "");
    assertThat(next.rows())
        .extracting(Row::state)
        .containsExactly(State.OVER, State.OVER, State.LEFT, State.STAYS);
    assertThat(next.rows().get(1).twin()).isEqualTo("Heron pattern.pat");
    assertThat(next.rows().get(3).says()).matches("\\d+ clusters too many");
    Hold now = Edit.hold(first, 0, List.of());
    byte[] almost = new byte[3000];
    almost[2999] = 1;
    List<Coming> same = List.of(file("copy.pat", new byte[3000]), file("other.pat", almost));
    SameThere there = new SameThere(now.there(), p -> true, SameThere::digest);
    assertThat(Crossing.onto(List.of(now), same, chosen, there).rows())
        .extracting(Row::twin)
        .containsExactly("HERONPAT.PAT, which is there", "");
    SameThere damaged =
        new SameThere(
            now.there(),
            p -> true,
            i -> {
              throw new ShedException("It does not read.");
            });
    assertThat(Crossing.onto(List.of(now), same, chosen, damaged).rows().get(0).twin()).isEmpty();
    SameThere none = new SameThere(now.there(), p -> false, SameThere::digest);
    assertThat(Crossing.onto(List.of(now), same, chosen, none).rows().get(0).twin()).isEmpty();
    MemoryMedium second = new MemoryMedium(disk.sectors());
    Edit.make(
        first, 0, Crossing.changes(next.on(0), TextChange.NONE, stock), second, Progress.NONE);
    assertThat(Volumes.at(second, 0).volume().all())
        .extracting(Node::path)
        .containsExactlyInAnyOrder("HERONPAT.PAT", "HERONP~1.PAT", "OLD", "OLD/BEES.PAT");
    assertThat(Sha256.of(first.sectors(0, 1440))).isEqualTo(before);
  }

  @Test
  void whatIsThereMakesRoomAndWhatComesTakesItsName() {
    BlankDisk disk = BlankDisk.of("360K");
    MemoryMedium first = new MemoryMedium(disk.sectors());
    NameRule rule = NameRule.of("8.3");
    List<Coming> old = List.of(file("a.pat", new byte[300_000]), file("b.pat", new byte[10]));
    Crossed c = Crossing.onto(Crossing.empty(disk), old, plain(rule));
    Edit.make(
        Crossing.blank(disk, ""),
        0,
        Crossing.changes(c.rows(), TextChange.NONE, stock),
        first,
        Progress.NONE);
    List<Coming> more = List.of(file("a.pat", new byte[290_000]));
    assertThat(
            Crossing.onto(Edit.hold(first, 0, List.of()), more, plain(rule)).rows().get(0).state())
        .isEqualTo(State.STAYS);

    List<Edit.Change> changes =
        new ArrayList<>(
            List.of(new Edit.Change.Remove("A.PAT"), new Edit.Change.Move("B.PAT", "OLD/B.PAT")));
    Crossed now = Crossing.onto(Edit.hold(first, 0, changes), more, plain(rule));
    assertThat(now.rows().get(0).to()).isEqualTo("A.PAT");
    changes.addAll(Crossing.changes(now.on(0), TextChange.NONE, stock));
    MemoryMedium second = new MemoryMedium(disk.sectors());
    Edit.make(first, 0, changes, second, Progress.NONE);
    assertThat(Volumes.at(second, 0).volume().all())
        .extracting(Node::path)
        .containsExactlyInAnyOrder("A.PAT", "OLD", "OLD/B.PAT");
    assertThatThrownBy(() -> Edit.hold(first, 0, List.of(new Edit.Change.Remove("NOT.HERE"))))
        .isInstanceOf(ShedException.class);
  }

  @Test
  void aTextIsRewrittenOnItsWayAndItsLengthIsKnownBefore() {
    BlankDisk disk = BlankDisk.of("360K");
    TextChange dos = new TextChange(TextChange.Ends.CRLF, "UTF-8", "850", 0, true);
    byte[] text = "Grün\nzwei\n".getBytes(java.nio.charset.StandardCharsets.UTF_8);
    List<Coming> files = new ArrayList<>();
    for (Coming f : List.of(file("a.txt", text), file("b.bin", new byte[] {0, 1, 2, 3}))) {
      files.add(
          new Coming(
              f.path(),
              f.bytes(),
              f.stamp(),
              f.sha256(),
              Crossing.rewritten(f.sha256(), dos, stock),
              ""));
    }
    Crossed c = Crossing.onto(Crossing.empty(disk), files, plain(NameRule.of("8.3")));
    assertThat(c.rows().get(0).bytes()).isEqualTo(13);
    assertThat(c.rows().get(0).says()).isEqualTo("LF → CR LF, 1A at its end, UTF-8 → 850");
    assertThat(c.rows().get(1).sha256()).isEqualTo(c.rows().get(1).was());
    MemoryMedium made = new MemoryMedium(disk.sectors());
    Edit.make(
        Crossing.blank(disk, ""), 0, Crossing.changes(c.on(0), dos, stock), made, Progress.NONE);
    Volume v = Volumes.at(made, 0).volume();
    ByteArrayOutputStream b = new ByteArrayOutputStream();
    v.read(v.all().get(0), b::write);
    assertThat(Sha256.of(b.toByteArray())).isEqualTo(c.rows().get(0).sha256());
    assertThat(b.toByteArray()).contains(0x81, 0x0D, 0x1A);
  }

  @Test
  void aFolderStaysTogetherWhereItIsAskedAndFitsADisk() {
    List<Coming> files = new ArrayList<>();
    Random r = new Random(3);
    for (int i = 0; i < 6; i++) {
      for (int n = 0; n < 5; n++) files.add(file("F" + i + "/" + n, noise(r, 50_000)));
    }
    Choices together =
        new Choices(NameRule.of("8.3"), Shelving.AS_IT_IS, 0, true, Map.of(), Set.of());
    Crossed c = Crossing.over(Crossing.empty(BlankDisk.of("360K")), files, together);
    for (int i = 0; i < 6; i++) {
      String folder = "F" + i + "/";
      assertThat(
              c.rows().stream().filter(x -> x.from().startsWith(folder)).map(Row::disk).distinct())
          .hasSize(1);
    }
  }

  @Test
  void contentThatIsGoneEndsTheWorkInASentence() {
    BlankDisk disk = BlankDisk.of("720K");
    List<Coming> files =
        List.of(new Coming("a", 3, 0, Sha256.of(new byte[] {1}), Optional.empty(), ""));
    Crossed c = Crossing.over(Crossing.empty(disk), files, plain(NameRule.of("8.3")));
    MemoryMedium made = new MemoryMedium(disk.sectors());
    assertThatThrownBy(
            () ->
                Edit.make(
                    Crossing.blank(disk, ""),
                    0,
                    Crossing.changes(c.rows(), TextChange.NONE, stock),
                    made,
                    Progress.NONE))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("bring it in again");
  }
}
