package lanternshed.server.proving;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface TimingRepository extends JpaRepository<TimingEntity, Long> {
  List<TimingEntity> findByJobIdAndRemovedFalseOrderById(long jobId);
}
