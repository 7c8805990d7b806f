package lanternshed.core.cli;

import java.util.HexFormat;
import lanternshed.core.cpu.Bus;
import lanternshed.core.cpu.Cpu;
import lanternshed.core.cpu.Level;
import lanternshed.core.cpu.Memory;
import lanternshed.core.cpu.Stop;

/** How many instructions a second the processor of the rehearsal runs, on one core. */
final class ProcessorBench {
  private static final long STEPS = 20_000_000;

  /**
   * What a boot sector does: loads, stores, sums, shifts, calls, a string and a loop.
   *
   * <p>mov si,7000; mov cx,40; next: lodsw; add ax,bx; xor [bx+si],dl; shl ax,1; push ax; call sub;
   * pop dx; loop next; jmp start; sub: cmp ax,dx; jb out; inc bx; out: ret
   */
  private static final byte[] CODE =
      HexFormat.of().parseHex("BE0070B94000AD01D83010D1E050E806005AE2F2EBEA39D0720143C3");

  private ProcessorBench() {}

  private static final class Nothing implements Bus {
    @Override
    public int in(int port, int bytes) {
      return 0;
    }

    @Override
    public void out(int port, int value, int bytes) {}

    @Override
    public void service(Cpu cpu, int number) {
      throw new Stop("The bench calls no firmware.");
    }

    @Override
    public void arrived(Cpu cpu, int segment, int offset) {}

    @Override
    public int halted(Cpu cpu) {
      throw new Stop("The bench does not halt.");
    }
  }

  static double millionsASecond(int rounds) {
    double best = 0;
    for (int i = 0; i < rounds; i++) {
      Cpu cpu = new Cpu(new Memory(), new Nothing(), Level.I8086);
      cpu.memory().put(0x7C00, CODE, 0, CODE.length);
      cpu.segment(Cpu.SS, 0x2000);
      cpu.word(Cpu.SP, 0x8000);
      cpu.segment(Cpu.DS, 0x3000);
      cpu.jump(0, 0x7C00);
      long t = QuickBench.now();
      cpu.run(STEPS);
      best = Math.max(best, STEPS * 1000.0 / (QuickBench.now() - t));
    }
    return best;
  }
}
