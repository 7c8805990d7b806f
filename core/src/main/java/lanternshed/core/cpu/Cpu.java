package lanternshed.core.cpu;

/**
 * A processor in real mode. It runs until something ends the run with a {@link Stop}, or its bound
 * of steps is reached. Differential trials against a general PC emulator hold it.
 */
public final class Cpu extends Later {
  public static final int AX = 0;
  public static final int CX = 1;
  public static final int DX = 2;
  public static final int BX = 3;
  public static final int SP = 4;
  public static final int BP = 5;
  public static final int SI = 6;
  public static final int DI = 7;
  public static final int ES = 0;
  public static final int CS = 1;
  public static final int SS = 2;
  public static final int DS = 3;
  public static final int FS = 4;
  public static final int GS = 5;

  public static final int CARRY = CF;
  public static final int ZERO = ZF;
  public static final int INTERRUPTS = 0x200;
  private static final int TRAP = 0x100;
  private static final int DOWN = 0x400;
  private static final int STANDARD = 0xFD5;

  /** An instruction has at most fifteen bytes; one of them is its own. */
  private static final int MOST_PREFIXES = 14;

  /** The segment of the firmware, whose code the bus serves. */
  private static final int FIRMWARE = 0xF000;

  public Cpu(Memory memory, Bus bus, Level level) {
    super(memory, bus, level);
    later =
        (level.atLeast(Level.I80486) ? 1 << 18 : 0) | (level.atLeast(Level.I80586) ? 1 << 21 : 0);
  }

  public Level level() {
    return level;
  }

  public Memory memory() {
    return memory;
  }

  /** Instructions that ran. */
  public long steps() {
    return steps;
  }

  /** Counts work that is done for the code as steps of its own, so that the bound bounds it too. */
  public void charge(long more) {
    work += more;
  }

  /** A whole register, 32 bits. */
  public int get(int register) {
    return r[register];
  }

  public void set(int register, int value) {
    r[register] = value;
  }

  /** The low 16 bits of a register. */
  public int word(int register) {
    return r[register] & 0xFFFF;
  }

  public void word(int register, int value) {
    reg(register, WORD, value);
  }

  public int low(int register) {
    return reg(register, BYTE);
  }

  public void low(int register, int value) {
    reg(register, BYTE, value);
  }

  public int high(int register) {
    return reg(register + 4, BYTE);
  }

  public void high(int register, int value) {
    reg(register + 4, BYTE, value);
  }

  public int segment(int segment) {
    return seg[segment];
  }

  public void segment(int segment, int value) {
    seg[segment] = value & 0xFFFF;
  }

  public int ip() {
    return ip;
  }

  public void jump(int segment, int offset) {
    seg[CS] = segment & 0xFFFF;
    ip = offset & 0xFFFF;
  }

  public int flags() {
    return flags;
  }

  public void flags(int value) {
    flags = seenFlags(value);
  }

  public void carry(boolean on) {
    flag(CF, on);
  }

  public void zero(boolean on) {
    flag(ZF, on);
  }

  /** The bits of alignment (18) and identity (21), by which code knows an 80486 and an 80586. */
  private final int later;

  /** Bits that never change, by processor. */
  private int seenFlags(int v) {
    int kept = v & STANDARD | 2;
    if (!level.atLeast(Level.I80286)) return kept | 0xF000;
    return level == Level.I80286 ? kept : kept | v & (0x7000 | later);
  }

  /**
   * Runs.
   *
   * @param most steps, with what {@link #charge} adds
   * @return whether the bound was reached; else a {@link Stop} tells why it ended
   */
  public boolean run(long most) {
    for (long end = work + most; work < end; work++) {
      step();
      steps++;
    }
    return true;
  }

  /** One instruction with its prefixes. */
  public void step() {
    began = ip;
    override = -1;
    size = WORD;
    wide = false;
    repeat = 0;
    try {
      int op = fetch8();
      for (int prefixes = 0; prefix(op); op = fetch8()) {
        // A segment full of prefixes would never come to an instruction.
        if (++prefixes > MOST_PREFIXES) throw undefined();
      }
      if (op < 0x40) first(op);
      else if (op < 0x80) second(op);
      else if (op < 0xC0) third(op);
      else fourth(op);
    } catch (DivideError e) {
      // The early processors go on behind the division, the later ones at it.
      if (level.atLeast(Level.I80286)) ip = began;
      interrupt(0);
    }
  }

