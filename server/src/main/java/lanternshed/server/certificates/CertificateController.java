package lanternshed.server.certificates;

import java.time.Instant;
import java.util.List;
import lanternshed.server.paper.Paper;
import lanternshed.server.shell.Json;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.core.JacksonException;

/** Shows certificates, and hands them out as JSON and on paper. */
@RestController
class CertificateController {
  private final CertificateService certificates;

  CertificateController(CertificateService certificates) {
    this.certificates = certificates;
  }

  /**
   * @param wiped whether nothing of what was looked at may still be there
   * @param sha256 of the certificate's own JSON text
   */
  record CertificateView(
      long id,
      long mediumId,
      String medium,
      String serial,
      Instant made,
      boolean wiped,
      String sentence,
      String sha256) {
    static CertificateView of(CertificateEntity e) {
      try {
        Certificate.Medium m = Json.read(e.text(), Certificate.class).medium();
        return of(e, m.name(), m.serial(), e.sentence());
      } catch (JacksonException x) {
        // One that was damaged takes no others with it; its text is handed out as it is.
        return of(
            e,
            "medium " + e.mediumId(),
            "",
            "The text of this certificate does not read: damaged.");
      }
    }

    private static CertificateView of(
        CertificateEntity e, String medium, String serial, String sentence) {
      return new CertificateView(
          e.id(), e.mediumId(), medium, serial, e.made(), e.wiped(), sentence, e.sha256());
    }
  }

  @GetMapping("/api/certificates")
  List<CertificateView> all() {
    return certificates.all().stream().map(CertificateView::of).toList();
  }

  @GetMapping("/api/certificates/{id}.json")
  ResponseEntity<String> json(@PathVariable long id) {
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            "attachment; filename=\"wiping-certificate-" + id + ".json\"")
        .contentType(MediaType.APPLICATION_JSON)
        .body(certificates.get(id).text());
  }

  @GetMapping("/api/certificates/{id}.pdf")
  ResponseEntity<byte[]> pdf(
      @PathVariable long id, @RequestParam(defaultValue = "A4") Paper paper) {
    CertificateEntity e = certificates.get(id);
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            "inline; filename=\"wiping-certificate-" + id + ".pdf\"")
        .contentType(MediaType.APPLICATION_PDF)
        .body(
            CertificateSheet.of(e.id(), Json.read(e.text(), Certificate.class), e.sha256(), paper));
  }
}
