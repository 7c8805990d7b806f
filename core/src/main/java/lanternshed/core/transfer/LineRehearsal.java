package lanternshed.core.transfer;

import java.util.ArrayDeque;
import java.util.Arrays;
import java.util.Deque;
import java.util.List;
import java.util.Random;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.transfer.LineEnd.Ending;

/**
 * A file over a line between two stand-ins that really speak its protocol: how long it takes, what
 * is said twice, and where it does not go through, why (T-9). The clock is the line's own.
 *
 * @param whole whether the receiver has the file, up to what fills its last block
 * @param millis of the line's time
 * @param blocks that came
 * @param repeats blocks that were said more than once
 * @param fill bytes that the file is longer by, where its length is not carried
 * @param log what the receiver noted
 * @param explains why it did not go through, from what came; "" where it did
 */
public record LineRehearsal(
    boolean whole,
    long millis,
    int blocks,
    int repeats,
    int fill,
    List<String> log,
    String explains) {

  /** A file that is longer would only say the same for longer. */
  public static final int MOST = 256 << 10;

  private static final long MICROS = 1_000_000;
  private static final long LONGEST = 7L * 24 * 3600 * 1000;

  /** What is wrong with a line apart from noise. */
  public enum Trouble {
    NONE("nothing"),
    SOFTWARE_FLOW("XON and XOFF are on"),
    SEVEN_BITS("seven bits a byte");

    private final String words;

    Trouble(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }

  /** One way of the line: bytes arrive one after the other, a few of them otherwise. */
  private static final class Way {
    private final Deque<long[]> bytes = new ArrayDeque<>();
    private final double micros;
    private final double perBit;
    private final Trouble trouble;
    private final Random noise;
    private double free;

    Way(SerialLine line, Trouble trouble, long seed) {
      this.micros = (double) line.frame() * MICROS / line.rate();
      this.perBit = line.errors() / 1e6;
      this.trouble = trouble;
      this.noise = new Random(seed);
    }

    void put(byte[] said, double now) {
      free = Math.max(free, now);
      for (byte b : said) {
        free += micros;
        int v = b & 0xFF;
        for (int bit = 0; bit < 8; bit++) {
          if (perBit > 0 && noise.nextDouble() < perBit) v ^= 1 << bit;
        }
        if (trouble == Trouble.SEVEN_BITS) v &= 0x7F;
        // A driver that keeps these for itself never hands them on.
        if (trouble == Trouble.SOFTWARE_FLOW && (v == 0x11 || v == 0x13)) continue;
        bytes.add(new long[] {(long) Math.ceil(free), v});
      }
    }

    long next() {
      return bytes.isEmpty() ? Long.MAX_VALUE : bytes.peek()[0];
    }
  }

  /**
   * Sends a file over a line.
   *
   * @throws ShedException for a file of more than {@link #MOST}
   */
  public static LineRehearsal of(byte[] file, SerialLine line, Trouble trouble, long seed) {
    if (file.length > MOST) {
      throw new ShedException("A rehearsal takes a file of 256 KiB at most; take a part of it.");
    }
    LineSender sender = line.protocol().sender(file);
    LineReceiver receiver = line.protocol().receiver(MOST + Xmodem.LONG);
    long micros = run(sender, receiver, line, trouble, seed);
    byte[] got = receiver.file();
    boolean whole =
        receiver.ending() == Ending.WHOLE
            && got.length >= file.length
            && Arrays.equals(file, Arrays.copyOf(got, file.length));
    return new LineRehearsal(
        whole,
        micros / 1000,
        sender.number() - 1,
        sender.repeats(),
        whole ? got.length - file.length : 0,
        receiver.log(),
        whole ? "" : explained(line.protocol(), sender, receiver));
  }

  private static long run(
      LineSender sender, LineReceiver receiver, SerialLine line, Trouble trouble, long seed) {
    Way over = new Way(line, trouble, seed);
    Way back = new Way(line, trouble, seed + 1);
    long turn = line.turnaround() * 500L;
    long now = 0;
    while (receiver.ending() == Ending.NOT_YET || sender.ending() == Ending.NOT_YET) {
      long byClock = Math.min(wake(receiver), wake(sender));
      now = Math.max(now, Math.min(Math.min(over.next(), back.next()), byClock));
      if (now / 1000 > LONGEST) break;
      double then = now + (double) turn;
      long millis = now / 1000;
      if (over.next() <= now) {
        receiver.came((int) over.bytes.poll()[1], millis, b -> back.put(b, then));
      } else if (back.next() <= now) {
        sender.came((int) back.bytes.poll()[1], millis, b -> over.put(b, then));
      } else {
        receiver.waited(millis, b -> back.put(b, then));
        sender.waited(millis, b -> over.put(b, then));
      }
    }
    return now;
  }

  private static long wake(LineEnd end) {
    return end.ending() == Ending.NOT_YET ? end.wakeAt() * 1000 : Long.MAX_VALUE;
  }

  /** From the block that did not come, as it was said and as it came. */
  private static String explained(
      SerialLine.Protocol protocol, LineSender sender, LineReceiver receiver) {
    byte[] said = sender.said();
    byte[] came = receiver.bad();
    if (came.length == 0) return "Nothing came: look at the cable, the rate and who sends first.";
    int eaten = 0;
    for (byte b : said) if (b == 0x11 || b == 0x13) eaten++;
    boolean sevens = true;
    for (byte b : came) sevens &= b >= 0;
    if (sevens && came.length == said.length) {
      return "Every byte came without its highest bit: the line is set to seven bits a byte. Set"
          + " eight bits and no parity at both ends"
          + (protocol.quotes() ? ", or have the eighth bit quoted." : ".");
    }
    if (eaten > 0 && came.length == said.length - eaten) {
      return "Block "
          + sender.number()
          + " came short by "
          + Say.plural(eaten, "byte", "bytes")
          + ", as many as it has of 11 and 13: one end keeps them for XON and XOFF. Turn software"
          + " flow control off at both ends.";
    }
    return "Block "
        + sender.number()
        + " came spoiled each time: too much noise for blocks of this length. Take a lower rate, a"
        + " shorter cable or shorter blocks.";
  }
}
