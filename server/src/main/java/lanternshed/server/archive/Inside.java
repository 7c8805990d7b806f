package lanternshed.server.archive;

import java.util.ArrayList;
import java.util.List;
import lanternshed.server.shell.Json;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** Where what lies in the archive of a job. */
final class Inside {
  /** All that was written down. */
  static final String ROWS = "job.json";

  /** The profile of a machine that does not ship. */
  static final String MACHINE = "machine.json";

  private Inside() {}

  static String image(String sha256) {
    return "images/" + sha256 + ".img";
  }

  static boolean isImage(String path) {
    return path.startsWith("images/");
  }

  static String picture(long id) {
    return "pictures/" + id + ".jpg";
  }

  /** The drivers' files of a settled plan, as rows of files that were brought. */
  static List<ObjectNode> drivers(String planChoice) {
    List<ObjectNode> out = new ArrayList<>();
    if (planChoice.isEmpty()) return out;
    for (JsonNode d : Json.read(planChoice, ObjectNode.class).path("drivers")) {
      if (d instanceof ObjectNode o) out.add(o.put("path", o.path("name").asString()));
    }
    return out;
  }

  static String file(String sha256) {
    return "files/" + sha256;
  }
}
