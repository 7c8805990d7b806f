package lanternshed.server.errands;

import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** How an errand stands, and stopping it. */
@RestController
@RequestMapping("/api/errands/{id}")
class ErrandController {
  private final Errands errands;

  ErrandController(Errands errands) {
    this.errands = errands;
  }

  @GetMapping
  ErrandView get(@PathVariable String id) {
    return errands.view(id);
  }

  @DeleteMapping
  ErrandView stop(@PathVariable String id) {
    return errands.stop(id);
  }
}
