package lanternshed.server.jobs;

import jakarta.persistence.CollectionTable;
import jakarta.persistence.ElementCollection;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.FetchType;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.MapKeyColumn;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import lanternshed.server.stations.Station;

/** One machine on the bench, from intake to close. */
@Entity
@Table(name = "job")
public class JobEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  @Version private long version;
  private String machine;
  private String profile;
  private String fault;
  private Long mediumId;
  private Long cardId;
  private Long rescuedId;
  private Long builtId;
  private Long goldenId;

  @Enumerated(EnumType.STRING)
  private StartsFrom startsFrom = StartsFrom.MEDIUM;

  private String planChoice = "";
  private String recipe = "";
  private String proof = "";
  private String verdict = "";
  private String chain = "";
  private String sinceWritten = "";
  private boolean closed;
  private boolean removed;
  private Instant created;
  private Instant changed;

  @ElementCollection(fetch = FetchType.EAGER)
  @CollectionTable(name = "station", joinColumns = @JoinColumn(name = "job_id"))
  @MapKeyColumn(name = "number")
  private Map<Integer, StationState> stations = new TreeMap<>();

  protected JobEntity() {}

  JobEntity(String machine, String profile, String fault, Long mediumId, Instant now) {
    this.machine = machine;
    this.profile = profile;
    this.fault = fault;
    this.mediumId = mediumId;
    this.created = now;
    this.changed = now;
    for (Station s : Station.values()) stations.put(s.number(), StationState.dark());
    station(Station.INTAKE).set(Lamp.LIT, "");
  }

  public Long id() {
    return id;
  }

  public long version() {
    return version;
  }

  public String machine() {
    return machine;
  }

  public String profile() {
    return profile;
  }

  public String fault() {
    return fault;
  }

  public Optional<Long> mediumId() {
    return Optional.ofNullable(mediumId);
  }

  void setMedium(Long newMedium) {
    mediumId = newMedium;
  }

  public Optional<Long> cardId() {
    return Optional.ofNullable(cardId);
  }

  public void setCard(Long newCard) {
    cardId = newCard;
  }

  public Optional<Long> rescuedId() {
    return Optional.ofNullable(rescuedId);
  }

  public void setRescued(Long image) {
    rescuedId = image;
  }

  public Optional<Long> builtId() {
    return Optional.ofNullable(builtId);
  }

  public void setBuilt(Long image) {
    builtId = image;
  }

  /** The image that is kept of the finished card; empty while there is none. */
  public Optional<Long> goldenId() {
    return Optional.ofNullable(goldenId);
  }

  public void setGolden(Long image) {
    goldenId = image;
  }

  public StartsFrom startsFrom() {
    return startsFrom;
  }

  void setStartsFrom(StartsFrom now) {
    startsFrom = now;
  }

  public String planChoice() {
    return planChoice;
  }

  public String recipe() {
    return recipe;
  }

  public void setPlan(String choice, String newRecipe) {
    planChoice = choice;
    recipe = newRecipe;
  }

  public String proof() {
    return proof;
  }

  public void setProof(String newProof) {
    proof = newProof;
  }

  /** What the machine did to the finished card since it was written, as JSON; "" for not looked. */
  public String sinceWritten() {
    return sinceWritten;
  }

  public void setSinceWritten(String found) {
    sinceWritten = found;
  }

  /** The chain of parts from the board to the card, as JSON; "" for none yet. */
  public String chain() {
    return chain;
  }

  void setChain(String newChain) {
    chain = newChain;
  }

  public String verdict() {
    return verdict;
  }

  void setVerdict(String newVerdict) {
    verdict = newVerdict;
  }

  public boolean closed() {
    return closed;
  }

  void setClosed(boolean now) {
    closed = now;
  }

  boolean removed() {
    return removed;
  }

  void setRemoved(boolean now) {
    removed = now;
  }

  /** What a person corrects about it. */
  void setFacts(String newMachine, String newFault, String newProfile) {
    machine = newMachine;
    fault = newFault;
    profile = newProfile;
  }

  /**
   * The station that the job stands at: the stopped one, else the one in hand, else the last done.
   */
  Station at() {
    if (closed) return Station.CLOSE;
    return last(Lamp.BRICK, false)
        .or(() -> last(Lamp.LIT, false))
        .or(() -> last(Lamp.MOSS, true))
        .orElse(Station.INTAKE);
  }

  private Optional<Station> last(Lamp lamp, boolean fromTheEnd) {
    List<Station> there =
        Arrays.stream(Station.values()).filter(s -> station(s).state() == lamp).toList();
    if (there.isEmpty()) return Optional.empty();
    return Optional.of(there.get(fromTheEnd ? there.size() - 1 : 0));
  }

  public Instant changed() {
    return changed;
  }

  public StationState station(Station s) {
    return stations.get(s.number());
  }

  /** Sets a lamp; the first station that is still dark after what is done comes into hand. */
  public void set(Station at, Lamp lamp, String sentence, Instant now) {
    station(at).set(lamp, sentence);
    changed = now;
    if (lamp != Lamp.MOSS && lamp != Lamp.DASH || inHand()) return;
    for (StationState s : stations.values()) {
      if (s.state() == Lamp.DARK) {
        s.set(Lamp.LIT, "");
        return;
      }
    }
  }

  /** Whether a station is lit. */
  public boolean inHand() {
    return stations.values().stream().anyMatch(s -> s.state() == Lamp.LIT);
  }

  /** Storage stays: nothing is imaged, built or written. Or after all it does not. */
  void storageStays(boolean stays) {
    for (Station at : Station.FAULT.after()) {
      StationState s = station(at);
      if (stays && s.state() != Lamp.MOSS) s.set(Lamp.DASH, "");
      // A dash with a reason of its own stays: there never was an old drive.
      if (!stays && s.state() == Lamp.DASH && s.sentence().isEmpty()) s.set(Lamp.DARK, "");
    }
  }

  /** What was proved from this station on no longer holds: it has to be done again. */
  public void redoAfter(Station at) {
    // What was in hand behind it waits for what comes before it now.
    for (Station s : Station.values()) {
      if (s.compareTo(at) > 0 && station(s).state() == Lamp.LIT) station(s).set(Lamp.DARK, "");
    }
    for (Station s : at.after()) if (station(s).state() != Lamp.DARK) station(s).set(Lamp.DARK, "");
  }
}
