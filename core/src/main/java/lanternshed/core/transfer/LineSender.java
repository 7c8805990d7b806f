package lanternshed.core.transfer;

/** The end of a line that has the file. */
abstract class LineSender implements LineEnd {
  final byte[] file;

  /** What it said last, with all that goes over. */
  byte[] said = new byte[0];

  /** How often the same was said without a right answer. */
  int tries;

  int repeats;
  Ending ending = Ending.NOT_YET;

  LineSender(byte[] file) {
    this.file = file;
  }

  /** The block that it stands at, from 1. */
  abstract int number();

  /** What it said last, without what is around a block. */
  byte[] said() {
    return said.clone();
  }

  /** Blocks that were said more than once. */
  final int repeats() {
    return repeats;
  }

  @Override
  public final Ending ending() {
    return ending;
  }
}
