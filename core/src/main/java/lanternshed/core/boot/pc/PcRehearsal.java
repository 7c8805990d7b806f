package lanternshed.core.boot.pc;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.LongFunction;
import lanternshed.core.boot.Around;
import lanternshed.core.boot.Rehearsal;
import lanternshed.core.boot.Rehearsal.Ending;
import lanternshed.core.cpu.Cpu;
import lanternshed.core.cpu.Memory;
import lanternshed.core.cpu.Stop;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;

/**
 * Runs the start of a PC: the bytes of sector 0 by a processor, under the calls and the geometry of
 * this machine's firmware. What is written goes nowhere.
 */
final class PcRehearsal {
  private static final long MOST_STEPS = 40_000_000;

  private PcRehearsal() {}

  /** A loader was entered. */
  private static final class Entered extends RuntimeException {
    private static final long serialVersionUID = 1;

    Entered() {
      super(null, null, false, false);
    }
  }

  /** The loader that was entered, where, and with which drive. */
  record Loader(String file, int segment, int offset, int drive) {
    String sentence() {
      return String.format(
          Locale.ROOT,
          "%s is entered at %04X:%04X, with %02X in DL.",
          file,
          segment,
          offset,
          drive);
    }
  }

  /** No code begins with as many zeros; they are the least that is taken for nothing at all. */
  private static final int NOTHING = 64;

  /** What should be code is zeros: it was read from the wrong sectors (B-10). */
  private static final class Zeros extends RuntimeException {
    private static final long serialVersionUID = 1;

    Zeros(String at) {
      super(at, null, false, false);
    }
  }

  /**
   * Runs it.
   *
   * @param what says what lies at a sector; empty for nothing that is known, and outside
   */
  static Rehearsal of(Medium medium, Around facts, LongFunction<Optional<Place>> what) {
    Firmware firmware = new Firmware(medium, facts, what);
    Cpu cpu = new Cpu(new Memory(), firmware, facts.level());
    firmware.powerOn(cpu);
    byte[] first;
    try {
      first = medium.sector(0);
    } catch (MediumException e) {
      return ended(Ending.NO_SYSTEM, "Sector 0 does not read: nothing starts.", "", firmware, cpu);
    }
    if (Bytes.u16(first, 510) != 0xAA55) {
      return ended(
          Ending.NO_SYSTEM,
          "The firmware finds no mark 55 AA at the end of sector 0, and starts nothing.",
          "",
          firmware,
          cpu);
    }
    cpu.memory().put(0x7C00, first, 0, 512);
    cpu.jump(0, 0x7C00);
    try {
      cpu.run(MOST_STEPS);
    } catch (Entered e) {
      return ended(Ending.ENTERED, "", "", firmware, cpu);
    } catch (Zeros e) {
      String sentence =
          "It goes to " + e.getMessage() + ", where only zeros stand, and hangs there.";
      return ended(Ending.HANGS, sentence, "", firmware, cpu);
    } catch (Firmware.Asks e) {
      return ended(Ending.ASKS, "It waits for a key." + said(firmware, cpu), "", firmware, cpu);
    } catch (Firmware.Nothing e) {
      return ended(Ending.NO_SYSTEM, e.sentence(), "", firmware, cpu);
    } catch (Firmware.Still e) {
      String said = said(firmware, cpu);
      return said.isEmpty()
          ? ended(Ending.HANGS, "It stands still without a word.", "", firmware, cpu)
          : ended(Ending.MESSAGE, "It stands still." + said, "", firmware, cpu);
    } catch (Stop e) {
      // A loader that goes on where it is not followed was entered all the same.
      String file = e.leaves() ? firmware.running(cpu) : "";
      if (file.isEmpty()) {
        if (!e.leaves()) return ended(Ending.FAULT, e.what(), "", firmware, cpu);
        return ended(Ending.NOT_FOLLOWED, e.what() + firmware.origin(cpu), "", firmware, cpu);
      }
      String sentence = file + " runs, and leaves real mode: what it does then is not followed.";
      return ended(Ending.ENTERED, sentence, file, firmware, cpu);
    }
    String said = said(firmware, cpu);
    String sentence = "After " + Say.count(MOST_STEPS) + " steps it is still running." + said;
    return ended(Ending.BOUND, sentence, "", firmware, cpu);
  }

  private static String said(Firmware firmware, Cpu cpu) {
    List<String> lines = firmware.screen(cpu).stream().filter(l -> !l.isBlank()).toList();
    return lines.isEmpty() ? "" : " Its screen says “" + lines.get(lines.size() - 1).strip() + "”.";
  }

  private static Rehearsal ended(
      Ending ending, String sentence, String entered, Firmware firmware, Cpu cpu) {
    // What comes behind a loader's entry is told, and it was entered all the same.
    Optional<Loader> loader = firmware.loader();
    boolean lost = ending == Ending.FAULT || ending == Ending.BOUND;
    if (loader.isEmpty() && lost && !firmware.nameless().isEmpty()) {
      return ended(Ending.NOT_FOLLOWED, firmware.nameless() + " " + sentence, "", firmware, cpu);
    }
    return new Rehearsal(
        loader.isPresent() ? Ending.ENTERED : ending,
        (loader.map(Loader::sentence).orElse("") + " " + sentence).strip(),
        loader.map(Loader::file).orElse(entered),
        firmware.screen(cpu),
        List.copyOf(firmware.reads),
        firmware.count,
        cpu.steps());
  }

  /**
   * Looks whether a far transfer entered a loader: a place of a contract, whose bytes there are
   * those of a file where it was read from (B-10).
   */
  static void arrived(Firmware firmware, Cpu cpu, int segment, int offset) {
    if (firmware.loader().isPresent()) return;
    for (Contract c : Contract.values()) {
      if (c.segment() != segment || c.offset() != offset) continue;
      String file = firmware.entered((segment << 4) + offset, c.offset());
      if (file.isEmpty()) {
        firmware.enteredNameless(segment, offset);
        continue;
      }
      firmware.entered(new Loader(file, segment, offset, cpu.low(Cpu.DX)));
      if (!firmware.goesOn()) throw new Entered();
    }
    int at = (segment << 4) + offset;
    if (Bytes.allZero(cpu.memory().get(at, NOTHING), 0, NOTHING)) {
      throw new Zeros(String.format(Locale.ROOT, "%04X:%04X", segment, offset));
    }
  }

  /** Lists without the empty lines at their end. */
  static List<String> trimmed(List<String> lines) {
    List<String> out = new ArrayList<>(lines);
    while (!out.isEmpty() && out.get(out.size() - 1).isBlank()) out.remove(out.size() - 1);
    return List.copyOf(out);
  }
}
