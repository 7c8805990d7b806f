package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import lanternshed.core.Samples;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.table.DiskRow;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.work.RowEdit.Change;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** F-16: what no change names stays as it is, to the byte. */
class RowEditTest {
  private static final String KIND = "two-sector catalogue";
  private static final int PLACES = 12;
  private final DiskRow row = Catalogue.newRow();

  private static Medium disk(int number) {
    MemoryMedium m = new MemoryMedium(400);
    FileSet files = new FileSet();
    Samples.file(files, "PIECE" + number, 0x20, Samples.content(number, 3000 + number));
    Maker maker = Catalogue.maker(KIND);
    Geometry g = new Geometry(80, 1, 5);
    Maker.Wish wish = Samples.wish(KIND, 400, 0, g, 0, "Quilt " + number, 0);
    maker.write(maker.layout(wish), files, m, new byte[0], (p, n) -> {});
    return m;
  }

  private Medium changed(Medium from, Change... changes) {
    MemoryMedium copy = new MemoryMedium(from.sectors());
    RowEdit.make(from, List.of(changes), copy, Progress.NONE);
    return copy;
  }

  /** Twelve places, of which 0 to 9 hold a disk; 4 is locked. */
  private Medium library() {
    MemoryMedium m = new MemoryMedium(row.sectors(PLACES));
    RowEdit.blank(row, m);
    List<Change> changes = new ArrayList<>();
    for (int i = 0; i < 10; i++) changes.add(new Change.Put(i, "Title " + i, disk(i)));
    changes.add(new Change.Lock(4, true));
    return changed(m, changes.toArray(Change[]::new));
  }

  private byte[] bytes(Medium m, int place) {
    return m.sectors(row.start(place), 400);
  }

  @Test
  void itIsReadAsATableOfDisks() {
    Opener.Opened o = Opener.open(library());
    assertThat(o.table().orElseThrow().scheme().name()).isEqualTo("library");
    assertThat(o.parts()).hasSize(10);
    assertThat(o.parts().get(7).found().orElseThrow().label()).isEqualTo("Quilt 7");
    assertThat(o.parts().get(4).entry().typeName()).isEqualTo("locked disk");
    assertThat(o.parts().get(4).entry().name()).isEqualTo("disk 4");
    assertThat(Surveyor.survey(library()).allFindings())
        .singleElement()
        .satisfies(f -> assertThat(f.what()).isEqualTo("2 places hold no disk yet."));
  }

  /** The header by its published places: sixteen bytes an entry, title first, flag last. */
  @Test
  void theHeaderIsWhereItIsPublished() {
    byte[] head = library().sectors(0, 16);
    assertThat(new String(head, 16 + 16 * 3, 7)).isEqualTo("Title 3");
    assertThat(head[16 + 16 * 3 + 15]).isEqualTo((byte) 0x0F);
    assertThat(head[16 + 16 * 4 + 15]).isZero();
    assertThat(head[16 + 16 * 11 + 15]).isEqualTo((byte) 0xF0);
    assertThat(head[16 + 16 * 12 + 15]).isEqualTo((byte) 0xFF);
  }

  @Test
  void everyOtherPlaceStaysAsItIs() {
    Medium before = library();
    Medium after =
        changed(
            before,
            new Change.Put(2, "Fresh", disk(77)),
            new Change.Remove(5),
            new Change.Title(6, "A title that is too long"),
            new Change.Lock(4, false));
    for (int i = 0; i < PLACES; i++) {
      if (i == 2) assertThat(bytes(after, i)).isEqualTo(disk(77).sectors(0, 400));
      else if (i == 5) assertThat(bytes(after, i)).containsOnly(0);
      else assertThat(bytes(after, i)).as("place " + i).isEqualTo(bytes(before, i));
      if (!List.of(2, 4, 5, 6).contains(i)) {
        assertThat(row.slot(after, i)).isEqualTo(row.slot(before, i));
      }
    }
    assertThat(row.slot(after, 6).title()).isEqualTo("A title that");
    assertThat(row.slot(after, 4).state()).isEqualTo(DiskRow.State.OPEN);
    assertThat(row.slot(after, 5).state()).isEqualTo(DiskRow.State.BLANK);
  }

