package lanternshed.core.boot.pc;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.boot.Around;
import lanternshed.core.cpu.Bus;
import lanternshed.core.cpu.Cpu;
import lanternshed.core.cpu.Level;
import lanternshed.core.cpu.Memory;
import lanternshed.core.cpu.Reach;
import lanternshed.core.cpu.Stop;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.MemoryMedium;

/**
 * An option ROM that is entered as firmware does it after power-on, by a far call to its fourth
 * byte: what it prints, what it hooks, and on which processor it runs at all (O-6, B-12). Then its
 * disk call is asked what the firmware's own would be asked. No controller answers it, so that it
 * finds no drive of its own.
 */
public final class RomRun {
  private static final long MOST_STEPS = 10_000_000;
  private static final int BACK_SEGMENT = 0xF000;
  private static final int BACK = 0xFA00;
  private static final int MARKED = 0xAA55;
  private static final int VECTORS = 256;

  /** Behind the mark and the length byte. */
  private static final int ENTRY = 3;

  /** As large as plain cylinders, heads and sectors reach. */
  private static final Geometry DRIVE = new Geometry(1024, 16, 63);

  private static final Map<Integer, String> NAMES =
      Map.of(
          0x09,
          "keyboard",
          0x10,
          "video",
          0x13,
          "disk",
          0x15,
          "system",
          0x16,
          "keys",
          0x18,
          "no system",
          0x19,
          "start",
          0x1A,
          "clock",
          0x40,
          "floppy",
          0x41,
          "drive table");

  private RomRun() {}

  /**
   * A vector that points somewhere else afterwards.
   *
   * @param name what it serves; "" where it serves nothing that is known here
   */
  public record Hook(int vector, String name, int segment, int offset) {}

  /** A disk call that was made after it was installed, with what came back. */
  public record Asked(String call, String answer) {}

  /**
   * @param returned whether it came back to the firmware
   * @param needs the least processor of which every instruction on the way was known
   * @param why what an earlier one stops at; "" where the first does
   * @param sentence how it ended
   * @param code all that can be reached from its entry and its hooks, run or not
   */
  public record RomRan(
      boolean returned,
      Level needs,
      String why,
      String sentence,
      List<String> screen,
      List<Hook> hooks,
      List<Asked> asked,
      long steps,
      Reach code) {}

  /** It came back. */
  private static final class Back extends RuntimeException {
    private static final long serialVersionUID = 1;

    Back() {
      super(null, null, false, false);
    }
  }

  /** A firmware to which code comes back by a far return. */
  private record Calling(Firmware firmware) implements Bus {
    @Override
    public int in(int port, int bytes) {
      return firmware.in(port, bytes);
    }

    @Override
    public void out(int port, int value, int bytes) {
      firmware.out(port, value, bytes);
    }

    @Override
    public void service(Cpu cpu, int number) {
      firmware.service(cpu, number);
    }

    @Override
    public void arrived(Cpu cpu, int segment, int offset) {
      if (segment == BACK_SEGMENT && offset == BACK) throw new Back();
    }

    @Override
    public int halted(Cpu cpu) {
      return firmware.halted(cpu);
    }
  }

  /**
   * Runs it on the least processor that has all its instructions.
   *
   * @param segment at which it lies, C800 to EF80
   * @throws ShedException where it is no option ROM
   */
  public static RomRan of(byte[] rom, int segment) {
    if (rom.length < 4 || (rom[0] & 0xFF | (rom[1] & 0xFF) << 8) != MARKED) {
      throw new ShedException("It does not begin with 55 AA; the firmware would not enter it.");
    }
    int claimed = (rom[2] & 0xFF) * 512;
    // A longer file, as for a larger chip, ends in the machine where its header says.
    int length = claimed > 0 && claimed < rom.length ? claimed : rom.length;
    if (segment < 0xC800 || (segment << 4) + length > 0xF0000) {
      throw new ShedException(
          String.format(
              Locale.ROOT, "At %04X:0000 it does not lie between C8000 and EFFFF.", segment));
    }
    boolean whole = (segment << 4) + rom.length <= 0xF0000;
    byte[] seen = whole ? rom : Arrays.copyOf(rom, length);
    String why = "";
    for (Level level : Level.values()) {
      One one = new One(seen, segment, level);
      Optional<Level> needs = one.run();
      if (needs.isPresent() && level != Level.last()) {
        // Which machine has which is not known here.
        why = one.sentence.replaceFirst("; this machine.*", ".");
        continue;
      }
      return one.ran(why);
    }
    throw new IllegalStateException("the last processor has all of them");
  }

  private static final class One {
    private final Firmware firmware;
    private final Cpu cpu;
    private final int segment;
    private final byte[] rom;
    private final int[] before = new int[VECTORS];
    private final List<Asked> asked = new ArrayList<>();
    private final Level level;
    private String sentence = "";
    private boolean returned;

