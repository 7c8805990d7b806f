package lanternshed.core.transfer;

import java.util.List;

/** The end of a line that gets the file. */
interface LineReceiver extends LineEnd {
  /** What came, with what fills the last block where a protocol carries no length. */
  byte[] file();

  /** What it noted, in the order of time. */
  List<String> log();

  /** The last block that did not come, as it came; empty where each came. */
  byte[] bad();
}
