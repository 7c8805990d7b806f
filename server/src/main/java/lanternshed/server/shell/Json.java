package lanternshed.server.shell;

import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** Records of the core as JSON text in a column. */
public final class Json {
  private static final JsonMapper MAPPER = JsonMapper.builder().build();

  private Json() {}

  public static String write(Object o) {
    return MAPPER.writeValueAsString(o);
  }

  /** For people: a line a field, and a last line end. */
  public static String written(Object o) {
    return MAPPER.writerWithDefaultPrettyPrinter().writeValueAsString(o) + "\n";
  }

  public static <T> T read(String text, Class<T> type) {
    return MAPPER.readValue(text, type);
  }

  public static <T> T read(String text, TypeReference<T> type) {
    return MAPPER.readValue(text, type);
  }
}
