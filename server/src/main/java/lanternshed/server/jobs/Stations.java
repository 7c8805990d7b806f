package lanternshed.server.jobs;

import java.util.List;

/** The ten stations in the order of the work. */
public final class Stations {
  public static final int INTAKE = 1;
  public static final int FAULT = 2;
  public static final int RESCUE = 3;
  public static final int SURVEY = 4;
  public static final int PLAN = 5;
  public static final int BUILD = 6;
  public static final int WRITE = 7;
  public static final int FIT = 8;
  public static final int PROVE = 9;
  public static final int CLOSE = 10;

  static final List<String> NAMES =
      List.of(
          "Intake", "Fault", "Rescue", "Survey", "Plan", "Build", "Write", "Fit", "Prove", "Close");

  /** What a station waits for when it is in hand. */
  static final List<String> WAITS =
      List.of(
          "look at it, and note what you see and hear",
          "show that storage is the fault",
          "image the old medium",
          "read what is on it",
          "lay out the new volumes",
          "make the image and prove it",
          "put it on the card and read it back",
          "fit the card",
          "start the machine and compare",
          "keep the golden copy and close");

  /** The station's name; "" for a number that is none. */
  public static String name(int number) {
    return number >= 1 && number <= NAMES.size() ? NAMES.get(number - 1) : "";
  }

  private Stations() {}
}
