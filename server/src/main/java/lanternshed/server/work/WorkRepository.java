package lanternshed.server.work;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

/** Work by id, and the piece that a job has in hand. */
public interface WorkRepository extends JpaRepository<WorkEntity, Long> {
  @Query("select w from WorkEntity w where w.jobId = ?1 and w.state in (QUEUED, RUNNING, PAUSED)")
  Optional<WorkEntity> findActive(long jobId);

  @Query("select w from WorkEntity w where w.jobId in ?1 and w.state in (QUEUED, RUNNING, PAUSED)")
  List<WorkEntity> findActive(List<Long> jobs);

  /** Work on a medium that is not over. */
  @Query(
      "select w from WorkEntity w where w.mediumId = ?1 and w.state in (QUEUED, RUNNING, PAUSED)")
  List<WorkEntity> onMedium(long medium);

  /** Work with an image of the shelf that is not over. */
  @Query("select w from WorkEntity w where w.imageId = ?1 and w.state in (QUEUED, RUNNING, PAUSED)")
  List<WorkEntity> withImage(long image);

  @Query(
      "select w.imageId from WorkEntity w where w.imageId is not null and w.state in (QUEUED, RUNNING,"
          + " PAUSED)")
  Set<Long> images();

  /** Whether a job is off the bench; it stays as it is until the transaction ends. */
  @Query(value = "select removed from job where id = ?1 for update", nativeQuery = true)
  Optional<Boolean> jobRemoved(long job);

  /** Whether a medium is out of the drawer; it stays as it is until the transaction ends. */
  @Query(value = "select removed from medium where id = ?1 for update", nativeQuery = true)
  Optional<Boolean> mediumRemoved(long medium);

  /** Work of no job that is not over, or ended last. */
  @Query("select w from WorkEntity w where w.jobId is null order by w.id desc limit 5")
  List<WorkEntity> ofNoJob();

  List<WorkEntity> findByJobIdAndKindAndState(
      long jobId, WorkEntity.Kind kind, WorkEntity.State state);

  List<WorkEntity> findByStateIn(List<WorkEntity.State> states);

  Optional<WorkEntity> findFirstByJobIdAndKindOrderByIdDesc(long jobId, WorkEntity.Kind kind);
}
