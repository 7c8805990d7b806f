package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** docs/openapi.json, from which the screens' types are made, is what the server really offers. */
class ApiTextTest {
  /**
   * It tells its API, by the whole names of its records, and holds its entities against the tables
   * that the migrations made.
   */
  private static final Map<String, String> TOLD =
      Map.of(
          "SPRINGDOC_APIDOCS_ENABLED", "true",
          "SPRINGDOC_USEFQN", "true",
          "SPRING_JPA_HIBERNATE_DDLAUTO", "validate");

  private static final Pattern REFERENCE = Pattern.compile("(#/components/schemas/)[\\w.$]*[.$]");

  @Test
  void theApiIsAsItIsWrittenDownAndEverySchemaIsOfOneRecord() throws Exception {
    Path file = Path.of("../docs/openapi.json");
    try (TestShed shed = new TestShed(false, 0, TOLD)) {
      String told = REFERENCE.matcher(shed.get("/v3/api-docs").text()).replaceAll("$1");
      ObjectNode now = (ObjectNode) JsonMapper.shared().readTree(told);
      ObjectNode components = (ObjectNode) now.get("components");
      Map<String, List<String>> byName =
          components.get("schemas").propertyNames().stream()
              .collect(Collectors.groupingBy(ApiTextTest::simple));
      assertThat(byName).containsKey("StartWish");
      // Two records of one simple name would become one schema, without a word.
      assertThat(byName.values()).allSatisfy(names -> assertThat(names).hasSize(1));
      ObjectNode schemas = JsonMapper.shared().createObjectNode();
      components
          .get("schemas")
          .properties()
          .forEach(e -> schemas.set(simple(e.getKey()), e.getValue()));
      components.set("schemas", schemas);
      if (Boolean.getBoolean("api.write")) {
        JsonMapper mapper = JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();
        Files.writeString(file, mapper.writeValueAsString(now) + "\n");
      }
      assertThat(JsonMapper.shared().readTree(Files.readString(file)))
          .as("./shed types renews it")
          .isEqualTo(now);
    }
  }

  private static String simple(String name) {
    return name.substring(Math.max(name.lastIndexOf('.'), name.lastIndexOf('$')) + 1);
  }
}
