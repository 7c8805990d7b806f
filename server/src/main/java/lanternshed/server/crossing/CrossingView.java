package lanternshed.server.crossing;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.kind.Kind;
import lanternshed.core.kind.Known;
import lanternshed.core.kind.OnMachine;
import lanternshed.core.machine.CarrierNames;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.Sum;
import lanternshed.core.names.NameRule;
import lanternshed.core.names.Shelving;
import lanternshed.core.names.TextChange;
import lanternshed.core.survey.Holes;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.work.Crossing;
import lanternshed.core.work.Crossing.Crossed;
import lanternshed.core.work.Edit;
import lanternshed.core.work.Hold;
import lanternshed.core.work.Marks;
import lanternshed.core.work.SlotFile;
import lanternshed.server.shell.Json;

/**
 * A crossing as it is shown, and as it is kept once the files went over.
 *
 * @param target what the files go to, in words
 * @param image whose volume it is; 0 for new disks
 * @param disk key of the kind of new disks; "" for a volume
 * @param others volumes of the image that could take what does not fit the first
 * @param refusal why nothing can go over; "" where something can
 * @param carried whether they went
 * @param tried which of them somebody tried on the machine
 */
record CrossingView(
    long id,
    long version,
    String target,
    long image,
    int volume,
    String disk,
    List<OtherVolume> others,
    ChosenText choices,
    CrossingLaid laid,
    String refusal,
    boolean carried,
    List<TriedView> tried) {

  CrossingView {
    // It is kept beside what was carried, and goes on after it.
    if (tried == null) tried = List.of();
    // What was carried before files went over several volumes is kept without them.
    if (others == null) others = List.of();
  }

  /** Number of the volume that one of the places is, from 0; 0 for a disk of a set. */
  int on(int disk) {
    return disk == 0 ? volume : image == 0 ? 0 : choices.further().get(disk - 1);
  }

  private static final int MOST_FOLDERS = 100;
  private static final int MOST_THERE = 2000;

  /**
   * How the files would lie.
   *
   * @param pages code pages of texts
   * @param unit what the units are called
   * @param there what the volume holds, the first of {@code thereCount}; empty for new disks
   * @param over files that go, {@code look} of them with a change to look at
   * @param least no fewer disks could do, {@code leastBecause} with its sum
   * @param seal of all that would be carried: what is carried is what was seen
   * @param menus machines whose menu, or emulator, finds files of such a volume
   * @param menu of the chosen one
   */
  record CrossingLaid(
      String seal,
      List<RuleChoice> rules,
      List<String> pages,
      String unit,
      List<CrossingRow> rows,
      List<ThereRow> there,
      int thereCount,
      int over,
      int look,
      int stays,
      List<DiskView> disks,
      int least,
      Sum leastBecause,
      List<FolderView> folders,
      List<MenuChoice> menus,
      MenuView menu) {
    CrossingLaid {
      // What was carried before menus were known is kept without them.
      if (menus == null) menus = List.of();
      if (menu == null) menu = MenuView.NONE;
    }

    static final CrossingLaid NONE =
        new CrossingLaid(
            "",
            List.of(),
            List.of(),
            "",
            List.of(),
            List.of(),
            0,
            0,
            0,
            0,
            List.of(),
            0,
            leastSum(List.of(), 1, 0, ""),
            List.of(),
            List.of(),
            MenuView.NONE);

    CrossingLaid made(List<Long> images) {
      List<DiskView> now = new ArrayList<>();
      for (int d = 0; d < disks.size(); d++) now.add(disks.get(d).made(images.get(d)));
      return new CrossingLaid(
          seal,
          rules,
          pages,
          unit,
          rows,
          there,
          thereCount,
          over,
          look,
          stays,
          now,
          least,
          leastBecause,
          folders,
          menus,
          menu);
    }
  }

  /** A volume of the image, and the room that it has. */
  record OtherVolume(int number, String name, String free) {}

  /**
   * A file that was tried on the machine (T-6).
   *
   * @param path as it lies there
   * @param says what was seen
   */
  record TriedView(long id, String path, boolean started, String says, String author, Instant at) {}

  /** A machine whose menu, or emulator, finds files of a card. */
  record MenuChoice(String key, String name) {}

  /**
   * What the machine's menu, or its emulator, makes of the files (T-5, T-8, T-10, P-32).
   *
   * @param says how it shows a card, in words
   * @param starts files by how its loader takes them
   * @param numbered names by which the emulator would find those that it does not, by the paths
   *     that they have now
   * @param list name of the emulator's own list that goes along; "" for none
   * @param listFault why that list stays as it is; "" where it does not
   */
  record MenuView(
      String says,
      int lines,
      List<StartFileView> startFiles,
      List<StartsView> starts,
      Map<String, String> numbered,
      String list,
      String listFault) {
    MenuView {
      // What was carried before emulators were known is kept without them.
      if (numbered == null) numbered = Map.of();
      if (list == null) list = "";
      if (listFault == null) listFault = "";
    }

    static final MenuView NONE = new MenuView("", 0, List.of(), List.of(), Map.of(), "", "");

    static MenuView of(Profile.Menu m, List<Taken> all, Collection<String> paths) {
      List<String> says = new ArrayList<>();
      if (!m.order().isEmpty()) says.add("shows them " + m.order());
      says.add(m.folders() ? "opens folders" : "opens no folders");
      if (m.folders()) {
        says.add(m.keepsFolder() ? "keeps the open one over power" : "begins at the root again");
      }
      if (!m.savesTo().isEmpty()) says.add("saves to " + m.savesTo());
      List<Profile.StartFile> missing = OnMachine.missing(m, paths);
      List<StartFileView> files =
          m.startFiles().stream()
              .map(f -> new StartFileView(f.path(), f.what(), !missing.contains(f)))
              .toList();
      List<StartsView> starts = StartsView.of(all, StartsView.BY_MENU);
      return new MenuView(String.join(", ", says), m.lines(), files, starts, Map.of(), "", "");
    }
  }

  /**
   * @param there whether it lies on the card, or comes
   */
  record StartFileView(String path, String what, boolean there) {}

  /**
   * @param starts how the machine takes them; "" where its profile does not say
   * @param says the same in words
   * @param time that tapes among them take; "" for none
   */
  record StartsView(String starts, String says, int files, String time) {
    /** In words, how a menu takes files, and how an emulator does. */
    static final Map<Profile.Starts, String> BY_MENU =
        Map.of(
            Profile.Starts.AT_ONCE, "started from the menu",
            Profile.Starts.SLOWLY, "by a slower road",
            Profile.Starts.NOT, "not loaded");

    static final Map<Profile.Starts, String> BY_EMULATOR =
        Map.of(
            Profile.Starts.AT_ONCE, "found by its emulator",
            Profile.Starts.NOT, "not found by it");

    StartsView {
      // What was carried before it was said here was taken by a menu.
      if (says == null)
        says = starts.isEmpty() ? UNKNOWN : BY_MENU.get(Profile.Starts.valueOf(starts));
    }

    private static final String UNKNOWN = "not said by its profile";

    static List<StartsView> of(List<Taken> all, Map<Profile.Starts, String> words) {
      List<StartsView> starts = new ArrayList<>();
      for (Profile.Starts s : Profile.Starts.values()) {
        List<Taken> of = all.stream().filter(t -> t.on().starts().equals(Optional.of(s))).toList();
        long seconds = of.stream().mapToLong(t -> t.known().seconds()).sum();
        boolean tape = s == Profile.Starts.SLOWLY && seconds > 0;
        if (!of.isEmpty()) {
          String time = tape ? Say.seconds(seconds) : "";
          starts.add(new StartsView(s.name(), words.get(s), of.size(), time));
        }
      }
      int open = (int) all.stream().filter(t -> t.on().starts().isEmpty()).count();
      String unknown = words == BY_EMULATOR ? "not looked for" : UNKNOWN;
      if (open > 0) starts.add(new StartsView("", unknown, open, ""));
      return starts;
    }
  }

  /** A file that goes over, with what it is and what the machine does with it. */
  record Taken(Known known, OnMachine on) {
    static final Taken NOT_KNOWN =
        new Taken(new Known(Kind.OTHER, "", "", 0), new OnMachine(Optional.empty(), ""));
  }

  /**
   * A rule of names that can be chosen.
   *
   * @param folders whether folders can be made at will, so that a library is sorted into them
   */
  record RuleChoice(String key, String says, boolean folders) {
    static RuleChoice of(NameRule r) {
      return new RuleChoice(r.key(), r.says(), r.folders() == NameRule.Folders.ANY);
    }
  }

  /**
   * What somebody chose.
   *
   * @param rule key of the rule of names; "" for the volume's own
   * @param most files of a folder where letters are put together
   * @param lines entries that a browser on the machine shows a page; 0 where it is not known
   * @param names by path as it is the one that is wanted
   * @param left paths that are not to go over
   * @param changes what becomes of files that are on the volume
   * @param text what becomes of those that come and are texts
   * @param machine key of the machine that the card is for; "" for none
   * @param further volumes of the image that take what its first one does not, in their order
   */
  record ChosenText(
      @NotNull @Size(max = 20) String rule,
      @NotNull Shelving shelving,
      @Min(1) @Max(65_535) int most,
      @Min(0) @Max(1000) int lines,
      boolean together,
      @NotNull @Size(max = 20_000) Map<String, @NotBlank @Size(max = 1000) String> names,
      @NotNull @Size(max = 20_000) List<@NotNull String> left,
      @NotNull @Size(max = 5000) List<@Valid ThereChange> changes,
      @NotNull TextChange text,
      @Size(max = 60) String machine,
      @Size(max = 64) List<@Min(0) Integer> further) {
    ChosenText {
      if (machine == null) machine = "";
      further = further == null ? List.of() : further.stream().distinct().toList();
    }

    static final ChosenText OPEN =
        new ChosenText(
            "",
            Shelving.AS_IT_IS,
            40,
            0,
            false,
            Map.of(),
            List.of(),
            List.of(),
            TextChange.NONE,
            "",
            List.of());

    ChosenText under(NameRule r) {
      return new ChosenText(
          r.key(), shelving, most, lines, together, names, left, changes, text, machine, further);
    }

    Crossing.Choices choices(NameRule r) {
      return new Crossing.Choices(r, shelving, most, together, names, Set.copyOf(left));
    }
  }

  /** What is done to a file or folder that is on the volume. */
  enum Verb {
    REMOVE,
    MOVE,
    MARKS
  }

  /**
   * @param to the new path where it is moved; its marks of "rhsa" where they are set
   */
  record ThereChange(
      @NotNull Verb verb,
      @NotBlank @Size(max = 1000) String path,
      @NotNull @Size(max = 1000) String to) {
    Edit.Change change() {
      return switch (verb) {
        case REMOVE -> new Edit.Change.Remove(path);
        case MOVE -> new Edit.Change.Move(path, to);
        case MARKS -> new Edit.Change.Set(path, Optional.of(Marks.of(to)), Optional.empty());
      };
    }

    /**
     * Each names a path as it is before any of them: marks come first, then what makes room, then
     * moves from the deepest, then folders whose files were moved out of them.
     */
    static List<ThereChange> inOrder(List<ThereChange> changes) {
      return changes.stream()
          .sorted(
              Comparator.comparingInt((ThereChange c) -> c.turn(changes))
                  .thenComparing(c -> -c.path().chars().filter(x -> x == '/').count()))
          .toList();
    }

    /**
     * A file that is hit on the original, as it is in the copy: still hit where it stays, whatever
     * its name; structures were laid down anew.
     */
    static Optional<Holes.Hit> after(List<ThereChange> changes, Holes.Hit hit) {
      if (!hit.kind().equals("file")) return Optional.empty();
      String path = hit.path();
      for (ThereChange c : inOrder(changes)) {
        boolean self = path.equals(c.path());
        if (!self && !path.startsWith(c.path() + "/")) continue;
        if (c.verb() == Verb.REMOVE) return Optional.empty();
        if (c.verb() == Verb.MOVE) path = c.to() + path.substring(c.path().length());
      }
      return Optional.of(new Holes.Hit(hit.kind(), path, hit.sectors(), hit.bytes(), hit.first()));
    }

    private int turn(List<ThereChange> all) {
      return switch (verb) {
        case MARKS -> 0;
        case REMOVE -> {
          boolean movedOut =
              all.stream().anyMatch(c -> c.verb() == Verb.MOVE && c.path().startsWith(path + "/"));
          yield movedOut ? 3 : 1;
        }
        case MOVE -> 2;
      };
    }
  }

  /**
   * A file or folder that is on the volume before anything comes.
   *
   * @param marks those of "rhsa" that it has
   */
  record ThereRow(String path, boolean folder, String size, String marks) {
    static List<ThereRow> of(FileSet there) {
      return there.items().stream()
          .limit(MOST_THERE)
          .map(
              i ->
                  new ThereRow(
                      i.path(),
                      i.folder(),
                      i.folder() ? "" : Say.size(i.bytes()),
                      Marks.letters(i.marks())))
          .toList();
    }
  }

  /**
   * @param kind what it is by its content, {@code about} what its structure says
   * @param fault what of that does not agree; "" for nothing
   * @param starts how the machine's loader takes it, {@code how} in words; "" where that is not
   *     known
   */
  record CrossingRow(
      String from,
      String to,
      long bytes,
      String size,
      String sha256,
      String was,
      long units,
      Crossing.State state,
      String says,
      String twin,
      int disk,
      String kind,
      String about,
      String fault,
      String starts,
      String how) {
    CrossingRow {
      // What was carried before kinds were known is kept without them.
      if (kind == null) kind = "";
      if (about == null) about = "";
      if (fault == null) fault = "";
      if (starts == null) starts = "";
      if (how == null) how = "";
    }

    static CrossingRow of(Crossing.Row r, Taken taken) {
      return new CrossingRow(
          r.from(),
          r.to(),
          r.bytes(),
          Say.size(r.bytes()),
          r.sha256(),
          r.was(),
          r.units(),
          r.state(),
          r.says(),
          r.twin(),
          r.disk(),
          taken.known().kind() == Kind.OTHER ? "" : taken.known().kind().words(),
          taken.known().says(),
          taken.known().fault(),
          taken.on().starts().map(Enum::name).orElse(""),
          taken.on().how());
    }
  }

  /**
   * A text as it is and as it will be, with the marks of its line ends.
   *
   * @param says what was changed, in words; "" where nothing was
   */
  record TextPreview(String before, String after, String says, String lost) {
    private static final int MOST = 4096;

    static TextPreview of(byte[] b, TextChange change) {
      TextChange.Changed c = change.of(b);
      String from = change.from().isEmpty() ? "Latin-1" : change.from();
      String to = change.to().isEmpty() || c.bytes() == b ? from : change.to();
      return new TextPreview(seen(b, from), seen(c.bytes(), to), c.says(), c.lost());
    }

    /** Marks in letters that every font has. */
    private static String seen(byte[] b, String page) {
      StringBuilder out = new StringBuilder();
      String text = TextChange.read(b, Math.min(b.length, MOST), page);
      for (int i = 0; i < text.length(); i++) {
        boolean pair = text.startsWith("\r\n", i);
        out.append(
            switch (text.charAt(i)) {
              case '\r' -> pair ? "‹CR›" : "‹CR›\n";
              case '\n' -> "‹LF›\n";
              case '\t' -> "‹TAB›";
              case '\u009B' -> "‹9B›\n";
              case '\u001A' -> "‹1A›";
              default -> text.substring(i, i + 1);
            });
      }
      return out.toString();
    }
  }

  /**
   * A volume with what goes onto it, in bytes of its units.
   *
   * @param there what it holds before
   * @param comes what comes aboard
   * @param rootLeft entries that a root of a fixed place has left; −1 where it grows
   * @param image that was made of it; 0 until then
   */
  record DiskView(
      String name,
      int files,
      long size,
      long there,
      long comes,
      long free,
      int rootLeft,
      Sum because,
      long image) {
    static DiskView of(String name, Crossed crossed, int d) {
      Maker.Fit fit = crossed.fits().get(d);
      Hold hold = crossed.holds().get(d);
      long unit = hold.layout().clusterBytes();
      String units = Catalogue.unit(hold.kind()) + "s";
      long before = hold.with(List.of()).needed() * unit;
      long after = fit.needed() * unit;
      long size = fit.there() * unit;
      Sum.Builder sum =
          Sum.of("T-2", "Will it fit?")
              .line("", units + " of all that lies on it", fit.needed())
              .line("≤", units + " that it has", fit.there());
      if (fit.rootEntries() > 0) {
        sum.line("", "entries of the root", fit.rootNeeded())
            .line("≤", "entries that it has", fit.rootEntries());
      }
      sum.line("×", "bytes of one of the " + units, unit).bytes("=", "fills to", after);
      return new DiskView(
          name,
          crossed.on(d).size(),
          size,
          before,
          after - before,
          size - after,
          fit.rootEntries() == 0 ? -1 : fit.rootEntries() - fit.rootNeeded(),
          sum.because("Asked of what lays the volume down: files, folders, what describes them.")
              .done(),
          0);
    }

    DiskView made(long number) {
      return new DiskView(name, files, size, there, comes, free, rootLeft, because, number);
    }
  }

  /**
   * A folder as a browser on the machine shows it.
   *
   * @param disk number of its disk in the set, from 0
   * @param pages that it takes, more than one
   */
  record FolderView(int disk, String name, int entries, int pages) {}

  /**
   * What is known of machines and kinds for a crossing.
   *
   * @param machine the chosen one; null where none is chosen
   * @param byPath what the files are, by their paths as they are now
   */
  record Menus(List<MenuChoice> choices, Profile machine, Map<String, Known> byPath) {
    private Profile.Menu menu() {
      return machine == null ? null : machine.menu();
    }

    /** What its emulator looks for; null where it has none. */
    Profile.Carrier carrier() {
      return machine == null ? null : machine.carrier();
    }

    int lines() {
      return menu() == null ? 0 : menu().lines();
    }

    /** The machine sees a file under the name that it will have. */
    Taken taken(Crossing.Row r) {
      Known known = byPath.get(r.from());
      if (known == null) return Taken.NOT_KNOWN;
      String name = r.to().isEmpty() ? r.from() : r.to();
      OnMachine on = Taken.NOT_KNOWN.on();
      if (menu() != null) on = OnMachine.of(menu(), known, name);
      else if (carrier() != null) on = OnMachine.of(carrier(), known, name, r.bytes());
      return new Taken(known, on);
    }

    /** By path those that could be drives and have no name by which the emulator finds them. */
    private Map<String, Long> nameless(List<Crossing.Row> over) {
      Map<String, Long> out = new LinkedHashMap<>();
      for (Crossing.Row r : over) {
        boolean drive = OnMachine.mayBeDrive(carrier(), byPath.get(r.from()), r.bytes());
        boolean found = CarrierNames.astray(carrier(), r.to(), r.bytes()).isEmpty();
        if (drive && !found) out.put(r.from(), r.bytes());
      }
      return out;
    }

    MenuView view(Hold hold, Crossed crossed, SlotFile list) {
      List<Crossing.Row> over = crossed.rows().stream().filter(r -> r.disk() >= 0).toList();
      List<String> paths = new ArrayList<>(over.stream().map(Crossing.Row::to).toList());
      hold.there().items().stream().filter(i -> !i.folder()).forEach(i -> paths.add(i.path()));
      List<Taken> all = over.stream().map(this::taken).toList();
      if (menu() != null) return MenuView.of(menu(), all, paths);
      if (carrier() == null) return MenuView.NONE;
      Map<String, String> numbered = CarrierNames.numbered(carrier(), paths, nameless(over));
      String says =
          "its emulator finds drives by names like "
              + carrier().name(0, carrier().blocks().get(0), 0);
      return new MenuView(
          says,
          0,
          List.of(),
          StartsView.of(all, StartsView.BY_EMULATOR),
          numbered,
          list.change().isPresent() ? carrier().slotList() : "",
          list.fault());
    }
  }

  /** How the files would lie. */
  static CrossingView of(
      CrossingEntity c,
      Targets.Target target,
      ChosenText chosen,
      List<NameRule> rules,
      Hold hold,
      FileSet there,
      Crossed crossed,
      Menus menus,
      SlotFile list) {
    List<DiskView> disks = new ArrayList<>();
    for (int d = 0; d < crossed.fits().size(); d++) {
      disks.add(
          DiskView.of(c.imageId() == null ? "Disk " + (d + 1) : target.names().get(d), crossed, d));
    }
    CrossingLaid laid =
        new CrossingLaid(
            seal(chosen, crossed, list),
            rules.stream().map(RuleChoice::of).toList(),
            TextChange.pages(),
            Catalogue.unit(hold.kind()),
            crossed.rows().stream().map(r -> CrossingRow.of(r, menus.taken(r))).toList(),
            ThereRow.of(there),
            there.items().size(),
            (int) crossed.rows().stream().filter(r -> r.disk() >= 0).count(),
            count(crossed, Crossing.State.LOOK),
            count(crossed, Crossing.State.STAYS),
            disks,
            crossed.least(),
            leastSum(
                crossed.rows(),
                disks.isEmpty() ? 1 : crossed.fits().get(0).there(),
                crossed.least(),
                Catalogue.unit(hold.kind()) + "s"),
            folders(crossed.rows(), chosen.lines() > 0 ? chosen.lines() : menus.lines()),
            menus.choices(),
            menus.view(hold, crossed, list));
    return view(c, target, chosen, laid, "");
  }

  /** Where nothing can go over, with the reason. */
  static CrossingView refused(
      CrossingEntity c, Targets.Target target, ChosenText chosen, String refusal) {
    return view(c, target, chosen, CrossingLaid.NONE, refusal);
  }

  private static CrossingView view(
      CrossingEntity c,
      Targets.Target target,
      ChosenText chosen,
      CrossingLaid laid,
      String refusal) {
    long image = c.imageId() == null ? 0 : c.imageId();
    return new CrossingView(
        c.id(),
        c.version(),
        target.says(),
        image,
        c.volume(),
        c.disk(),
        target.others(),
        chosen,
        laid,
        refusal,
        false,
        List.of());
  }

  /** The same once it went over. */
  CrossingView carried(List<Long> images) {
    return new CrossingView(
        id,
        version,
        target,
        image,
        volume,
        disk,
        others,
        choices,
        laid.made(images),
        refusal,
        true,
        List.of());
  }

  CrossingView with(List<TriedView> now) {
    return new CrossingView(
        id, version, target, image, volume, disk, others, choices, laid, refusal, carried, now);
  }

  private static String seal(ChosenText chosen, Crossed crossed, SlotFile list) {
    StringBuilder all = new StringBuilder(Json.write(chosen.changes()));
    all.append(list.text());
    for (Crossing.Row r : crossed.rows()) {
      all.append('\n').append(r.disk()).append(' ').append(r.sha256()).append(' ').append(r.to());
    }
    return Sha256.of(all.toString().getBytes(StandardCharsets.UTF_8));
  }

  private static int count(Crossed c, Crossing.State s) {
    return (int) c.rows().stream().filter(r -> r.state() == s).count();
  }

  private static Sum leastSum(List<Crossing.Row> rows, long room, int least, String units) {
    long all = rows.stream().filter(r -> r.disk() >= 0).mapToLong(Crossing.Row::units).sum();
    return Sum.of("T-2", "How few disks")
        .line("", units + " of all that goes", all)
        .line("÷", units + " of an empty disk", room)
        .line("=", "no fewer than", (all + room - 1) / room)
        .line("≤", "as nothing is cut in two", least)
        .because("Small sets are looked through in every way; of large ones the sum alone is sure.")
        .done();
  }

  private static List<FolderView> folders(List<Crossing.Row> rows, int lines) {
    if (lines == 0) return List.of();
    Map<Integer, Map<String, Set<String>>> entries = new TreeMap<>();
    for (Crossing.Row r : rows) {
      if (r.disk() < 0) continue;
      Map<String, Set<String>> of = entries.computeIfAbsent(r.disk(), d -> new TreeMap<>());
      String folder = "";
      for (String part : r.to().split("/")) {
        of.computeIfAbsent(folder, f -> new HashSet<>()).add(part);
        folder = folder.isEmpty() ? part : folder + "/" + part;
      }
    }
    List<FolderView> out = new ArrayList<>();
    entries.forEach(
        (disk, of) ->
            of.forEach(
                (folder, in) ->
                    out.add(
                        new FolderView(
                            disk, folder, in.size(), Shelving.pages(in.size(), lines)))));
    return out.stream().filter(f -> f.pages() > 1).limit(MOST_FOLDERS).toList();
  }
}
