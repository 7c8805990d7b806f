package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.Trials;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.names.NameList;
import lanternshed.core.names.NameRule;
import lanternshed.core.names.Shelving;
import lanternshed.core.names.TextChange;
import lanternshed.core.survey.Volumes;
import lanternshed.core.table.TableMaker;
import lanternshed.core.table.mbr.MbrWriter;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Volume;
import lanternshed.core.work.Crossing.Choices;
import lanternshed.core.work.Crossing.Coming;
import lanternshed.core.work.Crossing.Crossed;
import lanternshed.core.work.Crossing.Row;
import lanternshed.core.work.Crossing.State;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files that one volume of an image cannot take go on to the next, as it is said before. */
@Tag("trial")
class SeveralVolumesTest {
  private static final Geometry G = new Geometry(200, 4, 32);
  private static final int TURNS = Trials.turns(15, 600);
  private static final int[] NUMBERS = {1, 2, 3};

  @TempDir private Path home;
  private final Map<String, byte[]> contents = new HashMap<>();
  private final Stock stock = sha -> Optional.ofNullable(contents.get(sha)).map(Stock::held);

  /**
   * Three volumes of unlike units: 512, 1024 and 2048 bytes.
   *
   * @param there files of each before
   */
  private static MemoryMedium disk(FileSet... there) {
    long[] starts = {32, 1632, 4832};
    long[] lengths = {1600, 3200, 6400};
    MemoryMedium m = new MemoryMedium(G.total());
    List<TableMaker.Slot> slots = new ArrayList<>();
    Maker maker = Catalogue.maker("FAT12");
    for (int v = 0; v < 3; v++) {
      Maker.Wish wish =
          new Maker.Wish(
              Optional.of("FAT12"), lengths[v], starts[v], 512 << v, 0, G, "V" + v, v, true, 0);
      SliceMedium slice = new SliceMedium(m, starts[v], lengths[v]);
      FileSet files = there.length > v ? there[v] : new FileSet();
      maker.write(maker.layout(wish), files, slice, new byte[0], (p, n) -> {});
      slots.add(new TableMaker.Slot(starts[v], lengths[v], "01", v == 0, false, 0));
    }
    new MbrWriter().write(m, G, new byte[0], 7, slots);
    return m;
  }

  private static List<Hold> holds(MemoryMedium m) {
    List<Hold> out = new ArrayList<>();
    for (int n : NUMBERS) out.add(Edit.hold(m, n, List.of()));
    return out;
  }

  private Coming file(Random r, String path, int bytes) {
    byte[] b = new byte[bytes];
    r.nextBytes(b);
    String sha = Sha256.of(b);
    contents.put(sha, b);
    return new Coming(path, bytes, Samples.STAMP, sha, Optional.empty(), "");
  }

  private static Choices plain(boolean together) {
    return new Choices(NameRule.of("8.3"), Shelving.AS_IT_IS, 0, together, Map.of(), Set.of());
  }

  private MemoryMedium carried(MemoryMedium from, Crossed c) {
    List<Edit.On> on = new ArrayList<>();
    for (int d = 0; d < NUMBERS.length; d++) {
      on.add(new Edit.On(NUMBERS[d], Crossing.changes(c.on(d), TextChange.NONE, stock)));
    }
    MemoryMedium out = new MemoryMedium(from.sectors());
    Edit.make(from, on, out, Progress.NONE);
    return out;
  }

  @Test
  void whatGoesIsThereByteForByteAndWhatStaysFitsNoneOfThem() throws Exception {
    for (int turn = 0; turn < TURNS; turn++) {
      Random r = new Random(turn);
      contents.clear();
      FileSet there = new FileSet();
      Samples.file(there, "WEFT.PAT", 0x20, new byte[r.nextInt(300_000)]);
      MemoryMedium m = disk(new FileSet(), there);
      List<Coming> files = new ArrayList<>();
      for (int i = r.nextInt(60); i >= 0; i--) {
        String folder = r.nextInt(3) == 0 ? "" : "set " + r.nextInt(5) + "/";
        files.add(
            file(r, folder + "weft " + i + ".pat", r.nextInt(turn % 2 == 0 ? 90_000 : 700_000)));
      }
      List<Hold> holds = holds(m);
      Crossed c = Crossing.onto(holds, files, plain(turn % 3 == 0), SameThere.NONE);
      MemoryMedium made = carried(m, c);
      int over = 0;
      for (int d = 0; d < NUMBERS.length; d++) {
        Volume v = Volumes.at(made, NUMBERS[d]).volume();
        Map<String, String> lies = Samples.digests(v);
        for (Row row : c.on(d)) {
          assertThat(lies).containsEntry(row.to(), row.sha256());
          assertThat(row.units()).isEqualTo(holds.get(d).units(row.bytes()));
        }
        assertThat(lies).hasSize(c.on(d).size() + (d == 1 ? 1 : 0));
        assertThat(v.label()).isEqualTo("V" + d);
        over += c.on(d).size();
      }
      assertThat(c.rows().stream().map(Row::to).filter(t -> !t.isEmpty())).doesNotHaveDuplicates();
      List<Row> stays = c.rows().stream().filter(x -> x.state() == State.STAYS).toList();
      assertThat(over + stays.size()).isEqualTo(files.size());
      Map<String, String> names = new HashMap<>();
      List<String> paths = files.stream().map(Coming::path).toList();
      for (NameList.Named n : Hold.names(holds, NameRule.of("8.3"), paths, Map.of())) {
        names.put(n.from(), n.to());
      }
      for (Row row : stays) {
        for (int d = 0; d < NUMBERS.length; d++) {
          List<Hold.Cargo> all = new ArrayList<>();
          c.on(d).forEach(x -> all.add(new Hold.Cargo(x.to(), x.bytes())));
          all.add(new Hold.Cargo(names.get(row.from()), row.bytes()));
          assertThat(holds.get(d).with(all).fits()).as(turn + " " + row.says()).isFalse();
        }
        assertThat(row.says())
            .matches("[\\d,]+ clusters? too many|its folder needs more than is left");
      }
      if (turn > 5) continue;
      Path image = home.resolve("i" + turn);
      Samples.toFile(made, image);
      Path volume = home.resolve("v" + turn);
      Tool.ask("dd if=" + image + " of=" + volume + " bs=512 skip=1632 count=3200");
      assertThat(Tool.ask("fsck.fat -n " + volume).exit()).as("turn " + turn).isZero();
    }
  }

