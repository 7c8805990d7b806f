package lanternshed.core.machine;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import lanternshed.core.fault.PartKinds;
import lanternshed.core.measure.JsonForm;
import lanternshed.core.measure.ShedException;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * A profile as a JSON file: read with every fault named by place and reason, and written. What the
 * schema can say is checked by it (JSON Schema 2020-12); the rest here.
 */
public final class ProfileFile {
  private static final int MOST_MIB = 1;
  public static final int MOST_BYTES = MOST_MIB << 20;
  private static final JsonMapper JSON =
      JsonMapper.builder()
          .enable(SerializationFeature.INDENT_OUTPUT)
          // What must be there the schema demands; what may be left out is false or nothing.
          .disable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
          .build();
  private static final JsonForm FORM = new JsonForm("profile", "/machines/schema.json", MOST_MIB);

  private ProfileFile() {}

  /** The published JSON Schema. */
  public static String schema() {
    return FORM.schema();
  }

  /**
   * Reads a profile.
   *
   * @throws ShedException with the first fault: where it is, what is wrong there
   */
  public static Profile read(String text) {
    JsonNode tree = FORM.read(text);
    Profile p;
    try {
      p = JSON.treeToValue(tree, Profile.class);
    } catch (JacksonException e) {
      throw refused(e.getOriginalMessage(), "the file");
    }
    check(p);
    return p;
  }

  public static String write(Profile p) {
    return JSON.writeValueAsString(p) + "\n";
  }

  private static void check(Profile p) {
    for (int f = 0; f < p.firmwares().size(); f++) {
      for (String peg : p.firmwares().get(f).pegs()) {
        if (Ceiling.of(peg).isEmpty())
          throw refused("there is no peg " + peg, "/firmwares/" + f + "/pegs");
      }
    }
    for (String s : p.systems()) {
      if (Generation.of(s).isEmpty()) throw refused("there is no system " + s, "/systems");
    }
    boolean carries = p.family().equals("carrier");
    if (carries != (p.carrier() != null)) {
      throw refused("a carrier and its files go together: name both or neither", "/carrier");
    }
    if (carries && !p.carrier().slotList().isEmpty() && p.carrier().template().contains(" ")) {
      throw refused("a list of disks names files without spaces", "/carrier/template");
    }
    if (p.firmwares().isEmpty() != p.systems().isEmpty()) {
      throw refused("firmwares and systems go together: name both or neither", "/systems");
    }
    for (int i = 0; i < p.parts().size(); i++) {
      try {
        PartKinds.get(p.parts().get(i).kind());
      } catch (ShedException e) {
        throw refused(e.getMessage(), "/parts/" + i + "/kind");
      }
    }
    chain(p.bootChain());
  }

  /** Links are known by their keys, hand over to links that exist, and never to one before them. */
  private static void chain(List<Profile.ChainLink> links) {
    Map<String, Integer> at = new HashMap<>();
    for (int i = 0; i < links.size(); i++) {
      if (at.put(links.get(i).key(), i) != null) {
        throw refused(
            "the key " + links.get(i).key() + " is there twice", "/bootChain/" + i + "/key");
      }
    }
    for (int i = 0; i < links.size(); i++) {
      for (String next : links.get(i).next()) {
        if (!at.containsKey(next)) {
          throw refused(
              "it hands over to " + next + ", which is no link", "/bootChain/" + i + "/next");
        }
      }
    }
    Set<String> done = new HashSet<>();
    for (Profile.ChainLink l : links) walk(l, links, at, done);
  }

  private static void walk(
      Profile.ChainLink from,
      List<Profile.ChainLink> links,
      Map<String, Integer> at,
      Set<String> done) {
    record Place(Profile.ChainLink link, int branch) {}
    Deque<Place> way = new ArrayDeque<>();
    way.push(new Place(from, 0));
    while (!way.isEmpty()) {
      Place p = way.pop();
      if (p.branch() >= p.link().next().size()) {
        done.add(p.link().key());
        continue;
      }
      way.push(new Place(p.link(), p.branch() + 1));
      String next = p.link().next().get(p.branch());
      if (done.contains(next)) continue;
      List<String> names = new ArrayList<>(way.stream().map(x -> x.link().key()).toList());
      if (names.contains(next)) {
        List<String> loop = new ArrayList<>(names.subList(0, names.indexOf(next) + 1));
        Collections.reverse(loop);
        throw refused(
            "the boot chain runs in a circle: " + String.join(" → ", loop) + " → " + next,
            "/bootChain/" + at.get(p.link().key()) + "/next");
      }
      way.push(new Place(links.get(at.get(next)), 0));
    }
  }

  private static ShedException refused(String why, String where) {
    return FORM.refused(why, where);
  }
}
