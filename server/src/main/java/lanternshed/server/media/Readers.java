package lanternshed.server.media;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
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

  private final Settings settings;
  private final DeviceFacts facts = new DeviceFacts();

  Readers(Settings settings) {
    this.settings = settings;
  }

  /**
   * A node as it is now. Nothing of what is in it is read for that: it may be somebody's failing
   * drive.
   *
   * @param says what is in it, in words
   * @param sectors 0 where nothing is in it
   * @param refusals why nothing is written to it; empty where it may be
   */
  record ReaderView(String node, String says, long sectors, String size, List<String> refusals) {}

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
      if (d.sectors() == 0) return new ReaderView(node, "nothing is in it", 0, "", List.of());
      return new ReaderView(
          node, DeviceFacts.inWords(d), d.sectors(), Say.mib(d.sectors() * 512), refusals(node, d));
    } catch (ShedException e) {
      boolean file = Files.isRegularFile(Path.of(node));
      return new ReaderView(
          node, file ? "a file" : "not there", file ? 1 : 0, "", List.of(e.getMessage()));
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

  /** Why nothing is written to a card as it is at its node now (W-3). */
  List<String> refusals(MediumEntity m) {
    try {
      List<String> out = refusals(m.node(), facts(m.node()));
      if (out.isEmpty()) same(m);
      return out;
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

  /** As the system tells it; "" where nothing is there, or it tells none. */
  String serial(String node) {
    try {
      return facts(node).serial();
    } catch (ShedException e) {
      return "";
    }
  }

  private static String named(Survey s) {
    return s.volumes().stream()
        .map(v -> v.label().isEmpty() ? v.kind() : v.label())
        .map(l -> l.replaceAll("\\p{Cntrl}", "").strip())
        .filter(l -> !l.isEmpty())
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

  /** What lies on it, looked at when somebody asks: "FAT32 CAMERA, 812 files". */
  String on(String node) {
    return survey(node)
        .map(
            s ->
                String.join(
                    "; ",
                    s.volumes().stream()
                        .map(
                            v -> (v.kind() + " " + v.label()).strip() + ", " + v.files() + " files")
                        .toList()))
        .filter(w -> !w.isEmpty())
        .orElse("nothing that is known");
  }

  /** For reading, past the cache; the same medium as it was taken for. */
  Medium open(MediumEntity m) {
    same(m);
    return NodeMedium.open(Path.of(m.node()), false, () -> {});
  }

  /** Which putting-in of a card is at its node now. */
  String insertion(MediumEntity m) {
    return facts.insertion(Path.of(allowed(m.node())));
  }

  /**
   * For writing; asked again and again whether it still may be.
   *
   * @param begun whether what was written so far lies on it: asked where it was taken out since a
   *     person confirmed it, as another card of its size may be in its place
   * @throws ShedException with the first reason not to write
   */
  Medium openWritable(MediumEntity m, Predicate<Medium> begun) {
    mayWrite(m);
    String now = insertion(m);
    Medium card = NodeMedium.open(Path.of(m.node()), true, () -> mayWrite(m, now));
    if (now.equals(m.insertion()) || begun.test(card)) return card;
    card.close();
    throw new ShedException(
        "The card in "
            + m.node()
            + " was taken out since it was confirmed, and what was written so far does not lie on"
            + " this one: it may be another. Nothing more was written. Put the right one in, or"
            + " cancel this work and begin anew.");
  }

  private void mayWrite(MediumEntity m, String insertion) {
    mayWrite(m);
    if (!insertion(m).equals(insertion)) {
      throw new MediumException("The card in " + m.node() + " was changed while it was written.");
    }
  }

  private void mayWrite(MediumEntity m) {
    refusals(m).stream()
        .findFirst()
        .ifPresent(
            r -> {
              throw new MediumException(r);
            });
  }

  /** Another medium at the same node is another: nothing is read or written under this name. */
  private void same(MediumEntity m) {
    String now = identity(m.node(), facts(m.node()).sectors());
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
}
