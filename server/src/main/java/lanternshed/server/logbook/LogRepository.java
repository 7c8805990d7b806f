package lanternshed.server.logbook;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

/** Lines of a job, the newest first. */
public interface LogRepository extends JpaRepository<LogLine, Long> {
  List<LogLine> findTop200ByJobIdOrderByIdDesc(long jobId);
}
