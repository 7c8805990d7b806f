package lanternshed.server.drawer;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Optional;
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
   * @param missing what would have to be found where there is none; "" else
   * @param taken the key of the chain that the job takes; "" for none yet
   * @param fits whether that one still fits
   * @param settings what is set on it by hand before power
   */
  record ChainsView(
      List<Chain> chains,
      int more,
      String missing,
      String taken,
      String takenName,
      boolean fits,
      List<Piece.Setting> settings) {}

  record ChainChoice(long version, @NotNull @Size(max = 400) String key) {}

  @GetMapping("/api/jobs/{id}/chains")
  ChainsView all(
      @PathVariable long id,
      @RequestParam(defaultValue = "1") @Min(1) @Max(1000) int machines,
      @RequestParam(defaultValue = "") @Size(max = 40) String card) {
    ChainFinder.Found f = chains.find(id, machines, card);
    JobEntity job = jobs.get(id);
    Optional<ChainService.Taken> t = ChainService.taken(job);
    return new ChainsView(
        f.chains(),
        f.more(),
        f.missing(),
        t.map(ChainService.Taken::key).orElse(""),
        t.map(ChainService.Taken::name).orElse(""),
        chains.fits(job),
        t.map(ChainService.Taken::settings).orElse(List.of()));
  }

  @PutMapping("/api/jobs/{id}/chain")
  void take(@PathVariable long id, @RequestBody @Valid ChainChoice c) {
    chains.take(id, c.version(), c.key());
  }
}
