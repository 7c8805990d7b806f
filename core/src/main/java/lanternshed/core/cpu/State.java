package lanternshed.core.cpu;

/** Registers, flags and memory of a processor, and what stands before the next instruction. */
abstract class State {
  /** Sizes of operands: 8, 16 and 32 bits. */
  static final int BYTE = 0;

  static final int WORD = 1;
  static final int LONG = 2;
  static final int[] BITS = {8, 16, 32};
  static final int[] MASK = {0xFF, 0xFFFF, -1};
  static final int[] SIGN = {0x80, 0x8000, 0x8000_0000};

  final int[] r = new int[8];
  final int[] seg = new int[6];
  final Memory memory;
  final Bus bus;
  final Level level;
  int ip;
  int flags = 2;

  /** Prefixes of the instruction: a segment or −1, size of operands, width of addresses, repeat. */
  int override;

  int size;
  boolean wide;
  int repeat;

  /** Instructions that ran. */
  long steps;

  /** The same, and what long instructions and calls count for besides: this is bounded. */
  long work;

  /** Where the instruction began: it is begun again where it faults. */
  int began;

  /** Where the bytes end that were fetched of it, wherever it went. */
  int fetched;

  State(Memory memory, Bus bus, Level level) {
    this.memory = memory;
    this.bus = bus;
    this.level = level;
  }

  final int fetch8() {
    int v = memory.u8((seg[Cpu.CS] << 4) + ip);
    ip = ip + 1 & 0xFFFF;
    fetched = ip;
    return v;
  }

  final int fetch16() {
    int v = memory.u16((seg[Cpu.CS] << 4) + ip);
    ip = ip + 2 & 0xFFFF;
    fetched = ip;
    return v;
  }

  final int fetch32() {
    return fetch16() | fetch16() << 16;
  }

  /** An immediate of the operand's size. */
  final int immediate(int of) {
    return of == BYTE ? fetch8() : of == WORD ? fetch16() : fetch32();
  }

  final int reg(int i, int of) {
    if (of == BYTE) return i < 4 ? r[i] & 0xFF : r[i - 4] >> 8 & 0xFF;
    return r[i] & MASK[of];
  }

  final void reg(int i, int of, int v) {
    if (of == LONG) r[i] = v;
    else if (of == WORD) r[i] = r[i] & 0xFFFF_0000 | v & 0xFFFF;
    else if (i < 4) r[i] = r[i] & 0xFFFF_FF00 | v & 0xFF;
    else r[i - 4] = r[i - 4] & 0xFFFF_00FF | (v & 0xFF) << 8;
  }

  /** A word at a segment's last byte goes on at its first on the early processors. */
  private boolean wraps(int offset) {
    return offset == 0xFFFF && !level.atLeast(Level.I80286);
  }

  final int load(int segment, int offset, int of) {
    int at = (seg[segment] << 4) + offset;
    if (of == BYTE) return memory.u8(at);
    if (of == LONG) return memory.u32(at);
    if (wraps(offset)) return memory.u8(at) | memory.u8(seg[segment] << 4) << 8;
    return memory.u16(at);
  }

  final void store(int segment, int offset, int of, int v) {
    int at = (seg[segment] << 4) + offset;
    if (of == BYTE) {
      memory.put8(at, v);
    } else if (of == LONG) {
      memory.put32(at, v);
    } else if (wraps(offset)) {
      memory.put8(at, v);
      memory.put8(seg[segment] << 4, v >> 8);
    } else {
      memory.put16(at, v);
    }
  }

  final void push(int v, int of) {
    int sp = r[Cpu.SP] - (of == LONG ? 4 : 2) & 0xFFFF;
    reg(Cpu.SP, WORD, sp);
    store(Cpu.SS, sp, of, v);
  }

  final int pop(int of) {
    int sp = r[Cpu.SP] & 0xFFFF;
    int v = load(Cpu.SS, sp, of);
    reg(Cpu.SP, WORD, sp + (of == LONG ? 4 : 2));
    return v;
  }

  final boolean flag(int bit) {
    return (flags & bit) != 0;
  }

  final void flag(int bit, boolean on) {
    flags = on ? flags | bit : flags & ~bit;
  }

  /**
   * An instruction that only later processors have.
   *
   * @throws Stop where this one is earlier (B-12)
   */
  final void needs(Level least) {
    if (level.atLeast(least)) return;
    throw new Stop(
        String.format(
            "The code at %04X:%04X needs an %s; this machine has an %s.",
            seg[Cpu.CS], began, least.title(), level.title()),
        false,
        least);
  }
}
