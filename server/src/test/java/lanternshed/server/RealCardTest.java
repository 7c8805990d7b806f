package lanternshed.server;

import java.util.List;
import java.util.Map;

/** The server opens the nodes itself, by its own list. */
class RealCardTest extends RealCards {
  @Override
  Map<String, String> settings(List<String> nodes) {
    return Map.of("SHED_DEVICES", String.join(",", nodes));
  }
}
