package lanternshed.core.family;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import lanternshed.core.machine.CarrierNames;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.ShedException;

/**
 * The text file by which an emulator with numbered disks finds them: one disk a line, its number,
 * its file and what is written on its label; a line with {@code ;} in front is a remark. Its form
 * is this program's own, see docs/formats.md.
 *
 * @param slots in the order of the file
 */
public record SlotList(List<Slot> slots) {
  /** More than any emulator counts to. */
  public static final int MOST_BYTES = 64 << 10;

  private static final int LONGEST_TITLE = 40;
  private static final Pattern LINE =
      Pattern.compile("\\s*(?<number>\\d{1,3})\\s+(?<file>\\S+)(?:\\s+(?<title>.*))?");

  /** One numbered disk. */
  public record Slot(int number, String file, String title) {}

  public SlotList {
    slots = List.copyOf(slots);
  }

  /**
   * A file of a card.
   *
   * @param path as it lies there, or is to
   * @param title what is written on the disk; "" where that is not known
   */
  public record Lying(String path, long bytes, String title) {}

  /**
   * The list of a card with these files: a line for each that the emulator finds. What is written
   * on a disk that was in the list before stays.
   */
  public SlotList of(Profile.Carrier carrier, Collection<Lying> files) {
    Map<String, String> titles = new HashMap<>();
    for (Slot s : slots) titles.put(fold(s.file()), s.title());
    // Of two that say one number the emulator can show one.
    Map<Integer, Slot> out = new TreeMap<>();
    for (Lying f : files) {
      if (CarrierNames.astray(carrier, f.path(), f.bytes()).isPresent()) continue;
      int id = CarrierNames.id(carrier, f.path()).orElseThrow();
      String title = titles.getOrDefault(fold(f.path()), f.title());
      out.putIfAbsent(id, new Slot(id, f.path(), title));
    }
    return new SlotList(List.copyOf(out.values()));
  }

  private static String fold(String name) {
    return name.toUpperCase(Locale.ROOT);
  }

  /** The file, in ASCII with the ends of line that every system reads. */
  public String text() {
    StringBuilder out = new StringBuilder("; number, file, label\r\n");
    for (Slot s : slots) {
      out.append(String.format(Locale.ROOT, "%03d %s %s", s.number(), s.file(), plain(s.title())));
      out.append("\r\n");
    }
    return out.toString();
  }

  private static String plain(String title) {
    String t = title.replaceAll("[^ -~]", "?").strip();
    return t.substring(0, Math.min(t.length(), LONGEST_TITLE));
  }

  /**
   * @throws ShedException with the first line that makes no sense
   */
  public static SlotList read(String text) {
    List<Slot> out = new ArrayList<>();
    Set<Integer> numbers = new HashSet<>();
    int at = 0;
    for (String line : text.split("\r\n|\r|\n")) {
      at++;
      if (line.isBlank() || line.stripLeading().startsWith(";")) continue;
      Matcher m = LINE.matcher(line);
      if (!m.matches()) {
        throw new ShedException(
            "Line " + at + " of the slot list is no number with a file: " + shown(line));
      }
      int number = Integer.parseInt(m.group("number"));
      if (!numbers.add(number)) {
        throw new ShedException(
            "Line " + at + " of the slot list has disk " + number + " again: " + shown(line));
      }
      String title = m.group("title");
      out.add(new Slot(number, m.group("file"), title == null ? "" : title.strip()));
    }
    return new SlotList(out);
  }

  private static String shown(String line) {
    String l = line.replaceAll("[^ -~]", "?").strip();
    return "“" + l.substring(0, Math.min(l.length(), LONGEST_TITLE)) + "”.";
  }
}
