package lanternshed.server.roms;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import lanternshed.core.rom.ReadBack;

/** A chip that was read back (O-7). */
@Entity
@Table(name = "rom_reading")
class ReadingEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  private long romId;
  private String pattern;
  private int differing;
  private String sentence;
  private String sha256;
  private Instant at;

  protected ReadingEntity() {}

  ReadingEntity(long romId, ReadBack r, String sha256, Instant at) {
    this.romId = romId;
    this.pattern = r.pattern().name();
    this.differing = r.differing();
    this.sentence = r.sentence();
    this.sha256 = sha256;
    this.at = at;
  }

  RomService.ReadingView view() {
    return new RomService.ReadingView(id, pattern, differing, sentence, sha256, at);
  }
}