  @Test
  void aRandomOrderOfMovesIsThatOfAList() {
    Random r = new Random(3);
    List<Change> moves = new ArrayList<>();
    List<Integer> order = new ArrayList<>();
    for (int i = 0; i < PLACES; i++) order.add(i);
    for (int i = 0; i < 40; i++) {
      Change.Move m = new Change.Move(r.nextInt(PLACES), r.nextInt(PLACES));
      moves.add(m);
      order.add(m.to(), order.remove(m.from()));
    }
    Medium before = library();
    Medium after = changed(before, moves.toArray(Change[]::new));
    for (int i = 0; i < PLACES; i++) {
      assertThat(bytes(after, i)).isEqualTo(bytes(before, order.get(i)));
      assertThat(row.slot(after, i)).isEqualTo(row.slot(before, order.get(i)));
    }
  }

  /** A file of one disk is changed, and no other disk with it. */
  @Test
  void aFileOfADiskIsChangedWhereItStands() {
    Medium before = library();
    MemoryMedium after = new MemoryMedium(before.sectors());
    byte[] text = {1, 2, 3};
    Edit.Change put = new Edit.Change.Put("NEW", 3, 0, s -> s.take(text, 0, 3));
    // The disk that the machine calls 7 is the eighth volume.
    assertThat(Edit.make(before, 8, List.of(put), after, Progress.NONE)).isEqualTo(2);
    for (int i = 0; i < PLACES; i++) {
      if (i == 7) assertThat(bytes(after, i)).isNotEqualTo(bytes(before, i));
      else assertThat(bytes(after, i)).isEqualTo(bytes(before, i));
    }
    assertThat(row.slot(after, 7)).isEqualTo(row.slot(before, 7));
  }

  /** A disk of forty tracks in a place for eighty: zeros behind it, and none of the disk before. */
  @Test
  void aShorterDiskLeavesNothingOfTheOneBefore() {
    Medium after = changed(library(), new Change.Put(3, "Short", new SliceMedium(disk(9), 0, 200)));
    assertThat(after.sectors(row.start(3), 200)).isEqualTo(disk(9).sectors(0, 200));
    assertThat(after.sectors(row.start(3) + 200, 200)).containsOnly(0);
  }

  @Test
  void whatCannotBeIsRefusedInASentence() {
    Medium m = library();
    assertThatThrownBy(() -> changed(m, new Change.Remove(4)))
        .isInstanceOf(ShedException.class)
        .hasMessage("Disk 4 is locked; unlock it first.");
    assertThatThrownBy(() -> changed(m, new Change.Put(4, "x", disk(1))))
        .hasMessageContaining("locked");
    assertThatThrownBy(() -> changed(m, new Change.Put(12, "x", disk(1))))
        .hasMessageContaining("12 places");
    assertThatThrownBy(() -> changed(m, new Change.Put(1, "long", new MemoryMedium(401))))
        .hasMessageContaining("“long”");
    assertThatThrownBy(() -> changed(m, new Change.Title(11, "x"))).hasMessageContaining("no disk");
    assertThatThrownBy(() -> RowEdit.row(disk(1))).hasMessageContaining("no library");
  }

  @ParameterizedTest
  @ValueSource(ints = {0, 1, 2, 3})
  void randomHeadersAreToldOrAreNoLibrary(int seed) {
    Random r = new Random(seed);
    byte[] whole = library().sectors(0, 16);
    List<Integer> flags = List.of(0, 15, 240, 255);
    int read = 0;
    for (int trial = 0; trial < 100; trial++) {
      MemoryMedium m = new MemoryMedium(row.sectors(1 + r.nextInt(3)));
      byte[] head = whole.clone();
      List<Integer> places = new ArrayList<>(List.of(0, 1, 2, 3, 12, 200, 510));
      Collections.shuffle(places, r);
      for (int i = 0; i < 3; i++) {
        int at = 16 + 16 * places.get(i);
        r.nextBytes(head);
        System.arraycopy(whole, 0, head, 0, at);
        System.arraycopy(whole, at + 12, head, at + 12, head.length - at - 12);
        head[at + 15] = (byte) (int) flags.get(r.nextInt(4));
      }
      if (r.nextInt(8) == 0) head[16 + 15 + 16 * r.nextInt(511)] = (byte) r.nextInt(256);
      m.write(0, 16, head, 0);
      Opener.Opened o = Opener.open(m);
      if (o.table().isEmpty()) continue;
      read++;
      assertThat(o.parts()).allMatch(p -> p.slice().isPresent());
      assertThat(o.table().get().reading().findings()).allMatch(f -> !f.what().isBlank());
    }
    assertThat(read).isGreaterThan(50);
    assertThat(Opener.open(new SliceMedium(library(), 0, row.sectors(1) - 1)).table()).isEmpty();
  }
}
