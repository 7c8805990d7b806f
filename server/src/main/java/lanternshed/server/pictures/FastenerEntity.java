package lanternshed.server.pictures;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

/** A fastener marked on a picture; x and y in thousandths of its width and height. */
@Entity
@Table(name = "fastener")
class FastenerEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  private long pictureId;
  private int number;
  private int x;
  private int y;
  private String kind;
  private String length;
  private String lies;

  protected FastenerEntity() {}

  FastenerEntity(long pictureId, PictureService.Mark f) {
    this.pictureId = pictureId;
    this.number = f.number();
    this.x = f.x();
    this.y = f.y();
    this.kind = f.kind().strip();
    this.length = f.length().strip();
    this.lies = f.lies().strip();
  }

  PictureService.Mark view() {
    return new PictureService.Mark(number, x, y, kind, length, lies);
  }
}
