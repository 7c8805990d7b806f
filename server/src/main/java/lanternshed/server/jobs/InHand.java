package lanternshed.server.jobs;

import java.util.List;
import java.util.Optional;

/** The long work that a job has in hand; those who do it say so. */
public interface InHand {

  /** A piece that is not over. */
  record Piece(long job, long id, boolean running) {}

  Optional<Piece> of(long job);

  List<Piece> of(List<Long> jobs);
}
