package lanternshed.server.jobs;

import java.time.Instant;
import java.util.List;
import lanternshed.core.machine.Fitting;
import lanternshed.core.machine.Inspection;

/**
 * A job as the screens show it; ids are 0 where there is nothing yet.
 *
 * @param points the inspection as it stands, and what gates the power
 * @param fitting the list of fitting, for the case that was chosen
 * @param where one sentence: where it stands
 * @param waits "in your hands", "stopped", "the shed is working" or "closed"
 */
public record JobView(
    long id,
    long version,
    String machine,
    String profile,
    String profileName,
    String fault,
    long mediumId,
    String medium,
    long cardId,
    String card,
    long rescuedId,
    long builtId,
    long goldenId,
    StartsFrom startsFrom,
    String madeBy,
    long workId,
    List<StationView> stations,
    List<Inspection.Point> points,
    String gate,
    Fitting fitting,
    FaultVerdict verdict,
    String where,
    String waits,
    boolean closed,
    Instant changed) {

  /** One lamp. */
  public record StationView(
      int number,
      String name,
      String state,
      String sentence,
      String waitsFor,
      StationRecord record) {}
}
