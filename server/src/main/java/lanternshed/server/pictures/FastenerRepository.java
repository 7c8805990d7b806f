package lanternshed.server.pictures;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface FastenerRepository extends JpaRepository<FastenerEntity, Long> {
  List<FastenerEntity> findByPictureIdOrderByNumber(long pictureId);

  void deleteByPictureId(long pictureId);
}
