package lanternshed.server.demo;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.UUID;
import lanternshed.core.family.Families;
import lanternshed.core.machine.Fitting;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Copy;
import lanternshed.core.medium.Damage;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.plan.PlanRequest;
import lanternshed.core.rom.HexText;
import lanternshed.core.rom.Windows;
import lanternshed.core.work.Progress;
import lanternshed.server.crossing.CrossingService;
import lanternshed.server.drawer.DrawerService;
import lanternshed.server.fault.FaultService;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobService;
import lanternshed.server.jobs.StartsFrom;
import lanternshed.server.jobs.StationRecord;
import lanternshed.server.logbook.LogService;
import lanternshed.server.machines.MachineService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.plans.PlanChoice;
import lanternshed.server.plans.PlanService;
import lanternshed.server.proving.PredictionService;
import lanternshed.server.proving.TimingService;
import lanternshed.server.roms.RomService;
import lanternshed.server.shell.Events;
import lanternshed.server.shell.Settings;
import lanternshed.server.stations.Station;
import lanternshed.server.work.WorkEntity;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * Lays out the demonstration once the shed answers. Each job comes to its state by the work that
 * the program does for everybody: its drive is rescued, its plan built, its card written.
 */
@Component
class DemoLoader {
  private static final Logger LOG = LoggerFactory.getLogger(DemoLoader.class);

  // Names of steps; those of a job begin with its machine.
  private static final String DRAWER = "drawer";
  private static final String CROSSING = "crossing";
  private static final String ROM = "rom";
  private static final String THERE = ": was there before";

  /** All of one text of the scenario; a start that finds it has nothing to tell. */
  private static final String WHOLE = "whole ";

  private final Settings settings;
  private final JobService jobs;
  private final MediaService media;
  private final PlanService plans;
  private final LogService log;
  private final MachineService machines;
  private final FaultService fault;
  private final ImageService images;
  private final DrawerService drawer;
  private final PredictionService predictions;
  private final TimingService timings;
  private final RomService roms;
  private final CrossingService crossings;
  private final DemoSteps steps;
  private final Events events;
  private volatile DemoView view = DemoView.NONE;
  private volatile boolean closing;

  DemoLoader(
      Settings settings,
      JobService jobs,
      MediaService media,
      PlanService plans,
      LogService log,
      MachineService machines,
      FaultService fault,
      ImageService images,
      DrawerService drawer,
      PredictionService predictions,
      TimingService timings,
      RomService roms,
      CrossingService crossings,
      DemoSteps steps,
      Events events) {
    this.steps = steps;
    this.events = events;
    this.crossings = crossings;
    this.roms = roms;
    this.predictions = predictions;
    this.timings = timings;
    this.drawer = drawer;
    this.images = images;
    this.machines = machines;
    this.fault = fault;
    this.settings = settings;
    this.jobs = jobs;
    this.media = media;
    this.plans = plans;
    this.log = log;
  }

  /** A part of the demonstration, by what is being laid out. */
  private record Part(String what, Runnable lay) {}

  @EventListener(ApplicationReadyEvent.class)
  void begin() {
    if (!settings.demo()) return;
    Thread t = new Thread(this::lay, "demonstration");
    t.setDaemon(true);
    t.start();
  }

  @EventListener(ContextClosedEvent.class)
  void end() {
    closing = true;
  }

  DemoView view() {
    return view;
  }

  private void lay() {
    long t = System.nanoTime();
    media.hurry(true);
    try {
      byte[] written = read();
      Scenario scenario = JsonMapper.shared().readValue(written, Scenario.class);
      adopt(scenario);
      List<Part> parts = parts(scenario);
      String whole = WHOLE + UUID.nameUUIDFromBytes(written);
      if (steps.isDone(whole)) {
        tell(new DemoView(false, parts.size(), parts.size(), "", ""));
        return;
      }
      for (int i = 0; i < parts.size() && !closing; i++) {
        tell(new DemoView(true, i, parts.size(), parts.get(i).what(), ""));
        parts.get(i).lay().run();
      }
      if (closing) return;
      steps.once(whole, () -> {});
      tell(new DemoView(false, parts.size(), parts.size(), "", ""));
      LOG.info("the demonstration is laid out, {} ms", (System.nanoTime() - t) / 1_000_000);
    } catch (RuntimeException e) {
      // What was there stays; the next start goes on from it.
      if (closing) return;
      LOG.error("the demonstration could not be laid out", e);
      DemoView v = view;
      String why = e instanceof ShedException ? e.getMessage() : "The shed itself failed here.";
      tell(new DemoView(false, v.done(), v.of(), v.what(), why));
    } finally {
      media.hurry(false);
    }
  }

