package lanternshed.server.work;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.boot.BootChain;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.work.ImageBuilder;

/** The four proofs of a built image (W-2), kept with the job. */
public record ProofView(
    boolean proved,
    long files,
    List<String> differing,
    List<Finding> findings,
    List<BootChain.Link> boot,
    boolean starts) {

  static ProofView of(ImageBuilder.Proof p) {
    List<Finding> findings = new ArrayList<>(p.table());
    findings.addAll(p.volumes());
    return new ProofView(
        p.proved(), p.files(), p.differing(), findings, p.boot().links(), p.starts());
  }

  /** The first reason why it is not proved. */
  String why() {
    if (!findings.isEmpty()) return findings.get(0).what();
    if (!differing.isEmpty()) {
      return Say.plural(differing.size(), "file differs", "files differ")
          + " from the source, first "
          + differing.get(0)
          + ".";
    }
    return boot.stream()
        .filter(l -> l.verdict() == BootChain.Verdict.BREAKS)
        .findFirst()
        .map(l -> "the boot chain breaks at " + l.name() + ": " + l.evidence() + ". " + l.mend())
        .orElse("");
  }
}
