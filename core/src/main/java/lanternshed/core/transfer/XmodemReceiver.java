package lanternshed.core.transfer;

import java.util.Arrays;

/** Receives a file: asks for a CRC first where it is wanted, and falls back to a sum. */
final class XmodemReceiver extends LineReceiver {
  private static final long ASK_CRC = 3_000;
  private static final long ASK = 10_000;

  /** No byte for so long ends a block, and the noise behind a bad one. */
  private static final long GAP = 1_000;

  private static final int MOST_CRC_ASKS = 4;

  private final byte[] block = new byte[3 + Xmodem.LONG + 2];
  private boolean crc;
  private int have;
  private boolean purging;
  private String fault = "";
  private int expected = 1;
  private int asks;
  private int tries;
  private boolean begun;
  private boolean ended;

  /** The last block that did not come, as it came. */
  private byte[] bad = new byte[0];

  /**
   * @param most bytes that are taken
   */
  XmodemReceiver(boolean crc, int most) {
    super(most);
    this.crc = crc;
  }

  @Override
  public void came(int value, long millis, Wire wire) {
    if (ending != Ending.NOT_YET) return;
    wake = millis + GAP;
    if (purging) {
      if (have < block.length) block[have++] = (byte) value;
      return;
    }
    if (have == 0) {
      first(value, millis, wire);
      return;
    }
    block[have++] = (byte) value;
    if (have == Xmodem.length(block[0], crc)) whole(millis, wire);
  }

  private void first(int value, long millis, Wire wire) {
    switch (value) {
      case Xmodem.SOH, Xmodem.STX -> {
        begun = true;
        block[have++] = (byte) value;
      }
      case Xmodem.EOT -> {
        // A block's mark that was spoiled must not end a file: it is asked for once more.
        if (!ended && begun) {
          ended = true;
          say(Xmodem.NAK, millis, wire);
          return;
        }
        wire.put(new byte[] {Xmodem.ACK});
        log.note("the end, after " + (expected - 1) + " blocks");
        ending = Ending.WHOLE;
      }
      case Xmodem.CAN -> {
        log.note("the sender gave up");
        ending = Ending.GIVEN_UP;
      }
      default -> spoiled("no block begins with " + hex(value), value);
    }
  }

  private void whole(long millis, Wire wire) {
    int length = block[0] == Xmodem.STX ? Xmodem.LONG : Xmodem.SHORT;
    int number = block[1] & 0xFF;
    int other = ~block[2] & 0xFF;
    boolean right =
        crc
            ? Xmodem.crc(block, 3, length)
                == ((block[3 + length] & 0xFF) << 8 | block[4 + length] & 0xFF)
            : Xmodem.sum(block, 3, length) == (block[3 + length] & 0xFF);
    if (number != other) {
      spoiled("its number and the complement differ", -1);
    } else if (!right) {
      spoiled(crc ? "its CRC is wrong" : "its sum is wrong", -1);
    } else if (number == (expected & 0xFF)) {
      if (file.size() + length > most) {
        giveUp("more came than was announced", wire);
        return;
      }
      file.write(block, 3, length);
      expected++;
      tries = 0;
      taken(millis, wire);
    } else if (number == (expected - 1 & 0xFF)) {
      log.note("block " + (expected - 1) + " came twice: its answer was lost");
      taken(millis, wire);
    } else {
      giveUp("block " + number + " came where " + expected + " was due", wire);
    }
  }

  private void taken(long millis, Wire wire) {
    have = 0;
    ended = false;
    say(Xmodem.ACK, millis, wire);
  }

  /** What comes until the line is quiet belongs to the bad block. */
  private void spoiled(String why, int value) {
    fault = why;
    purging = true;
    if (value >= 0) block[have++] = (byte) value;
  }

  private void giveUp(String why, Wire wire) {
    log.note(why);
    wire.put(new byte[] {Xmodem.CAN, Xmodem.CAN, Xmodem.CAN});
    ending = Ending.GIVEN_UP;
  }

  @Override
  public void waited(long millis, Wire wire) {
    if (ending != Ending.NOT_YET || millis < wake) return;
    if (!begun && have == 0) {
      ask(millis, wire);
      return;
    }
    if (have > 0) {
      bad = Arrays.copyOf(block, have);
      if (!purging) fault = "only " + have + " bytes of it came";
      log.note("block " + expected + ": " + fault);
    } else {
      log.note("block " + expected + ": nothing came");
    }
    have = 0;
    purging = false;
    if (++tries > Xmodem.TRIES) giveUp("block " + expected + " did not come in ten tries", wire);
    else say(Xmodem.NAK, millis, wire);
  }

  private void ask(long millis, Wire wire) {
    if (++asks > MOST_CRC_ASKS + Xmodem.TRIES) {
      giveUp("nobody sends", wire);
      return;
    }
    if (crc && asks > MOST_CRC_ASKS) {
      log.note("nobody answers to a CRC: asking for a sum");
      crc = false;
    }
    wire.put(new byte[] {(byte) (crc ? Xmodem.CRC : Xmodem.NAK)});
    wake = millis + (crc ? ASK_CRC : ASK);
  }

  private void say(int what, long millis, Wire wire) {
    wire.put(new byte[] {(byte) what});
    wake = millis + ASK;
  }

  private static String hex(int value) {
    return String.format("%02X", value);
  }

  @Override
  byte[] bad() {
    return bad.clone();
  }
}
