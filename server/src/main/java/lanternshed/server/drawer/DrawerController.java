package lanternshed.server.drawer;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import lanternshed.core.chain.Chain;
import lanternshed.core.chain.Drawer;
import lanternshed.core.chain.Joint;
import lanternshed.core.chain.Piece;
import lanternshed.core.measure.ShedException;
import lanternshed.server.shell.Json;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.core.JacksonException;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.JsonNode;

/** Shows the drawer, and takes in what lies there. */
@RestController
class DrawerController {
  private final DrawerService drawer;

  DrawerController(DrawerService drawer) {
    this.drawer = drawer;
  }

  /**
   * One kind of part.
   *
   * @param ships whether it is a generic kind of the shed
   * @param host its end towards the machine, in words
   * @param card its end towards the card; "" for a card
   * @param price of one
   * @param text the part as its JSON
   */
  record DrawerRow(
      String key,
      String name,
      boolean ships,
      int count,
      String lies,
      String host,
      String card,
      String price,
      String text) {
    static DrawerRow of(Drawer.Item i) {
      Piece p = i.piece();
      return new DrawerRow(
          p.key(),
          p.name(),
          DrawerService.ships(p.key()),
          i.count(),
          i.lies(),
          words(p.host()),
          p.endsChain() ? "" : words(p.card()),
          Chain.money(p.price().each(1)),
          p.text());
    }

    private static String words(Piece.End e) {
      return Joint.get(e.joint()).name() + ", " + e.side().words();
    }
  }

  record PieceCount(@Min(0) @Max(100_000) int count) {}

  record PiecePlace(@NotNull @Size(max = 120) String lies) {}

  record PieceText(@NotNull @Size(max = 20_000) String text) {}

  record DrawerText(@NotNull @Size(max = 2_000_000) String text) {}

  @GetMapping("/api/drawer")
  List<DrawerRow> all() {
    return drawer.drawer().items().stream().map(DrawerRow::of).toList();
  }

  /** A connector that cards are made for. */
  record CardKind(String key, String name) {}

  /** The kinds of card that there are in the drawer. */
  @GetMapping("/api/drawer/cards")
  List<CardKind> cards() {
    return drawer.drawer().items().stream()
        .map(Drawer.Item::piece)
        .filter(Piece::endsChain)
        .map(p -> Joint.get(p.host().joint()))
        .distinct()
        .map(j -> new CardKind(j.key(), j.name()))
        .toList();
  }

  /** What a part is made of, as a JSON Schema. */
  @GetMapping(path = "/api/drawer/schema", produces = MediaType.APPLICATION_JSON_VALUE)
  String schema() {
    return Piece.schema();
  }

  /** Count and place by themselves: another may be writing down the other of both. */
  @PutMapping("/api/drawer/{key}/count")
  void count(@PathVariable String key, @RequestBody @Valid PieceCount c) {
    drawer.count(key, c.count());
  }

  @PutMapping("/api/drawer/{key}/place")
  void lies(@PathVariable String key, @RequestBody @Valid PiecePlace p) {
    drawer.lies(key, p.lies());
  }

  @PostMapping("/api/drawer")
  @ResponseStatus(HttpStatus.CREATED)
  void own(@RequestBody @Valid PieceText t) {
    drawer.own(Piece.read(t.text()));
  }

  @DeleteMapping("/api/drawer/{key}")
  void remove(@PathVariable String key) {
    drawer.remove(key);
  }

  @GetMapping("/api/drawer.json")
  ResponseEntity<String> out() {
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"drawer.json\"")
        .contentType(MediaType.APPLICATION_JSON)
        .body(Json.written(drawer.drawer().items()));
  }

  /** Takes in a drawer from a file: counts of known kinds, and kinds that are not known here. */
  @PostMapping("/api/drawer/import")
  void in(@RequestBody @Valid DrawerText t) {
    List<JsonNode> all;
    try {
      all = Json.read(t.text(), new TypeReference<List<JsonNode>>() {});
    } catch (JacksonException e) {
      throw new ShedException("This file is no drawer: it is not a list of parts in JSON.");
    }
    // All of it is looked at before anything is kept.
    drawer.in(all.stream().map(DrawerController::item).toList());
  }

  private static Drawer.Item item(JsonNode n) {
    Piece p = Piece.read(n.path("piece").toString());
    int count = n.path("count").asInt(0);
    if (count < 0 || count > 100_000) {
      throw new ShedException("The part \"" + p.name() + "\" has a count of " + count + ".");
    }
    String lies = n.path("lies").asString("");
    return new Drawer.Item(p, count, lies.substring(0, Math.min(120, lies.length())));
  }
}
