package lanternshed.server.proving;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.BootChain;
import lanternshed.core.boot.BootPath;
import lanternshed.core.boot.Start;
import lanternshed.core.family.CarrierCheck;
import lanternshed.core.family.Families;
import lanternshed.core.family.Family;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Pace;
import lanternshed.core.plan.PlanRequest;
import lanternshed.core.prove.Shown;
import lanternshed.core.prove.Shown.Figure;
import lanternshed.core.survey.Volumes;
import lanternshed.core.survey.Whereabouts;
import lanternshed.core.volume.Volume;
import lanternshed.core.work.Laid;
import lanternshed.core.work.Recipe;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.Foretold;
import lanternshed.server.jobs.JobEntity;
import lanternshed.server.jobs.JobService;
import lanternshed.server.machines.MachineService;
import lanternshed.server.media.MediaService;
import lanternshed.server.plans.PlanService;
import lanternshed.server.work.ProofView;
import org.springframework.stereotype.Service;

/** V-1: what the machine will show, from the bytes on the card where it is written. */
@Service
public class PredictionService implements Foretold {
  private final JobService jobs;
  private final ImageService images;
  private final MediaService media;
  private final MachineService machines;
  private final PlanService plans;

  PredictionService(
      JobService jobs,
      ImageService images,
      MediaService media,
      MachineService machines,
      PlanService plans) {
    this.jobs = jobs;
    this.images = images;
    this.media = media;
    this.machines = machines;
    this.plans = plans;
  }

  /**
   * @param readFrom the card by name, the built image, or the plan
   * @param findings of a carrier card, against its machine
   */
  record Prediction(
      boolean written,
      String readFrom,
      List<BootChain.Link> boot,
      Start start,
      List<Finding> findings) {}

  Prediction of(long id) {
    JobEntity job = jobs.get(id);
    boolean written = job.cardId().isPresent();
    if (JobService.madeElsewhere(job)) {
      Start own = Start.elsewhere(Families.of(machines.get(job.profile())).startsFrom());
      return new Prediction(false, "the plan", List.of(), own, List.of());
    }
    ImageEntity image = images.get(job.builtId().orElse(null));
    // An image that goes on the card as it is has no recipe, and nothing of it was promised.
    if (job.recipe().isEmpty()) {
      Start nothing = Start.of(BootChain.NONE, false);
      return new Prediction(written, readFrom(job), List.of(), nothing, List.of());
    }
    Recipe recipe = Recipe.parse(job.recipe());
    Family family = Families.named(recipe.family());
    BootChain chain;
    Start start = Start.elsewhere(family.startsFrom());
    try (Medium m = bytes(job, image)) {
      Around around = plans.around(job);
      Optional<BootPath> boot = family.boot();
      chain = boot.map(b -> b.walk(m, recipe.geometry(), around.reach())).orElse(BootChain.NONE);
      if (boot.isPresent()) start = start(job, image, m, boot.get(), chain, around);
    }
    List<Finding> findings = family.carries() ? against(job, image) : List.of();
    return new Prediction(written, readFrom(job), chain.links(), start, findings);
  }

  private Start start(
      JobEntity job, ImageEntity image, Medium m, BootPath boot, BootChain chain, Around around) {
    boolean meant = ProofView.of(job.proof()).start().kind() != Start.Kind.NOT_MEANT;
    // The bytes are those of the image that was proved: what lies where is known of it.
    Whereabouts places = images.whereabouts(image);
    boolean run = meant && chain.holds();
    return Start.of(chain, meant, run ? boot.rehearse(m, around, places::at) : Optional.empty());
  }

  @Override
  public List<Shown.ShownRow> rows(JobEntity job, List<Shown.Seen> seen) {
    return Shown.judge(figures(job), seen);
  }

  /** What is foretold in figures (V-5); none as long as nothing is built. */
  public List<Shown.Predicted> figures(JobEntity job) {
    List<Shown.Predicted> out = new ArrayList<>();
    // Of what the machine's own tool makes only the plan can say what will be shown.
    if (!job.planChoice().isEmpty()) {
      plans.shown(job).ifPresent(v -> out.add(sizeOf(v.because())));
    }
    if (JobService.madeElsewhere(job) || job.builtId().isEmpty()) return out;
    ImageEntity image = images.get(job.builtId().get());
    Optional<Recipe> recipe =
        Optional.of(job.recipe()).filter(r -> !r.isEmpty()).map(Recipe::parse);
    Family family = Families.named(recipe.map(Recipe::family).orElse("pc"));
    if (family.carries()) {
      out.addAll(drives(job, image));
      return out;
    }
    recipe.flatMap(r -> geometry(r.geometry())).ifPresent(out::add);
    out.addAll(volumes(laid(recipe, image), family));
    return out;
  }

