package lanternshed.core.table.library;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.DiskRow;

/**
 * The form of a library's header, as data.
 *
 * @param name in words
 * @param header bytes before the first disk
 * @param first byte of the first entry
 * @param entry bytes of an entry
 * @param title bytes of its title, from its first
 * @param flag byte of an entry that says what is there
 * @param locked the flag's value of a disk that must not be written
 * @param open of one that may
 * @param blank of one that was never formatted
 * @param none of a place that is none
 * @param disk bytes of a disk
 * @param holds published name of its disks' filesystem
 * @param most entries that the header has
 */
record Form(
    String name,
    int header,
    int first,
    int entry,
    int title,
    int flag,
    int locked,
    int open,
    int blank,
    int none,
    int disk,
    String holds,
    int most)
    implements DiskRow {
  private static final int SECTOR = 512;

  @Override
  public long diskSectors() {
    return disk / SECTOR;
  }

  @Override
  public long start(int number) {
    return header / SECTOR + number * diskSectors();
  }

  @Override
  public long sectors(int places) {
    return start(places);
  }

  @Override
  public int count(Medium file) {
    return (int) Math.max(0, Math.min(most, (file.bytes() - header) / disk));
  }

  private int at(int number) {
    return first + number * entry;
  }

  @Override
  public Slot slot(Medium file, int number) {
    return slot(file.sectors(0, header / SECTOR), number);
  }

  /** What a header says of a place; NONE for a flag of no meaning. */
  Slot slot(byte[] head, int number) {
    int at = at(number);
    int said = head[at + flag] & 0xFF;
    State state =
        said == locked
            ? State.LOCKED
            : said == open ? State.OPEN : said == blank ? State.BLANK : State.NONE;
    if (!state.disk()) return new Slot("", state);
    StringBuilder out = new StringBuilder();
    for (int i = at; i < at + title && head[i] != 0; i++) {
      out.append(head[i] >= 0x20 && head[i] < 0x7F ? (char) head[i] : '_');
    }
    return new Slot(out.toString().stripTrailing(), state);
  }

  /** Whether every flag of a header means something. */
  boolean sensible(byte[] head) {
    for (int i = 0; i < most; i++) {
      int said = head[at(i) + flag] & 0xFF;
      if (said != locked && said != open && said != blank && said != none) return false;
    }
    return true;
  }

  @Override
  public void enter(Medium file, int number, Slot slot) {
    byte[] head = file.sectors(0, header / SECTOR);
    int at = at(number);
    byte[] letters = title(slot.title()).getBytes(StandardCharsets.US_ASCII);
    Arrays.fill(head, at, at + title, (byte) 0);
    System.arraycopy(letters, 0, head, at, letters.length);
    head[at + flag] =
        (byte)
            switch (slot.state()) {
              case OPEN -> open;
              case LOCKED -> locked;
              case BLANK -> blank;
              case NONE -> none;
            };
    file.write(0, header / SECTOR, head, 0);
  }

  @Override
  public void end(Medium file) {
    for (int i = count(file); i < most; i++) enter(file, i, new Slot("", State.NONE));
  }

  @Override
  public String title(String wanted) {
    String s = wanted.replaceAll("[^\\x20-\\x7E]", "_").strip();
    return s.length() <= title ? s : s.substring(0, title).strip();
  }
}
