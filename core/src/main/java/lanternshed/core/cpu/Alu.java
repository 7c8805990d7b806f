package lanternshed.core.cpu;

/**
 * Arithmetic and its flags, as the processors' manuals describe them. Where a flag is undefined it
 * is what the later processors make of it.
 */
abstract class Alu extends State {
  static final int CF = 0x001;
  static final int PF = 0x004;
  static final int AF = 0x010;
  static final int ZF = 0x040;
  static final int SF = 0x080;
  static final int OF = 0x800;
  private static final int ALL = CF | PF | AF | ZF | SF | OF;
  private static final byte[] PARITY = new byte[256];

  static {
    for (int i = 0; i < 256; i++) PARITY[i] = (byte) (Integer.bitCount(i) % 2 == 0 ? PF : 0);
  }

  /** A division whose result has no room, or by zero. */
  static final class DivideError extends RuntimeException {
    private static final long serialVersionUID = 1;
    static final DivideError IT = new DivideError();

    private DivideError() {
      super(null, null, false, false);
    }
  }

  Alu(Memory memory, Bus bus, Level level) {
    super(memory, bus, level);
  }

  private static int shown(int v, int of) {
    return ((v & MASK[of]) == 0 ? ZF : 0) | ((v & SIGN[of]) != 0 ? SF : 0) | PARITY[v & 0xFF];
  }

  final void setShown(int v, int of) {
    flags = flags & ~(ZF | SF | PF) | shown(v, of);
  }

  /** One of the eight: add, or, adc, sbb, and, sub, xor, cmp. */
  final int alu(int function, int a, int b, int of) {
    return switch (function) {
      case 0 -> add(a, b, 0, of);
      case 1 -> logic(a | b, of);
      case 2 -> add(a, b, flags & CF, of);
      case 3 -> sub(a, b, flags & CF, of);
      case 4 -> logic(a & b, of);
      case 6 -> logic(a ^ b, of);
      default -> sub(a, b, 0, of);
    };
  }

  final int add(int a, int b, int carry, int of) {
    long sum = (a & 0xFFFF_FFFFL) + (b & 0xFFFF_FFFFL) + carry;
    int v = (int) sum & MASK[of];
    int f = (int) (sum >>> BITS[of]) & CF | (a ^ b ^ v) & AF | shown(v, of);
    if (((a ^ v) & (b ^ v) & SIGN[of]) != 0) f |= OF;
    flags = flags & ~ALL | f;
    return v;
  }

  final int sub(int a, int b, int borrow, int of) {
    long difference = (a & 0xFFFF_FFFFL) - (b & 0xFFFF_FFFFL) - borrow;
    int v = (int) difference & MASK[of];
    int f = (int) (difference >>> BITS[of]) & CF | (a ^ b ^ v) & AF | shown(v, of);
    if (((a ^ b) & (a ^ v) & SIGN[of]) != 0) f |= OF;
    flags = flags & ~ALL | f;
    return v;
  }

  final int logic(int v, int of) {
    flags = flags & ~ALL | shown(v, of);
    return v & MASK[of];
  }

  /** Carry stays. */
  final int increase(int a, int of) {
    int carry = flags & CF;
    int v = add(a, 1, 0, of);
    flags = flags & ~CF | carry;
    return v;
  }

  final int decrease(int a, int of) {
    int carry = flags & CF;
    int v = sub(a, 1, 0, of);
    flags = flags & ~CF | carry;
    return v;
  }

  /** One of the eight: rol, ror, rcl, rcr, shl, shr, sal, sar. */
  final int shift(int function, int a, int by, int of) {
    int n = level.atLeast(Level.I80186) ? by & 31 : by & 0xFF;
    if (n == 0) return a;
    return switch (function) {
      case 0 -> rotateLeft(a, n, of);
      case 1 -> rotateRight(a, n, of);
      case 2 -> throughLeft(a, n, of);
      case 3 -> throughRight(a, n, of);
      case 5 -> shiftRight(a, n, of, false);
      case 7 -> shiftRight(a, n, of, true);
      default -> shiftLeft(a, n, of);
    };
  }

  private int carryOver(int v, boolean carry, boolean over) {
    flags = flags & ~(CF | OF) | (carry ? CF : 0) | (over ? OF : 0);
    return v;
  }