  private boolean prefix(int op) {
    switch (op) {
      case 0x26 -> override = ES;
      case 0x2E -> override = CS;
      case 0x36 -> override = SS;
      case 0x3E -> override = DS;
      case 0x64, 0x65 -> {
        needs(Level.I80386);
        override = op == 0x64 ? FS : GS;
      }
      case 0x66 -> {
        needs(Level.I80386);
        size = LONG;
      }
      case 0x67 -> {
        needs(Level.I80386);
        wide = true;
      }
      case 0xF0 -> {}
      case 0xF2, 0xF3 -> repeat = op;
      default -> {
        return false;
      }
    }
    return true;
  }

  // ---- 00 to 3F: the eight functions, segments, decimal adjustments -----------------------------

  private void first(int op) {
    int function = op >> 3;
    int of = (op & 1) == 0 ? BYTE : size;
    switch (op & 7) {
      case 0, 1 -> {
        operands();
        int v = alu(function, read(of), reg(reg, of), of);
        if (function != 7) write(of, v);
      }
      case 2, 3 -> {
        operands();
        int v = alu(function, reg(reg, of), read(of), of);
        if (function != 7) reg(reg, of, v);
      }
      case 4, 5 -> {
        int v = alu(function, reg(AX, of), immediate(of), of);
        if (function != 7) reg(AX, of, v);
      }
      default -> other(op);
    }
  }

  private void other(int op) {
    switch (op) {
      case 0x06, 0x0E, 0x16, 0x1E -> push(seg[op >> 3], size);
      case 0x07, 0x17, 0x1F -> seg[op >> 3] = pop(size) & 0xFFFF;
      case 0x0F -> later();
      case 0x27 -> decimal(false);
      case 0x2F -> decimal(true);
      case 0x37 -> ascii(false);
      default -> ascii(true);
    }
  }

  // ---- 40 to 7F ---------------------------------------------------------------------------------

  private void second(int op) {
    int i = op & 7;
    switch (op >> 3) {
      case 8 -> reg(i, size, increase(reg(i, size), size));
      case 9 -> reg(i, size, decrease(reg(i, size), size));
      case 10 -> {
        // The first processors push what SP is afterwards.
        boolean after = i == SP && !level.atLeast(Level.I80286);
        push(after ? r[SP] - 2 : r[i], size);
      }
      case 11 -> {
        int v = pop(size);
        reg(i, size, v);
      }
      case 12, 13 -> with186(op);
      default -> {
        int by = (byte) fetch8();
        if (condition(op & 15)) ip = ip + by & 0xFFFF;
      }
    }
  }

  private void with186(int op) {
    needs(Level.I80186);
    switch (op) {
      case 0x60 -> {
        int sp = r[SP];
        for (int i = 0; i < 8; i++) push(i == SP ? sp : r[i], size);
      }
      case 0x61 -> {
        for (int i = 7; i >= 0; i--) {
          int v = pop(size);
          if (i != SP) reg(i, size, v);
        }
      }
      case 0x62 -> {
        operands();
        long v = signed(reg(reg, size), size);
        long low = signed(read(size), size);
        long high = signed(load(placeIn, place + (1 << size) & 0xFFFF, size), size);
        if (v >= low && v <= high) return;
        ip = began;
        interrupt(5);
      }
      case 0x68 -> push(immediate(size), size);
      case 0x6A -> push((byte) fetch8(), size);
      case 0x69 -> {
        operands();
        int v = read(size);
        reg(reg, size, multiplied(v, immediate(size), size));
      }
      case 0x6B -> {
        operands();
        int v = read(size);
        reg(reg, size, multiplied(v, (byte) fetch8(), size));
      }
      case 0x6C, 0x6D, 0x6E, 0x6F -> string(op);
      default -> throw undefined();
    }
  }

  // ---- 80 to BF ---------------------------------------------------------------------------------

  private void third(int op) {
    int of = (op & 1) == 0 ? BYTE : size;
    if (op >= 0xB0) {
      int wanted = op < 0xB8 ? BYTE : size;
      reg(op & 7, wanted, immediate(wanted));
      return;
    }
    switch (op) {
      case 0x80, 0x81, 0x82, 0x83 -> {
        operands();
        int a = read(of);
        int b = op == 0x83 ? (byte) fetch8() & MASK[of] : immediate(of);
        int v = alu(reg, a, b, of);
        if (reg != 7) write(of, v);
      }
      case 0x84, 0x85 -> {
        operands();
        logic(read(of) & reg(reg, of), of);
      }
      case 0x86, 0x87 -> {
        operands();
        int v = read(of);
        write(of, reg(reg, of));
        reg(reg, of, v);
      }
      case 0x88, 0x89 -> {
        operands();
        write(of, reg(reg, of));
      }
      case 0x8A, 0x8B -> {
        operands();
        reg(reg, of, read(of));
      }
      default -> moves(op, of);
    }
  }

