package lanternshed.server.certificates;

import java.time.Instant;
import java.util.List;
import lanternshed.core.measure.ShedException;
import lanternshed.server.paper.Paper;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

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
        Certificate.Medium m = CertificateService.read(e).medium();
        return of(e, m.name(), m.serial(), e.wiped(), e.sentence());
      } catch (ShedException x) {
        return of(e, "medium " + e.mediumId(), "", false, x.getMessage());
      }
    }

    private static CertificateView of(
        CertificateEntity e, String medium, String serial, boolean wiped, String sentence) {
      return new CertificateView(
          e.id(), e.mediumId(), medium, serial, e.made(), wiped, sentence, e.sha256());
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
        .body(CertificateSheet.of(e.id(), CertificateService.read(e), e.sha256(), paper));
  }
}
