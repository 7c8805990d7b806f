package lanternshed.server.crossing;

import jakarta.persistence.EntityNotFoundException;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import lanternshed.core.catalogue.BlankDisk;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.kind.Kind;
import lanternshed.core.kind.Known;
import lanternshed.core.machine.Profile;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.names.NameRule;
import lanternshed.core.names.Natural;
import lanternshed.core.names.TextChange;
import lanternshed.core.survey.Holes;
import lanternshed.core.survey.Volumes;
import lanternshed.core.table.DiskRow;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.work.Crossing;
import lanternshed.core.work.Crossing.Coming;
import lanternshed.core.work.Crossing.Crossed;
import lanternshed.core.work.Edit;
import lanternshed.core.work.FilesOut;
import lanternshed.core.work.Hold;
import lanternshed.core.work.Progress;
import lanternshed.core.work.RowEdit;
import lanternshed.core.work.SameThere;
import lanternshed.core.work.SlotFile;
import lanternshed.core.work.Stamp;
import lanternshed.core.work.Stock;
import lanternshed.server.crossing.CrossingView.ChosenText;
import lanternshed.server.crossing.CrossingView.DiskView;
import lanternshed.server.crossing.CrossingView.MenuChoice;
import lanternshed.server.crossing.CrossingView.Menus;
import lanternshed.server.errands.Errands;
import lanternshed.server.files.DesktopFiles;
import lanternshed.server.images.ImageEntity;
import lanternshed.server.images.ImageService;
import lanternshed.server.machines.MachineService;
import lanternshed.server.shell.ConflictException;
import lanternshed.server.shell.Json;
import lanternshed.server.shell.Transfers;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Keeps what waits to go over, says how it will lie, and carries it. */
@Service
public class CrossingService {
  private static final int MOST_FILES = 20_000;
  private static final int MOST_TRIED = 1000;

  /** No name holds these: they part folders, or end a text. */
  private static final String NEVER = "/";

  private final CrossingRepository crossings;
  private final CrossingFileRepository files;
  private final TriedRepository tried;
  private final ImageService images;
  private final Targets targets;
  private final DesktopFiles desktop;
  private final MachineService machines;
  private final Stock stock;
  private final FileFacts facts;
  private final Clock clock;
  private final TransactionTemplate transaction;

  CrossingService(
      CrossingRepository crossings,
      CrossingFileRepository files,
      TriedRepository tried,
      ImageService images,
      Targets targets,
      DesktopFiles desktop,
      MachineService machines,
      Stock stock,
      FileFacts facts,
      Clock clock,
      TransactionTemplate transaction) {
    this.crossings = crossings;
    this.files = files;
    this.tried = tried;
    this.images = images;
    this.targets = targets;
    this.desktop = desktop;
    this.machines = machines;
    this.stock = stock;
    this.facts = facts;
    this.clock = clock;
    this.transaction = transaction;
  }

  /** A crossing in the list of them. */
  record CrossingLine(long id, String target, long files, boolean carried, Instant at) {}

  List<CrossingLine> lines() {
    List<CrossingEntity> all = crossings.findTop100ByRemovedFalseOrderByIdDesc();
    Map<Long, String> says = targets.says(all, CrossingService::chosen);
    Map<Long, Long> many =
        files.tally(all.stream().map(CrossingEntity::id).toList()).stream()
            .collect(
                Collectors.toMap(
                    CrossingFileRepository.Tally::getCrossing,
                    CrossingFileRepository.Tally::getCount));
    return all.stream()
        .map(
            c ->
                new CrossingLine(
                    c.id(),
                    says.get(c.id()),
                    many.getOrDefault(c.id(), 0L),
                    !c.carried().isEmpty(),
                    c.at()))
        .toList();
  }

  private CrossingEntity get(long id) {
    return crossings
        .findById(id)
        .orElseThrow(() -> new EntityNotFoundException("There is no crossing " + id + "."));
  }

  /**
   * Begins one.
   *
   * @param image whose volume takes the files; 0 for new disks
   * @param disk key of the kind of new disks; "" for a volume
   */
  @Transactional
  public long begin(long image, int volume, String disk) {
    if (image == 0) {
      String kind = BlankDisk.of(disk).key();
      return crossings.save(new CrossingEntity(null, 0, kind, clock.instant())).id();
    }
    ImageEntity i = images.hold(image);
    // Refuses what cannot be changed before anything is brought.
    try (Medium m = images.open(i)) {
      Edit.hold(m, volume, List.of());
    }
    return crossings.save(new CrossingEntity(i.id(), volume, "", clock.instant())).id();
  }

