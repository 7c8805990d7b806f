package lanternshed.server.files;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

/** Files of a job by their paths. */
interface BroughtRepository extends JpaRepository<BroughtEntity, Long> {
  List<BroughtEntity> findByJobIdAndRemovedFalseOrderByPath(long job);

  Optional<BroughtEntity> findByJobIdAndPath(long job, String path);

  long countByJobIdAndRemovedFalse(long job);

  /** A file, or all that is in a folder. */
  @Query(
      "select b from BroughtEntity b where b.jobId = ?1 and (b.path = ?2 or substring(b.path, 1, length(?2) + 1) = concat(?2, '/'))")
  List<BroughtEntity> under(long job, String path);
}
