package lanternshed.core.boot;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Sum;

/** Gathers the links of a chain as they are looked at. */
public final class Links {
  private final List<BootChain.Link> links = new ArrayList<>();

  /**
   * One link.
   *
   * @param mend what to do where it breaks
   */
  public void look(String rule, String name, boolean holds, String evidence, String mend) {
    if (holds) holds(rule, name, evidence);
    else breaks(rule, name, evidence, mend);
  }

  public void holds(String rule, String name, String evidence) {
    add(rule, name, BootChain.Verdict.HOLDS, evidence, "");
  }

  public void breaks(String rule, String name, String evidence, String mend) {
    add(rule, name, BootChain.Verdict.BREAKS, evidence, mend);
  }

  private void add(
      String rule, String name, BootChain.Verdict verdict, String evidence, String mend) {
    Sum sum = Sum.of(rule, name).because(evidence + ".").done();
    links.add(new BootChain.Link(rule, name, verdict, evidence, mend, sum));
  }

  public BootChain done() {
    return new BootChain(List.copyOf(links), Optional.empty());
  }
}
