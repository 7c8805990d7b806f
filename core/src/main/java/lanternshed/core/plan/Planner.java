package lanternshed.core.plan;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.boot.Start;
import lanternshed.core.machine.Card;
import lanternshed.core.machine.Generation;
import lanternshed.core.machine.Peg;
import lanternshed.core.machine.Pegs;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.measure.Sum;
import lanternshed.core.plan.Plan.PlannedVolume;
import lanternshed.core.plan.Plan.Weight;
import lanternshed.core.plan.PlanRequest.School;
import lanternshed.core.plan.PlanRequest.Strategy;
import lanternshed.core.survey.Letters;
import lanternshed.core.survey.Survey;
import lanternshed.core.table.mbr.Mbr;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.VolumeException;
import lanternshed.core.volume.fat.FatFormat;
import lanternshed.core.volume.fat.FatKind;
import lanternshed.core.volume.fat.FatLayout;

/**
 * Lays out the volumes of a new image from machine, survey and card. A pure function of its inputs:
 * the same request gives the same plan, in well under the time of a pointer's movement.
 */
public final class Planner {
  /** Flash is erased in blocks; starts at multiples of 4 MiB spare it work (G-16). */
  static final long FLASH_STEP = 8192;

  /** Both schools hold with one start where that costs no more than 8 MiB. */
  private static final long COMMON_MOST = 2 * FLASH_STEP;

  /** Volumes below this are not worth a letter. */
  private static final long LEAST_REST = 16 * Say.MIB / 512;

  private static final long[] THRESHOLDS_MIB = {16, 128, 256, 512, 1024};

  private final Profile profile;
  private final Profile.Firmware firmware;
  private final Generation system;
  private final PlanRequest request;
  private final Survey survey;
  private final Card card;
  private final Pegs pegs;
  private final List<Plan.Verdict> verdicts = new ArrayList<>();

  private Planner(Profile profile, PlanRequest request, Survey survey) {
    this.profile = profile;
    this.request = request;
    this.survey = survey;
    Setup setup = Setup.of(profile, request.firmware(), request.system());
    this.firmware = setup.firmware();
    this.system = setup.system();
    List<Card> cards = new ArrayList<>(request.drawer());
    cards.add(request.card());
    this.card = Card.smallest(cards);
    if (card.planSectors() < 2048) {
      throw new ShedException("The card " + card.name() + " has less than 1 MiB to plan with.");
    }
    this.pegs = setup.pegs(card);
  }

  public static Plan plan(Profile profile, PlanRequest request, Survey survey) {
    return new Planner(profile, request, survey).run();
  }

  private Plan run() {
    Geometry geometry = request.strategy() == Strategy.CLONE ? oldGeometry() : pegs.geometry();
    List<PlannedVolume> volumes =
        request.strategy() == Strategy.CLONE ? cloned() : laidOut(geometry);
    long end = volumes.stream().mapToLong(PlannedVolume::end).max().orElse(0);
    long image =
        request.strategy() == Strategy.CLONE ? survey.sectors() : upToCylinder(end, geometry);
    if (volumes.isEmpty()) {
      stops("P-2", "There is no volume to lay out.", Sum.of("P-2", "Volumes").done());
    }
    checkReach(volumes);
    checkCard(image);
    checkContents(volumes);
    checkSource();
    List<Plan.StrategyView> strategies = strategies();
    checkStrategy(strategies);
    checkBoot(volumes);
    verdicts.sort(Comparator.comparing(Plan.Verdict::weight));
    boolean buildable = verdicts.stream().noneMatch(v -> v.weight() == Weight.STOPS);
    return new Plan(
        profile.key(),
        firmware.key(),
        system.key(),
        card,
        pegs.pegs(),
        pegs.binding(),
        pegs.reach(),
        pegs.outOfReach(card),
        reachSum(),
        outOfReachSum(),
        geometry,
        image,
        request.strategy(),
        request.school(),
        request.keepBootCode(),
        volumes,
        start(volumes),
        strategies,
        lifts(),
        List.copyOf(verdicts),
        steps(geometry),
        buildable);
  }

