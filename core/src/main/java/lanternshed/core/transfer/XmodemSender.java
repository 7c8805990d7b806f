package lanternshed.core.transfer;

/** Sends a file; whether with a sum or a CRC the receiver chooses by what it asks for first. */
final class XmodemSender extends LineSender {
  /** The receiver asks again by itself; a sender that hears nothing for a minute gives up. */
  static final long PATIENCE = 60_000;

  private final boolean longBlocks;
  private boolean begun;
  private boolean crc;
  private int at;
  private int number = 1;
  private int cancels;
  private long heard;

  XmodemSender(byte[] file, boolean longBlocks) {
    super(file);
    this.longBlocks = longBlocks;
  }

  @Override
  public void came(int value, long millis, Wire wire) {
    if (ending != Ending.NOT_YET) return;
    cancels = value == Xmodem.CAN ? cancels + 1 : 0;
    if (cancels == 2) {
      ending = Ending.GIVEN_UP;
      return;
    }
    if (!begun) {
      if (value != Xmodem.CRC && value != Xmodem.NAK) return;
      begun = true;
      crc = value == Xmodem.CRC;
      heard = millis;
      say(wire);
      return;
    }
    boolean atStart = value == Xmodem.CRC && at == 0;
    if (value == Xmodem.ACK) {
      heard = millis;
      next(wire);
    } else if (value == Xmodem.NAK || atStart) {
      heard = millis;
      again(wire);
    }
    // Anything else is noise: the receiver asks again where it missed something.
  }

  private void next(Wire wire) {
    tries = 0;
    if (at >= file.length) {
      ending = Ending.WHOLE;
      return;
    }
    at += length();
    number++;
    say(wire);
  }

  /** Long blocks while as much as one is left; a short tail goes in short ones. */
  private int length() {
    boolean asLong = longBlocks && crc && file.length - at >= Xmodem.LONG;
    return asLong ? Xmodem.LONG : Xmodem.SHORT;
  }

  private void say(Wire wire) {
    said =
        at >= file.length ? new byte[] {Xmodem.EOT} : Xmodem.block(file, at, length(), number, crc);
    wire.put(said);
  }

  private void again(Wire wire) {
    if (++tries > Xmodem.TRIES) {
      wire.put(new byte[] {Xmodem.CAN, Xmodem.CAN, Xmodem.CAN});
      ending = Ending.GIVEN_UP;
      return;
    }
    if (said.length > 1) repeats++;
    wire.put(said);
  }

  @Override
  public void waited(long millis, Wire wire) {
    if (ending == Ending.NOT_YET && millis >= wakeAt()) ending = Ending.GIVEN_UP;
  }

  @Override
  public long wakeAt() {
    return heard + PATIENCE;
  }

  @Override
  int number() {
    return number;
  }
}
