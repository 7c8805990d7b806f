package lanternshed.core.fault;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;
import lanternshed.core.fault.Trial.Outcome;
import lanternshed.core.measure.ShedException;
import org.junit.jupiter.api.Test;

/** What a person would conclude from the same board. */
class ReasonerTest {
  private final List<Part> parts = new ArrayList<>();
  private final List<Trial> trials = new ArrayList<>();

  private void part(String id, String kind, String group, boolean fitted) {
    parts.add(new Part(id, id, kind, group, fitted, new Cost(5, 0, 0), Suspicion.USUAL));
  }

  private void trial(String ids, String operation, Outcome outcome) {
    int n = trials.size() + 1;
    trials.add(new Trial(n, "test " + n, Set.of(ids.split(" ")), operation, outcome, ""));
  }

  private Reasoning reason() {
    return Reasoner.reason(new World(parts, trials, List.of()));
  }

  private void bookkeepingPc() {
    part("board", "board", "", true);
    part("rom", "firmware", "", true);
    part("controller", "controller", "", true);
    part("cable", "cable", "", true);
    part("adapter", "adapter", "", true);
    part("card", "card", "newer drives", true);
    part("newer", "drive", "newer drives", false);
    part("old", "drive", "", false);
    part("supply", "supply", "", true);
  }

  @Test
  void aPassClearsItsPartsForItsOperationOnly() {
    bookkeepingPc();
    trial("board rom controller cable old supply", "lists", Outcome.FAILS);
    trial("board rom controller cable newer supply", "lists", Outcome.WORKS);
    Reasoning r = reason();
    assertThat(r.explanations().get(0).name()).isEqualTo("old");
    assertThat(r.parts().get(3).state()).isIn("pair", "cleared");
    assertThat(r.parts().get(3).clearedBy()).containsExactly(2);
    assertThat(r.verdict().kind())
        .as("it may still only disagree with the others")
        .isEqualTo("open");
    assertThat(r.next().get(0).parts()).as("a control decides").containsExactly("old");

    trial("board rom controller cable newer supply", "copies", Outcome.FAILS);
    assertThat(reason().explanations())
        .as("listing says nothing of copying")
        .anyMatch(e -> e.name().contains("controller"));
    trials.remove(2);
    trial("old", "lists", Outcome.FAILS);
    assertThat(reason().verdict().kind()).isEqualTo("storage");
  }

  @Test
  void partsThatWorkApartAndNotTogetherAreAPairWithTheWholeGroup() {
    bookkeepingPc();
    trial("board rom controller cable adapter card supply", "copies", Outcome.FAILS);
    trial("board rom controller cable newer supply", "copies", Outcome.PARTLY);
    trial("board rom controller cable old supply", "copies", Outcome.WORKS);
    trial("adapter card", "copies", Outcome.WORKS);
    trial("newer", "copies", Outcome.WORKS);
    Reasoning r = reason();
    assertThat(r.explanations().get(0).name()).isEqualTo("rom × newer drives");
    assertThat(r.verdict().kind()).isEqualTo("pair");
    assertThat(r.explanations())
        .noneMatch(e -> e.causes().size() == 1 && e.causes().get(0).parts().size() == 1);
    assertThat(r.next()).isNotEmpty();
    assertThat(r.next().get(0).title()).contains("known good firmware");
  }

  @Test
  void aReadingClearsForEveryOperationAndFailsForItsPart() {
    part("key", "switch", "", true);
    part("neighbour", "switch", "", true);
    part("card", "card", "", true);
    trial("key card", "menu comes up", Outcome.FAILS);
    trial("neighbour", Trial.READING, Outcome.WORKS);
    trial("key", Trial.READING, Outcome.FAILS);
    Reasoning r = reason();
    assertThat(r.explanations().get(0).name()).isEqualTo("key");
    assertThat(r.verdict().kind()).isEqualTo("other");
    assertThat(r.parts().get(1).state()).isEqualTo("aside");
  }