  @Transactional
  public void remove(long id, boolean removed) {
    get(id).setRemoved(removed);
  }

  /** Takes in one file as it streams; one of the same path is replaced. */
  public void take(long id, String path, String time, InputStream in, long expected)
      throws IOException {
    CrossingEntity c = open(id);
    String plain = DesktopFiles.plain(path, NEVER, false);
    DesktopFiles.checkTime(plain, time);
    room(c.id(), 1);
    note(id, plain, desktop.keep(plain, in, expected), time);
  }

  private void note(long id, String path, DesktopFiles.Kept kept, String time) {
    CrossingFileEntity f =
        files.findByCrossingIdAndPath(id, path).orElseGet(() -> new CrossingFileEntity(id, path));
    f.holds(kept, time);
    files.save(f);
    // Its bytes are at hand now; later they would be read for the first look at all of them.
    known(f);
  }

  private CrossingEntity open(long id) {
    CrossingEntity c = get(id);
    if (c.carried().isEmpty()) return c;
    throw new ConflictException("These files went over already; begin another crossing.");
  }

  /** What is brought of an image. */
  enum Brings {
    FILES,
    /** The image itself, as one file. */
    WHOLE,
    /** The disks of a library, each as a file. */
    DISKS
  }

  /** An image goes as the one file that it is: its bytes lie on the shelf already. */
  Errands.Made bringWhole(long id, long image) {
    open(id);
    ImageEntity i = images.get(image);
    // Refuses one whose bytes are not here any more.
    images.open(i).close();
    room(id, 1);
    note(id, asFile(i.name()), new DesktopFiles.Kept(i.sectors() * 512, i.sha256()), "");
    if (i.lost() > 0) {
      throw new ShedException(
          i.name()
              + " came as it is: "
              + Say.plural(i.lost(), "sector of it was", "sectors of it were")
              + " never read, and zeros stand there.");
    }
    return new Errands.Made(id);
  }

  /** Copies the disks of a library, each as a file under its number and title. */
  Errands.Made bringDisks(long id, long image, Progress progress) throws IOException {
    open(id);
    ImageEntity i = images.get(image);
    try (Medium m = images.open(i)) {
      DiskRow row = RowEdit.row(m);
      int[] disks =
          IntStream.range(0, row.count(m)).filter(d -> row.slot(m, d).state().disk()).toArray();
      room(id, disks.length);
      int sectors = (int) row.diskSectors();
      byte[] disk = new byte[sectors * 512];
      for (int d = 0; d < disks.length; d++) {
        String path = asFile(disks[d] + " " + row.slot(m, disks[d]).title());
        progress.at("bringing " + path, (long) d * disk.length, (long) disks.length * disk.length);
        m.read(row.start(disks[d]), sectors, disk, 0);
        note(id, path, desktop.keep(path, new ByteArrayInputStream(disk), disk.length), "");
      }
    }
    return new Errands.Made(id);
  }

  private static String asFile(String title) {
    return title.strip().replaceAll("[\\/\\\\\\p{Cntrl}]", "-") + ".img";
  }

  private void room(long id, int coming) {
    if (files.countByCrossingId(id) + coming > MOST_FILES) {
      throw new ShedException(
          "A crossing takes " + Say.count(MOST_FILES) + " files; begin a second one.");
    }
  }

  /** Copies the files of a folder of an image, "" for all of it; what is not whole stays. */
  Errands.Made bring(long id, CrossingController.FromImage f, Progress progress)
      throws IOException {
    open(id);
    int skipped = 0;
    try (Medium m = images.open(images.get(f.image()), f.in())) {
      Volume v = Volumes.at(m, f.volume()).volume();
      List<Node> all =
          v.all().stream().filter(n -> !n.folder()).filter(FilesOut.under(f.folder())).toList();
      if (files.countByCrossingId(id) + all.size() > MOST_FILES) {
        throw new ShedException(
            "A crossing takes " + Say.count(MOST_FILES) + " files; choose a folder of it.");
      }
      long done = 0;
      long total = all.stream().mapToLong(Node::bytes).sum();
      for (Node n : all) {
        progress.at("bringing " + n.path(), done, total);
        if (v.notWhole(n).isPresent() || !isPlain(n.path())) skipped++;
        else bring(id, v, n);
        done += n.bytes();
      }
    }
    if (skipped > 0) {
      throw new ShedException(
          Say.plural(skipped, "file is", "files are")
              + " not whole, or named as no desktop can keep it, and stayed behind; all others came."
              + " Look at them under Images.");
    }
    return new Errands.Made(id);
  }

