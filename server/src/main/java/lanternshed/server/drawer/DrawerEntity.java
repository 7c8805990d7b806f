package lanternshed.server.drawer;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.util.Optional;
import lanternshed.core.chain.Piece;

/** What lies of one kind of part, and the kind itself where somebody added it. */
@Entity
@Table(name = "drawer")
class DrawerEntity {
  @Id private String key;
  @Version private Long version;
  private int count;
  private String lies = "";
  private String piece = "";

  protected DrawerEntity() {}

  DrawerEntity(String key) {
    this.key = key;
  }

  String key() {
    return key;
  }

  int count() {
    return count;
  }

  String lies() {
    return lies;
  }

  void count(int now) {
    count = now;
  }

  void lies(String where) {
    lies = where;
  }

  Optional<Piece> own() {
    return piece.isEmpty() ? Optional.empty() : Optional.of(Piece.read(piece));
  }

  void own(String text) {
    piece = text;
  }
}
