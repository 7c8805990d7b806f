package lanternshed.server.roms;

import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;

interface RomRepository extends JpaRepository<RomEntity, Long> {
  /** What a list says of an image, without its bytes. */
  interface Listed {
    Long getId();

    String getName();

    int getSize();

    String getWhat();

    String getFault();

    String getMadeFrom();

    String getNeeds();

    int getDrives();
  }

  List<Listed> findByRemovedFalseOrderByIdDesc();

  List<RomEntity> findByJobIdAndRemovedFalseOrderById(long job);

  Optional<RomEntity> findFirstBySha256AndRemovedFalse(String sha256);

  long countByRemovedFalse();
}
