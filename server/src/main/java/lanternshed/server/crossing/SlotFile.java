package lanternshed.server.crossing;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.family.CarrierNames;
import lanternshed.core.family.SlotList;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.volume.FileSet;
import lanternshed.core.work.Crossing;
import lanternshed.core.work.Edit;
import lanternshed.core.work.Hold;
import lanternshed.core.work.Stamp;

/**
 * The emulator's own list of what lies under which number, as it must be once files went over.
 *
 * @param path where it lies; "" where nothing is written
 * @param text of it
 * @param fault why it stays as it is; "" where it does not
 */
record SlotFile(String path, String text, String fault) {
  static final SlotFile NONE = new SlotFile("", "", "");

  /**
   * What it will be; nothing where the emulator has none, it says that already, or it comes itself.
   *
   * @param carrier null where the machine has no emulator
   */
  static SlotFile of(Profile.Carrier carrier, Hold hold, Crossing.Crossed crossed) {
    if (carrier == null || carrier.slotList().isEmpty()) return NONE;
    List<Crossing.Row> over = crossed.on(0);
    String name = carrier.slotList();
    if (over.stream().anyMatch(r -> r.to().equalsIgnoreCase(name))) return NONE;
    Optional<FileSet.Item> there =
        hold.there().items().stream()
            .filter(i -> !i.folder() && i.path().equalsIgnoreCase(name))
            .findFirst();
    String was = there.map(SlotFile::read).orElse("");
    List<CarrierNames.Lying> files = new ArrayList<>();
    for (FileSet.Item i : hold.there().items()) {
      if (!i.folder()) files.add(new CarrierNames.Lying(i.path(), i.bytes(), ""));
    }
    for (Crossing.Row r : over) {
      files.add(new CarrierNames.Lying(r.to(), r.bytes(), title(r.from())));
    }
    try {
      SlotList before = SlotList.read(was);
      SlotList now = CarrierNames.listed(carrier, before, files);
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

  Optional<Edit.Change> change() {
    if (path.isEmpty()) return Optional.empty();
    byte[] b = text.getBytes(StandardCharsets.US_ASCII);
    return Optional.of(
        new Edit.Change.Put(path, b.length, Stamp.NONE, Sha256.of(b), s -> s.take(b, 0, b.length)));
  }
}
