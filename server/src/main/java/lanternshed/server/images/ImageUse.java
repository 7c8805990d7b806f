package lanternshed.server.images;

import java.util.List;

/** Whoever needs images says so, so that none is taken away under somebody's hands. */
public interface ImageUse {
  /** Names of what shows this image; while there are any it stays in sight. */
  default List<String> needing(long image) {
    return List.of();
  }

  /** What needs its bytes, in sight or not, in words: "the job Larkspur". */
  List<String> keeping(ImageEntity image);
}
