package lanternshed.core.plan;

import java.util.List;
import java.util.Map;
import java.util.Set;
import lanternshed.core.machine.Card;

/**
 * What the user has chosen; everything else the planner works out.
 *
 * @param machine key of a profile
 * @param firmware key of one of its firmware variants; "" for the usual one
 * @param system key of a system's generation; "" for the usual one
 * @param drawer other cards that the image must fit as well (G-18); may be empty
 * @param volumes the volumes wanted, in order; empty to be proposed
 * @param keepBootCode whether the source's own boot code is kept in a rebuild
 * @param carried the drives that a carrier card is to hold as files; empty to be proposed
 * @param drivers files that go into a table that keeps drivers (P-13)
 * @param bench what was found out about the machine
 */
public record PlanRequest(
    String machine,
    String firmware,
    String system,
    Card card,
    List<Card> drawer,
    Strategy strategy,
    School school,
    List<Wish> volumes,
    boolean keepBootCode,
    List<Carried> carried,
    List<Driver> drivers,
    Bench bench) {

  /**
   * What was found out on the bench.
   *
   * @param has numbers of the machine by name (H-17)
   * @param pair parts that are at fault only together (D-11)
   * @param startFiles by path of a start-up file of its menu the old volumes that hold it (T-8)
   * @param roms that are to go into it (O-6)
   * @param rate at which it reads
   */
  public record Bench(
      Map<String, Double> has,
      Pair pair,
      Map<String, Set<Integer>> startFiles,
      List<FittedRom> roms,
      Rate rate) {
    public static final Bench NOTHING =
        new Bench(Map.of(), Pair.NONE, Map.of(), List.of(), Rate.UNKNOWN);

    public Bench {
      has = Map.copyOf(has);
      startFiles = Map.copyOf(startFiles);
      roms = List.copyOf(roms);
    }
  }

  /**
   * An option ROM for the machine.
   *
   * @param fault why the firmware would not enter it, in a sentence; "" where it would
   * @param lacks what the machine's processor lacks for it, in a sentence; "" for nothing
   */
  public record FittedRom(String name, String fault, String lacks) {}

  /**
   * At which a machine reads from its drive.
   *
   * @param bytesPerSecond 0 where nobody knows
   * @param measured on this machine; else the most that its bus carries
   */
  public record Rate(long bytesPerSecond, boolean measured) {
    public static final Rate UNKNOWN = new Rate(0, false);
  }

  /** A part of the fault board, by its name and kind. */
  public record Suspect(String name, String kind) {}

  /**
   * Storage and another part that do not work together.
   *
   * @param machine the machine's side: the part, or those that it may be
   * @param storage the other side: what a card and its adapter take the place of, or are
   * @param named whether the board named them; else these are all that may be it
   */
  public record Pair(List<Suspect> machine, List<Suspect> storage, boolean named) {
    public static final Pair NONE = new Pair(List.of(), List.of(), false);

    public Pair {
      machine = List.copyOf(machine);
      storage = List.copyOf(storage);
    }
  }

  /** A request of which nothing is known from the bench. */
  public PlanRequest(
      String machine,
      String firmware,
      String system,
      Card card,
      List<Card> drawer,
      Strategy strategy,
      School school,
      List<Wish> volumes,
      boolean keepBootCode,
      List<Carried> carried) {
    this(
        machine,
        firmware,
        system,
        card,
        drawer,
        strategy,
        school,
        volumes,
        keepBootCode,
        carried,
        List.of(),
        Bench.NOTHING);
  }

  /**
   * A drive that goes on a carrier card as a file (P-32).
   *
   * @param title as the shelf calls it
   * @param sha256 digest of the image
   * @param bytes of the image
   * @param id of the drive at the emulator; −1 for the next that is free
   */
  public record Carried(String title, String sha256, long bytes, int id) {}

  /**
   * A driver's file that somebody brought.
   *
   * @param type the table's own code of the volumes that it serves
   * @param version as the file says it; "" where it says none
   */
  public record Driver(String type, String name, String version, long bytes, String sha256) {}

  /** How the new image comes from the old one. */
  public enum Strategy {
    CLONE("Clone"),
    GROW("Clone and grow"),
    REBUILD("Rebuild"),
    CARRY("Files on a carrier card");

    private final String title;

    Strategy(String title) {
      this.title = title;
    }

    public String title() {
      return title;
    }
  }

  /** The two schools of where a volume starts (G-16). */
  public enum School {
    /** At a head boundary, ending on a cylinder, as the systems of the time expect. */
    MACHINE,
    /** At a multiple of 4 MiB, as flash likes. */
    FLASH
  }

  /**
   * One volume wanted.
   *
   * @param end the sector that it should end before; 0 for as far as it goes
   * @param clusterBytes bytes of a cluster; 0 for the size's default
   * @param source number of the old volume whose content goes in; −1 for none
   */
  public record Wish(String label, long end, int clusterBytes, int source) {}

  public PlanRequest {
    drawer = List.copyOf(drawer);
    volumes = List.copyOf(volumes);
    carried = List.copyOf(carried);
    drivers = List.copyOf(drivers);
  }
}
