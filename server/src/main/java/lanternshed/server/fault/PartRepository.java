package lanternshed.server.fault;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface PartRepository extends JpaRepository<PartEntity, Long> {
  List<PartEntity> findByJobIdOrderById(long jobId);
}
