package lanternshed.server.demo;

import org.springframework.data.jpa.repository.JpaRepository;

/** Steps of the demonstration that were done, by name. */
interface DemoStepRepository extends JpaRepository<DemoStepEntity, String> {}