  /** Whether a path of an image can stand in a zip and never leads out of it. */
  private static boolean isPlain(String path) {
    try {
      return DesktopFiles.plain(path, NEVER, false).equals(path);
    } catch (ShedException e) {
      return false;
    }
  }

  private void bring(long id, Volume v, Node n) throws IOException {
    DesktopFiles.Kept kept =
        desktop.keep(n.path(), out -> Transfers.read(sink -> v.read(n, sink), out), n.bytes());
    note(id, n.path(), kept, Stamp.text(n));
  }

  @Transactional
  public void choose(long id, long version, String disk, ChosenText chosen) {
    CrossingEntity c = open(id);
    sameVersion(c, version);
    targets.check(c, chosen);
    String kind = c.imageId() == null ? BlankDisk.of(disk).key() : "";
    c.choose(kind, Json.write(chosen));
    crossings.saveAndFlush(c);
  }

  private static void sameVersion(CrossingEntity c, long seen) {
    if (c.version() != seen) throw changed();
  }

  private static ConflictException changed() {
    return new ConflictException(
        "This crossing was changed meanwhile; look at it and choose once more.");
  }

  private static ChosenText chosen(CrossingEntity c) {
    return c.choices().isEmpty() ? ChosenText.OPEN : Json.read(c.choices(), ChosenText.class);
  }

  CrossingView view(long id) {
    CrossingEntity c = get(id);
    if (!c.carried().isEmpty()) {
      return Json.read(c.carried(), CrossingView.class)
          .with(
              tried.findByCrossingIdAndRemovedFalseOrderById(id).stream()
                  .map(TriedEntity::view)
                  .toList());
    }
    try {
      return crossed(c).view();
    } catch (ShedException e) {
      return CrossingView.refused(c, targets.of(c, chosen(c)), chosen(c), e.getMessage());
    }
  }

  /**
   * What somebody saw of a file on the machine.
   *
   * @param path as it lies there
   */
  record TriedText(
      @NotBlank @Size(max = 1000) String path,
      boolean started,
      @NotNull @Size(max = 400) String says,
      @NotNull @Size(max = 80) String author) {}

  /** Notes what was tried on the machine; only what went over can be. */
  @Transactional
  public long tried(long id, TriedText text) {
    CrossingView view = view(id);
    boolean went =
        view.carried()
            && view.laid().rows().stream()
                .anyMatch(r -> r.disk() >= 0 && r.to().equals(text.path()));
    if (!went) throw new ShedException(text.path() + " did not go over here.");
    if (tried.countByCrossingIdAndRemovedFalse(id) >= MOST_TRIED) {
      throw new ShedException("That many trials are enough; take some out first.");
    }
    return tried.save(new TriedEntity(id, text, clock.instant())).id();
  }

  @Transactional
  public void untried(long id, long number) {
    TriedEntity t =
        tried
            .findById(number)
            .filter(x -> x.crossingId() == id)
            .orElseThrow(() -> new EntityNotFoundException("There is no such trial here."));
    t.setRemoved(true);
  }

  /**
   * How the files would lie, with what is needed to carry them.
   *
   * @param list of the emulator, that goes along
   * @param volumes that take them, in the order of the crossed ones
   */
  private record Laid(CrossingView view, Crossed crossed, SlotFile list, List<Integer> volumes) {}