  /** A volume that the machine will list. */
  private record Listed(String label, long start, Volume.Use use) {}

  /** By the recipe, which says how each was laid down; of a whole copy only the survey can tell. */
  private List<Listed> laid(Optional<Recipe> recipe, ImageEntity image) {
    if (recipe.isPresent() && recipe.get().strategy() != PlanRequest.Strategy.CLONE) {
      List<Listed> out = new ArrayList<>();
      try (Medium m = images.open(image)) {
        for (Recipe.Part p : recipe.get().volumes()) {
          Laid.volume(recipe.get(), p, m)
              .ifPresent(v -> out.add(new Listed(v.label(), p.start(), v.use())));
        }
      }
      return out;
    }
    return images.survey(image).volumes().stream()
        .map(v -> new Listed(v.label(), v.start(), v.use()))
        .toList();
  }

  private static Shown.Predicted sizeOf(Sum because) {
    long bytes = because.result() * 512;
    return new Shown.Predicted(
        "size", "Size as the player shows it", Figure.BYTES, Say.size(bytes), bytes, because);
  }

  /** Without heads the machine shows no cylinders either. */
  private static Optional<Shown.Predicted> geometry(Geometry g) {
    if (g.heads() <= 1) return Optional.empty();
    Sum sum =
        Sum.of("V-1", "Geometry in setup")
            .line("", "cylinders", g.cylinders())
            .line("", "heads", g.heads())
            .line("", "sectors a track", g.sectors())
            .because("The table and the boot code are written for these; setup must show them.")
            .done();
    return Optional.of(
        new Shown.Predicted("geometry", "Geometry in setup", Figure.NUMBERS, g.toString(), 0, sum));
  }

  private static List<Shown.Predicted> volumes(List<Listed> all, Family family) {
    List<Shown.Predicted> out = new ArrayList<>();
    List<String> letters = new ArrayList<>();
    for (Listed v : all) {
      String letter = family.letter(letters.size());
      letters.add(letter);
      String name = (letter.isEmpty() ? "" : letter + ": ") + v.label();
      out.add(free(v, name.isBlank() ? "Free" : "Free on " + name.strip()));
    }
    if (letters.size() > 1) out.add(counted(letters));
    return out;
  }

  private static Shown.Predicted free(Listed v, String what) {
    long free = v.use().freeBytes();
    Sum sum =
        Sum.of("V-1", "Free space as the machine counts")
            .line("", "free clusters or blocks", v.use().free())
            .bytes("×", "one of them", v.use().clusterBytes())
            .bytes("=", "bytes free", free)
            .because("The machine counts what its own map says is free, one by one.")
            .done();
    // Where a volume lies is the same as long as it is the same volume.
    return new Shown.Predicted("free:" + v.start(), what, Figure.BYTES, Say.bytes(free), free, sum);
  }

  private static Shown.Predicted counted(List<String> letters) {
    Sum sum =
        Sum.of("V-1", "Volumes that it lists")
            .note("by letter", String.join(", ", letters))
            .line("=", "volumes", letters.size())
            .because("Each volume of the table that this machine knows gets a letter or a name.")
            .done();
    String text = Say.count(letters.size());
    return new Shown.Predicted(
        "volumes", "Volumes that it lists", Figure.COUNT, text, letters.size(), sum);
  }

  private List<Shown.Predicted> drives(JobEntity job, ImageEntity image) {
    Profile.Carrier carrier = machines.get(job.profile()).carrier();
    try (Medium m = bytes(job, image)) {
      return CarrierCheck.drives(carrier, Volumes.find(m, 0).volume()).stream()
          .map(
              d ->
                  new Shown.Predicted(
                      "drive:" + d.id(),
                      "Drive of id " + d.id(),
                      Figure.BYTES,
                      Say.mib(d.file().bytes()),
                      d.file().bytes(),
                      Sum.of("V-1", "Size of the drive")
                          .note("from the file", d.file().path())
                          .bytes("=", "its bytes", d.file().bytes())
                          .because(
                              "The emulator shows a file of the card as a drive of its length.")
                          .done()))
          .toList();
    }
  }

  private List<Finding> against(JobEntity job, ImageEntity image) {
    Profile.Carrier carrier = machines.get(job.profile()).carrier();
    try (Medium m = bytes(job, image)) {
      return CarrierCheck.of(carrier, Volumes.find(m, 0).volume());
    }
  }

  private Medium bytes(JobEntity job, ImageEntity image) {
    return job.cardId()
        .map(c -> media.open(media.get(c), Pace.counted()))
        .orElseGet(() -> images.open(image));
  }

  private String readFrom(JobEntity job) {
    return job.cardId().map(c -> media.get(c).name()).orElse("the built image");
  }
}
