package lanternshed.server.jobs;

import org.springframework.data.jpa.repository.JpaRepository;

/** Jobs by id. */
public interface JobRepository extends JpaRepository<JobEntity, Long> {
  boolean existsByProfile(String profile);
}
