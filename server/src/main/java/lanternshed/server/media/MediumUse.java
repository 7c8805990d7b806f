package lanternshed.server.media;

import java.util.List;

/** Whoever needs media says so, so that none is taken away under somebody's hands. */
public interface MediumUse {
  /** Names of what needs this medium. */
  List<String> needing(long medium);
}
