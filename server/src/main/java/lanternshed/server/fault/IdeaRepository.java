package lanternshed.server.fault;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface IdeaRepository extends JpaRepository<IdeaEntity, Long> {
  List<IdeaEntity> findByJobIdOrderById(long jobId);
}
