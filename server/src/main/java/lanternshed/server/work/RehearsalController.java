package lanternshed.server.work;

import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.BootPath;
import lanternshed.core.boot.Rehearsal;
import lanternshed.core.cpu.Level;
import lanternshed.core.family.Families;
import lanternshed.core.family.Family;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Medium;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Whereabouts;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.machines.MachineService;
import lanternshed.server.plans.PlanChoice;
import lanternshed.server.plans.PlanService;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The start of an image, run as a machine would run it, and what would be otherwise. */
@RestController
class RehearsalController {
  private final ImageService images;
  private final MachineService machines;
  private final JobService jobs;
  private final PlanService plans;

  RehearsalController(
      ImageService images, MachineService machines, JobService jobs, PlanService plans) {
    this.images = images;
    this.machines = machines;
    this.jobs = jobs;
    this.plans = plans;
  }

  /**
   * The same bytes with one thing changed.
   *
   * @param what is changed
   * @param how it would be
   */
  record WhatIf(String what, String how, boolean starts, String sentence) {}

  /**
   * @param run absent where starts of this family are not run
   * @param under which firmware and geometry, in words
   */
  record RehearsalView(Optional<Rehearsal> run, String under, List<WhatIf> ifs) {}

  /** An image of a job under what its plan has chosen; under the usual where nothing is chosen. */
  @GetMapping("/api/jobs/{id}/rehearsal")
  RehearsalView ofJob(@PathVariable long id, @RequestParam long image) {
    JobEntity job = jobs.get(id);
    Optional<PlanChoice> choice = plans.settled(job);
    return rehearsal(
        image,
        job.profile(),
        choice.map(PlanChoice::firmware).orElse(""),
        choice.map(PlanChoice::system).orElse(""));
  }

  @GetMapping("/api/images/{id}/rehearsal")
  RehearsalView rehearsal(
      @PathVariable long id,
      @RequestParam @NotNull @Size(max = 80) String machine,
      @RequestParam(defaultValue = "") @Size(max = 40) String firmware,
      @RequestParam(defaultValue = "") @Size(max = 40) String system) {
    ImageEntity image = images.get(id);
    Profile profile = machines.get(machine);
    Family family = Families.of(profile);
    Setup setup = Setup.of(profile, firmware, system);
    Around around = family.around(setup, image.sectors());
    try (Medium m = images.open(image)) {
      Whereabouts places = images.whereabouts(image);
      Optional<Rehearsal> run = family.boot().flatMap(b -> b.rehearse(m, around, places::at));
      String under = setup.firmware().name() + ": " + around.shown();
      if (run.isEmpty()) return new RehearsalView(run, under, List.of());
      BootPath path = family.boot().orElseThrow();
      List<WhatIf> ifs = new ArrayList<>();
      for (Other o : others(family, setup, around, images.survey(image))) {
        path.rehearse(m, o.around(), places::at)
            .ifPresent(r -> ifs.add(new WhatIf(o.what(), o.how(), r.starts(), r.sentence())));
      }
      return new RehearsalView(run, under, ifs);
    }
  }

  private record Other(String what, String how, Around around) {}

  /** Another geometry, other firmware of this machine, an early processor. */
  private static List<Other> others(Family family, Setup setup, Around now, Survey survey) {
    List<Other> out = new ArrayList<>();
    survey
        .agreedGeometry()
        .filter(g -> g.heads() != now.shown().heads() || g.sectors() != now.shown().sectors())
        .map(g -> written(g, survey.sectors()))
        .ifPresent(
            g ->
                out.add(
                    new Other(
                        "heads and sectors as on the image",
                        g.heads() + " × " + g.sectors(),
                        new Around(g, now.reach(), now.extended(), now.level()))));
    for (Profile.Firmware f : setup.profile().firmwares()) {
      if (f.key().equals(setup.firmware().key())) continue;
      Setup other = new Setup(setup.profile(), f, setup.system());
      Around a = family.around(other, survey.sectors());
      out.add(new Other("firmware", f.name(), a));
    }
    if (now.extended()) {
      Around plain = new Around(now.shown(), now.reach(), false, now.level());
      out.add(new Other("calls that pass an LBA", "none", plain));
    }
    if (now.level() != Level.I8086) {
      Around early = new Around(now.shown(), now.reach(), now.extended(), Level.I8086);
      out.add(new Other("processor", "an 8086", early));
    }
    return out;
  }

  private static Geometry written(Survey.GeometrySource g, long sectors) {
    long cylinders = sectors / ((long) g.heads() * g.sectors());
    return new Geometry((int) Math.max(1, Math.min(1024, cylinders)), g.heads(), g.sectors());
  }
}
