package lanternshed.core.boot.pc;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.Trials;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.Rehearsal;
import lanternshed.core.boot.Rehearsal.Ending;
import lanternshed.core.cpu.Level;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.survey.Whereabouts;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Boot codes of ours and of others × faults: what the rehearsal says is what the same disk shows
 * under a general PC emulator.
 */
@Tag("trial")
class RehearsalMatrixTest {
  private static final Geometry G = new Geometry(240, 8, 32);
  private static final long START = G.sectors();
  @TempDir private static Path home;

  private interface Change {
    void on(MemoryMedium m);
  }

  private record Cell(String name, Path file, Geometry g) {
    @Override
    public String toString() {
      return name;
    }
  }

  private static void edit(MemoryMedium m, long sector, int at, int... bytes) {
    byte[] b = m.sector(sector);
    for (int i = 0; i < bytes.length; i++) b[at + i] = (byte) bytes[i];
    m.write(sector, 1, b, 0);
  }

  private static final Map<String, Change> FAULTS = new LinkedHashMap<>();

  static {
    FAULTS.put("whole", m -> {});
    FAULTS.put("no active entry", m -> edit(m, 0, 446, 0));
    FAULTS.put(
        "two active entries",
        m -> {
          byte[] b = m.sector(0);
          System.arraycopy(b, 446, b, 462, 16);
          m.write(0, 1, b, 0);
        });
    FAULTS.put("wrong C/H/S in the entry", m -> edit(m, 0, 447, 3));
    FAULTS.put("wrong LBA in the entry", m -> edit(m, 0, 454, 200, 0));
    FAULTS.put("entry past the reach", m -> edit(m, 0, 447, 7, 0xE0, 0xFF, 6, 0, 0, 0, 0xFF, 0xFF));
    FAULTS.put("wrong heads in the boot sector", m -> edit(m, START, 0x1A, 4, 0));
    FAULTS.put("wrong sectors in the boot sector", m -> edit(m, START, 0x18, 17, 0));
    FAULTS.put("wrong hidden sectors", m -> edit(m, START, 0x1C, 63, 0));
    FAULTS.put("no mark in the boot sector", m -> edit(m, START, 510, 0, 0));
    FAULTS.put("no mark in sector 0", m -> edit(m, 0, 510, 0, 0));
    FAULTS.put("loader gone", m -> edit(m, root(m), 0, 'X'));
    FAULTS.put("loader elsewhere", m -> edit(m, root(m), 26, 9));
  }

  private static long root(MemoryMedium m) {
    byte[] b = m.sector(START);
    return START + Bytes.u16(b, 14) + 2L * Bytes.u16(b, 22);
  }

  private static void code(MemoryMedium m, byte[] code) {
    byte[] b = m.sector(0);
    System.arraycopy(code, 0, b, 0, Math.min(440, code.length));
    m.write(0, 1, b, 0);
  }

  /** Codes for sector 0: ours, two that others wrote, one of a partition program. */
  private static Map<String, byte[]> tables() throws Exception {
    Map<String, byte[]> out = new LinkedHashMap<>();
    out.put("our table code", BootCode.table());
    Path mbr = Path.of("/usr/lib/syslinux/mbr/mbr.bin");
    out.put("a free loader's table code", Files.readAllBytes(mbr));
    out.put("its other one", Files.readAllBytes(mbr.resolveSibling("altmbr.bin")));
    Path p = home.resolve("parted");
    Tool.run("truncate -s 20M " + p + " && parted -s " + p + " mklabel ms");
    out.put("a partition program's code", java.util.Arrays.copyOf(Files.readAllBytes(p), 440));
    return out;
  }

