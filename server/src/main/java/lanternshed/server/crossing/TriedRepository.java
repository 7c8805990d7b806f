package lanternshed.server.crossing;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

/** What was tried on a machine. */
interface TriedRepository extends JpaRepository<TriedEntity, Long> {
  List<TriedEntity> findByCrossingIdAndRemovedFalseOrderById(long crossing);

  long countByCrossingIdAndRemovedFalse(long crossing);
}
