package lanternshed.core.container.vmdk;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import lanternshed.core.container.Container;
import lanternshed.core.container.Marks;
import lanternshed.core.measure.ShedException;

/**
 * The description of a VMDK that keeps its sectors in other files: a text, one line an extent,
 * {@code RW 20480 FLAT "drive-flat.vmdk" 0}. A flat extent is the sectors as they are.
 */
public final class VmdkDescription implements Container {
  private static final String MARK = "23204469736B204465736372697074";

  /** Descriptions have some hundred bytes; what is longer is none. */
  private static final int MOST_BYTES = 64 << 10;

  private static final Pattern EXTENT =
      Pattern.compile(
          "(?:RW|RDONLY|NOACCESS)\\s+(\\d{1,18})\\s+(\\w{1,20})(?:\\s+\"([^\"]{1,255})\"(?:\\s+(\\d{1,18}))?)?");

  private static final int MOST_NAMED = 8;
  private static final int LONGEST_NAME = 60;

  /** A run of the drive's sectors in a file beside. */
  private record Extent(long sectors, String kind, String file, String from) {
    boolean flat() {
      return kind.equals("FLAT") && (from == null || from.matches("0+"));
    }

    /** A plain name: what a description says never leads out of its folder. */
    boolean beside() {
      return file != null && !file.matches(".*[/\\\\\\p{Cntrl}].*") && !file.matches("\\.{1,2}");
    }

    String said() {
      String s = file == null ? "nothing" : file.replaceAll("\\p{Cntrl}", "");
      return '"' + (s.length() > LONGEST_NAME ? s.substring(0, LONGEST_NAME) : s) + '"';
    }
  }

  @Override
  public String key() {
    return "vmdk";
  }

  @Override
  public boolean begins(byte[] head) {
    return Marks.begins(head, MARK);
  }

  @Override
  public Content open(InputStream file) throws IOException {
    String text = text(file);
    throw new ShedException("This file only describes a VMDK drive" + advice(text));
  }

  @Override
  public Optional<Beside> describes(InputStream file) throws IOException {
    String text = text(file);
    List<Extent> all = extents(text);
    return all.size() == 1 && all.get(0).flat() && all.get(0).beside() && !Vmdk.differs(text)
        ? Optional.of(new Beside(all.get(0).file, all.get(0).sectors))
        : Optional.empty();
  }

  private static String text(InputStream file) throws IOException {
    return new String(file.readNBytes(MOST_BYTES), StandardCharsets.ISO_8859_1);
  }

  private static List<Extent> extents(String text) {
    return text.lines()
        .map(l -> EXTENT.matcher(l.strip()))
        .filter(Matcher::matches)
        .map(
            m ->
                new Extent(
                    Long.parseLong(m.group(1)),
                    m.group(2).toUpperCase(Locale.ROOT),
                    m.group(3),
                    m.group(4)))
        .toList();
  }

  private static String advice(String text) {
    List<Extent> all = extents(text);
    if (Vmdk.differs(text)) {
      return " by what differs from a parent, and is not read alone. Join the two with the program"
          + " that made them.";
    }
    if (all.isEmpty()) return " and names no file that holds its sectors; it was cut off.";
    String names =
        all.stream().limit(MOST_NAMED).map(Extent::said).collect(Collectors.joining(", "))
            + (all.size() > MOST_NAMED ? " and so on" : "");
    if (all.size() == 1 && (all.get(0).flat() || all.get(0).kind.equals("SPARSE"))) {
      return "; its sectors are in " + names + " beside it. Bring in that file instead.";
    }
    if (all.stream().allMatch(Extent::flat)) {
      return "; its sectors lie one behind the other in "
          + all.size()
          + " files beside it. Join them in this order and bring in the whole: "
          + names
          + ".";
    }
    return "; its sectors are spread over "
        + all.size()
        + " files beside it, "
        + names
        + ". Turn them into one file with the program that made them and bring that in.";
  }
}
