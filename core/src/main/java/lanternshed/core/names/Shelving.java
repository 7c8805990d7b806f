package lanternshed.core.names;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** How a library is put into folders (T-3), so that a browser of few lines a page stays usable. */
public enum Shelving {
  AS_IT_IS("the folders that it has"),
  LETTER("by first letter"),
  RANGES("by ranges of letters"),
  KIND("by kind");

  private static final String DIGITS = "0-9";
  private final String title;

  Shelving(String title) {
    this.title = title;
  }

  public String title() {
    return title;
  }

  /**
   * Paths in the new folders, each file by its name only.
   *
   * @param paths of all files
   * @param most files of a folder where ranges are balanced; a letter of more has one of its own
   * @param kinds by path the folder of its kind, where that is known; others go by their ending
   * @return by path as it is the path that is wanted
   */
  public Map<String, String> of(Collection<String> paths, int most, Map<String, String> kinds) {
    if (this == AS_IT_IS) return Map.of();
    Map<Character, Integer> counts = new TreeMap<>();
    for (String p : paths) counts.merge(letter(name(p)), 1, Integer::sum);
    Map<Character, String> ranges = this == RANGES ? ranges(counts, Math.max(1, most)) : Map.of();
    Map<String, String> out = new LinkedHashMap<>();
    for (String p : paths) {
      char c = letter(name(p));
      String folder =
          switch (this) {
            case RANGES -> ranges.get(c);
            case KIND -> kinds.getOrDefault(p, ending(name(p)));
            default -> c == '0' ? DIGITS : Character.toString(c);
          };
      out.put(p, folder + "/" + name(p));
    }
    return out;
  }

  /** Pages that a browser needs for so many entries; 0 where its lines are not known. */
  public static int pages(int entries, int lines) {
    return lines <= 0 ? 0 : (entries + lines - 1) / lines;
  }

  /** A letter from A to Z, or 0 for all that begins with none. */
  private static char letter(String name) {
    String bare = name.strip();
    if (bare.isEmpty()) return '0';
    String first = Character.toString(bare.codePointAt(0));
    char c = NameRule.of("8.3").clean(first).name().charAt(0);
    return c >= 'A' && c <= 'Z' ? c : '0';
  }

  private static String ending(String name) {
    int dot = name.lastIndexOf('.');
    return dot <= 0 || dot == name.length() - 1 ? "OTHERS" : NameList.fold(name.substring(dot + 1));
  }

  /**
   * Neighbouring letters together, in as few folders as the bound allows and the largest of them as
   * small as it can be.
   */
  private static Map<Character, String> ranges(Map<Character, Integer> counts, int most) {
    List<Character> letters = new ArrayList<>(counts.keySet());
    int[] n = letters.stream().mapToInt(counts::get).toArray();
    // A letter of more than the bound has a folder of its own, and lifts it for no other.
    int folders = groups(n, most).size();
    int low = 1;
    int high = most;
    // The least size of the largest folder with which no more folders are needed.
    while (low < high) {
      int middle = (low + high) / 2;
      if (groups(n, middle).size() <= folders) high = middle;
      else low = middle + 1;
    }
    Map<Character, String> out = new LinkedHashMap<>();
    int at = 0;
    for (int size : groups(n, high)) {
      String first = say(letters.get(at));
      String last = say(letters.get(at + size - 1));
      String title = size == 1 ? first : first.charAt(0) + "-" + last.charAt(last.length() - 1);
      for (int i = 0; i < size; i++) out.put(letters.get(at + i), title);
      at += size;
    }
    return out;
  }

  private static String say(char c) {
    return c == '0' ? DIGITS : Character.toString(c);
  }

  /** How many letters go together, one after the other, where none comes to more than a bound. */
  private static List<Integer> groups(int[] n, int bound) {
    List<Integer> out = new ArrayList<>();
    int sum = 0;
    int size = 0;
    for (int x : n) {
      if (size > 0 && sum + x > bound) {
        out.add(size);
        sum = 0;
        size = 0;
      }
      sum += x;
      size++;
    }
    if (size > 0) out.add(size);
    return out;
  }

  private static String name(String path) {
    return path.substring(path.lastIndexOf('/') + 1);
  }
}
