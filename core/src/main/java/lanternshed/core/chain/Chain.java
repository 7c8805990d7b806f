package lanternshed.core.chain;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.Function;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;

/**
 * One way from the board to the card, with what it means.
 *
 * @param key the keys of its parts, by which it is found again
 * @param price for each machine, in hundredths
 * @param priceText the same as it is shown
 * @param priceBecause what it is made of (O-14)
 * @param toBuy names of what does not lie in the drawer
 * @param reach kB/s through its slowest part
 * @param reachText the same as it is shown
 * @param most sectors of a card that it reaches; 0 for no bound of its own
 * @param links from the board down
 * @param tells what the plan and whoever fits it must know
 */
public record Chain(
    String key,
    String name,
    long price,
    String priceText,
    Sum priceBecause,
    int machines,
    int minutes,
    int slots,
    long reach,
    String reachText,
    long most,
    List<String> toBuy,
    List<Joined> links,
    List<Told> tells) {

  private static final int MOST_MACHINES = 1000;

  /** How a thing stands. */
  public enum Verdict {
    FITS,
    /** It works when somebody minds it. */
    CARE,
    /** Set by hand before power. */
    SET,
    /** It bounds the plan. */
    BOUND
  }

  /** One thing that a chain says. */
  public record Told(Verdict verdict, String text, Sum because) {}

  /**
   * One part with the joint above it.
   *
   * @param have how many lie in the drawer
   */
  public record Joined(
      String joint,
      Sum jointBecause,
      String piece,
      String name,
      String facts,
      int have,
      String lies,
      List<Told> tells) {}

  static Chain of(
      HostSide host, ChainFinder.Label end, int machines, Function<Piece, OptionalLong> ready) {
    List<Drawer.Item> items = end.items();
    List<Joined> links = new ArrayList<>();
    Piece.End open = new Piece.End(end.way().joint().key(), end.way().joint().board());
    int millivolts = end.way().joint().millivolts();
    for (Drawer.Item i : items) {
      Piece p = i.piece();
      links.add(
          new Joined(
              pins(open),
              joined(open, p, millivolts),
              p.key(),
              p.name(),
              facts(p),
              i.count(),
              i.lies(),
              own(host, p)));
      open = p.card();
      if (p.gives() > 0) millivolts = p.gives();
    }
    return new Chain(
        end.key(),
        name(items),
        end.price(),
        money(end.price()),
        cost(items, end.price(), machines, ready),
        machines,
        end.minutes(),
        end.slots(),
        end.reach(),
        rate(end.reach()),
        end.most() == Long.MAX_VALUE ? 0 : end.most(),
        items.stream().filter(i -> i.missing(machines) > 0).map(i -> i.piece().name()).toList(),
        links,
        told(end, items));
  }

  /** What is set on its parts, in the order of the chain. */
  public List<Piece.Setting> settings(List<Piece> known) {
    return List.of(key.split(" ")).stream()
        .flatMap(k -> known.stream().filter(p -> p.key().equals(k)))
        .flatMap(p -> p.settings().stream())
        .toList();
  }

  /** O-14: (lots + postage + tools) ÷ pieces + parts, part by part; what lies there is paid for. */
  private static Sum cost(
      List<Drawer.Item> items, long price, int machines, Function<Piece, OptionalLong> ready) {
    Sum.Builder sum = Sum.of("O-14", machines == 1 ? "Price" : "Price of each of " + machines);
    List<String> said = new ArrayList<>();
    for (Drawer.Item i : items) {
      int buy = i.missing(machines);
      String name = i.piece().name();
      if (buy == 0) sum.line("+", name + ", in the drawer", 0, money(0));
      else
        sum.line(
            "+",
            name + bought(i.piece(), buy, machines),
            i.price(machines),
            money(i.price(machines)));
      Piece p = i.piece();
      if (p.price().lot() > 0) {
        ready.apply(p).ifPresent(r -> said.add(evens(p, r)));
      }
    }
    sum.line("=", "each", price, money(price));
    said.add(
        "What lies in the drawer is paid for; postage and tools are shared by all that are made.");
    return sum.because(String.join(" ", said)).done();
  }

  private static String bought(Piece p, int buy, int machines) {
    Piece.Price x = p.price();
    if (x.lot() == 0) return buy == machines ? "" : ", " + buy + " of " + machines + " to buy";
    long lots = x.lots(buy);
    return ": ("
        + Say.plural(lots, "lot", "lots")
        + " of "
        + money(x.lot())
        + " + "
        + money(x.postage())
        + " postage + "
        + money(x.tools())
        + " tools) ÷ "
        + buy
        + " + "
        + money(x.parts())
        + " parts";
  }

  /** From how many on a kit is cheaper than a ready one of the same joints. */
  private static String evens(Piece kit, long ready) {
    for (int n = 1; n <= MOST_MACHINES; n++) {
      if (kit.price().each(n) < ready) {
        return "Against a ready one for " + money(ready) + " it pays from " + n + " on.";
      }
    }
    return "A ready one for " + money(ready) + " is cheaper, however many are made.";
  }

  /** Hundredths of whatever is paid with. */
  public static String money(long hundredths) {
    return hundredths / 100 + "." + String.format("%02d", hundredths % 100);
  }

  /** By what is between ribbon and card. */
  private static String name(List<Drawer.Item> items) {
    List<String> out = new ArrayList<>();
    for (Drawer.Item i : items) {
      Piece p = i.piece();
      if (!p.isCable() && !p.endsChain()) out.add(p.name());
    }
    return out.isEmpty() ? items.get(items.size() - 1).piece().name() : String.join(", ", out);
  }

  private static String pins(Piece.End e) {
    int n = Joint.get(e.joint()).pins();
    return n + " ↔ " + n + (e.side() == Joint.Side.M ? " pins" : " sockets");
  }

  private static Sum joined(Piece.End open, Piece p, int millivolts) {
    return Sum.of("H-1", "This joint")
        .note("above", open.words())
        .note("below", p.host().words())
        .line("", "signals", millivolts, volts(millivolts))
        .note(
            p.name() + " works with",
            String.join(", ", p.accepts().stream().map(Chain::volts).toList()))
        .because(
            "The same kind of joint, pins into holes, at a voltage that the lower part works with (H-4).")
        .done();
  }

  private static String facts(Piece p) {
    List<String> out = new ArrayList<>();
    if (p.height() > 0) out.add(mm(p.height()) + " in the bay");
    if (p.bridge()) out.add("a chip translates");
    if (p.gives() > 0) out.add("own regulator, " + volts(p.gives()));
    if (p.solder()) out.add("to be soldered");
    if (p.slots() > 0) out.add(Say.plural(p.slots(), "slot", "slots"));
    if (p.minutes() > 0) out.add(p.minutes() + " min");
    return String.join(" · ", out);
  }

  private static List<Told> own(HostSide host, Piece p) {
    List<Told> out = new ArrayList<>();
    Optional<String> power = ChainFinder.power(host, p);
    if (!p.needs().isEmpty() && power.isPresent()) {
      boolean known = !power.get().isEmpty();
      String plug = String.join(" or ", p.needs().stream().map(n -> Joint.get(n).name()).toList());
      out.add(
          known
              ? told(
                  Verdict.FITS,
                  "H-5",
                  "power from " + power.get(),
                  "The machine has this plug for it.")
              : told(
                  Verdict.CARE,
                  "H-5",
                  "find its power: " + plug,
                  "The profile names no plug of power. Measure 5 V by pin before plugging."));
    }
    for (Piece.Said s : p.says()) {
      out.add(told(s.care() ? Verdict.CARE : Verdict.FITS, s.rule(), s.text(), s.text()));
    }
    for (Piece.Setting s : p.settings()) {
      out.add(told(Verdict.SET, s.rule(), s.name() + ": " + s.value(), s.text()));
    }
    return out;
  }

  private static List<Told> told(ChainFinder.Label end, List<Drawer.Item> items) {
    List<Told> out = new ArrayList<>();
    out.add(speed(end, items));
    if (end.most() < Long.MAX_VALUE) {
      out.add(
          new Told(
              Verdict.BOUND,
              "it reaches " + Say.size(end.most() * 512) + " of a card",
              Sum.of("H-12", "Reach of the chain")
                  .sectorsAsSize(end.most())
                  .because("A chip that translates counts sectors in a number of its own.")
                  .done()));
    }
    if (end.bay() > 0 && end.height() > 0) out.add(bay(end));
    if (items.stream().anyMatch(i -> i.piece().pio())) {
      out.add(
          told(
              Verdict.CARE,
              "H-8",
              "DMA lines not wired: PIO in the setup",
              "Many adapters leave the two DMA lines open; a driver that uses them hangs or spoils"
                  + " what it writes."));
    }
    if (items.stream().anyMatch(i -> i.piece().bridge())) {
      out.add(
          told(
              Verdict.CARE,
              "H-12",
              "an SD card is no ATA drive: a bridge has limits and a speed of its own",
              "Take a bridge that is known to work with this machine, or a card that speaks ATA"
                  + " itself."));
    }
    if (items.stream().noneMatch(i -> i.piece().fixed())) {
      Piece card = items.get(items.size() - 1).piece();
      boolean ata = card.host().joint().equals("cf50");
      if (ata) {
        out.add(
            told(
                Verdict.CARE,
                "H-8",
                "the card itself says whether it is a fixed disk",
                "Systems that refuse removable media want a card with the fixed-disk bit; it is seen"
                    + " at Intake of the card, not from outside."));
      }
    }
    out.add(
        told(
            Verdict.CARE,
            "H-15",
            "try it with the cover off before closing",
            "What does not start is found while it can still be reached."));
    return out;
  }

  private static Told speed(ChainFinder.Label end, List<Drawer.Item> items) {
    Sum.Builder sum = Sum.of("V-2", "Speed of the chain");
    sum.line(
        "", end.way().joint().name(), end.way().joint().reach(), rate(end.way().joint().reach()));
    for (Drawer.Item i : items) {
      long r = i.piece().reach();
      if (r > 0) sum.line("≤", i.piece().name(), r, rate(r));
    }
    sum.line("=", "the slowest of them", end.reach(), rate(end.reach()));
    return new Told(
        Verdict.FITS,
        "at most " + rate(end.reach()) + "; a faster card changes nothing",
        sum.because("The slowest part says how fast all of it is.").done());
  }

  private static Told bay(ChainFinder.Label end) {
    String where = end.way().bayName().isEmpty() ? "the bay" : end.way().bayName();
    return new Told(
        Verdict.FITS,
        mm(end.height()) + " of " + mm(end.bay()) + " in the " + where,
        Sum.of("H-3", "Room")
            .line("", "highest part with its card", end.height(), mm(end.height()))
            .line("≤", where, end.bay(), mm(end.bay()))
            .line("=", "left over", end.bay() - end.height(), mm(end.bay() - end.height()))
            .because("Measured by the parts' own figures; look that the cover closes.")
            .done());
  }

  /**
   * H-1 for the joint that no chain knows: whether a card goes into the last one. It is no reason
   * to stop: the image is the same on every card, and a chain is changed at the bench.
   *
   * @param end what the chain's own card is made for
   * @param made what the other one is made for
   */
  public static Told lastJoint(Joint end, String card, Joint made) {
    boolean fits = end.equals(made);
    return new Told(
        fits ? Verdict.FITS : Verdict.CARE,
        fits
            ? card + " goes into its last joint"
            : "it ends with "
                + end.name()
                + ", and "
                + card
                + " is made for "
                + made.name()
                + ": take another chain, or another card",
        Sum.of("H-1", "The last joint")
            .note("the chain ends with", end.name())
            .note(card, made.name())
            .because("Every joint from the board to the card has to match, the last one too.")
            .done());
  }

  private static Told told(Verdict v, String rule, String text, String reason) {
    return new Told(v, text, Sum.of(rule, text).because(reason).done());
  }

  private static String mm(int tenths) {
    return tenths / 10 + "." + tenths % 10 + " mm";
  }

  private static String volts(int millivolts) {
    return millivolts / 1000 + "." + millivolts % 1000 / 100 + " V";
  }

  private static String rate(long kilobytes) {
    return kilobytes < 1000
        ? kilobytes + " kB/s"
        : kilobytes / 1000 + "." + kilobytes % 1000 / 100 + " MB/s";
  }
}
