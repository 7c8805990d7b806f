package lanternshed.server.fault;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface TrialRepository extends JpaRepository<TrialEntity, Long> {
  List<TrialEntity> findByJobIdOrderById(long jobId);
}
