package lanternshed.server.tokens;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

/** Token tables. */
interface TokenTableRepository extends JpaRepository<TokenTableEntity, Long> {
  List<TokenTableEntity> findByRemovedFalseOrderByNameAscIdAsc();

  long countByRemovedFalse();
}
