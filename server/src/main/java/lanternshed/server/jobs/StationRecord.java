package lanternshed.server.jobs;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;

/**
 * What is written down by hand at a station.
 *
 * @param choice a verdict in one word where the station asks for one
 * @param ticks the points of the station's list that were looked at
 */
public record StationRecord(
    @NotNull @Size(max = 10_000) String notes,
    @NotNull @Size(max = 60) String choice,
    @NotNull @Size(max = 100) List<@Valid Tick> ticks) {

  /** One point of a list. */
  public record Tick(int index, boolean done, @NotNull @Size(max = 200) String reading) {}

  static StationRecord empty() {
    return new StationRecord("", "", List.of());
  }
}
