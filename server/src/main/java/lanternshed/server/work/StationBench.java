package lanternshed.server.work;

import lanternshed.server.jobs.JobService;
import lanternshed.server.jobs.Lamp;
import lanternshed.server.stations.Station;

/** A bench whose work is that of a station: how it ends is seen there. */
abstract class StationBench implements Bench {
  protected final JobService jobs;
  private final WorkEntity.Kind kind;
  protected final Station station;

  StationBench(JobService jobs, WorkEntity.Kind kind, Station station) {
    this.jobs = jobs;
    this.kind = kind;
    this.station = station;
  }

  @Override
  public WorkEntity.Kind kind() {
    return kind;
  }

  @Override
  public void failed(WorkEntity w, String sentence) {
    jobs.set(w.jobId(), station, Lamp.BRICK, sentence);
  }

  @Override
  public void cancelled(WorkEntity w) {
    jobs.set(w.jobId(), station, Lamp.LIT, "");
  }
}
