package lanternshed.core.chain;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.PriorityQueue;
import java.util.Set;
import java.util.function.BiPredicate;

/**
 * Finds the chains from a machine to a card that fit at every joint (H-1), in every voltage (H-4),
 * in the bay (H-2, H-3) and with power (H-5): those that no other beats in price, time, speed,
 * slots and reach together, so that the cheapest, the quickest to fit and the fastest are among
 * them; and the cheapest with each adapter that would do, so that it can be compared.
 */
public final class ChainFinder {
  /** Nobody compares more ways than these. */
  private static final int MOST = 20;

  private final HostSide host;
  private final int machines;
  private final Optional<String> card;
  private final Map<Plug, List<Drawer.Item>> byHostEnd = new HashMap<>();

  /**
   * @param machines how many are done alike; the price is for each of them
   * @param card the joint that the card must have; empty for any
   */
  public ChainFinder(HostSide host, Drawer drawer, int machines, Optional<String> card) {
    this.host = host;
    this.machines = machines;
    this.card = card;
    for (Drawer.Item i : drawer.items()) {
      Piece.End e = i.piece().host();
      byHostEnd.computeIfAbsent(new Plug(e.joint(), e.side()), k -> new ArrayList<>()).add(i);
    }
  }

  /** A connector with its side, as it sticks out. */
  private record Plug(String joint, Joint.Side side) {}

  /** A plug with the voltage of its signals. */
  private record State(String joint, Joint.Side side, int millivolts) {}

  /**
   * A chain as far as it is, seen from its open end.
   *
   * @param main the first part that is no cable; "" as long as there is none
   * @param most sectors of a card that it reaches
   */
  record Label(
      Label before,
      String main,
      HostSide.Way way,
      Drawer.Item item,
      Piece.End open,
      int millivolts,
      int height,
      int bay,
      long price,
      int minutes,
      long reach,
      int slots,
      int parts,
      long most) {

    /** Whether nothing about the other is better. How high it is was asked of each part before. */
    boolean beats(Label o) {
      return price <= o.price
          && minutes <= o.minutes
          && reach >= o.reach
          && slots <= o.slots
          && most >= o.most
          && bay >= o.bay;
    }

    /** The same where only what it costs counts. */
    boolean undercuts(Label o) {
      boolean cheaper = price < o.price || price == o.price && minutes <= o.minutes;
      return cheaper && bay >= o.bay;
    }

    String key() {
      return String.join(" ", items().stream().map(i -> i.piece().key()).toList());
    }

    List<Drawer.Item> items() {
      List<Drawer.Item> out = new ArrayList<>();
      for (Label l = this; l.item != null; l = l.before) out.add(0, l.item);
      return out;
    }
  }

  /**
   * The chains, the cheapest first.
   *
   * @param chains empty where none fits
   * @param more that cost more than these
   * @param missing what would have to be found where none fits; "" else
   */
  public record Found(List<Chain> chains, int more, String missing) {}

  public Found find() {
    Search best = new Search(Label::beats, "");
    Map<String, Label> ends = new LinkedHashMap<>();
    best.ends().forEach(l -> ends.put(l.key(), l));
    for (String main : best.mains) {
      new Search(Label::undercuts, main).ends().forEach(l -> ends.putIfAbsent(l.key(), l));
    }
    List<Label> sorted =
        ends.values().stream()
            .sorted(CHEAPEST.thenComparing(Comparator.comparingLong(Label::reach).reversed()))
            .toList();
    Set<Label> told = new LinkedHashSet<>(sorted.subList(0, Math.min(MOST, sorted.size())));
    sorted.stream().min(Comparator.comparingInt(Label::minutes)).ifPresent(told::add);
    sorted.stream().max(Comparator.comparingLong(Label::reach)).ifPresent(told::add);
    List<Chain> chains = told.stream().map(l -> Chain.of(host, l, machines, this::ready)).toList();
    return new Found(
        chains, sorted.size() - chains.size(), chains.isEmpty() ? missing(best.kept.keySet()) : "");
  }

  private static final Comparator<Label> CHEAPEST =
      Comparator.comparingLong(Label::price)
          .thenComparingInt(Label::minutes)
          .thenComparingInt(Label::parts);

  /**
   * One search, the cheapest open end first. As no part makes anything cheaper or quicker, a plug
   * that was met before is never worth coming back to, and it ends.
   */
  private final class Search {
    private final BiPredicate<Label, Label> better;
    private final Map<State, List<Label>> kept = new HashMap<>();
    private final Map<String, List<Label>> ended = new HashMap<>();

    /** First parts that are no cable. */
    private final Set<String> mains = new LinkedHashSet<>();

    /**
     * @param main the first part that is no cable; "" for any
     */
    Search(BiPredicate<Label, Label> better, String main) {
      this.better = better;
      PriorityQueue<Label> open = new PriorityQueue<>(CHEAPEST);
      open.addAll(board());
      while (!open.isEmpty()) {
        Label l = open.poll();
        if (!l.main.isEmpty()) mains.add(l.main);
        if (l.open == null) {
          String joint = l.item.piece().host().joint();
          keep(ended.computeIfAbsent(joint, k -> new ArrayList<>()), l);
          continue;
        }
        State s = new State(l.open.joint(), l.open.side(), l.millivolts);
        if (!keep(kept.computeIfAbsent(s, k -> new ArrayList<>()), l)) continue;
        for (Drawer.Item i : fitting(l)) {
          on(l, i)
              .filter(n -> main.isEmpty() || n.main.isEmpty() || n.main.equals(main))
              .ifPresent(open::add);
        }
      }
    }

