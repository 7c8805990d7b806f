package lanternshed.core.transfer;

import java.nio.charset.StandardCharsets;
import lanternshed.core.transfer.Kermit.Wishes;

/** Receives a file: answers each packet, asks again for what came spoiled or not at all. */
final class KermitReceiver extends LineReceiver {
  private final Kermit.Reader reader = new Kermit.Reader();
  private Wishes theirs = Wishes.mine('N');
  private int eighth;
  private boolean open;
  private boolean closed;
  private int expected;
  private int tries;
  private byte[] answer = new byte[0];

  /**
   * @param most bytes that are taken
   */
  KermitReceiver(int most) {
    super(most);
    wake = Kermit.PATIENCE;
  }

  @Override
  public void came(int value, long millis, Wire wire) {
    if (ending == Ending.GIVEN_UP) return;
    switch (reader.came(value)) {
      case PACKET -> packet(reader.packet(), millis, wire);
      case SPOILED -> {
        if (ending == Ending.NOT_YET) ask(reader.fault(), millis, wire);
      }
      default -> {
        // Not whole yet, or noise between two of them.
      }
    }
  }

  private void packet(Kermit.Packet p, long millis, Wire wire) {
    boolean due = ending == Ending.NOT_YET && p.number() == (expected & 0x3F);
    // A line that echoes brings back what was said here.
    if (p.type() == Kermit.YES || p.type() == Kermit.NO) return;
    if (p.type() == Kermit.ERROR) {
      log.note("the sender gave up: " + p.text());
      ending = Ending.GIVEN_UP;
    } else if (due) {
      take(p, millis, wire);
    } else if (p.number() == (expected - 1 & 0x3F) && answer.length > 0) {
      // Also behind the end: a sender whose last answer was lost would wait in vain.
      log.note("packet " + (expected - 1) + " came twice: its answer was lost");
      put(millis, wire);
    } else {
      giveUp("packet " + p.number() + " came where " + (expected & 0x3F) + " was due", wire);
    }
  }

  private void take(Kermit.Packet p, long millis, Wire wire) {
    byte[] says = new byte[0];
    switch (p.type()) {
      case Kermit.SEND -> {
        theirs = Wishes.of(p.data());
        // Their wish for a prefix is agreed to; by itself it asks for none.
        eighth = Wishes.agreed('Y', theirs.eighth());
        says = Wishes.mine(eighth == 0 ? 'N' : 'Y').data();
      }
      case Kermit.FILE -> {
        open = true;
        byte[] name = Kermit.plain(p.data(), theirs.quote(), eighth);
        log.note("a file comes: " + (name == null ? p.text() : printable(name)));
      }
      case Kermit.DATA -> {
        byte[] plain = open && !closed ? Kermit.plain(p.data(), theirs.quote(), eighth) : null;
        if (plain == null || file.size() + plain.length > most) {
          giveUp(plain == null ? "data came that mean nothing" : "more came than announced", wire);
          return;
        }
        file.writeBytes(plain);
      }
      case Kermit.EOF -> closed = true;
      case Kermit.BREAK -> {
        log.note("the end, after " + expected + " packets");
        ending = closed ? Ending.WHOLE : Ending.GIVEN_UP;
      }
      default -> {
        giveUp("a packet of type " + (char) p.type() + " is not of the base form", wire);
        return;
      }
    }
    answer = Kermit.over(expected, Kermit.YES, says, theirs);
    expected++;
    tries = 0;
    put(millis, wire);
  }

  private static String printable(byte[] name) {
    return new String(name, StandardCharsets.US_ASCII).replaceAll("[^ -~]", "?");
  }

  private void put(long millis, Wire wire) {
    wire.put(answer);
    wake = millis + Kermit.PATIENCE;
  }

  private void ask(String why, long millis, Wire wire) {
    log.note("packet " + expected + ": " + why);
    if (++tries > Kermit.TRIES) {
      giveUp("packet " + expected + " did not come in ten tries", wire);
      return;
    }
    wire.put(Kermit.over(expected, Kermit.NO, new byte[0], theirs));
    wake = millis + Kermit.PATIENCE;
  }

  private void giveUp(String why, Wire wire) {
    log.note(why);
    byte[] text = why.getBytes(StandardCharsets.US_ASCII);
    wire.put(Kermit.over(expected, Kermit.ERROR, text, theirs));
    ending = Ending.GIVEN_UP;
  }

  @Override
  public void waited(long millis, Wire wire) {
    if (ending != Ending.NOT_YET || millis < wake) return;
    String part = reader.unfinished();
    ask(part.isEmpty() ? "nothing came" : part, millis, wire);
  }

  @Override
  byte[] bad() {
    return reader.bad();
  }
}
