package lanternshed.core.family;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.machine.CarrierNames;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;

/**
 * Holds what lies on a carrier card against what its emulator looks for: names by the template, ids
 * that it knows, each once, whole blocks, one piece (P-32).
 */
public final class CarrierCheck {
  private static final String TAKE =
      "Rename it by the template, or take it off; the emulator does not see it as it is.";

  private CarrierCheck() {}

  /** A file of the root that the emulator takes for a drive. */
  public record Drive(int id, Node file) {}

  /** The drives that the emulator will see, in the order of the card. */
  public static List<Drive> drives(Profile.Carrier carrier, Volume card) {
    List<Drive> out = new ArrayList<>();
    for (Node n : card.list(card.root())) {
      if (n.folder()) continue;
      CarrierNames.id(carrier, n.path())
          .filter(carrier.ids()::contains)
          .ifPresent(id -> out.add(new Drive(id, n)));
    }
    return out;
  }

  /** Everything that stands against its drives being seen; empty where nothing does. */
  public static List<Finding> of(Profile.Carrier carrier, Volume card) {
    List<Finding> out = new ArrayList<>();
    Map<Integer, String> byId = new HashMap<>();
    Optional<Node> list = list(carrier, card);
    for (Node n : card.list(card.root())) {
      if (n.folder() || list.filter(n::equals).isPresent()) continue;
      Optional<Integer> id = CarrierNames.id(carrier, n.path());
      if (id.isEmpty()) {
        out.add(
            Finding.note(
                "P-32",
                n.path(),
                n.path() + " is not named as the emulator asks (" + carrier.template() + ")."));
        continue;
      }
      drive(carrier, card, n, id.get(), out);
      String other = byId.putIfAbsent(id.get(), n.path());
      if (other != null) {
        String what = n.path() + " and " + other + " say the same id, " + id.get() + ".";
        out.add(Finding.wrong("H-7", n.path(), what, "Give one of them another id."));
      }
    }
    if (byId.isEmpty()) {
      String what = "No file in the root is named as the emulator asks: it will show no drive.";
      out.add(Finding.wrong("P-32", "root", what, "Name them by " + carrier.template() + "."));
    }
    if (!carrier.slotList().isEmpty()) listed(carrier, card, list, out);
    return out;
  }

  private static Optional<Node> list(Profile.Carrier carrier, Volume card) {
    if (carrier.slotList().isEmpty()) return Optional.empty();
    return card.list(card.root()).stream()
        .filter(n -> !n.folder() && n.path().equalsIgnoreCase(carrier.slotList()))
        .findFirst();
  }

  /** The emulator's list against what lies there. */
  private static void listed(
      Profile.Carrier carrier, Volume card, Optional<Node> file, List<Finding> out) {
    String name = carrier.slotList();
    if (file.isEmpty()) {
      String what = "The list of the disks, " + name + ", is not on it: it will show no disk.";
      out.add(Finding.wrong("P-32", name, what, "Build the carrier again, or write the list."));
      return;
    }
    SlotList list;
    try {
      list = SlotList.read(text(card, file.get()));
    } catch (ShedException e) {
      out.add(Finding.wrong("P-32", name, e.getMessage(), "Mend that line in a text editor."));
      return;
    }
    Map<String, Integer> there = new HashMap<>();
    for (Drive d : drives(carrier, card)) there.put(upper(d.file().path()), d.id());
    for (SlotList.Slot s : list.slots()) {
      Integer number = there.remove(upper(s.file()));
      if (number == null) {
        String what = name + " names " + s.file() + " as disk " + s.number() + "; it is not there.";
        out.add(Finding.wrong("P-32", name, what, "Bring the disk, or take the line out."));
      } else if (number != s.number()) {
        String what =
            name
                + " has "
                + s.file()
                + " as disk "
                + s.number()
                + ", its name says "
                + number
                + ".";
        out.add(Finding.wrong("P-32", name, what, "Let name and line say one number."));
      }
    }
    there.forEach(
        (f, n) -> {
          String what = f + " is not in " + name + ": the emulator does not show it.";
          out.add(Finding.wrong("P-32", f, what, "Add a line for it."));
        });
  }

  private static String upper(String name) {
    return name.toUpperCase(Locale.ROOT);
  }

  private static String text(Volume card, Node n) {
    if (n.bytes() > SlotList.MOST_BYTES || card.notWhole(n).isPresent()) {
      throw new ShedException("The slot list is no short text that can be read whole.");
    }
    ByteArrayOutputStream b = new ByteArrayOutputStream();
    card.read(n, b::write);
    return b.toString(StandardCharsets.ISO_8859_1);
  }

  private static void drive(
      Profile.Carrier carrier, Volume card, Node n, int id, List<Finding> out) {
    if (!carrier.ids().contains(id)) {
      String what = n.path() + " says id " + id + ", which the emulator does not know.";
      out.add(Finding.wrong("H-7", n.path(), what, TAKE));
    }
    CarrierNames.odd(carrier, n.bytes())
        .ifPresent(
            odd -> {
              String what = n.path() + " has " + Say.bytes(n.bytes()) + ": " + odd + ".";
              String todo = "Bring the image again, whole, or one that the machine takes.";
              out.add(Finding.wrong("P-32", n.path(), what, todo));
            });
    Optional<String> why = card.notWhole(n);
    if (why.isPresent()) {
      String what = n.path() + " is not whole: " + why.get() + ".";
      out.add(Finding.wrong("P-32", n.path(), what, "Mend a copy of the card, or write it again."));
    } else if (carrier.contiguous() && card.sectorsOf(n).size() > 1) {
      String what =
          n.path() + " lies in " + card.sectorsOf(n).size() + " pieces; the emulator asks for one.";
      out.add(Finding.wrong("P-32", n.path(), what, "Build the carrier again."));
    }
  }
}