    List<Label> ends() {
      return ended.values().stream().flatMap(List::stream).toList();
    }

    /** Keeps it unless one that is kept is as good; those that it beats go. */
    private boolean keep(List<Label> there, Label l) {
      for (Label k : there) if (better.test(k, l)) return false;
      there.removeIf(k -> better.test(l, k));
      there.add(l);
      return true;
    }
  }

  /** What sticks out of the machine. */
  private List<Label> board() {
    List<Label> out = new ArrayList<>();
    for (HostSide.Way w : host.ways()) {
      Joint j = w.joint();
      out.add(
          new Label(
              null,
              "",
              w,
              null,
              new Piece.End(j.key(), j.board()),
              j.millivolts(),
              0,
              w.bay(),
              0,
              0,
              j.reach(),
              0,
              0,
              Long.MAX_VALUE));
    }
    return out;
  }

  /** The chain of just these parts, where it fits; however it compares with others. */
  public Optional<Chain> along(List<String> keys) {
    List<Label> at = board();
    for (String key : keys) {
      List<Label> next = new ArrayList<>();
      for (Label l : at) {
        if (l.open == null) continue;
        fitting(l).stream()
            .filter(i -> i.piece().key().equals(key))
            .forEach(i -> on(l, i).ifPresent(next::add));
      }
      at = next;
    }
    return at.stream()
        .filter(l -> l.open == null && l.item != null)
        .findFirst()
        .map(l -> Chain.of(host, l, machines, this::ready));
  }

  /** What one that is bought ready costs, with the same two ends. */
  private OptionalLong ready(Piece p) {
    Plug plug = new Plug(p.host().joint(), p.host().side());
    return byHostEnd.getOrDefault(plug, List.of()).stream()
        .map(Drawer.Item::piece)
        .filter(o -> o.price().lot() == 0 && o.card() != null && o.card().equals(p.card()))
        .mapToLong(o -> o.price().each(1))
        .min();
  }

  /** The parts whose upper end goes into the open one. */
  private List<Drawer.Item> fitting(Label l) {
    Joint.Side other = l.open.side() == Joint.Side.M ? Joint.Side.F : Joint.Side.M;
    return byHostEnd.getOrDefault(new Plug(l.open.joint(), other), List.of());
  }

  private Optional<Label> on(Label l, Drawer.Item i) {
    Piece p = i.piece();
    boolean ends = p.endsChain();
    // Where room does not matter, no guide makes it matter.
    int bay = l.bay == 0 ? 0 : Math.max(l.bay, p.opens());
    int height = Math.max(l.height, p.height());
    if (!p.accepts().contains(l.millivolts)) return Optional.empty();
    if (bay > 0 && height > bay) return Optional.empty();
    if (power(host, p).isEmpty()) return Optional.empty();
    if (ends && card.isPresent() && !card.get().equals(p.host().joint())) return Optional.empty();
    long reach = Math.min(l.reach, p.reach() == 0 ? Long.MAX_VALUE : p.reach());
    if (!ends) reach = Math.min(reach, Joint.get(p.card().joint()).reach());
    return Optional.of(
        new Label(
            l,
            l.main.isEmpty() && !p.isCable() ? p.key() : l.main,
            l.way,
            i,
            p.card(),
            p.gives() == 0 ? l.millivolts : p.gives(),
            height,
            bay,
            l.price + i.price(machines),
            l.minutes + p.minutes(),
            reach,
            l.slots + p.slots(),
            l.parts + 1,
            p.most() == 0 ? l.most : Math.min(l.most, p.most())));
  }

  /**
   * Where a part has its power from, in words; empty where the machine has none for it. Where a
   * profile names no plug of power at all it is not known, and to be found by whoever opens it.
   */
  static Optional<String> power(HostSide host, Piece p) {
    if (p.needs().isEmpty()) {
      return Optional.of(
          Joint.get(p.host().joint()).power() ? "its own joint" : "nothing is needed");
    }
    if (host.power().isEmpty()) return Optional.of("");
    return host.power().stream()
        .filter(j -> p.needs().contains(j.key()))
        .map(Joint::name)
        .findFirst();
  }

  /** Between which two plugs a part is wanted: those next to what both sides reach. */
  private String missing(Set<State> reached) {
    Set<String> plugs = new LinkedHashSet<>();
    for (State s : reached) {
      plugs.add(Joint.get(s.joint()).name() + " (" + s.side().words() + ", " + volts(s) + ")");
    }
    String to = card.map(c -> "a card for " + Joint.get(c).name()).orElse("a card");
    if (plugs.isEmpty()) {
      return "The profile of "
          + host.name()
          + " names no joint that is known here; write its connectors into the profile.";
    }
    return "Nothing leads from "
        + String.join(" or ", plugs)
        + " to "
        + to
        + ". A part is wanted that takes one of these, fits the bay and has its power there.";
  }

  private static String volts(State s) {
    return s.millivolts() / 1000.0 + " V";
  }
}