  // ---- layout -----------------------------------------------------------------------------------

  private List<PlannedVolume> laidOut(Geometry g) {
    List<PlanRequest.Wish> wishes = request.volumes().isEmpty() ? proposal(g) : request.volumes();
    List<PlannedVolume> out = new ArrayList<>();
    long from = 0;
    boolean activeGiven = false;
    for (int i = 0; i < wishes.size(); i++) {
      PlanRequest.Wish w = wishes.get(i);
      boolean logical = i > 0;
      if (logical && !system.extendedContainer()) {
        stops(
            "F-4",
            system.title()
                + " gives a letter to one volume of a drive only; "
                + w.label()
                + " would not be seen.",
            Sum.of("F-4", "Volumes of " + system.title())
                .line("", "volumes wanted", wishes.size())
                .line(">", "volumes with a letter", 1)
                .because("Extended containers came with DOS 3.3.")
                .lift("DOS 3.3 or later")
                .done());
      }
      long table = logical ? upToCylinder(from, g) : 0;
      long start = start(table, g);
      long end = snap(start, w, g);
      if (end - start < 64) {
        stops(
            "P-2",
            "Nothing is left for "
                + w.label()
                + ": it would start at "
                + Say.sectors(start)
                + ", and the machine reaches "
                + Say.sectors(pegs.reach())
                + ".",
            reachSum());
        break;
      }
      boolean active = !activeGiven && !logical;
      activeGiven |= active;
      PlannedVolume v = volume(w, i, start, end - start, table, logical, active, g);
      if (v == null) break;
      out.add(v);
      from = end;
    }
    startVerdict(out, g);
    long left = pegs.reach() - from;
    if (left > LEAST_REST && !out.isEmpty()) {
      warns(
          "P-2",
          Say.mib(left * 512) + " within reach stay without a volume.",
          Sum.of("P-2", "Left without a volume")
              .sectors("", "reach", pegs.reach())
              .sectors("−", "end of the last volume", from)
              .sectors("=", "left", left)
              .because("No volume was asked for there.")
              .done());
    }
    return out;
  }

  /**
   * One volume for each old one at the size whose clusters waste least, and the rest as a spare
   * one.
   */
  private List<PlanRequest.Wish> proposal(Geometry g) {
    List<PlanRequest.Wish> out = new ArrayList<>();
    List<Survey.Found> sources = survey.volumes().stream().filter(Survey.Found::readable).toList();
    long at = 0;
    for (Survey.Found f : sources) {
      long needed = Math.max(f.length(), f.bytes() / 512 * 5 / 4);
      long end = at + thresholdAbove(needed) + g.sectors();
      boolean grows = request.strategy() == Strategy.GROW && sources.size() == 1;
      String label = f.label().isEmpty() ? "OLD" + f.number() : f.label();
      int cluster = request.strategy() == Strategy.GROW ? (int) f.use().clusterBytes() : 0;
      out.add(new PlanRequest.Wish(label, grows ? 0 : end, cluster, f.number()));
      at = end;
      if (grows) return out;
    }
    boolean room = pegs.reach() - at > LEAST_REST && system.extendedContainer();
    if (sources.isEmpty()) out.add(new PlanRequest.Wish("SYSTEM", 0, 0, -1));
    else if (room) out.add(new PlanRequest.Wish("ARCHIVE", 0, 0, -1));
    return out;
  }

  private long thresholdAbove(long sectors) {
    for (long mib : THRESHOLDS_MIB) {
      if (mib * 2048 >= sectors && mib * 2048 <= system.volumeSectors()) return mib * 2048;
    }
    return Math.min(sectors, system.volumeSectors());
  }

  /** The first sector of a volume after {@code table}: the sector of its extended table, or 0. */
  private long start(long table, Geometry g) {
    long common = lcm(g.sectors(), FLASH_STEP);
    if (request.school() == School.FLASH || common <= COMMON_MOST) {
      long step = common <= COMMON_MOST ? common : FLASH_STEP;
      return (table + step) / step * step;
    }
    return table + g.sectors();
  }

