package lanternshed.server.images;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.List;
import lanternshed.core.survey.Holes;
import lanternshed.core.work.Digests;
import lanternshed.server.shell.Json;
import org.hibernate.annotations.DynamicUpdate;
import tools.jackson.core.type.TypeReference;

/** What is known of an image; its bytes lie on the shelf under its digest. */
@Entity
@DynamicUpdate
@Table(name = "image")
public class ImageEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  private String name;
  private String sha256;
  private String crc32;
  private String chunks;
  private long sectors;
  private String origin;
  private long lost;
  private String hits;
  private boolean removed;
  private boolean here = true;
  private String layout;
  private Instant created;

  protected ImageEntity() {}

  ImageEntity(
      String name,
      Digests digests,
      long sectors,
      String origin,
      long lost,
      List<Holes.Hit> hits,
      String layout,
      Instant created) {
    this.layout = layout;
    this.name = name;
    this.sha256 = digests.sha256();
    this.crc32 = String.format("%08x", digests.crc32());
    this.chunks = String.join(" ", digests.chunks());
    this.sectors = sectors;
    this.origin = origin;
    this.lost = lost;
    this.hits = Json.write(hits);
    this.created = created;
  }

  public Long id() {
    return id;
  }

  public String name() {
    return name;
  }

  boolean removed() {
    return removed;
  }

  /** Whether its bytes still lie on the shelf. */
  public boolean here() {
    return here;
  }

  /** How it lies, where somebody had to say it; "" where nobody did. */
  public String layout() {
    return layout;
  }

  void setLayout(String now) {
    layout = now;
  }

  void setHere(boolean now) {
    here = now;
  }

  public String sha256() {
    return sha256;
  }

  public String crc32() {
    return crc32;
  }

  public List<String> chunks() {
    return List.of(chunks.split(" "));
  }

  public long sectors() {
    return sectors;
  }

  public String origin() {
    return origin;
  }

  public long lost() {
    return lost;
  }

  public List<Holes.Hit> hits() {
    return hits(hits);
  }

  /** Hits as they are kept. */
  public static List<Holes.Hit> hits(String json) {
    return Json.read(json, new TypeReference<List<Holes.Hit>>() {});
  }

  void setRemoved(boolean now) {
    removed = now;
  }

  void setName(String newName) {
    name = newName;
  }

  public Instant created() {
    return created;
  }
}
