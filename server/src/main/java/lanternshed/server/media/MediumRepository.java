package lanternshed.server.media;

import java.util.List;
import java.util.Set;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

/** Media by id. */
public interface MediumRepository extends JpaRepository<MediumEntity, Long> {
  List<MediumEntity> findByNodeNotAndRemovedFalse(String node);

  List<MediumEntity> findByHoldsImage(long image);

  @Query("select m.holdsImage from MediumEntity m where m.holdsImage is not null")
  Set<Long> held();

  List<MediumEntity> findByRemovedFalseOrderByKindAscNameAsc();
}
