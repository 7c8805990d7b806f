package lanternshed.server.certificates;

import jakarta.persistence.EntityNotFoundException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import lanternshed.core.measure.Sha256;
import lanternshed.server.shell.Json;
import org.springframework.stereotype.Service;

/** Gives out certificates and keeps them byte for byte. */
@Service
public class CertificateService {
  private final CertificateRepository certificates;

  CertificateService(CertificateRepository certificates) {
    this.certificates = certificates;
  }

  /**
   * @return its number
   */
  public long issue(long mediumId, Certificate c) {
    String text = Json.written(c);
    String sha256 = Sha256.of(text.getBytes(StandardCharsets.UTF_8));
    return certificates.save(new CertificateEntity(mediumId, c, text, sha256)).id();
  }

  List<CertificateEntity> all() {
    return certificates.findAllByOrderByIdDesc();
  }

  CertificateEntity get(long id) {
    return certificates
        .findById(id)
        .orElseThrow(() -> new EntityNotFoundException("There is no certificate " + id + "."));
  }
}
