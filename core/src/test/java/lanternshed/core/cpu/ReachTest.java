package lanternshed.core.cpu;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HexFormat;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class ReachTest {
  private static Reach reach(String hex) {
    byte[] code = HexFormat.of().parseHex(hex.replace(" ", ""));
    return Reach.of(code, 0xC800, List.of(0));
  }

  @Test
  void everyWayIsFollowedOnceAndWhatIsNotReachedIsNotLookedAt() {
    // JMP over PUSHA; CMP; JZ to PUSH 1; RET.
    Reach r = reach("EB 01 60 3C 05 74 01 C3 6A 01 C3");
    assertThat(r.instructions()).isEqualTo(6);
    assertThat(r.bytes()).isEqualTo(10);
    assertThat(r.needs()).isEqualTo(Level.I80186);
    assertThat(r.beyond()).containsExactly(new Reach.Beyond(8, Level.I80186, "6A01"));
  }

  @Test
  void callsLoopsFarJumpsAndLongBranchesAreFollowed() {
    // CALL 6; LOOP 0; RET; then JMP FAR C800:000C; at C: JC +1 (long); LMSW AX leaves nothing out.
    Reach r = reach("E8 03 00 E2 FB C3 EA 0C 00 00 C8 60 0F 82 01 00 60 0F 01 F0 C3");
    assertThat(r.needs()).isEqualTo(Level.I80386);
    assertThat(r.beyond()).extracting(Reach.Beyond::at).containsExactly(12, 16, 17);
    assertThat(r.astray()).isZero();
  }

  @Test
  void whatOnlyARunKnowsIsCountedAndTextBehindACallIsPassedOver() {
    // CALL [BX]; CALL print; "gamma", 00; RET; print: RET.
    Reach r = reach("FF 17 E8 07 00 67 61 6D 6D 61 00 C3 C3");
    assertThat(r.unseen()).isEqualTo(1);
    assertThat(r.needs()).isEqualTo(Level.I8086);
    assertThat(r.astray()).isZero();
    assertThat(reach("FF FF").astray()).isEqualTo(1);
    assertThat(reach("B8 01").astray()).isEqualTo(1);
    assertThat(reach("26 0F A0 C3").needs()).isEqualTo(Level.I80386);
  }

  @Test
  void whateverIsThereTheWalkEnds() {
    for (int seed = 0; seed < 60; seed++) {
      byte[] code = new byte[4096];
      new Random(seed).nextBytes(code);
      Reach r = Reach.of(code, 0xC800, List.of(0, 0x200, 0x1000, 0xFFFF));
      assertThat(r.bytes()).isBetween(0, code.length);
      assertThat(r.beyond().size()).isLessThan(20);
    }
    byte[] longest = new byte[0x10000];
    java.util.Arrays.fill(longest, (byte) 0x90);
    assertThat(Reach.of(longest, 0xC800, List.of(0)).instructions()).isEqualTo(0x10000);
    // Behind the segment nothing can be reached: 60 there would be an instruction of an 80186.
    byte[] more = new byte[0x18000];
    java.util.Arrays.fill(more, (byte) 0x90);
    java.util.Arrays.fill(more, 0x10000, more.length, (byte) 0x60);
    Reach r = Reach.of(more, 0xC800, List.of(0));
    assertThat(r.instructions()).isEqualTo(0x10000);
    assertThat(r.needs()).isEqualTo(Level.I8086);
  }
}
