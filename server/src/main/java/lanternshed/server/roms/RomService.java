package lanternshed.server.roms;

import jakarta.persistence.EntityNotFoundException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import lanternshed.core.boot.pc.RomRun;
import lanternshed.core.cpu.Level;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sha256;
import lanternshed.core.measure.ShedException;
import lanternshed.core.plan.PlanRequest;
import lanternshed.core.rom.Chip;
import lanternshed.core.rom.Erased;
import lanternshed.core.rom.HexText;
import lanternshed.core.rom.Interleave;
import lanternshed.core.rom.ReadBack;
import lanternshed.core.rom.RomCarrier;
import lanternshed.core.rom.RomChange;
import lanternshed.core.rom.RomFacts;
import lanternshed.core.rom.StandInProgrammer;
import lanternshed.core.rom.Windows;
import lanternshed.server.jobs.JobService;
import lanternshed.server.jobs.JobView;
import lanternshed.server.machines.MachineService;
import lanternshed.server.shell.ConflictException;
import lanternshed.server.shell.Json;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps images of ROMs; what is made of one is another, and the old one stays. */
@Service
public class RomService {
  private static final int MOST = 500;

  private final RomRepository roms;
  private final ReadingRepository readings;
  private final JobService jobs;
  private final MachineService machines;
  private final Clock clock;

  RomService(
      RomRepository roms,
      ReadingRepository readings,
      JobService jobs,
      MachineService machines,
      Clock clock) {
    this.roms = roms;
    this.readings = readings;
    this.jobs = jobs;
    this.machines = machines;
    this.clock = clock;
  }

  /**
   * Where an image is to lie.
   *
   * @param occupied what else the machine has there
   * @param carrier key of what its chip sits in; "" where nobody chose
   * @param window its first address; 0 where nobody chose
   */
  public record RomPlace(List<Windows.Occupied> occupied, String carrier, int window) {
    static final RomPlace OPEN = new RomPlace(Windows.USUAL, "", 0);
  }

  record ReadingView(
      long id, String pattern, int differing, String sentence, String sha256, Instant at) {}

  /**
   * @param fault the first thing that is wrong with it; "" where nothing is
   * @param needs the least processor that it needs; "" where that is not known
   * @param drives how many it serves; 0 where nobody said
   */
  record RomRow(
      long id,
      String name,
      String size,
      int bytes,
      String what,
      String fault,
      String madeFrom,
      String needs,
      int drives) {}

  /**
   * @param drives how many it serves; 0 where nobody said (O-8)
   * @param chips that take the image, in kilobits
   * @param windows every one that could be taken, with what occupies it
   * @param conflict what the chosen window collides with; "" where with nothing
   * @param jumpers as they are to be set; absent where the carrier has none for the window
   */
  record RomView(
      long id,
      long version,
      String name,
      String note,
      int drives,
      String madeFrom,
      Instant at,
      RomFacts facts,
      List<Integer> chips,
      RomPlace place,
      List<Windows.Window> windows,
      String conflict,
      Optional<RomCarrier.WindowSetting> jumpers,
      List<ReadingView> readings,
      JobFor job) {}

  /**
   * The job whose machine an image goes into.
   *
   * @param id 0 where nobody chose
   * @param serves whether its processor has what the image needs
   * @param sentence that says so; "" where the image was not run
   */
  public record JobFor(long id, String machine, boolean serves, String sentence) {
    static final JobFor NONE = new JobFor(0, "", true, "");
  }

  /**
   * An image as a sheet says it.
   *
   * @param jumpers by name whether each is closed, as it was tested; empty where there are none
   * @param reading what the last chip with it read; "" where none was read
   */
  public record RomFact(
      long id,
      String name,
      String note,
      String size,
      String sha256,
      String needs,
      String window,
      String carrier,
      Map<String, Boolean> jumpers,
      String reading,
      Instant at) {}

