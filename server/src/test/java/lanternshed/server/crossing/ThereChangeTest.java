package lanternshed.server.crossing;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import lanternshed.core.survey.Holes.Hit;
import lanternshed.core.work.Edit.Change;
import lanternshed.server.crossing.CrossingView.ThereChange;
import lanternshed.server.crossing.CrossingView.Verb;
import org.junit.jupiter.api.Test;

/** Changes to what is there name paths as they are, and a damaged file stays known as one. */
class ThereChangeTest {
  private static final ThereChange REMOVE = new ThereChange(Verb.REMOVE, "OLD", "");
  private static final ThereChange OUT = new ThereChange(Verb.MOVE, "OLD/A.PAT", "A.PAT");
  private static final ThereChange FOLDER = new ThereChange(Verb.MOVE, "SET", "SETS/ONE");

  @Test
  void changesAreMadeInAnOrderInWhichEachPathIsStillThere() {
    ThereChange marks = new ThereChange(Verb.MARKS, "OLD/A.PAT", "r");
    ThereChange room = new ThereChange(Verb.REMOVE, "A.PAT", "");
    assertThat(ThereChange.inOrder(List.of(REMOVE, OUT, room, marks)))
        .extracting(ThereChange::change)
        .containsExactly(
            new Change.Set("OLD/A.PAT", Optional.of(1), Optional.empty()),
            new Change.Remove("A.PAT"),
            new Change.Move("OLD/A.PAT", "A.PAT"),
            new Change.Remove("OLD"));
  }

  @Test
  void aFileThatIsHitIsStillHitUnderItsNewName() {
    List<ThereChange> all = List.of(REMOVE, OUT, FOLDER);
    assertThat(ThereChange.after(all, hit("file", "SET/B.PAT")).orElseThrow().path())
        .isEqualTo("SETS/ONE/B.PAT");
    assertThat(ThereChange.after(all, hit("file", "C.PAT")).orElseThrow().path())
        .isEqualTo("C.PAT");
    assertThat(ThereChange.after(all, hit("file", "OLD/A.PAT")).map(Hit::path)).contains("A.PAT");
    assertThat(ThereChange.after(all, hit("file", "OLD/D.PAT"))).isEmpty();
    assertThat(ThereChange.after(all, hit("FAT", ""))).isEqualTo(Optional.empty());
  }

  private static Hit hit(String kind, String path) {
    return new Hit(kind, path, 3, 4096, 77);
  }
}
