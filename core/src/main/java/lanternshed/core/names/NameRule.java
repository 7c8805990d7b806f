package lanternshed.core.names;

import java.io.IOException;
import java.io.InputStream;
import java.text.Normalizer;
import java.util.BitSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.regex.Pattern;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * What a name may be on one kind of volume, as data (T-1). It allows what every machine of the kind
 * reads: letters that its code pages disagree about are not among them.
 *
 * @param key "8.3"
 * @param says the rule in words
 * @param stem most letters before the point, or of the whole name where there is no ending
 * @param ending most letters behind the last point; 0 where a point is a letter like any other or
 *     none; −1 where the ending counts among those of {@code stem}
 * @param letters the allowed ones, as the class of a regular expression
 * @param first those that a name may begin with; "" for all of them
 * @param instead what stands for a letter that is not allowed; "" to leave it out
 * @param tail what stands before the number that tells two names apart
 * @param capitals whether small letters become capitals
 * @param reserved stems that are no names of files
 * @param types endings of which each name has one, the usual one first; empty where there are none
 * @param folders where folders may be
 * @param folderPattern what a folder's name is, where not a file's; "" for the same
 * @param path most letters of a path that the machine's own programs take; 0 for no such limit
 */
public record NameRule(
    String key,
    String says,
    int stem,
    int ending,
    String letters,
    String first,
    String instead,
    String tail,
    boolean capitals,
    Set<String> reserved,
    List<String> types,
    Folders folders,
    String folderPattern,
    int path) {

  /** Where folders may be. */
  public enum Folders {
    NONE,
    ROOT,
    ANY
  }

  /** An ending of more letters than this is no ending, where it counts among the stem's. */
  private static final int MOST_FREE_ENDING = 8;

  /** Letters that do not come apart into a plain one and a mark. */
  private static final Map<Integer, String> PLAIN =
      Map.ofEntries(
          Map.entry((int) 'ß', "ss"),
          Map.entry((int) 'æ', "ae"),
          Map.entry((int) 'Æ', "AE"),
          Map.entry((int) 'œ', "oe"),
          Map.entry((int) 'Œ', "OE"),
          Map.entry((int) 'ø', "o"),
          Map.entry((int) 'Ø', "O"),
          Map.entry((int) 'ł', "l"),
          Map.entry((int) 'Ł', "L"),
          Map.entry((int) 'đ', "d"),
          Map.entry((int) 'þ', "th"),
          Map.entry(0x2013, "-"),
          Map.entry(0x2014, "-"),
          Map.entry(0x2018, "'"),
          Map.entry(0x2019, "'"));

  private static final String NOTHING = "no letter of it can stand";

  /** Not assigned; stands for all letters that take two places, which are allowed where it is. */
  private static final int BEYOND = 0xFFFF;

  private static final List<NameRule> ALL = load();
  private static final Map<String, BitSet> CLASSES = new ConcurrentHashMap<>();

  private static List<NameRule> load() {
    try (InputStream in = NameRule.class.getResourceAsStream("/names/rules.json")) {
      return JsonMapper.shared().readValue(in, new TypeReference<List<NameRule>>() {});
    } catch (IOException e) {
      throw new IllegalStateException("The rules of names ship with the program", e);
    }
  }

  /** The rule of that key; one that is not there is a fault of the program. */
  public static NameRule of(String key) {
    return ALL.stream()
        .filter(r -> r.key.equals(key))
        .findFirst()
        .orElseThrow(() -> new IllegalStateException("There is no rule of names " + key));
  }

  public static List<NameRule> all() {
    return ALL;
  }

  /**
   * A name as the rule takes it.
   *
   * @param stem without its ending
   * @param ending with its point; "" for none
   * @param changes what became of it, in words; empty where only small letters became capitals
   * @param odd whether it is more than shortened: nobody would look for it under its new name
   */
  public record Cleaned(String stem, String ending, List<String> changes, boolean odd) {
    public String name() {
      return stem + ending;
    }
  }

  /** Whether a folder may have this name at this depth, the root's own having depth 1. */
  boolean folderFits(String name, int depth) {
    return switch (folders) {
      case NONE -> false;
      case ROOT -> depth == 1 && name.matches(folderPattern);
      case ANY -> true;
    };
  }

  /** A name as this rule takes it; whether it is free in its folder is not looked at. */
  public Cleaned clean(String name) {
    Set<String> changes = new LinkedHashSet<>();
    Cleaned c = cleaned(name, changes);
    boolean odd = c.odd();
    // What stands as it is but for its capitals is what it would be cleaned to once more.
    if (changes.isEmpty() && c.name().equalsIgnoreCase(name)) return c;
    // What was cut may end in a way that the whole did not.
    for (int i = 0; i < 4; i++) {
      Cleaned again = cleaned(c.name(), changes);
      if (again.name().equals(c.name())) break;
      c = again;
    }
    return new Cleaned(c.stem(), c.ending(), List.copyOf(changes), odd);
  }

  private Cleaned cleaned(String name, Set<String> changes) {
    String whole = Normalizer.normalize(name, Normalizer.Form.NFC).strip();
    while (whole.endsWith(".")) whole = whole.substring(0, whole.length() - 1);
    String type = typeOf(whole);
    if (!type.isEmpty()) whole = whole.substring(0, whole.length() - type.length());
    else if (!types.isEmpty()) type = "." + types.get(0);
    int point = whole.lastIndexOf('.');
    if (ending == 0 && whole.length() > stem && point > 0) {
      // The name is worth more than the desktop's word for its kind.
      changes.add("ending left out");
      whole = whole.substring(0, point);
    }
    int dot = ending == 0 ? -1 : point;
    boolean parted = dot > 0 && (ending > 0 || whole.length() - dot - 1 <= MOST_FREE_ENDING);
    String before = legal(parted ? whole.substring(0, dot) : whole, ending > 0, changes);
    String after = parted ? legal(whole.substring(dot + 1), true, changes).strip() : "";
    if (ending > 0 && after.length() > ending) {
      changes.add("ending cut to " + ending);
      after = after.substring(0, ending);
    }
    before = begun(before.strip(), changes);
    after = after.isEmpty() ? "" : "." + after;
    int most = room(after);
    if (before.length() > most) {
      changes.add("cut to " + most);
      before = begun(cut(before, most), changes);
    }
    before = withoutEnd(before, after.isEmpty());
    boolean device = reserved.contains(before.toUpperCase(Locale.ROOT));
    if (device) {
      changes.add(before.toUpperCase(Locale.ROOT) + " is a device");
      before = cut(before, most - 1) + "_";
    }
    return new Cleaned(before, after + type, List.of(), device || changes.contains(NOTHING));
  }

  /** Letters that are left for a stem beside an ending. */
  private int room(String after) {
    return ending < 0 ? stem - after.length() : stem;
  }

  /** A cleaned name with a number that tells it from others. */
  String numbered(Cleaned c, int n) {
    String type = typeOf(c.ending());
    String after = c.ending().substring(0, c.ending().length() - type.length());
    String number = tail + n;
    String kept = c.stem();
    int most = room(after) - number.length();
    if (kept.length() > most) kept = kept.substring(0, most);
    return withoutEnd(kept, false) + number + c.ending();
  }

  /**
   * Why a name cannot stand as it is; empty where it can. What {@link #clean} gives can.
   *
   * @param name of a file
   */
  public Optional<String> fault(String name) {
    Cleaned c = clean(name);
    if (c.name().equals(name)) return Optional.empty();
    String why = c.changes().isEmpty() ? "" : " (" + String.join(", ", c.changes()) + ")";
    return Optional.of("\"" + name + "\" would stand as " + c.name() + why + ".");
  }

  private String typeOf(String name) {
    if (types.isEmpty()) return "";
    String low = name.toLowerCase(Locale.ROOT);
    return types.stream()
        .map(t -> "." + t)
        .filter(low::endsWith)
        .findFirst()
        .map(t -> name.substring(name.length() - t.length()).toLowerCase(Locale.ROOT))
        .orElse("");
  }

  /** Each letter as it may stand; a point is none where one parts the ending from the stem. */
  private String legal(String part, boolean noPoints, Set<String> changes) {
    StringBuilder out = new StringBuilder();
    int replaced = 0;
    BitSet allowed = allowed();
    for (int c : part.codePoints().toArray()) {
      // Most letters of most names.
      int capital = capitals && c >= 'a' && c <= 'z' ? c - 32 : c;
      if (c < 0x80 && c != '.' && allowed.get(capital)) {
        out.append((char) capital);
        continue;
      }
      if (c == '.' && noPoints) {
        out.append(allowed().get('_') ? "_" : "");
        continue;
      }
      String as = as(c);
      if (as == null) {
        // A space in a short name parts words that nobody misses the gap of.
        if (c != ' ') replaced++;
        out.append(c == ' ' ? "" : instead);
      } else {
        if (!as.equalsIgnoreCase(Character.toString(c))) replaced++;
        out.append(as);
      }
    }
    if (replaced == 1) changes.add("one letter replaced");
    if (replaced > 1) changes.add(replaced + " letters replaced");
    return out.toString();
  }

  /** A letter as it may stand, perhaps as two; null where nothing stands for it. */
  private String as(int c) {
    String plain = Character.toString(c);
    if (stands(plain)) return cased(plain);
    if (PLAIN.containsKey(c) && stands(PLAIN.get(c))) return cased(PLAIN.get(c));
    String apart = Normalizer.normalize(plain, Normalizer.Form.NFD);
    int base = apart.codePointAt(0);
    if (base == c || !Character.isLetterOrDigit(base)) return null;
    String bare = Character.toString(base);
    return stands(bare) ? cased(bare) : null;
  }

  private boolean stands(String some) {
    return cased(some).codePoints().allMatch(c -> allowed().get(Math.min(c, BEYOND)));
  }

  /** Plain letters only: what others become in capitals is more than one letter now and then. */
  private String cased(String s) {
    if (!capitals) return s;
    StringBuilder out = new StringBuilder();
    for (char c : s.toCharArray()) out.append(c >= 'a' && c <= 'z' ? (char) (c - 32) : c);
    return out.toString();
  }

  private BitSet allowed() {
    return CLASSES.computeIfAbsent(letters, NameRule::members);
  }

  private static BitSet members(String regex) {
    Pattern p = Pattern.compile(regex);
    BitSet out = new BitSet(0x10000);
    for (int c = 0; c < 0x10000; c++) {
      if (p.matcher(Character.toString(c)).matches()) out.set(c);
    }
    return out;
  }

  /** With a letter before it where it begins with none that may; something where it is nothing. */
  private String begun(String stemNow, Set<String> changes) {
    String s = stemNow.isEmpty() ? (instead.isEmpty() ? "X" : instead) : stemNow;
    if (stemNow.isEmpty()) changes.add(NOTHING);
    if (first.isEmpty() || s.substring(0, 1).matches(first)) return s;
    changes.add("begins with a letter");
    return "X" + s;
  }

  /** Cut so that the number at its end stays, where it has one: Pattern 001 and 002 stay apart. */
  private static String cut(String s, int most) {
    if (s.length() <= most) return s;
    int digits = 0;
    while (digits < most / 2 && isDigit(s.charAt(s.length() - 1 - digits))) digits++;
    String head = s.substring(0, most - digits);
    // Never through the middle of a letter that takes two places.
    if (!head.isEmpty() && Character.isHighSurrogate(head.charAt(head.length() - 1))) {
      head = head.substring(0, head.length() - 1);
    }
    return head + s.substring(s.length() - digits);
  }

  private static boolean isDigit(char c) {
    return c >= '0' && c <= '9';
  }

  /** A name does not end with a space, nor with a point where nothing comes behind it. */
  private String withoutEnd(String s, boolean last) {
    String out = s.stripTrailing();
    if (last)
      while (out.endsWith(".") || out.endsWith(" ")) out = out.substring(0, out.length() - 1);
    if (!out.isEmpty() && Character.isHighSurrogate(out.charAt(out.length() - 1))) {
      out = out.substring(0, out.length() - 1);
    }
    return out.isEmpty() ? (instead.isEmpty() ? "X" : instead) : out;
  }
}