  List<RomRow> rows() {
    return roms.findByRemovedFalseOrderByIdDesc().stream().map(RomService::row).toList();
  }

  private static RomRow row(RomRepository.Listed l) {
    return new RomRow(
        l.getId(),
        l.getName(),
        Say.size(l.getSize()),
        l.getSize(),
        l.getWhat(),
        l.getFault(),
        l.getMadeFrom(),
        l.getNeeds(),
        l.getDrives());
  }

  RomView view(long id) {
    RomEntity e = get(id);
    byte[] b = bytes(e);
    RomFacts f = RomFacts.of(b);
    RomPlace p = e.place().isEmpty() ? RomPlace.OPEN : Json.read(e.place(), RomPlace.class);
    int taken = f.option().map(o -> Math.min(o.length(), b.length)).orElse(b.length);
    boolean fits = taken > 0 && taken <= Windows.END - Windows.FIRST;
    List<Windows.Window> windows = fits ? Windows.of(p.occupied(), taken) : List.of();
    return new RomView(
        e.id(),
        e.version(),
        e.name(),
        e.note(),
        e.drives(),
        e.madeFrom(),
        e.at(),
        f,
        Chip.taking(b.length),
        p,
        windows,
        windows.stream()
            .filter(w -> w.start() == p.window())
            .map(Windows.Window::with)
            .findFirst()
            .orElse(""),
        carrier(p.carrier()).flatMap(c -> c.setting(p.window())),
        readings.findTop20ByRomIdOrderByIdDesc(id).stream().map(ReadingEntity::view).toList(),
        jobFor(e));
  }

  /** O-6: what the machine's processor has, held against what the image needs. */
  private JobFor jobFor(RomEntity e) {
    if (e.jobId() == null) return JobFor.NONE;
    JobView job = jobs.view(jobs.get(e.jobId()));
    if (e.needs().isEmpty()) return new JobFor(job.id(), job.machine(), true, "");
    Level has = Level.of(machines.get(job.profile()).processor());
    Level needs = Level.valueOf(e.needs());
    boolean serves = has.atLeast(needs);
    String sentence =
        serves
            ? "Its " + has.title() + " has every instruction that was reached."
            : "It has an "
                + has.title()
                + "; this image needs an "
                + needs.title()
                + ": take another build.";
    return new JobFor(job.id(), job.machine(), serves, sentence);
  }

  /** O-6: the same images, as a plan asks for them. */
  public List<PlanRequest.FittedRom> fittedIn(long job) {
    return roms.findByJobIdAndRemovedFalseOrderById(job).stream()
        .map(
            e -> {
              JobFor of = jobFor(e);
              String fault = RomFacts.of(bytes(e)).fault();
              return new PlanRequest.FittedRom(e.name(), fault, of.serves() ? "" : of.sentence());
            })
        .toList();
  }

  /** The images that go into the machine of a job. */
  public List<RomFact> factsOf(long job) {
    return roms.findByJobIdAndRemovedFalseOrderById(job).stream().map(e -> fact(e.id())).toList();
  }

  public RomFact fact(long id) {
    RomView v = view(id);
    String needs = get(id).needs();
    return new RomFact(
        id,
        v.name(),
        v.note(),
        Say.size(v.facts().bytes()),
        v.facts().sha256(),
        needs.isEmpty() ? "" : Level.valueOf(needs).title(),
        v.place().window() == 0 ? "" : String.format(Locale.ROOT, "%05X", v.place().window()),
        carrier(v.place().carrier()).map(RomCarrier::name).orElse(""),
        jumpers(v),
        v.readings().isEmpty() ? "" : v.readings().get(0).sentence(),
        v.at());
  }

  private static Map<String, Boolean> jumpers(RomView v) {
    Map<String, Boolean> out = new LinkedHashMap<>();
    v.jumpers()
        .ifPresent(
            w ->
                carrier(v.place().carrier())
                    .ifPresent(c -> c.jumpers().forEach(j -> out.put(j, w.tested().contains(j)))));
    return out;
  }

