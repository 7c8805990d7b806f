package lanternshed.server.jobs;

import jakarta.persistence.EntityNotFoundException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import lanternshed.core.machine.Fitting;
import lanternshed.core.machine.Inspection;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.prove.Shown;
import lanternshed.core.survey.Survey;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.images.Surveyed;
import lanternshed.server.logbook.LogService;
import lanternshed.server.machines.MachineService;
import lanternshed.server.media.MediaService;
import lanternshed.server.media.MediumEntity;
import lanternshed.server.shell.ConflictException;
import lanternshed.server.shell.Events;
import lanternshed.server.shell.Json;
import lanternshed.server.stations.Station;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Opens jobs and moves them from station to station. */
@Service
public class JobService {
  /** The choice at Close of who wanted an image of the old medium and nothing else. */
  private static final String BACKUP = "backup";

  private final JobRepository jobs;
  private final MediaService media;
  private final MachineService machines;
  private final InHand work;
  private final ImageService images;
  private final LogService log;
  private final Events events;
  private final Clock clock;
  private final ObjectProvider<Foretold> foretold;

  JobService(
      JobRepository jobs,
      MediaService media,
      MachineService machines,
      InHand work,
      ImageService images,
      LogService log,
      Events events,
      Clock clock,
      ObjectProvider<Foretold> foretold) {
    this.foretold = foretold;
    this.jobs = jobs;
    this.media = media;
    this.machines = machines;
    this.work = work;
    this.images = images;
    this.log = log;
    this.events = events;
    this.clock = clock;
  }

  /** The names of all machines that are on the bench. */
  public List<String> machines() {
    return jobs.findAll().stream().map(JobEntity::machine).toList();
  }

  /** The jobs of a machine of that name. */
  public List<Long> of(String machine) {
    return jobs.findAll().stream()
        .filter(j -> j.machine().equals(machine))
        .map(JobEntity::id)
        .toList();
  }

  public JobEntity get(long id) {
    return there(id, jobs.findById(id));
  }

  private JobEntity forChange(long id) {
    return there(id, jobs.findForChange(id));
  }

  private static JobEntity there(long id, Optional<JobEntity> job) {
    return job.orElseThrow(() -> new EntityNotFoundException("There is no job " + id + "."));
  }

  /**
   * Corrects what a job is called, its fault in words, and its family. Another family has other
   * points, rules and plans: what was settled by the old one from Plan on is to be done again.
   */
  @Transactional
  public JobEntity correct(long id, long version, String machine, String fault, String profile) {
    machines.get(profile);
    return change(
        id,
        j -> {
          sameVersion(j, version);
          boolean other = !j.profile().equals(profile);
          if (other && work.of(id).isPresent()) {
            throw new ConflictException(
                "Work is in hand on this job; the family can be changed when it has ended.");
          }
          String before = j.profile();
          j.setFacts(machine, fault, profile);
          if (!other) return;
          j.setPlan("", "");
          j.redoAfter(Station.SURVEY);
          if (j.station(Station.INTAKE).state() != Lamp.DARK) {
            j.station(Station.INTAKE).write("");
            j.station(Station.INTAKE).set(Lamp.LIT, "");
          }
          log.shed(
              id,
              Station.INTAKE.number(),
              "The family was "
                  + before
                  + " and is "
                  + profile
                  + " now: its points are looked at anew, and the plan is laid out anew.");
        });
  }

  /**
   * Goes on from another image than the one that was rescued: a mended copy, or one with a table.
   *
   * @param name of that image
   * @param stop what its survey stops at; "" for nothing
   */
  @Transactional
  public JobEntity goOnFrom(long id, long version, long image, String name, String stop) {
    images.hold(image);
    JobEntity job =
        change(
            id,
            j -> {
              sameVersion(j, version);
              if (j.rescuedId().isEmpty()) {
                throw new ConflictException("Nothing is rescued in this job yet.");
              }
              j.setRescued(image);
              j.redoAfter(Station.SURVEY);
              boolean stops = !stop.isEmpty();
              j.set(
                  Station.SURVEY,
                  stops ? Lamp.BRICK : Lamp.MOSS,
                  stops ? stop : "Goes on from " + name + ".",
                  clock.instant());
            });
    log.shed(id, Station.SURVEY.number(), "The job goes on from the image \"" + name + "\".");
    return job;
  }

  /** Takes a job off the bench, or puts it back; nothing of it is deleted. */
  @Transactional
  public void remove(long id, boolean removed) {
    change(
        id,
        j -> {
          // Under the job's lock, which whoever begins work on it takes too.
          if (removed && work.of(id).isPresent()) {
            throw new ConflictException(
                "Work is in hand on this job. Wait for it or cancel it, then take the job away.");
          }
          j.setRemoved(removed);
        });
  }