  private void tell(DemoView now) {
    view = now;
    events.tell("demo", now);
  }

  /**
   * A shed that laid it out and kept no steps: what was there then counts as done, and what people
   * made of it since stays.
   */
  private void adopt(Scenario scenario) {
    List<String> machines = jobs.machines();
    if (!steps.none() || machines.isEmpty()) return;
    for (String name : List.of(DRAWER, CROSSING, ROM)) steps.once(name, () -> {});
    for (Scenario.JobSpec spec : scenario.jobs()) {
      if (machines.contains(spec.machine())) steps.once(spec.machine() + THERE, () -> {});
    }
  }

  private List<Part> parts(Scenario scenario) {
    List<Part> out = new ArrayList<>();
    out.add(new Part("cards and parts", () -> cardsAndParts(scenario)));
    for (Scenario.LibrarySpec l : scenario.libraries()) {
      out.add(new Part(l.name(), () -> library(l)));
    }
    Scenario.CrossingSpec c = scenario.crossing();
    out.add(new Part(c.disk(), () -> steps.once(CROSSING, () -> crossing(c))));
    for (Scenario.JobSpec spec : scenario.jobs()) {
      if (steps.isDone(spec.machine() + THERE)) continue;
      out.add(new Part(spec.machine(), () -> lay(spec)));
    }
    Scenario.RomSpec r = scenario.rom();
    out.add(new Part(r.name(), () -> steps.once(ROM, () -> rom(r))));
    return out;
  }

  private void cardsAndParts(Scenario scenario) {
    List<String> there = media.all().stream().map(MediumEntity::name).toList();
    for (Scenario.CardSpec c : scenario.cards()) {
      if (!there.contains(c.name())) steps.once("card " + c.name(), () -> card(c));
    }
    steps.once(
        DRAWER,
        () -> {
          for (Scenario.Lying x : scenario.drawer()) {
            drawer.count(x.key(), x.count());
            drawer.lies(x.key(), x.lies());
          }
        });
  }

  private void card(Scenario.CardSpec c) {
    MediumEntity m = media.card(c.name(), c.serial(), c.labelBytes(), c.claimed(), c.real());
    if (c.measured()) media.measured(m);
    media.joint(m.id(), c.joint());
  }

