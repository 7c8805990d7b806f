package lanternshed.server.crossing;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

/** Files of a crossing. */
interface CrossingFileRepository extends JpaRepository<CrossingFileEntity, Long> {
  List<CrossingFileEntity> findByCrossingId(long crossing);

  Optional<CrossingFileEntity> findByCrossingIdAndPath(long crossing, String path);

  long countByCrossingId(long crossing);
}
