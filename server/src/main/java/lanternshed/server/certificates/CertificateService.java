package lanternshed.server.certificates;

import jakarta.persistence.EntityNotFoundException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.server.shell.Json;
import org.springframework.stereotype.Service;
import tools.jackson.core.JacksonException;

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

  /**
   * What a certificate says.
   *
   * @throws ShedException where its text is damaged; it takes no other with it
   */
  static Certificate read(CertificateEntity e) {
    try {
      return Json.read(e.text(), Certificate.class);
    } catch (JacksonException x) {
      throw new ShedException(
          "The text of certificate "
              + e.id()
              + " does not read: it was changed since it was given. It vouches for nothing.",
          x);
    }
  }
}
