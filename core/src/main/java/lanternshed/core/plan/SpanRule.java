package lanternshed.core.plan;

import java.util.List;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.Verdict;

/** V-5: what a board of several cards will show, and what it shows while one is not counted. */
final class SpanRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    Profile.Span span = s.profile().span();
    if (!s.family().spans() || span == null) return List.of();
    List<Card> cards = s.cards();
    if (cards.size() > span.slots()) {
      String text =
          "The board has "
              + Say.plural(span.slots(), "slot", "slots")
              + ", and "
              + cards.size()
              + " cards are chosen; take some out.";
      return List.of(Verdict.stops("V-5", text, Sum.of("V-5", "Slots").because(text).done()));
    }
    Sum.Builder sum = Sum.of("V-5", "Size as shown");
    for (int i = 0; i < cards.size(); i++) {
      String slot = "slot " + (i + 1) + ", " + cards.get(i).name();
      sum.sectors(i == 0 ? "" : "+", slot, cards.get(i).planSectors());
    }
    long counted = Math.min(s.card().planSectors(), s.pegs().reach());
    if (counted < s.card().planSectors()) {
      sum.sectors("→", "what the firmware reaches of them", counted);
    }
    long shown = Math.max(0, counted - span.ownSectors());
    sum.sectors("−", "its own area", span.ownSectors()).sectorsAsSize(shown);
    StringBuilder less = new StringBuilder();
    for (int i = 0; i < cards.size() && cards.size() > 1; i++) {
      // The firmware's reach is of what it counts: without a card the others may lie within it.
      long left = s.card().planSectors() - cards.get(i).planSectors();
      long without = Math.min(left, s.pegs().reach()) - span.ownSectors();
      String size = Say.size(Math.max(0, without) * 512);
      sum.note("without slot " + (i + 1), size);
      less.append(i == 0 ? " With one card not counted yet it shows " : ", or ").append(size);
    }
    if (less.length() > 0) less.append("; a restart counts it.");
    String text = "The player will show " + Say.size(shown * 512) + "." + less;
    Sum because =
        sum.because("The board adds the true sectors of its cards, from slot 1 upward.").done();
    return List.of(Verdict.holds("V-5", text, because));
  }
}