  @Test
  void aSmallSetThatGoesOverInSomeWayGoesOver() {
    MemoryMedium m = disk();
    List<Hold> holds = holds(m);
    Random r = new Random(8);
    long[] room = holds.stream().mapToLong(h -> bytes(h)).toArray();
    // The largest first would fill the second volume so that its partner stays.
    List<Coming> files = new ArrayList<>();
    for (int v = 0; v < 3; v++) {
      long half = room[v] / 2 - room[v] / 2 % 2048;
      files.add(file(r, "a" + v, (int) half));
      files.add(file(r, "b" + v, (int) (room[v] - half)));
    }
    Crossed c = Crossing.onto(holds, files, plain(false), SameThere.NONE);
    assertThat(c.rows()).noneMatch(x -> x.state() == State.STAYS);
    for (int d = 0; d < 3; d++)
      assertThat(c.fits().get(d).needed()).isEqualTo(c.fits().get(d).there());
    carried(m, c);
    // One that no volume takes stays, and hinders none of the others.
    files.add(file(r, "huge", 8_000_000));
    Crossed more = Crossing.onto(holds, files, plain(false), SameThere.NONE);
    assertThat(more.rows().stream().filter(x -> x.state() == State.STAYS).map(Row::from))
        .containsExactly("huge");
  }

  private static long bytes(Hold h) {
    Maker.Fit fit = h.with(List.of());
    return (fit.there() - fit.needed()) * h.layout().clusterBytes();
  }

  @Test
  void aFolderStaysOnOneVolumeWhereItIsAskedUntilNoneTakesItWhole() {
    List<Hold> holds = holds(disk());
    Random r = new Random(2);
    List<Coming> files = new ArrayList<>();
    for (int i = 0; i < 4; i++) {
      for (int n = 0; n < 8; n++) files.add(file(r, "F" + i + "/" + n, 60_000));
    }
    for (int n = 0; n < 90; n++) files.add(file(r, "BIG/" + n, 40_000));
    Crossed c = Crossing.onto(holds, files, plain(true), SameThere.NONE);
    for (int i = 0; i < 4; i++) {
      String folder = "F" + i + "/";
      assertThat(
              c.rows().stream().filter(x -> x.from().startsWith(folder)).map(Row::disk).distinct())
          .as(folder)
          .hasSize(1);
    }
    assertThat(c.rows().stream().filter(x -> x.from().startsWith("BIG/")).map(Row::disk).distinct())
        .hasSizeGreaterThan(1);
  }

  /** One list of names for all of them: what lies on any takes the name. */
  @Test
  void aNameIsTakenByWhatLiesOnAnyOfThem() {
    FileSet first = new FileSet();
    Samples.file(first, "LOOM", 0x20, new byte[10]);
    FileSet second = new FileSet();
    second.folder("LOOM", 0, 0);
    Samples.file(second, "LOOM/HERON.PAT", 0x20, new byte[10]);
    MemoryMedium m = disk(first, second);
    Random r = new Random(1);
    List<Coming> files = List.of(file(r, "LOOM/heron.pat", 10), file(r, "Reed.pat", 700_000));
    SameThere same = SameThere.NONE;
    for (Hold h : holds(m)) same = same.or(new SameThere(h.there(), p -> true, SameThere::digest));
    Crossed c = Crossing.onto(holds(m), files, plain(false), same);
    assertThat(c.rows()).extracting(Row::to).containsExactly("LOOM~1/HERON.PAT", "REED.PAT");
    MemoryMedium made = carried(m, c);
    assertThat(Samples.digests(Volumes.at(made, 1).volume())).containsKey("LOOM~1/HERON.PAT");
    List<Coming> again =
        List.of(new Coming("x", 10, 0, Tool.sha256(new byte[10]), Optional.empty(), ""));
    assertThat(Crossing.onto(holds(m), again, plain(false), same).rows().get(0).twin())
        .isEqualTo("LOOM, which is there");
  }

  @Test
  void volumesThatLieUponEachOtherAreNotChangedTogether() {
    MemoryMedium m = disk();
    byte[] table = m.sector(0);
    table[446 + 16 + 8] = 40;
    table[446 + 16 + 9] = 0;
    // The second entry begins within the first, at a boot record of its own.
    byte[] boot = m.sector(1632);
    m.write(40, 1, boot, 0);
    m.write(0, 1, table, 0);
    MemoryMedium out = new MemoryMedium(m.sectors());
    List<Edit.On> both = List.of(new Edit.On(1, List.of()), new Edit.On(2, List.of()));
    assertThatThrownBy(() -> Edit.make(m, both, out, Progress.NONE))
        .isInstanceOf(ShedException.class);
  }
}
