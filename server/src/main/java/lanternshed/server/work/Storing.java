package lanternshed.server.work;

import java.util.Optional;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.shell.Json;
import lanternshed.server.shell.Shelf;
import org.springframework.stereotype.Component;

/**
 * Puts what work has made on the shelf, in an order that can be gone on with after a kill at any
 * step: a note of what was finished, the file, its row; the note goes last.
 */
@Component
class Storing {
  private final Shelf shelf;
  private final ImageService images;

  Storing(Shelf shelf, ImageService images) {
    this.shelf = shelf;
    this.images = images;
  }

  /** What was finished before a kill. */
  Optional<Finished> finished(WorkEntity w) {
    return shelf.note(shelf.finished(w.id())).map(t -> Json.read(t, Finished.class));
  }

  Finished finish(WorkEntity w, Finished f) {
    shelf.note(shelf.finished(w.id()), Json.write(f));
    return f;
  }

  ImageEntity store(WorkEntity w, Finished f) {
    return images.keep(
        shelf.half(w.id()), f.name(), f.digests(), f.sectors(), f.origin(), f.lost(), f.hits());
  }

  /** All of it is stored and settled. */
  void done(WorkEntity w) {
    shelf.remove(shelf.finished(w.id()));
  }
}