  private void startVerdict(List<PlannedVolume> volumes, Geometry g) {
    if (volumes.isEmpty()) return;
    long start = volumes.get(0).start();
    boolean head = start % g.sectors() == 0;
    boolean flash = start % FLASH_STEP == 0;
    Sum sum =
        Sum.of("G-16", "Where the first volume starts")
            .sectors("", "start", start)
            .line("÷", "sectors a track", g.sectors())
            .line("", "left over", start % g.sectors())
            .line("÷", "sectors of 4 MiB", FLASH_STEP)
            .line("", "left over", start % FLASH_STEP)
            .because(
                "Two schools: systems up to the mid-1990s expect a start at a head boundary; flash is"
                    + " erased in blocks and likes starts at multiples of 4 MiB.")
            .done();
    if (head && flash) holds("G-16", "Starts satisfy both schools.", sum);
    else if (head) {
      holds(
          "G-16",
          "Starts at a head boundary, as the machine expects; not at a multiple of 4 MiB.",
          sum);
    } else {
      warns(
          "G-16",
          "Starts at a multiple of 4 MiB, not at a head boundary: a partitioning tool of the time may"
              + " complain.",
          sum);
    }
  }

  /** The end of a volume: on a cylinder, at a cluster threshold when near one, within every peg. */
  private long snap(long start, PlanRequest.Wish w, Geometry g) {
    long most = Math.min(pegs.reach(), start + mostLength(w));
    long wanted = w.end() == 0 ? most : Math.min(w.end(), most);
    for (long mib : THRESHOLDS_MIB) {
      long edge = start + mib * 2048;
      if (w.end() != 0 && Math.abs(wanted - edge) <= mib * 2048 / 50) {
        wanted = downToCylinder(edge, g);
      }
    }
    long nearest = downToCylinder(wanted + g.perCylinder() / 2, g);
    if (nearest > most) nearest = downToCylinder(most, g);
    return Math.max(nearest, upToCylinder(start + 64, g) <= most ? upToCylinder(start + 64, g) : 0);
  }

  /** The longest volume that the system mounts, or that a kept cluster size can fill. */
  private long mostLength(PlanRequest.Wish w) {
    FatKind kind = system.kind(Long.MAX_VALUE);
    if (request.strategy() == Strategy.GROW) {
      kind =
          source(w.source())
              .filter(f -> f.kind().startsWith("FAT"))
              .map(f -> FatKind.valueOf(f.kind()))
              .orElse(kind);
    }
    return Math.min(system.volumeSectors(), FatFormat.mostSectors(kind, w.clusterBytes()));
  }

  private PlannedVolume volume(
      PlanRequest.Wish w,
      int index,
      long start,
      long length,
      long table,
      boolean logical,
      boolean active,
      Geometry g) {
    FatKind kind = system.kind(length);
    Optional<Survey.Found> source = source(w.source());
    int cluster = w.clusterBytes();
    if (request.strategy() == Strategy.GROW && source.isPresent()) {
      cluster = (int) source.get().use().clusterBytes();
      kind = source.get().kind().startsWith("FAT") ? FatKind.valueOf(source.get().kind()) : kind;
    }
    FatLayout l;
    try {
      l =
          FatFormat.layout(
              new Maker.Wish(
                  Optional.of(kind.name()), length, start, cluster, 0, g, w.label(), 0, true, 0));
    } catch (VolumeException e) {
      stops(
          "F-2",
          e.getMessage(),
          Sum.of("F-2", "Volume " + w.label()).because(e.getMessage()).done());
      return null;
    }
    boolean past = start + length > 1024L * g.perCylinder();
    int type = system.type(l.kind(), length, past && firmware.extendedCalls());
    long[] sizes = source.map(Survey.Found::sizes).orElse(new long[0]);
    long folders = source.map(Survey.Found::folders).orElse(0L);
    return new PlannedVolume(
        String.valueOf((char) ('C' + index)),
        FatFormat.label(w.label()),
        source.map(Survey.Found::number).orElse(-1),
        start,
        length,
        table,
        logical,
        active,
        type,
        Mbr.typeName(type),
        l.kind().name(),
        l.clusterBytes(),
        l.clusters(),
        source.map(Survey.Found::bytes).orElse(0L),
        FatFormat.sum(l),
        Slacks.of(sizes, folders, l.kind(), l.clusterBytes()));
  }

