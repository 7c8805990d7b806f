package lanternshed.core.transfer;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import lanternshed.core.transfer.Kermit.Wishes;
import lanternshed.core.transfer.LineEnd.Ending;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Packets by themselves, and an end that meets another which does not do as it should. */
class KermitTest {
  private static final Wishes PLAIN = Wishes.mine('N');

  private final List<byte[]> said = new ArrayList<>();
  private final LineEnd.Wire wire = said::add;

  private static byte[] noise(int bytes, long seed) {
    byte[] b = new byte[bytes];
    new Random(seed).nextBytes(b);
    return b;
  }

  private void hear(LineEnd end, byte[] bytes) {
    for (byte b : bytes) end.came(b & 0xFF, 0, wire);
  }

  private static byte[] packet(int number, byte type, String data) {
    return Kermit.over(number, type, data.getBytes(StandardCharsets.ISO_8859_1), PLAIN);
  }

  /** Type of the last packet that was said. */
  private char last() {
    byte[] b = said.get(said.size() - 1);
    return (char) b[3];
  }

  private static int number(byte[] packet) {
    return packet[2] - ' ';
  }

  @ParameterizedTest
  @ValueSource(ints = {0, '&'})
  void everyByteComesBackFromItsQuotesWhateverRoomThereIs(int eighth) {
    byte[] all = noise(4096, 1);
    for (int i = 0; i < 256; i++) all[i] = (byte) i;
    for (int room : new int[] {3, 7, 91}) {
      int at = 0;
      while (at < all.length) {
        Kermit.Quoted q = Kermit.quoted(all, at, room, '#', eighth);
        assertThat(q.bytes()).as("it goes on").isPositive();
        assertThat(q.data().length).isLessThanOrEqualTo(room);
        for (byte b : q.data()) {
          int low = b & 0x7F;
          assertThat(low).as("nothing that a line keeps").isBetween(0x20, 0x7E);
          if (eighth != 0) assertThat(b).isPositive();
        }
        byte[] back = Kermit.plain(q.data(), '#', eighth);
        for (int i = 0; i < q.bytes(); i++) assertThat(back[i]).isEqualTo(all[at + i]);
        at += q.bytes();
      }
    }
    assertThat(Kermit.plain(new byte[] {'A', '#'}, '#', eighth)).isNull();
  }

  @Test
  void theCheckIsThatOfThePublishedExample() {
    // A packet without data: LEN 3, SEQ 0, TYPE Y; # + space + Y = 156, folded to 30.
    byte[] b = packet(0, Kermit.YES, "");
    assertThat(new String(b, StandardCharsets.ISO_8859_1)).isEqualTo("\u0001# Y>\r");
  }

  @ParameterizedTest
  @CsvSource({"Y, N, 0", "Y, &, 38", "&, Y, 38", "&, &, 38", "&, N, 0", "N, &, 0", "Y, Y, 0"})
  void theEighthBitIsQuotedWhereBothAgree(char mine, char theirs, int prefix) {
    assertThat(Wishes.agreed(mine, theirs)).isEqualTo(prefix);
  }

  @Test
  void wishesThatAreLeftOutOrMeanNothingAreThoseOfTheManual() {
    Wishes none = Wishes.of(new byte[0]);
    assertThat(none.longest()).isEqualTo(80);
    assertThat(none.quote()).isEqualTo('#');
    assertThat(none.end()).isEqualTo(Kermit.END);
    for (int seed = 0; seed < 1000; seed++) {
      Wishes w = Wishes.of(noise(new Random(seed).nextInt(12), seed));
      assertThat(w.longest()).isBetween(10, Kermit.LONGEST);
      assertThat(w.pads()).isBetween(0, 95);
      byte[] over = Kermit.over(5, Kermit.DATA, new byte[7], w);
      assertThat(over.length).isLessThan(200);
    }
  }

