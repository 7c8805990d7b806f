package lanternshed.core.machine;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;
import lanternshed.core.measure.Band;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;

/**
 * A family of machines as data. Profiles ship as JSON files and people add their own; nothing in
 * the program asks for a key by name. The form is published as {@code /machines/schema.json}.
 *
 * @param matters what matters about it, in one line
 * @param family what lays out its cards, "pc" or "carrier"; "" where nothing does
 * @param carrier the files that its emulator reads from a card; null where it reads none
 * @param formats on-disk formats it lives with, by their published names
 * @param firmwares the firmware variants of a PC, the first is the usual one; empty elsewhere
 * @param systems keys of {@link Generation}, the first is the usual one; empty elsewhere
 * @param limits its own ceilings beside those of firmware and system
 * @param prerequisites what must be there before it can use a card at all (H-10, H-11)
 * @param bootChain the links from power-on to its own program
 * @param inspection points to look at before power
 * @param fasteners what holds it together
 * @param parts parts in play when a fault is sought
 * @param operations what can be asked of it in a test
 * @param opening how its case is opened, and closed again (H-19)
 * @param fit what is done by hand at the machine when the card goes in
 * @param prove what its screen should show afterwards
 * @param nameRule what names its files may have
 * @param machineSteps what is typed on the machine itself
 * @param processor the class of its processor, for code that it starts; "" for an 80386
 * @param span the board on which several cards are one drive; null where a card is one
 * @param menu what its menu of a card's files shows and starts (T-8, T-10); null where it has none
 */