  /** Says whose machine an image goes into; 0 for nobody's. */
  @Transactional
  public void forJob(long id, long version, long job) {
    RomEntity e = get(id);
    sameVersion(e, version);
    e.setJobId(job == 0 ? null : jobs.get(job).id());
    roms.saveAndFlush(e);
  }

  /** O-9: what was changed from one image to another. */
  RomChange against(long id, long other) {
    return RomChange.of(bytes(get(id)), bytes(get(other)));
  }

  private static Optional<RomCarrier> carrier(String key) {
    return RomCarrier.all().stream().filter(c -> c.key().equals(key)).findFirst();
  }

  private RomEntity get(long id) {
    return roms.findById(id)
        .orElseThrow(() -> new EntityNotFoundException("There is no ROM " + id + "."));
  }

  private static byte[] bytes(RomEntity e) {
    byte[] b = e.bytes();
    if (Sha256.of(b).equals(e.sha256())) return b;
    throw new ShedException(
        "The bytes of “" + e.name() + "” are not those of their digest any more; bring it again.");
  }

  /** The bytes of an image, in one of the forms in which programmers take them. */
  byte[] file(long id, HexText.Form form) {
    byte[] b = bytes(get(id));
    return HexText.write(b, form).map(s -> s.getBytes(StandardCharsets.US_ASCII)).orElse(b);
  }

  String name(long id) {
    return get(id).name();
  }

  /** Brings an image in; one whose bytes are there already is the one that is there. */
  @Transactional
  public long add(String name, byte[] bytes) {
    return keep(name, bytes, "");
  }

  private long keep(String name, byte[] bytes, String madeFrom) {
    String sha = Sha256.of(bytes);
    Optional<RomEntity> known = roms.findFirstBySha256AndRemovedFalse(sha);
    if (known.isPresent()) return known.get().id();
    if (roms.countByRemovedFalse() >= MOST) {
      throw new ShedException("The bench has " + MOST + " images; take some out first.");
    }
    RomEntity e = new RomEntity(clean(name), bytes, RomFacts.of(bytes), madeFrom, clock.instant());
    e.setNeeds(needs(bytes));
    return roms.save(e).id();
  }

  /** By running it and by decoding what can be reached; "" for what no firmware enters. */
  private static String needs(byte[] b) {
    try {
      RomRun.RomRan r = RomRun.of(b, Windows.FIRST >> 4);
      Level reached = r.code().needs();
      return (reached.compareTo(r.needs()) > 0 ? reached : r.needs()).name();
    } catch (ShedException e) {
      return "";
    }
  }

  private static String clean(String name) {
    String n = name.replaceAll("[\\p{Cntrl}/\\\\]", "_").strip();
    if (n.isEmpty()) return "image";
    return n.length() > 120 ? n.substring(0, 120) : n;
  }

  @Transactional
  public void write(long id, long version, String name, String note, int drives) {
    RomEntity e = get(id);
    sameVersion(e, version);
    e.write(clean(name), note, drives);
    roms.saveAndFlush(e);
  }

  private static void sameVersion(RomEntity e, long seen) {
    if (e.version() == seen) return;
    throw new ConflictException(
        "Somebody else changed this image meanwhile. What you typed is kept; look at it and try once"
            + " more.");
  }

  @Transactional
  public void place(long id, long version, RomPlace p) {
    RomEntity e = get(id);
    sameVersion(e, version);
    // Refuses what lies nowhere before it is kept.
    Windows.of(p.occupied(), 2048);
    if (!p.carrier().isEmpty() && carrier(p.carrier()).isEmpty()) {
      throw new ShedException("There is no carrier \"" + p.carrier() + "\".");
    }
    e.setPlace(Json.write(p));
    roms.saveAndFlush(e);
  }

