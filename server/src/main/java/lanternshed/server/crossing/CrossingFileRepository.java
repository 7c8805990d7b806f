package lanternshed.server.crossing;

import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

/** Files of a crossing. */
interface CrossingFileRepository extends JpaRepository<CrossingFileEntity, Long> {
  List<CrossingFileEntity> findByCrossingId(long crossing);

  Optional<CrossingFileEntity> findByCrossingIdAndPath(long crossing, String path);

  long countByCrossingId(long crossing);

  /** How many files of a crossing there are. */
  interface Tally {
    long getCrossing();

    long getCount();
  }

  @Query(
      "select f.crossingId as crossing, count(f) as count from CrossingFileEntity f where f.crossingId"
          + " in ?1 group by f.crossingId")
  List<Tally> tally(Collection<Long> crossings);
}