  private Laid crossed(CrossingEntity c) {
    ChosenText chosen = chosen(c);
    List<CrossingFileEntity> waiting = files.findByCrossingId(c.id());
    List<Coming> coming =
        waiting.stream()
            .map(f -> coming(f, chosen.text()))
            .sorted(Comparator.comparing(Coming::path, Natural.ORDER))
            .toList();
    if (c.imageId() == null) {
      Hold hold = Crossing.empty(BlankDisk.of(c.disk()));
      List<NameRule> rules = Catalogue.filesystem(hold.kind()).names();
      NameRule rule = rule(chosen, rules, hold);
      Crossed crossed = Crossing.over(hold, coming, chosen.choices(rule));
      Menus menus = menus(hold.kind(), waiting, chosen);
      return laid(c, chosen.under(rule), rules, hold, new FileSet(), crossed, menus, SlotFile.NONE);
    }
    try (Medium m = images.open(images.get(c.imageId()))) {
      FileSet there = Edit.hold(m, c.volume(), List.of()).there();
      Hold hold = Edit.hold(m, c.volume(), changes(chosen));
      List<NameRule> rules = Catalogue.filesystem(hold.kind()).names();
      NameRule rule = rule(chosen, rules, hold);
      Menus menus = menus(hold.kind(), waiting, chosen);
      List<Hold> further = chosen.further().stream().map(n -> Edit.hold(m, n, List.of())).toList();
      SameThere same = sameThere(c, chosen, there, further);
      Crossing.Choices choices = chosen.choices(rule);
      SlotFile.Beside beside =
          SlotFile.beside(
              menus.carrier(),
              hold,
              list -> Edit.hold(m, c.volume(), with(changes(chosen), list)),
              h ->
                  Crossing.onto(
                      Stream.concat(Stream.of(h), further.stream()).toList(),
                      coming,
                      choices,
                      same));
      return laid(
          c, chosen.under(rule), rules, hold, there, beside.crossed(), menus, beside.list());
    }
  }

  /** What on the volumes has the same bytes, and stays there as it is. */
  private SameThere sameThere(
      CrossingEntity c, ChosenText chosen, FileSet there, List<Hold> further) {
    String image = images.get(c.imageId()).sha256() + " ";
    SameThere out =
        new SameThere(
            there,
            path ->
                chosen.changes().stream()
                    .noneMatch(x -> path.equals(x.path()) || path.startsWith(x.path() + "/")),
            item -> facts.digest(image + c.volume(), item));
    for (int i = 0; i < further.size(); i++) {
      String volume = image + chosen.further().get(i);
      FileSet on = further.get(i).there();
      out = out.or(new SameThere(on, path -> true, item -> facts.digest(volume, item)));
    }
    return out;
  }

  private static List<Edit.Change> with(List<Edit.Change> changes, Edit.Change one) {
    return Stream.concat(changes.stream(), Stream.of(one)).toList();
  }

  private static List<Edit.Change> changes(ChosenText chosen) {
    return CrossingView.ThereChange.inOrder(chosen.changes()).stream()
        .map(CrossingView.ThereChange::change)
        .toList();
  }

  private Laid laid(
      CrossingEntity c,
      ChosenText chosen,
      List<NameRule> rules,
      Hold hold,
      FileSet there,
      Crossed crossed,
      Menus menus,
      SlotFile list) {
    Targets.Target target = targets.of(c, chosen);
    return new Laid(
        CrossingView.of(c, target, chosen, rules, hold, there, crossed, menus, list),
        crossed,
        list,
        target.volumes());
  }

  private Menus menus(String kind, List<CrossingFileEntity> waiting, ChosenText chosen) {
    List<Profile> showing =
        machines.all().stream()
            .map(MachineService.Known::profile)
            .filter(p -> p.shows(kind))
            .toList();
    Map<String, Known> byPath = new HashMap<>();
    for (CrossingFileEntity f : waiting) byPath.put(f.path(), known(f));
    List<MenuChoice> choices =
        showing.stream().map(p -> new MenuChoice(p.key(), p.name())).toList();
    Profile machine =
        showing.stream().filter(p -> p.key().equals(chosen.machine())).findFirst().orElse(null);
    return new Menus(choices, machine, byPath);
  }

  private Known known(CrossingFileEntity f) {
    return facts.kind(f.sha256(), f.bytes());
  }

