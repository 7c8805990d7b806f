package lanternshed.core.machine;

import java.util.ArrayDeque;
import java.util.Collection;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import lanternshed.core.measure.Say;

/** The names by which an emulator finds its drives among the files of a card (P-32). */
public final class CarrierNames {
  /** By template; a folder of thousands asks for one of them again and again. */
  private static final Map<String, Pattern> NAMES = new ConcurrentHashMap<>();

  private CarrierNames() {}

  /** The id that a name says by the template; empty where it is another name. */
  public static Optional<Integer> id(Profile.Carrier carrier, String path) {
    String name = path.substring(path.lastIndexOf('/') + 1);
    Matcher m = NAMES.computeIfAbsent(carrier.template(), CarrierNames::pattern).matcher(name);
    if (!m.matches()) return Optional.empty();
    String group = carrier.numbered() ? "number" : "id";
    if (!carrier.template().contains("{" + group + "}")) return Optional.of(0);
    return Optional.of(Integer.parseInt(m.group(group)));
  }

  private static Pattern pattern(String template) {
    // Of what stands in a template twice the first says the number.
    String regex =
        Pattern.quote(template)
            .replaceFirst("\\{id}", "\\\\E(?<id>\\\\d{1,3})\\\\Q")
            .replaceFirst("\\{number}", "\\\\E(?<number>\\\\d{3})\\\\Q")
            .replace("{id}", "\\E\\d{1,3}\\Q")
            .replace("{number}", "\\E\\d{3}\\Q")
            .replace("{block}", "\\E\\d{3,4}\\Q");
    return Pattern.compile(regex, Pattern.CASE_INSENSITIVE);
  }

  /** Why the emulator takes a file for no drive; empty where it finds it. */
  public static Optional<String> astray(Profile.Carrier carrier, String path, long bytes) {
    Optional<String> length = odd(carrier, bytes);
    if (length.isPresent()) return length;
    Optional<Integer> id = id(carrier, path);
    if (id.isEmpty()) {
      return Optional.of("it asks for names like " + carrier.name(0, block(carrier, bytes), 0));
    }
    if (!carrier.ids().contains(id.get())) {
      return Optional.of("it knows no " + (carrier.numbered() ? "disk " : "id ") + id.get());
    }
    if (path.indexOf('/') >= 0) return Optional.of("it looks in the root only");
    return Optional.empty();
  }

  /** Why a file can be no drive by its length, whatever its name; empty where it can. */
  public static Optional<String> odd(Profile.Carrier carrier, long bytes) {
    if (!whole(carrier, bytes)) {
      return Optional.of("no whole blocks of " + blocks(carrier) + " B");
    }
    if (carrier.lengths().isEmpty() || carrier.lengths().contains(bytes)) return Optional.empty();
    return Optional.of(
        "its drive takes disks of "
            + carrier.lengths().stream().map(Say::size).collect(Collectors.joining(" or ")));
  }

  /** Whether it has whole blocks, one at least. */
  private static boolean whole(Profile.Carrier carrier, long bytes) {
    return bytes > 0 && carrier.blocks().stream().anyMatch(b -> bytes % b == 0);
  }

  private static String blocks(Profile.Carrier carrier) {
    return carrier.blocks().stream().map(String::valueOf).collect(Collectors.joining(" or "));
  }

  /** The usual block where a length is a multiple of it, else the first that fits. */
  private static int block(Profile.Carrier carrier, long bytes) {
    List<Integer> all = carrier.blocks();
    return all.stream().filter(b -> bytes % b == 0).findFirst().orElse(all.get(0));
  }

  /**
   * Names for files that are to be drives: the first free ids in the profile's order.
   *
   * @param taken names that lie in the root or come to it
   * @param files by path their bytes, in the order in which they are numbered
   * @return by path as it is the name; without those for which no id is left
   */
  public static Map<String, String> numbered(
      Profile.Carrier carrier, Collection<String> taken, Map<String, Long> files) {
    Set<Integer> used =
        taken.stream()
            .filter(t -> t.indexOf('/') < 0)
            .flatMap(t -> id(carrier, t).stream())
            .collect(Collectors.toSet());
    Deque<Integer> free = new ArrayDeque<>(carrier.ids());
    free.removeAll(used);
    Map<String, String> out = new LinkedHashMap<>();
    for (Map.Entry<String, Long> f : files.entrySet()) {
      if (free.isEmpty()) break;
      int id = free.remove();
      out.put(f.getKey(), carrier.name(id, block(carrier, f.getValue()), id));
    }
    return out;
  }
}
