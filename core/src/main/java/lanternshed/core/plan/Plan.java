package lanternshed.core.plan;

import java.util.List;
import java.util.Optional;
import lanternshed.core.boot.Start;
import lanternshed.core.family.Family;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Peg;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Sum;

/**
 * The planner's answer.
 *
 * @param card the card it is planned for: the smallest of the drawer
 * @param reach sectors that the machine can use of it
 * @param outOfReach sectors of the card that it cannot
 * @param geometry what the target firmware's disk call shows
 * @param imageSectors how long the image will be: to the end of the last volume's cylinder
 * @param mostVolumes how many volumes the system gives a name to
 * @param lifts what other firmware of this machine would reach
 * @param mounts who mounts which of its volumes; empty where the table keeps no drivers
 * @param verdicts every rule that holds, warns or stops, the stopping ones first
 * @param steps what is typed on the machine itself
 * @param start whether it is meant to start
 * @param madeBy who makes what is on the cards where nothing is built here; else ""
 * @param buildable whether nothing stops it
 */
public record Plan(
    String machine,
    String family,
    String firmware,
    String system,
    Card card,
    List<Peg> pegs,
    Peg binding,
    long reach,
    long outOfReach,
    Sum reachBecause,
    Sum outOfReachBecause,
    Geometry geometry,
    long imageSectors,
    PlanRequest.Strategy strategy,
    PlanRequest.School school,
    boolean keepBootCode,
    int mostVolumes,
    List<PlannedVolume> volumes,
    Start start,
    List<StrategyView> strategies,
    List<Lift> lifts,
    List<MountedBy> mounts,
    List<Verdict> verdicts,
    List<Family.MachineStep> steps,
    String madeBy,
    boolean buildable) {

  /** Why it cannot be built, the first reason; empty where it can, or has no volume. */
  public Optional<String> stop() {
    return verdicts.stream().filter(v -> v.weight() == Weight.STOPS).map(Verdict::text).findFirst();
  }

  /** Whose driver a volume is mounted by (P-13). */
  public enum Mounter {
    ROM,
    OLD,
    BROUGHT,
    /** The ROM and the table have one: the machine goes by their versions. */
    NEWER,
    NOBODY
  }

  /**
   * Who mounts the volumes of one code of the table.
   *
   * @param letters of those volumes
   * @param driver what was brought for them; nothing where nobody brought any
   */
  public record MountedBy(
      String type,
      String kind,
      List<String> letters,
      Mounter by,
      Optional<PlanRequest.Driver> driver) {}

  /**
   * One volume of the layout.
   *
   * @param letter as the system will give it (P-7)
   * @param source number of the old volume whose content goes in; −1 for none
   * @param tableSector sector of its extended table; 0 for a primary volume
   * @param loader the file that its code starts; "" where no code for one comes with it
   * @param unit what its allocation unit is called, "cluster"
   * @param sectorBytes bytes of a logical sector of its filesystem
   * @param slack for each cluster size what the surveyed files would waste
   * @param usedBytes bytes of the files that go in
   * @param files the drives that it carries as files
   */
  public record PlannedVolume(
      String letter,
      String label,
      int source,
      long start,
      long length,
      long tableSector,
      boolean logical,
      boolean active,
      String loader,
      String type,
      String typeName,
      String kind,
      int clusterBytes,
      String unit,
      int sectorBytes,
      long clusters,
      long usedBytes,
      Sum layout,
      List<Slack> slack,
      List<CarriedFile> files) {
    public long end() {
      return start + length;
    }
  }

  /**
   * A drive as a file of a carrier.
   *
   * @param name rendered from the emulator's template
   * @param id under which the machine sees it; −1 for a text of the emulator's own
   * @param text what that text says; "" for a drive
   */
  public record CarriedFile(
      String name, int id, String title, String sha256, long bytes, String text) {
    public boolean drive() {
      return text.isEmpty();
    }
  }

  /**
   * What the surveyed files waste at one cluster size (F-3).
   *
   * @param largestSectors the largest volume with this cluster
   */
  public record Slack(
      int clusterBytes, long wasteBytes, long largestSectors, boolean chosen, Sum because) {}

  /** A strategy with what it keeps and loses here. */
  public record StrategyView(
      PlanRequest.Strategy key,
      String title,
      boolean possible,
      List<String> keeps,
      List<String> loses) {}

  /** Another firmware of this machine and what it would reach. */
  public record Lift(String what, long reach) {}

  /** How a rule stands. */
  public enum Weight {
    STOPS,
    WARNS,
    HOLDS
  }

  /** One rule's verdict in words, with its sum. */
  public record Verdict(Weight weight, String rule, String text, Sum because) {
    static Verdict stops(String rule, String text, Sum because) {
      return new Verdict(Weight.STOPS, rule, text, because);
    }

    static Verdict warns(String rule, String text, Sum because) {
      return new Verdict(Weight.WARNS, rule, text, because);
    }

    static Verdict holds(String rule, String text, Sum because) {
      return new Verdict(Weight.HOLDS, rule, text, because);
    }
  }
}