  private List<PlannedVolume> cloned() {
    List<PlannedVolume> out = new ArrayList<>();
    Map<Integer, String> letters = Letters.of(survey);
    for (Survey.Found f : survey.volumes()) {
      out.add(
          new PlannedVolume(
              letters.getOrDefault(f.number(), "–"),
              f.label().isEmpty() ? f.kind() : f.label(),
              f.number(),
              f.start(),
              f.length(),
              0,
              f.number() > 4,
              f.active(),
              0,
              "as it was",
              f.kind(),
              (int) f.use().clusterBytes(),
              (int) f.use().clusters(),
              f.bytes(),
              Sum.of("F-1", "As on the old drive")
                  .sectors("", "start", f.start())
                  .sectors("+", "length", f.length())
                  .sectors("=", "end", f.start() + f.length())
                  .because("A clone keeps every sector where it was.")
                  .done(),
              List.of()));
    }
    return out;
  }

  private Geometry oldGeometry() {
    return survey
        .agreedGeometry()
        .map(
            s ->
                new Geometry(
                    (int)
                        Math.max(
                            1, Math.min(1024, survey.sectors() / ((long) s.heads() * s.sectors()))),
                    s.heads(),
                    s.sectors()))
        .orElse(pegs.geometry());
  }

  private Optional<Survey.Found> source(int number) {
    return survey.volumes().stream().filter(f -> f.number() == number && f.readable()).findFirst();
  }

  // ---- verdicts ---------------------------------------------------------------------------------

  private void checkReach(List<PlannedVolume> volumes) {
    for (PlannedVolume v : volumes) {
      Sum end =
          Sum.of(pegs.binding().rule(), "End of " + v.letter() + " " + v.label())
              .sectors("", "start", v.start())
              .sectors("+", "length", v.length())
              .sectors("=", "end", v.end())
              .sectors(v.end() <= pegs.reach() ? "≤" : ">", "reach", pegs.reach())
              .because(pegs.binding().because().reason())
              .done();
      if (v.end() > pegs.reach()) {
        stops(
            pegs.binding().rule(),
            "Stops here: the machine reaches "
                + Say.mib(pegs.reach() * 512)
                + "; "
                + v.letter()
                + " "
                + v.label()
                + " ends at "
                + Say.mib(v.end() * 512)
                + ".",
            end);
      }
      for (Peg p : pegs.pegs()) {
        if (p.scope() == Peg.Scope.VOLUME && v.length() > p.sectors()) {
          stops(
              p.rule(),
              v.letter()
                  + " "
                  + v.label()
                  + " has "
                  + Say.mib(v.length() * 512)
                  + "; "
                  + p.name()
                  + " ends at "
                  + Say.mib(p.sectors() * 512)
                  + ".",
              p.because());
        }
      }
    }
    boolean fits = verdicts.stream().noneMatch(v -> v.weight() == Weight.STOPS);
    if (fits && !volumes.isEmpty()) {
      holds(
          pegs.binding().rule(),
          "Every volume ends within reach, " + Say.mib(pegs.reach() * 512) + ".",
          reachSum());
      holds(
          "P-7",
          "Letters as "
              + system.title()
              + " gives them: "
              + String.join(", ", volumes.stream().map(v -> v.letter() + " " + v.label()).toList())
              + ".",
          Sum.of("P-7", "Drive letters")
              .because(
                  "First the primary volume of each drive, then the volumes of the extended"
                      + " container, in their order.")
              .done());
    }
  }

