package lanternshed.core.cpu;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvFileSource;

/**
 * Edges of single instructions, as the processors' published manuals have them: a row is one or a
 * few instructions, what stood before, and what must stand afterwards. What a manual leaves
 * undefined is not asked for.
 */
class EdgesTest {
  private static final int CODE = 0x1000;
  private static final int MOST = 12;
  private static final List<String> REGISTERS =
      List.of("AX", "CX", "DX", "BX", "SP", "BP", "SI", "DI");
  private static final List<String> SEGMENTS = List.of("ES", "CS", "SS", "DS", "FS", "GS");
  private static final Map<String, Integer> FLAGS =
      Map.of("C", 1, "P", 4, "A", 0x10, "Z", 0x40, "S", 0x80, "D", 0x400, "O", 0x800);

  /** Nothing around it. */
  private static final Bus NONE =
      new Bus() {
        @Override
        public int in(int port, int bytes) {
          return -1;
        }

        @Override
        public void out(int port, int value, int bytes) {}

        @Override
        public void arrived(Cpu cpu, int segment, int offset) {}

        @Override
        public int halted(Cpu cpu) {
          throw new IllegalStateException("It halts.");
        }

        @Override
        public void service(Cpu cpu, int number) {}
      };

  @ParameterizedTest(name = "{0}, {1}")
  @CsvFileSource(resources = "/cpu/edges.txt", delimiter = '|', numLinesToSkip = 1)
  void anEdge(String what, Level level, String code, String before, String after) {
    Cpu cpu = new Cpu(new Memory(), NONE, level);
    byte[] bytes = HexFormat.of().parseHex(code.replace(" ", ""));
    for (int n = 0; n < 256; n++) {
      cpu.memory().put16(n * 4, n);
      cpu.memory().put16(n * 4 + 2, 0xF000);
    }
    cpu.segment(Cpu.CS, 0);
    cpu.word(Cpu.SP, 0x8000);
    for (String b : before.split(" ")) put(cpu, b.split("="));
    cpu.memory().put(CODE, bytes, 0, bytes.length);
    // RET goes where the test stops.
    int end = CODE + bytes.length;
    cpu.memory().put16(0x7000, end);
    cpu.jump(0, CODE);
    if (after.startsWith("NEEDS=")) {
      assertThatThrownBy(cpu::step)
          .isInstanceOf(Stop.class)
          .satisfies(s -> assertThat(((Stop) s).what()).contains("needs an " + after.substring(6)));
      return;
    }
    for (int i = 0; i < MOST && cpu.segment(Cpu.CS) == 0 && cpu.ip() != end; i++) cpu.step();
    for (String a : after.split(" ")) expect(cpu, a.split("="), end);
    if (!after.startsWith("INT=")) assertThat(cpu.ip()).as("it goes to its end").isEqualTo(end);
  }

  private static void put(Cpu cpu, String[] b) {
    if (b[0].startsWith("[")) {
      byte[] m = HexFormat.of().parseHex(b[1]);
      cpu.memory().put(Integer.parseInt(b[0].substring(1, 5), 16), m, 0, m.length);
      return;
    }
    int value = Integer.parseUnsignedInt(b[1], 16);
    if (b[0].equals("F")) cpu.flags(value);
    else if (SEGMENTS.contains(b[0])) cpu.segment(SEGMENTS.indexOf(b[0]), value);
    else cpu.set(REGISTERS.indexOf(b[0]), value);
  }

  private static void expect(Cpu cpu, String[] a, int end) {
    String is;
    if (a[0].startsWith("[")) {
      int at = Integer.parseInt(a[0].substring(1, 5), 16);
      is = HexFormat.of().withUpperCase().formatHex(cpu.memory().get(at, a[1].length() / 2));
    } else if (a[0].equals("INT")) {
      assertThat(cpu.segment(Cpu.CS)).isEqualTo(0xF000);
      is = String.format("%02X", cpu.ip());
    } else if (a[0].equals("IP")) {
      is = cpu.ip() == end ? "END" : String.format("%04X", cpu.ip());
    } else if (FLAGS.containsKey(a[0])) {
      is = (cpu.flags() & FLAGS.get(a[0])) == 0 ? "0" : "1";
    } else if (SEGMENTS.contains(a[0])) {
      is = String.format("%04X", cpu.segment(SEGMENTS.indexOf(a[0])));
    } else {
      int n = REGISTERS.indexOf(a[0]);
      is =
          a[1].length() == 8
              ? String.format("%08X", cpu.get(n))
              : String.format("%04X", cpu.word(n));
    }
    assertThat(is).as(a[0]).isEqualTo(a[1]);
  }
}