  @Test
  void aSenderGoesOnByAnswersAndByWhatIsAskedBehind() {
    KermitSender s = new KermitSender(noise(200, 2), "WEIR.BIN", false);
    s.waited(0, wire);
    assertThat(last()).isEqualTo('S');
    hear(s, packet(0, Kermit.NO, ""));
    assertThat(last()).as("asked again").isEqualTo('S');
    assertThat(s.repeats()).isEqualTo(1);
    hear(s, packet(0, Kermit.YES, ""));
    assertThat(last()).isEqualTo('F');
    hear(s, packet(0, Kermit.YES, ""));
    assertThat(said).as("an answer that comes twice changes nothing").hasSize(3);
    // Who asks for the third has the second.
    hear(s, packet(2, Kermit.NO, ""));
    assertThat(last()).isEqualTo('D');
    hear(s, packet(2, Kermit.ERROR, "full"));
    assertThat(s.ending()).isEqualTo(Ending.GIVEN_UP);
  }

  @Test
  void aSenderOnSevenBitsRefusesAnEndThatCannotQuote() {
    KermitSender s = new KermitSender(noise(10, 3), "A", true);
    s.waited(0, wire);
    hear(s, packet(0, Kermit.YES, "~* @-#N1"));
    assertThat(last()).isEqualTo('E');
    assertThat(s.ending()).isEqualTo(Ending.GIVEN_UP);
  }

  @Test
  void whoNeverAnswersIsAskedTenTimesAndThenLeft() {
    KermitSender s = new KermitSender(noise(10, 3), "A", false);
    KermitReceiver r = new KermitReceiver(100);
    for (int i = 0; i < 20 && s.ending() == Ending.NOT_YET; i++) s.waited(s.wakeAt(), wire);
    for (int i = 0; i < 20 && r.ending() == Ending.NOT_YET; i++) r.waited(r.wakeAt(), wire);
    assertThat(s.ending()).isEqualTo(Ending.GIVEN_UP);
    assertThat(s.repeats()).isEqualTo(Kermit.TRIES);
    assertThat(r.ending()).isEqualTo(Ending.GIVEN_UP);
    assertThat(r.log()).contains("packet 0: nothing came, 11 times");
  }

  @Test
  void aReceiverAnswersAgainWhatCameTwiceAndDoesNotTakeItTwice() {
    KermitReceiver r = new KermitReceiver(1000);
    hear(r, packet(0, Kermit.SEND, "~* @-#Y1"));
    hear(r, packet(1, Kermit.FILE, "WEIR.BIN"));
    hear(r, packet(2, Kermit.DATA, "reed"));
    hear(r, packet(2, Kermit.DATA, "reed"));
    // Its own answers come back where the line echoes.
    hear(r, packet(2, Kermit.YES, ""));
    byte[] spoiled = packet(3, Kermit.DATA, "more");
    spoiled[5] ^= 1;
    hear(r, spoiled);
    assertThat(last()).isEqualTo('N');
    assertThat(number(said.get(said.size() - 1))).isEqualTo(3);
    hear(r, packet(3, Kermit.EOF, ""));
    hear(r, packet(4, Kermit.BREAK, ""));
    assertThat(r.ending()).isEqualTo(Ending.WHOLE);
    assertThat(r.file()).isEqualTo("reed".getBytes(StandardCharsets.US_ASCII));
    assertThat(r.log()).anyMatch(l -> l.contains("came twice"));
    int before = said.size();
    hear(r, packet(4, Kermit.BREAK, ""));
    assertThat(said).as("its last answer was lost").hasSize(before + 1);
  }

  @Test
  void whatIsLongerThanAnnouncedOrOutOfTurnEndsIt() {
    KermitReceiver r = new KermitReceiver(3);
    hear(r, packet(0, Kermit.SEND, ""));
    hear(r, packet(1, Kermit.FILE, "A"));
    hear(r, packet(2, Kermit.DATA, "four"));
    assertThat(r.ending()).isEqualTo(Ending.GIVEN_UP);
    assertThat(r.log()).contains("more came than announced");
    KermitReceiver out = new KermitReceiver(3);
    hear(out, packet(0, Kermit.SEND, ""));
    hear(out, packet(9, Kermit.FILE, "A"));
    assertThat(out.log()).contains("packet 9 came where 1 was due");
    KermitReceiver odd = new KermitReceiver(3);
    hear(odd, packet(0, (byte) 'Q', ""));
    assertThat(odd.log()).contains("a packet of type Q is not of the base form");
  }
}
