package lanternshed.server.jobs;

import jakarta.persistence.EntityNotFoundException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import lanternshed.core.machine.Inspection;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.server.logbook.LogService;
import lanternshed.server.machines.MachineService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.shell.ConflictException;
import lanternshed.server.shell.Events;
import lanternshed.server.shell.Json;
import lanternshed.server.work.WorkRepository;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Opens jobs and moves them from station to station. */
@Service
public class JobService {
  private final JobRepository jobs;
  private final MediaService media;
  private final MachineService machines;
  private final WorkRepository work;
  private final LogService log;
  private final Events events;
  private final Clock clock;

  JobService(
      JobRepository jobs,
      MediaService media,
      MachineService machines,
      WorkRepository work,
      LogService log,
      Events events,
      Clock clock) {
    this.jobs = jobs;
    this.media = media;
    this.machines = machines;
    this.work = work;
    this.log = log;
    this.events = events;
    this.clock = clock;
  }

  public List<JobView> all() {
    return jobs.findAll().stream()
        .sorted(Comparator.comparing(JobEntity::closed).thenComparing(JobEntity::id))
        .map(this::view)
        .toList();
  }

  public JobEntity get(long id) {
    return jobs.findById(id)
        .orElseThrow(() -> new EntityNotFoundException("There is no job " + id + "."));
  }

  @Transactional
  public JobEntity open(String machine, String profile, String fault, Optional<Long> mediumId) {
    machines.get(profile);
    mediumId.ifPresent(media::get);
    JobEntity job =
        jobs.save(new JobEntity(machine, profile, fault, mediumId.orElse(null), clock.instant()));
    tell(job.id());
    return job;
  }

  /**
   * Changes a job in one transaction; a change that somebody else made meanwhile is not
   * overwritten.
   */
  @Transactional
  public JobEntity change(long id, Consumer<JobEntity> how) {
    JobEntity job = get(id);
    how.accept(job);
    jobs.saveAndFlush(job);
    tell(id);
    return job;
  }

  /** Sets a lamp and writes the sentence into the logbook as the shed's own. */
  @Transactional
  public void set(long id, int station, Lamp lamp, String sentence) {
    change(id, j -> j.set(station, lamp, sentence, clock.instant()));
    if (!sentence.isEmpty()) log.shed(id, station, sentence);
  }

  @Transactional
  public JobEntity setMedium(long id, long mediumId) {
    MediumEntity m = media.get(mediumId);
    if (m.kind() == MediumEntity.Kind.CARD) {
      throw new ShedException(m.name() + " is a card for new images; choose the old medium.");
    }
    return change(
        id,
        j -> {
          if (j.rescuedId().isPresent()) {
            throw new ConflictException(
                "This job has an image already; open another job for another medium.");
          }
          j.setMedium(mediumId);
        });
  }

  /**
   * Keeps what was written down at a station, and settles the station when it is said to be done.
   *
   * @param version of the job that the writer saw
   */
  @Transactional
  public JobEntity record(long id, int station, long version, StationRecord record, boolean done) {
    JobEntity job = get(id);
    if (job.version() != version) {
      throw new ConflictException(
          "Somebody else changed this job meanwhile. What you typed is kept; look at the job again and"
              + " save once more.");
    }
    job.station(station).write(Json.write(record));
    Profile profile = machines.get(job.profile());
    if (done) settle(job, station, record, profile);
    else if (job.station(station).state() != Lamp.DARK) {
      job.set(station, Lamp.LIT, "", clock.instant());
      if (station == Stations.CLOSE) job.setClosed(false);
    }
    jobs.saveAndFlush(job);
    StationState s = job.station(station);
    if (done && !s.sentence().isEmpty()) log.shed(id, station, s.sentence());
    tell(id);
    return job;
  }

  private void settle(JobEntity job, int station, StationRecord r, Profile profile) {
    long ticked = r.ticks().stream().filter(StationRecord.Tick::done).count();
    switch (station) {
      case Stations.INTAKE -> {
        int all = profile.inspection().size();
        String gate = Inspection.gate(profile.inspection(), points(profile, r));
        job.set(
            station,
            gate.isEmpty() ? Lamp.MOSS : Lamp.BRICK,
            gate.isEmpty() ? Say.count(ticked) + " of " + all + " points looked at." : gate,
            clock.instant());
      }
      case Stations.FAULT -> fault(job, r);
      case Stations.FIT -> {
        int all = profile.fit().size();
        if (verdict(job).storageStays()) {
          job.set(
              station,
              Lamp.MOSS,
              "Mended: " + String.join(", ", verdict(job).parts()) + ".",
              clock.instant());
          return;
        }
        if (ticked < all) {
          throw new ShedException(
              Say.plural(all - ticked, "step of the list is", "steps of the list are")
                  + " not ticked yet. Do them, or note why not.");
        }
        job.set(station, Lamp.MOSS, "All " + all + " steps done.", clock.instant());
      }
      case Stations.PROVE -> {
        boolean pass = r.choice().equals("pass");
        if (!pass && !r.choice().equals("fail")) {
          throw new ShedException("Say whether the machine passed or failed.");
        }
        job.set(
            station,
            pass ? Lamp.MOSS : Lamp.BRICK,
            pass
                ? "The machine shows what the plan predicted."
                : "The machine does not show what the plan predicted.",
            clock.instant());
      }
      case Stations.CLOSE -> {
        if (verdict(job).storageStays()) {
          job.set(station, Lamp.MOSS, "Mended; its storage stays.", clock.instant());
          job.setClosed(true);
          return;
        }
        if (job.builtId().isEmpty()) {
          throw new ShedException("There is no proved image yet that could be the golden copy.");
        }
        job.set(station, Lamp.MOSS, "Golden copy on the shelf.", clock.instant());
        job.setClosed(true);
      }
      default -> throw new ShedException("This station is settled by its own work.");
    }
  }

