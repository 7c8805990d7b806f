package lanternshed.server.jobs;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.PositiveOrZero;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Map;

/**
 * What is written down by hand at a station.
 *
 * @param symptoms keys of what was heard and seen, at Intake
 * @param choice a verdict in one word where the station asks for one
 * @param ticks the points of the station's list that were looked at
 * @param has numbers of the machine by name, at Intake (H-17)
 * @param shown what was read off the machine, at Prove
 */
public record StationRecord(
    @NotNull @Size(max = 10_000) String notes,
    @NotNull @Size(max = 60) String choice,
    @NotNull @Size(max = 200) List<@Valid Tick> ticks,
    @NotNull @Size(max = 40) List<@Size(max = 40) String> symptoms,
    @Size(max = 40) Map<@Size(max = 60) String, @PositiveOrZero @Max(1_000_000_000) Double> has,
    @Size(max = 200) List<@Valid Seen> shown) {

  /**
   * What was read off the machine at Prove, by the key of the figure that was foretold (V-5).
   *
   * @param unseen whether the machine does not show it
   * @param explained why it may differ; "" for no reason known
   */
  public record Seen(
      @NotNull @Size(max = 60) String key,
      @NotNull @Size(max = 120) String text,
      boolean unseen,
      @NotNull @Size(max = 400) String explained) {}

  /**
   * One point of a list.
   *
   * @param choice what was found, in the words of the list; "" where nothing is chosen
   */
  public record Tick(
      int index,
      boolean done,
      @NotNull @Size(max = 200) String reading,
      @NotNull @Size(max = 200) String choice) {
    public Tick {
      choice = choice == null ? "" : choice;
    }
  }

  public StationRecord {
    // Records that were kept before there were symptoms have none.
    symptoms = symptoms == null ? List.of() : List.copyOf(symptoms);
    has = has == null ? Map.of() : Map.copyOf(has);
    shown = shown == null ? List.of() : List.copyOf(shown);
  }

  static StationRecord empty() {
    return new StationRecord("", "", List.of(), List.of(), Map.of(), List.of());
  }
}
