package lanternshed.core.container;

import java.util.Optional;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;

/**
 * The face of each package of disk images whose blocks lie anywhere in their file, as emulators and
 * old backups keep them. They are read, never written.
 */
public interface DiskImage {

  /** Published name, "QCOW2". */
  String name();

  /**
   * The drive that a file is the image of.
   *
   * @return empty where the file is none of this kind
   * @throws ShedException in a sentence where it is one that is not read: encrypted, differing from
   *     another file, or damaged
   */
  Optional<Medium> open(Medium file);
}
