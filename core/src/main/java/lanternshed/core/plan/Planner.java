package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import lanternshed.core.boot.Start;
import lanternshed.core.family.Family;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Setup;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.survey.Survey;

/**
 * Lays out the volumes of a new image from machine, survey and card, and asks every rule. A pure
 * function of its inputs: the same request gives the same plan, in well under the time of a
 * pointer's movement.
 */
public final class Planner {

  /** Every rule that a plan is asked, each a class of its own. */
  private static final List<PlanRule> RULES =
      List.of(
          new StartRule(),
          new StartFileRule(),
          new LeftoverRule(),
          new ReachRule(),
          new GuessedRule(),
          new VolumePegRule(),
          new SystemToolsRule(),
          new LettersRule(),
          new TypeCodeRule(),
          new CardRule(),
          new FilesFitRule(),
          new FirstListingRule(),
          new LeftBehindRule(),
          new LongNamesRule(),
          new OldFaultsRule(),
          new OldGeometryRule(),
          new TwelveBitRule(),
          new OwnGeometryRule(),
          new StrategyRule(),
          new BootContractRule(),
          new CarriedBlocksRule(),
          new CarriedLengthRule(),
          new CarrierRoomRule(),
          new NotWholeRule(),
          new NeedsRule(),
          new OptionRomRule(),
          new PairRule(),
          new SpanRule(),
          new DriverRule(),
          new DriverInstallRule());

  private Planner() {}

  /**
   * @param survey what is on the old drive; one without sectors where there is none (W-10)
   * @throws lanternshed.core.measure.ShedException where there is nothing to plan with
   */
  public static Plan plan(Profile profile, PlanRequest request, Survey survey) {
    Situation s = Situation.of(profile, request, survey);
    Draft draft = laidOut(s);
    List<Plan.Verdict> verdicts = new ArrayList<>(draft.said());
    for (PlanRule r : RULES) verdicts.addAll(r.judge(draft, s));
    verdicts.sort(Comparator.comparing(Plan.Verdict::weight));
    boolean buildable = verdicts.stream().noneMatch(v -> v.weight() == Plan.Weight.STOPS);
    return new Plan(
        profile.key(),
        s.family().key(),
        s.setup().firmware().key(),
        s.system().key(),
        s.card(),
        s.pegs().pegs(),
        s.pegs().binding(),
        s.pegs().reach(),
        s.pegs().outOfReach(s.card()),
        s.reachSum(),
        s.outOfReachSum(),
        draft.geometry(),
        draft.imageSectors(),
        request.strategy(),
        request.school(),
        request.keepBootCode(),
        s.system().volumes(),
        draft.volumes(),
        start(draft, s),
        draft.strategies(),
        lifts(s),
        DriverRule.mounts(draft, s),
        List.copyOf(verdicts),
        s.family().steps(s.setup(), s.pegs(), laid(draft)),
        s.family().madeBy(s.cards().size()),
        buildable);
  }

  /** The volumes as a family is told of them. */
  private static List<Family.Laid> laid(Draft draft) {
    return draft.volumes().stream()
        .map(
            v ->
                new Family.Laid(
                    v.letter(),
                    v.label(),
                    v.start(),
                    v.length(),
                    v.kind(),
                    v.type(),
                    v.clusterBytes(),
                    v.clusters(),
                    v.active(),
                    v.files().stream()
                        .filter(Plan.CarriedFile::drive)
                        .map(f -> new Family.Drive(f.name(), f.bytes()))
                        .toList()))
        .toList();
  }

  private static Draft laidOut(Situation s) {
    if (s.family().carries()) return CarrierLayouter.draft(s);
    boolean slots = s.family().slotSectors() > 0 && s.strategy() != PlanRequest.Strategy.CLONE;
    return slots ? SlotsLayouter.draft(s) : Layouter.draft(s);
  }

  /** With which loader the active volume is meant to start. */
  private static Start start(Draft draft, Situation s) {
    if (s.family().boot().isEmpty()) return Start.elsewhere(s.family().startsFrom());
    return draft.volumes().stream()
        .filter(PlannedVolume::active)
        .map(PlannedVolume::loader)
        .filter(l -> !l.isEmpty())
        .findFirst()
        .map(Start::meant)
        .orElse(Start.meant(""));
  }

  /** What other firmware of this machine would reach. */
  private static List<Plan.Lift> lifts(Situation s) {
    return s.profile().firmwares().stream()
        .filter(f -> !f.key().equals(s.setup().firmware().key()))
        .map(
            f -> {
              Setup other = new Setup(s.profile(), f, s.system());
              return new Plan.Lift(f.name(), s.family().pegs(other, s.card()).reach());
            })
        .filter(l -> l.reach() > s.pegs().reach())
        .toList();
  }
}
