package lanternshed.server.images;

import java.util.List;

/** Whoever needs images says so, so that none is taken away under somebody's hands. */
public interface ImageUse {
  /** Names of what needs this image. */
  List<String> needing(long image);
}
