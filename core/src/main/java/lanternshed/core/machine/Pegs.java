package lanternshed.core.machine;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;

/**
 * All pegs on the way from a card to a file, sorted by depth, and the geometry that the machine's
 * firmware computes for that card.
 *
 * @param pegs the lowest first
 * @param binding the lowest of the pegs that limit the medium
 * @param reach sectors that the machine can use
 * @param geometry what the firmware's disk call shows, within reach
 * @param typeRow the fixed type to choose, where the firmware has only those (G-17)
 */
public record Pegs(
    List<Peg> pegs, Peg binding, long reach, Geometry geometry, Optional<Profile.TypeRow> typeRow) {

  /** Cylinders that firmware with twelve bits for them counts. */
  public static final int MOST_IN_TWELVE = 4095;

  /** Sectors of the card below the binding peg. */
  public long outOfReach(Card card) {
    return Math.max(0, card.planSectors() - reach);
  }

  /** The same pegs on a machine that counts by a geometry of its table, not of its firmware. */
  public Pegs on(Geometry g) {
    long whole = Math.min(binding.sectors(), g.total());
    return new Pegs(pegs, binding, whole, g, Optional.empty());
  }

  public static Pegs of(
      Profile.Firmware firmware, Generation system, Card card, List<Profile.Limit> limits) {
    List<Peg> pegs = new ArrayList<>(limits.stream().map(Pegs::own).toList());
    for (String rule : firmware.pegs()) {
      Ceiling c = Ceiling.of(rule).orElseThrow();
      pegs.add(new Peg(rule, c.title(), c.sectors(), Peg.Scope.MEDIUM, c.sum()));
    }
    boolean byLba = firmware.extendedCalls() && system.extendedCalls();
    if (!byLba) addOnce(pegs, Ceiling.G_6);
    addOnce(pegs, Ceiling.G_13);
    pegs.add(cardPeg(card));
    Sum volume = system.volumeSum();
    pegs.add(
        new Peg(
            volume.rule(),
            volume.title(),
            system.volumeSectors(),
            system.volumes() == 1 ? Peg.Scope.MEDIUM : Peg.Scope.VOLUME,
            volume));
    Optional<Profile.TypeRow> row = Optional.empty();
    if (!firmware.typeTable().isEmpty() && firmware.userType() == 0) {
      row = largestRow(firmware, card);
      pegs.add(typePeg(firmware, row, card));
    }
    pegs.sort(Comparator.comparingLong(Peg::sectors));
    Peg binding =
        pegs.stream().filter(p -> p.scope() == Peg.Scope.MEDIUM).findFirst().orElseThrow();
    Geometry g = geometry(firmware, card, row);
    // By C/H/S only whole cylinders are seen; by LBA every sector is.
    long reach = byLba ? binding.sectors() : Math.min(binding.sectors(), g.total());
    return new Pegs(List.copyOf(pegs), binding, reach, g, row);
  }

  /** What limits a family as it usually is, sorted, with the card. */
  public static List<Peg> facts(Profile profile, Card card) {
    if (profile.planned()) return Setup.of(profile, "", "").pegs(card).pegs();
    List<Peg> out = new ArrayList<>(profile.limits().stream().map(Pegs::own).toList());
    out.add(cardPeg(card));
    out.sort(Comparator.comparingLong(Peg::sectors));
    return out;
  }

  private static Peg own(Profile.Limit l) {
    Sum.Builder sum = Sum.of(l.rule(), l.title()).sectorsAsSize(l.sectors()).because(l.reason());
    if (!l.lift().isEmpty()) sum.lift(l.lift());
    return new Peg(l.rule(), l.title(), l.sectors(), l.scope(), sum.done());
  }

  private static Peg cardPeg(Card card) {
    return new Peg(
        card.measured() > 0 ? "U-1" : "U-3",
        card.measured() > 0 ? "Card as measured" : "Card by its label",
        card.planSectors(),
        Peg.Scope.MEDIUM,
        card.sum());
  }

  private static void addOnce(List<Peg> pegs, Ceiling c) {
    if (pegs.stream().anyMatch(p -> p.rule().equals(c.rule()))) return;
    pegs.add(new Peg(c.rule(), c.title(), c.sectors(), Peg.Scope.MEDIUM, c.sum()));
  }

  private static Geometry geometry(Profile.Firmware f, Card card, Optional<Profile.TypeRow> row) {
    if (row.isPresent()) return row.get().geometry();
    long sectors = Math.max(1008, card.planSectors());
    return f.translation().of(kept(f, drive(card)), sectors);
  }

  /** The geometry that a card answers by itself. */
  public static Geometry drive(Card card) {
    return card.own().orElse(Translation.reported(Math.max(1008, card.planSectors())));
  }

  /** G-21: what the firmware keeps of it; twelve bits of cylinders never become 128 heads. */
  private static Geometry kept(Profile.Firmware f, Geometry drive) {
    boolean twelve = f.pegs().contains(Ceiling.G_3.rule());
    int cylinders = twelve ? Math.min(MOST_IN_TWELVE, drive.cylinders()) : drive.cylinders();
    return new Geometry(cylinders, drive.heads(), drive.sectors());
  }

  private static Optional<Profile.TypeRow> largestRow(Profile.Firmware f, Card card) {
    return f.typeTable().stream()
        .filter(r -> r.total() <= card.planSectors())
        .max(Comparator.comparingLong(Profile.TypeRow::total));
  }

  private static Peg typePeg(Profile.Firmware f, Optional<Profile.TypeRow> row, Card card) {
    if (row.isEmpty()) {
      return new Peg(
          "G-1",
          "No drive type fits",
          0,
          Peg.Scope.MEDIUM,
          Sum.of("G-17", "Drive-type table")
              .sectors("", "card", card.planSectors())
              .sectors("=", "largest type that fits", 0)
              .because("Every row of this firmware's table is larger than the card.")
              .lift("a larger card")
              .done());
    }
    Profile.TypeRow r = row.get();
    return new Peg(
        "G-1",
        "Drive type " + r.number(),
        r.total(),
        Peg.Scope.MEDIUM,
        Sum.of("G-17", "Drive type " + r.number())
            .line("", "cylinders", r.cylinders())
            .line("×", "heads", r.heads())
            .line("×", "sectors a track", r.sectors())
            .sectors("=", "type " + r.number(), r.total())
            .sectors("≤", "card", card.planSectors())
            .line(
                "",
                "left unused",
                card.planSectors() - r.total(),
                Say.sectors(card.planSectors() - r.total()))
            .sectors("=", "reach", r.total())
            .because(
                "This firmware knows only the "
                    + f.typeTable().size()
                    + " types of its table; among those that fit inside the card this is the largest.")
            .lift("an option ROM")
            .lift("newer firmware with a type to fill in")
            .done());
  }
}
