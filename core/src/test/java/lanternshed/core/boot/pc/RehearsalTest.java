package lanternshed.core.boot.pc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import lanternshed.core.Samples;
import lanternshed.core.Trials;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.BootChain;
import lanternshed.core.boot.Keys;
import lanternshed.core.boot.Rehearsal;
import lanternshed.core.boot.Rehearsal.Ending;
import lanternshed.core.boot.Start;
import lanternshed.core.cpu.Level;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Damage;
import lanternshed.core.medium.FailingDrive;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.Pace;
import lanternshed.core.survey.Whereabouts;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Where no emulator is asked: bounds, processors, contracts. */
@Tag("trial")
class RehearsalTest {
  private static final Geometry G = new Geometry(240, 8, 32);

  private static Rehearsal run(MemoryMedium m, Level level) {
    Whereabouts places = Whereabouts.of(m);
    return PcRehearsal.of(m, new Around(G, G.total(), false, level), places::at);
  }

  private static MemoryMedium with(byte[] code) {
    MemoryMedium m = new MemoryMedium(G.total());
    byte[] b = java.util.Arrays.copyOf(code, 512);
    b[510] = 0x55;
    b[511] = (byte) 0xAA;
    m.write(0, 1, b, 0);
    return m;
  }

  @Test
  void everyReadIsToldWithWhatLiesThere() {
    Rehearsal r = run(Samples.drive(G), Level.I8086);
    assertThat(r.ending()).isEqualTo(Ending.ENTERED);
    assertThat(r.sentence()).isEqualTo("LOOMIO.SYS is entered at 0070:0000, with 80 in DL.");
    assertThat(r.reads().get(0).asked()).isEqualTo("0/1/1");
    assertThat(r.reads().get(0).lba()).isEqualTo(32);
    assertThat(r.reads()).extracting(Rehearsal.Read::what).contains("LOOMIO.SYS", "root folder");
    assertThat(r.count()).isEqualTo(r.reads().size());
    assertThat(r.steps()).isBetween(500L, 5_000L);
  }

  /** B-12: code of a later processor is found where it is met, and named. */
  @ParameterizedTest
  @CsvSource({
    "66B800000000, I8086, 80386",
    "66B800000000, I80286, 80386",
    "60EBFE, I8086, 80186",
    "6A01EBFE, I8086, 80186",
    "0F01E0EBFE, I80186, 80286"
  })
  void codeOfALaterProcessorIsFound(String hex, Level level, String needs) {
    Rehearsal r = run(with(java.util.HexFormat.of().parseHex(hex)), level);
    assertThat(r.ending()).isEqualTo(Ending.FAULT);
    assertThat(r.sentence()).contains("0000:7C00").contains("needs an " + needs);
  }

