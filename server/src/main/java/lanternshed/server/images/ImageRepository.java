package lanternshed.server.images;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Query;

/** Images by id and by digest. */
public interface ImageRepository extends JpaRepository<ImageEntity, Long> {
  List<ImageEntity> findByRemovedFalseOrderByCreatedDesc();

  /** Those whose bytes lie here, what was taken away first. */
  List<ImageEntity> findByHereTrueOrderByRemovedDescNameAsc();

  List<ImageEntity> findAllByOrderByRemovedDescNameAsc();

  Optional<ImageEntity> findBySha256(String sha256);

  /** Whether its bytes are here, and stay so until the transaction ends. */
  @Query(value = "select here from image where id = ?1 for share", nativeQuery = true)
  Optional<Boolean> hold(long id);

  /** The same for whoever gives them back: waits for all who hold it, and keeps others waiting. */
  @Query(value = "select here from image where id = ?1 for update", nativeQuery = true)
  Optional<Boolean> take(long id);
}
