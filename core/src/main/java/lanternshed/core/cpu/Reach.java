package lanternshed.core.cpu;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Comparator;
import java.util.Deque;
import java.util.HexFormat;
import java.util.List;

/**
 * Code that can be reached from its entries, instruction by instruction, whether a run comes there
 * or not (O-6, B-12). How long each is and which processor has it says the processor itself: it
 * executes that one instruction aside. Bytes that are never reached are not looked at, so that data
 * that looks like an instruction counts for nothing.
 *
 * @param instructions that were reached
 * @param bytes of them
 * @param needs the least processor that has all of them
 * @param beyond the first of those that an 8086 lacks, in the order of their places
 * @param unseen jumps and calls whose aim only a run knows: behind them nothing was looked at
 * @param astray places that were reached and hold no instruction: data behind a call, as a rule
 */
public record Reach(
    int instructions, int bytes, Level needs, List<Beyond> beyond, int unseen, int astray) {

  private static final int SEGMENT = 0x4000;
  private static final int SCRATCH = 0x1000;
  private static final int WINDOW = 16;

  /** As far as an offset reaches. */
  private static final int REACH = 0x10000;

  private static final int MOST_SHOWN = 12;
  private static final int LEAST_TEXT = 5;

  /**
   * An instruction that an 8086 lacks.
   *
   * @param code its bytes in hexadecimal
   */
  public record Beyond(int at, Level needs, String code) {}

  /** What follows an instruction. */
  private enum Flow {
    ON,
    BRANCH,
    CALL,
    CALL_UNSEEN,
    JUMP,
    JUMP_UNSEEN,
    END
  }

  /** One instruction. */
  private record One(int length, Level needs, Flow flow, int aim) {}

  /**
   * @param code as it lies in its segment from offset 0; what lies behind 64 KiB is out of it
   * @param segment in which it will lie, for jumps that name it
   * @param entries offsets where it is entered
   */
  public static Reach of(byte[] code, int segment, List<Integer> entries) {
    return new Walk(Arrays.copyOf(code, Math.min(code.length, REACH)), segment).from(entries);
  }

  private static final class Walk {
    private final byte[] code;
    private final int segment;
    private final Cpu[] aside = new Cpu[Level.values().length];
    private final BitSet seen = new BitSet();
    private final BitSet inside = new BitSet();
    private final Deque<Integer> waiting = new ArrayDeque<>();
    private final List<Beyond> beyond = new ArrayList<>();
    private Level needs = Level.I8086;
    private int instructions;
    private int unseen;
    private int astray;

    Walk(byte[] code, int segment) {
      this.code = code;
      this.segment = segment;
      for (Level l : Level.values()) aside[l.ordinal()] = new Cpu(new Memory(), DEAF, l);
    }

    Reach from(List<Integer> entries) {
      waiting.addAll(entries);
      while (!waiting.isEmpty()) follow(waiting.poll());
      beyond.sort(Comparator.comparingInt(Beyond::at));
      List<Beyond> shown = beyond.stream().limit(MOST_SHOWN).toList();
      return new Reach(instructions, inside.cardinality(), needs, shown, unseen, astray);
    }

    private void follow(int from) {
      int at = from;
      while (at >= 0 && at < code.length && !seen.get(at)) {
        seen.set(at);
        One one = one(at);
        if (one == null) {
          astray++;
          return;
        }
        note(at, one);
        if (one.aim >= 0) waiting.add(one.aim);
        int next = at + one.length;
        switch (one.flow) {
          case ON, BRANCH -> at = next;
          case CALL, CALL_UNSEEN -> at = behindText(next);
          default -> at = -1;
        }
        if (one.flow == Flow.CALL_UNSEEN || one.flow == Flow.JUMP_UNSEEN) unseen++;
      }
    }

    private void note(int at, One one) {
      instructions++;
      inside.set(at, at + one.length);
      if (one.needs.compareTo(needs) > 0) needs = one.needs;
      if (one.needs == Level.I8086) return;
      String hex = HexFormat.of().withUpperCase().formatHex(code, at, at + one.length);
      beyond.add(new Beyond(at, one.needs, hex));
    }

    /** Routines that print what stands behind their call go on behind its 00 or $. */
    private int behindText(int at) {
      int end = at;
      while (end < code.length && text(code[end])) end++;
      boolean ended = end < code.length && (code[end] == 0 || code[end] == '$');
      return ended && end - at >= LEAST_TEXT ? end + 1 : at;
    }

    private static boolean text(byte b) {
      return b >= ' ' && b < 0x7F && b != '$' || b == '\r' || b == '\n' || b == '\t';
    }

    /** The instruction at a place by the first processor that has it; null where none has. */
    private One one(int at) {
      for (Level level : Level.values()) {
        // Its 0F takes the code's own segment from the stack, which no code that lives on does.
        if (level == Level.I8086 && opcode(at) == 0x0F) continue;
        Cpu cpu = aside[level.ordinal()];
        try {
          prepare(cpu, at);
          cpu.step();
        } catch (Stop stop) {
          if (stop.needs().isPresent()) continue;
          // What leaves real mode is an instruction all the same.
          if (!stop.leaves()) return null;
        }
        int length = cpu.fetched - at & 0xFFFF;
        if (length == 0 || at + length > code.length) return null;
        return flow(at, length, level);
      }
      return null;
    }

    /** The byte behind its prefixes; −1 where the code ends before. */
    private int opcode(int at) {
      int p = at;
      while (p < code.length && isPrefix(code[p] & 0xFF)) p++;
      return p < code.length ? code[p] & 0xFF : -1;
    }

    private void prepare(Cpu cpu, int at) {
      Arrays.fill(cpu.r, 0);
      Arrays.fill(cpu.seg, SCRATCH);
      cpu.reg(Cpu.SP, State.WORD, 0x100);
      cpu.flags(0);
      cpu.jump(SEGMENT, at);
      cpu.fetched = at;
      // Only this instruction is looked at, so that nothing around it need be there.
      int length = Math.min(WINDOW, code.length - at);
      cpu.memory.put((SEGMENT << 4) + at, code, at, length);
    }

    private One flow(int at, int length, Level level) {
      int p = at;
      boolean wide = false;
      while (p < at + length - 1 && isPrefix(code[p] & 0xFF)) wide |= code[p++] == 0x66;
      int op = code[p] & 0xFF;
      int next = at + length;
      int near = next + code[next - 1];
      if (op >= 0x70 && op < 0x80 || op >= 0xE0 && op < 0xE4) {
        return new One(length, level, Flow.BRANCH, near & 0xFFFF);
      }
      return switch (op) {
        case 0xEB -> new One(length, level, Flow.JUMP, near & 0xFFFF);
        case 0xE9 -> new One(length, level, Flow.JUMP, relative(next, wide));
        case 0xE8 -> new One(length, level, Flow.CALL, relative(next, wide));
        case 0xEA -> far(length, level, next, wide, Flow.JUMP, Flow.JUMP_UNSEEN);
        case 0x9A -> far(length, level, next, wide, Flow.CALL, Flow.CALL_UNSEEN);
        case 0xC2, 0xC3, 0xCA, 0xCB, 0xCF -> new One(length, level, Flow.END, -1);
        case 0x0F -> later(length, level, p, next, wide);
        case 0xFF -> through(length, level, code[p + 1] >> 3 & 7);
        default -> new One(length, level, Flow.ON, -1);
      };
    }

    private static boolean isPrefix(int b) {
      return switch (b) {
        case 0x26, 0x2E, 0x36, 0x3E, 0x64, 0x65, 0x66, 0x67, 0xF0, 0xF2, 0xF3 -> true;
        default -> false;
      };
    }

    private One later(int length, Level level, int p, int next, boolean wide) {
      boolean branch = (code[p + 1] & 0xF0) == 0x80;
      return new One(
          length, level, branch ? Flow.BRANCH : Flow.ON, branch ? relative(next, wide) : -1);
    }

    /** Calls and jumps through a register or memory. */
    private static One through(int length, Level level, int function) {
      Flow flow =
          switch (function) {
            case 2, 3 -> Flow.CALL_UNSEEN;
            case 4, 5 -> Flow.JUMP_UNSEEN;
            default -> Flow.ON;
          };
      return new One(length, level, flow, -1);
    }

    private int relative(int next, boolean wide) {
      int low = wide ? next - 4 : next - 2;
      return next + word(low) & 0xFFFF;
    }

    private One far(int length, Level level, int next, boolean wide, Flow here, Flow away) {
      boolean own = word(next - 2) == segment;
      int aim = word(wide ? next - 6 : next - 4);
      return new One(length, level, own ? here : away, own ? aim : -1);
    }

    private int word(int at) {
      return code[at] & 0xFF | (code[at + 1] & 0xFF) << 8;
    }
  }

  /** Nobody answers: only what the instruction itself is counts. */
  private static final Bus DEAF =
      new Bus() {
        @Override
        public int in(int port, int bytes) {
          return 0;
        }

        @Override
        public void out(int port, int value, int bytes) {}

        @Override
        public void service(Cpu cpu, int number) {}

        @Override
        public void arrived(Cpu cpu, int segment, int offset) {}

        @Override
        public int halted(Cpu cpu) {
          return 8;
        }
      };
}
