package lanternshed.server.proving;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.boot.Start;
import lanternshed.core.fault.Cost;
import lanternshed.core.fault.Part;
import lanternshed.core.fault.PartKinds;
import lanternshed.core.fault.Suspicion;
import lanternshed.core.fault.Trial.Outcome;
import lanternshed.core.machine.Profile;
import lanternshed.server.drawer.ChainService;
import lanternshed.server.fault.FaultService;
import lanternshed.server.fault.FaultService.PartText;
import lanternshed.server.fault.FaultService.TrialText;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.jobs.Lamp;
import lanternshed.server.machines.MachineService;
import lanternshed.server.media.MediaService;
import lanternshed.server.stations.Station;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Puts a proof that failed on the fault board with all that the shed knows already: the proof as a
 * test of what was in the machine, the card by its read-back, the start by its rehearsal.
 */
@Component
class FailedProof {
  private static final int NAME = 60;
  private static final int TITLE = 120;
  private static final int WORDS = 400;

  private final FaultService fault;
  private final JobService jobs;
  private final MachineService machines;
  private final MediaService media;
  private final ChainService chains;
  private final PredictionService predictions;

  FailedProof(
      FaultService fault,
      JobService jobs,
      MachineService machines,
      MediaService media,
      ChainService chains,
      PredictionService predictions) {
    this.fault = fault;
    this.jobs = jobs;
    this.machines = machines;
    this.media = media;
    this.chains = chains;
    this.predictions = predictions;
  }

  @Transactional
  public void toBoard(long jobId) {
    JobEntity job = jobs.get(jobId);
    Profile profile = machines.get(job.profile());
    fault.lay(jobId);
    String operation = profile.operations().stream().findFirst().orElse("starts");
    String name = job.cardId().map(c -> media.get(c).name()).orElse("new card");
    // Columns of the board are narrow; what a card is called before its comma tells it apart.
    long card = part(jobId, name.split(",", 2)[0], "card");
    List<Part> own =
        fault.parts(jobId).stream()
            .filter(p -> p.fitted() && !PartKinds.get(p.kind()).storage())
            .toList();
    List<Long> in = new ArrayList<>(own.stream().map(p -> Long.valueOf(p.id())).toList());
    in.add(card);
    chains.name(job).ifPresent(c -> in.add(part(jobId, c.split(",", 2)[0], "adapter")));
    // Where every point was seen, only its figures are others than foretold.
    boolean all = jobs.looked(job, Station.PROVE) >= profile.prove().size();
    test(
        jobId,
        "Proof with " + name,
        in,
        operation,
        all ? Outcome.PARTLY : Outcome.FAILS,
        job.station(Station.PROVE).sentence());
    Lamp written = job.station(Station.WRITE).state();
    if (job.cardId().isPresent() && (written == Lamp.MOSS || written == Lamp.BRICK)) {
      Outcome read = written == Lamp.MOSS ? Outcome.WORKS : Outcome.FAILS;
      String words = job.station(Station.WRITE).sentence();
      test(jobId, "Read back after writing, " + name, List.of(card), operation, read, words);
    }
    Optional<Part> system = own.stream().filter(p -> p.kind().equals("system")).findFirst();
    if (system.isPresent() && job.builtId().isPresent()) {
      Start start = predictions.of(jobId).start();
      // Past its loader nothing is followed, so a start that stands clears no file.
      Outcome says = start.kind() == Start.Kind.BREAKS ? Outcome.FAILS : Outcome.NOTED;
      List<Long> files = List.of(Long.valueOf(system.get().id()));
      test(jobId, "Start rehearsed from " + name, files, operation, says, start.sentence());
    }
    jobs.set(jobId, Station.FAULT, Lamp.LIT, "A proof failed; find what is at fault.");
  }

  /** The same test is not put there twice. */
  private void test(
      long job, String title, List<Long> parts, String operation, Outcome outcome, String words) {
    TrialText text =
        new TrialText(cut(title, TITLE), parts, operation, outcome, cut(words, WORDS), 0, 0);
    boolean there =
        fault.tests(job).stream()
            .anyMatch(t -> t.title().equals(text.title()) && t.words().equals(text.words()));
    if (!there) fault.addTrial(job, text, "the shed");
  }

  private long part(long job, String name, String kind) {
    String called = cut(name.strip(), NAME);
    for (Part p : fault.parts(job)) {
      if (p.name().equalsIgnoreCase(called)) return Long.parseLong(p.id());
    }
    Cost cost = PartKinds.get(kind).borrow();
    return fault.addPart(
        job,
        new PartText(
            called, kind, "", true, cost.minutes(), 0, cost.risk(), Suspicion.USUAL, 0, 0, 0));
  }

  private static String cut(String s, int most) {
    return s.length() <= most ? s : s.substring(0, most - 1) + "…";
  }
}