  static Stream<Cell> cells() throws Exception {
    List<Cell> out = new ArrayList<>();
    for (Map.Entry<String, byte[]> t : tables().entrySet()) {
      for (Map.Entry<String, Change> f : FAULTS.entrySet()) {
        MemoryMedium m = Samples.drive(G);
        code(m, t.getValue());
        // The other one asks which entry by a number behind its code.
        if (t.getKey().equals("its other one")) edit(m, 0, 439, 1);
        f.getValue().on(m);
        Path file = home.resolve("m" + out.size());
        Samples.toFile(m, file);
        out.add(new Cell(t.getKey() + ", " + f.getKey(), file, G));
      }
    }
    for (String kind : List.of("12", "16", "32")) {
      Path bare = volume(kind);
      out.add(new Cell("a formatter's own message, FAT" + kind, bare, G));
      Path loader = home.resolve("l" + kind);
      Files.copy(bare, loader);
      Tool.run("syslinux " + loader);
      out.add(new Cell("a free loader, FAT" + kind, loader, G));
      Path gone = home.resolve("g" + kind);
      Files.copy(loader, gone);
      Tool.run(
          "mattrib -r -s -h -i " + gone + " ::ldlinux.sys; mdel -i " + gone + " ::ldlinux.sys");
      Tool.run(
          "dd if=/dev/zero of=" + gone + " bs=512 seek=200 count=4000 conv=notrunc status=none");
      out.add(new Cell("a free loader whose file is gone, FAT" + kind, gone, G));
    }
    for (Contract c : List.of(Contract.ONE_FILE, Contract.WHOLE, Contract.BY_NAME)) {
      for (String kind : List.of("12", "16", "32")) {
        String name = "our code, FAT" + kind + ", " + c;
        Path whole = ours(c, kind, "o" + out.size());
        out.add(new Cell(name, whole, G));
        Path gone = home.resolve("n" + out.size());
        Files.copy(whole, gone);
        Tool.run("mdel -i " + gone + " ::" + LOADER);
        out.add(new Cell(name + ", loader gone", gone, G));
        Path heads = home.resolve("h" + out.size());
        Files.copy(whole, heads);
        try (FileMedium m = FileMedium.openWritable(heads)) {
          byte[] b = m.sector(0);
          b[0x1A] = 4;
          m.write(0, 1, b, 0);
        }
        // By C/H/S it reads the wrong sectors; by LBA it does not ask.
        out.add(new Cell(name + ", wrong heads", heads, G));
      }
    }
    // In the test command every other one, of each kind of fault and code some.
    return IntStream.range(0, out.size())
        .filter(i -> i % Trials.turns(2, 1) == 0)
        .mapToObj(out::get);
  }

  private static final String LOADER = "LOADER.SYS";

  /** A volume that others formatted, its loader in pieces behind other files, started by us. */
  static Path ours(Contract c, String kind, String name) throws Exception {
    Path p = home.resolve(name);
    Files.copy(volume(kind), p);
    Path many = Files.createDirectory(home.resolve(name + ".d"));
    StringBuilder gone = new StringBuilder();
    for (int i = 0; i < 40; i++) {
      Files.write(many.resolve(String.format("F%02d", i)), new byte[5000]);
      if (i % 2 == 0) gone.append(String.format(" ::F%02d", i));
    }
    Tool.run("mcopy -i " + p + " " + many + "/F* ::");
    Tool.run("mdel -i " + p + gone);
    Path file = home.resolve(name + ".f");
    Files.write(file, loader(c));
    Tool.run("mcopy -i " + p + " " + file + " ::" + LOADER);
    byte[] code = BootCode.volume(c, "FAT" + kind, LOADER);
    try (FileMedium m = FileMedium.openWritable(p)) {
      byte[] b = m.sector(0);
      System.arraycopy(code, 0, b, kind.equals("32") ? 0x5A : 0x3E, code.length);
      m.write(0, 1, b, 0);
    }
    return p;
  }

