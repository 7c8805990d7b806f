package lanternshed.core.transfer;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import lanternshed.core.transfer.Kermit.Quoted;
import lanternshed.core.transfer.Kermit.Wishes;

/** Sends a file under a name; each packet waits for its answer. */
final class KermitSender extends LineSender {
  private final String name;
  private final int eighthWish;
  private final Kermit.Reader reader = new Kermit.Reader();
  private Wishes theirs = Wishes.mine('N');
  private int eighth;
  private byte type = Kermit.SEND;
  private int at;
  private int taken;
  private int number;
  private long wake;

  /**
   * @param sevenBits whether the line has no eighth bit, so that it asks for a prefix instead
   */
  KermitSender(byte[] file, String name, boolean sevenBits) {
    super(file);
    this.name = name;
    this.eighthWish = sevenBits ? Kermit.EIGHTH : 'Y';
  }

  @Override
  public void came(int value, long millis, Wire wire) {
    if (ending != Ending.NOT_YET || reader.came(value) != Kermit.Reader.Came.PACKET) return;
    Kermit.Packet p = reader.packet();
    boolean mine = p.number() == (number & 0x3F);
    // Who asks for the packet behind this one has this one.
    boolean behind = p.type() == Kermit.NO && p.number() == (number + 1 & 0x3F);
    if (p.type() == Kermit.ERROR) {
      ending = Ending.GIVEN_UP;
    } else if (p.type() == Kermit.YES && mine || behind && type != Kermit.SEND) {
      next(p, millis, wire);
    } else if (p.type() == Kermit.NO && mine) {
      again(millis, wire);
    }
    // An answer to an earlier packet was given twice: it changes nothing.
  }

  private void next(Kermit.Packet p, long millis, Wire wire) {
    tries = 0;
    switch (type) {
      case Kermit.SEND -> {
        theirs = Wishes.of(p.data());
        eighth = Wishes.agreed(eighthWish, theirs.eighth());
        if (eighth == 0 && eighthWish == Kermit.EIGHTH) {
          refuse("the eighth bit would be lost", millis, wire);
          return;
        }
        type = Kermit.FILE;
      }
      case Kermit.FILE, Kermit.DATA -> {
        at += taken;
        type = at < file.length ? Kermit.DATA : Kermit.EOF;
      }
      case Kermit.EOF -> type = Kermit.BREAK;
      default -> {
        number++;
        ending = Ending.WHOLE;
        return;
      }
    }
    number++;
    say(millis, wire);
  }

  private void say(long millis, Wire wire) {
    int room = theirs.longest() - Kermit.AROUND;
    taken = 0;
    byte[] data = new byte[0];
    if (type == Kermit.SEND) {
      data = Wishes.mine(eighthWish).data();
    } else if (type == Kermit.FILE) {
      byte[] letters = name.getBytes(StandardCharsets.US_ASCII);
      data = Kermit.quoted(letters, 0, room, Kermit.QUOTE, eighth).data();
    } else if (type == Kermit.DATA) {
      Quoted q = Kermit.quoted(file, at, room, Kermit.QUOTE, eighth);
      taken = q.bytes();
      data = q.data();
    }
    said = Kermit.over(number, type, data, theirs);
    put(millis, wire);
  }

  private void again(long millis, Wire wire) {
    if (++tries > Kermit.TRIES) {
      refuse("too many tries", millis, wire);
      return;
    }
    repeats++;
    put(millis, wire);
  }

  private void refuse(String why, long millis, Wire wire) {
    wire.put(Kermit.over(number, Kermit.ERROR, why.getBytes(StandardCharsets.US_ASCII), theirs));
    wake = millis;
    ending = Ending.GIVEN_UP;
  }

  private void put(long millis, Wire wire) {
    wire.put(said);
    wake = millis + Kermit.PATIENCE;
  }

  @Override
  public void waited(long millis, Wire wire) {
    if (ending != Ending.NOT_YET || millis < wake) return;
    if (said.length == 0) say(millis, wire);
    else again(millis, wire);
  }

  @Override
  public long wakeAt() {
    return wake;
  }

  @Override
  int number() {
    return number + 1;
  }

  @Override
  byte[] said() {
    // Without what is around a packet, which no receiver waits for.
    return Arrays.copyOfRange(said, theirs.pads(), said.length - 1);
  }
}
