package lanternshed.core.cpu;

/** Instructions over rows of bytes, words and longs, with their repeats. */
abstract class Strings extends Operands {
  private static final int DF = 0x400;

  /** Repeats in one step; more go on in the next. */
  private static final int AT_ONCE = 1 << 16;

  Strings(Memory memory, Bus bus, Level level) {
    super(memory, bus, level);
  }

  private int count() {
    return wide ? r[Cpu.CX] : r[Cpu.CX] & 0xFFFF;
  }

  private int at(int register) {
    return wide ? r[register] : r[register] & 0xFFFF;
  }

  private void move(int register, int of) {
    int by = 1 << of;
    int v = r[register] + (flag(DF) ? -by : by);
    reg(register, wide ? LONG : WORD, v);
  }

  private int from() {
    return override >= 0 ? override : Cpu.DS;
  }

  /** A4 to A7, AA to AF, 6C to 6F; the repeat is counted in (E)CX. */
  final void string(int op) {
    int of = (op & 1) == 0 ? BYTE : size;
    if (repeat == 0) {
      once(op, of);
      return;
    }
    boolean compares = (op & 0xF6) == 0xA6;
    for (int n = 0; count() != 0; n++) {
      if (n == AT_ONCE) {
        // As where an interrupt comes in between: it goes on with the same instruction.
        ip = began;
        return;
      }
      work++;
      once(op, of);
      reg(Cpu.CX, wide ? LONG : WORD, r[Cpu.CX] - 1);
      if (compares && flag(ZF) != (repeat == 0xF3)) break;
    }
  }

  private void once(int op, int of) {
    switch (op & 0xFE) {
      case 0xA4 -> {
        store(Cpu.ES, at(Cpu.DI), of, load(from(), at(Cpu.SI), of));
        move(Cpu.SI, of);
        move(Cpu.DI, of);
      }
      case 0xA6 -> {
        sub(load(from(), at(Cpu.SI), of), load(Cpu.ES, at(Cpu.DI), of), 0, of);
        move(Cpu.SI, of);
        move(Cpu.DI, of);
      }
      case 0xAA -> {
        store(Cpu.ES, at(Cpu.DI), of, reg(Cpu.AX, of));
        move(Cpu.DI, of);
      }
      case 0xAC -> {
        reg(Cpu.AX, of, load(from(), at(Cpu.SI), of));
        move(Cpu.SI, of);
      }
      case 0xAE -> {
        sub(reg(Cpu.AX, of), load(Cpu.ES, at(Cpu.DI), of), 0, of);
        move(Cpu.DI, of);
      }
      case 0x6C -> {
        store(Cpu.ES, at(Cpu.DI), of, bus.in(r[Cpu.DX] & 0xFFFF, 1 << of));
        move(Cpu.DI, of);
      }
      default -> {
        bus.out(r[Cpu.DX] & 0xFFFF, load(from(), at(Cpu.SI), of), 1 << of);
        move(Cpu.SI, of);
      }
    }
  }
}
