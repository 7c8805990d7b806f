package lanternshed.core.boot;

import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Sum;

/**
 * The links from power-on to the system's own loader, as they were found on a medium. The first
 * broken link decides; the links after it are still looked at, so that all can be mended at once.
 *
 * @param links in the order of the machine
 * @param message what our boot code will print where the chain breaks; empty where the chain holds,
 *     or where other boot code stands on the medium
 */
public record BootChain(List<Link> links, Optional<String> message) {

  /** Of what starts no machine. */
  public static final BootChain NONE = new BootChain(List.of(), Optional.empty());

  /** How a link stands. */
  public enum Verdict {
    HOLDS,
    BREAKS,
    /** Cannot be looked at because of a link before it. */
    UNSEEN
  }

  /**
   * One link.
   *
   * @param evidence what was read, and where
   * @param mend what to do when it breaks; "" when it holds
   */
  public record Link(
      String rule, String name, Verdict verdict, String evidence, String mend, Sum because) {}

  public boolean holds() {
    return links.stream().noneMatch(l -> l.verdict() == Verdict.BREAKS);
  }

  /** How many links were seen to hold. */
  public long holding() {
    return links.stream().filter(l -> l.verdict() == Verdict.HOLDS).count();
  }

  /** The first link that breaks. */
  public Optional<Link> broken() {
    return links.stream().filter(l -> l.verdict() == Verdict.BREAKS).findFirst();
  }
}
