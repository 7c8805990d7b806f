package lanternshed.server.certificates;

import java.util.List;
import org.springframework.data.jpa.repository.JpaRepository;

/** Certificates, the newest first. */
interface CertificateRepository extends JpaRepository<CertificateEntity, Long> {
  List<CertificateEntity> findAllByOrderByIdDesc();
}
