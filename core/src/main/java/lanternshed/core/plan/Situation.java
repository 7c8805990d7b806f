package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.family.Families;
import lanternshed.core.family.Family;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Generation;
import lanternshed.core.machine.Pegs;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.survey.Survey;

/**
 * What a plan starts from: machine, card, what is on the old drive, and what was chosen. Facts that
 * every rule may ask for are worked out once.
 *
 * @param card the smallest of the drawer, for which it is planned (G-18); all of them together
 *     where the family's board makes them one (V-5)
 * @param faults of the old drive, notes left out
 */
record Situation(
    Profile profile,
    Family family,
    PlanRequest request,
    Survey survey,
    Setup setup,
    Card card,
    Pegs pegs,
    List<Finding> faults) {

  private static final long LEAST_CARD = 2048;

  /**
   * @throws ShedException where there is nothing to plan with
   */
  static Situation of(Profile profile, PlanRequest request, Survey survey) {
    Family family = Families.of(profile);
    Setup setup = Setup.of(profile, request.firmware(), request.system());
    List<Card> cards = cards(request);
    Card card = family.spans() ? Card.together(cards) : Card.smallest(cards);
    if (card.planSectors() < LEAST_CARD) {
      throw new ShedException("The card " + card.name() + " has less than 1 MiB to plan with.");
    }
    List<Finding> faults =
        survey.allFindings().stream().filter(f -> f.weight() != Finding.Weight.NOTE).toList();
    return new Situation(
        profile, family, request, survey, setup, card, family.pegs(setup, card), faults);
  }

  /** The card that was chosen, then those of the drawer. */
  private static List<Card> cards(PlanRequest request) {
    List<Card> out = new ArrayList<>();
    out.add(request.card());
    out.addAll(request.drawer());
    return out;
  }

  List<Card> cards() {
    return cards(request);
  }

  Generation system() {
    return setup.system();
  }

  Strategy strategy() {
    return request.strategy();
  }

  /** The old volume of that number, where its files can be read. */
  Optional<Survey.Found> source(int number) {
    return survey.volumes().stream().filter(f -> f.number() == number && f.readable()).findFirst();
  }

  /** Whether what stands beside the old table's entries comes over: boot code, drivers. */
  boolean keepsTableCode() {
    String table = family.table(system()).name();
    return request.keepBootCode()
        && survey.table().filter(t -> t.scheme().equals(table)).isPresent();
  }

  /**
   * The file that a volume starts with: the old one's where code for it comes over or is ours.
   *
   * @param kind published name of the new volume
   */
  String loader(int source, String kind) {
    String file = source(source).flatMap(f -> f.systemFiles().stream().findFirst()).orElse("");
    boolean ours = ownCode(kind, file).length > 0;
    boolean kept = request.keepBootCode() && (family.countsHeads() || keepsTableCode());
    // A PC's volume that is to start and has no code for it is a fault to be told (B-9).
    return ours || kept || family.countsHeads() ? file : "";
  }

  /** Boot code of our own that starts a file by this system's contract; empty where none does. */
  byte[] ownCode(String kind, String file) {
    return family
        .boot()
        .map(b -> b.volumeCode(kind, system().contract(), file))
        .orElse(new byte[0]);
  }

  /** Under which the new image is written: the old drive's for a clone, else the firmware's. */
  Geometry geometry() {
    if (strategy() != Strategy.CLONE) return pegs.geometry();
    return survey
        .agreedGeometry()
        .map(s -> Geometry.called(survey.sectors(), s.heads(), s.sectors()))
        .orElse(pegs.geometry());
  }

  Sum reachSum() {
    Sum b = pegs.binding().because();
    if (pegs.reach() == pegs.binding().sectors()) return b;
    Geometry g = pegs.geometry();
    return Sum.of(b.rule(), "Whole cylinders within reach")
        .sectors("", pegs.binding().name(), pegs.binding().sectors())
        .line("÷", "sectors of a cylinder", g.perCylinder())
        .line("=", "whole cylinders", g.cylinders())
        .line("×", "sectors of a cylinder", g.perCylinder())
        .sectorsAsSize(pegs.reach())
        .because(b.reason() + " By C/H/S only whole cylinders are seen.")
        .done();
  }

  Sum outOfReachSum() {
    return Sum.of(pegs.binding().rule(), "Out of reach")
        .sectors("", "card " + card.name(), card.planSectors())
        .sectors("−", "reach", pegs.reach())
        .sectorsAsSize(pegs.outOfReach(card))
        .because("The lowest peg binds; what lies below it the machine cannot address.")
        .done();
  }
}
