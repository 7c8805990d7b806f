package lanternshed.server.sheets;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import lanternshed.core.machine.Fitting;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Say;
import lanternshed.core.prove.Shown;
import lanternshed.core.prove.Speeds;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.jobs.JobService;
import lanternshed.server.jobs.JobView;
import lanternshed.server.jobs.StationRecord;
import lanternshed.server.machines.MachineService;
import lanternshed.server.paper.Paper;
import lanternshed.server.paper.SheetPdf;
import lanternshed.server.pictures.PictureService;
import lanternshed.server.proving.TimingService;
import lanternshed.server.roms.RomService;
import lanternshed.server.stations.Station;
import org.springframework.stereotype.Component;

/** The record of a job for whoever opens the machine in five years. */
@Component
class RecordSheet {
  private static final Map<String, String> LAMPS =
      Map.of("DARK", "not yet", "LIT", "in hand", "MOSS", "done", "BRICK", "stopped", "DASH", "–");

  private final ImageService images;
  private final LogSheet log;
  private final PictureService pictures;
  private final MachineService machines;
  private final JobService jobs;
  private final TimingService timings;
  private final RomService roms;

  RecordSheet(
      ImageService images,
      LogSheet log,
      PictureService pictures,
      MachineService machines,
      JobService jobs,
      TimingService timings,
      RomService roms) {
    this.roms = roms;
    this.jobs = jobs;
    this.timings = timings;
    this.images = images;
    this.log = log;
    this.pictures = pictures;
    this.machines = machines;
  }

  byte[] of(JobView job, Paper paper) {
    SheetPdf s = new SheetPdf(paper, job.machine(), "Job " + job.id() + ", " + job.machine());
    s.answer(job.where());
    Map<String, String> facts = new LinkedHashMap<>();
    facts.put("job", job.id() + ", last changed " + SheetPdf.at(job.changed()));
    facts.put("kind of machine", job.profileName());
    facts.put("its fault, in words", job.fault());
    if (!job.medium().isEmpty()) facts.put("old medium", job.medium());
    if (!job.card().isEmpty()) facts.put("card", job.card());
    s.facts(facts);
    images(s, job);
    roms(s, job);
    s.head("Stations");
    s.table(
        List.of("station", "", "what came of it"),
        new float[] {2, 1.2f, 8},
        job.stations().stream()
            .map(x -> List.of(x.name(), LAMPS.getOrDefault(x.state(), x.state()), x.sentence()))
            .toList());
    readings(s, job);
    shown(s, job);
    speeds(s, job);
    notes(s, job);
    log.lines(s, job.id());
    pictures(s, job);
    return s.done();
  }

  private void images(SheetPdf s, JobView job) {
    List<List<String>> rows = new ArrayList<>();
    add(rows, "as rescued", job.rescuedId());
    add(rows, "as built", job.builtId());
    add(rows, "golden copy", job.goldenId());
    if (rows.isEmpty()) return;
    s.head("Images on the shelf");
    s.table(List.of("image", "size", "SHA-256"), new float[] {1.6f, 1.4f, 8}, rows);
  }

  private void add(List<List<String>> rows, String what, long id) {
    if (id == 0) return;
    images
        .known(id)
        .ifPresent(
            (ImageEntity i) -> rows.add(List.of(what, Say.mib(i.sectors() * 512), i.sha256())));
  }

  /** The ROMs without which the machine does not see the card (O-7). */
  private void roms(SheetPdf s, JobView job) {
    List<List<String>> rows =
        roms.factsOf(job.id()).stream()
            .map(
                f ->
                    List.of(
                        f.name() + (f.note().isEmpty() ? "" : ", " + f.note()),
                        f.window().isEmpty() ? "–" : f.window() + closed(f.jumpers()),
                        f.needs().isEmpty() ? "–" : f.needs(),
                        f.reading().isEmpty() ? "not read back" : f.reading(),
                        f.sha256()))
            .toList();
    if (rows.isEmpty()) return;
    s.head("ROMs in it");
    s.table(
        List.of("ROM", "window", "processor", "last read back", "SHA-256"),
        new float[] {3, 2, 1.5f, 4, 5},
        rows);
  }