    One(byte[] rom, int segment, Level level) {
      this.segment = segment;
      this.rom = rom;
      this.level = level;
      MemoryMedium none = new MemoryMedium(DRIVE.total());
      Around around = new Around(DRIVE, DRIVE.total(), false, level);
      firmware = new Firmware(none, around, s -> Optional.empty());
      cpu = new Cpu(new Memory(), new Calling(firmware), level);
      firmware.powerOn(cpu);
      // What the length byte says is what the firmware believes; the rest of the chip is there too.
      cpu.memory().put(segment << 4, rom, 0, rom.length);
      for (int n = 0; n < VECTORS; n++) before[n] = cpu.memory().u32(n * 4);
    }

    /**
     * @return the processor that is needed, where this one lacks an instruction
     */
    Optional<Level> run() {
      Optional<Level> needs = call(segment, ENTRY);
      if (needs.isPresent() || !returned) return needs;
      sentence = "It comes back to the firmware after " + Say.count(cpu.steps()) + " steps.";
      int vector = cpu.memory().u32(0x13 * 4);
      if (vector == before[0x13]) return Optional.empty();
      for (int[] ask : new int[][] {{0x0800, 0}, {0x1500, 0}, {0x4100, 0x55AA}}) {
        Optional<Level> more = disk(vector, ask[0], ask[1]);
        if (more.isPresent()) return more;
      }
      return Optional.empty();
    }

    private Optional<Level> disk(int vector, int ax, int bx) {
      cpu.word(Cpu.AX, ax);
      cpu.word(Cpu.BX, bx);
      cpu.word(Cpu.DX, 0x80);
      push(cpu.flags());
      String installed = sentence;
      Optional<Level> needs = call(vector >>> 16, vector & 0xFFFF);
      String name = String.format(Locale.ROOT, "%02Xh for drive 80h", ax >> 8);
      if (needs.isPresent()) return needs;
      asked.add(new Asked(name, returned ? answer(ax >> 8) : sentence));
      sentence = installed;
      returned = true;
      return Optional.empty();
    }

    private String answer(int call) {
      boolean failed = (cpu.flags() & Cpu.CARRY) != 0;
      int ah = cpu.high(Cpu.AX);
      if (call == 0x15) {
        return failed ? "refused" : ah == 3 ? "a fixed disk" : String.format("type %02X", ah);
      }
      if (failed) return String.format(Locale.ROOT, "refused, code %02X", ah);
      if (call == 0x41) return String.format(Locale.ROOT, "calls that pass an LBA, %02X", ah);
      int cylinders = (cpu.word(Cpu.CX) >> 8 | (cpu.word(Cpu.CX) & 0xC0) << 2) + 1;
      return Say.count(cylinders)
          + " × "
          + (cpu.high(Cpu.DX) + 1)
          + " × "
          + (cpu.word(Cpu.CX) & 0x3F);
    }

    private void push(int word) {
      int sp = cpu.word(Cpu.SP) - 2 & 0xFFFF;
      cpu.word(Cpu.SP, sp);
      cpu.memory().put16((cpu.segment(Cpu.SS) << 4) + sp, word);
    }

    private Optional<Level> call(int to, int offset) {
      push(BACK_SEGMENT);
      push(BACK);
      cpu.jump(to, offset);
      returned = false;
      try {
        cpu.run(MOST_STEPS);
        sentence = "After " + Say.count(MOST_STEPS) + " steps it is still running.";
      } catch (Back e) {
        returned = true;
      } catch (Firmware.Asks e) {
        sentence = "It waits for a key.";
      } catch (Firmware.Nothing e) {
        sentence = "It tells the firmware that there is nothing to start.";
      } catch (Firmware.Still e) {
        sentence = "It stands still.";
      } catch (Stop e) {
        sentence = e.what();
        return e.needs();
      }
      return Optional.empty();
    }

    RomRan ran(String why) {
      List<Hook> hooks = new ArrayList<>();
      for (int n = 0; n < VECTORS; n++) {
        int now = cpu.memory().u32(n * 4);
        if (now == before[n]) continue;
        hooks.add(new Hook(n, NAMES.getOrDefault(n, ""), now >>> 16, now & 0xFFFF));
      }
      List<Integer> entries = new ArrayList<>(List.of(ENTRY));
      hooks.stream().filter(h -> h.segment() == segment).forEach(h -> entries.add(h.offset()));
      Reach code = Reach.of(rom, segment, entries);
      List<String> screen = PcRehearsal.trimmed(firmware.screen(cpu));
      return new RomRan(returned, level, why, sentence, screen, hooks, asked, cpu.steps(), code);
    }
  }
}
