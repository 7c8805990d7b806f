package lanternshed.core.chain;

import java.util.List;

/** What lies in the shed, and what could be bought. */
public record Drawer(List<Item> items) {

  /**
   * @param count how many lie there; 0 for one that would be bought
   * @param lies where
   */
  public record Item(Piece piece, int count, String lies) {

    /** What it costs each, where a job is done so many times: what lies there is paid for. */
    public long price(int machines) {
      int buy = missing(machines);
      return buy == 0 ? 0 : piece.price().each(buy) * buy / machines;
    }

    public int missing(int machines) {
      return Math.max(0, machines - count);
    }
  }

  public Drawer {
    items = List.copyOf(items);
  }

  /** Nothing lies there. */
  public static Drawer empty() {
    return new Drawer(Piece.shipped().stream().map(p -> new Item(p, 0, "")).toList());
  }
}