  /** Takes an image out, or puts it back. */
  @Transactional
  public void remove(long id, boolean removed) {
    get(id).setRemoved(removed);
  }

  /**
   * O-1: another image, whose last byte makes the sum right. It goes into the machine for which the
   * other one was, as that one would never be entered.
   */
  @Transactional
  public long corrected(long id) {
    RomEntity e = get(id);
    byte[] right = RomFacts.corrected(bytes(e));
    long made = made(e, right, ", sum right", "the last byte of its length corrected");
    if (made != id && get(made).jobId() == null) {
      get(made).setJobId(e.jobId());
      e.setJobId(null);
    }
    return made;
  }

  /** O-2: another image, as long as its chip. */
  @Transactional
  public long fitted(long id, int kilobits, Chip.Pad pad) {
    RomEntity e = get(id);
    byte[] whole = new Chip(kilobits).fit(bytes(e), pad);
    String how =
        switch (pad) {
          case FF -> "the rest FF";
          case ZERO -> "the rest 00";
          case REPEAT -> "again and again";
        };
    return made(e, whole, ", " + kilobits + " kbit", "in " + kilobits + " kbit, " + how);
  }

  /** O-4: one image for each socket. */
  @Transactional
  public List<Long> split(long id, int ways) {
    RomEntity e = get(id);
    List<Long> out = new ArrayList<>();
    for (Interleave.Part p : Interleave.split(bytes(e), ways)) {
      out.add(made(e, p.bytes(), ", " + p.socket(), p.socket()));
    }
    return out;
  }

  private long made(RomEntity from, byte[] bytes, String ending, String how) {
    int room = Math.max(0, 120 - ending.length());
    String name = from.name().substring(0, Math.min(from.name().length(), room)) + ending;
    long id = keep(name, bytes, "“" + from.name() + "”, " + how);
    RomEntity made = get(id);
    if (made.place().isEmpty()) made.setPlace(from.place());
    if (made.drives() == 0) made.write(made.name(), made.note(), from.drives());
    return id;
  }

  /**
   * @param sentence what the order of the parts rests on
   */
  record RomJoined(long id, String sentence) {}

  @Transactional
  public RomJoined joined(List<Long> ids) {
    List<RomEntity> parts = ids.stream().map(this::get).toList();
    Interleave.Joined j = Interleave.join(parts.stream().map(RomService::bytes).toList());
    String from =
        j.order().stream()
            .map(i -> "“" + parts.get(i).name() + "”")
            .collect(Collectors.joining(" and "));
    return new RomJoined(keep("joined", j.bytes(), from + ", joined"), j.sentence());
  }

  @Transactional
  public RomRun.RomRan run(long id) {
    RomEntity e = get(id);
    // Images that came before this was looked at.
    if (e.needs().isEmpty()) e.setNeeds(needs(bytes(e)));
    RomPlace p = e.place().isEmpty() ? RomPlace.OPEN : Json.read(e.place(), RomPlace.class);
    int at = p.window() == 0 ? Windows.FIRST : p.window();
    return RomRun.of(bytes(e), at >> 4);
  }

  /** O-7: what a chip reads, held against what was to be in it; kept with the image. */
  @Transactional
  public ReadBack readBack(long id, byte[] got) {
    ReadBack r = ReadBack.of(bytes(get(id)), got);
    readings.save(new ReadingEntity(id, r, Sha256.of(got), clock.instant()));
    return r;
  }

  /** The same with the stand-in; it is no chip, so nothing is kept of it. */
  ReadBack standIn(long id, StandInProgrammer.Trouble trouble) {
    byte[] want = bytes(get(id));
    long seed = clock.instant().getNano();
    return ReadBack.of(want, StandInProgrammer.programmed(want, trouble, seed));
  }

  /** O-3: whether a chip that reads so takes the image. */
  Erased over(long id, byte[] chip) {
    return Erased.of(chip, bytes(get(id)));
  }
}