  private void checkCard(long image) {
    Sum sum =
        Sum.of("W-4", "Image against card")
            .sectors("", "image", image)
            .sectors(
                image <= card.planSectors() ? "≤" : ">", "card " + card.name(), card.planSectors())
            .sectors("=", "difference", card.planSectors() - image)
            .because("The card must hold the whole image, to the sector.")
            .done();
    if (image > card.planSectors()) {
      stops(
          "W-4",
          "The image has "
              + Say.sectors(image)
              + ", the card "
              + card.name()
              + " has "
              + Say.count(card.planSectors())
              + ": "
              + Say.sectors(image - card.planSectors())
              + " too few.",
          sum);
      return;
    }
    int n = request.drawer().size() + 1;
    holds(
        "G-18",
        n == 1
            ? "Fits the card, with " + Say.sectors(card.planSectors() - image) + " to spare."
            : "Fits all " + n + " cards of the drawer.",
        sum);
  }

  private void checkContents(List<PlannedVolume> volumes) {
    if (request.strategy() == Strategy.CLONE) return;
    for (PlannedVolume v : volumes) {
      Optional<Survey.Found> f = source(v.source());
      if (f.isEmpty()) continue;
      long needed = 0;
      for (long s : f.get().sizes()) needed += (s + v.clusterBytes() - 1) / v.clusterBytes();
      needed += f.get().folders();
      Sum sum =
          Sum.of("F-3", "Files of volume " + v.source() + " on " + v.letter())
              .line("", "clusters of its files and folders", needed)
              .line(needed <= v.clusters() ? "≤" : ">", "clusters there", v.clusters())
              .because("Each file takes whole clusters of " + Say.size(v.clusterBytes()) + ".")
              .done();
      if (needed > v.clusters()) {
        stops(
            "F-3",
            "The files of "
                + v.label()
                + " need "
                + Say.count(needed)
                + " clusters, the volume has "
                + Say.count(v.clusters())
                + ": make it larger.",
            sum);
      } else {
        holds(
            "F-3",
            "All " + Say.plural(f.get().files(), "file", "files") + " of " + v.label() + " fit.",
            sum);
      }
    }
    for (Survey.Found f : survey.volumes()) {
      boolean placed = volumes.stream().anyMatch(v -> v.source() == f.number());
      if (f.readable() && f.files() > 0 && !placed) {
        warns(
            "F-3",
            "The "
                + Say.plural(f.files(), "file", "files")
                + " of old volume "
                + f.number()
                + " go nowhere in this plan.",
            Sum.of("F-3", "Old volume " + f.number()).line("", "files", f.files()).done());
      }
    }
  }

  private void checkSource() {
    if (request.strategy() == Strategy.REBUILD) return;
    List<Finding> faults =
        survey.allFindings().stream().filter(f -> f.weight() != Finding.Weight.NOTE).toList();
    if (!faults.isEmpty()) {
      warns(
          "F-9",
          Say.plural(faults.size(), "fault", "faults")
              + " of the old drive would come along, first: "
              + faults.get(0).what(),
          faults.get(0).because());
    }
    boolean same =
        survey
            .agreedGeometry()
            .filter(
                s ->
                    s.heads() == pegs.geometry().heads()
                        && s.sectors() == pegs.geometry().sectors())
            .isPresent();
    if (request.strategy() == Strategy.CLONE && !same) {
      warns(
          "G-15",
          "The old geometry is not the one this firmware computes for the card: "
              + (firmware.userType() > 0
                  ? "type the old one into the setup, or the clone will not start."
                  : "a clone whose code computes C/H/S will not start, and this setup has no type of"
                      + " your own."),
          Sum.of("G-15", "Old and new geometry")
              .line("", "heads of the card", pegs.geometry().heads())
              .line("", "sectors of the card", pegs.geometry().sectors())
              .note(
                  "old",
                  survey
                      .agreedGeometry()
                      .map(s -> s.heads() + " heads, " + s.sectors() + " sectors")
                      .orElse("its sources disagree"))
              .because("Boot code computes C/H/S; under another geometry it reads other sectors.")
              .lift("rebuild, which writes the geometry anew")
              .done());
    }
  }

