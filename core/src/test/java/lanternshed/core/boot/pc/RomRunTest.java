package lanternshed.core.boot.pc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import lanternshed.core.Trials;
import lanternshed.core.boot.pc.RomRun.Asked;
import lanternshed.core.boot.pc.RomRun.RomRan;
import lanternshed.core.cpu.Level;
import lanternshed.core.cpu.Reach;
import lanternshed.core.measure.Geometry;
import lanternshed.core.rom.Chip;
import lanternshed.core.rom.RomFacts;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

@Tag("trial")
class RomRunTest {
  private static final String TEXT = "Mill drive ROM 1.3";
  @TempDir private Path folder;

  /**
   * An option ROM that says who it is, takes the disk call over and answers 08h with 512 × 16 × 63.
   *
   * @param atEntry machine code that is run first
   */
  private static byte[] rom(String atEntry, String inCall) {
    Assembler a =
        new Assembler(0)
            .op("55 AA 04")
            .near("EB", "entry") // JMP SHORT entry
            .label("text")
            .text(TEXT)
            .label("entry")
            .op(atEntry)
            .op("1E 06") // PUSH DS; PUSH ES
            .op("0E 1F") // PUSH CS; POP DS
            .address("BE", "text") // MOV SI, text
            .label("next")
            .op("AC 08 C0") // LODSB; OR AL, AL
            .near("74", "said") // JZ said
            .op("B4 0E BB 07 00 CD 10") // MOV AH, 0E; MOV BX, 7; INT 10
            .near("EB", "next") // JMP SHORT next
            .label("said")
            .op("31 C0 8E D8 FA") // XOR AX, AX; MOV DS, AX; CLI
            .address("C7 06 4C 00", "disk") // MOV WORD [4C], disk
            .op("8C 0E 4E 00 FB") // MOV [4E], CS; STI
            .op("07 1F CB") // POP ES; POP DS; RETF
            .label("disk")
            .op(inCall)
            .op("80 FC 08") // CMP AH, 8
            .near("75", "other") // JNZ other
            .op("B9 7F FF BA 01 0F 30 E4 F8") // MOV CX, FF7F; MOV DX, 0F01; XOR AH, AH; CLC
            .op("CA 02 00") // RETF 2
            .label("other")
            .op("B4 01 F9 CA 02 00"); // MOV AH, 1; STC; RETF 2
    byte[] whole = Arrays.copyOf(a.assemble(), 2048);
    return RomFacts.corrected(whole);
  }

  @Test
  void whatItPrintsAndHooksAndAnswersIsToldAndAGeneralEmulatorShowsTheSameText() throws Exception {
    byte[] rom = rom("90", "90");
    RomRan r = RomRun.of(rom, 0xC800);
    assertThat(r.returned()).as(r.sentence()).isTrue();
    assertThat(r.needs()).isEqualTo(Level.I8086);
    assertThat(r.screen()).containsExactly(TEXT);
    assertThat(r.hooks())
        .singleElement()
        .matches(h -> h.vector() == 0x13 && h.segment() == 0xC800 && h.name().equals("disk"));
    assertThat(r.asked())
        .containsExactly(
            new Asked("08h for drive 80h", "512 × 16 × 63"),
            new Asked("15h for drive 80h", "refused"),
            new Asked("41h for drive 80h", "refused, code 01"));
    Path file = Files.write(folder.resolve("mill.rom"), rom);
    Path disk = Files.write(folder.resolve("disk.img"), new byte[512 * 63 * 16 * 4]);
    assertThat(PcEmulator.screen(disk, new Geometry(4, 16, 63), TEXT, file)).contains(TEXT);
  }

  @Test
  void whatNoRunComesToIsFoundByDecodingWhatCanBeReached() {
    // Behind a condition that never holds at power-on: CMP AH, 77; JNZ over; PUSH 1234; POP AX.
    RomRan r = RomRun.of(rom("90", "80 FC 77 75 04 68 34 12 58"), 0xC800);
    assertThat(r.needs()).isEqualTo(Level.I8086);
    assertThat(r.code().needs()).isEqualTo(Level.I80186);
    assertThat(r.code().beyond()).singleElement().matches(b -> b.code().equals("683412"));
    assertThat(r.code().astray()).isZero();
    // Text behind the entry's jump has letters that are instructions of later processors.
    assertThat(RomRun.of(rom("90", "90"), 0xC800).code().needs()).isEqualTo(Level.I8086);
  }

  @Test
  void aRomThatOthersMadeIsFollowedWithoutGoingAstray() throws Exception {
    byte[] video = Files.readAllBytes(Path.of("/usr/share/seabios/vgabios-stdvga.bin"));
    Reach r = Reach.of(video, 0xC000, List.of(3));
    assertThat(r.instructions()).isGreaterThan(500);
    assertThat(r.astray()).isZero();
    assertThat(r.needs()).isEqualTo(Level.I80386);
  }

  @Test
  void theProcessorItNeedsIsFoundByRunningItAndNotByLookingForBytes() {
    assertThat(RomRun.of(rom("68 34 12 58", "90"), 0xC800).needs()).isEqualTo(Level.I80186);
    RomRan late = RomRun.of(rom("66 31 C0", "90"), 0xC800);
    assertThat(late.needs()).isEqualTo(Level.I80386);
    assertThat(late.why()).contains("needs an 80386");
    assertThat(late.screen()).containsExactly(TEXT);
    RomRan inCall = RomRun.of(rom("90", "0F A0 0F A1"), 0xC800);
    assertThat(inCall.needs()).as("its disk call is asked too").isEqualTo(Level.I80386);
    // The same bytes as data that is jumped over are no instruction.
    assertThat(RomRun.of(rom("EB 03 66 31 C0", "90"), 0xC800).needs()).isEqualTo(Level.I8086);
  }

  @Test
  void whatNeverComesBackIsToldSo() {
    assertThat(RomRun.of(rom("FA F4", "90"), 0xC800).sentence()).isEqualTo("It stands still.");
    assertThat(RomRun.of(rom("B4 00 CD 16", "90"), 0xC800).sentence()).contains("a key");
    RomRan loop = RomRun.of(rom("90", "90"), 0xC800);
    assertThat(loop.returned()).isTrue();
    byte[] turning = rom("90", "90");
    turning[3] = (byte) 0xE9; // JMP 0006
    turning[4] = 0;
    turning[5] = 0;
    turning[6] = 0x41; // INC CX
    turning[7] = (byte) 0xEB; // JMP 0006
    turning[8] = (byte) 0xFD;
    assertThat(RomRun.of(turning, 0xC800).sentence()).contains("still running");
    assertThatThrownBy(() -> RomRun.of(new byte[2048], 0xC800)).hasMessageContaining("55 AA");
    assertThatThrownBy(() -> RomRun.of(rom("90", "90"), 0xF000)).hasMessageContaining("between");
  }

  @Test
  void anyBytesBehindTheMarkEndInASentence() {
    SplittableRandom r = new SplittableRandom(6);
    for (int n = 0; n < Trials.turns(12, 600); n++) {
      byte[] b = new byte[new Chip(64).bytes()];
      for (int i = 0; i < b.length; i++) b[i] = (byte) r.nextInt();
      b[0] = 0x55;
      b[1] = (byte) 0xAA;
      RomRan ran = RomRun.of(b, 0xC800 + r.nextInt(0x20) * 0x80);
      assertThat(ran.sentence()).endsWith(".");
    }
  }
}
