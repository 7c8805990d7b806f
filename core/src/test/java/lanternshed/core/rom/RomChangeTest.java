package lanternshed.core.rom;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.Random;
import org.junit.jupiter.api.Test;

class RomChangeTest {
  private static byte[] option() {
    byte[] b = new byte[2048];
    b[0] = 0x55;
    b[1] = (byte) 0xAA;
    b[2] = 4;
    b[3] = (byte) 0xCB;
    byte[] text = "Mill drive ROM 1.3".getBytes(StandardCharsets.US_ASCII);
    System.arraycopy(text, 0, b, 0x40, text.length);
    java.util.Arrays.fill(b, 0x400, 0x600, (byte) 0xFF);
    return RomFacts.corrected(b);
  }

  @Test
  void eachPlaceIsToldWithWhatItMeans() {
    byte[] after = option();
    after[2] = 3;
    after[0x51] = '4';
    after[0x200] = 9;
    after[0x204] = 9;
    for (int i = 0x500; i < 0x508; i++) after[i] = 1;
    RomChange c = RomChange.of(option(), after);
    assertThat(c.bytes()).isEqualTo(12);
    assertThat(c.places())
        .extracting(RomChange.Place::means)
        .containsExactly(
            "the length byte",
            "in the text “Mill drive ROM 1.4”",
            "settings or code",
            "settings or code",
            "was blank");
    assertThat(c.places().get(1).before()).isEqualTo("33");
    assertThat(c.sentence()).contains("12 bytes differ in 5 places").contains("correct the last");
    byte[] right = option();
    right[0x200] = 9;
    RomChange sum = RomChange.of(option(), RomFacts.corrected(right));
    assertThat(sum.places().get(1).means()).isEqualTo("the byte that makes the sum right");
    assertThat(sum.sentence()).endsWith("Both sums are 00.");
  }

  @Test
  void imagesThatHaveNothingInCommonAreCountedAndTheListIsBounded() {
    byte[] a = new byte[4096];
    byte[] b = new byte[5000];
    new Random(1).nextBytes(b);
    RomChange c = RomChange.of(a, b);
    assertThat(c.places()).hasSizeLessThanOrEqualTo(60);
    assertThat(c.sentence()).startsWith("They are not equally long");
    byte[] holes = new byte[4096];
    for (int i = 0; i < 4096; i += 8) holes[i] = 1;
    assertThat(RomChange.of(a, holes).more()).isEqualTo(512 - 60);
  }
}
