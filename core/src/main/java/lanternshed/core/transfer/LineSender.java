package lanternshed.core.transfer;

/** The end of a line that has the file. */
interface LineSender extends LineEnd {
  /** Blocks that were said more than once. */
  int repeats();

  /** The block that it stands at, from 1. */
  int number();

  /** What it said last, as it went over the line. */
  byte[] said();
}
