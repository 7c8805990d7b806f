package lanternshed.core.boot;

import java.util.List;

/**
 * The start of a machine as it went: the code on a medium was run under this machine's firmware
 * until the system's loader was entered or something else ended it. It says what was seen, and no
 * more: that a system comes up behind its loader only the machine shows (B-10).
 *
 * @param ending how it ended
 * @param sentence the same in words
 * @param entered the loader's file; "" where none was entered
 * @param screen lines of the text screen, without what is empty below
 * @param reads each disk read in order, the first {@link #MOST_READS} of them
 * @param count of all reads
 * @param steps instructions that ran
 */
public record Rehearsal(
    Ending ending,
    String sentence,
    String entered,
    List<String> screen,
    List<Read> reads,
    long count,
    long steps) {

  /** More are counted and not listed. */
  public static final int MOST_READS = 400;

  /** How a rehearsal ended. */
  public enum Ending {
    /** The system's loader was entered, and its bytes there are those of its file. */
    ENTERED,
    /** It stands still, or goes round, with a message on the screen. */
    MESSAGE,
    /** It stands still, or goes round, without a word. */
    HANGS,
    /** It waits for a key. */
    ASKS,
    /** The firmware was told that there is nothing to start. */
    NO_SYSTEM,
    /** The processor does not have the instruction that it met. */
    FAULT,
    /** It was followed as far as code is followed here, and nothing had failed until then. */
    NOT_FOLLOWED,
    /** It was still running when the bound was reached. */
    BOUND;

    /** Whether it was seen that it starts nothing; of what was not followed nothing was seen. */
    public boolean fails() {
      return this != ENTERED && this != NOT_FOLLOWED;
    }
  }

  /**
   * One disk read.
   *
   * @param asked as the code asked for it: C/H/S or LBA
   * @param lba first sector
   * @param sectors how many
   * @param what lies there; "" where nothing is known of it
   * @param from where the code stood that asked
   * @param refused whether the firmware refused it
   * @param second whether it went to the second drive
   */
  public record Read(
      String asked,
      long lba,
      int sectors,
      String what,
      String from,
      boolean refused,
      boolean second) {}

  /** Whether it entered the loader. */
  public boolean starts() {
    return ending == Ending.ENTERED;
  }
}
