package lanternshed.core.rom;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.SplittableRandom;
import lanternshed.core.measure.ShedException;
import lanternshed.core.rom.ReadBack.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class RomTest {
  private static byte[] noise(int bytes, long seed) {
    byte[] b = new byte[bytes];
    new Random(seed).nextBytes(b);
    return b;
  }

  /** An option ROM of 6 KiB in 8 KiB, with a text and a blank end. */
  private static byte[] option() {
    byte[] b = Arrays.copyOf(noise(6144, 1), 8192);
    Arrays.fill(b, 6144, 8192, (byte) 0xFF);
    b[0] = 0x55;
    b[1] = (byte) 0xAA;
    b[2] = 12;
    b[3] = (byte) 0xEB;
    b[4] = 0x40;
    byte[] text = "Mill drive ROM 1.3".getBytes(StandardCharsets.US_ASCII);
    b[0x7F] = 0;
    System.arraycopy(text, 0, b, 0x80, text.length);
    b[0x80 + text.length] = 0;
    return b;
  }

  @Test
  void anOptionRomTellsItsLengthSumEntryAndTexts() {
    byte[] b = option();
    RomFacts f = RomFacts.of(b);
    assertThat(f.kilobits()).isEqualTo(64);
    RomFacts.OptionRom o = f.option().orElseThrow();
    assertThat(o.length()).isEqualTo(6144);
    assertThat(o.entry()).isEqualTo("jumps to 0045");
    assertThat(f.texts()).anyMatch(t -> t.at() == 0x80 && t.telling());
    assertThat(f.stretches())
        .containsExactly(
            new RomFacts.RomStretch(RomFacts.Kind.USED, 0, 6144),
            new RomFacts.RomStretch(RomFacts.Kind.FF, 6144, 2048));
    assertThat(f.findings()).hasSize(1);
    assertThat(f.findings().get(0).what()).contains("not 00: the firmware skips it");
    byte[] right = RomFacts.corrected(b);
    int sum = 0;
    for (int i = 0; i < 6144; i++) sum += right[i] & 0xFF;
    assertThat(sum & 0xFF).isZero();
    assertThat(Arrays.mismatch(b, right)).isEqualTo(6143);
    assertThat(RomFacts.of(right).findings()).isEmpty();
    assertThat(RomFacts.corrected(right)).isEqualTo(right);
  }

  @Test
  void whatIsNoWholeOptionRomSaysWhatItMayBe() {
    byte[] b = RomFacts.corrected(option());
    assertThat(RomFacts.of(Arrays.copyOf(b, 4096)).findings().get(0).what())
        .contains("its end is missing");
    List<Interleave.Part> two = Interleave.split(b, 2);
    assertThat(RomFacts.of(two.get(0).bytes()).findings().get(0).what()).contains("even bytes");
    assertThat(RomFacts.of(two.get(1).bytes()).findings().get(0).what()).contains("odd bytes");
    b[2] = 0;
    assertThat(RomFacts.of(b).findings().get(0).what()).contains("length byte is 00");
    assertThatThrownBy(() -> RomFacts.corrected(b)).isInstanceOf(ShedException.class);
    assertThat(RomFacts.of(new byte[0]).findings()).isEmpty();
  }

  @Test
  void anyBytesGiveFactsWithoutGaps() {
    SplittableRandom r = new SplittableRandom(7);
    for (int n = 0; n < 300; n++) {
      byte[] b = noise(r.nextInt(5000), n);
      for (int i = r.nextInt(8); i > 0 && b.length > 100; i--) {
        int at = r.nextInt(b.length - 99);
        Arrays.fill(b, at, at + 99, r.nextBoolean() ? (byte) 0 : (byte) 0xFF);
      }
      if (b.length > 4 && r.nextBoolean()) {
        b[0] = 0x55;
        b[1] = (byte) 0xAA;
      }
      int at = 0;
      for (RomFacts.RomStretch s : RomFacts.of(b).stretches()) {
        assertThat(s.start()).isEqualTo(at);
        at += s.length();
      }
      assertThat(at).isEqualTo(b.length);
    }
  }

  @Test
  void aSetIsSplitAndJoinedAndAWrongOrderIsSeen() {
    byte[] b = RomFacts.corrected(option());
    for (int ways : List.of(2, 4)) {
      List<byte[]> parts = Interleave.split(b, ways).stream().map(Interleave.Part::bytes).toList();
      Interleave.Joined same = Interleave.join(parts);
      assertThat(same.bytes()).isEqualTo(b);
      assertThat(same.sentence()).contains("right sum");
      List<byte[]> turned = new java.util.ArrayList<>(parts);
      java.util.Collections.reverse(turned);
      Interleave.Joined found = Interleave.join(turned);
      assertThat(found.bytes()).isEqualTo(b);
      assertThat(found.sentence()).startsWith("They were given in another order");
    }
    byte[] system = noise(65536, 4);
    system[0] = 1;
    byte[] jump = {(byte) 0xEA, 0x5B, (byte) 0xE0, 0, (byte) 0xF0};
    System.arraycopy(jump, 0, system, 65520, 5);
    List<Interleave.Part> two = Interleave.split(system, 2);
    assertThat(Interleave.join(List.of(two.get(1).bytes(), two.get(0).bytes())).bytes())
        .isEqualTo(system);
    assertThat(Interleave.join(List.of(noise(64, 1), noise(64, 2))).sentence())
        .contains("look at the sockets");
    assertThatThrownBy(() -> Interleave.split(new byte[7], 2)).hasMessageContaining("evenly");
    assertThatThrownBy(() -> Interleave.join(List.of(new byte[4], new byte[5])))
        .hasMessageContaining("one length");
  }

  @Test
  void anImageIsFittedIntoAChipOrRefusedWithTheDifference() {
    byte[] b = noise(4096, 2);
    Chip c = new Chip(128);
    assertThat(c.fit(b, Chip.Pad.FF)).hasSize(16384).endsWith((byte) 0xFF);
    assertThat(c.fit(b, Chip.Pad.ZERO)).endsWith((byte) 0);
    assertThat(Arrays.copyOfRange(c.fit(b, Chip.Pad.REPEAT), 12288, 16384)).isEqualTo(b);
    assertThatThrownBy(() -> new Chip(16).fit(b, Chip.Pad.FF))
        .hasMessageContaining("2\u202f048 B too many");
    assertThatThrownBy(() -> c.fit(new byte[3000], Chip.Pad.REPEAT))
        .hasMessageContaining("a whole number of times");
    assertThatThrownBy(() -> new Chip(100)).hasMessageContaining("no chip of 100 kbit");
  }

  @Test
  void bitsOnlyFallSoThatAnImageGoesOverWhatItOnlyLetsFall() {
    byte[] blank = new byte[256];
    Arrays.fill(blank, (byte) 0xFF);
    byte[] image = noise(256, 3);
    assertThat(Erased.of(blank, image).blank()).isTrue();
    byte[] half = image.clone();
    for (int i = 0; i < 256; i++) half[i] |= 0x0F;
    assertThat(Erased.of(half, image).rise()).isZero();
    half[77] = (byte) (image[77] & 0xFE);
    image[77] |= 1;
    Erased e = Erased.of(half, image);
    assertThat(e.first()).isEqualTo(77);
    assertThat(e.sentence()).contains("the first in 004D");
  }

  @Test
  void windowsLieOnBoundariesOfTheirOwnSizeAndConflictsAreNamed() {
    List<Windows.Occupied> there = new java.util.ArrayList<>(Windows.USUAL);
    there.add(new Windows.Occupied("network boot ROM", 0xCA000, 0x4000));
    there.add(new Windows.Occupied("memory frame", 0xD0000, 0x10000));
    List<Windows.Window> w = Windows.of(there, 8192);
    assertThat(w).hasSize(20).allMatch(x -> x.start() % 8192 == 0 && x.length() == 8192);
    assertThat(w.stream().filter(x -> x.with().isEmpty()).map(x -> Windows.hex(x.start())))
        .containsExactly(
            "C8000", "CE000", "E0000", "E2000", "E4000", "E6000", "E8000", "EA000", "EC000",
            "EE000");
    assertThat(w.get(1).with()).isEqualTo("network boot ROM");
    assertThat(Windows.of(there, 12000)).allMatch(x -> x.start() % 16384 == 0);
    assertThatThrownBy(() -> Windows.of(there, 1 << 20)).hasMessageContaining("No window");
    assertThatThrownBy(
            () -> Windows.of(List.of(new Windows.Occupied("x", 0xFFFFF, Integer.MAX_VALUE)), 1))
        .hasMessageContaining("not within the first MiB");
  }

  /** A fault of each kind at fifty places is named rightly, and nothing else is named before it. */
  @ParameterizedTest
  @EnumSource(Pattern.class)
  void aPlantedFaultIsNamed(Pattern kind) {
    SplittableRandom r = new SplittableRandom(kind.ordinal());
    for (int n = 0; n < 50; n++) {
      byte[] want = noise(8192, n);
      byte[] got = planted(kind, want, r);
      ReadBack found = ReadBack.of(want, got);
      assertThat(found.pattern()).as("%s, %d: %s", kind, n, found.sentence()).isEqualTo(kind);
      assertThat(found.sentence()).as("place").contains(place);
    }
  }

  /** What the sentence must name. */
  private String place = "";

  private byte[] planted(Pattern kind, byte[] want, SplittableRandom r) {
    byte[] got = want.clone();
    int a = r.nextInt(1, 12);
    int b = a == 11 ? 12 : r.nextInt(a + 1, 13);
    int at = r.nextInt(64, 8000);
    int bit = r.nextInt(8);
    boolean one = r.nextBoolean();
    place = "";
    switch (kind) {
      case IDENTICAL -> {}
      case BLANK -> Arrays.fill(got, (byte) 0xFF);
      case ALL_ZERO -> Arrays.fill(got, (byte) 0);
      case STUCK_BIT -> {
        place = "D" + bit + " at " + (one ? 1 : 0);
        for (int i = 0; i < got.length; i++) got[i] = (byte) set(want[i], bit, one);
      }
      case DATA_LINES_EXCHANGED -> {
        int other = (bit + 1 + r.nextInt(7)) % 8;
        place = "D" + Math.min(bit, other) + " and D" + Math.max(bit, other);
        for (int i = 0; i < got.length; i++) {
          int v = set(want[i], bit, (want[i] >> other & 1) == 1);
          got[i] = (byte) set(v, other, (want[i] >> bit & 1) == 1);
        }
      }
      case ADDRESS_TIED -> {
        place = "A" + a + " is held at " + (one ? 1 : 0);
        for (int i = 0; i < got.length; i++) got[i] = want[set(i, a, one)];
      }
      case ADDRESS_EXCHANGED -> {
        place = "A" + a + " and A" + b;
        for (int i = 0; i < got.length; i++) {
          got[i] = want[set(set(i, a, (i >> b & 1) == 1), b, (i >> a & 1) == 1)];
        }
      }
      case ADDRESS_SHORTED -> {
        place = "A" + a + " and A" + b;
        for (int i = 0; i < got.length; i++) {
          boolean v =
              one ? (i >> a & 1) == 1 || (i >> b & 1) == 1 : (i >> a & 1) == 1 && (i >> b & 1) == 1;
          got[i] = want[set(set(i, a, v), b, v)];
        }
      }
      case BYTES_EXCHANGED -> {
        for (int i = 0; i < got.length; i++) got[i] = want[i ^ 1];
      }
      case HALVES_EXCHANGED -> {
        for (int i = 0; i < got.length; i++) got[i] = want[i ^ 4096];
      }
      case STOPPED -> {
        want[at] = 0;
        got[at] = 0;
        want[at + 1] = 0x12;
        place = String.format("up to %04X", at + 1);
        Arrays.fill(got, at + 1, got.length, (byte) 0xFF);
      }
      case NOT_ERASED -> {
        want[at] = (byte) 0xFF;
        got[at] = (byte) set(0xFF, bit, false);
        got[at + 5] &= want[at + 5] & 0x3C;
      }
      case NOT_PROGRAMMED -> {
        want[at] = 0;
        got[at] = (byte) set(0, bit, true);
      }
      case OTHER -> {
        byte[] other = noise(8192, 1000 + at);
        System.arraycopy(other, 0, got, 0, 8192);
      }
    }
    return got;
  }

  private static int set(int v, int bit, boolean one) {
    return one ? v | 1 << bit : v & ~(1 << bit);
  }

  @ParameterizedTest
  @EnumSource(StandInProgrammer.Trouble.class)
  void aStandInsTroubleIsNamedByWhatItReads(StandInProgrammer.Trouble t) {
    byte[] image = noise(8192, 12);
    for (int seed = 0; seed < 50; seed++) {
      byte[] got = StandInProgrammer.programmed(image, t, seed);
      assertThat(ReadBack.of(image, got).pattern())
          .isEqualTo(
              switch (t) {
                case NONE -> Pattern.IDENTICAL;
                case STUCK -> Pattern.STUCK_BIT;
                case EXCHANGED -> Pattern.ADDRESS_EXCHANGED;
                case UNERASED -> Pattern.NOT_ERASED;
                case CUT -> Pattern.STOPPED;
              });
      assertThat(got).isEqualTo(StandInProgrammer.programmed(image, t, seed));
    }
  }

  @Test
  void hexadecimalTextsComeBackAndBrokenOnesNameTheirLine() {
    for (int size : new int[] {1, 15, 16, 17, 4096, 70_000}) {
      byte[] b = noise(size, size);
      for (HexText.Form f : List.of(HexText.Form.INTEL, HexText.Form.MOTOROLA)) {
        byte[] text = HexText.write(b, f).orElseThrow().getBytes(StandardCharsets.US_ASCII);
        assertThat(HexText.form(text)).isEqualTo(f);
        assertThat(HexText.read(text)).isEqualTo(b);
      }
    }
    // Records as the published forms give them, out of order and with a gap.
    String intel = ":0300300002337A1E\n:02002E00AABB6B\n:00000001FF\n";
    assertThat(HexText.read(intel.getBytes(StandardCharsets.US_ASCII)))
        .containsExactly(0xAA, 0xBB, 2, 0x33, 0x7A);
    String moto = "S00600004844521B\nS1137AF00A0A0D0000000000000000000000000061\nS9030000FC\n";
    assertThat(HexText.read(moto.getBytes(StandardCharsets.US_ASCII))).startsWith(0x0A, 0x0A, 0x0D);
    assertThatThrownBy(() -> read(":0300300002337A1F\n:00000001FF\n"))
        .hasMessageContaining("Line 1")
        .hasMessageContaining("sum");
    assertThatThrownBy(() -> read(":0300300002337A1E\n")).hasMessageContaining("cut off");
    assertThatThrownBy(() -> read(":0300300002337A1E\n:02000004FFFFFC\n:0300300002337A1E\n"))
        .hasMessageContaining("too far");
    String many = ":0300300002337A1E" + "\n".repeat(2_000_000);
    assertThatThrownBy(() -> read(many)).hasMessageContaining("too many lines");
    SplittableRandom r = new SplittableRandom(2);
    for (int n = 0; n < 2000; n++) {
      StringBuilder s = new StringBuilder(r.nextBoolean() ? ":" : "S1");
      for (int i = r.nextInt(60); i > 0; i--)
        s.append("0123456789ABCDEFg:\nS ".charAt(r.nextInt(21)));
      try {
        read(s.toString());
      } catch (ShedException e) {
        assertThat(e.getMessage()).startsWith("Line ");
      }
    }
  }

  private static byte[] read(String s) {
    return HexText.read(s.getBytes(StandardCharsets.US_ASCII));
  }
}
