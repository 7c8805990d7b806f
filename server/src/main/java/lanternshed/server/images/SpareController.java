package lanternshed.server.images;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.ArrayList;
import java.util.List;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.server.shell.ConflictException;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Images that nothing needs, and the room that they take. */
@RestController
@RequestMapping("/api/shelf/spare")
class SpareController {
  private final SpareImages spare;

  SpareController(SpareImages spare) {
    this.spare = spare;
  }

  /**
   * @param confirm how many they are, as somebody typed it: this is not undone
   */
  record GiveBack(
      @NotEmpty @Size(max = 1000) List<@NotNull Long> images,
      @NotNull @Size(max = 10) String confirm) {}

  /**
   * @param sentence what became of them
   * @param stayed why others did not go
   */
  record GivenBack(int gone, String sentence, List<String> stayed) {}

  @GetMapping
  List<SpareImages.SpareView> all() {
    return spare.all();
  }

  @PostMapping("/give-back")
  GivenBack giveBack(@RequestBody @Valid GiveBack g) {
    if (!g.confirm().strip().equals("" + g.images().size())) {
      throw new ShedException("Type how many images go: " + g.images().size() + ".");
    }
    long bytes = 0;
    int gone = 0;
    List<String> stayed = new ArrayList<>();
    for (long id : g.images()) {
      try {
        bytes += spare.giveBack(id);
        gone++;
      } catch (ShedException | ConflictException e) {
        stayed.add(e.getMessage());
      }
    }
    String what = Say.plural(gone, "image is", "images are") + " gone for good";
    return new GivenBack(gone, what + "; up to " + Say.size(bytes) + " are free.", stayed);
  }
}
