package lanternshed.core.node;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.function.LongSupplier;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;
import lanternshed.core.medium.NodeMedium;

/**
 * Nodes that this process opens itself, by a list. An entry is the path of a node, the same with
 * ":write" where it may be written though it is not marked removable, or the word "removable" for
 * every node that is. Nothing else is opened by any name.
 */
public final class OwnNodes implements Nodes {
  private static final String WRITE = ":write";
  private static final String REMOVABLE = "removable";
  private static final Path NODES = Path.of("/dev");

  /** After so long it is asked again whether a node may still be written. */
  private static final long ASK_NANOS = TimeUnit.MILLISECONDS.toNanos(100);

  private final List<String> entries;
  private final DeviceFacts facts;
  private final LongSupplier clock;

  /**
   * @param clock in nanoseconds
   */
  public OwnNodes(List<String> entries, LongSupplier clock) {
    this(entries, new DeviceFacts(), clock);
  }

  OwnNodes(List<String> entries, DeviceFacts facts, LongSupplier clock) {
    this.clock = clock;
    this.entries = entries.stream().filter(e -> !e.isBlank()).toList();
    this.facts = facts;
  }

  /** Each node with whether it may be written without a mark that it is removable. */
  private Map<String, Boolean> listed() {
    Map<String, Boolean> out = new LinkedHashMap<>();
    for (String entry : entries) {
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

  @Override
  public List<NodeNow> all() {
    return listed().keySet().stream().map(this::asItIs).toList();
  }

  private NodeNow asItIs(String node) {
    try {
      return now(node);
    } catch (ShedException e) {
      return new NodeNow(node, "not there", 0, "", "", "", "", List.of(e.getMessage()));
    }
  }

  private Path allowed(String node) {
    if (!listed().containsKey(node)) {
      throw new ShedException(
          "The device "
              + clean(node)
              + " is not in the list of devices that may be opened. Whoever runs the shed adds it"
              + " there, in SHED_DEVICES or behind ./shed reader, and starts it again.");
    }
    return Path.of(node);
  }

  /** A name that somebody gave, as it may stand in a sentence. */
  static String clean(String node) {
    return node.replaceAll("\\p{Cntrl}", " ").strip();
  }

  @Override
  public NodeNow now(String node) {
    Path path = allowed(node);
    if (Files.isRegularFile(path)) return file(node, path);
    DeviceFacts.Device d = facts.of(path);
    return new NodeNow(
        node,
        d.sectors() == 0 ? "nothing is in it" : DeviceFacts.inWords(d),
        d.sectors(),
        d.serial(),
        facts.identity(path, d.sectors()),
        facts.insertion(path),
        DeviceFacts.key(path),
        refusals(node, d));
  }

  /** A file that somebody put on the list is read as an old drive, and never written. */
  private NodeNow file(String node, Path path) {
    try (FileMedium m = FileMedium.open(path)) {
      String no = node + " is a file and no block device; only its content is read.";
      String identity = facts.identity(path, m.sectors());
      String key = DeviceFacts.key(path);
      return new NodeNow(node, "a file", m.sectors(), "", identity, "", key, List.of(no));
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
              + " into the list, in SHED_DEVICES or behind ./shed reader.");
    }
    if (d.readOnly()) out.add(node + " is write-protected; look at the switch of the card.");
    for (String use : d.inUse()) out.add(node + " " + use + "; release it first.");
    return List.copyOf(out);
  }

  @Override
  public Medium openOriginal(String node, String identity) {
    now(node).same(identity);
    return FileMedium.open(Path.of(node));
  }

  @Override
  public Medium open(String node, String identity) {
    now(node).same(identity);
    return NodeMedium.open(Path.of(node), false, () -> {});
  }

  /** Asked before it is opened, and of what was opened: meanwhile it may be another. */
  @Override
  public Medium openWritable(String node, String identity, String insertion) {
    mayWrite(node, identity, insertion);
    Runnable guard = seldom(() -> mayWrite(node, identity, insertion), clock);
    Medium m = NodeMedium.open(Path.of(node), true, guard);
    try {
      mayWrite(node, identity, insertion);
      return m;
    } catch (ShedException e) {
      m.close();
      throw e;
    }
  }

  /** Asks not oftener than is worth it: what the system says costs half a millisecond. */
  static Runnable seldom(Runnable ask, LongSupplier clock) {
    long[] asked = {clock.getAsLong()};
    return () -> {
      if (clock.getAsLong() - asked[0] < ASK_NANOS) return;
      ask.run();
      asked[0] = clock.getAsLong();
    };
  }

  private void mayWrite(String node, String identity, String insertion) {
    NodeNow now = now(node);
    now.refusals().stream()
        .findFirst()
        .ifPresent(
            r -> {
              throw new MediumException(r);
            });
    if (!now.same(identity).insertion().equals(insertion)) {
      throw new MediumException("The card in " + node + " was changed while it was written.");
    }
  }

  /** The list in words, for who started it. */
  @Override
  public String toString() {
    return String.join(", ", entries);
  }
}