  /** What is not possible stops here, not in the build. */
  private void checkStrategy(List<Plan.StrategyView> strategies) {
    for (Plan.StrategyView v : strategies) {
      if (v.key() != request.strategy() || v.possible()) continue;
      String why = v.loses().isEmpty() ? "" : " " + v.loses().get(0);
      stops(
          "W-9",
          v.title() + " is not possible here." + why,
          Sum.of("W-9", v.title()).because("What is promised must be kept: " + why.strip()).done());
    }
  }

  /** B-9: whose boot code meets the contract of the system that is to start. */
  private void checkBoot(List<PlannedVolume> volumes) {
    if (request.strategy() == Strategy.CLONE) return;
    for (PlannedVolume v : volumes) {
      Optional<Survey.Found> f = source(v.source());
      if (!v.active() || f.isEmpty() || f.get().systemFiles().isEmpty()) continue;
      if (request.keepBootCode() && !f.get().kind().equals(v.kind())) {
        stops(
            "B-9",
            "The old boot code is "
                + f.get().kind()
                + "'s; "
                + v.letter()
                + " becomes "
                + v.kind()
                + ", and it would read the wrong places.",
            Sum.of("B-9", "Boot code of " + v.letter())
                .note("old volume", f.get().kind())
                .note("new volume", v.kind())
                .because("Boot code computes where the root lies from the fields of its own kind.")
                .lift("clone, or grow, which keep the kind")
                .done());
      } else if (!request.keepBootCode()
          && (!system.startedByOwnCode() || v.kind().equals("FAT32"))) {
        warns(
            "B-9",
            "This program's own boot code does not start "
                + system.title()
                + "; keep the old drive's, or make it start on the machine.",
            Sum.of("B-9", "Contract of " + system.title())
                .because(
                    "Own code loads the first file of the root to 0070:0000, the contract of DOS up to"
                        + " 6. Later systems load another file, to another place.")
                .lift("keep the old boot code")
                .done());
      }
    }
  }

  /** With which loader the active volume is meant to start. */
  private Start start(List<PlannedVolume> volumes) {
    return volumes.stream()
        .filter(PlannedVolume::active)
        .flatMap(v -> source(v.source()).stream())
        .flatMap(f -> f.systemFiles().stream())
        .findFirst()
        .map(Start::meant)
        .orElse(Start.meant(""));
  }

  private List<Plan.StrategyView> strategies() {
    long faults =
        survey.allFindings().stream().filter(f -> f.weight() != Finding.Weight.NOTE).count();
    long unreadable = survey.volumes().stream().filter(f -> !f.readable()).count();
    boolean clone = survey.sectors() <= card.planSectors();
    List<String> cloneLoses = new ArrayList<>();
    if (!clone) {
      cloneLoses.add(
          "Not possible here: the old drive has "
              + Say.sectors(survey.sectors() - card.planSectors())
              + " more than the card.");
    }
    if (pegs.reach() > survey.sectors()) {
      cloneLoses.add(
          Say.mib((pegs.reach() - survey.sectors()) * 512) + " of the reach stay unused.");
    }
    if (faults > 0) cloneLoses.add("Its " + Say.plural(faults, "fault stays", "faults stay") + ".");
    List<String> growLoses = new ArrayList<>();
    growLoses.add("The cluster size stays, so the largest volume is bounded by it.");
    if (faults > 0) growLoses.add("Its " + Say.plural(faults, "fault stays", "faults stay") + ".");
    List<String> rebuildLoses = new ArrayList<>();
    rebuildLoses.add("Deleted files and what lies outside the volumes.");
    rebuildLoses.add("The old boot code, unless you keep it.");
    boolean grow =
        unreadable == 0
            && survey.volumes().stream().allMatch(f -> f.kind().startsWith("FAT"))
            && survey.table().map(t -> t.scheme().equals("MBR")).orElse(true);
    if (!grow) {
      growLoses.add(0, "Only FAT volumes in a PC's table are grown.");
    }
    if (unreadable > 0) {
      rebuildLoses.add(
          Say.plural(unreadable, "volume", "volumes") + " that cannot be read as files.");
    }
    return List.of(
        new Plan.StrategyView(
            Strategy.CLONE,
            Strategy.CLONE.title(),
            clone,
            List.of("Every sector as it was, deleted files too."),
            cloneLoses),
        new Plan.StrategyView(
            Strategy.GROW,
            Strategy.GROW.title(),
            grow && !survey.volumes().isEmpty(),
            List.of("Every cluster, deleted files too; geometry and start are written anew."),
            growLoses),
        new Plan.StrategyView(
            Strategy.REBUILD,
            Strategy.REBUILD.title(),
            true,
            List.of("Every file with its time and attributes, on a volume that checks clean."),
            rebuildLoses));
  }

