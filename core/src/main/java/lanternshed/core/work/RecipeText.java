package lanternshed.core.work;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import lanternshed.core.measure.JsonForm;
import lanternshed.core.measure.ShedException;
import tools.jackson.databind.JsonNode;

/** A recipe as text that a person changes: looked at by its schema, and compared place by place. */
public final class RecipeText {
  /** Thousands of files from a desktop, each with its digest. */
  private static final int MOST_MIB = 16;

  public static final int MOST_BYTES = MOST_MIB << 20;
  private static final JsonForm FORM = new JsonForm("recipe", "/recipes/schema.json", MOST_MIB);

  /** More than anybody reads. */
  private static final int MOST = 400;

  private RecipeText() {}

  /**
   * One place at which two recipes differ.
   *
   * @param place a JSON pointer, "/volumes/0/label"
   * @param was what stands there in the first; "" for nothing
   * @param is what stands there in the second; "" for nothing
   */
  public record RecipeChange(String place, String was, String is) {}

  /** The published JSON Schema. */
  public static String schema() {
    return FORM.schema();
  }

  /**
   * Reads a recipe that somebody wrote.
   *
   * @throws ShedException with the first thing that makes no sense, and its place
   */
  public static Recipe read(String text) {
    FORM.read(text);
    Recipe r = Recipe.parse(text);
    RecipeCheck.of(r);
    return r;
  }

  /** Where two recipes differ, in the order of the first; at most 400 places. */
  public static List<RecipeChange> compare(String first, String second) {
    List<RecipeChange> out = new ArrayList<>();
    compare("", FORM.read(first), FORM.read(second), out);
    return out;
  }

  private static void compare(String place, JsonNode a, JsonNode b, List<RecipeChange> out) {
    if (out.size() >= MOST || a.equals(b)) return;
    if (a.isObject() && b.isObject()) {
      Set<String> names = new LinkedHashSet<>(a.propertyNames());
      names.addAll(b.propertyNames());
      for (String n : names) compare(place + "/" + n, a.path(n), b.path(n), out);
    } else if (a.isArray() && b.isArray()) {
      for (int i = 0; i < Math.max(a.size(), b.size()); i++) {
        compare(place + "/" + i, a.path(i), b.path(i), out);
      }
    } else {
      out.add(new RecipeChange(place, said(a), said(b)));
    }
  }

  private static String said(JsonNode n) {
    if (n.isMissingNode() || n.isNull()) return "";
    return n.isString() ? n.asString() : n.toString();
  }
}