  /** The one that was chosen, or the one that names on the volume follow already. */
  private static NameRule rule(ChosenText chosen, List<NameRule> rules, Hold hold) {
    Optional<NameRule> wanted =
        rules.stream().filter(r -> r.key().equals(chosen.rule())).findFirst();
    return wanted
        .or(
            () ->
                rules.stream()
                    .filter(
                        r ->
                            hold.there().items().stream()
                                .noneMatch(i -> r.fault(i.name()).isPresent()))
                    .findFirst())
        .or(() -> rules.stream().reduce((a, b) -> b))
        .orElseThrow(
            () -> new ShedException("Which names this kind of volume takes is not known here."));
  }

  private Coming coming(CrossingFileEntity f, TextChange text) {
    int stamp = f.time().isEmpty() ? Stamp.NONE : Stamp.of(LocalDateTime.parse(f.time()));
    Kind kind = known(f).kind();
    String shelf = kind == Kind.OTHER ? "" : kind.folder();
    return new Coming(
        f.path(), f.bytes(), stamp, f.sha256(), facts.rewritten(f.sha256(), text), shelf);
  }

  /** A text that waits, as it is and as it will be. */
  CrossingView.TextPreview preview(long id, String path) {
    CrossingFileEntity f =
        files
            .findByCrossingIdAndPath(id, path)
            .orElseThrow(() -> new EntityNotFoundException("No file of that path waits here."));
    byte[] b =
        stock
            .find(f.sha256())
            .flatMap(Crossing::text)
            .filter(TextChange::isText)
            .orElseThrow(() -> new ShedException(path + " is no text; it goes byte by byte."));
    return CrossingView.TextPreview.of(b, chosen(get(id)).text());
  }

  /**
   * Carries the files over as it was seen: onto a copy of the image, or onto new disks.
   *
   * @param seal of what was seen
   * @throws ConflictException where it would be something else by now
   */
  Errands.Made carry(long id, String seal, Progress progress) {
    CrossingEntity c = open(id);
    Laid laid = crossed(c);
    if (!laid.view().laid().seal().equals(seal)) throw changed();
    List<Edit.Change> changed = changes(laid.view().choices());
    boolean nothing = changed.isEmpty() && laid.list().change().isEmpty();
    if (laid.view().laid().over() == 0 && nothing) {
      throw new ShedException("No file goes over; bring some first.");
    }
    List<List<Edit.Change>> changes = changes(laid, changed);
    List<Long> made = new ArrayList<>();
    for (int d = 0; d < changes.size() && c.imageId() == null; d++) {
      String number = changes.size() == 1 ? "" : " " + (d + 1) + " of " + changes.size();
      made.add(disk(c, changes.get(d), number, progress));
    }
    if (c.imageId() != null) {
      long copy = copy(c, laid.volumes(), changes, progress);
      changes.forEach(v -> made.add(copy));
    }
    transaction.executeWithoutResult(
        t -> {
          CrossingEntity now = open(id);
          now.carry(Json.write(laid.view().carried(made)));
          crossings.saveAndFlush(now);
        });
    return new Errands.Made(made.get(0));
  }

  /**
   * The changes of each volume, or of each disk of a set.
   *
   * @param changed what is done to files that are there, on the first
   */
  private List<List<Edit.Change>> changes(Laid laid, List<Edit.Change> changed) {
    List<List<Edit.Change>> out = new ArrayList<>();
    for (int d = 0; d < laid.crossed().fits().size(); d++) {
      List<Edit.Change> changes = new ArrayList<>();
      if (d == 0) {
        changes.addAll(changed);
        laid.list().change().ifPresent(changes::add);
      }
      changes.addAll(Crossing.changes(laid.crossed().on(d), laid.view().choices().text(), stock));
      out.add(changes);
    }
    return out;
  }

