package lanternshed.server.roms;

import jakarta.persistence.Entity;
import jakarta.persistence.Table;
import java.time.Instant;
import lanternshed.core.cpu.Level;
import lanternshed.core.rom.RomFacts;
import lanternshed.server.shell.Removable;
import org.hibernate.annotations.OptimisticLock;

/** An image of a ROM; its bytes never change. Taken out it is only hidden (O-12). */
@Entity
@Table(name = "rom")
class RomEntity extends Removable {
  private String name;
  private String note = "";
  private String sha256;
  private byte[] bytes;
  private int size;
  private String what;
  private String fault;
  private String madeFrom;
  private String place = "";

  /** Follows from the bytes: who has the page open need not look again. */
  @OptimisticLock(excluded = true)
  private String needs = "";

  private int drives;
  private Long jobId;
  private Instant at;

  protected RomEntity() {}

  RomEntity(String name, byte[] bytes, RomFacts facts, String madeFrom, Instant at) {
    this.name = name;
    this.bytes = bytes.clone();
    this.sha256 = facts.sha256();
    this.size = facts.bytes();
    this.what = facts.what();
    this.fault = facts.fault();
    this.madeFrom = madeFrom;
    this.at = at;
  }

  String name() {
    return name;
  }

  String note() {
    return note;
  }

  void write(String newName, String newNote, int newDrives) {
    name = newName;
    note = newNote;
    drives = newDrives;
  }

  /** How many drives it serves, as somebody says; 0 where nobody did. */
  int drives() {
    return drives;
  }

  String sha256() {
    return sha256;
  }

  byte[] bytes() {
    return bytes.clone();
  }

  /** What was done to which image, in words; "" for one that was brought in. */
  String madeFrom() {
    return madeFrom;
  }

  /** {@link RomService.RomPlace} as JSON; "" where nobody chose. */
  String place() {
    return place;
  }

  void setPlace(String json) {
    place = json;
  }

  /** Name of the least {@link Level} that it needs; "" where that was not looked at. */
  String needs() {
    return needs;
  }

  void setNeeds(String level) {
    needs = level;
  }

  /** The job whose machine it goes into; null for none. */
  Long jobId() {
    return jobId;
  }

  void setJobId(Long id) {
    jobId = id;
  }

  Instant at() {
    return at;
  }
}
