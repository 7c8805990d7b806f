package lanternshed.server.roms;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface ReadingRepository extends JpaRepository<ReadingEntity, Long> {
  List<ReadingEntity> findTop20ByRomIdOrderByIdDesc(long romId);
}
