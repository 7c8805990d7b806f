package lanternshed.core.medium;

import java.util.List;
import lanternshed.core.measure.Finding;

/**
 * A plan to mend a volume or a table: every change is listed first, and exactly these are written.
 */
public interface Mending {

  /** Each change in a sentence; empty when nothing has to be mended. */
  List<Finding> changes();

  /** Writes the changes into a copy; the original is never given here. */
  void apply(Medium copy);
}
