package lanternshed.server.crossing;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

/** Crossings, the newest first. */
interface CrossingRepository extends JpaRepository<CrossingEntity, Long> {
  List<CrossingEntity> findTop100ByRemovedFalseOrderByIdDesc();
}
