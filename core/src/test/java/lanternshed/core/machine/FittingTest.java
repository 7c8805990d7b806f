package lanternshed.core.machine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.stream.Stream;
import lanternshed.core.machine.Fitting.FitRow;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** H-19: opened in order, by the case that is there, and closed the same way back. */
class FittingTest {

  static Stream<Profile> profiles() {
    return Profiles.all().stream();
  }

  private static List<FitRow> part(Fitting f, int from) {
    return f.rows().stream().filter(r -> r.index() / 1000 * 1000 == from).toList();
  }

  @ParameterizedTest
  @MethodSource("profiles")
  void everyStepOfTheChosenCaseIsWalkedOnceAndBackwardsAgain(Profile p) {
    List<String> variants = Fitting.of(p, "").variants();
    for (String v : variants.isEmpty() ? List.of("") : variants) {
      Fitting f = Fitting.of(p, v);
      assertThatCode(f::needChosen).doesNotThrowAnyException();
      List<FitRow> open = part(f, 1000);
      List<FitRow> close = part(f, 2000);
      assertThat(open).allMatch(r -> of(p, r).variant().isEmpty() || of(p, r).variant().equals(v));
      assertThat(part(f, 0).stream().map(FitRow::step)).isEqualTo(p.fit());
      // Backwards: the first that was opened is the last that is closed.
      List<String> back =
          open.stream().map(r -> of(p, r).closing()).filter(c -> !c.isEmpty()).toList();
      assertThat(close.stream().map(r -> r.step().text()).toList()).isEqualTo(reversed(back));
      assertThat(f.rows().stream().map(FitRow::index)).doesNotHaveDuplicates();
      // Opened, then fitted, then closed.
      List<FitRow> inOrder = Stream.of(open, part(f, 0), close).flatMap(List::stream).toList();
      assertThat(f.rows()).isEqualTo(inOrder);
    }
  }

  private static List<String> reversed(List<String> all) {
    List<String> out = new ArrayList<>(all);
    Collections.reverse(out);
    return out;
  }

  private static Profile.Opening of(Profile p, FitRow r) {
    return p.opening().get(r.index() % 1000);
  }

  @Test
  void aCaseThatNobodyChoseHasNoStepsOfItsOwnAndIsAskedFor() {
    Profile p = Profiles.get("at-386-486");
    Fitting f = Fitting.of(p, "a chest of drawers");
    assertThat(f.variants()).hasSize(2);
    assertThat(f.chosen()).isEmpty();
    assertThat(part(f, 1000)).hasSize(2);
    assertThatThrownBy(f::needChosen)
        .hasMessage(
            "Say first which case is before you: desktop, cover from above, or tower, panel at the"
                + " side.");
    Fitting tower = Fitting.of(p, f.variants().get(1));
    assertThat(tower.chosen()).isEqualTo(f.variants().get(1));
    assertThat(tower.rows().stream().map(FitRow::head).filter(h -> !h.isEmpty()))
        .containsExactly("Open it", "Fit the card", "Close it, the same way back");
  }

  /** Whatever is opened, its power is off before; a case that is open is never the first step. */
  @ParameterizedTest
  @MethodSource("profiles")
  void powerIsOffBeforeAnythingIsOpened(Profile p) {
    if (p.opening().isEmpty()) return;
    for (String v : Stream.concat(Stream.of(""), Fitting.of(p, "").variants().stream()).toList()) {
      assertThat(Fitting.of(p, v).rows().get(0).step().text()).contains("mains plug");
    }
  }

  /** A list without a case to open is what it was, without headings. */
  @Test
  void whatIsNotOpenedIsOnlyFitted() {
    Fitting f = Fitting.of(Profiles.get("m6803-cart"), "");
    assertThat(f.variants()).isEmpty();
    assertThat(f.rows()).allMatch(r -> r.head().isEmpty()).isNotEmpty();
  }
}
