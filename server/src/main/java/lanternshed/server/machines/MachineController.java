package lanternshed.server.machines;

import java.util.Arrays;
import java.util.List;
import lanternshed.core.machine.Generation;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Profiles;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Profiles as they ship. */
@RestController
@RequestMapping("/api/machines")
class MachineController {

  record SystemView(String key, String title) {}

  record Catalogue(List<Profile> machines, List<SystemView> systems) {}

  @GetMapping
  Catalogue all() {
    return new Catalogue(
        Profiles.all(),
        Arrays.stream(Generation.values()).map(g -> new SystemView(g.key(), g.title())).toList());
  }
}
