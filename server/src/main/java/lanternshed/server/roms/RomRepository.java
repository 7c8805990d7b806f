package lanternshed.server.roms;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface RomRepository extends JpaRepository<RomEntity, Long> {
  List<RomEntity> findByRemovedFalseOrderByIdDesc();

  Optional<RomEntity> findFirstBySha256AndRemovedFalse(String sha256);

  long countByRemovedFalse();
}