  private static byte[] read() {
    try (InputStream in = DemoLoader.class.getResourceAsStream("/saltern-mill.json")) {
      return in.readAllBytes();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private void lay(Scenario.JobSpec spec) {
    Profile p = machines.get(spec.profile());
    String job = spec.machine() + ": ";
    Optional<Long> medium =
        Optional.ofNullable(spec.drive()).map(d -> steps.once(job + "drive", () -> drive(d, p)));
    boolean carrier = spec.carries() != null;
    boolean alone = carrier || medium.isEmpty() && spec.planCard() != null;
    long id = steps.once(job + "opened", () -> opened(spec, alone, medium));
    if (spec.reach().equals("intake")) return;
    steps.once(job + "intake", () -> intake(id, spec, p));
    if (spec.reach().equals("fault")) return;
    steps.once(
        job + "fault",
        () ->
            record(id, Station.FAULT, "A known good drive works on the same cable.", "storage", 0));
    if (alone) {
      steps.once(job + "plan", () -> settled(id, carrier ? carrierChoice(spec) : choice(spec)));
      return;
    }
    steps.work(job + "rescue", id, WorkEntity.Kind.RESCUE, medium.orElseThrow());
    if (spec.reach().equals("plan")) return;
    steps.once(job + "plan", () -> settled(id, choice(spec)));
    steps.work(job + "build", id, WorkEntity.Kind.BUILD, 0);
    steps.work(job + "write", id, WorkEntity.Kind.WRITE, card(spec.card()).id());
    if (spec.reach().equals("write")) return;
    steps.once(
        job + "close",
        () -> {
          fitted(id, p);
          timed(id, spec, true);
          prove(id, p);
          record(id, Station.CLOSE, "Spare card in the drawer under the desk.", "", 0);
        });
  }

  private long opened(Scenario.JobSpec spec, boolean alone, Optional<Long> medium) {
    long id =
        (alone
                ? jobs.open(spec.machine(), spec.profile(), spec.fault(), StartsFrom.NOTHING, 0)
                : jobs.open(spec.machine(), spec.profile(), spec.fault(), medium))
            .id();
    log.write(
        id, Station.INTAKE.number(), "the loom keeper", "Brought in: \"" + spec.fault() + "\"");
    return id;
  }

  private void intake(long id, Scenario.JobSpec spec, Profile p) {
    List<String> symptoms = spec.board() == null ? List.of() : spec.board().symptoms();
    inspect(id, p, spec.notes(), symptoms, spec.has() == null ? Map.of() : spec.has());
    log.write(
        id, Station.INTAKE.number(), "the loom keeper", "Rails under load: 5.04 V and 12.1 V");
    timed(id, spec, false);
    if (spec.board() != null) board(id, spec.board());
  }

  private void settled(long id, PlanChoice choice) {
    plans.settle(id, jobs.get(id).version(), choice, false);
  }

  /** Every step of the first case that the profile knows. */
  private void fitted(long id, Profile p) {
    String variant = Fitting.of(p, "").variants().stream().findFirst().orElse("");
    List<StationRecord.Tick> all =
        Fitting.of(p, variant).rows().stream()
            .map(r -> new StationRecord.Tick(r.index(), true, "", ""))
            .toList();
    StationRecord r = new StationRecord("", variant, all, List.of(), Map.of(), List.of());
    jobs.record(id, Station.FIT, jobs.get(id).version(), r, true);
  }

  private void timed(long id, Scenario.JobSpec spec, boolean after) {
    if (spec.timings() == null) return;
    spec.timings().stream().filter(t -> t.after() == after).forEach(t -> timings.add(id, t));
  }

  private void rom(Scenario.RomSpec spec) {
    try (InputStream in = DemoLoader.class.getResourceAsStream("/" + spec.file())) {
      long id = roms.add(spec.name(), HexText.read(in.readAllBytes()));
      List<Windows.Occupied> there = new ArrayList<>(Windows.USUAL);
      for (Scenario.OccupiedSpec o : spec.occupied()) {
        there.add(new Windows.Occupied(o.name(), Integer.parseInt(o.start(), 16), o.kib() * 1024));
      }
      int window = Integer.parseInt(spec.window(), 16);
      roms.place(id, 0, new RomService.RomPlace(there, spec.carrier(), window));
      for (long job : jobs.of(spec.machine())) roms.forJob(id, 1, job);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private void crossing(Scenario.CrossingSpec spec) {
    long id = crossings.begin(0, 0, spec.disk());
    for (Scenario.FileSpec f : spec.files()) {
      for (int i = 1; i <= (f.times() == null ? 1 : f.times()); i++) {
        int dot = f.path().lastIndexOf('.');
        String path =
            f.times() == null
                ? f.path()
                : f.path().substring(0, dot) + " " + i + f.path().substring(dot);
        byte[] b = content(f, path);
        try {
          crossings.take(id, path, spec.time(), new ByteArrayInputStream(b), b.length);
        } catch (IOException e) {
          throw new UncheckedIOException(e);
        }
      }
    }
  }

  private static byte[] content(Scenario.FileSpec f, String path) {
    if (f.text() != null) return f.text().getBytes(StandardCharsets.UTF_8);
    byte[] b = new byte[f.bytes()];
    new Random((f.sameAs() == null ? path : f.sameAs()).hashCode()).nextBytes(b);
    return b;
  }

  private void library(Scenario.LibrarySpec spec) {
    if (images.all().stream().anyMatch(i -> i.name().equals(spec.name()))) return;
    DemoLibrary library = new DemoLibrary(spec);
    ImageService.Source source = ImageService.Source.of("the card of the machine");
    images.make(spec.name(), library.sectors(), source, library::fill, Progress.NONE);
  }

  private long drive(Scenario.DriveSpec spec, Profile profile) {
    DemoDrive drive = new DemoDrive(spec, profile);
    MemoryMedium filled = new MemoryMedium(drive.sectors());
    drive.fill(filled);
    Damage damage = drive.damage(filled);
    return media
        .drive(
            spec.name(),
            spec.serial(),
            drive.sectors(),
            damage,
            m -> Copy.all(filled, m, (n, all) -> {}))
        .id();
  }

  /** Everything as it should be: the first choice of each point, readings in their bands. */
  private void inspect(
      long id, Profile p, String notes, List<String> symptoms, Map<String, Double> has) {
    List<StationRecord.Tick> all = new ArrayList<>();
    for (int i = 0; i < p.inspection().size(); i++) {
      Profile.Step s = p.inspection().get(i);
      String choice = s.choices().isEmpty() ? "" : s.choices().get(0).text();
      String reading =
          switch (s.reading()) {
            case "5 V rail" -> "5.04 V";
            case "12 V rail" -> "12.1 V";
            case "contact closed" -> "2 Ω";
            case "contact open" -> "20 MΩ";
            default -> "";
          };
      all.add(new StationRecord.Tick(i, true, reading, choice));
    }
    StationRecord r = new StationRecord(notes, "", all, symptoms, has, List.of());
    jobs.record(id, Station.INTAKE, jobs.get(id).version(), r, true);
  }

  private void board(long id, Scenario.BoardSpec spec) {
    fault.lay(id);
    Map<String, Long> there = fault.names(id);
    for (Scenario.PartSpec x : spec.add()) {
      Long known = there.get(x.name());
      FaultService.PartText text =
          new FaultService.PartText(
              x.name(),
              x.kind(),
              x.group(),
              known != null,
              x.minutes(),
              x.money(),
              x.risk(),
              x.suspicion(),
              x.year(),
              0,
              0);
      if (known == null) fault.addPart(id, text);
      else fault.changePart(id, known, 0, text);
    }
    Map<String, Long> ids = fault.names(id);
    for (Scenario.TestSpec x : spec.tests()) {
      List<Long> parts = x.parts().stream().map(ids::get).toList();
      fault.addTrial(
          id,
          new FaultService.TrialText(x.title(), parts, x.operation(), x.outcome(), x.words(), 0, 0),
          "the loom keeper");
    }
    for (List<String> x : spec.ideas()) fault.addIdea(id, x.get(0), x.get(1), "the loom keeper");
  }

  private PlanChoice carrierChoice(Scenario.JobSpec spec) {
    List<PlanChoice.CarriedImage> drives =
        spec.carries().stream()
            .map(
                d -> {
                  ImageEntity i = images.empty(d.name(), d.sectors(), Progress.NONE);
                  return new PlanChoice.CarriedImage(i.id(), d.id());
                })
            .toList();
    return new PlanChoice(
        "",
        "",
        card(spec.planCard()).id(),
        List.of(),
        PlanRequest.Strategy.CARRY,
        PlanRequest.School.FLASH,
        List.of(),
        false,
        drives,
        List.of());
  }

  private PlanChoice choice(Scenario.JobSpec spec) {
    List<String> also = spec.alsoCards() == null ? List.of() : spec.alsoCards();
    return new PlanChoice(
        "",
        "",
        card(spec.planCard()).id(),
        also.stream().map(n -> card(n).id()).toList(),
        PlanRequest.Strategy.REBUILD,
        PlanRequest.School.MACHINE,
        List.of(),
        !Families.of(machines.get(spec.profile())).countsHeads(),
        List.of(),
        List.of());
  }

  private MediumEntity card(String name) {
    return media.all().stream().filter(m -> m.name().equals(name)).findFirst().orElseThrow();
  }

  private void prove(long id, Profile p) {
    List<StationRecord.Tick> all = new ArrayList<>();
    for (int i = 0; i < p.prove().size(); i++) {
      String reading = p.prove().get(i).reading().isEmpty() ? "" : "as predicted";
      all.add(new StationRecord.Tick(i, true, reading, ""));
    }
    List<StationRecord.Seen> shown =
        predictions.figures(jobs.get(id)).stream()
            .map(f -> new StationRecord.Seen(f.key(), f.text(), false, ""))
            .toList();
    StationRecord r =
        new StationRecord("Started at the first try.", "pass", all, List.of(), Map.of(), shown);
    jobs.record(id, Station.PROVE, jobs.get(id).version(), r, true);
  }

  private void record(long id, Station station, String notes, String choice, int ticks) {
    List<StationRecord.Tick> all = new ArrayList<>();
    for (int i = 0; i < ticks; i++) all.add(new StationRecord.Tick(i, true, "", ""));
    jobs.record(
        id,
        station,
        jobs.get(id).version(),
        new StationRecord(notes, choice, all, List.of(), Map.of(), List.of()),
        true);
  }
}
