package lanternshed.core.cpu;

/** The instructions behind the byte 0F, which came with the 80286 and those after it. */
abstract class Later extends Strings {

  Later(Memory memory, Bus bus, Level level) {
    super(memory, bus, level);
  }

  final void later() {
    int op = fetch8();
    needs(brought(op));
    if (op < 0x20) {
      system(op);
    } else if (op >> 4 == 8) {
      int by = (int) signed(immediate(size), size);
      if (condition(op & 15)) ip = ip + by & 0xFFFF;
    } else if (op >> 4 == 9) {
      operands();
      write(BYTE, condition(op & 15) ? 1 : 0);
    } else if (brought(op).atLeast(Level.I80486)) {
      latest(op);
    } else if (op < 0x24) {
      control(op);
    } else {
      rest(op);
    }
  }

  /** Which processor brought it, by the second byte, as their manuals list them. */
  private static Level brought(int op) {
    return switch (op) {
      case 0x08, 0x09, 0xB0, 0xB1, 0xC0, 0xC1 -> Level.I80486;
      case 0xC8, 0xC9, 0xCA, 0xCB, 0xCC, 0xCD, 0xCE, 0xCF -> Level.I80486;
      case 0x30, 0x31, 0x32, 0xA2, 0xC7 -> Level.I80586;
      default -> op < 0x20 ? Level.I80286 : Level.I80386;
    };
  }

  /** What came with the 80486 and the 80586. */
  private void latest(int op) {
    switch (op) {
      case 0x30 -> {}
      case 0x31 -> pair(steps);
      case 0x32 -> pair(0);
      case 0xA2 -> identified();
      case 0xB0, 0xB1 -> exchanged(op == 0xB0 ? BYTE : size);
      case 0xC0, 0xC1 -> added(op == 0xC0 ? BYTE : size);
      case 0xC7 -> exchanged8();
      default -> {
        // Of sixteen bits the manual says that the result is not defined; processors make it zero.
        int v = reg(op & 7, size);
        reg(op & 7, size, size == LONG ? Integer.reverseBytes(v) : 0);
      }
    }
  }

  private void pair(long v) {
    reg(Cpu.AX, LONG, (int) v);
    reg(Cpu.DX, LONG, (int) (v >> 32));
  }

  /** Nobody's processor: of the family 5, with a counter and the exchange of eight bytes. */
  private void identified() {
    boolean first = r[Cpu.AX] == 0;
    reg(Cpu.AX, LONG, first ? 1 : 0x500);
    reg(Cpu.BX, LONG, 0);
    reg(Cpu.CX, LONG, 0);
    reg(Cpu.DX, LONG, first ? 0 : 0x110);
  }

  private void exchanged(int of) {
    operands();
    int there = read(of);
    sub(reg(Cpu.AX, of), there, 0, of);
    boolean equal = flag(ZF);
    write(of, equal ? reg(reg, of) : there);
    if (!equal) reg(Cpu.AX, of, there);
  }

  private void added(int of) {
    operands();
    int there = read(of);
    int sum = add(there, reg(reg, of), 0, of);
    reg(reg, of, there);
    write(of, sum);
  }

  private void exchanged8() {
    operands();
    if (reg != 1 || direct) throw undefined();
    int high = place + 4 & (wide ? -1 : 0xFFFF);
    int lowIs = load(placeIn, place, LONG);
    int highIs = load(placeIn, high, LONG);
    boolean equal = lowIs == r[Cpu.AX] && highIs == r[Cpu.DX];
    flag(ZF, equal);
    if (equal) {
      store(placeIn, place, LONG, r[Cpu.BX]);
      store(placeIn, high, LONG, r[Cpu.CX]);
    } else {
      reg(Cpu.AX, LONG, lowIs);
      reg(Cpu.DX, LONG, highIs);
    }
  }

  /** Real mode knows few of them; what leaves it is not followed. */
  private void system(int op) {
    // clts; and the caches, which nothing here has.
    if (op == 0x06 || op == 0x08 || op == 0x09) return;
    if (op != 0x01) throw undefined();
    operands();
    switch (reg) {
      case 0, 1 -> {
        write(WORD, 0);
        if (!direct) {
          store(placeIn, place + 2 & 0xFFFF, WORD, 0);
          store(placeIn, place + 4 & 0xFFFF, WORD, 0);
        }
      }
      case 2, 3 -> read(WORD);
      case 4 -> write(WORD, 0x10);
      case 6 -> {
        if ((read(WORD) & 1) != 0) throw leaves();
      }
      case 7 -> {
        if (direct) throw undefined();
        needs(Level.I80486);
      }
      default -> throw undefined();
    }
  }

