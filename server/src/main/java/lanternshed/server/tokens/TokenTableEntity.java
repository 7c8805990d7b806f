package lanternshed.server.tokens;

import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import lanternshed.server.shell.Removable;

/** A token table as it was brought. */
@Entity
@Table(name = "token_table")
class TokenTableEntity extends Removable {
  private String name;
  private String text;

  protected TokenTableEntity() {}

  TokenTableEntity(String name, String text) {
    this.name = name;
    this.text = text;
  }

  String name() {
    return name;
  }

  /** JSON as {@link lanternshed.core.kind.TokenTable} reads it. */
  String text() {
    return text;
  }
}
