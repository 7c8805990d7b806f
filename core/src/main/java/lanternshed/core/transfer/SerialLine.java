package lanternshed.core.transfer;

import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.measure.Sum;

/**
 * A serial line over which a block protocol is spoken: each block waits for its acknowledgement.
 *
 * @param rate bits a second
 * @param frame bits on the line for a byte: start, eight of data, stops; 10 as a rule
 * @param turnaround milliseconds that both ends together think about one block
 * @param errors wrong bits among a million
 */
public record SerialLine(Protocol protocol, int rate, int frame, int turnaround, int errors) {
  private static final int MOST_RATE = 10_000_000;

  /**
   * What a block carries, and what goes over the line for it.
   *
   * <p>Lengths are those of the published descriptions: SOH, number, its complement and a sum or a
   * CRC of two bytes; and packets of at most 94 with a mark and a line end, whose control
   * characters are doubled: 68 of 256 values where the bytes are of every kind. Where the eighth
   * bit is quoted too, 70 of them are doubled and one half of all is one longer: 91 characters hold
   * 91 × 256 ÷ 324 bytes, or 91 × 256 ÷ 454.
   */
  public enum Protocol {
    XMODEM("XMODEM with a sum", 128, 132, 1, 20),
    XMODEM_CRC("XMODEM with a CRC", 128, 133, 1, 20),
    XMODEM_1K("XMODEM, blocks of 1 KiB", 1024, 1029, 1, 20),
    KERMIT("Kermit, short packets", 72, 97, 6, 0),
    KERMIT_SEVEN("Kermit, eighth bit quoted", 51, 97, 6, 0);

    private final String words;
    private final int data;
    private final int block;
    private final int answer;
    private final int typing;

    /**
     * @param typing seconds a file, where its name is typed at both ends
     */
    Protocol(String words, int data, int block, int answer, int typing) {
      this.words = words;
      this.data = data;
      this.block = block;
      this.answer = answer;
      this.typing = typing;
    }

    public String words() {
      return words;
    }

    /** Bytes of a file that a block carries. */
    int data() {
      return data;
    }

    /** Whether it quotes what is no printable character. */
    boolean quotes() {
      return this == KERMIT || this == KERMIT_SEVEN;
    }

    /** An end that has a file to send. */
    LineSender sender(byte[] file) {
      return quotes()
          ? new KermitSender(file, "REHEARSE.BIN", this == KERMIT_SEVEN)
          : new XmodemSender(file, this == XMODEM_1K);
    }

    /**
     * An end that waits for a file.
     *
     * @param most bytes that it takes
     */
    LineReceiver receiver(int most) {
      return quotes() ? new KermitReceiver(most) : new XmodemReceiver(this != XMODEM, most);
    }
  }

  public SerialLine {
    if (rate < 50 || rate > MOST_RATE) {
      throw new ShedException("A serial line has between 50 and 10 000 000 bits a second.");
    }
    if (frame < 9 || frame > 12 || turnaround < 0 || turnaround > 60_000) {
      throw new ShedException(
          "A byte takes 9 to 12 bits on the line, and a turn a minute at most.");
    }
    if (errors < 0 || errors > 1000) {
      throw new ShedException("With more than 1 000 wrong bits in a million nothing gets through.");
    }
  }

  Road road(Load load) {
    long last = load.files() == 0 ? 0 : Math.max(0, load.files() - 1);
    // Each file ends within a block, half full on average.
    long blocks = ceil(load.bytes(), protocol.data) + last / 2;
    if (protocol.quotes()) blocks += 3L * load.files();
    int onLine = protocol.block + protocol.answer;
    double once = (double) onLine * frame / rate + turnaround / 1000.0;
    // A block comes through only where none of its bits is wrong.
    double good = Math.pow(1 - errors / 1e6, (double) onLine * frame);
    double seconds = blocks * once / good + (double) protocol.typing * load.files();
    String share =
        Math.round(100.0 * protocol.data * frame / rate / (once / good)) + " % of the line's rate";
    Sum sum =
        Sum.of("T-9", "Hours over the line")
            .bytes("", "of " + Say.plural(load.files(), "file", "files"), load.bytes())
            .line("÷", "bytes that a block carries", protocol.data)
            .line("=", "blocks, with those at the files' ends", blocks)
            .note(
                "a block and its answer",
                onLine + " B of " + frame + " bits at " + Say.count(rate) + " bits a second")
            .note("thinking about a block", turnaround + " ms")
            .note("blocks that come through at once", percent(good))
            .note("typing names", protocol.typing + " s a file")
            .line("=", "all of it", Math.round(seconds), Say.seconds(Math.round(seconds)))
            .because("Each block waits for its answer, so short blocks and slow turns cost most.")
            .done();
    return new Road("serial line, " + protocol.words(), Math.round(seconds), share, sum);
  }

  private static String percent(double part) {
    return String.format(java.util.Locale.ROOT, "%.1f %%", part * 100);
  }

  static long ceil(long a, long b) {
    return a / b + (a % b == 0 ? 0 : 1);
  }
}
