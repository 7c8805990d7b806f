package lanternshed.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/**
 * docs/rules.md says of every rule where it lives and which test holds it; it is written from the
 * sources themselves with {@code -Drules.write=true}.
 */
class RulesTest {
  private static final Pattern ID = Pattern.compile("\\b([A-Z]-\\d{1,2}a?)\\b");
  private static final Path ROOT = Path.of("..").toAbsolutePath().normalize();

  /** Ids by rule number, so that G-2 comes before G-11. */
  private static int order(String a, String b) {
    int letter = Character.compare(a.charAt(0), b.charAt(0));
    int number =
        Integer.compare(
            Integer.parseInt(a.replaceAll("\\D", "")), Integer.parseInt(b.replaceAll("\\D", "")));
    return letter != 0 ? letter : number != 0 ? number : a.compareTo(b);
  }

  private static Map<String, String> titles() {
    Map<String, String> out = new TreeMap<>(RulesTest::order);
    for (String line : text(ROOT.resolve("core/src/main/resources/rules.tsv")).split("\n")) {
      String[] cells = line.split("\t");
      out.put(cells[0], cells[1]);
    }
    return out;
  }

  /** Classes that name a rule, by its id. */
  private static Map<String, TreeSet<String>> naming(String kind) {
    Map<String, TreeSet<String>> out = new TreeMap<>();
    for (String module : List.of("core", "server")) {
      try (Stream<Path> all = Files.walk(ROOT.resolve(module).resolve("src/" + kind + "/java"))) {
        for (Path p : all.filter(x -> x.toString().endsWith(".java")).toList()) {
          String name = p.getFileName().toString().replace(".java", "");
          if (name.equals("RulesTest") || name.equals("package-info")) continue;
          Matcher m = ID.matcher(text(p));
          while (m.find()) out.computeIfAbsent(m.group(1), k -> new TreeSet<>()).add(name);
        }
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }
    return out;
  }

  private static String text(Path p) {
    try {
      return Files.readString(p);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static String page(Map<String, String> titles) {
    Map<String, TreeSet<String>> main = naming("main");
    Map<String, TreeSet<String>> tests = naming("test");
    StringBuilder out = new StringBuilder();
    out.append("# Rules\n\n");
    out.append("Written by `RulesTest` from the sources; `-Drules.write=true` writes it anew.\n");
    out.append("A rule of a ceiling (G) is tested in `PegsTest` for all of them at −1, 0, +1.\n\n");
    out.append(
        "| rule | what it says | where it lives | tests that name it |\n|---|---|---|---|\n");
    titles.forEach(
        (id, title) ->
            out.append("| ")
                .append(id)
                .append(" | ")
                .append(title)
                .append(" | ")
                .append(cell(main.get(id)))
                .append(" | ")
                .append(cell(tests.get(id)))
                .append(" |\n"));
    return out.toString();
  }

  private static String cell(TreeSet<String> classes) {
    return classes == null ? "–" : "`" + String.join("`, `", classes) + "`";
  }

  @Test
  void everyRuleThatTheProgramNamesHasATitleAndThePageIsCurrent() {
    Map<String, String> titles = titles();
    Map<String, TreeSet<String>> main = naming("main");
    List<String> without = new ArrayList<>(main.keySet());
    without.removeAll(titles.keySet());
    // Ceilings have their titles in the enum that holds them.
    without.removeIf(id -> id.startsWith("G-"));
    assertThat(without).as("rules without a title in rules.tsv").isEmpty();
    assertThat(titles.keySet()).allSatisfy(id -> assertThat(main).containsKey(id));
    Path page = ROOT.resolve("docs/rules.md");
    String now = page(titles);
    if (Boolean.getBoolean("rules.write")) {
      try {
        Files.writeString(page, now);
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }
    assertThat(text(page)).as("write it anew with -Drules.write=true").isEqualTo(now);
  }
}
