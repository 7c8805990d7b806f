package lanternshed.core.measure;

import com.networknt.schema.Error;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * A text form: JSON that a published schema describes (2020-12). Whatever is wrong with a text is
 * named by its place.
 */
public final class JsonForm {
  private static final JsonMapper JSON = JsonMapper.shared();

  /** Whole numbers that are exact in a double; nothing here is counted so far. */
  private static final double MOST_NUMBER = 1L << 53;

  private final String what;
  private final int mostMib;
  private final String text;
  private final Schema schema;

  /**
   * @param what it is called in a sentence, "profile"
   * @param resource where its schema lies
   * @param mostMib MiB that a text may have
   */
  public JsonForm(String what, String resource, int mostMib) {
    this.what = what;
    this.mostMib = mostMib;
    try (InputStream in = JsonForm.class.getResourceAsStream(resource)) {
      this.text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new IllegalStateException("The schema " + resource + " does not read", e);
    }
    this.schema =
        SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12).getSchema(text);
  }

  /** The published JSON Schema. */
  public String schema() {
    return text;
  }

  /**
   * @throws ShedException with the first fault: where it is, what is wrong there
   */
  public JsonNode read(String json) {
    if (json.length() > mostMib << 20) {
      throw refused("it is larger than " + mostMib + " MiB", "the file");
    }
    JsonNode tree;
    try {
      tree = JSON.readTree(json);
    } catch (JacksonException e) {
      String at =
          e.getLocation() == null
              ? "the file"
              : "line " + e.getLocation().getLineNr() + ", column " + e.getLocation().getColumnNr();
      throw refused("it is not JSON: " + e.getOriginalMessage(), at);
    }
    bounded(tree, "");
    List<Error> errors = schema.validate(tree);
    if (errors.isEmpty()) return tree;
    String at = errors.get(0).getInstanceLocation().toString();
    throw refused(errors.get(0).getMessage(), at.isEmpty() ? "the file" : at);
  }

  /** What no schema can say: numbers that no field holds, and halves of letters. */
  private void bounded(JsonNode node, String at) {
    if (node.isNumber() && Math.abs(node.doubleValue()) > MOST_NUMBER) {
      throw refused("a number beyond all that is counted here", at);
    }
    if (node.isString() && !StandardCharsets.UTF_8.newEncoder().canEncode(node.stringValue())) {
      throw refused("a text that ends within a letter", at);
    }
    for (Map.Entry<String, JsonNode> field : node.properties()) {
      bounded(field.getValue(), at + "/" + field.getKey());
    }
    if (!node.isArray()) return;
    for (int i = 0; i < node.size(); i++) bounded(node.get(i), at + "/" + i);
  }

  /** What is said of a text that is not taken. */
  public ShedException refused(String why, String where) {
    return new ShedException(
        "The "
            + what
            + " is refused at "
            + where
            + ": "
            + why.replaceAll("\\.$", "")
            + ". Nothing was changed; mend it there and bring it in again.");
  }
}
