package lanternshed.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/** docs/openapi.json, from which the screens' types are made, is what the server really offers. */
class ApiTextTest {
  /** It tells its API, and holds its entities against the tables that the migrations made. */
  private static final Map<String, String> TOLD =
      Map.of("SPRINGDOC_APIDOCS_ENABLED", "true", "SPRING_JPA_HIBERNATE_DDLAUTO", "validate");

  @Test
  void theApiIsAsItIsWrittenDown() throws Exception {
    Path file = Path.of("../docs/openapi.json");
    try (TestShed shed = new TestShed(false, 0, TOLD)) {
      JsonNode now = shed.get("/v3/api-docs").json();
      if (Boolean.getBoolean("api.write")) {
        JsonMapper mapper = JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();
        Files.writeString(file, mapper.writeValueAsString(now) + "\n");
      }
      assertThat(JsonMapper.shared().readTree(Files.readString(file)))
          .as("./shed types renews it")
          .isEqualTo(now);
    }
  }

  /** Two records of one simple name would become one schema, without a word. */
  @Test
  void everySchemaIsOfOneRecord() {
    try (TestShed shed =
        new TestShed(
            false, 0, Map.of("SPRINGDOC_APIDOCS_ENABLED", "true", "SPRINGDOC_USEFQN", "true"))) {
      Map<String, List<String>> byName =
          shed.get("/v3/api-docs").json().get("components").get("schemas").propertyNames().stream()
              .collect(Collectors.groupingBy(n -> n.substring(n.lastIndexOf('.') + 1)));
      assertThat(byName).containsKey("StartWish");
      assertThat(byName.values()).allSatisfy(names -> assertThat(names).hasSize(1));
    }
  }
}
