package lanternshed.server.media;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;
import lanternshed.core.medium.NodeMedium;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Surveyor;
import lanternshed.server.shell.Settings;
import org.springframework.stereotype.Component;

/**
 * The device nodes that whoever runs the shed lets it open. An entry of the list is the path of a
 * node, the same with ":write" where it may be written though it is not marked removable, or the
 * word "removable" for every node that is. Nothing else is opened by any name.
 */
@Component
class Readers {
  private static final String WRITE = ":write";
  private static final String REMOVABLE = "removable";
  private static final Path NODES = Path.of("/dev");

  /** What is typed for a card without a serial and without content. */
  private static final String EMPTY = "EMPTY";

  /** What lies on a card is looked for again after so long, not at every glance. */
  private static final long LOOK_NANOS = 15_000_000_000L;

  private final Settings settings;
  private final DeviceFacts facts = new DeviceFacts();
  private final Map<String, Look> looks = new ConcurrentHashMap<>();

  /** What was on a node, and when it was looked at. */
  private record Look(DeviceFacts.Device device, String on, long at) {}

  Readers(Settings settings) {
    this.settings = settings;
  }

  /**
   * A node as it is now.
   *
   * @param says what is in it, in words
   * @param sectors 0 where nothing is in it
   * @param on what lies on it, in words; "" where nothing is known
   * @param refusals why nothing is written to it; empty where it may be
   */
  record ReaderView(
      String node, String says, long sectors, String size, String on, List<String> refusals) {}

  List<ReaderView> all() {
    return listed().keySet().stream().map(this::view).toList();
  }

  /** Each node with whether it may be written without a mark that it is removable. */
  private Map<String, Boolean> listed() {
    Map<String, Boolean> out = new LinkedHashMap<>();
    for (String entry : settings.devices()) {
      if (entry.equals(REMOVABLE)) {
        facts.removable().forEach(n -> out.putIfAbsent(NODES.resolve(n).toString(), false));
      } else if (entry.endsWith(WRITE)) {
        out.put(entry.substring(0, entry.length() - WRITE.length()), true);
      } else {
        out.putIfAbsent(entry, false);
      }
    }
    return out;
  }

  private ReaderView view(String node) {
    try {
      DeviceFacts.Device d = facts.of(Path.of(node));
      if (d.sectors() == 0) return new ReaderView(node, "nothing is in it", 0, "", "", List.of());
      return new ReaderView(
          node,
          DeviceFacts.inWords(d),
          d.sectors(),
          Say.mib(d.sectors() * 512),
          on(node, d),
          refusals(node, d));
    } catch (ShedException e) {
      boolean file = Files.isRegularFile(Path.of(node));
      return new ReaderView(
          node, file ? "a file" : "not there", file ? 1 : 0, "", "", List.of(e.getMessage()));
    }
  }

  /**
   * @throws ShedException where the list does not have it
   */
  String allowed(String node) {
    if (!listed().containsKey(node)) {
      throw new ShedException(
          "The device "
              + MediaService.clean(node)
              + " is not in the list of devices that may be opened. Whoever runs the shed adds it to"
              + " SHED_DEVICES and starts it again.");
    }
    return node;
  }

  DeviceFacts.Device facts(String node) {
    return facts.of(Path.of(allowed(node)));
  }

  String identity(String node, long sectors) {
    return facts.identity(Path.of(node), sectors);
  }

  /** Why nothing is written to what is in a node now (W-3). */
  List<String> refusals(String node) {
    try {
      return refusals(node, facts(node));
    } catch (ShedException e) {
      return List.of(e.getMessage());
    }
  }

  private List<String> refusals(String node, DeviceFacts.Device d) {
    List<String> out = new ArrayList<>();
    if (d.sectors() == 0) out.add("Nothing is in " + node + ".");
    if (!d.removable() && !listed().getOrDefault(node, false)) {
      out.add(
          node
              + " is not marked removable; it may be the disk of this computer. Where you know that"
              + " it is not, whoever runs the shed writes "
              + node
              + WRITE
              + " into SHED_DEVICES.");
    }
    if (d.readOnly()) out.add(node + " is write-protected; look at the switch of the card.");
    for (String use : d.inUse()) out.add(node + " " + use + "; release it first.");
    return out;
  }

  /** What is typed before it is written over: its serial's end, or what is on it. */
  String word(String node) {
    DeviceFacts.Device d = facts(node);
    return d.serial().length() >= 4
        ? d.serial().substring(d.serial().length() - 4)
        : survey(node).map(Readers::named).orElse(EMPTY);
  }

  private static String named(Survey s) {
    return s.volumes().stream()
        .map(v -> v.label().isEmpty() ? v.kind() : v.label())
        .filter(l -> !l.isBlank())
        .findFirst()
        .orElse(EMPTY);
  }

  private Optional<Survey> survey(String node) {
    try (Medium m = NodeMedium.open(Path.of(allowed(node)), false, () -> {})) {
      return Optional.of(Surveyor.survey(m));
    } catch (MediumException e) {
      return Optional.empty();
    }
  }

  /** "FAT32 CAMERA, 812 files". */
  private String on(String node, DeviceFacts.Device d) {
    Look last = looks.get(node);
    boolean fresh = last != null && System.nanoTime() - last.at() < LOOK_NANOS;
    if (fresh && last.device().equals(d)) return last.on();
    String now = on(node).orElse("");
    looks.put(node, new Look(d, now, System.nanoTime()));
    return now;
  }

  private Optional<String> on(String node) {
    return survey(node)
        .map(
            s ->
                String.join(
                    "; ",
                    s.volumes().stream()
                        .map(
                            v -> (v.kind() + " " + v.label()).strip() + ", " + v.files() + " files")
                        .toList()));
  }

  /** For reading, past the cache; the same medium as it was taken for. */
  Medium open(MediumEntity m) {
    same(m);
    return NodeMedium.open(Path.of(m.node()), false, () -> {});
  }

  /**
   * For writing; asked again and again whether it still may be.
   *
   * @throws ShedException with the first reason not to write
   */
  Medium openWritable(MediumEntity m) {
    same(m);
    mayWrite(m.node());
    return NodeMedium.open(Path.of(m.node()), true, () -> mayWrite(m.node()));
  }

  private void mayWrite(String node) {
    refusals(node).stream()
        .findFirst()
        .ifPresent(
            r -> {
              throw new MediumException(r);
            });
  }

  /** Another medium at the same node is another: nothing is read or written under this name. */
  private void same(MediumEntity m) {
    String now = identity(allowed(m.node()), sectorsOf(m));
    if (m.identity().isEmpty() || m.identity().equals(now)) return;
    throw new ShedException(
        "Another medium is at "
            + m.node()
            + " now: it was "
            + m.identity()
            + ", and is "
            + now
            + ". Nothing was touched. Put the first one back, or take the new one as a medium of its"
            + " own.");
  }

  private long sectorsOf(MediumEntity m) {
    try (FileMedium f = FileMedium.open(Path.of(m.node()))) {
      return f.sectors();
    }
  }
}