  /** The open jobs that need a medium. */
  public List<String> needing(long medium) {
    return jobs.openOnMedium(medium).stream().map(JobEntity::machine).toList();
  }

  /** The open jobs whose survey, plan and build are of this image. */
  public List<JobEntity> from(long image) {
    return jobs.onImage(image).stream()
        .filter(j -> !j.closed() && j.rescuedId().stream().anyMatch(i -> i == image))
        .toList();
  }

  /**
   * The jobs that made some images, by image, the newest where there are several: whose machine
   * each is for.
   */
  public Map<Long, JobEntity> made(Collection<Long> images) {
    Map<Long, JobEntity> out = new HashMap<>();
    // In the order in which they came: the newest stays.
    for (JobEntity j : jobs.makers(images)) {
      Stream.concat(j.builtId().stream(), j.goldenId().stream())
          .filter(images::contains)
          .forEach(i -> out.put(i, j));
    }
    return out;
  }

  /** Names of the machines of some jobs, by job. */
  Map<Long, String> machines(Collection<Long> ids) {
    return jobs.named(ids).stream()
        .collect(Collectors.toMap(JobRepository.Named::getId, JobRepository.Named::getMachine));
  }

  /** Keeps the chain of parts that a job takes. */
  @Transactional
  public void chain(long id, long version, String chain) {
    change(
        id,
        j -> {
          sameVersion(j, version);
          j.setChain(chain);
        });
  }

  /** The jobs whose old medium this is, the first one first. */
  public List<JobEntity> fromMedium(long medium) {
    return jobs.fromMedium(medium);
  }