  @Test
  void contradictionsAreNamedAndNoMoreThanNeeded() {
    bookkeepingPc();
    trial("board cable old", "lists", Outcome.WORKS);
    trial("rom newer", "lists", Outcome.WORKS);
    trial("board cable", "lists", Outcome.FAILS);
    Reasoning r = reason();
    assertThat(r.contradiction()).isPresent();
    assertThat(r.contradiction().get().trials()).containsExactly(1, 3);
    assertThat(r.verdict().kind()).isEqualTo("open");
    assertThat(r.explanations()).isEmpty();
  }

  @Test
  void twoFaultsAtOnceAreFound() {
    part("cable", "cable", "", true);
    part("other cable", "cable", "", false);
    part("drive", "drive", "", true);
    part("spare drive", "drive", "", false);
    parts.replaceAll(p -> p);
    trials.add(new Trial(1, "as it came", Set.of("cable", "drive"), "lists", Outcome.FAILS, ""));
    trials.add(
        new Trial(2, "other cable", Set.of("other cable", "drive"), "lists", Outcome.FAILS, ""));
    trials.add(
        new Trial(3, "spare drive", Set.of("cable", "spare drive"), "lists", Outcome.FAILS, ""));
    trials.add(
        new Trial(4, "both", Set.of("other cable", "spare drive"), "lists", Outcome.WORKS, ""));
    Reasoning r = reason();
    assertThat(r.explanations().get(0).name()).isEqualTo("cable, and drive");
    assertThat(r.verdict().kind()).isEqualTo("both");
  }

  @Test
  void withoutAFailureTheFirstTestIsToShowTheFault() {
    bookkeepingPc();
    Reasoning r = reason();
    assertThat(r.explanations()).isEmpty();
    assertThat(r.next()).hasSize(1);
    assertThat(r.next().get(0).parts()).doesNotContain("old", "newer");
    assertThat(r.next().get(0).works().leaves().get(0)).contains("did not show");
    parts.removeIf(p -> !p.fitted());
    assertThat(reason().next()).as("with every part fitted too").hasSize(1);
    bookkeepingPc();
    parts.subList(0, 7).clear();
    assertThat(r.verdict().sentence()).contains("No test fails yet");
    trial("old", "lists", Outcome.WORKS);
    assertThat(reason().verdict().kind()).isEqualTo("open");
  }

  @Test
  void symptomsAndSuspicionMoveTheOrderOnly() {
    part("drive", "drive", "", true);
    part("supply", "supply", "", true);
    trial("drive supply", "starts", Outcome.FAILS);
    assertThat(reason().explanations().get(0).name()).isEqualTo("drive");
    Reasoning dark = Reasoner.reason(new World(parts, trials, List.of("no-light")));
    assertThat(dark.explanations().get(0).name()).isEqualTo("supply");
    assertThat(dark.explanations()).hasSameSizeAs(reason().explanations());
  }

  @Test
  void boundsAreSaid() {
    IntStream.range(0, 41).forEach(i -> part("p" + i, "other", "", true));
    assertThatThrownBy(this::reason)
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("40 parts");
    parts.remove(40);
    trial("p1 stranger", "lists", Outcome.FAILS);
    assertThatThrownBy(this::reason).hasMessageContaining("stranger");
  }

  @Test
  void everyShareHasItsSum() {
    bookkeepingPc();
    trial("board rom controller cable adapter card supply", "copies", Outcome.FAILS);
    Reasoning r = reason();
    int shares =
        r.explanations().stream().mapToInt(Reasoning.Explanation::share).sum() + r.othersShare();
    assertThat(shares).isBetween(990, 1010);
    assertThat(r.explanations()).allMatch(e -> e.sum().result() == e.share());
    assertThat(r.next()).hasSize(3).allMatch(a -> a.works().share() + a.fails().share() >= 999);
  }
}
