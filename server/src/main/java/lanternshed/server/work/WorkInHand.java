package lanternshed.server.work;

import java.util.List;
import java.util.Optional;
import lanternshed.server.jobs.InHand;
import org.springframework.stereotype.Component;

/** What jobs have in hand, from the work itself. */
@Component
class WorkInHand implements InHand {
  private final WorkRepository works;

  WorkInHand(WorkRepository works) {
    this.works = works;
  }

  @Override
  public Optional<Piece> of(long job) {
    return works.findActive(job).map(WorkInHand::piece);
  }

  @Override
  public List<Piece> of(List<Long> jobs) {
    return works.findActive(jobs).stream().map(WorkInHand::piece).toList();
  }

  private static Piece piece(WorkEntity w) {
    return new Piece(w.jobId(), w.id(), w.running());
  }
}