  private static List<Inspection.Point> points(Profile profile, StationRecord r) {
    List<Inspection.Found> found = new ArrayList<>();
    for (int i = 0; i < profile.inspection().size(); i++) {
      int at = i;
      found.add(
          r.ticks().stream()
              .filter(t -> t.index() == at)
              .findFirst()
              .map(t -> new Inspection.Found(t.done(), t.choice(), t.reading()))
              .orElse(new Inspection.Found(false, "", "")));
    }
    return Inspection.judge(profile.inspection(), found);
  }

  private static StationRecord read(StationState s) {
    return s.record().isEmpty()
        ? StationRecord.empty()
        : Json.read(s.record(), StationRecord.class);
  }

  /** Keys of the symptoms that were noticed at Intake. */
  public List<String> symptoms(JobEntity job) {
    return read(job.station(Stations.INTAKE)).symptoms();
  }

  public static FaultVerdict verdict(JobEntity job) {
    return job.verdict().isEmpty()
        ? FaultVerdict.OPEN
        : Json.read(job.verdict(), FaultVerdict.class);
  }

  /** Settles the fault station; what the later stations ask for follows from it. */
  @Transactional
  public void verdict(long id, FaultVerdict v) {
    String evidence =
        v.evidence().isEmpty() ? "" : " It " + String.join(" and ", v.evidence()) + ".";
    change(
        id,
        j -> {
          j.setVerdict(Json.write(v));
          j.storageStays(v.storageStays());
          j.set(Stations.FAULT, Lamp.MOSS, v.sentence(), clock.instant());
        });
    log.shed(id, Stations.FAULT, v.sentence() + evidence);
  }

  private void fault(JobEntity job, StationRecord r) {
    job.setVerdict("");
    job.storageStays(false);
    switch (r.choice()) {
      case "storage" ->
          job.set(Stations.FAULT, Lamp.MOSS, "Storage is the fault.", clock.instant());
      case "unneeded" -> job.set(Stations.FAULT, Lamp.DASH, "", clock.instant());
      case "other" ->
          job.set(
              Stations.FAULT,
              Lamp.BRICK,
              "Storage is not the fault; see the notes.",
              clock.instant());
      default -> throw new ShedException("Choose what the fault is before the station is settled.");
    }
  }

  private void tell(long id) {
    events.tell("job", java.util.Map.of("id", id));
  }

  public JobView view(JobEntity j) {
    long workId = work.findActive(j.id()).map(w -> w.id()).orElse(0L);
    Profile profile = machines.get(j.profile());
    FaultVerdict verdict = verdict(j);
    List<JobView.StationView> stations = new ArrayList<>();
    for (int n = 1; n <= Stations.CLOSE; n++) {
      StationState s = j.station(n);
      stations.add(
          new JobView.StationView(
              n,
              Stations.NAMES.get(n - 1),
              s.state().name(),
              s.sentence(),
              waits(n, verdict),
              read(s)));
    }
    List<Inspection.Point> points = points(profile, read(j.station(Stations.INTAKE)));
    JobView.StationView at = at(stations, j.closed());
    boolean running = work.findActive(j.id()).filter(w -> w.running()).isPresent();
    String waits =
        j.closed()
            ? "closed"
            : running
                ? "the shed is working"
                : at.state().equals("BRICK") ? "stopped" : "in your hands";
    return new JobView(
        j.id(),
        j.version(),
        j.machine(),
        j.profile(),
        profile.name(),
        j.fault(),
        j.mediumId().orElse(0L),
        j.mediumId().map(this::mediumText).orElse("no medium yet"),
        j.cardId().orElse(0L),
        j.cardId().map(this::mediumText).orElse(""),
        j.rescuedId().orElse(0L),
        j.builtId().orElse(0L),
        workId,
        stations,
        points,
        Inspection.gate(profile.inspection(), points),
        verdict,
        at.name() + ": " + (at.sentence().isEmpty() ? at.waitsFor() : at.sentence()),
        waits,
        j.closed(),
        j.changed());
  }

  private static String waits(int station, FaultVerdict v) {
    String parts = String.join(", ", v.parts());
    if (v.storageStays() && station == Stations.FIT) return "mend or replace: " + parts;
    if (v.storageStays() && station == Stations.CLOSE) return "note what was mended and close";
    if (v.kind().equals("pair") && station == Stations.PLAN) {
      return "plan around the pair: " + parts + " do not work together";
    }
    if (v.kind().equals("both") && station == Stations.FIT) {
      return "fit the card, and mend what is not storage of: " + parts;
    }
    return Stations.WAITS.get(station - 1);
  }

  /** The stopped station, else the one in hand, else the last that is done. */
  private static JobView.StationView at(List<JobView.StationView> all, boolean closed) {
    if (closed) return all.get(Stations.CLOSE - 1);
    for (String state : List.of("BRICK", "LIT")) {
      for (JobView.StationView s : all) if (s.state().equals(state)) return s;
    }
    return all.stream()
        .filter(s -> s.state().equals("MOSS"))
        .reduce((a, b) -> b)
        .orElse(all.get(0));
  }

  private String mediumText(long id) {
    MediumEntity m = media.get(id);
    return m.name() + ", " + Say.mib(m.sectors() * 512);
  }
}
