package lanternshed.core.fault;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import lanternshed.core.fault.Advisor.Candidate;
import lanternshed.core.fault.Trial.Outcome;
import lanternshed.core.measure.ShedException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

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

  private List<Candidate> candidates() {
    Posterior p = new Posterior(new World(parts, trials, List.of()));
    return new Candidates(p, Optional.empty()).all();
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
  void aPassSpeaksForItsPartsInItsOperationOnly() {
    bookkeepingPc();
    trial("board rom controller cable old supply", "lists", Outcome.FAILS);
    trial("board rom controller cable newer supply", "lists", Outcome.WORKS);
    Reasoning r = reason();
    assertThat(r.explanations().get(0).name()).isEqualTo("old");
    assertThat(r.parts().get(3).clearedBy()).containsExactly(2);

    trial("old", "lists", Outcome.FAILS);
    r = reason();
    assertThat(r.verdict().kind()).isEqualTo("storage");
    assertThat(r.verdict().parts()).containsExactly("old");
    assertThat(r.parts().get(3).state()).isIn("cleared", "pair");

    trials.remove(2);
    trial("board rom controller cable newer supply", "copies", Outcome.FAILS);
    assertThat(reason().explanations())
        .as("listing says nothing of copying")
        .anyMatch(e -> e.name().contains("controller"));
  }

  @Test
  void partsThatWorkApartAndNotTogetherAreAPairWithTheWholeGroup() {
    bookkeepingPc();
    trial("board rom controller cable adapter card supply", "copies", Outcome.FAILS);
    trial("board rom controller cable newer supply", "copies", Outcome.FAILS);
    trials.add(
        new Trial(
            3,
            "t",
            Set.of("board rom controller cable old supply".split(" ")),
            "copies",
            Outcome.SOMETIMES,
            "",
            3,
            3));
    trial("adapter card", "copies", Outcome.WORKS);
    trial("newer", "copies", Outcome.WORKS);
    Reasoning r = reason();
    assertThat(r.explanations().get(0).name()).contains("× newer drives");
    assertThat(r.verdict().kind()).isEqualTo("pair");
    assertThat(r.verdict().parts()).as("which of them is not known yet").isEmpty();
    assertThat(r.verdict().sentence()).contains("parts remain");
    assertThat(r.next()).isNotEmpty();
  }

  @Test
  void theGroupIsOfferedByTheBoardToWhoKnowsNothingOfIt() {
    for (boolean withYears : new boolean[] {true, false}) {
      parts.clear();
      trials.clear();
      for (String p : "board controller cable supply".split(" ")) {
        part(p, p, "", true);
      }
      part("rom", "firmware", "", true);
      dated("old", withYears ? 1990 : 0);
      dated("big", withYears ? 1998 : 0);
      dated("bigger", withYears ? 2004 : 0);
      dated("biggest", withYears ? 2010 : 0);
      for (String d : "big bigger biggest".split(" ")) {
        trial("board rom controller cable supply " + d, "copies", Outcome.FAILS);
        trial(d, "copies", Outcome.WORKS);
      }
      for (int again = 0; again < 3; again++) {
        trial("board rom controller cable supply old", "copies", Outcome.WORKS);
      }
      Reasoning r = reason();
      assertThat(r.verdict().kind()).as("years: %s", withYears).isEqualTo("pair");
      assertThat(r.offers()).isNotEmpty();
      assertThat(r.offers().get(0).parts()).containsExactlyInAnyOrder("big", "bigger", "biggest");
      if (withYears) {
        assertThat(r.offers().get(0).sentence()).contains("storage newer than 1990", "Is that it?");
      }
    }
  }

  private void dated(String id, int year) {
    parts.add(
        new Part(
            id,
            id,
            "drive",
            "",
            false,
            new Cost(5, 0, 0),
            Suspicion.USUAL,
            new Part.Traits(year, 0, 0)));
  }

  @Test
  void aFaultThatComesAndGoesIsNoDeadEnd() {
    bookkeepingPc();
    trial("board rom controller cable old supply", "lists", Outcome.FAILS);
    trial("board rom controller cable old supply", "lists", Outcome.WORKS);
    Reasoning r = reason();
    assertThat(r.explanations()).isNotEmpty();
    assertThat(r.doubt()).isPresent();
    assertThat(r.doubt().get().sentence()).contains("comes and goes");
    assertThat(r.parts())
        .filteredOn(p -> p.id().equals("cable") || p.id().equals("old"))
        .allMatch(p -> p.state().equals("left"));
    // The cable it is, and it shows half of the time.
    trials.add(sometimes("board rom controller cable old supply", 3, 6));
    trials.add(sometimes("board rom controller old supply", 6, 6));
    trials.add(sometimes("board rom controller cable newer supply", 4, 6));
    r = reason();
    assertThat(r.explanations().get(0).name()).isEqualTo("cable");
    assertThat(r.explanations().get(0).wanders()).isTrue();
    assertThat(r.explanations().get(0).share()).isGreaterThan(800);
  }

  private Trial sometimes(String ids, int worked, int of) {
    int n = trials.size() + 1;
    return new Trial(n, "t", Set.of(ids.split(" ")), "lists", Outcome.SOMETIMES, "", worked, of);
  }

  @Test
  void noPartIsNamedBelowNineTenthsOfItsOwnAndNoneWithoutAControl() {
    bookkeepingPc();
    trial("board rom controller cable old supply", "lists", Outcome.FAILS);
    assertThat(reason().verdict().kind()).as("nothing was seen to work").isEqualTo("open");
    trial("board rom controller cable newer supply", "lists", Outcome.FAILS);
    trial("old", "lists", Outcome.WORKS);
    trial("newer", "lists", Outcome.WORKS);
    Reasoning r = reason();
    assertThat(r.verdict().leads()).isEqualTo("other");
    assertThat(r.verdict().kind()).as("both may quarrel with one part").isEqualTo("open");
    assertThat(r.verdict().parts()).isEmpty();
    assertThat(r.verdict().remain()).hasSizeGreaterThan(3).doesNotContain("old", "newer");
    assertThat(r.next()).as("what to do next stays").isNotEmpty();
    // The same storage works in the same machine with one part of it taken out.
    trial("board rom controller old supply", "lists", Outcome.WORKS);
    trial("board rom controller cable old supply", "lists", Outcome.FAILS);
    trial("board rom controller newer supply", "lists", Outcome.WORKS);
    r = reason();
    assertThat(r.verdict().kind()).isEqualTo("other");
    assertThat(r.verdict().sentence()).startsWith("Storage is not the fault. It is cable");
  }

  @Test
  void storageIsNotAbsolvedWhileAPairWithItIsUntested() {
    bookkeepingPc();
    trial("board rom controller cable newer supply", "lists", Outcome.FAILS);
    trials.add(sometimes("newer", 3, 3));
    trial("board rom controller cable card adapter supply", "lists", Outcome.FAILS);
    trials.add(sometimes("adapter card", 3, 3));
    trial("cable", Trial.READING, Outcome.WORKS);
    trial("supply", Trial.READING, Outcome.WORKS);
    trial("board rom cable newer supply", "lists", Outcome.FAILS);
    Reasoning r = reason();
    assertThat(r.verdict().leads()).isEqualTo("other");
    assertThat(r.verdict().kind()).isEqualTo("open");
    assertThat(r.verdict().sentence()).contains("may be good and not work with newer drives");
    // Taken out, it works; put back, it fails again: a part and no claim about storage.
    trial("board controller cable newer supply", "lists", Outcome.WORKS);
    trial("board rom controller cable newer supply", "lists", Outcome.FAILS);
    r = reason();
    assertThat(r.verdict().parts()).containsExactly("rom");
    assertThat(r.verdict().sentence())
        .isEqualTo(
            "It is rom, alone or together with something it was tested with:"
                + " with it tests 1 and 9 fail, without it test 8 works.");
  }

  @Test
  void anExchangeThatIsUndoneSettlesItsPartAndOneWithoutTheOtherDoesNot() {
    bookkeepingPc();
    trial("board rom controller cable adapter card supply", "lists", Outcome.FAILS);
    trial("board rom controller cable adapter supply", "lists", Outcome.WORKS);
    assertThat(reason().verdict().kind()).isEqualTo("open");
    assertThat(reason().next())
        .anyMatch(a -> a.title().equals("Put card back, and do test 1 again"));
    trial("board rom controller cable adapter card supply", "lists", Outcome.FAILS);
    assertThat(reason().verdict().parts()).containsExactly("card");
    assertThat(reason().verdict().sentence()).contains("with it tests 1 and 3 fail");
    // What was done to a part in between may be what cured it.
    trials.add(2, new Trial(2, "cleaned", Set.of("card"), "lists", Outcome.CHANGED, ""));
    assertThat(reason().verdict().parts()).isEmpty();
    // And where the test without it failed once as well, nothing came with it.
    trials.remove(2);
    trial("board rom controller cable adapter supply", "lists", Outcome.FAILS);
    trial("board rom controller cable adapter card supply", "lists", Outcome.FAILS);
    assertThat(Exchange.all(new World(parts, trials, List.of()))).hasSize(1);
    assertThat(reason().verdict().parts()).isEmpty();
  }

  @Test
  void whatHangsOnOneTestIsTestedAgainFirst() {
    bookkeepingPc();
    parts.removeIf(p -> p.id().equals("adapter"));
    trial("board rom controller cable card supply", "lists", Outcome.FAILS);
    trial("board rom controller cable old supply", "lists", Outcome.FAILS);
    trial("old", "lists", Outcome.WORKS);
    trial("card", "lists", Outcome.WORKS);
    trial("cable", Trial.READING, Outcome.FAILS);
    Reasoning r = reason();
    assertThat(r.verdict().kind()).isEqualTo("open");
    assertThat(r.verdict().sentence()).contains("hangs on test 5 alone. Do it again.");
    assertThat(r.next().get(0).title()).isEqualTo("Test 5 again, just as it was");
    trial("cable", Trial.READING, Outcome.FAILS);
    assertThat(reason().verdict().parts()).containsExactly("cable");
  }

  @Test
  void nothingThatWorkedLeadsOverWhatDidNot() {
    bookkeepingPc();
    for (Part p : parts) if (p.kind().equals("cable")) parts.set(parts.indexOf(p), likely(p));
    trial("board rom controller cable card supply", "lists", Outcome.FAILS);
    trial("cable old", "lists", Outcome.WORKS);
    Reasoning r = reason();
    assertThat(r.explanations().get(0).name()).isNotEqualTo("cable");
  }

  private static Part likely(Part p) {
    return new Part(p.id(), p.name(), p.kind(), "", true, p.swap(), Suspicion.MORE);
  }

  @Test
  void aTestThatFailedEvenOnceClearsNobody() {
    bookkeepingPc();
    trials.add(sometimes("board rom controller cable old supply", 6, 10));
    assertThat(reason().parts()).allSatisfy(p -> assertThat(p.clearedBy()).isEmpty());
    trial("board rom controller cable newer supply", "lists", Outcome.WORKS);
    assertThat(reason().parts().get(3).clearedBy()).containsExactly(2);
  }

  @Test
  void whatWorkedIsNotDeniedWhereItIsNoControl() {
    bookkeepingPc();
    trial("board rom controller cable old supply", "lists", Outcome.FAILS);
    trial("board rom controller cable newer supply", "lists", Outcome.FAILS);
    trial("board supply", "starts", Outcome.WORKS);
    for (int i = 0; i < 4; i++) trial("board rom controller", "lists", Outcome.FAILS);
    Reasoning r = reason();
    assertThat(r.verdict().sentence())
        .as(r.verdict().sentence())
        .contains("what worked in test 3 (test 3) is not what fails")
        .doesNotContain("nothing was seen");
  }

  @Test
  void somethingDoneMakesEarlierTestsCountLess() {
    bookkeepingPc();
    trial("board rom controller cable old supply", "lists", Outcome.WORKS);
    trial("board rom controller cable old supply", "lists", Outcome.FAILS);
    int before = share("controller");
    trial("board", "", Outcome.CHANGED);
    trial("board rom controller cable old supply", "lists", Outcome.FAILS);
    int after = share("controller");
    trials.remove(2);
    int without = share("controller");
    assertThat(after).isNotEqualTo(without);
    assertThat(before).isPositive();
  }

  private int share(String id) {
    return reason().parts().stream()
        .filter(p -> p.id().equals(id))
        .mapToInt(Reasoning.PartState::share)
        .sum();
  }

  @Test
  void advisedTestsCanBeDone() {
    part("board", "board", "", true);
    part("rom", "firmware", "", true);
    part("card", "card", "", true);
    part("key", "switch", "", true);
    trial("board rom card key", "menu comes up", Outcome.FAILS);
    for (Candidate c : candidates()) {
      boolean possible =
          c.operation().equals(Trial.READING)
              || has(c, 0, "board") && has(c, 1, "firmware") && has(c, 2, "card");
      assertThat(possible).as(c.title()).isTrue();
    }
    trials.clear();
    trial("board rom card key", "screen comes up", Outcome.FAILS);
    assertThat(candidates())
        .extracting(Candidate::title)
        .anyMatch(t -> t.contains("with the storage taken out"))
        .anyMatch(t -> t.contains("in another whole machine"));
  }

  private static boolean has(Candidate c, int part, String kind) {
    return (c.parts() >> part & 1) == 1 || c.provided().contains(kind);
  }

  @ParameterizedTest
  @CsvSource({
    "5.02 V on pin 1, WORKS",
    "4.60 V, FAILS",
    "12.3 V, WORKS",
    "10.9 V, FAILS",
    "3.31 V, WORKS",
    "300 Ω and steady, FAILS",
    "2 Ω, NOTED",
    "20 MΩ, NOTED",
    "1.2 V, ''",
    "looks dusty, ''"
  })
  void aNumberIsJudgedByItsBand(String words, String outcome) {
    assertThat(Judged.of(words).map(j -> j.outcome().name()).orElse("")).isEqualTo(outcome);
  }

  @Test
  void aNeutralReadingIsNoFault() {
    bookkeepingPc();
    trial("board rom controller cable old supply", "lists", Outcome.FAILS);
    int before = share("supply");
    trial("supply", Trial.READING, Outcome.NOTED);
    assertThat(share("supply")).isEqualTo(before);
    trial("supply", Trial.READING, Outcome.WORKS);
    assertThat(share("supply")).isLessThan(before);
  }

  @Test
  void twoFaultsAtOnceAreFound() {
    part("cable", "cable", "", true);
    part("other cable", "cable", "", false);
    part("drive", "drive", "", true);
    part("spare drive", "drive", "", false);
    for (int twice = 0; twice < 2; twice++) {
      both("cable", "drive", Outcome.FAILS);
      both("other cable", "drive", Outcome.FAILS);
      both("cable", "spare drive", Outcome.FAILS);
      both("other cable", "spare drive", Outcome.WORKS);
    }
    Reasoning r = reason();
    assertThat(r.explanations().get(0).name()).isEqualTo("cable, and drive");
    assertThat(r.verdict().kind()).isEqualTo("both");
  }

  private void both(String a, String b, Outcome o) {
    trials.add(new Trial(trials.size() + 1, "t", Set.of(a, b), "lists", o, ""));
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
