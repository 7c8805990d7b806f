package lanternshed.core.kind;

import java.util.Optional;

/** Recognises files of one structure; what only resembles it is left to the others. */
interface Look {
  Optional<Known> look(Sample s);
}
