package lanternshed.server.work;

import com.fasterxml.jackson.annotation.JsonIgnoreProperties;
import java.util.ArrayList;
import java.util.List;
import lanternshed.core.boot.BootChain;
import lanternshed.core.boot.Start;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.work.Proof;
import lanternshed.server.shell.Json;

/**
 * The four proofs of a built image (W-2), kept with the job.
 *
 * @param sentence what was compared, and whether it starts
 */
@JsonIgnoreProperties(ignoreUnknown = true)
public record ProofView(
    boolean proved,
    long files,
    List<String> differing,
    List<Finding> findings,
    List<BootChain.Link> boot,
    Start start,
    String sentence) {

  private static final ProofView NONE =
      new ProofView(false, 0, List.of(), List.of(), List.of(), Start.meant(""), "");

  /** Proofs of an older version had neither the answer nor the sentence. */
  public ProofView {
    start = start == null ? Start.meant("") : start;
    sentence = sentence == null ? "" : sentence;
  }

  /** As a job keeps it; nothing where nothing was built yet. */
  public static ProofView of(String kept) {
    return kept.isEmpty() ? NONE : Json.read(kept, ProofView.class);
  }

  static ProofView of(Proof p) {
    List<Finding> findings = new ArrayList<>(p.table());
    findings.addAll(p.volumes());
    return new ProofView(
        p.proved(),
        p.files(),
        p.differing(),
        findings,
        p.boot().links(),
        p.start(),
        compared(p) + " " + p.start().sentence());
  }

  private static String compared(Proof p) {
    if (p.sectors() > 0) return Say.sectors(p.sectors()) + " identical to the source.";
    if (p.empty()) return "Empty volumes that check clean; nothing was to be compared.";
    return Say.plural(p.files(), "file", "files") + " identical to the source.";
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
    if (start.kind() != Start.Kind.BREAKS) {
      return "nothing was compared, because the source holds no file. Look whether the right medium"
          + " was rescued, or lay the volumes out without a source.";
    }
    return boot.stream()
        .filter(l -> l.verdict() == BootChain.Verdict.BREAKS)
        .findFirst()
        .map(l -> "the boot chain breaks at " + l.name() + ": " + l.evidence() + ". " + l.mend())
        .orElse("");
  }
}
