package lanternshed.server.jobs;

import jakarta.persistence.LockModeType;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.NativeQuery;
import org.springframework.data.jpa.repository.Query;

/** Jobs by id, and the list of them. */
public interface JobRepository extends JpaRepository<JobEntity, Long> {
  boolean existsByProfile(String profile);

  List<JobEntity> findByCardId(Long card);

  @Query("select j from JobEntity j where not j.removed and j.mediumId = ?1 order by j.id")
  List<JobEntity> fromMedium(long medium);

  @Query(
      "select j from JobEntity j where not j.removed and not j.closed and (j.mediumId = ?1 or j.cardId = ?1)")
  List<JobEntity> openOnMedium(long medium);

  @Query(
      "select j from JobEntity j where not j.removed and (j.rescuedId = ?1 or j.builtId = ?1 or j.goldenId = ?1)")
  List<JobEntity> onImage(long image);

  /** Every image that {@link #onImage} would find a job of. */
  @NativeQuery(
      "select distinct i from job j, unnest(array[j.rescued_id, j.built_id, j.golden_id]) i where not"
          + " j.removed and i is not null")
  Set<Long> imagesOfJobs();

  /** Every content that {@link #withContent} would find a job of. */
  @NativeQuery(
      "select distinct m[1] from job j, regexp_matches(j.recipe, '[0-9a-f]{64}', 'g') m where not"
          + " j.removed")
  Set<String> contentsOfRecipes();

  /** The name of a job's machine. */
  interface Named {
    long getId();

    String getMachine();
  }

  @Query("select j.id as id, j.machine as machine from JobEntity j where j.id in ?1")
  List<Named> named(Collection<Long> ids);

  /** Jobs that made one of these images. */
  @Query(
      "select distinct j from JobEntity j left join fetch j.stations where not j.removed and"
          + " (j.builtId in ?1 or j.goldenId in ?1) order by j.id")
  List<JobEntity> makers(Collection<Long> images);

  /** Jobs whose recipe takes this content. */
  @Query("select j from JobEntity j where not j.removed and j.recipe like concat('%', ?1, '%')")
  List<JobEntity> withContent(String sha256);

  /** The job for a change: whoever changes it at the same moment waits, and then sees this one. */
  @Lock(LockModeType.PESSIMISTIC_WRITE)
  @Query("select j from JobEntity j where j.id = ?1")
  Optional<JobEntity> findForChange(long id);

  /** What a job waits for, by its lamps and its work, the same words as {@link JobView#waits}. */
  String STANDING =
      """
      with standing as (
        select j.id, j.closed, j.machine, j.fault,
          coalesce(m.name, '') as medium,
          case
            when j.closed then 'closed'
            when exists (select 1 from work w where w.job_id = j.id and w.state in ('QUEUED', 'RUNNING'))
              then 'the shed is working'
            when exists (select 1 from station s where s.job_id = j.id and s.state = 'BRICK')
              then 'stopped'
            else 'in your hands'
          end as waits
        from job j left join medium m on m.id = j.medium_id
        where not j.removed
      )
      """;

  /** A job and what it waits for. */
  interface Standing {
    long getId();

    String getWaits();
  }

  /** How many wait for the same. */
  interface Tally {
    String getWaits();

    long getCount();
  }

  /** A page of the list: open ones first, in the order in which they came. */
  @NativeQuery(
      STANDING
          + """
          select id, waits from standing
          where (:waits = '' or waits = :waits)
            and (:words = '' or machine || ' ' || fault || ' ' || medium ilike :words escape '!')
          order by closed, id limit :size offset :from
          """)
  List<Standing> page(String words, String waits, int size, int from);

  @NativeQuery(
      STANDING
          + """
          select waits, count(*) as count from standing
          where (:words = '' or machine || ' ' || fault || ' ' || medium ilike :words escape '!')
          group by waits
          """)
  List<Tally> tally(String words);

  @Query("select distinct j from JobEntity j left join fetch j.stations where j.id in ?1")
  List<JobEntity> withStations(List<Long> ids);
}
