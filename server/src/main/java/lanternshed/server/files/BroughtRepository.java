package lanternshed.server.files;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

/** Files of a job by their paths. */
interface BroughtRepository extends JpaRepository<BroughtEntity, Long> {
  List<BroughtEntity> findByJobIdAndRemovedFalseOrderByPath(long job);

  Optional<BroughtEntity> findByJobIdAndFolded(long job, String folded);

  /** A file that stands where one of these folders would. */
  Optional<BroughtEntity> findFirstByJobIdAndRemovedFalseAndFoldedIn(
      long job, List<String> folders);

  /** Something in a folder that would stand where a file is; "0" comes right behind "/". */
  @Query(
      "select count(b) from BroughtEntity b where b.jobId = ?1 and not b.removed and b.folded >= concat(?2, '/') and b.folded < concat(?2, '0')")
  long inFolder(long job, String folded);

  long countByJobIdAndRemovedFalse(long job);

  /** A file, or all that is in a folder. */
  @Query(
      "select b from BroughtEntity b where b.jobId = ?1 and (b.path = ?2 or substring(b.path, 1, length(?2) + 1) = concat(?2, '/'))")
  List<BroughtEntity> under(long job, String path);
}