  /**
   * Puts the disks of a set that went over into the free places of a library, on a copy.
   *
   * @param library 0 for a new one with as many places as there are disks
   */
  Errands.Made intoLibrary(long id, long library, Progress progress) {
    CrossingView v = view(id);
    if (!v.carried() || v.image() != 0) {
      throw new ShedException("Only a set of disks that were made goes into a library.");
    }
    List<DiskView> disks = v.laid().disks();
    List<Medium> open = new ArrayList<>();
    try {
      Medium from = library == 0 ? blankLibrary(disks.size()) : images.open(images.get(library));
      open.add(from);
      DiskRow row = RowEdit.row(from);
      int[] free =
          IntStream.range(0, row.count(from))
              .filter(i -> !row.slot(from, i).state().disk())
              .toArray();
      if (free.length < disks.size()) {
        throw new ShedException(
            "That library has "
                + Say.plural(free.length, "free place", "free places")
                + ", and there are "
                + Say.plural(disks.size(), "disk", "disks")
                + "; choose another one, or a new one.");
      }
      List<RowEdit.Change> changes = new ArrayList<>();
      for (int d = 0; d < disks.size(); d++) {
        Medium disk = images.open(images.get(disks.get(d).image()));
        open.add(disk);
        changes.add(new RowEdit.Change.Put(free[d], disks.get(d).name(), disk));
      }
      String made = Say.plural(disks.size(), "disk", "disks") + " of crossing " + id;
      String name =
          library == 0 ? "Library, " + made : images.get(library).name() + ", with " + made;
      long lost = library == 0 ? 0 : images.get(library).lost();
      return new Errands.Made(
          images
              .make(
                  name,
                  from.sectors(),
                  new ImageService.Source(made, lost, List.of(), ""),
                  to -> RowEdit.make(from, changes, to, progress),
                  progress)
              .id());
    } finally {
      open.forEach(Medium::close);
    }
  }

  private static Medium blankLibrary(int places) {
    DiskRow row = Catalogue.newRow();
    if (places > row.most()) {
      throw new ShedException("A library has at most " + row.most() + " places.");
    }
    Medium m = new MemoryMedium(row.sectors(places));
    RowEdit.blank(row, m);
    return m;
  }

  private long copy(
      CrossingEntity c, List<Integer> volumes, List<List<Edit.Change>> changes, Progress progress) {
    ImageEntity image = images.get(c.imageId());
    List<Holes.Hit> hits =
        image.hits().stream()
            .flatMap(h -> CrossingView.ThereChange.after(chosen(c).changes(), h).stream())
            .toList();
    String made = Say.plural(changes.stream().mapToInt(List::size).sum(), "change", "changes");
    ImageService.Source source =
        new ImageService.Source(
            "a copy of " + image.name() + " with " + made, image.lost(), hits, image.layout());
    List<Edit.On> on =
        IntStream.range(0, changes.size())
            .filter(d -> !changes.get(d).isEmpty())
            .mapToObj(d -> new Edit.On(volumes.get(d), changes.get(d)))
            .toList();
    try (Medium from = images.open(image)) {
      return images
          .make(
              image.name() + ", " + made,
              image.sectors(),
              source,
              to -> Edit.make(from, on, to, progress),
              progress)
          .id();
    }
  }

  private long disk(CrossingEntity c, List<Edit.Change> changes, String number, Progress progress) {
    BlankDisk kind = BlankDisk.of(c.disk());
    Medium empty = Crossing.blank(kind, "SET" + number.split(" of ")[0]);
    return images
        .make(
            "Set of " + kind.title() + number,
            kind.sectors(),
            ImageService.Source.of(Say.plural(changes.size(), "file", "files") + " of a crossing"),
            to -> Edit.make(empty, 0, changes, to, progress),
            progress)
        .id();
  }

  /** What lies where once it went over: a way to read what a row says, from the image itself. */
  interface Went {
    void file(CrossingView.CrossingRow row, Volume v, Node n) throws IOException;
  }

  /**
   * Goes through all that went over, disk by disk.
   *
   * @throws ShedException where it did not go over yet, or an image holds something else
   */
  void went(long id, Went each) throws IOException {
    CrossingView view = view(id);
    if (!view.carried()) throw new ShedException("These files did not go over yet.");
    for (int d = 0; d < view.laid().disks().size(); d++) {
      int disk = d;
      List<CrossingView.CrossingRow> rows =
          view.laid().rows().stream().filter(r -> r.disk() == disk).toList();
      try (Medium m = images.open(images.get(view.laid().disks().get(d).image()))) {
        Volume v = Volumes.at(m, view.on(d)).volume();
        Map<String, Node> there = new HashMap<>();
        for (Node n : v.all()) if (!n.folder()) there.put(n.path(), n);
        for (CrossingView.CrossingRow r : rows) {
          Node n = there.get(r.to());
          if (n == null) throw new ShedException(r.to() + " is not on the image any more.");
          each.file(r, v, n);
        }
      }
    }
  }
}
