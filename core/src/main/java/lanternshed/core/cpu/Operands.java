package lanternshed.core.cpu;

/** What the byte behind an instruction names: a register, or a place in memory. */
abstract class Operands extends Alu {
  private static final int[] BASE = {
    Cpu.BX, Cpu.BX, Cpu.BP, Cpu.BP, Cpu.SI, Cpu.DI, Cpu.BP, Cpu.BX
  };
  private static final int[] INDEX = {Cpu.SI, Cpu.DI, Cpu.SI, Cpu.DI};

  /** Register field of the byte, and the other one: a register where {@link #direct}. */
  int reg;

  int rm;
  boolean direct;

  /** The place in memory. */
  int place;

  int placeIn;

  Operands(Memory memory, Bus bus, Level level) {
    super(memory, bus, level);
  }

  final void operands() {
    int b = fetch8();
    int mod = b >> 6;
    reg = b >> 3 & 7;
    rm = b & 7;
    direct = mod == 3;
    if (direct) return;
    if (wide) wide(mod);
    else narrow(mod);
    if (override >= 0) placeIn = override;
  }

  private void narrow(int mod) {
    placeIn = rm == 2 || rm == 3 || rm == 6 && mod != 0 ? Cpu.SS : Cpu.DS;
    int at;
    if (rm == 6 && mod == 0) {
      at = fetch16();
    } else {
      at = r[BASE[rm]] + (rm < 4 ? r[INDEX[rm]] : 0);
      if (mod == 1) at += (byte) fetch8();
      else if (mod == 2) at += fetch16();
    }
    place = at & 0xFFFF;
  }

  private void wide(int mod) {
    int base = rm;
    int at = 0;
    if (rm == 4) {
      int sib = fetch8();
      int index = sib >> 3 & 7;
      base = sib & 7;
      if (index != 4) at = r[index] << (sib >> 6);
    }
    placeIn = base == Cpu.SP || base == Cpu.BP && mod != 0 ? Cpu.SS : Cpu.DS;
    if (base == Cpu.BP && mod == 0) at += fetch32();
    else at += r[base];
    if (mod == 1) at += (byte) fetch8();
    else if (mod == 2) at += fetch32();
    place = at;
  }

  final int read(int of) {
    return direct ? reg(rm, of) : load(placeIn, place, of);
  }

  final void write(int of, int v) {
    if (direct) reg(rm, of, v);
    else store(placeIn, place, of, v);
  }
}
