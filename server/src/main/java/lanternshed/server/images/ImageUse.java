package lanternshed.server.images;

import java.util.List;
import java.util.Set;

/** Whoever needs images says so, so that none is taken away under somebody's hands. */
public interface ImageUse {
  /** Names of what shows this image; while there are any it stays in sight. */
  default List<String> needing(long image) {
    return List.of();
  }

  /** Ids of all images that it keeps, in one statement; some of no image that there is. */
  Set<Long> kept();

  /** Digests of contents that it keeps, whichever image they are of, in one statement. */
  default Set<String> keptContents() {
    return Set.of();
  }

  /** What needs its bytes, in sight or not, in words: "the job Larkspur". */
  List<String> keeping(ImageEntity image);
}