public record Profile(
    String key,
    String name,
    String matters,
    String family,
    Carrier carrier,
    List<String> buses,
    List<String> connectors,
    List<Slot> slots,
    List<Rail> rails,
    List<String> formats,
    List<Firmware> firmwares,
    List<String> systems,
    List<Limit> limits,
    List<Prerequisite> prerequisites,
    List<ChainLink> bootChain,
    List<Step> inspection,
    List<Fastener> fasteners,
    List<PartPlace> parts,
    List<String> operations,
    List<Opening> opening,
    List<Step> fit,
    List<Step> prove,
    String nameRule,
    List<TypedStep> machineSteps,
    String processor,
    @JsonInclude(JsonInclude.Include.NON_NULL) Span span,
    @JsonInclude(JsonInclude.Include.NON_NULL) Menu menu) {

  /** The family of profiles that name firmware and systems and no family. */
  private static final String PC = "pc";

  /**
   * One firmware variant.
   *
   * @param pegs rule ids of its ceilings
   * @param extendedCalls whether its disk calls take an LBA
   * @param userType number of the type whose values are typed by hand; 0 where there is none
   * @param typeTable rows of fixed types; empty where the drive is asked
   * @param obtain what has to be done to have this variant; "" for the usual one
   * @param mounts published kinds of volume that it mounts without a driver from the table; empty
   *     where the system decides
   * @param optionRom whether a ROM beside it does the disk calls (O-6)
   */
  public record Firmware(
      String key,
      String name,
      Translation translation,
      List<String> pegs,
      boolean extendedCalls,
      int userType,
      List<TypeRow> typeTable,
      String obtain,
      List<String> mounts,
      @JsonInclude(JsonInclude.Include.NON_DEFAULT) boolean optionRom) {
    public Firmware {
      mounts = list(mounts);
    }
  }

  /** One row of a fixed table of drive types. */
  public record TypeRow(int number, int cylinders, int heads, int sectors) {
    public Geometry geometry() {
      return new Geometry(cylinders, heads, sectors);
    }

    public long total() {
      return geometry().total();
    }
  }

  /**
   * Files on a card, each a drive of its own.
   *
   * @param template the name of a file; {@code {id}} is the drive's id, {@code {block}} the bytes
   *     of its blocks, {@code {number}} its place counted in three digits
   * @param blocks sizes of a block in bytes, the first is the usual one; a file's length is a
   *     multiple
   * @param ids ids that a drive may have, the first is the usual one
   * @param contiguous whether a file must lie in one piece
   * @param partition most blocks of a partition that the machine's own tool makes in a drive; 0
   *     where it makes none (P-33)
   * @param step that tool rounds a typed number of blocks down to a multiple of it (P-33a)
   * @param slotList name of the text file that says which disk has which number; "" for none
   * @param lengths of the disks that the machine's drive takes, in bytes; empty for any
   */
  public record Carrier(
      String template,
      List<Integer> blocks,
      List<Integer> ids,
      boolean contiguous,
      int partition,
      int step,
      String slotList,
      @JsonInclude(JsonInclude.Include.NON_EMPTY) List<Long> lengths) {
    public Carrier {
      lengths = list(lengths);
      blocks = list(blocks);
      ids = list(ids);
      slotList = slotList == null ? "" : slotList;
    }

    /** Whether it counts disks; else its drives have ids of a bus. */
    public boolean numbered() {
      return template.contains("{number}");
    }

    /** The name of the file of a drive. */
    public String name(int id, int block, int number) {
      return template
          .replace("{id}", "" + id)
          .replace("{block}", "" + block)
          .replace("{number}", String.format(Locale.ROOT, "%03d", number));
    }
  }

  /**
   * A bay or slot.
   *
   * @param thickness in tenths of a millimetre; 0 where it does not matter (H-2, H-3)
   */
  public record Slot(String name, int thickness, String note) {}

  /** A supply rail (D-5). */
  public record Rail(String name, int millivolts, int percent) {}

  /**
   * A ceiling of this family.
   *
   * @param sectors of 512 bytes that pass
   */
  public record Limit(
      String rule, String title, long sectors, Peg.Scope scope, String reason, String lift) {}

  /**
   * What must be there (H-10, H-11).
   *
   * @param need its number, where it has one (H-17); else null
   */
  public record Prerequisite(
      String text, String rule, @JsonInclude(JsonInclude.Include.NON_NULL) Need need) {}

  /**
   * A number that the machine must reach (H-17); several of one name: the highest counts.
   *
   * @param of what is counted, "memory"
   * @param atLeast without which it does not work
   * @param recommended with which it works well; 0 where that is the same
   * @param unit "KiB"; "" for a version
   * @param buy what to get where it is missing
   * @param only keys of firmware variants and systems for which it counts; empty for all
   */
  public record Need(
      String of, double atLeast, double recommended, String unit, String buy, List<String> only) {
    public Need {
      only = list(only);
    }

    /** A number as it is said. */
    public String say(double number) {
      String plain =
          number == Math.rint(number) && !unit.isEmpty() ? Say.count((long) number) : "" + number;
      return unit.isEmpty() ? plain : plain + " " + unit;
    }
  }

  /**
   * One link of the boot chain.
   *
   * @param needs what it needs to stay in place; "" for nothing
   * @param next keys of the links it hands over to
   */
  public record ChainLink(String key, String text, String needs, List<String> next) {}

  /**
   * A board whose cards are one drive together (V-5).
   *
   * @param slots filled from the first upward
   * @param ownSectors that the machine takes for itself
   */
  public record Span(int slots, long ownSectors) {}

  /**
   * What shows the files of a card on the machine, and starts them (T-5, T-8, T-10).
   *
   * @param lines entries that it shows a page; 0 where it is not known
   * @param order in which it shows them; "" where it is not known
   * @param folders whether it opens folders
   * @param keepsFolder whether the open folder is kept over power
   * @param savesTo where a program that is saved goes; "" where none can be
   * @param startFiles without which it does not come up
   * @param loads what it does with files of a kind, the first that fits
   */
  public record Menu(
      int lines,
      String order,
      boolean folders,
      boolean keepsFolder,
      String savesTo,
      List<StartFile> startFiles,
      List<Loads> loads) {
    public Menu {
      order = or(order);
      savesTo = or(savesTo);
      startFiles = list(startFiles);
      loads = list(loads);
    }
  }

  /** A file that must lie under that path for the menu to come up. */
  public record StartFile(String path, String what) {}

  /** How a loader takes a file. */
  public enum Starts {
    AT_ONCE,
    SLOWLY,
    NOT
  }

  /**
   * What a menu does with files of a kind.
   *
   * @param kind key of the kind, "TAPE_IMAGE"
   * @param endings that it asks for; empty where it takes any
   * @param how it is done, or why not
   */
  public record Loads(String kind, List<String> endings, Starts starts, String how) {
    public Loads {
      endings = list(endings);
      how = or(how);
    }
  }

  /** What holds a part. */
  public record Fastener(String where, String kind, String length, int count) {}

  /** A part of the machine as the fault board starts with it; the kind is the board's. */
  public record PartPlace(String name, String kind, String group) {}

  /** What is typed on the machine itself, and what its screen should answer. */
  public record TypedStep(String does, String types, String answers) {}

  /** The same machine with one ceiling more. */
  public Profile with(Limit limit) {
    List<Limit> more = Stream.concat(limits.stream(), Stream.of(limit)).toList();
    return new Profile(
        key,
        name,
        matters,
        family,
        carrier,
        buses,
        connectors,
        slots,
        rails,
        formats,
        firmwares,
        systems,
        more,
        prerequisites,
        bootChain,
        inspection,
        fasteners,
        parts,
        operations,
        opening,
        fit,
        prove,
        nameRule,
        machineSteps,
        processor,
        span,
        menu);
  }

  /**
   * A step or point of a list.
   *
   * @param look what to look for; "" where the text says it all
   * @param caution what can hurt; "" where nothing can
   * @param reading what is to be written down, "5 V rail"; "" where nothing is
   * @param band what the reading should be
   * @param choices what may be found; empty where there is nothing to choose
   * @param gate whether power waits for a good result here
   */
  public record Step(
      String text,
      String look,
      String caution,
      String reading,
      Band band,
      List<Choice> choices,
      boolean gate) {
    public Step {
      look = or(look);
      caution = or(caution);
      reading = or(reading);
      band = band == null ? Band.NONE : band;
      choices = list(choices);
    }
  }

  /**
   * A step of opening the case.
   *
   * @param variant of the case it belongs to; "" for all of them
   * @param closing what is done in its place on the way back; "" for nothing
   */
  public record Opening(String variant, String text, String look, String caution, String closing) {
    public Opening {
      variant = or(variant);
      look = or(look);
      caution = or(caution);
      closing = or(closing);
    }

    Step step() {
      return new Step(text, look, caution, "", Band.NONE, List.of(), false);
    }

    Step back() {
      return new Step(closing, "", "", "", Band.NONE, List.of(), false);
    }
  }

  /**
   * What may be found at a point.
   *
   * @param then what to do before going on; "" for nothing
   */
  public record Choice(String text, boolean good, String then) {
    public Choice {
      then = or(then);
    }
  }

  public Profile {
    family = or(family);
    if (family.isEmpty() && !list(firmwares).isEmpty()) family = PC;
    buses = list(buses);
    connectors = list(connectors);
    slots = list(slots);
    rails = list(rails);
    formats = list(formats);
    firmwares = list(firmwares);
    systems = list(systems);
    limits = list(limits);
    prerequisites = list(prerequisites);
    bootChain = list(bootChain);
    inspection = list(inspection);
    fasteners = list(fasteners);
    parts = list(parts);
    operations = list(operations);
    opening = list(opening);
    fit = list(fit);
    prove = list(prove);
    nameRule = or(nameRule);
    machineSteps = list(machineSteps);
    processor = or(processor);
  }

  public Optional<Firmware> firmware(String firmwareKey) {
    return firmwares.stream().filter(f -> f.key().equals(firmwareKey)).findFirst();
  }

  /** Whether volumes can be planned and built for it; else it carries facts and limits only. */
  public boolean planned() {
    return !firmwares.isEmpty() && !systems.isEmpty();
  }

  /**
   * Whether its menu, or its emulator, finds files on a volume of that kind: one that its systems
   * make on a card. A small disk on the card is a file there, and what is in it neither sees.
   */
  public boolean shows(String kind) {
    return (menu != null || carrier != null)
        && systems.stream()
            .flatMap(s -> Generation.of(s).stream())
            .flatMap(g -> g.kinds().stream())
            .anyMatch(k -> k.kind().equals(kind));
  }

  private static String or(String s) {
    return s == null ? "" : s;
  }

  private static <T> List<T> list(List<T> l) {
    return l == null ? List.of() : List.copyOf(l);
  }
}
