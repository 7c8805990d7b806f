package lanternshed.core.volume;

/** Passes a file's bytes on and says how far it is, within a long one too. */
public final class Told implements Sink {
  /** So many bytes at most between two words about it. */
  public static final int STEP = 16 << 20;

  private final Sink to;
  private final String path;
  private final Maker.Watch watch;
  private long untold;

  public Told(Sink to, String path, Maker.Watch watch) {
    this.to = to;
    this.path = path;
    this.watch = watch;
  }

  @Override
  public void take(byte[] b, int at, int length) {
    to.take(b, at, length);
    passed(length);
  }

  /** So many bytes went another way. */
  void passed(long bytes) {
    untold += bytes;
    if (untold >= STEP) end();
  }

  /** The file is whole: says what was not said yet, at least that it is there. */
  public void end() {
    watch.wrote(path, untold);
    untold = 0;
  }
}