  /** B-10: code that read the wrong sectors and jumps to the loader's place starts nothing. */
  @Test
  void aJumpIntoZerosIsNoStart() {
    Assembler a = new Assembler(0x7C00);
    a.op("EA 00 00 70 00"); // jmp 0070:0000
    Rehearsal r = run(with(a.assemble()), Level.I80386);
    assertThat(r.ending()).isNotEqualTo(Ending.ENTERED);
    assertThat(r.entered()).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({"CD16, ASKS", "CD18, NO_SYSTEM", "CD19, NO_SYSTEM", "FAF4, HANGS", "EBFE, HANGS"})
  void whatEndsItIsTold(String hex, Ending ending) {
    String code = hex.startsWith("CD16") ? "31C0" + hex : hex;
    Rehearsal r = run(with(java.util.HexFormat.of().parseHex(code)), Level.I80386);
    assertThat(r.ending()).isEqualTo(ending);
    assertThat(r.sentence()).isNotBlank();
  }

  /** One verdict: links that hold are no start where the code itself goes nowhere. */
  @Test
  void theVerdictIsNeverGreenerThanWhatRan() {
    MemoryMedium m = Samples.drive(G);
    BootChain whole = new PcBoot().walk(m, G, G.total());
    Start stands = Start.of(whole, true, Optional.of(run(m, Level.I80386)));
    assertThat(stands.kind()).isEqualTo(Start.Kind.STANDS);
    assertThat(stands.sentence()).contains("8 links hold").contains("LOOMIO.SYS is entered");
    byte[] boot = m.sector(32);
    boot[0x3E] = (byte) 0xFA;
    boot[0x3F] = (byte) 0xF4; // cli; hlt
    m.write(32, 1, boot, 0);
    BootChain chain = new PcBoot().walk(m, G, G.total());
    assertThat(chain.holds()).isTrue();
    Start doubt = Start.of(chain, true, Optional.of(run(m, Level.I80386)));
    assertThat(doubt.kind()).isEqualTo(Start.Kind.DOUBT);
    assertThat(doubt.sentence()).endsWith("it enters no loader: It stands still without a word.");
    assertThat(Start.of(chain, true).kind()).isEqualTo(Start.Kind.STANDS);
    assertThat(Start.of(chain, false, Optional.empty()).kind()).isEqualTo(Start.Kind.NOT_MEANT);
  }

  /** A card that does not give its sectors back says so, and is never a fault of the program. */
  @Test
  void sectorsThatDoNotReadAreRefusedToTheCode() {
    MemoryMedium m = Samples.drive(G);
    Whereabouts places = Whereabouts.of(m);
    for (long bad : new long[] {0, 32, 33, 160}) {
      Damage.Zone zone = new Damage.Zone(bad, 1, Damage.Kind.DEAD, 0);
      FailingDrive drive = new FailingDrive(m, new Damage(List.of(zone)), Pace.counted());
      Rehearsal r = PcRehearsal.of(drive, new Around(G, G.total(), false, Level.I8086), places::at);
      assertThat(r.sentence()).isNotBlank();
      if (bad == 0) assertThat(r.ending()).isEqualTo(Ending.NO_SYSTEM);
      if (bad == 32) assertThat(r.reads()).allMatch(Rehearsal.Read::refused).isNotEmpty();
      if (bad == 32) assertThat(r.screen()).contains("Volume start does not read");
    }
  }

  /** Long work in one instruction or one call is bounded by the same steps. */
  @ParameterizedTest
  @CsvSource({
    // mov ecx,-1; rep movsd with 32-bit addresses, again and again
    "66B9FFFFFFFFF36766A5EBF3",
    // int 13: 127 sectors to ES:0, the segment going on
    "31DBB87F02B90100BA8000CD138CC0408EC0EBED",
    // the same as a write
    "31DBB87F03B90100BA8000CD138CC0408EC0EBED",
    // int 10: a string of 65 535 characters
    "31EDB80013B9FFFF31D2CD10EBF3",
    // int 10: scroll
    "B80106B90000BA4F18CD10EBF3",
    // a segment full of prefixes: mov ax,2000; mov es,ax; mov al,26; mov cx,-1; rep stosb; stosb;
    // jmp 2000:0
    "B800208EC031FFB026B9FFFFF3AAAAEA00000020",
  })
  void workThatNeverEndsIsBounded(String hex) {
    long t = System.nanoTime();
    Rehearsal r = run(with(java.util.HexFormat.of().parseHex(hex)), Level.I80386);
    assertThat(r.ending()).as(r.sentence()).isIn(Ending.BOUND, Ending.FAULT, Ending.HANGS);
    assertThat(r.steps()).isPositive();
    assertThat((System.nanoTime() - t) / 1_000_000_000L).as("seconds").isLessThan(60);
  }

  /** Of what begins with 0F the second byte says which processor brought it. */
  @ParameterizedTest
  @CsvSource({
    "0FB4064000, 80386",
    "0FB2264000, 80386",
    "0FAFC0, 80386",
    "0F01E0, 80286",
    "0FC8, 80486",
    "0FC1C0, 80486",
    "0FA2, 80586",
    "0F31, 80586"
  })
  void whatComesLaterIsNamedByTheProcessorThatBroughtIt(String hex, String needs) {
    Rehearsal r = run(with(java.util.HexFormat.of().parseHex(hex)), Level.I8086);
    assertThat(r.sentence()).contains("needs an " + needs + "; this machine has an 8086");
  }

  /** Code asks for bit 18 of the flags to know an 80486, and for bit 21 to know an 80586. */
  @ParameterizedTest
  @CsvSource({"I80386, 3", "I80486, 4", "I80586, 5"})
  void codeThatAsksWhichProcessorItHasIsTold(Level level, String digit) {
    Assembler a = new Assembler(0x7C00);
    a.op("B3 33"); // mov bl,'3'
    for (String bit : List.of("00 00 04 00", "00 00 20 00")) {
      a.op("66 9C 66 58 66 89 C1"); // pushfd; pop eax; mov ecx,eax
      a.op("66 35 " + bit + " 66 50 66 9D"); // xor eax,bit; push eax; popfd
      a.op("9C 9D 66 9C 66 58 66 31 C8"); // pushf; popf; pushfd; pop eax; xor eax,ecx
      a.op("74 02 FE C3"); // jz +2; inc bl
    }
    a.op("88 D8 B4 0E CD 10 FA F4"); // mov al,bl; teletype; cli; hlt
    assertThat(run(with(a.assemble()), level).screen()).containsExactly(digit);
  }

  /** Eight bytes are exchanged where they are as EDX:EAX says, else they are loaded there. */
  @Test
  void eightBytesAreExchangedOnlyWhereTheyAreAsAsked() {
    Assembler a = new Assembler(0x7C00);
    a.op("66 31 C0 66 31 D2 66 31 C9 66 31 DB 8E D8"); // eax, edx, ecx, ebx, ds = 0
    a.op("B3 41 B1 42"); // mov bl,'A'; mov cl,'B'
    a.op("0F C7 0E 00 60 74 02 FA F4"); // cmpxchg8b [6000]: zero there; jz +2; cli; hlt
    a.op("A0 00 60 B4 0E CD 10 A0 04 60 CD 10"); // say [6000], [6004]
    a.op("66 31 C0 0F C7 0E 00 60 75 02 FA F4"); // once more: it is another now; jnz +2
    a.op("B4 0E CD 10 88 D0 CD 10 FA F4"); // say al and dl as loaded; cli; hlt
    assertThat(run(with(a.assemble()), Level.I80586).screen()).containsExactly("ABAB");
  }

  /** Neither a start nor a failure was seen; it is told apart from both. */
  @Test
  void codeThatLeavesRealModeWasFollowedSoFarAndNotFurther() {
    Rehearsal r = run(with(java.util.HexFormat.of().parseHex("0F20C00C010F22C0")), Level.I80386);
    assertThat(r.ending()).isEqualTo(Ending.NOT_FOLLOWED);
    assertThat(r.ending().fails()).isFalse();
    assertThat(r.starts()).isFalse();
    assertThat(r.sentence()).contains("leaves real mode", "not followed");
    BootChain whole = new PcBoot().walk(Samples.drive(G), G, G.total());
    Start s = Start.of(whole, true, Optional.of(r));
    assertThat(s.kind()).isEqualTo(Start.Kind.DOUBT);
    assertThat(s.sentence()).contains("nothing failed as far as it is followed");
  }

  /** A deleted loader still starts until its sectors are written over; no word says "started". */
  @Test
  void aLoaderWhoseFileIsGoneIsNeitherAStartNorAFailure() {
    Assembler a = new Assembler(0x7C00);
    a.op("31 C0 8E C0 BB 00 07 B8 01 02 B9 05 00 BA 80 00 CD 13"); // sector 4 to 0070:0000
    a.op("EA 00 00 70 00"); // jmp 0070:0000
    MemoryMedium m = with(a.assemble());
    byte[] loader = new byte[512];
    Arrays.fill(loader, (byte) 0x90);
    loader[100] = 0x0F;
    loader[101] = (byte) 0xFF;
    m.write(4, 1, loader, 0);
    Rehearsal r = run(m, Level.I80386);
    assertThat(r.starts()).isFalse();
    assertThat(r.sentence())
        .contains("0070:0000, where a loader begins", "from sector 4. No file lies there");
    assertThat(r.ending()).isEqualTo(Ending.NOT_FOLLOWED);
  }

  @Test
  void randomGarbageEndsWithinTheBoundAndWithASentence() {
    Random random = new Random(12);
    for (int i = 0; i < Trials.turns(12, 600); i++) {
      byte[] b = new byte[510];
      random.nextBytes(b);
      Level level = Level.values()[i % Level.values().length];
      Rehearsal r =
          PcRehearsal.of(
              with(b), new Around(G, G.total(), i % 2 == 0, level), lba -> Optional.empty());
      assertThat(r.sentence()).isNotBlank();
      assertThat(r.screen()).hasSizeLessThanOrEqualTo(25);
      assertThat(r.entered()).isEmpty();
    }
  }

  @Test
  void whatIsWrittenGoesNowhereAndIsReadBack() {
    Assembler a = new Assembler(0x7C00);
    a.op("31 C0 8E C0 8E D8 BB 00 7C B8 01 03 B9 05 00 BA 80 00 CD 13"); // write 7C00 to 0/0/5
    a.op("BB 00 90 B8 01 02 B9 05 00 BA 80 00 CD 13"); // read it to 9000
    a.op("A0 00 90 3A 06 00 7C").near("75", "other"); // mov al,[9000]; cmp al,[7C00]; jne
    a.op("B0 59").near("EB", "say"); // mov al,'Y'
    a.label("other").op("B0 4E"); // mov al,'N'
    a.label("say").op("B4 0E CD 10 FA F4"); // teletype; cli; hlt
    MemoryMedium m = with(a.assemble());
    Rehearsal r = run(m, Level.I8086);
    assertThat(r.screen()).isEqualTo(List.of("Y"));
    assertThat(m.sector(4)).containsOnly(0);
  }

  /** Reads a key, shows it, and waits for the next. */
  private static MemoryMedium echo() {
    Assembler a = new Assembler(0x7C00);
    a.op("30 E4 CD 16 B4 0E CD 10 EB F6"); // xor ah,ah; int 16; mov ah,0E; int 10; jmp back
    return with(a.assemble());
  }

  @Test
  void keysThatAreTypedArriveInOrder() {
    Around nobody = new Around(G, G.total(), false, Level.I8086);
    Rehearsal none = PcRehearsal.of(echo(), nobody, lba -> Optional.empty());
    assertThat(none.ending()).isEqualTo(Ending.ASKS);
    assertThat(none.screen()).isEmpty();
    Around typing = nobody.typed(Keys.of("Y e s 1"), false);
    Rehearsal some = PcRehearsal.of(echo(), typing, lba -> Optional.empty());
    assertThat(some.ending()).isEqualTo(Ending.ASKS);
    assertThat(some.screen()).containsExactly("Yes1");
  }

  @ParameterizedTest
  @CsvSource({"a, 1E61", "A, 1E41", "!, 0221", "Enter, 1C0D", "esc, 011B", "F1, 3B00", "f10, 4400"})
  void aKeyHasItsScanCode(String key, String code) {
    assertThat(Keys.of(key).codes()).containsExactly(Integer.parseInt(code, 16));
  }

  @ParameterizedTest
  @CsvSource({"F11", "Entre", "é"})
  void whatIsNoKeyIsRefusedInASentence(String key) {
    assertThatThrownBy(() -> Keys.of("a " + key))
        .isInstanceOf(ShedException.class)
        .hasMessageStartingWith("“" + key + "” is no key");
  }

  /** Without an active entry table code starts nothing; with one marked the same bytes start. */
  @Test
  void anotherActiveEntryIsTriedWithoutAWrite() {
    MemoryMedium drive = Samples.drive(G);
    Around facts = new Around(G, G.total(), false, Level.I8086);
    Whereabouts places = Whereabouts.of(drive);
    PcBoot boot = new PcBoot();
    byte[] before = drive.sector(0).clone();
    assertThat(boot.rehearse(boot.marked(drive, 0), facts, places::at).orElseThrow().starts())
        .isFalse();
    assertThat(boot.rehearse(boot.marked(drive, 3), facts, places::at).orElseThrow().starts())
        .isFalse();
    assertThat(boot.rehearse(boot.marked(drive, 1), facts, places::at).orElseThrow().starts())
        .isTrue();
    assertThat(drive.sector(0)).isEqualTo(before);
  }

  /** What it does behind its loader's entry is told; that it was entered stays said. */
  @Test
  void aRunGoesOnBehindTheLoader() {
    MemoryMedium drive = Samples.drive(G);
    Whereabouts places = Whereabouts.of(drive);
    Around facts = new Around(G, G.total(), false, Level.I8086);
    Rehearsal near = PcRehearsal.of(drive, facts, places::at);
    Rehearsal far = PcRehearsal.of(drive, facts.typed(Keys.NONE, true), places::at);
    assertThat(far.starts()).isTrue();
    assertThat(far.entered()).isEqualTo("LOOMIO.SYS");
    assertThat(far.sentence())
        .startsWith(near.sentence())
        .hasSizeGreaterThan(near.sentence().length());
    assertThat(far.steps()).isGreaterThan(near.steps());
  }

  /** The second drive has its own geometry, and what is read of it is told as its own. */
  @Test
  void aSecondDriveAnswersAs81() {
    MemoryMedium other = new MemoryMedium(4 * 17 * 100);
    byte[] text = new byte[512];
    text[0] = 'B';
    other.write(17 + 4, 1, text, 0);
    Assembler a = new Assembler(0x7C00);
    a.op("B8 01 02"); // mov ax,0201
    a.op("BB 00 80"); // mov bx,8000
    a.op("B9 05 00"); // mov cx,0005
    a.op("BA 81 01"); // mov dx,0181: head 1
    a.op("CD 13 A0 00 80 B4 0E CD 10"); // int 13; mov al,[8000]; mov ah,0E; int 10
    a.op("B4 08 B2 81 CD 13 88 D0 04 30 B4 0E CD 10 F4"); // how many drives; hlt
    Around one = new Around(G, G.total(), false, Level.I8086);
    Around.Drive second = new Around.Drive(other, new Geometry(100, 4, 17), other.sectors());
    MemoryMedium first = with(a.assemble());
    Rehearsal both = PcRehearsal.of(first, one.beside(second), lba -> Optional.empty());
    assertThat(both.screen()).containsExactly("B2");
    assertThat(both.reads())
        .singleElement()
        .satisfies(
            r -> {
              assertThat(r.second()).isTrue();
              assertThat(r.lba()).isEqualTo(17 + 4);
              assertThat(r.what()).isEqualTo("the second drive");
            });
    assertThat(PcRehearsal.of(first, one, lba -> Optional.empty()).screen())
        .isNotEqualTo(both.screen());
  }
}
