package lanternshed.server.machines;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface MachineRepository extends JpaRepository<MachineEntity, String> {
  List<MachineEntity> findAllByOrderByCreated();
}
