package lanternshed.core.work;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import lanternshed.core.family.SlotList;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.volume.FileSet;

/**
 * The emulator's own list of what lies under which number, as it must be once files went over
 * (P-32).
 *
 * @param path where it lies; "" where nothing is written
 * @param text of it
 * @param fault why it stays as it is; "" where it does not
 */
public record SlotFile(String path, String text, String fault) {
  public static final SlotFile NONE = new SlotFile("", "", "");

  /**
   * How often a list is made anew as its own length leaves a file out: odd, so that a longer one
   * was asked for last.
   */
  private static final int MOST_LISTS = 3;

  /**
   * What goes over with the list that goes along: it takes room itself, so what goes over is what
   * still fits beside it.
   *
   * @param carrier null where the machine has no emulator
   * @param without the volume as it is without a new list
   * @param with the same with the change that writes one
   * @param over what goes onto such a volume
   */
  public static Beside beside(
      Profile.Carrier carrier,
      Hold without,
      Function<Edit.Change, Hold> with,
      Function<Hold, Crossing.Crossed> over) {
    Crossing.Crossed crossed = over.apply(without);
    SlotFile list = of(carrier, without, crossed);
    for (int i = 0; i < MOST_LISTS && list.change().isPresent(); i++) {
      crossed = over.apply(with.apply(list.change().get()));
      SlotFile now = of(carrier, without, crossed);
      if (now.equals(list)) break;
      list = now;
    }
    return new Beside(crossed, list);
  }

  /** What goes over, and the list beside it. */
  public record Beside(Crossing.Crossed crossed, SlotFile list) {}

  /** Nothing where the emulator has none, it says that already, or it comes itself. */
  private static SlotFile of(Profile.Carrier carrier, Hold hold, Crossing.Crossed crossed) {
    if (carrier == null || carrier.slotList().isEmpty()) return NONE;
    List<Crossing.Row> over = crossed.on(0);
    String name = carrier.slotList();
    if (over.stream().anyMatch(r -> r.to().equalsIgnoreCase(name))) return NONE;
    Optional<FileSet.Item> there =
        hold.there().items().stream()
            .filter(i -> !i.folder() && i.path().equalsIgnoreCase(name))
            .findFirst();
    List<SlotList.Lying> files = new ArrayList<>();
    for (FileSet.Item i : hold.there().items()) {
      if (!i.folder()) files.add(new SlotList.Lying(i.path(), i.bytes(), ""));
    }
    for (Crossing.Row r : over) {
      files.add(new SlotList.Lying(r.to(), r.bytes(), title(r.from())));
    }
    try {
      SlotList before = SlotList.read(there.map(SlotFile::read).orElse(""));
      SlotList now = before.of(carrier, files);
      if (now.slots().equals(before.slots())) return NONE;
      return new SlotFile(there.map(FileSet.Item::path).orElse(name), now.text(), "");
    } catch (ShedException e) {
      return new SlotFile("", "", e.getMessage() + " It stays as it is; mend that line first.");
    }
  }

  private static String read(FileSet.Item list) {
    if (list.bytes() > SlotList.MOST_BYTES) return "too long to be a list";
    ByteArrayOutputStream b = new ByteArrayOutputStream();
    list.copyTo(b::write);
    return b.toString(StandardCharsets.ISO_8859_1);
  }

  /** What somebody called the disk before it had a number. */
  private static String title(String from) {
    String name = from.substring(from.lastIndexOf('/') + 1);
    return name.replaceFirst("\\.[^.]{1,4}$", "");
  }

  /** The change that writes it; empty where nothing is written. */
  public Optional<Edit.Change> change() {
    if (path.isEmpty()) return Optional.empty();
    byte[] b = text.getBytes(StandardCharsets.US_ASCII);
    return Optional.of(
        new Edit.Change.Put(path, b.length, Stamp.NONE, Sha256.of(b), s -> s.take(b, 0, b.length)));
  }
}
