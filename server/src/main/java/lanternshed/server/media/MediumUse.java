package lanternshed.server.media;

import java.util.List;

/** Whoever needs media says so, so that none is taken away under somebody's hands. */
public interface MediumUse {
  /** What needs this medium, and what to do about it: "the open job X; close that one first". */
  List<String> needing(long medium);
}
