package lanternshed.server.jobs;

import jakarta.persistence.CollectionTable;
import jakarta.persistence.ElementCollection;
import jakarta.persistence.Entity;
import jakarta.persistence.FetchType;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.MapKeyColumn;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

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
  private String planChoice = "";
  private String recipe = "";
  private String proof = "";
  private String verdict = "";
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
    for (int n = 1; n <= Stations.CLOSE; n++) stations.put(n, StationState.dark());
    station(Stations.INTAKE).set(Lamp.LIT, "");
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
  int at() {
    if (closed) return Stations.CLOSE;
    for (Lamp lamp : List.of(Lamp.BRICK, Lamp.LIT)) {
      for (int n = 1; n <= Stations.CLOSE; n++) if (station(n).state() == lamp) return n;
    }
    for (int n = Stations.CLOSE; n >= 1; n--) if (station(n).state() == Lamp.MOSS) return n;
    return 1;
  }

  public Instant changed() {
    return changed;
  }

  public StationState station(int number) {
    return stations.get(number);
  }

  /** Sets a lamp; the first station that is still dark after what is done comes into hand. */
  public void set(int number, Lamp lamp, String sentence, Instant now) {
    station(number).set(lamp, sentence);
    changed = now;
    boolean inHand = stations.values().stream().anyMatch(s -> s.state() == Lamp.LIT);
    if (lamp != Lamp.MOSS && lamp != Lamp.DASH || inHand) return;
    for (StationState s : stations.values()) {
      if (s.state() == Lamp.DARK) {
        s.set(Lamp.LIT, "");
        return;
      }
    }
  }

  /** Storage stays: nothing is imaged, built or written. Or after all it does not. */
  void storageStays(boolean stays) {
    for (int n = Stations.RESCUE; n <= Stations.WRITE; n++) {
      StationState s = station(n);
      if (stays && s.state() != Lamp.MOSS) s.set(Lamp.DASH, "");
      if (!stays && s.state() == Lamp.DASH) s.set(Lamp.DARK, "");
    }
  }

  /** What was proved from this station on no longer holds: it has to be done again. */
  public void redoAfter(int number) {
    for (int n = number + 1; n < Stations.FIT; n++) {
      if (station(n).state() != Lamp.DARK) station(n).set(Lamp.DARK, "");
    }
  }
}
