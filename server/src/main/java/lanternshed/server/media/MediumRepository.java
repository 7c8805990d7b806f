package lanternshed.server.media;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

/** Media by id. */
public interface MediumRepository extends JpaRepository<MediumEntity, Long> {
  List<MediumEntity> findByNodeNotAndRemovedFalse(String node);

  List<MediumEntity> findByHoldsImage(long image);

  List<MediumEntity> findByRemovedFalseOrderByKindAscNameAsc();
}
