package lanternshed.server.logbook;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.NativeQuery;

/** Lines of a job, the newest first. */
public interface LogRepository extends JpaRepository<LogLine, Long> {
  List<LogLine> findTop200ByJobIdOrderByIdDesc(long jobId);

  List<LogLine> findByJobIdOrderById(long jobId);

  boolean existsByCorrects(long line);

  /** PostgreSQL's full text search over all jobs; the words come as a bound parameter. */
  @NativeQuery(
      """
      select * from log_line
      where to_tsvector('english', text) @@ websearch_to_tsquery('english', :words)
      order by id desc limit 100
      """)
  List<LogLine> search(String words);
}
