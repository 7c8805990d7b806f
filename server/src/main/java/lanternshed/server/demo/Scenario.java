package lanternshed.server.demo;

import java.util.List;
import java.util.Map;
import lanternshed.core.fault.Suspicion;
import lanternshed.core.fault.Trial;
import lanternshed.core.prove.Timing;

/** demo/saltern-mill.json. */
record Scenario(
    List<CardSpec> cards,
    List<LibrarySpec> libraries,
    List<Lying> drawer,
    RomSpec rom,
    CrossingSpec crossing,
    List<JobSpec> jobs) {

  /**
   * A folder of a desktop that waits to go over new disks.
   *
   * @param time of all its files
   */
  record CrossingSpec(String disk, String folder, String time, List<FileSpec> files) {}

  /**
   * @param times how many there are of it, with numbers; null for one without
   * @param sameAs path of the one that it is a copy of
   * @param text what it says, where it is a text
   */
  record FileSpec(String path, int bytes, Integer times, String sameAs, String text) {}

  /**
   * An image on the ROM bench.
   *
   * @param window as hexadecimal text
   * @param machine of the job that it goes into
   */
  record RomSpec(
      String name,
      String file,
      String carrier,
      String window,
      List<OccupiedSpec> occupied,
      String machine) {}

  /**
   * @param start as hexadecimal text
   */
  record OccupiedSpec(String name, String start, int kib) {}

  /** What lies of a kind of part. */
  record Lying(String key, int count, String lies) {}

  /** A library of small disks on the shelf. */
  record LibrarySpec(String name, int places, List<DiskSpec> disks) {}

  record DiskSpec(String title, boolean locked, String stem, int files) {}

  record CardSpec(
      String name,
      String serial,
      long labelBytes,
      long claimed,
      long real,
      boolean measured,
      String joint) {}

  /**
   * @param reach how far the job has come: "intake", "fault", "plan", "write" or "closed"
   * @param drive its medium; absent where none came with it
   * @param carries drives that its carrier card holds; absent for machines without one
   * @param board absent where no fault was sought
   * @param card the card it was written to; "" or absent where it was not
   * @param has numbers of the machine by name; absent where none were written down
   * @param timings what was timed, before and after; absent where nothing was
   * @param alsoCards further cards of the drawer, or of the board's other slots; may be absent
   */
  record JobSpec(
      String machine,
      String profile,
      String fault,
      DriveSpec drive,
      String reach,
      String card,
      String planCard,
      String notes,
      List<EmptyDrive> carries,
      BoardSpec board,
      Map<String, Double> has,
      List<String> alsoCards,
      List<Timing> timings) {}

  /** A drive with nothing on it yet, which the machine prepares itself. */
  record EmptyDrive(String name, long sectors, int id) {}

  /**
   * What is on the fault board.
   *
   * @param ideas pairs of an idea that was dropped and why it was plausible
   */
  record BoardSpec(
      List<String> symptoms, List<PartSpec> add, List<TestSpec> tests, List<List<String>> ideas) {}

  record PartSpec(
      String name,
      String kind,
      String group,
      int minutes,
      int money,
      int risk,
      Suspicion suspicion,
      int year) {}

  record TestSpec(
      String title, List<String> parts, String operation, Trial.Outcome outcome, String words) {}

  /**
   * @param says what its loader prints
   * @param start value with which the generator begins, so that it is the same each time
   * @param hitFiles how many files get a dead sector of their own
   */
  record DriveSpec(
      String name,
      String serial,
      int cylinders,
      int heads,
      int sectors,
      String label,
      List<String> systemFiles,
      String says,
      List<String> folders,
      String kind,
      int files,
      long bytes,
      long start,
      int dead,
      int late,
      int slow,
      int hitFiles) {}
}
