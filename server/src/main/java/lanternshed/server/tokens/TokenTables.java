package lanternshed.server.tokens;

import jakarta.persistence.EntityNotFoundException;
import java.util.List;
import lanternshed.core.kind.TokenTable;
import lanternshed.core.measure.ShedException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps token tables that somebody brought. */
@Service
public class TokenTables {
  private static final int MOST = 200;
  private final TokenTableRepository tables;

  TokenTables(TokenTableRepository tables) {
    this.tables = tables;
  }

  /**
   * A table in the list of them.
   *
   * @param words tokens that it knows
   */
  public record TableLine(long id, String name, int words) {}

  List<TableLine> lines() {
    return tables.findByRemovedFalseOrderByNameAscIdAsc().stream()
        .map(t -> new TableLine(t.id(), t.name(), TokenTable.read(t.text()).words()))
        .toList();
  }

  /**
   * Keeps one.
   *
   * @throws ShedException where it does not read, with what is wrong and where
   */
  @Transactional
  public TableLine add(String name, String text) {
    if (tables.countByRemovedFalse() >= MOST) {
      throw new ShedException("That many token tables are enough; take one out first.");
    }
    int words = TokenTable.read(text).words();
    return new TableLine(tables.save(new TokenTableEntity(name, text)).id(), name, words);
  }

  @Transactional
  public void remove(long id, boolean removed) {
    get(id).setRemoved(removed);
  }

  /** The table of that number; 0 for none, which lists tokens by their numbers. */
  public TokenTable find(long id) {
    return id == 0 ? TokenTable.NONE : TokenTable.read(get(id).text());
  }

  private TokenTableEntity get(long id) {
    return tables
        .findById(id)
        .orElseThrow(() -> new EntityNotFoundException("There is no token table " + id + "."));
  }
}