  /** The jobs whose image was last written to this card. */
  public List<JobEntity> onCard(long card) {
    return jobs.findByCardId(card);
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

  /** Opens a job that has no old medium to image. */
  @Transactional
  public JobEntity open(String machine, String profile, String fault, StartsFrom from, long image) {
    JobEntity job = open(machine, profile, fault, Optional.empty());
    return startFrom(job.id(), job.version(), from, image);
  }

  /**
   * W-10: what the job starts from where there is no old medium to image. A station that does not
   * apply becomes a dash with its reason.
   *
   * @param image the starter image; 0 unless it starts from one
   * @throws ConflictException where the old medium has been imaged already
   */
  @Transactional
  public JobEntity startFrom(long id, long version, StartsFrom from, long image) {
    Optional<ImageEntity> starter =
        from == StartsFrom.IMAGE ? Optional.of(images.hold(image)) : Optional.empty();
    String reason =
        starter.map(i -> "No old drive: it starts from \"" + i.name() + "\".").orElse(reason(from));
    JobEntity job =
        change(
            id,
            j -> {
              sameVersion(j, version);
              if (j.startsFrom() == StartsFrom.MEDIUM && j.rescuedId().isPresent()) {
                throw new ConflictException(
                    "The old medium of this job is imaged already; open another job instead.");
              }
              needNoWork(id);
              j.setStartsFrom(from);
              j.setRescued(starter.map(ImageEntity::id).orElse(null));
              j.setPlan("", "");
              j.redoAfter(Station.FAULT);
              if (from == StartsFrom.MEDIUM) {
                if (!j.inHand()) j.set(Station.RESCUE, Lamp.LIT, "", clock.instant());
                return;
              }
              j.set(Station.RESCUE, Lamp.DASH, reason, clock.instant());
              starter.ifPresentOrElse(
                  i -> surveyed(j, i),
                  () -> j.set(Station.SURVEY, Lamp.DASH, reason, clock.instant()));
            });
    if (!reason.isEmpty()) log.shed(id, Station.RESCUE.number(), reason);
    return job;
  }

  private static String reason(StartsFrom from) {
    return switch (from) {
      case FILES -> "No old drive: files from a desktop go on a fresh card.";
      case NOTHING -> "No old drive: the card is laid out fresh.";
      default -> "";
    };
  }

  private void surveyed(JobEntity j, ImageEntity i) {
    Survey s = images.survey(i);
    boolean stops = s.stop().isPresent();
    String sentence = s.stop().map(Finding::what).orElseGet(() -> Surveyed.sentence(s));
    j.set(Station.SURVEY, stops ? Lamp.BRICK : Lamp.MOSS, sentence, clock.instant());
  }

  /** W-8: the job goes on with an image of the shelf as it is; its sectors are the whole proof. */
  @Transactional
  public JobEntity asItIs(long id, long version, long image) {
    ImageEntity i = images.hold(image);
    String sentence = "\"" + i.name() + "\" goes on the card as it is.";
    JobEntity job =
        change(
            id,
            j -> {
              sameVersion(j, version);
              needNoWork(id);
              j.setBuilt(image);
              j.setProof("");
              j.redoAfter(Station.PLAN);
              if (j.station(Station.PLAN).state() != Lamp.MOSS) {
                j.set(Station.PLAN, Lamp.DASH, sentence, clock.instant());
              }
              j.set(Station.BUILD, Lamp.DASH, sentence, clock.instant());
            });
    log.shed(id, Station.BUILD.number(), sentence);
    return job;
  }

  /** What is on the cards is made by the machine's own tool: there is no image of it. */
  public void madeElsewhere(JobEntity job, String sentence) {
    job.setBuilt(null);
    job.set(Station.BUILD, Lamp.DASH, sentence, clock.instant());
    job.set(Station.WRITE, Lamp.DASH, sentence, clock.instant());
  }

  /** Whether a plan is settled and nothing of it is built: it has no recipe then. */
  public static boolean madeElsewhere(JobEntity job) {
    boolean dash = job.station(Station.BUILD).state() == Lamp.DASH;
    return !job.planChoice().isEmpty() && job.recipe().isEmpty() && dash;
  }

  /**
   * @throws ConflictException while work is in hand, which reads the files
   * @throws ShedException where the job does not start from files
   */
  public void filesMayChange(long id) {
    if (get(id).startsFrom() != StartsFrom.FILES) {
      throw new ShedException("This job does not start from files; say so at its Rescue station.");
    }
    needNoWork(id);
  }

  private void needNoWork(long id) {
    if (work.of(id).isEmpty()) return;
    throw new ConflictException("Work is in hand on this job; wait until it has ended.");
  }

  /** Files came or went: what was planned with them is to be planned again. */
  @Transactional
  public void filesChanged(long id) {
    JobEntity job = get(id);
    if (job.startsFrom() != StartsFrom.FILES || job.recipe().isEmpty()) return;
    change(
        id,
        j -> {
          j.setPlan(j.planChoice(), "");
          j.redoAfter(Station.SURVEY);
          j.set(Station.PLAN, Lamp.LIT, "", clock.instant());
        });
  }

  /**
   * Changes a job in one transaction; a change that somebody else made meanwhile is not
   * overwritten.
   */
  @Transactional
  public JobEntity change(long id, Consumer<JobEntity> how) {
    JobEntity job = forChange(id);
    how.accept(job);
    jobs.saveAndFlush(job);
    tell(id);
    return job;
  }

  /** Sets a lamp and writes the sentence into the logbook as the shed's own. */
  @Transactional
  public void set(long id, Station station, Lamp lamp, String sentence) {
    change(id, j -> j.set(station, lamp, sentence, clock.instant()));
    if (!sentence.isEmpty()) log.shed(id, station.number(), sentence);
  }

  /**
   * Changes a job and proves a station in one transaction, by the version that the person saw: of
   * two who come at once the second is told.
   */
  @Transactional
  public void settle(
      long id, long version, Consumer<JobEntity> how, Station station, String sentence) {
    change(
        id,
        j -> {
          sameVersion(j, version);
          how.accept(j);
          j.set(station, Lamp.MOSS, sentence, clock.instant());
        });
    log.shed(id, station.number(), sentence);
  }

  private static void sameVersion(JobEntity job, long version) {
    if (job.version() == version) return;
    throw new ConflictException(
        "Somebody else changed this job meanwhile. What you typed is kept; look at the job again and"
            + " save once more.");
  }

  @Transactional
  public JobEntity setMedium(long id, long mediumId) {
    MediumEntity m = media.get(mediumId);
    if (m.isCard()) {
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
  public JobEntity record(
      long id, Station station, long version, StationRecord record, boolean done) {
    JobEntity job = forChange(id);
    sameVersion(job, version);
    job.station(station).write(Json.write(record));
    Profile profile = machines.get(job.profile());
    if (done) settle(job, station, record, profile);
    else if (job.station(station).state() != Lamp.DARK) {
      job.set(station, Lamp.LIT, "", clock.instant());
      if (station == Station.CLOSE) job.setClosed(false);
    }
    jobs.saveAndFlush(job);
    StationState s = job.station(station);
    if (done && !s.sentence().isEmpty()) log.shed(id, station.number(), s.sentence());
    tell(id);
    return job;
  }

  private void settle(JobEntity job, Station station, StationRecord r, Profile profile) {
    long ticked = r.ticks().stream().filter(StationRecord.Tick::done).count();
    switch (station) {
      case INTAKE -> {
        int all = profile.inspection().size();
        List<Inspection.Point> points = points(profile, r);
        String gate = Inspection.gate(profile.inspection(), points);
        if (gate.isEmpty()) {
          String looked = Say.count(ticked) + " of " + all + " points looked at.";
          job.set(station, Lamp.MOSS, looked, clock.instant());
        } else if (Inspection.bad(points)) {
          job.set(station, Lamp.BRICK, gate, clock.instant());
        } else {
          // What nobody looked at yet is no finding: it stays in hand, and the gate says what is
          // left.
          job.set(station, Lamp.LIT, "", clock.instant());
        }
      }
      case FAULT -> fault(job, r);
      case FIT -> {
        if (verdict(job).storageStays()) {
          job.set(station, Lamp.MOSS, "Mended: " + verdict(job).mend() + ".", clock.instant());
          return;
        }
        Fitting list = Fitting.of(profile, r.choice());
        list.needChosen();
        Map<Integer, StationRecord.Tick> ticks =
            r.ticks().stream()
                .collect(Collectors.toMap(StationRecord.Tick::index, t -> t, (a, b) -> b));
        List<StationRecord.Tick> these =
            list.rows().stream().map(x -> ticks.get(x.index())).filter(Objects::nonNull).toList();
        int all = list.rows().size();
        long done = these.stream().filter(StationRecord.Tick::done).count();
        long said = these.stream().filter(t -> !t.done() && !t.reading().isBlank()).count();
        if (done + said < all) {
          throw new ShedException(
              Say.plural(all - done - said, "step of the list is", "steps of the list are")
                  + " not ticked yet. Do them, or write beside them why they do not apply.");
        }
        job.set(
            station,
            Lamp.MOSS,
            said == 0
                ? "All " + all + " steps done."
                : done + " steps done; " + said + " do not apply, with the reason noted.",
            clock.instant());
      }
      case PROVE -> {
        boolean pass = r.choice().equals("pass");
        if (!pass && !r.choice().equals("fail")) {
          throw new ShedException("Say whether the machine passed or failed.");
        }
        if (pass) shown(profile, r);
        List<Shown.ShownRow> rows = foretold.getObject().rows(job, seen(r));
        String read = pass ? Shown.passed(rows) : Shown.against(rows);
        job.set(
            station,
            pass ? Lamp.MOSS : Lamp.BRICK,
            pass
                ? ("The machine shows what the plan predicted. " + read).strip()
                : ("The machine does not show what the plan predicted. " + read).strip(),
            clock.instant());
      }
      case CLOSE -> {
        if (verdict(job).storageStays()) {
          job.set(station, Lamp.MOSS, "Mended; its storage stays.", clock.instant());
          job.setClosed(true);
          return;
        }
        boolean backup = r.choice().equals(BACKUP);
        if (backup && job.rescuedId().isEmpty()) {
          throw new ShedException("There is no image yet that could be the backup.");
        }
        if (backup) {
          job.setGolden(job.rescuedId().orElseThrow());
          for (Station s : Station.SURVEY.after()) dash(job, s);
          dash(job, Station.FIT);
          dash(job, Station.PROVE);
        } else if (job.goldenId().isEmpty() && madeElsewhere(job)) {
          String made = job.station(Station.BUILD).sentence();
          job.set(station, Lamp.MOSS, made + " No image of it is on the shelf.", clock.instant());
          job.setClosed(true);
          return;
        } else if (job.goldenId().isEmpty()) {
          job.setGolden(
              job.builtId()
                  .filter(b -> List.of(Lamp.MOSS, Lamp.DASH).contains(lamp(job, Station.BUILD)))
                  .orElseThrow(
                      () ->
                          new ShedException(
                              "There is no golden copy yet: read the finished card back, or build"
                                  + " an image first.")));
        }
        String kept = images.get(job.goldenId().orElseThrow()).name();
        String sentence =
            backup
                ? "A backup was all that was wanted: \"" + kept + "\" on the shelf."
                : "Golden copy on the shelf: \"" + kept + "\".";
        job.set(station, Lamp.MOSS, sentence, clock.instant());
        job.setClosed(true);
      }
      default -> throw new ShedException("This station is settled by its own work.");
    }
  }

  private static Lamp lamp(JobEntity job, Station s) {
    return job.station(s).state();
  }

  private void dash(JobEntity job, Station s) {
    if (job.station(s).state() == Lamp.MOSS) return;
    job.set(s, Lamp.DASH, "Only a backup was wanted.", clock.instant());
  }

  /** A pass is what was looked at: every point ticked, and the reading where one is asked for. */
  private static void shown(Profile profile, StationRecord r) {
    long open = 0;
    for (int i = 0; i < profile.prove().size(); i++) {
      int at = i;
      boolean asksReading = !profile.prove().get(i).reading().isEmpty();
      boolean shown =
          r.ticks().stream()
              .anyMatch(
                  t -> t.index() == at && t.done() && (!asksReading || !t.reading().isBlank()));
      if (!shown) open++;
    }
    if (open == 0) return;
    throw new ShedException(
        Say.plural(open, "point is", "points are")
            + " not looked at yet, or lack what the machine showed. Note it, or say that the machine"
            + " failed.");
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
    return read(job.station(Station.INTAKE)).symptoms();
  }

  /** Each figure that was foretold of the machine, with what was read off it at Prove. */
  public List<Shown.ShownRow> shown(long id) {
    JobEntity job = get(id);
    return foretold.getObject().rows(job, seen(read(job.station(Station.PROVE))));
  }

  /** How many points of a station's list are ticked. */
  public long looked(JobEntity job, Station at) {
    return read(job.station(at)).ticks().stream().filter(StationRecord.Tick::done).count();
  }

  private static List<Shown.Seen> seen(StationRecord r) {
    return r.shown().stream()
        .map(s -> new Shown.Seen(s.key(), s.text(), s.unseen(), s.explained()))
        .toList();
  }

  /** Numbers of the machine that were written down at Intake (H-17). */
  public Map<String, Double> has(JobEntity job) {
    return read(job.station(Station.INTAKE)).has();
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
          j.set(Station.FAULT, Lamp.MOSS, v.sentence(), clock.instant());
        });
    log.shed(id, Station.FAULT.number(), v.sentence() + evidence);
  }

  private void fault(JobEntity job, StationRecord r) {
    job.setVerdict("");
    job.storageStays(false);
    switch (r.choice()) {
      case "storage" -> job.set(Station.FAULT, Lamp.MOSS, "Storage is the fault.", clock.instant());
      case "unneeded" -> job.set(Station.FAULT, Lamp.DASH, "", clock.instant());
      case "other" ->
          job.set(
              Station.FAULT,
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
    Optional<InHand.Piece> active = work.of(j.id());
    long workId = active.map(InHand.Piece::id).orElse(0L);
    boolean running = active.filter(InHand.Piece::running).isPresent();
    Profile profile = machines.get(j.profile());
    FaultVerdict verdict = verdict(j);
    List<JobView.StationView> stations = new ArrayList<>();
    for (Station at : Station.values()) {
      StationState s = j.station(at);
      stations.add(
          new JobView.StationView(
              at.number(),
              at.title(),
              s.state().name(),
              s.sentence(),
              waits(at, verdict),
              read(s)));
    }
    List<Inspection.Point> points = points(profile, read(j.station(Station.INTAKE)));
    JobView.StationView at = stations.get(j.at().ordinal());
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
        j.mediumId()
            .map(this::mediumText)
            .orElse(j.startsFrom() == StartsFrom.MEDIUM ? "no medium yet" : "no old drive"),
        j.cardId().orElse(0L),
        j.cardId().map(this::mediumText).orElse(""),
        j.rescuedId().orElse(0L),
        j.builtId().orElse(0L),
        j.goldenId().orElse(0L),
        j.startsFrom(),
        madeElsewhere(j) ? j.station(Station.BUILD).sentence() : "",
        workId,
        stations,
        points,
        Inspection.gate(profile.inspection(), points),
        Fitting.of(profile, read(j.station(Station.FIT)).choice()),
        verdict,
        at.name() + ": " + (at.sentence().isEmpty() ? at.waitsFor() : at.sentence()),
        waits,
        j.closed(),
        j.changed());
  }

  static String waits(Station station, FaultVerdict v) {
    String mending = (v.parts().isEmpty() ? "find and mend " : "mend or replace ") + v.mend();
    if (v.storageStays() && station == Station.FIT) return mending;
    if (v.storageStays() && station == Station.CLOSE) return "note what was mended and close";
    if (v.kind().equals(FaultVerdict.BESIDE) && station == Station.PROVE) {
      return mending + ", then start it again";
    }
    if (v.kind().equals("pair") && station == Station.PLAN) {
      return "plan around what does not work together: " + v.mend();
    }
    if (v.kind().equals("both") && station == Station.FIT) {
      return "fit the card, and mend what is not storage of " + v.mend();
    }
    return station.waitsFor();
  }

  private String mediumText(long id) {
    MediumEntity m = media.get(id);
    return m.name() + ", " + Say.mib(m.sectors() * 512);
  }
}
