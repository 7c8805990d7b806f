package lanternshed.server.jobs;

import jakarta.persistence.Embeddable;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;

/** One station of one job: its lamp, one sentence, and what was written down there. */
@Embeddable
public class StationState {
  @Enumerated(EnumType.STRING)
  private Lamp state = Lamp.DARK;

  private String sentence = "";
  private String record = "";

  protected StationState() {}

  static StationState dark() {
    return new StationState();
  }

  public Lamp state() {
    return state;
  }

  public String sentence() {
    return sentence;
  }

  public String record() {
    return record;
  }

  void set(Lamp newState, String newSentence) {
    state = newState;
    sentence = newSentence;
  }

  void write(String newRecord) {
    record = newRecord;
  }
}