  private List<Plan.Lift> lifts() {
    return profile.firmwares().stream()
        .filter(f -> !f.key().equals(firmware.key()))
        .map(f -> new Plan.Lift(f.name(), new Setup(profile, f, system).pegs(card).reach()))
        .filter(l -> l.reach() > pegs.reach())
        .toList();
  }

  private List<Plan.MachineStep> steps(Geometry g) {
    List<Plan.MachineStep> out = new ArrayList<>();
    String values = Say.count(g.cylinders()) + " · " + g.heads() + " · " + g.sectors();
    if (firmware.userType() > 0) {
      out.add(
          new Plan.MachineStep(
              "In the firmware's setup choose type "
                  + firmware.userType()
                  + " and type cylinders, heads, sectors",
              values));
    } else if (pegs.typeRow().isPresent()) {
      out.add(
          new Plan.MachineStep(
              "In the firmware's setup choose the drive type", "" + pegs.typeRow().get().number()));
    } else if (!firmware.obtain().isEmpty()) {
      out.add(new Plan.MachineStep(firmware.obtain(), ""));
    } else {
      out.add(
          new Plan.MachineStep(
              "Let the firmware ask the card ("
                  + firmware.translation().title()
                  + "); it should then show",
              values));
    }
    return out;
  }

  private Sum reachSum() {
    Sum b = pegs.binding().because();
    if (pegs.reach() == pegs.binding().sectors()) return b;
    Geometry g = pegs.geometry();
    return Sum.of(b.rule(), "Whole cylinders within reach")
        .sectors("", pegs.binding().name(), pegs.binding().sectors())
        .line("÷", "sectors of a cylinder", g.perCylinder())
        .line("=", "whole cylinders", g.cylinders())
        .line("×", "sectors of a cylinder", g.perCylinder())
        .sectorsAsSize(pegs.reach())
        .because(b.reason() + " By C/H/S only whole cylinders are seen.")
        .done();
  }

  private Sum outOfReachSum() {
    return Sum.of(pegs.binding().rule(), "Out of reach")
        .sectors("", "card " + card.name(), card.planSectors())
        .sectors("−", "reach", pegs.reach())
        .sectorsAsSize(pegs.outOfReach(card))
        .because("The lowest peg binds; what lies below it the machine cannot address.")
        .done();
  }

  private void stops(String rule, String text, Sum sum) {
    verdicts.add(new Plan.Verdict(Weight.STOPS, rule, text, sum));
  }

  private void warns(String rule, String text, Sum sum) {
    verdicts.add(new Plan.Verdict(Weight.WARNS, rule, text, sum));
  }

  private void holds(String rule, String text, Sum sum) {
    verdicts.add(new Plan.Verdict(Weight.HOLDS, rule, text, sum));
  }

  private static long upToCylinder(long sector, Geometry g) {
    return (sector + g.perCylinder() - 1) / g.perCylinder() * g.perCylinder();
  }

  private static long downToCylinder(long sector, Geometry g) {
    return sector / g.perCylinder() * g.perCylinder();
  }

  private static long lcm(long a, long b) {
    long x = a;
    long y = b;
    while (y != 0) {
      long r = x % y;
      x = y;
      y = r;
    }
    return a / x * b;
  }
}
