package lanternshed.server.images;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

/** Images by id and by digest. */
public interface ImageRepository extends JpaRepository<ImageEntity, Long> {
  List<ImageEntity> findByRemovedFalseOrderByCreatedDesc();

  /** Those whose bytes lie here, what was taken away first. */
  List<ImageEntity> findByHereTrueOrderByRemovedDescNameAsc();

  List<ImageEntity> findAllByOrderByRemovedDescNameAsc();

  Optional<ImageEntity> findBySha256(String sha256);
}