  /** Moves from and to control registers: protection stays off. */
  private void control(int op) {
    operands();
    if ((op & 2) == 0) reg(rm, LONG, reg == 0 ? 0x10 : 0);
    else if (op == 0x22 && reg == 0 && (r[rm] & 1) != 0) throw leaves();
  }

  private Stop leaves() {
    return new Stop(
        String.format(
            "The code at %04X:%04X leaves real mode; what it does then is not followed.",
            seg[Cpu.CS], began),
        true);
  }

  /** An instruction that no processor of this class has. */
  final Stop undefined() {
    return new Stop(
        String.format(
            "The code at %04X:%04X is no instruction of an %s: %02X %02X.",
            seg[Cpu.CS],
            began,
            level.title(),
            memory.u8((seg[Cpu.CS] << 4) + began),
            memory.u8((seg[Cpu.CS] << 4) + began + 1)));
  }

  private void rest(int op) {
    switch (op) {
      case 0xA0 -> push(seg[Cpu.FS], size);
      case 0xA1 -> seg[Cpu.FS] = pop(size) & 0xFFFF;
      case 0xA8 -> push(seg[Cpu.GS], size);
      case 0xA9 -> seg[Cpu.GS] = pop(size) & 0xFFFF;
      case 0xA3, 0xAB, 0xB3, 0xBB -> {
        operands();
        int bit = reg(reg, size);
        if (!direct) {
          // The bit may lie outside the operand: the place moves with it.
          int units = (int) signed(bit, size) >> (size == LONG ? 5 : 4);
          place += units << size;
          if (!wide) place &= 0xFFFF;
        }
        bit(op >> 3 & 3, bit);
      }
      case 0xBA -> {
        operands();
        int bit = fetch8();
        if (reg < 4) throw undefined();
        bit(reg & 3, bit);
      }
      case 0xA4, 0xAC -> {
        operands();
        int by = fetch8();
        write(size, shiftDouble(op == 0xA4, read(size), reg(reg, size), by, size));
      }
      case 0xA5, 0xAD -> {
        operands();
        int by = r[Cpu.CX] & 0xFF;
        write(size, shiftDouble(op == 0xA5, read(size), reg(reg, size), by, size));
      }
      case 0xAF -> {
        operands();
        reg(reg, size, multiplied(reg(reg, size), read(size), size));
      }
      case 0xB2 -> far(Cpu.SS);
      case 0xB4 -> far(Cpu.FS);
      case 0xB5 -> far(Cpu.GS);
      case 0xB6 -> widened(BYTE, false);
      case 0xB7 -> widened(WORD, false);
      case 0xBE -> widened(BYTE, true);
      case 0xBF -> widened(WORD, true);
      case 0xBC, 0xBD -> {
        operands();
        int v = read(size);
        flag(ZF, v == 0);
        if (v == 0) return;
        int n =
            op == 0xBC ? Integer.numberOfTrailingZeros(v) : 31 - Integer.numberOfLeadingZeros(v);
        reg(reg, size, n);
      }
      default -> throw undefined();
    }
  }

  private void widened(int of, boolean signed) {
    operands();
    int v = read(of);
    reg(reg, size, signed ? (int) signed(v, of) : v);
  }

  /** Tests a bit, then sets, clears or turns it. */
  private void bit(int function, int number) {
    int mask = 1 << (number & BITS[size] - 1);
    int v = read(size);
    flag(CF, (v & mask) != 0);
    switch (function) {
      case 1 -> write(size, v | mask);
      case 2 -> write(size, v & ~mask);
      case 3 -> write(size, v ^ mask);
      default -> {}
    }
  }

  /** An offset and a segment from memory. */
  final void far(int segment) {
    operands();
    if (direct) throw undefined();
    int v = load(placeIn, place, size);
    seg[segment] = load(placeIn, place + (1 << size) & (wide ? -1 : 0xFFFF), WORD);
    reg(reg, size, v);
  }
}
