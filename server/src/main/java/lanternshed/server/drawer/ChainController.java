package lanternshed.server.drawer;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import lanternshed.core.chain.Chain;
import lanternshed.core.chain.ChainFinder;
import lanternshed.core.chain.Piece;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The ways from a job's machine to a card, and the one that it takes. */
@RestController
class ChainController {
  private final ChainService chains;
  private final JobService jobs;

  ChainController(ChainService chains, JobService jobs) {
    this.chains = chains;
    this.jobs = jobs;
  }

  /**
   * @param chains the cheapest first
   * @param more that cost more
   * @param missing what would have to be found where there is none; "" else
   */
  record ChainsView(List<Chain> chains, int more, String missing) {}

  /**
   * The chain that a job takes.
   *
   * @param key of its parts; "" for none yet
   * @param fits whether it still does: a part or the machine may be another since
   * @param settings what is set on it by hand before power
   * @param last whether the card goes into its last joint; empty where nobody can say
   */
  record TakenView(
      String key, String name, boolean fits, List<Piece.Setting> settings, List<Chain.Told> last) {}

  record ChainChoice(long version, @NotNull @Size(max = 4000) String key) {}

  /** The ways that there are; looking for them is the work, so nobody asks who only shows one. */
  @GetMapping("/api/jobs/{id}/chains")
  ChainsView all(
      @PathVariable long id,
      @RequestParam(defaultValue = "1") @Min(1) @Max(1000) int machines,
      @RequestParam(defaultValue = "") @Size(max = 40) String card) {
    ChainFinder.Found f = chains.find(id, machines, card);
    return new ChainsView(f.chains(), f.more(), f.missing());
  }

  /**
   * @param card that is meant; 0 for the one that was written for the job
   */
  @GetMapping("/api/jobs/{id}/chain")
  TakenView taken(@PathVariable long id, @RequestParam(defaultValue = "0") long card) {
    JobEntity job = jobs.get(id);
    List<Chain.Told> last = chains.lastJoint(job, card).stream().toList();
    return ChainService.taken(job)
        .map(t -> new TakenView(t.key(), t.name(), chains.fits(job), t.settings(), last))
        .orElse(new TakenView("", "", false, List.of(), List.of()));
  }

  @PutMapping("/api/jobs/{id}/chain")
  void take(@PathVariable long id, @RequestBody @Valid ChainChoice c) {
    chains.take(id, c.version(), c.key());
  }
}
