package lanternshed.server.jobs;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import lanternshed.core.machine.Profile;
import lanternshed.server.machines.MachineService;
import lanternshed.server.media.MediaService;
import lanternshed.server.stations.Station;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The list of jobs, a page at a time; however many there are, it asks a handful of questions. */
@Service
class JobList {
  private static final int MOST_ROWS = 100;
  private final JobRepository jobs;
  private final InHand work;
  private final MediaService media;
  private final MachineService machines;

  JobList(JobRepository jobs, InHand work, MediaService media, MachineService machines) {
    this.jobs = jobs;
    this.work = work;
    this.media = media;
    this.machines = machines;
  }

  /** One lamp of the row. */
  record LampView(int number, String name, String state, String sentence, String waitsFor) {}

  /**
   * A job in the list.
   *
   * @param where one sentence: where it stands
   * @param waits as in {@link JobView}
   */
  record JobRow(
      long id,
      String machine,
      String profileName,
      String fault,
      String medium,
      long workId,
      List<LampView> stations,
      String where,
      String waits,
      boolean closed,
      Instant changed) {}

  /** How many jobs wait for the same. */
  record Waiting(String waits, long count) {}

  /**
   * @param total how many there are under this filter
   * @param waiting how many under these words, by what they wait for
   */
  record JobPage(long total, List<Waiting> waiting, List<JobRow> rows) {}

  /**
   * A page of the list.
   *
   * @param find part of machine, fault or medium; "" for all
   * @param waits what they wait for; "" for all
   */
  @Transactional(readOnly = true)
  public JobPage page(String find, String waits, int from, int size) {
    String words = find.isBlank() ? "" : "%" + find.strip().replaceAll("([%_!])", "!$1") + "%";
    List<Waiting> waiting =
        jobs.tally(words).stream().map(t -> new Waiting(t.getWaits(), t.getCount())).toList();
    long total =
        waiting.stream()
            .filter(w -> waits.isEmpty() || w.waits().equals(waits))
            .mapToLong(Waiting::count)
            .sum();
    List<JobRepository.Standing> page =
        jobs.page(words, waits, Math.max(1, Math.min(MOST_ROWS, size)), Math.max(0, from));
    List<Long> ids = page.stream().map(JobRepository.Standing::getId).toList();
    Map<Long, JobEntity> byId =
        jobs.withStations(ids).stream().collect(Collectors.toMap(JobEntity::id, j -> j));
    Map<Long, String> mediaText =
        media.names(byId.values().stream().flatMap(j -> j.mediumId().stream()).toList());
    Map<Long, Long> works = new HashMap<>();
    work.of(ids).forEach(w -> works.put(w.job(), w.id()));
    Map<String, String> profiles = new HashMap<>();
    List<JobRow> rows = new ArrayList<>();
    for (JobRepository.Standing s : page) {
      JobEntity j = byId.get(s.getId());
      String profile =
          profiles.computeIfAbsent(j.profile(), k -> machines.find(k).map(Profile::name).orElse(k));
      rows.add(row(j, s.getWaits(), profile, mediaText, works.getOrDefault(j.id(), 0L)));
    }
    return new JobPage(total, waiting, rows);
  }

  private static JobRow row(
      JobEntity j, String waits, String profile, Map<Long, String> mediaText, long workId) {
    List<LampView> lamps = new ArrayList<>();
    FaultVerdict verdict = JobService.verdict(j);
    for (Station station : Station.values()) {
      StationState s = j.station(station);
      lamps.add(
          new LampView(
              station.number(),
              station.title(),
              s.state().name(),
              s.sentence(),
              JobService.waits(station, verdict)));
    }
    LampView at = lamps.get(j.at().ordinal());
    return new JobRow(
        j.id(),
        j.machine(),
        profile,
        j.fault(),
        Optional.ofNullable(j.mediumId().map(mediaText::get).orElse(null)).orElse(""),
        workId,
        lamps,
        at.name() + ": " + (at.sentence().isEmpty() ? at.waitsFor() : at.sentence()),
        waits,
        j.closed(),
        j.changed());
  }
}