  private int rotateLeft(int a, int n, int of) {
    int k = n % BITS[of];
    int v = k == 0 ? a : (a << k | (a & MASK[of]) >>> BITS[of] - k) & MASK[of];
    boolean carry = (v & 1) != 0;
    return carryOver(v, carry, (v & SIGN[of]) != 0 != carry);
  }

  private int rotateRight(int a, int n, int of) {
    int k = n % BITS[of];
    int v = k == 0 ? a : ((a & MASK[of]) >>> k | a << BITS[of] - k) & MASK[of];
    boolean top = (v & SIGN[of]) != 0;
    return carryOver(v, top, top != ((v << 1 & SIGN[of]) != 0));
  }

  private int throughLeft(int a, int n, int of) {
    int v = a;
    int carry = flags & CF;
    for (int k = n % (BITS[of] + 1); k > 0; k--) {
      int out = (v & SIGN[of]) != 0 ? 1 : 0;
      v = (v << 1 | carry) & MASK[of];
      carry = out;
    }
    return carryOver(v, carry != 0, (v & SIGN[of]) != 0 != (carry != 0));
  }

  private int throughRight(int a, int n, int of) {
    int v = a & MASK[of];
    int carry = flags & CF;
    for (int k = n % (BITS[of] + 1); k > 0; k--) {
      int out = v & 1;
      v = v >>> 1 | (carry != 0 ? SIGN[of] : 0);
      carry = out;
    }
    return carryOver(v, carry != 0, (v & SIGN[of]) != 0 != ((v << 1 & SIGN[of]) != 0));
  }

  private int shiftLeft(int a, int n, int of) {
    long all = (a & 0xFFFF_FFFFL) << Math.min(n, 33);
    int v = (int) all & MASK[of];
    boolean carry = (all >>> BITS[of] & 1) != 0;
    carryOver(v, carry, (v & SIGN[of]) != 0 != carry);
    flags &= ~AF;
    setShown(v, of);
    return v;
  }

  private int shiftRight(int a, int n, int of, boolean signed) {
    long all = signed ? signed(a, of) : a & 0xFFFF_FFFFL & MASK[of] & 0xFFFF_FFFFL;
    int k = Math.min(n, 33);
    int v = (int) (all >> k) & MASK[of];
    boolean carry = (all >> k - 1 & 1) != 0;
    carryOver(v, carry, !signed && n == 1 && (a & SIGN[of]) != 0);
    flags &= ~AF;
    setShown(v, of);
    return v;
  }

  static long signed(int a, int of) {
    return of == BYTE ? (byte) a : of == WORD ? (short) a : a;
  }

  /** Two operands side by side, as SHLD and SHRD shift them. */
  final int shiftDouble(boolean left, int a, int b, int by, int of) {
    int n = by & 31;
    if (n == 0) return a;
    int bits = BITS[of];
    long high = (left ? a : b) & 0xFFFF_FFFFL & MASK[of] & 0xFFFF_FFFFL;
    long low = (left ? b : a) & 0xFFFF_FFFFL & MASK[of] & 0xFFFF_FFFFL;
    // Sixteen bits shifted by more than sixteen: what comes in behind is undefined.
    long both = high << bits | low;
    int v;
    boolean carry;
    if (left) {
      v = (int) (both << n >>> bits) & MASK[of];
      carry = n <= bits && (a & 0xFFFF_FFFFL) >>> bits - n << 63 != 0;
    } else {
      v = (int) (both >>> n) & MASK[of];
      carry = (both >>> n - 1 & 1) != 0;
    }
    carryOver(v, carry, ((a ^ v) & SIGN[of]) != 0);
    flags &= ~AF;
    setShown(v, of);
    return v;
  }

  /** AL, AX or EAX by an operand, into twice as much. */
  final void multiply(int b, int of, boolean signed) {
    long product =
        signed
            ? signed(reg(Cpu.AX, of), of) * signed(b, of)
            : (reg(Cpu.AX, of) & 0xFFFF_FFFFL) * (b & 0xFFFF_FFFFL);
    int low = (int) product & MASK[of];
    int high = (int) (product >> BITS[of]) & MASK[of];
    if (of == BYTE) {
      reg(Cpu.AX, WORD, (int) product);
    } else {
      reg(Cpu.AX, of, low);
      reg(Cpu.DX, of, high);
    }
    boolean over = signed ? signed(low, of) != product : high != 0;
    carryOver(0, over, over);
    setShown(low, of);
    flags &= ~AF;
  }