  private static String closed(Map<String, Boolean> jumpers) {
    String all =
        jumpers.entrySet().stream()
            .filter(Map.Entry::getValue)
            .map(Map.Entry::getKey)
            .collect(Collectors.joining(" "));
    return all.isEmpty() ? "" : ", closed: " + all;
  }

  /** What was looked at and read by hand, by the lists of the family. */
  private void readings(SheetPdf s, JobView job) {
    Profile profile = machines.get(job.profile());
    List<List<String>> rows = new ArrayList<>();
    for (Station at : List.of(Station.INTAKE, Station.FIT, Station.PROVE)) {
      Map<Integer, Profile.Step> steps = steps(at, profile, job);
      for (StationRecord.Tick t : job.stations().get(at.number() - 1).record().ticks()) {
        if (!steps.containsKey(t.index())) continue;
        String said = (t.choice() + " " + t.reading()).strip();
        if (!t.done() && said.isEmpty()) continue;
        rows.add(
            List.of(
                job.stations().get(at.number() - 1).name(),
                steps.get(t.index()).text(),
                said.isEmpty() ? "done" : said));
      }
    }
    if (!job.gate().isEmpty()) rows.add(List.of("Intake", "power", job.gate()));
    if (rows.isEmpty()) return;
    s.head("Looked at and read by hand");
    s.table(List.of("station", "point", "found"), new float[] {2, 6, 4}, rows);
  }

  private static Map<Integer, Profile.Step> steps(Station at, Profile profile, JobView job) {
    if (at == Station.FIT) {
      return job.fitting().rows().stream()
          .collect(Collectors.toMap(Fitting.FitRow::index, Fitting.FitRow::step));
    }
    List<Profile.Step> all = at == Station.INTAKE ? profile.inspection() : profile.prove();
    return IntStream.range(0, all.size()).boxed().collect(Collectors.toMap(i -> i, all::get));
  }

  /** What was foretold beside what the machine did show (V-5); only what somebody read. */
  private void shown(SheetPdf s, JobView job) {
    List<List<String>> rows =
        jobs.shown(job.id()).stream()
            .filter(r -> r.verdict() != Shown.Verdict.OPEN)
            .map(
                r ->
                    List.of(
                        r.what(),
                        r.predicted(),
                        r.unseen() ? "not shown by it" : r.seen(),
                        said(r)))
            .toList();
    if (rows.isEmpty()) return;
    s.head("Foretold and shown");
    s.table(List.of("figure", "foretold", "shown", "difference"), new float[] {3, 3, 3, 4}, rows);
  }

  private static String said(Shown.ShownRow r) {
    return (r.sentence() + " " + r.explained()).strip();
  }

  private void speeds(SheetPdf s, JobView job) {
    List<List<String>> rows =
        timings.speeds(job.id()).rows().stream()
            .map(
                r ->
                    List.of(
                        r.name() + (r.tool().isEmpty() ? "" : ", " + r.tool()),
                        times(r.before()),
                        times(r.after()),
                        (r.change() + " " + r.sentence()).strip()))
            .toList();
    if (rows.isEmpty()) return;
    s.head("Before and after");
    s.table(List.of("what", "before", "after", "change"), new float[] {4, 3, 3, 5}, rows);
  }

  private static String times(Speeds.Series x) {
    return x.count() < 2 ? x.text() : x.text() + " (" + x.count() + " times)";
  }

  private static void notes(SheetPdf s, JobView job) {
    for (JobView.StationView x : job.stations()) {
      if (x.record().notes().isBlank()) continue;
      s.head("Notes at " + x.name()).text(x.record().notes());
    }
  }

  private void pictures(SheetPdf s, JobView job) {
    Map<Path, String> all = new LinkedHashMap<>();
    for (PictureService.PictureView p : pictures.of(job.id())) {
      String marks =
          p.fasteners().stream()
              .map(f -> f.number() + " " + f.kind() + " " + f.length() + " → " + f.lies())
              .collect(Collectors.joining("; "));
      all.put(pictures.file(p.id(), true), marks.isEmpty() ? p.name() : p.name() + ": " + marks);
    }
    if (all.isEmpty()) return;
    s.head("Pictures").pictures(all);
  }
}
