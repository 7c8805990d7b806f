package lanternshed.server.sheets;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.family.Family;
import lanternshed.core.machine.Peg;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Say;
import lanternshed.core.plan.Plan;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.machines.MachineService;
import lanternshed.server.paper.Paper;
import lanternshed.server.paper.SheetPdf;
import lanternshed.server.plans.PlanService;
import org.springframework.stereotype.Component;

/**
 * The plan of a job: what goes where on the card, every ceiling, and what is typed on the machine.
 */
@Component
class PlanSheet {
  private static final Map<Plan.Weight, String> WORDS =
      Map.of(Plan.Weight.STOPS, "stops", Plan.Weight.WARNS, "warns", Plan.Weight.HOLDS, "holds");

  private final PlanService plans;
  private final MachineService machines;

  PlanSheet(PlanService plans, MachineService machines) {
    this.machines = machines;
    this.plans = plans;
  }

  byte[] of(JobEntity job, Paper paper) {
    PlanService.Answer a = plans.of(job);
    Plan p = a.plan();
    SheetPdf s =
        new SheetPdf(paper, job.machine(), "Plan of job " + job.id() + ", " + job.machine());
    s.answer(
        p.stop()
            .map(why -> "Stopped: " + why)
            .orElse(
                "Reaches "
                    + Say.mib(p.reach() * 512)
                    + (p.outOfReach() > 0
                        ? "; " + Say.mib(p.outOfReach() * 512) + " of the card stay out of reach."
                        : ", all of the card.")));
    s.facts(facts(a));
    volumes(s, p);
    s.head("How far it reaches");
    s.table(
        List.of("ceiling", "rule", "sectors", "", "of"),
        new float[] {5, 1.5f, 3, 2.5f, 2},
        p.pegs().stream().map(g -> ceiling(g, p.binding())).toList());
    if (!p.verdicts().isEmpty()) {
      s.head("What the rules say");
      s.table(
          List.of("", "rule", "because"),
          new float[] {1.6f, 1.4f, 10},
          p.verdicts().stream()
              .map(v -> List.of(WORDS.get(v.weight()), v.rule(), v.text()))
              .toList());
    }
    steps(s, p.steps());
    return s.done();
  }

  private Map<String, String> facts(PlanService.Answer a) {
    Plan p = a.plan();
    Map<String, String> facts = new LinkedHashMap<>();
    facts.put("plan", a.settled() ? "settled" : "a proposal, not settled yet");
    Setup setup = Setup.of(machines.get(p.machine()), p.firmware(), p.system());
    facts.put("machine", setup.profile().name());
    facts.put("firmware", setup.firmware().name());
    facts.put("system", setup.system().title());
    facts.put("card", p.card().name() + ", " + Say.sectors(p.card().planSectors()));
    if (p.geometry().heads() > 1) facts.put("geometry in setup", p.geometry().toString());
    facts.put("how", p.strategy().title());
    if (p.imageSectors() > 0) facts.put("image", Say.sectors(p.imageSectors()));
    facts.put("start", p.start().sentence());
    return facts;
  }

  private static void volumes(SheetPdf s, Plan p) {
    if (p.volumes().isEmpty()) return;
    s.head("Volumes");
    s.table(
        List.of("", "label", "kind", "from sector", "sectors", "unit", "files"),
        new float[] {1, 3, 2.6f, 2.4f, 2.4f, 1.8f, 2},
        p.volumes().stream()
            .map(
                v ->
                    List.of(
                        v.letter(),
                        v.label(),
                        v.typeName(),
                        Say.count(v.start()),
                        Say.count(v.length()),
                        v.clusterBytes() > 0 ? Say.size(v.clusterBytes()) : "–",
                        Say.size(v.usedBytes())))
            .toList());
  }

  private static List<String> ceiling(Peg g, Peg binding) {
    return List.of(
        g.name() + (g.equals(binding) ? " (binds)" : ""),
        g.rule(),
        Say.count(g.sectors()),
        Say.mib(g.sectors() * 512),
        g.scope() == Peg.Scope.MEDIUM ? "the card" : "each volume");
  }

  private static void steps(SheetPdf s, List<Family.MachineStep> steps) {
    if (steps.isEmpty()) return;
    s.head("Typed on the machine");
    List<SheetPdf.Point> points = new ArrayList<>();
    for (Family.MachineStep m : steps) {
      List<String> says = new ArrayList<>();
      if (!m.value().isEmpty()) says.add("Type: " + m.value());
      if (!m.answers().isEmpty()) says.add("It answers: " + m.answers());
      points.add(new SheetPdf.Point(m.text(), says, ""));
    }
    s.points(points);
  }
}