  /** Its last sector that is loaded must have come too, or it says nothing. */
  private static byte[] loader(Contract c) {
    byte[] out = new byte[40_000];
    int last = (c.sectors() > 0 ? c.sectors() * 512 : out.length) - 1;
    out[last] = 0x5A;
    Assembler a = new Assembler(c.offset());
    a.op("0E 1F FC"); // push cs; pop ds; cld
    a.op16("80 3E", last).op("5A").near("75", "stop"); // cmp byte [last],5A; jne stop
    a.address("BE", "text"); // mov si,text
    BootCode.say(a);
    byte[] code = a.label("text").text(Samples.LOADER_TEXT).assemble();
    System.arraycopy(code, 0, out, c.offset(), code.length);
    return out;
  }

  static Stream<Arguments> ourCodes() {
    return Stream.of(Contract.ONE_FILE, Contract.WHOLE, Contract.BY_NAME)
        .flatMap(c -> Stream.of("12", "16", "32").map(k -> Arguments.of(c, k)));
  }

  /** Firmware without the extended calls is asked by C/H/S; a first processor runs it as well. */
  @ParameterizedTest
  @MethodSource("ourCodes")
  void ourCodesStartByCylindersToo(Contract c, String kind) throws Exception {
    Path p = ours(c, kind, "c" + c + kind);
    try (FileMedium m = FileMedium.open(p)) {
      Whereabouts places = Whereabouts.of(m);
      Geometry g = new Geometry((int) (m.sectors() / G.perCylinder()), 8, 32);
      Level level = kind.equals("32") ? Level.I80386 : Level.I8086;
      Rehearsal r = PcRehearsal.of(m, new Around(g, m.sectors(), false, level), places::at);
      assertThat(r.ending()).as(r.sentence() + r.screen()).isEqualTo(Ending.ENTERED);
      assertThat(r.entered()).isEqualTo(LOADER);
      assertThat(r.reads()).allMatch(x -> x.asked().contains("/"));
    }
  }

  private static Path volume(String kind) throws Exception {
    Path p = home.resolve("v" + kind);
    String cluster = kind.equals("12") ? "-s 32" : kind.equals("16") ? "-s 4" : "-s 1";
    long bytes = kind.equals("32") ? 36L << 20 : G.total() * 512;
    Tool.run("truncate -s " + bytes + " " + p);
    Tool.run("mkfs.fat -F " + kind + " " + cluster + " -g 8/32 -D 0x80 " + p);
    return p;
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("cells")
  void whatIsSaidIsWhatIsShown(Cell c) throws Exception {
    Rehearsal r;
    try (FileMedium m = FileMedium.open(c.file())) {
      Whereabouts places = Whereabouts.of(m);
      Geometry g = new Geometry((int) (m.sectors() / c.g().perCylinder()), 8, 32);
      r = PcRehearsal.of(m, new Around(g, m.sectors(), true, Level.I80386), places::at);
    }
    assertThat(r.sentence()).isNotBlank();
    String expected = expected(r);
    long cylinders = Files.size(c.file()) / 512 / G.perCylinder();
    String screen = PcEmulator.screen(c.file(), new Geometry((int) cylinders, 8, 32), expected);
    assertThat(screen).as(r.sentence() + r.screen()).contains(expected);
    if (r.ending().fails()) assertThat(screen).doesNotContain(Samples.LOADER_TEXT);
  }

  private static String expected(Rehearsal r) {
    return switch (r.ending()) {
      case ENTERED ->
          List.of("LOOMIO.SYS", LOADER).contains(r.entered()) ? Samples.LOADER_TEXT : "SYSLINUX";
      case NO_SYSTEM -> "No bootable device";
      case MESSAGE, ASKS, BOUND -> last(r.screen());
      case HANGS, FAULT, NOT_FOLLOWED -> "";
    };
  }

  private static String last(List<String> screen) {
    List<String> said = screen.stream().filter(l -> !l.isBlank()).toList();
    return said.isEmpty() ? "" : said.get(said.size() - 1).strip();
  }
}
