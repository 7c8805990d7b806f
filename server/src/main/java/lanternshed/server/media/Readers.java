package lanternshed.server.media;

import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;
import lanternshed.core.node.AskedNodes;
import lanternshed.core.node.NodeNow;
import lanternshed.core.node.Nodes;
import lanternshed.core.node.OwnNodes;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Surveyor;
import lanternshed.server.shell.Settings;
import org.springframework.stereotype.Component;

/**
 * Old drives and cards at the device nodes that whoever runs the shed lets it open: this process by
 * its own list, or where it has none, the reader process.
 */
@Component
class Readers {
  /** What is typed for a card without a serial and without content. */
  private static final String EMPTY = "EMPTY";

  private final Nodes nodes;

  Readers(Settings settings) {
    nodes =
        settings.devices().isEmpty()
            ? new AskedNodes(settings.reader())
            : new OwnNodes(settings.devices(), System::nanoTime);
  }

  /**
   * @param says what is in it, in words
   * @param sectors 0 where nothing is in it
   * @param refusals why nothing is written to it; empty where it may be
   */
  record ReaderView(String node, String says, long sectors, String size, List<String> refusals) {}

  List<ReaderView> all() {
    return nodes.all().stream()
        .map(
            n ->
                new ReaderView(
                    n.node(),
                    n.says(),
                    n.sectors(),
                    n.sectors() == 0 ? "" : Say.mib(n.sectors() * 512),
                    n.refusals()))
        .toList();
  }

  /**
   * @throws ShedException where the list does not have it, or it is not there
   */
  NodeNow now(String node) {
    return nodes.now(node);
  }

  /** Why nothing is written to a card as it is at its node now (W-3). */
  List<String> refusals(MediumEntity m) {
    try {
      return now(m.node()).same(m.identity()).refusals();
    } catch (ShedException e) {
      return List.of(e.getMessage());
    }
  }

  /** What is typed before it is written over: its serial's end, or what is on it. */
  String word(String node) {
    String serial = now(node).serial();
    return serial.length() >= 4
        ? serial.substring(serial.length() - 4)
        : survey(node).map(Readers::named).orElse(EMPTY);
  }

  /** As the system tells it; "" where nothing is there, or it tells none. */
  String serial(String node) {
    try {
      return now(node).serial();
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
    try (Medium m = nodes.open(node, "")) {
      return Optional.of(Surveyor.survey(m));
    } catch (MediumException e) {
      return Optional.empty();
    }
  }

  /** What lies on it, looked at when somebody asks: "FAT32 CAMERA, 812 files". */
  String on(String node) {
    return survey(node)
        .map(Readers::volumes)
        .filter(w -> !w.isEmpty())
        .orElse("nothing that is known");
  }

  static String volumes(Survey s) {
    return String.join(
        "; ",
        s.volumes().stream()
            .map(
                v ->
                    (v.kind() + " " + v.label()).strip()
                        + ", "
                        + Say.plural(v.files(), "file", "files"))
            .toList());
  }

  /** An old drive, for reading; the same medium as it was taken for. */
  Medium openOriginal(MediumEntity m) {
    return nodes.openOriginal(m.node(), m.identity());
  }

  /** For reading, past the cache; the same medium as it was taken for. */
  Medium open(MediumEntity m) {
    return nodes.open(m.node(), m.identity());
  }

  /** Which putting-in of a card is at its node now. */
  String insertion(MediumEntity m) {
    return now(m.node()).insertion();
  }

  /**
   * For writing; asked again and again whether it still may be.
   *
   * @param begun whether what was written so far lies on it: asked where it was taken out since a
   *     person confirmed it, as another card of its size may be in its place
   * @throws ShedException with the first reason not to write
   */
  Medium openWritable(MediumEntity m, Predicate<Medium> begun) {
    String now = insertion(m);
    Medium card = nodes.openWritable(m.node(), m.identity(), now);
    boolean same = false;
    try {
      same = now.equals(m.insertion()) || begun.test(card);
    } finally {
      if (!same) card.close();
    }
    if (same) return card;
    throw new ShedException(
        "The card in "
            + m.node()
            + " was taken out since it was confirmed, and what was written so far does not lie on"
            + " this one: it may be another. Nothing more was written. Put the right one in, or"
            + " cancel this work and begin anew.");
  }
}
