package lanternshed.core.boot;

import java.util.Optional;

/**
 * The one answer to "does it start?", in the same words wherever it is asked: Plan, Build, Write
 * and Prove. Links that hold say that nothing stands against it; that it starts only the machine
 * shows.
 */
public record Start(Kind kind, String sentence) {

  /** What was found. */
  public enum Kind {
    /** It carries data only. */
    NOT_MEANT,
    /** It is meant to start, and was not looked at yet. */
    MEANT,
    /** All links hold, and where its code was run its loader was entered. */
    STANDS,
    /** All links hold, and yet its code entered no loader when it was run. */
    DOUBT,
    /** A link breaks. */
    BREAKS
  }

  private static final Start NOTHING =
      new Start(
          Kind.NOT_MEANT, "Not meant to start: it has no system file, or no code that starts one.");

  /**
   * Of a card from which the machine itself starts nothing.
   *
   * @param from what it starts from instead, "a floppy"
   */
  public static Start elsewhere(String from) {
    return new Start(Kind.NOT_MEANT, "The machine starts from " + from + ", not from the card.");
  }

  /** Before there is an image: with which loader it is meant to start; "" for none. */
  public static Start meant(String systemFile) {
    return systemFile.isEmpty()
        ? NOTHING
        : new Start(
            Kind.MEANT,
            "Meant to start with " + systemFile + "; every link is looked at when it is built.");
  }

  /**
   * By the links as they stand on the medium, and by what its code did when it was run (B-10).
   *
   * @param meant whether it is to start at all
   * @param run empty where it was not run
   */
  public static Start of(BootChain chain, boolean meant, Optional<Rehearsal> run) {
    Start byLinks = of(chain, meant);
    if (run.isEmpty() || byLinks.kind() != Kind.STANDS) return byLinks;
    String holds = chain.holding() + " links hold";
    if (run.get().starts()) {
      return new Start(
          Kind.STANDS,
          "Nothing stands against its start: "
              + holds
              + ", and run as this machine would, "
              + run.get().sentence().replaceAll("\\.$", "")
              + ". That its system comes up the machine shows.");
    }
    return new Start(
        Kind.DOUBT,
        "Its "
            + holds
            + (run.get().ending().fails()
                ? ", but run as this machine would, it enters no loader: "
                : ", and run as this machine would, nothing failed as far as it is followed: ")
            + run.get().sentence());
  }

  /**
   * By the links as they stand on the medium.
   *
   * @param meant whether it is to start at all
   */
  public static Start of(BootChain chain, boolean meant) {
    if (!meant) return NOTHING;
    if (chain.holds()) {
      return new Start(
          Kind.STANDS,
          "Nothing stands against its start: "
              + (chain.holding() == chain.links().size() ? "all " : "")
              + chain.holding()
              + " links hold"
              + (chain.holding() == chain.links().size()
                  ? ". That it starts the machine shows."
                  : ", and what its own code loads was not looked at. That it starts the machine"
                      + " shows."));
    }
    BootChain.Link l = chain.broken().orElse(chain.links().get(0));
    return new Start(Kind.BREAKS, "Will not start: " + l.name() + ", " + l.evidence() + ".");
  }
}