  /** Two operands into one of the same size. */
  final int multiplied(int a, int b, int of) {
    long product = signed(a, of) * signed(b, of);
    int v = (int) product & MASK[of];
    boolean over = signed(v, of) != product;
    carryOver(0, over, over);
    setShown(v, of);
    flags &= ~AF;
    return v;
  }

  /**
   * @throws DivideError where the quotient has no room
   */
  final void divide(int b, int of, boolean signed) {
    long by = signed ? signed(b, of) : b & 0xFFFF_FFFFL;
    if (by == 0) throw DivideError.IT;
    long a =
        of == BYTE
            ? reg(Cpu.AX, WORD)
            : (reg(Cpu.DX, of) & 0xFFFF_FFFFL) << BITS[of] | reg(Cpu.AX, of) & 0xFFFF_FFFFL;
    if (signed && of == BYTE) a = (short) a;
    if (signed && of == WORD) a = (int) a;
    long q = !signed && of == LONG ? Long.divideUnsigned(a, by) : a / by;
    long rest = !signed && of == LONG ? Long.remainderUnsigned(a, by) : a % by;
    long most = (1L << BITS[of] - (signed ? 1 : 0)) - 1;
    // Before the 80286 the least negative number was no quotient (its manual, compatibility).
    long least = level.atLeast(Level.I80286) ? -most - 1 : -most;
    boolean room = !signed ? Long.compareUnsigned(q, most) <= 0 : q <= most && q >= least;
    if (!room || signed && a == Long.MIN_VALUE && by == -1) throw DivideError.IT;
    if (of == BYTE) {
      reg(Cpu.AX, WORD, (int) q & 0xFF | ((int) rest & 0xFF) << 8);
    } else {
      reg(Cpu.AX, of, (int) q);
      reg(Cpu.DX, of, (int) rest);
    }
  }

  /** DAA and DAS. */
  final void decimal(boolean minus) {
    int al = reg(Cpu.AX, BYTE);
    int old = al;
    boolean carry = flag(CF);
    boolean out = false;
    if ((al & 15) > 9 || flag(AF)) {
      int v = minus ? al - 6 : al + 6;
      out = carry || minus && v < 0 || v > 0xFF;
      al = v & 0xFF;
      flags |= AF;
    } else {
      flags &= ~AF;
    }
    if (old > 0x99 || carry) {
      al = (minus ? al - 0x60 : al + 0x60) & 0xFF;
      out = true;
    }
    reg(Cpu.AX, BYTE, al);
    flag(CF, out);
    setShown(al, BYTE);
  }

  /** AAA and AAS. */
  final void ascii(boolean minus) {
    boolean adjust = (r[Cpu.AX] & 15) > 9 || flag(AF);
    if (adjust && level.atLeast(Level.I80286)) {
      reg(Cpu.AX, WORD, minus ? r[Cpu.AX] - 0x106 : r[Cpu.AX] + 0x106);
    } else if (adjust) {
      reg(Cpu.AX, BYTE, minus ? r[Cpu.AX] - 6 : r[Cpu.AX] + 6);
      reg(4, BYTE, reg(4, BYTE) + (minus ? -1 : 1));
    }
    reg(Cpu.AX, BYTE, r[Cpu.AX] & 15);
    flag(AF, adjust);
    flag(CF, adjust);
    setShown(r[Cpu.AX] & 0xFF, BYTE);
  }

  /** AAM. */
  final void split(int base) {
    if (base == 0) throw DivideError.IT;
    int al = reg(Cpu.AX, BYTE);
    reg(Cpu.AX, WORD, al / base << 8 | al % base);
    logic(al % base, BYTE);
  }

  /** AAD. */
  final void join(int base) {
    int al = reg(Cpu.AX, BYTE) + reg(4, BYTE) * base & 0xFF;
    reg(Cpu.AX, WORD, al);
    logic(al, BYTE);
  }

  /** One of sixteen conditions. */
  final boolean condition(int code) {
    boolean holds =
        switch (code >> 1) {
          case 0 -> flag(OF);
          case 1 -> flag(CF);
          case 2 -> flag(ZF);
          case 3 -> flag(CF | ZF);
          case 4 -> flag(SF);
          case 5 -> flag(PF);
          case 6 -> flag(SF) != flag(OF);
          default -> flag(ZF) || flag(SF) != flag(OF);
        };
    return holds == ((code & 1) == 0);
  }
}
