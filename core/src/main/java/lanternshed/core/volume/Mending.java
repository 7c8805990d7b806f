package lanternshed.core.volume;

import java.util.List;
import lanternshed.core.measure.Finding;
import lanternshed.core.medium.Medium;

/** A plan to mend a volume: every change is listed first, and exactly these are written. */
public interface Mending {

  /** Each change in a sentence; empty when nothing has to be mended. */
  List<Finding> changes();

  /** Writes the changes into a copy of the volume; the original is never given here. */
  void apply(Medium copy);
}
