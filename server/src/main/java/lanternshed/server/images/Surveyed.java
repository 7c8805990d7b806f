package lanternshed.server.images;

import java.util.Optional;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.survey.Survey;

/** What a survey comes to, in one sentence. */
public final class Surveyed {
  private Surveyed() {}

  public static String sentence(Survey s) {
    Optional<Survey.Found> v = s.volumes().stream().filter(Survey.Found::readable).findFirst();
    long findings = s.allFindings().stream().filter(f -> f.weight() != Finding.Weight.NOTE).count();
    return v.map(
                f ->
                    f.kind()
                        + " "
                        + f.label()
                        + ", "
                        + Say.plural(f.files(), "file", "files")
                        + ", "
                        + Say.mib(f.bytes()))
            .orElse("No volume that can be read as files")
        + (findings == 0 ? "." : "; " + Say.plural(findings, "finding.", "findings."));
  }
}