  private void moves(int op, int of) {
    switch (op) {
      case 0x8C -> {
        operands();
        if (reg > 3) needs(Level.I80386);
        if (reg > 5) throw undefined();
        write(direct ? size : WORD, seg[reg]);
      }
      case 0x8D -> {
        operands();
        if (direct) throw undefined();
        reg(reg, size, place);
      }
      case 0x8E -> {
        operands();
        if (reg > 3) needs(Level.I80386);
        if (reg > 5 || reg == CS) throw undefined();
        seg[reg] = read(WORD);
      }
      case 0x8F -> {
        int v = pop(size);
        operands();
        write(size, v);
      }
      case 0x98 -> reg(AX, size, (int) signed(reg(AX, size - 1), size - 1));
      case 0x99 -> reg(DX, size, (reg(AX, size) & SIGN[size]) != 0 ? -1 : 0);
      case 0x9A -> {
        int offset = immediate(size);
        int segment = fetch16();
        push(seg[CS], size);
        push(ip, size);
        go(segment, offset);
      }
      case 0x9B -> {}
      case 0x9C -> push(seenFlags(flags), size);
      case 0x9D -> popFlags(pop(size));
      case 0x9E -> flags = flags & ~0xD5 | high(AX) & 0xD5;
      case 0x9F -> high(AX, flags & 0xD5 | 2);
      case 0xA0, 0xA1 -> reg(AX, of, load(from(), address(), of));
      case 0xA2, 0xA3 -> store(from(), address(), of, reg(AX, of));
      case 0xA8, 0xA9 -> logic(reg(AX, of) & immediate(of), of);
      default -> {
        if (op < 0x98) {
          int v = reg(op & 7, size);
          reg(op & 7, size, reg(AX, size));
          reg(AX, size, v);
        } else {
          string(op);
        }
      }
    }
  }

  private int from() {
    return override >= 0 ? override : DS;
  }

  private int address() {
    return wide ? fetch32() : fetch16();
  }

  /** Sixteen bits of them leave the later ones as they are. */
  private void popFlags(int v) {
    flags = seenFlags(size == LONG ? v : v & 0xFFFF | flags & later);
  }

  // ---- C0 to FF ---------------------------------------------------------------------------------

  private void fourth(int op) {
    int of = (op & 1) == 0 ? BYTE : size;
    if (op >= 0xF0) {
      last(op, of);
      return;
    }
    if (op >= 0xE0) {
      jumps(op, of);
      return;
    }
    switch (op) {
      case 0xC0, 0xC1 -> {
        needs(Level.I80186);
        operands();
        int a = read(of);
        write(of, shift(reg, a, fetch8(), of));
      }
      case 0xD0, 0xD1 -> {
        operands();
        write(of, shift(reg, read(of), 1, of));
      }
      case 0xD2, 0xD3 -> {
        operands();
        write(of, shift(reg, read(of), r[CX] & 0xFF, of));
      }
      case 0xC4 -> far(ES);
      case 0xC5 -> far(DS);
      case 0xC6, 0xC7 -> {
        operands();
        write(of, immediate(of));
      }
      case 0xD4 -> split(fetch8());
      case 0xD5 -> join(fetch8());
      case 0xD6 -> low(AX, flag(CF) ? 0xFF : 0);
      case 0xD7 -> low(AX, load(from(), r[BX] + low(AX) & 0xFFFF, BYTE));
      default -> {
        if (op >= 0xD8) operands();
        else returns(op);
      }
    }
  }

  private void returns(int op) {
    switch (op) {
      case 0xC2 -> {
        int more = fetch16();
        ip = pop(size) & 0xFFFF;
        word(SP, r[SP] + more);
      }
      case 0xC3 -> ip = pop(size) & 0xFFFF;
      case 0xC8 -> enter();
      case 0xC9 -> {
        needs(Level.I80186);
        word(SP, r[BP]);
        reg(BP, size, pop(size));
      }
      case 0xCA, 0xCB -> {
        int more = op == 0xCA ? fetch16() : 0;
        int offset = pop(size);
        int segment = pop(size);
        word(SP, r[SP] + more);
        go(segment, offset);
      }
      case 0xCC -> interrupt(3);
      case 0xCD -> interrupt(fetch8());
      case 0xCE -> {
        if (flag(OF)) interrupt(4);
      }
      default -> {
        int offset = pop(size);
        int segment = pop(size);
        popFlags(pop(size));
        go(segment, offset);
      }
    }
  }

  private void enter() {
    needs(Level.I80186);
    int room = fetch16();
    int depth = fetch8() & 31;
    push(r[BP], size);
    int frame = r[SP];
    for (int i = 1; i < depth; i++) {
      word(BP, r[BP] - (1 << size));
      push(load(SS, r[BP] & 0xFFFF, size), size);
    }
    if (depth > 0) push(frame, size);
    word(BP, frame);
    word(SP, r[SP] - room);
  }

