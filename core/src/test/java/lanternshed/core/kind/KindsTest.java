package lanternshed.core.kind;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Profile.Starts;
import lanternshed.core.machine.Profiles;
import lanternshed.core.measure.ShedException;
import org.junit.jupiter.api.Test;

/** Files of each kind, written here by their published structures. */
class KindsTest {
  private static byte[] hex(String s) {
    return java.util.HexFormat.of().parseHex(s.replace(" ", ""));
  }

  private static byte[] join(byte[]... parts) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    for (byte[] p : parts) out.writeBytes(p);
    return out.toByteArray();
  }

  private static byte[] ascii(String s) {
    return s.getBytes(StandardCharsets.US_ASCII);
  }

  private static byte[] filled(int length, int value) {
    byte[] b = new byte[length];
    Arrays.fill(b, (byte) value);
    return b;
  }

  private static Known kind(byte[] b) {
    return Kinds.of(new Sample(b, b.length));
  }

  /** 11 025 Hz, eight bits, mono, and so many bytes of sound of which {@code there} are there. */
  private static byte[] wave(int said, int there) {
    return join(
        ascii("RIFF"),
        hex("00000000"),
        ascii("WAVEfmt "),
        hex("10000000 0100 0100 112B0000 112B0000 0100 0800"),
        ascii("LIST"),
        hex("03000000 41424300"),
        ascii("data"),
        new byte[] {(byte) said, (byte) (said >> 8), (byte) (said >> 16), 0},
        new byte[there]);
  }

  private static byte[] block(int type, byte[] data) {
    int sum = type + data.length;
    for (byte b : data) sum += b & 0xFF;
    byte[] head = {0x55, 0x3C, (byte) type, (byte) data.length};
    return join(head, data, new byte[] {(byte) sum, 0x55});
  }

  private static byte[] tape() {
    byte[] name = join(ascii("HELLO   "), hex("02 00 00 0E00 0E00"), new byte[0]);
    return join(
        filled(128, 0x55),
        block(0, Arrays.copyOf(name, 15)),
        block(1, ascii("some code")),
        block(0xFF, new byte[0]));
  }

  @Test
  void aRecordedTapeSaysHowLongAMachineListens() {
    Known k = kind(wave(110_250, 110_250));
    assertThat(k.kind()).isEqualTo(Kind.RECORDED_TAPE);
    assertThat(k.seconds()).isEqualTo(10);
    assertThat(k.says()).startsWith("11\u202F025 Hz, 8 bits, mono");
    assertThat(k.fault()).isEmpty();
    assertThat(kind(wave(110_250, 55_125)).seconds()).isEqualTo(5);
    assertThat(kind(wave(110_250, 55_125)).fault()).startsWith("cut short");
  }

  @Test
  void aTapeImageSaysItsNameAndItsTime() {
    Known k = kind(tape());
    assertThat(k.kind()).isEqualTo(Kind.TAPE_IMAGE);
    assertThat(k.says()).isEqualTo("“HELLO”, machine code, starts at 0E00, 3 blocks");
    assertThat(k.fault()).isEmpty();
    // About 190 bytes at some 1 500 bits a second.
    assertThat(k.seconds()).isEqualTo(1);
    byte[] spoiled = tape();
    spoiled[160] ^= 1;
    assertThat(kind(spoiled).fault()).isEqualTo("1 sum is wrong");
    assertThat(kind(Arrays.copyOf(tape(), 160)).fault()).isEqualTo("its last block is missing");
  }

  @Test
  void aTapeOfLengthsIsFollowedBlockByBlock() {
    byte[] head = join(hex("00 03"), ascii("LOADER    "), hex("0200 0080 0000"));
    byte[] data = hex("FF AA BB");
    Known k = kind(join(hex("1300"), summed(head), hex("0400"), summed(data)));
    assertThat(k.says()).isEqualTo("“LOADER”, bytes, 2 blocks");
    assertThat(k.fault()).isEmpty();
    byte[] cut = join(hex("1300"), summed(head), hex("0900"), summed(data));
    assertThat(kind(cut).fault()).isEqualTo("from byte 21 on it is no whole block");
  }

  private static byte[] summed(byte[] b) {
    int odd = 0;
    for (byte x : b) odd ^= x;
    return join(b, new byte[] {(byte) odd});
  }

  @Test
  void aDiskSaysWhatItsHeaderSaysAndWhetherItAgrees() {
    byte[] header = hex("9602 8016 8000 00 00000000 00000000 00");
    assertThat(kind(join(header, new byte[92_160])).fault()).isEmpty();
    assertThat(kind(join(header, new byte[92_160])).kind()).isEqualTo(Kind.DISK_IMAGE);
    assertThat(kind(join(header, new byte[92_032])).fault())
        .isEqualTo("its header says 92\u202F160 B, 92\u202F032 B are there");
    assertThat(kind(filled(737_280, 0xE5)).says()).isEqualTo("as long as 720K, FAT12");
  }

  @Test
  void segmentsMustLieWithinMemoryAndEndWithTheFile() {
    byte[] counted = join(hex("00 0003 3000 010203"), hex("FF 0000 3001"));
    assertThat(kind(counted).says()).isEqualTo("1 segment, 3000 to 3002, starts at 3001");
    assertThat(kind(Arrays.copyOf(counted, counted.length - 1)).kind()).isNotEqualTo(Kind.SEGMENTS);
    byte[] high = join(hex("00 0003 FFFE 010203"), hex("FF 0000 3001"));
    assertThat(kind(high).kind()).isNotEqualTo(Kind.SEGMENTS);
    byte[] bounded = join(hex("FFFF 0006 0206 010203"), hex("E002 E102 0006"));
    assertThat(kind(bounded).says()).isEqualTo("1 segment, 0600 to 0602, starts at 0600");
  }

  @Test
  void basicIsSeenByItsLinesAndListedByATable() {
    byte[] program =
        join(hex("0108"), line("0A08", 10, "99 224122"), line("1208", 20, "89 3130"), hex("0000"));
    Known k = kind(program);
    assertThat(k.kind()).isEqualTo(Kind.BASIC);
    assertThat(k.says()).isEqualTo("2 lines, 10 to 20");
    BasicLines lines = BasicLines.of(new Sample(program, program.length)).orElseThrow();
    TokenTable table = TokenTable.read("{\"tokens\":{\"99\":\"PRINT\"}}");
    assertThat(table.listing(lines)).isEqualTo("10 PRINT\"A\"\n20 {89}10\n");
    byte[] big =
        join(hex("FF 000D"), hex("2609 000A 87 31 00"), hex("260F 0014 81 00"), hex("0000"));
    assertThat(kind(big).kind()).isEqualTo(Kind.BASIC);
    // A step that no line has.
    program[11]++;
    assertThat(kind(program).kind()).isNotEqualTo(Kind.BASIC);
  }

  @Test
  void oneLineIsBasicOnlyWhereItsPlaceOrItsEndSaysSo() {
    byte[] placed = join(hex("0108"), line("0908", 10, "99 2241"), hex("0000"), new byte[40]);
    assertThat(kind(placed).kind()).isEqualTo(Kind.BASIC);
    placed[2]++;
    assertThat(kind(placed).kind()).isNotEqualTo(Kind.BASIC);
    byte[] bare = join(line("0908", 10, "99 2241"), hex("0000"));
    assertThat(kind(bare).kind()).isEqualTo(Kind.BASIC);
    // So begins many a disk.
    byte[] disk = Arrays.copyOf(bare, 204_800);
    assertThat(kind(disk).kind()).isEqualTo(Kind.DISK_IMAGE);
  }

  private static byte[] line(String next, int number, String tokens) {
    return join(hex(next), new byte[] {(byte) number, 0}, hex(tokens), new byte[1]);
  }

  @Test
  void aTokenTableIsReadWithCare() {
    for (String bad :
        List.of(
            "",
            "[]",
            "{}",
            "{\"tokens\":{}}",
            "{\"tokens\":{\"7F\":\"A\"}}",
            "{\"tokens\":{\"80\":1}}")) {
      assertThatThrownBy(() -> TokenTable.read(bad)).isInstanceOf(ShedException.class);
    }
  }

  @Test
  void textsProgramsAndArchivesAreToldApart() {
    assertThat(kind(ascii("one\r\ntwo\r\n")).says()).isEqualTo("2 lines, ends CR LF");
    assertThat(kind(ascii("one\rtwo")).says()).isEqualTo("1 line, ends CR");
    assertThat(kind(join(ascii("PK\3\4"), new byte[30])).kind()).isEqualTo(Kind.PACKED);
    assertThat(kind(join(hex("1F8B08"), new byte[30])).kind()).isEqualTo(Kind.PACKED);
    byte[] exe = join(ascii("MZ"), hex("0000 0300"), new byte[600]);
    assertThat(kind(exe).fault()).isEqualTo("cut short: 606 B are there");
    assertThat(kind(join(hex("000003F3"), new byte[60])).kind()).isEqualTo(Kind.PROGRAM);
    assertThat(kind(filled(8192, 0xEA)).kind()).isEqualTo(Kind.ROM);
    assertThat(kind(filled(8193, 0xEA)).kind()).isEqualTo(Kind.OTHER);
    assertThat(kind(new byte[0]).says()).isEqualTo("empty");
  }

  @Test
  void brokenStructuresAreReadToTheirEndAndNoFurther() {
    List<byte[]> whole =
        List.of(
            wave(3000, 3000),
            tape(),
            join(hex("FFFF 0006 0206 010203"), hex("E002 E102 0006")),
            join(hex("00 0003 3000 010203"), hex("FF 0000 3001")),
            join(hex("0108"), line("0A08", 10, "99 224122"), hex("0000")),
            join(ascii("MZ"), new byte[40]),
            join(hex("601A"), new byte[40]),
            hex("9602 8016 8000 00 00000000 00000000 00"));
    Random random = new Random(1);
    for (int round = 0; round < 20_000; round++) {
      byte[] b = whole.get(random.nextInt(whole.size())).clone();
      for (int i = random.nextInt(4); i >= 0; i--) {
        b[random.nextInt(b.length)] = (byte) random.nextInt(256);
      }
      b = Arrays.copyOf(b, random.nextInt(b.length) + 1);
      long length = random.nextInt(5) > 0 ? b.length : b.length + 9L;
      assertThat(Kinds.of(new Sample(b, length)).kind()).isNotNull();
    }
  }

  @Test
  void soundThatSaysTooLittleOrTooMuchIsStillASound() {
    byte[] noRate = wave(100, 100);
    Arrays.fill(noRate, 28, 32, (byte) 0);
    assertThat(kind(noRate).fault()).isEqualTo("its rate is not said");
    byte[] silent = Arrays.copyOf(wave(100, 100), 40);
    assertThat(kind(silent).fault()).isEqualTo("it has no sound in it");
    byte[] odd = wave(100, 100);
    // A chunk that says it is as long as 4 GiB leads out of the file.
    Arrays.fill(odd, 16, 20, (byte) 0xFF);
    assertThat(kind(odd).kind()).isEqualTo(Kind.RECORDED_TAPE);
    assertThat(kind(odd).fault()).isEqualTo("it has no sound in it");
  }

  @Test
  void ofAFileThatIsLongOnlyItsBeginningIsJudgedAndThatIsSaid() {
    byte[] head = Arrays.copyOf(tape(), 160);
    Known k = Kinds.of(new Sample(head, 400_000));
    assertThat(k.says()).contains("at least 1 block");
    assertThat(k.fault()).isEmpty();
    Known text = Kinds.of(new Sample(ascii("a\nb\n"), 400_000));
    assertThat(text.says()).isEqualTo("at least 2 lines, ends LF");
    assertThat(Sample.wanted(400_000)).isLessThan(Sample.wanted(200_000));
    // What must be seen whole is not guessed.
    byte[] counted = join(hex("00 0003 3000 010203"), hex("FF 0000 3001"));
    assertThat(Kinds.of(new Sample(counted, 400_000)).kind()).isEqualTo(Kind.OTHER);
  }

  @Test
  void aLengthSaysLessThanAStructure() {
    byte[] text = filled(163_840, 'a');
    text[100] = '\n';
    assertThat(kind(text).kind()).isEqualTo(Kind.TEXT);
    byte[] exe = Arrays.copyOf(new byte[] {'M', 'Z', 0, 0, 10, 0}, 184_320);
    assertThat(kind(exe).kind()).isEqualTo(Kind.PROGRAM);
  }

  @Test
  void profilesNameTheKindsThatThereAre() {
    List<String> named = new java.util.ArrayList<>();
    tools.jackson.databind.json.JsonMapper.shared()
        .readTree(lanternshed.core.machine.ProfileFile.schema())
        .at("/properties/menu/properties/loads/items/properties/kind/enum")
        .forEach(n -> named.add(n.asString()));
    assertThat(named).isEqualTo(Arrays.stream(Kind.values()).map(Enum::name).toList());
  }

  @Test
  void everyBlankDiskThatIsMadeHereIsKnownByItsLength() {
    for (lanternshed.core.catalogue.BlankDisk d : lanternshed.core.catalogue.BlankDisk.ALL) {
      Known k = kind(filled((int) d.sectors() * 512, 0xE5));
      assertThat(k.kind()).as(d.key()).isEqualTo(Kind.DISK_IMAGE);
    }
  }

  @Test
  void aMenuTakesWhatItsProfileSays() {
    Profile.Menu menu = Profiles.find("m6803-cart").orElseThrow().menu();
    Known tape = kind(tape());
    assertThat(OnMachine.of(menu, tape, "a.cas").starts()).isEqualTo(Optional.of(Starts.AT_ONCE));
    assertThat(OnMachine.of(menu, tape, "A.TAP"))
        .isEqualTo(new OnMachine(Optional.of(Starts.NOT), "the menu asks for CAS"));
    assertThat(OnMachine.of(menu, tape, "A.CAS/CAS").starts()).hasValue(Starts.NOT);
    assertThat(OnMachine.of(menu, Known.of(Kind.OTHER, ""), "X").starts()).isEmpty();
    assertThat(OnMachine.missing(menu, List.of("A", "system/start.bin"))).isEmpty();
    assertThat(OnMachine.missing(menu, List.of("START.BIN"))).hasSize(1);
    Profiles.all().stream()
        .filter(p -> p.menu() != null)
        .flatMap(p -> p.menu().loads().stream())
        .forEach(l -> assertThat(Kind.valueOf(l.kind())).isNotNull());
  }

  @Test
  void anEmulatorFindsDrivesAndMissesOnlyWhatIsMeantAsOne() {
    Profile.Carrier floppies = Profiles.get("floppy-instrument").carrier();
    Known disk = kind(filled(737_280, 0xE5));
    Known text = kind(ascii("one\r\n".repeat(128)));
    assertThat(OnMachine.of(floppies, disk, "DISK001.IMG", 737_280).starts())
        .hasValue(Profile.Starts.AT_ONCE);
    assertThat(OnMachine.of(floppies, disk, "weir.img", 737_280).how()).contains("DISK000.IMG");
    assertThat(OnMachine.of(floppies, text, "read.me", 640).starts()).isEmpty();
    assertThat(OnMachine.of(floppies, text, "DISK002.IMG", 640).starts())
        .hasValue(Profile.Starts.NOT);
    assertThat(OnMachine.mayBeDrive(floppies, disk, 737_280)).isTrue();
    assertThat(OnMachine.mayBeDrive(floppies, text, 737_280)).isFalse();
    assertThat(OnMachine.mayBeDrive(floppies, disk, 204_800)).isFalse();
  }
}
