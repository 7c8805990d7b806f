package lanternshed.server.sheets;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.chain.Chain;
import lanternshed.core.chain.Piece;
import lanternshed.core.machine.Fitting;
import lanternshed.core.machine.Profile;
import lanternshed.server.drawer.ChainService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.machines.MachineService;
import lanternshed.server.paper.Paper;
import lanternshed.server.paper.SheetPdf;
import org.springframework.stereotype.Component;

/** The lists of a job with boxes for a pen, for a bench where no screen is wanted. */
@Component
class BenchSheet {
  private final MachineService machines;
  private final ChainService chains;

  BenchSheet(MachineService machines, ChainService chains) {
    this.machines = machines;
    this.chains = chains;
  }

  byte[] of(JobEntity job, Fitting fitting, Paper paper) {
    Profile p = machines.get(job.profile());
    SheetPdf s =
        new SheetPdf(paper, job.machine(), "Bench lists of job " + job.id() + ", " + job.machine());
    s.text("Local electrical rules and licensed practice come before these lists.");
    list(s, "Look at it before power", p.inspection());
    List<Piece.Setting> settings = chains.settings(job);
    if (!settings.isEmpty()) {
      s.head("Set on the chain to the card, before power");
      s.points(settings.stream().map(BenchSheet::point).toList());
    }
    chains
        .lastJoint(job, 0)
        .filter(t -> t.verdict() == Chain.Verdict.CARE)
        .ifPresent(
            t -> {
              s.head("The chain to the card");
              s.points(List.of(new SheetPdf.Point(t.text(), List.of(t.because().reason()), "")));
            });
    fit(s, p, fitting);
    list(s, "Prove it", p.prove());
    return s.done();
  }

  /** Where nobody said which case it is, the list of each: on paper nothing can be chosen. */
  private static void fit(SheetPdf s, Profile p, Fitting f) {
    if (f.variants().isEmpty() || !f.chosen().isEmpty()) {
      fit(s, f);
      return;
    }
    for (String v : f.variants()) fit(s, Fitting.of(p, v));
  }

  private static void fit(SheetPdf s, Fitting f) {
    List<Profile.Step> under = new ArrayList<>();
    String head = "Fit the card";
    for (Fitting.FitRow r : f.rows()) {
      if (!r.head().isEmpty()) {
        list(s, head, List.copyOf(under));
        under.clear();
        head = r.head() + (f.chosen().isEmpty() ? "" : ": " + f.chosen());
      }
      under.add(r.step());
    }
    list(s, head, under);
  }

  private static void list(SheetPdf s, String title, List<Profile.Step> steps) {
    if (steps.isEmpty()) return;
    s.head(title);
    s.points(steps.stream().map(BenchSheet::point).toList());
  }

  private static SheetPdf.Point point(Piece.Setting s) {
    return new SheetPdf.Point(s.name() + ": " + s.value(), List.of(s.text()), "");
  }

  private static SheetPdf.Point point(Profile.Step s) {
    List<String> says = new ArrayList<>();
    if (s.gate()) says.add("Power waits for this.");
    if (!s.caution().isEmpty()) says.add("Caution: " + s.caution());
    if (!s.look().isEmpty()) says.add(s.look());
    if (!s.choices().isEmpty()) {
      says.add(String.join(" / ", s.choices().stream().map(Profile.Choice::text).toList()));
    }
    return new SheetPdf.Point(s.text(), says, s.reading());
  }
}
