package lanternshed.server.certificates;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** A certificate as it was given out; it is never changed. */
@Entity
@Table(name = "certificate")
class CertificateEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  private long mediumId;
  private Instant made;
  private boolean wiped;
  private String sentence;
  private String text;
  private String sha256;

  protected CertificateEntity() {}

  CertificateEntity(long mediumId, Certificate c, String text, String sha256) {
    this.mediumId = mediumId;
    this.made = c.ended();
    this.wiped = c.wiped();
    this.sentence = c.sentence();
    this.text = text;
    this.sha256 = sha256;
  }

  Long id() {
    return id;
  }

  long mediumId() {
    return mediumId;
  }

  Instant made() {
    return made;
  }

  boolean wiped() {
    return wiped;
  }

  String sentence() {
    return sentence;
  }

  String text() {
    return text;
  }

  String sha256() {
    return sha256;
  }
}
