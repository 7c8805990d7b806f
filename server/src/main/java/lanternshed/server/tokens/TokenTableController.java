package lanternshed.server.tokens;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Token tables, by which BASIC is listed. */
@RestController
@RequestMapping("/api/token-tables")
class TokenTableController {
  private final TokenTables tables;

  TokenTableController(TokenTables tables) {
    this.tables = tables;
  }

  record NewTable(
      @NotBlank @Size(max = 80) String name, @NotBlank @Size(max = 1 << 17) String text) {}

  @GetMapping
  List<TokenTables.TableLine> all() {
    return tables.lines();
  }

  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  TokenTables.TableLine add(@RequestBody @Valid NewTable t) {
    return tables.add(t.name(), t.text());
  }

  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable long id) {
    tables.remove(id, true);
  }

  @PostMapping("/{id}/back")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void back(@PathVariable long id) {
    tables.remove(id, false);
  }
}
