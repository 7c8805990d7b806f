package lanternshed.server.stations;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** The ten stations in the order of the work, with what each waits for when it is in hand. */
public enum Station {
  INTAKE("Intake", "look at it, and note what you see and hear"),
  FAULT("Fault", "show that storage is the fault"),
  RESCUE("Rescue", "image the old medium"),
  SURVEY("Survey", "read what is on it"),
  PLAN("Plan", "lay out the new volumes"),
  BUILD("Build", "make the image and prove it"),
  WRITE("Write", "put it on the card and read it back"),
  FIT("Fit", "fit the card"),
  PROVE("Prove", "start the machine and compare"),
  CLOSE("Close", "keep the golden copy and close");

  private final String title;
  private final String waitsFor;

  Station(String title, String waitsFor) {
    this.title = title;
    this.waitsFor = waitsFor;
  }

  /** Counted from 1, as keys and addresses do. */
  public int number() {
    return ordinal() + 1;
  }

  public String title() {
    return title;
  }

  public String waitsFor() {
    return waitsFor;
  }

  /** The station of that number; empty for a number that is none. */
  public static Optional<Station> of(int number) {
    return Arrays.stream(values()).filter(s -> s.number() == number).findFirst();
  }

  /** The stations behind this one, up to the last one of the shed's own work. */
  public List<Station> after() {
    return Arrays.stream(values())
        .filter(s -> s.compareTo(this) > 0 && s.compareTo(FIT) < 0)
        .toList();
  }
}
