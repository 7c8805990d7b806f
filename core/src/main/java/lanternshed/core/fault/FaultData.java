package lanternshed.core.fault;

import java.io.IOException;
import java.io.InputStream;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.json.JsonMapper;

/** Reads the shipped data of this package. */
final class FaultData {
  private static final JsonMapper JSON =
      JsonMapper.builder().enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES).build();

  private FaultData() {}

  static <T> T read(String file, TypeReference<T> type) {
    try (InputStream in = FaultData.class.getResourceAsStream(file)) {
      return JSON.readValue(in, type);
    } catch (IOException | RuntimeException e) {
      throw new IllegalStateException("The shipped data " + file + " does not read", e);
    }
  }
}
