package lanternshed.core.transfer;

/** One end of a serial line that speaks a protocol; time is whatever its caller counts. */
interface LineEnd {
  /** Where bytes leave it. */
  interface Wire {
    void put(byte[] bytes);
  }

  /** A byte came. */
  void came(int value, long millis, Wire wire);

  /** Time has passed: something may be said again, or given up. */
  void waited(long millis, Wire wire);

  /** When it must be woken though nothing comes. */
  long wakeAt();

  /** How it ended; {@link Ending#NOT_YET} while it runs. */
  Ending ending();

  /** How a transfer ends. */
  enum Ending {
    NOT_YET,
    WHOLE,
    /** The other end said so, or this one after too many tries. */
    GIVEN_UP
  }
}
