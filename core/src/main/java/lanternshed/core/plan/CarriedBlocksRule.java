package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.machine.Peg;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.CarriedFile;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Verdict;

/**
 * P-32: a carried drive is whole blocks, under an id of its own, within the limits of its machine.
 */
final class CarriedBlocksRule implements PlanRule {
  @Override
  public List<Verdict> judge(Draft draft, Situation s) {
    if (!s.family().carries()) return List.of();
    List<Verdict> out = new ArrayList<>();
    for (PlannedVolume v : draft.volumes()) {
      Map<Integer, String> byId = new HashMap<>();
      Map<String, String> byName = new HashMap<>();
      List<CarriedFile> drives = v.files().stream().filter(CarriedFile::drive).toList();
      for (CarriedFile f : drives) {
        id(f, byId, s.profile(), out);
        name(f, byName, out);
        block(f, s.profile(), out);
        limits(f, s.profile(), out);
        length(f, s.profile(), out);
      }
      if (drives.isEmpty()) out.add(none(s.profile()));
      else if (out.isEmpty()) out.add(all(drives, s.profile()));
    }
    return out;
  }

  private static void id(CarriedFile f, Map<Integer, String> byId, Profile p, List<Verdict> out) {
    String other = byId.putIfAbsent(f.id(), f.title());
    boolean known = p.carrier().ids().contains(f.id());
    if (other == null && known) return;
    String what = p.carrier().numbered() ? "number" : "id";
    String text =
        known
            ? f.title()
                + " and "
                + other
                + " have one "
                + what
                + ", "
                + f.id()
                + "; each needs its own."
            : f.title()
                + " has no "
                + what
                + " that the emulator knows; it knows "
                + p.carrier().ids().get(0)
                + " to "
                + p.carrier().ids().get(p.carrier().ids().size() - 1)
                + ".";
    out.add(
        Verdict.stops(
            "H-7",
            text,
            Sum.of("H-7", p.carrier().numbered() ? "Numbers of disks" : "Ids of drives")
                .because(text)
                .done()));
  }

  /** A template without a place for the id gives every drive one name. */
  private static void name(CarriedFile f, Map<String, String> byName, List<Verdict> out) {
    String other = byName.putIfAbsent(f.name(), f.title());
    if (other == null || !out.isEmpty()) return;
    String text = f.title() + " and " + other + " would both be " + f.name() + " on the card.";
    out.add(Verdict.stops("P-32", text, Sum.of("P-32", "Names").because(text).done()));
  }

  private static void block(CarriedFile f, Profile p, List<Verdict> out) {
    int block = p.carrier().blocks().get(0);
    if (f.bytes() % block == 0) return;
    out.add(
        Verdict.stops(
            "P-32",
            f.title() + " ends " + Say.bytes(f.bytes() % block) + " into a block of " + block + ".",
            Sum.of("P-32", "Whole blocks")
                .bytes("", "file", f.bytes())
                .bytes("÷", "block", block)
                .bytes("", "left over", f.bytes() % block)
                .because("The emulator shows whole blocks; the rest would be out of reach.")
                .done()));
  }

  /** A floppy drive takes disks of some lengths and no others. */
  private static void length(CarriedFile f, Profile p, List<Verdict> out) {
    if (p.carrier().lengths().isEmpty() || p.carrier().lengths().contains(f.bytes())) return;
    Sum.Builder sum = Sum.of("P-32", "Lengths of its disks").bytes("", f.title(), f.bytes());
    p.carrier().lengths().forEach(l -> sum.bytes("≠", "its drive takes", l));
    out.add(
        Verdict.warns(
            "P-32",
            f.title() + " has " + Say.size(f.bytes()) + ", no disk that the machine's drive takes.",
            sum.because("What the drive reads track by track has one length.").done()));
  }

  /** What limits the drive of the machine limits its file. */
  private static void limits(CarriedFile f, Profile p, List<Verdict> out) {
    for (Profile.Limit l : p.limits()) {
      // How long a file may be the card's own filesystem says, which CarriedLengthRule asks.
      if (l.rule().equals("P-32")) continue;
      if (l.scope() != Peg.Scope.MEDIUM || f.bytes() <= l.sectors() * 512) continue;
      out.add(
          Verdict.warns(
              l.rule(),
              f.title() + " goes past " + l.title() + ", " + Say.mib(l.sectors() * 512) + ".",
              Sum.of(l.rule(), l.title())
                  .bytes("", "drive", f.bytes())
                  .bytes(">", "reach", l.sectors() * 512)
                  .because(l.reason())
                  .lift(l.lift())
                  .done()));
    }
  }

  private static Verdict none(Profile p) {
    return Verdict.warns(
        "P-32",
        "No "
            + word(p)
            + " is on the carrier yet: choose images, or let the machine make its own there.",
        Sum.of("P-32", "Files of the carrier").line("", word(p) + "s", 0).done());
  }

  private static String word(Profile p) {
    return p.carrier().numbered() ? "disk" : "drive";
  }

  private static Verdict all(List<CarriedFile> drives, Profile p) {
    return Verdict.holds(
        "P-32",
        Say.plural(drives.size(), word(p) + " is a file", word(p) + "s are files")
            + " in one piece, named as the emulator asks: "
            + first(drives)
            + ".",
        Sum.of("P-32", "Files of the carrier")
            .note("template", p.carrier().template())
            .line("", word(p) + "s", drives.size())
            .because(
                p.carrier().slotList().isEmpty()
                    ? "The emulator finds them by their names."
                    : "The emulator finds them by its list, " + p.carrier().slotList() + ".")
            .done());
  }

  private static final int NAMED = 4;

  private static String first(List<CarriedFile> drives) {
    String named = String.join(", ", drives.stream().limit(NAMED).map(CarriedFile::name).toList());
    return drives.size() <= NAMED ? named : named + " … " + drives.get(drives.size() - 1).name();
  }
}
