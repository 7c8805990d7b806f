package lanternshed.server.pictures;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

interface PictureRepository extends JpaRepository<PictureEntity, Long> {
  List<PictureEntity> findByJobIdAndRemovedFalseOrderById(long jobId);
}
