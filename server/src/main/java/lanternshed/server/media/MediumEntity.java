package lanternshed.server.media;

import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.Optional;
import lanternshed.core.machine.Card;
import lanternshed.core.measure.Geometry;
import lanternshed.core.work.TrueSize;
import lanternshed.server.shell.Json;
import org.hibernate.annotations.DynamicUpdate;

/**
 * A drive, a card or an image that was brought in, with the file of the shelf in which its bytes
 * lie.
 */
@Entity
@DynamicUpdate
@Table(name = "medium")
public class MediumEntity {
  /** What it is. */
  public enum Kind {
    /** A stand-in for an old drive, with its damage. */
    DRIVE,
    /** A stand-in for a card. */
    CARD,
    /** A device node of the allow-list, read only. */
    DEVICE,
    /** A card in a reader: a device node of the allow-list that may be written. */
    READER,
    /** An image that was brought in and stands for the drive it came from. */
    FILE
  }

  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private Long id;

  private String name;

  @Enumerated(EnumType.STRING)
  private Kind kind;

  private String serial;
  private long labelBytes;
  private long sectors;
  private long realSectors;
  private boolean measured;
  private boolean removable;
  private boolean mounted;
  private String damage;
  private String file;

  /** The device node of a real medium; "" for what lies on the shelf. */
  private String node = "";

  /** What a device said of itself when it was taken: model, serial, size. */
  private String identity = "";

  /** Which putting-in of a real card a person confirmed before it was written over. */
  private String insertion = "";

  /** A report as JSON; "" where nobody looked. */
  private String trueSize = "";

  /** Since when it is overwritten, wholly or in part, by wiping. */
  private Instant overwritten;

  /** The image that a card holds, as it read back; nothing while it is written. */
  private Long holdsImage;

  /** Since when it holds that image; absent where that was not kept. */
  private Instant heldSince;

  /** Where the card itself lies, as somebody wrote it. */
  private String lies = "";

  /** The C/H/S that a card answers by itself; 0 where it is not known. */
  private int ownCylinders;

  private int ownHeads;
  private int ownPerTrack;

  /** The connector that a card is made for, by its key; "" where nobody said. */
  private String joint = "";

  private boolean removed;
  private String remark = "";
  private Instant created;

  protected MediumEntity() {}

  public MediumEntity(
      String name,
      Kind kind,
      String serial,
      long labelBytes,
      long sectors,
      long realSectors,
      String damage,
      String file,
      Instant created) {
    this.name = name;
    this.kind = kind;
    this.serial = serial;
    this.labelBytes = labelBytes;
    this.sectors = sectors;
    this.realSectors = realSectors;
    this.measured = kind != Kind.CARD;
    this.removable = isCard();
    this.damage = damage;
    this.file = file;
    this.created = created;
  }

  public Long id() {
    return id;
  }

  public String name() {
    return name;
  }

  public Kind kind() {
    return kind;
  }

  /** Whether new images go on it. */
  public boolean isCard() {
    return kind == Kind.CARD || kind == Kind.READER;
  }

  /** Whether it is a medium of this world, at a device node. */
  public boolean real() {
    return !node.isEmpty();
  }

  public String node() {
    return node;
  }

  String insertion() {
    return insertion;
  }

  void confirmed(String putIn) {
    insertion = putIn;
  }

  void at(String newNode, String said) {
    node = newNode;
    identity = said;
  }

  public String serial() {
    return serial;
  }

  public long labelBytes() {
    return labelBytes;
  }

  public long sectors() {
    return sectors;
  }

  public long realSectors() {
    return realSectors;
  }

  public boolean measured() {
    return measured;
  }

  /** The C/H/S that a card answers by itself; empty where it is not known. */
  Optional<Geometry> own() {
    return ownHeads == 0
        ? Optional.empty()
        : Optional.of(new Geometry(ownCylinders, ownHeads, ownPerTrack));
  }

  void own(Geometry g) {
    ownCylinders = g.cylinders();
    ownHeads = g.heads();
    ownPerTrack = g.sectors();
  }

  /** What a look at its true size found (W-6); empty where nobody looked. */
  public Optional<TrueSize.Report> trueSize() {
    return trueSize.isEmpty()
        ? Optional.empty()
        : Optional.of(Json.read(trueSize, TrueSize.Report.class));
  }

  /** Whether sectors of it were found not to keep what is written. */
  public boolean bad() {
    return trueSize().filter(r -> r.kind() == TrueSize.Kind.BAD).isPresent();
  }

  /** From now on it counts with what it keeps. */
  void sized(TrueSize.Report found) {
    trueSize = Json.write(found);
    measured = true;
    if (found.kind() != TrueSize.Kind.BAD) sectors = found.sectors();
  }

  public void measure() {
    measured = true;
  }

  String identity() {
    return identity;
  }

  /** The image that this card holds by its last read-back. */
  public Optional<Long> holdsImage() {
    return Optional.ofNullable(holdsImage);
  }

  void holds(Long image, Instant since) {
    holdsImage = image;
    heldSince = image == null ? null : since;
    if (image != null) overwritten = null;
  }

  /** Since when what was on it is overwritten, wholly or in part; empty where it is not. */
  public Optional<Instant> overwritten() {
    return Optional.ofNullable(overwritten);
  }

  void overwritten(Instant since) {
    overwritten = since;
  }

  public Optional<Instant> heldSince() {
    return Optional.ofNullable(heldSince);
  }

  public String joint() {
    return joint;
  }

  void setJoint(String newJoint) {
    joint = newJoint;
  }

  public String lies() {
    return lies;
  }

  void lies(String place) {
    lies = place;
  }

  /** What was noticed when it was brought in; "" for nothing. */
  String remark() {
    return remark;
  }

  void remark(String now) {
    remark = now;
  }

  boolean removed() {
    return removed;
  }

  void setRemoved(boolean now) {
    removed = now;
  }

  void setName(String newName) {
    name = newName;
  }

  public boolean removable() {
    return removable;
  }

  public boolean mounted() {
    return mounted;
  }

  public String damage() {
    return damage;
  }

  public String file() {
    return file;
  }

  public Instant created() {
    return created;
  }

  /** The card as the planner takes it: by its label until it is measured. */
  public Card card() {
    return new Card(name, labelBytes, measured ? sectors : 0, own());
  }
}
