package lanternshed.server.crossing;

import java.util.List;
import java.util.Set;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

/** Crossings, the newest first. */
interface CrossingRepository extends JpaRepository<CrossingEntity, Long> {
  List<CrossingEntity> findTop100ByRemovedFalseOrderByIdDesc();

  @Query(
      "select c.id from CrossingEntity c where not c.removed and c.carried = '' and c.imageId = ?1")
  List<Long> waitingFor(long image);

  @Query("select c.imageId from CrossingEntity c where not c.removed and c.carried = ''")
  Set<Long> imagesOfWaiting();

  @Query(
      "select distinct f.sha256 from CrossingEntity c, CrossingFileEntity f where f.crossingId = c.id and not c.removed and c.carried = ''")
  Set<String> contentsOfWaiting();

  @Query(
      "select distinct c.id from CrossingEntity c, CrossingFileEntity f where f.crossingId = c.id and not c.removed and c.carried = '' and f.sha256 = ?1")
  List<Long> waitingWith(String sha256);
}
