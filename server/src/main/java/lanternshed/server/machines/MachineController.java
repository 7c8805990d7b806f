package lanternshed.server.machines;

import java.util.List;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Generation;
import lanternshed.core.machine.Peg;
import lanternshed.core.machine.Pegs;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.ProfileFile;
import lanternshed.core.measure.ShedException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The catalogue: profiles that ship and those made here; clone, edit, import, export. */
@RestController
@RequestMapping("/api/machines")
class MachineController {
  private static final Card LARGE = new Card("a card without end", 0, 1L << 33);
  private final MachineService machines;

  MachineController(MachineService machines) {
    this.machines = machines;
  }

  record SystemView(String key, String title, List<Profile.Need> needs) {}

  record Own(String key, long version) {}

  record Catalogue(List<Profile> machines, List<Own> own, List<SystemView> systems) {}

  /** The text of a profile file. */
  record FileText(String text) {}

  @GetMapping
  Catalogue all() {
    List<MachineService.Known> known = machines.all();
    return new Catalogue(
        known.stream().map(MachineService.Known::profile).toList(),
        known.stream()
            .filter(MachineService.Known::own)
            .map(k -> new Own(k.profile().key(), k.version()))
            .toList(),
        Generation.all().stream().map(g -> new SystemView(g.key(), g.title(), g.needs())).toList());
  }

  @GetMapping(path = "/schema", produces = MediaType.APPLICATION_JSON_VALUE)
  String schema() {
    return ProfileFile.schema();
  }

  @GetMapping("/{key}/limits")
  List<Peg> limits(@PathVariable String key) {
    return Pegs.facts(machines.get(key), LARGE).stream()
        .filter(p -> p.sectors() < LARGE.measured())
        .toList();
  }

  @GetMapping(path = "/{key}/file", produces = MediaType.APPLICATION_JSON_VALUE)
  ResponseEntity<String> file(@PathVariable String key) {
    Profile p = machines.get(key);
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"" + p.key() + ".json\"")
        .body(ProfileFile.write(p));
  }

  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  Profile add(@RequestBody FileText file) {
    return machines.add(bounded(file));
  }

  @PutMapping("/{key}")
  Profile change(@PathVariable String key, @RequestParam long version, @RequestBody FileText file) {
    return machines.change(key, version, bounded(file));
  }

  @DeleteMapping("/{key}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable String key) {
    machines.remove(key);
  }

  private static String bounded(FileText file) {
    if (file.text() == null) throw new ShedException("There is no file in this request.");
    return file.text();
  }
}
