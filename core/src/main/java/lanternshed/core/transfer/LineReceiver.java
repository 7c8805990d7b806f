package lanternshed.core.transfer;

import java.io.ByteArrayOutputStream;
import java.util.List;

/** The end of a line that gets the file. */
abstract class LineReceiver implements LineEnd {
  final ByteArrayOutputStream file = new ByteArrayOutputStream();
  final LineLog log = new LineLog();

  /** Bytes that are taken. */
  final int most;

  long wake;
  Ending ending = Ending.NOT_YET;

  LineReceiver(int most) {
    this.most = most;
  }

  /** The last block that did not come, as it came; empty where each came. */
  abstract byte[] bad();

  /** What came, with what fills the last block where a protocol carries no length. */
  final byte[] file() {
    return file.toByteArray();
  }

  /** What it noted, in the order of time. */
  final List<String> log() {
    return log.lines();
  }

  @Override
  public final long wakeAt() {
    return wake;
  }

  @Override
  public final Ending ending() {
    return ending;
  }
}
