package lanternshed.server.drawer;

import jakarta.persistence.EntityNotFoundException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import lanternshed.core.chain.Drawer;
import lanternshed.core.chain.Piece;
import lanternshed.core.measure.ShedException;
import lanternshed.server.shell.ConflictException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps the drawer: generic kinds that ship, own ones, and what lies of each. */
@Service
public class DrawerService {
  /** More kinds than anybody has; a file with more is no drawer. */
  private static final int MOST = 2000;

  private final DrawerRepository rows;

  DrawerService(DrawerRepository rows) {
    this.rows = rows;
  }

  /** All kinds with what lies of them. */
  public Drawer drawer() {
    Map<String, DrawerEntity> there =
        rows.findAll().stream().collect(Collectors.toMap(DrawerEntity::key, Function.identity()));
    List<Drawer.Item> out = new ArrayList<>();
    for (Piece p : Piece.shipped()) out.add(item(p, Optional.ofNullable(there.get(p.key()))));
    there.values().stream()
        .filter(e -> e.own().isPresent())
        .sorted((a, b) -> a.key().compareTo(b.key()))
        .forEach(e -> out.add(item(e.own().orElseThrow(), Optional.of(e))));
    return new Drawer(out);
  }

  private static Drawer.Item item(Piece p, Optional<DrawerEntity> e) {
    return new Drawer.Item(
        p, e.map(DrawerEntity::count).orElse(0), e.map(DrawerEntity::lies).orElse(""));
  }

  static boolean ships(String key) {
    return Piece.shipped().stream().anyMatch(p -> p.key().equals(key));
  }

  @Transactional
  public void count(String key, int count) {
    DrawerEntity e = row(key);
    e.count(count);
    rows.save(e);
  }

  @Transactional
  public void lies(String key, String where) {
    DrawerEntity e = row(key);
    e.lies(where.replaceAll("\\p{Cntrl}", " ").strip());
    rows.save(e);
  }

  private DrawerEntity row(String key) {
    Optional<DrawerEntity> there = rows.findById(key);
    if (!ships(key) && there.flatMap(DrawerEntity::own).isEmpty()) {
      throw new EntityNotFoundException("There is no part \"" + key + "\".");
    }
    return there.orElseGet(() -> new DrawerEntity(key));
  }

  /** Takes in a drawer, all of it or nothing: own kinds, and what lies of each. */
  @Transactional
  public void in(List<Drawer.Item> items) {
    for (Drawer.Item i : items) {
      if (!ships(i.piece().key())) own(i.piece());
      if (i.count() > 0 || !i.lies().isEmpty()) {
        count(i.piece().key(), i.count());
        lies(i.piece().key(), i.lies());
      }
    }
  }

  /**
   * Takes in a kind that somebody wrote, or changes it.
   *
   * @throws ShedException where it cannot be
   */
  @Transactional
  public void own(Piece p) {
    p.fault()
        .ifPresent(
            f -> {
              throw new ShedException(f);
            });
    if (ships(p.key())) {
      throw new ConflictException(
          "A part with the key \"" + p.key() + "\" ships with the shed; give yours another.");
    }
    if (rows.count() >= MOST && !rows.existsById(p.key())) {
      throw new ShedException("The drawer has " + MOST + " kinds; no more are taken.");
    }
    DrawerEntity e = rows.findById(p.key()).orElseGet(() -> new DrawerEntity(p.key()));
    e.own(p.text());
    rows.save(e);
  }

  @Transactional
  public void remove(String key) {
    if (ships(key)) {
      throw new ConflictException("This kind ships with the shed; set its count to 0 instead.");
    }
    rows.deleteById(key);
  }
}