  private void jumps(int op, int of) {
    switch (op) {
      case 0xE0, 0xE1, 0xE2 -> {
        int by = (byte) fetch8();
        reg(CX, wide ? LONG : WORD, r[CX] - 1);
        boolean left = (wide ? r[CX] : r[CX] & 0xFFFF) != 0;
        if (left && (op == 0xE2 || flag(ZF) == (op == 0xE1))) ip = ip + by & 0xFFFF;
      }
      case 0xE3 -> {
        int by = (byte) fetch8();
        if ((wide ? r[CX] : r[CX] & 0xFFFF) == 0) ip = ip + by & 0xFFFF;
      }
      case 0xE4, 0xE5 -> reg(AX, of, bus.in(fetch8(), 1 << of));
      case 0xE6, 0xE7 -> bus.out(fetch8(), reg(AX, of), 1 << of);
      case 0xE8 -> {
        int by = (int) signed(immediate(size), size);
        push(ip, size);
        ip = ip + by & 0xFFFF;
      }
      case 0xE9 -> {
        int by = (int) signed(immediate(size), size);
        ip = ip + by & 0xFFFF;
      }
      case 0xEA -> {
        int offset = immediate(size);
        go(fetch16(), offset);
      }
      case 0xEB -> {
        int by = (byte) fetch8();
        ip = ip + by & 0xFFFF;
        // A jump to itself stands as still as a halt does.
        if (ip == began) interrupt(bus.halted(this));
      }
      case 0xEC, 0xED -> reg(AX, of, bus.in(r[DX] & 0xFFFF, 1 << of));
      default -> bus.out(r[DX] & 0xFFFF, reg(AX, of), 1 << of);
    }
  }

  private void last(int op, int of) {
    switch (op) {
      case 0xF1 -> {
        if (seg[CS] != FIRMWARE) throw undefined();
        served(fetch8());
      }
      case 0xF4 -> interrupt(bus.halted(this));
      case 0xF5 -> flags ^= CF;
      case 0xF6, 0xF7 -> third3(of);
      case 0xF8, 0xF9 -> flag(CF, op == 0xF9);
      case 0xFA, 0xFB -> flag(INTERRUPTS, op == 0xFB);
      case 0xFC, 0xFD -> flag(DOWN, op == 0xFD);
      default -> {
        operands();
        fifth(of);
      }
    }
  }

  /** Firmware works on the caller's registers; carry and zero go back through its stack. */
  private void served(int number) {
    bus.service(this, number);
    int kept = CF | ZF;
    int at = r[SP] + 4 & 0xFFFF;
    store(SS, at, WORD, load(SS, at, WORD) & ~kept | flags & kept);
  }

  /** F6 and F7. */
  private void third3(int of) {
    operands();
    int v = read(of);
    switch (reg) {
      case 0, 1 -> logic(v & immediate(of), of);
      case 2 -> write(of, ~v);
      case 3 -> write(of, sub(0, v, 0, of));
      case 4 -> multiply(v, of, false);
      case 5 -> multiply(v, of, true);
      case 6 -> divide(v, of, false);
      default -> divide(v, of, true);
    }
  }

  /** FE and FF. */
  private void fifth(int of) {
    if (of == BYTE && reg > 1) throw undefined();
    int v = read(of);
    switch (reg) {
      case 0 -> write(of, increase(v, of));
      case 1 -> write(of, decrease(v, of));
      case 2 -> {
        push(ip, size);
        ip = v & 0xFFFF;
      }
      case 4 -> ip = v & 0xFFFF;
      case 3, 5 -> {
        if (direct) throw undefined();
        int segment = load(placeIn, place + (1 << size) & (wide ? -1 : 0xFFFF), WORD);
        if (reg == 3) {
          push(seg[CS], size);
          push(ip, size);
        }
        go(segment, v);
      }
      case 6 -> push(v, size);
      default -> throw undefined();
    }
  }

  /** A far transfer. */
  private void go(int segment, int offset) {
    boolean other = (segment & 0xFFFF) != seg[CS];
    jump(segment, offset);
    if (other) bus.arrived(this, seg[CS], ip);
  }

  /** Through the vector table, as the processor does it. */
  public void interrupt(int number) {
    push(seenFlags(flags), WORD);
    push(seg[CS], WORD);
    push(ip, WORD);
    flags &= ~(INTERRUPTS | TRAP);
    jump(memory.u16(number * 4 + 2), memory.u16(number * 4));
  }
}
