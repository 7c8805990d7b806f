package lanternshed.core.boot.pc;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.Random;
import lanternshed.core.Tool;
import lanternshed.core.Trials;
import lanternshed.core.cpu.Bus;
import lanternshed.core.cpu.Cpu;
import lanternshed.core.cpu.Level;
import lanternshed.core.cpu.Memory;
import lanternshed.core.cpu.Stop;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * The processor against a general PC emulator: one boot sector runs random sequences of
 * instructions and sends registers, flags and a sum over memory of each by the serial port. Both
 * run the same disk; what they send must be the same. {@code -Dcpu.trials=20000} runs more.
 */
@Tag("trial")
class CpuTrialTest {
  private static final int CASE = 128;
  private static final int CODE_AT = 40;
  private static final int SENT = 40;
  private static final int MOST_CASES = 3000;
  private static final int LOAD = 0x1000;
  private static final int CASES = Trials.turns(1000, 20_000);

  /** What of the flags is compared: carry, parity, half carry, zero, sign, direction, overflow. */
  private static final int SEEN = 0xCD5;

  private static byte[] harness(int chunks, int cases) {
    Assembler a = new Assembler(0x7C00);
    a.op("FA 31 C0 8E D8 8E C0 8E D0 BC 00 7C FC"); // cli; ds=es=ss=0; sp=7C00; cld
    // A packet at 600: 64 sectors to 1000:0, from sector 1 on; both go on by chunks.
    a.op("C6 06 00 06 10 C6 06 01 06 00"); // mov byte [600],10; mov byte [601],0
    a.op("C7 06 02 06 40 00 C7 06 04 06 00 00"); // mov word [602],40; mov word [604],0
    a.op("C7 06 06 06 00 10 66 C7 06 08 06 01 00 00 00"); // mov word [606],1000; mov dword [608],1
    a.op("66 C7 06 0C 06 00 00 00 00"); // mov dword [60C],0
    a.op16("B9", chunks); // mov cx,chunks
    a.label("read");
    a.op("51 B4 42 B2 80 BE 00 06 CD 13 59"); // push cx; mov ah,42; mov dl,80; mov si,600; int 13
    a.op("C7 06 02 06 40 00"); // mov word [602],40: firmware may change it
    a.op("81 06 06 06 00 08 66 83 06 08 06 40"); // add word [606],800; add dword [608],40
    a.near("E2", "read"); // loop read
    a.op("FA").address("C7 06 00 00", "back"); // cli; mov word [0],back
    a.op("C7 06 02 00 00 00"); // mov word [2],0
    a.op16("C7 06 20 06", LOAD); // mov word [620],1000: segment of the case
    a.op16("C7 06 22 06", cases); // mov word [622],cases
    a.label("next");
    a.op("2E 8E 26 20 06"); // mov fs,[cs:620]
    a.op("B8 00 80 8E D8 8E C0 8E D0 66 BC F0 FF 00 00"); // ds=es=ss=8000; mov esp,FFF0
    a.op("64 FF 36 20 00 9D"); // push word [fs:20]; popf
    a.op("66 64 A1 00 00 66 64 8B 0E 04 00"); // mov eax,[fs:0]; mov ecx,[fs:4]
    a.op("66 64 8B 16 08 00 66 64 8B 1E 0C 00"); // mov edx,[fs:8]; mov ebx,[fs:C]
    a.op("66 64 8B 2E 14 00 66 64 8B 36 18 00"); // mov ebp,[fs:14]; mov esi,[fs:18]
    a.op("66 64 8B 3E 1C 00"); // mov edi,[fs:1C]
    a.op("0F A0 6A 28 CB"); // push fs; push 28; retf
    a.label("back");
    a.op("9C 2E 8F 06 70 06"); // pushf; pop word [cs:670]
    a.op("2E 66 A3 50 06 2E 66 89 0E 54 06"); // mov [cs:650],eax; mov [cs:654],ecx
    a.op("2E 66 89 16 58 06 2E 66 89 1E 5C 06"); // mov [cs:658],edx; mov [cs:65C],ebx
    a.op("2E 66 89 26 60 06 2E 66 89 2E 64 06"); // mov [cs:660],esp; mov [cs:664],ebp
    a.op("2E 66 89 36 68 06 2E 66 89 3E 6C 06"); // mov [cs:668],esi; mov [cs:66C],edi
    a.op("FC B8 00 80 8E D8 31 C0 8E D0 BC 00 7C"); // cld; ds=8000; ss=0; sp=7C00
    a.op("31 F6 B9 00 40 66 31 DB"); // xor si,si; mov cx,4000; xor ebx,ebx
    a.label("sum");
    a.op("66 AD 66 01 C3 66 D1 C3").near("E2", "sum"); // lodsd; add ebx,eax; rol ebx,1; loop
    a.op("31 C0 8E D8 66 89 1E 72 06"); // xor ax,ax; mov ds,ax; mov [672],ebx
    a.op16("81 26 70 06", SEEN); // and word [670],SEEN
    a.op16("BE 50 06 B9", SENT); // mov si,650; mov cx,SENT
    a.label("send");
    a.op("AC 88 C4 BA FD 03"); // lodsb; mov ah,al; mov dx,3FD
    a.label("wait");
    a.op("EC A8 20").near("74", "wait"); // in al,dx; test al,20; jz wait
    a.op("88 E0 BA F8 03 EE").near("E2", "send"); // mov al,ah; mov dx,3F8; out dx,al; loop
    a.op("83 06 20 06 08 FF 0E 22 06"); // add word [620],8; dec word [622]
    a.far("0F 85", "next"); // jnz next
    a.op("30 C0 E6 F4 F4"); // xor al,al; out F4,al; hlt
    byte[] code = a.assemble();
    assertThat(code.length).isLessThanOrEqualTo(510);
    byte[] sector = Arrays.copyOf(code, 512);
    sector[510] = 0x55;
    sector[511] = (byte) 0xAA;
    return sector;
  }

  /** Registers, flags, random instructions, and the jump back. */
  private static byte[] one(Random r, int back) {
    ByteBuffer b = ByteBuffer.allocate(CASE).order(ByteOrder.LITTLE_ENDIAN);
    for (int i = 0; i < 8; i++) {
      int[] edges = {0, 1, -1, 0x8000, 0x7FFF, 0x8000_0000, 0x7FFF_FFFF, 0xFF, 0x80};
      b.putInt(r.nextInt(3) == 0 ? edges[r.nextInt(edges.length)] : r.nextInt());
    }
    b.putShort((short) (r.nextInt() & SEEN | 2));
    b.position(CODE_AT);
    Sequence s = new Sequence(r);
    while (s.out.size() < CASE - CODE_AT - 40) s.instruction();
    b.put(s.out.toByteArray());
    b.put((byte) 0xEA).putShort((short) back).putShort((short) 0);
    return b.array();
  }

  /** Random instructions of all processors; where one leaves flags undefined they are set anew. */
  private static final class Sequence {
    private final Random r;
    private final ByteArrayOutputStream out = new ByteArrayOutputStream();

    Sequence(Random r) {
      this.r = r;
    }

    private void put(int... bytes) {
      for (int b : bytes) out.write(b);
    }

    private int of(int... some) {
      return some[r.nextInt(some.length)];
    }

    /** A register but SP, of 16 or 32 bits. */
    private int reg() {
      return of(0, 1, 2, 3, 5, 6, 7);
    }

    /** Maybe an operand of 32 bits. */
    private boolean large() {
      boolean large = r.nextBoolean();
      if (large) put(0x66);
      return large;
    }

    private void imm(boolean large) {
      int n = large ? 4 : 2;
      for (int i = 0; i < n; i++) put(r.nextInt(4) == 0 ? of(0, 0xFF, 0x80) : r.nextInt(256));
    }

    /** A ModRM byte with what follows it; as a destination never SP. */
    private void modrm(int field, boolean bytes) {
      int mod = r.nextInt(5);
      if (mod > 2) {
        put(0xC0 | field << 3 | (bytes ? r.nextInt(8) : reg()));
        return;
      }
      int rm = r.nextInt(8);
      put(mod << 6 | field << 3 | rm);
      if (mod == 1) put(r.nextInt(256));
      if (mod == 2 || mod == 0 && rm == 6) put(r.nextInt(256), r.nextInt(256));
    }

    /** Keeps what is defined of the flags on the stack, and makes all of them defined again. */
    private void only(int mask) {
      put(0x66, 0x50, 0x9C, 0x58); // push eax; pushf; pop ax
      put(0x25, mask & 0xFF, mask >> 8); // and ax,mask
      put(0x01, 0xC7); // add di,ax: it goes on from here
      put(0x50, 0x58, 0x66, 0x58); // push ax; pop ax; pop eax: nothing undefined stays below SP
      put(0x38, 0xC0); // cmp al,al
    }

    private static final int SHOWN = 0xC4;

    void instruction() {
      switch (r.nextInt(24)) {
        case 0, 1, 2 -> arithmetic();
        case 3 -> {
          boolean large = large();
          boolean bytes = r.nextBoolean() && !large;
          put(bytes ? 0xFE : 0xFF);
          modrm(r.nextInt(2), bytes);
        }
        case 4 -> {
          boolean large = large();
          boolean bytes = r.nextBoolean() && !large;
          put(bytes ? 0xF6 : 0xF7);
          modrm(of(2, 3), bytes);
        }
        case 5, 6 -> shifts();
        case 7 -> {
          large();
          put(of(0xF6, 0xF7));
          modrm(of(4, 5), true);
          only(0x801);
        }
        case 8 -> {
          large();
          put(of(0xF6, 0xF7));
          modrm(of(6, 7), true);
          only(0);
        }
        case 9 -> {
          boolean large = large();
          int op = of(0x69, 0x6B);
          put(op);
          modrm(reg(), false);
          if (op == 0x6B) put(r.nextInt(256));
          else imm(large);
          only(0x801);
        }
        case 10 -> {
          large();
          put(0x0F, 0xAF);
          modrm(reg(), false);
          only(0x801);
        }
        case 11, 12 -> moves();
        case 13 -> stack();
        case 14 -> decimal();
        case 15 -> strings();
        case 16 -> bits();
        case 17 -> doubles();
        case 18 -> {
          put(0x0F, 0x90 + r.nextInt(16));
          modrm(0, true);
        }
        case 19 -> {
          put(0x70 + r.nextInt(16), 1, 0x40 + of(0, 3, 6));
        }
        case 20 -> put(of(0xF8, 0xF9, 0xF5, 0xFC, 0x9E, 0x9F, 0x98, 0x99, 0xD6));
        case 21 -> {
          put(0x66, of(0x98, 0x99));
        }
        case 22 -> address();
        case 23 -> latest();
        default -> {
          put(0xB1, 1 + r.nextInt(3)); // mov cl,n
          put(of(0xE0, 0xE1, 0xE2), 1, 0x43); // loop over inc bx
        }
      }
    }

    /** What the 80486 and the 80586 brought. */
    private void latest() {
      int kind = r.nextInt(4);
      if (kind == 0) put(0x66, 0x0F, 0xC8 + reg());
      else if (kind == 3) {
        // The flags are settled first: behind an operation whose flags it has not worked out yet
        // the
        // emulator changes others than the zero flag, which the manual says are left as they are.
        put(0x9C, 0x9D); // pushf; popf
        put(0x0F, 0xC7, 0x0E, r.nextInt(256), r.nextInt(64)); // cmpxchg8b [disp16]
      } else {
        boolean bytes = r.nextBoolean();
        if (!bytes) large();
        put(0x0F, (kind == 1 ? 0xB0 : 0xC0) + (bytes ? 0 : 1));
        modrm(bytes ? r.nextInt(8) : reg(), bytes);
      }
    }

    private void arithmetic() {
      int function = r.nextInt(8);
      boolean large = large();
      boolean logic = function == 1 || function == 4 || function == 6;
      switch (r.nextInt(4)) {
        case 0 -> {
          boolean bytes = r.nextBoolean();
          put(function << 3 | (bytes ? of(0, 2) : of(1, 3)));
          modrm(bytes ? r.nextInt(8) : reg(), bytes);
        }
        case 1 -> {
          boolean bytes = r.nextBoolean();
          put(function << 3 | (bytes ? 4 : 5));
          if (bytes) put(r.nextInt(256));
          else imm(large);
        }
        case 2 -> {
          int op = of(0x80, 0x81, 0x83);
          put(op);
          modrm(function, op == 0x80);
          if (op == 0x81) imm(large);
          else put(r.nextInt(256));
        }
        default -> {
          logic = true;
          boolean bytes = r.nextBoolean();
          put(bytes ? 0x84 : 0x85);
          modrm(bytes ? r.nextInt(8) : reg(), bytes);
        }
      }
      if (logic) only(SEEN & ~0x10);
    }

    private void shifts() {
      int function = of(0, 1, 2, 3, 4, 5, 7);
      boolean turns = function < 4;
      large();
      switch (r.nextInt(3)) {
        case 0 -> {
          put(of(0xD0, 0xD1));
          modrm(function, true);
          only(turns ? SEEN : SEEN & ~0x10);
        }
        case 1 -> {
          put(of(0xC0, 0xC1));
          modrm(function, true);
          int n = 2 + r.nextInt(6);
          put(n);
          only(turns ? 0xD5 | 0x400 : SEEN & ~0x810);
        }
        default -> {
          put(of(0xD2, 0xD3));
          modrm(function, true);
          only(turns ? 1 : SHOWN);
        }
      }
    }

    private void moves() {
      switch (r.nextInt(7)) {
        case 0 -> {
          large();
          put(of(0x89, 0x8B, 0x87));
          modrm(reg(), false);
        }
        case 1 -> {
          put(of(0x88, 0x8A, 0x86));
          modrm(r.nextInt(8), true);
        }
        case 2 -> {
          boolean large = large();
          put(0xB8 + reg());
          imm(large);
        }
        case 3 -> {
          large();
          put(0x0F, of(0xB6, 0xBE));
          modrm(reg(), true);
        }
        case 4 -> {
          large();
          put(0x0F, of(0xB7, 0xBF));
          modrm(reg(), false);
        }
        case 5 -> {
          large();
          put(of(0xA1, 0xA3), r.nextInt(256), r.nextInt(256));
        }
        default -> put(0xD7);
      }
    }

    private void stack() {
      large();
      switch (r.nextInt(6)) {
        case 0 -> put(0x50 + r.nextInt(8));
        case 1 -> put(0x58 + reg());
        case 2 -> put(0x60);
        case 3 -> put(0x61);
        case 4 -> {
          put(0xFF);
          modrm(6, false);
        }
        default -> put(0x6A, r.nextInt(256));
      }
    }

    private void decimal() {
      switch (r.nextInt(6)) {
        case 0, 1 -> {
          put(of(0x27, 0x2F));
          only(0xD5);
        }
        case 2, 3 -> {
          put(of(0x37, 0x3F));
          only(0x11);
        }
        case 4 -> {
          put(0xD4, 1 + r.nextInt(255));
          only(SHOWN);
        }
        default -> {
          put(0xD5, r.nextInt(256));
          only(SHOWN);
        }
      }
    }

    private void strings() {
      put(0xB9, r.nextInt(20), 0); // mov cx,n
      put(of(0xFC, 0xFD));
      if (r.nextBoolean()) put(of(0xF2, 0xF3));
      large();
      put(of(0xA4, 0xA5, 0xA6, 0xA7, 0xAA, 0xAB, 0xAC, 0xAD, 0xAE, 0xAF));
      put(0xFC);
    }

    private void bits() {
      large();
      switch (r.nextInt(3)) {
        case 0 -> {
          put(0x0F, 0xBA);
          modrm(4 + r.nextInt(4), false);
          put(r.nextInt(256));
          only(1);
        }
        case 1 -> {
          put(0x0F, of(0xA3, 0xAB, 0xB3, 0xBB), 0xC0 | reg() << 3 | reg());
          only(1);
        }
        default -> {
          int from = reg();
          put(0x83, 0xC8 | from, 1); // or from,1
          large();
          put(0x0F, of(0xBC, 0xBD), 0xC0 | reg() << 3 | from);
          only(0x40);
        }
      }
    }

    private void doubles() {
      large();
      boolean once = r.nextBoolean();
      put(0x0F, of(0xA4, 0xAC));
      modrm(reg(), false);
      put(once ? 1 : 1 + r.nextInt(15));
      only(once ? 0x8C5 : 0xC5);
    }

    private void address() {
      boolean large = large();
      boolean wide = r.nextBoolean();
      if (!wide) {
        put(0x8D);
        int rm = r.nextInt(8);
        int mod = r.nextInt(3);
        put(mod << 6 | reg() << 3 | rm);
        if (mod == 1) put(r.nextInt(256));
        if (mod == 2 || mod == 0 && rm == 6) imm(false);
        return;
      }
      put(0x67, 0x8D);
      int mod = r.nextInt(3);
      int rm = r.nextInt(8);
      put(mod << 6 | reg() << 3 | rm);
      int base = rm;
      if (rm == 4) {
        base = r.nextInt(8);
        put(r.nextInt(4) << 6 | r.nextInt(8) << 3 | base);
      }
      if (mod == 1) put(r.nextInt(256));
      if (mod == 2 || mod == 0 && base == 5) imm(true);
      assertThat(large || wide).isTrue();
    }
  }

  /** What the harness needs of a PC: packets of sectors, the serial port, the way out. */
  private static final class Around implements Bus {
    private final byte[] disk;
    private final ByteArrayOutputStream sent = new ByteArrayOutputStream();

    Around(byte[] disk) {
      this.disk = disk;
    }

    @Override
    public int in(int port, int bytes) {
      return port == 0x3FD ? 0x60 : 0xFF;
    }

    @Override
    public void out(int port, int value, int bytes) {
      if (port == 0x3F8) sent.write(value);
      if (port == 0xF4) throw new Stop("done");
    }

    @Override
    public void service(Cpu cpu, int number) {
      assertThat(number).isEqualTo(0x13);
      Memory m = cpu.memory();
      int packet = (cpu.segment(Cpu.DS) << 4) + cpu.word(Cpu.SI);
      int to = (m.u16(packet + 6) << 4) + m.u16(packet + 4);
      int from = m.u32(packet + 8) * 512;
      int count = Math.min(m.u16(packet + 2) * 512, disk.length - from);
      m.put(to, disk, from, count);
      cpu.carry(false);
    }

    @Override
    public void arrived(Cpu cpu, int segment, int offset) {}

    @Override
    public int halted(Cpu cpu) {
      throw new Stop("halted");
    }
  }

  private static byte[] ours(byte[] disk) {
    Around around = new Around(disk);
    Cpu cpu = new Cpu(new Memory(), around, Level.last());
    // A stub of the firmware for call 13: serve, then return.
    cpu.memory().put16(0x13 * 4, 0x100);
    cpu.memory().put16(0x13 * 4 + 2, 0xF000);
    cpu.memory().put(0xF0100, new byte[] {(byte) 0xF1, 0x13, (byte) 0xCF}, 0, 3);
    cpu.memory().put(0x7C00, disk, 0, 512);
    cpu.word(Cpu.DX, 0x80);
    cpu.jump(0, 0x7C00);
    try {
      cpu.run(4_000_000_000L);
    } catch (Stop s) {
      assertThat(s.what()).isEqualTo("done");
    }
    return around.sent.toByteArray();
  }

  private static byte[] theirs(byte[] disk, Path home) throws Exception {
    Path file = Files.write(home.resolve("disk"), disk);
    Path sent = home.resolve("sent");
    Tool.ask(
        "timeout 300 qemu-system-i386 -display none -cpu pentium -m 16 -no-reboot -monitor none"
            + " -drive format=raw,if=ide,file="
            + file
            + " -serial file:"
            + sent
            + " -device isa-debug-exit,iobase=0xf4,iosize=1");
    return Files.readAllBytes(sent);
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2})
  void randomSequencesEndAsOnAGeneralPc(long seed, @TempDir Path home) throws Exception {
    Random r = new Random(seed);
    int left = CASES / 2;
    while (left > 0) {
      int cases = Math.min(MOST_CASES, left);
      int chunks = (cases * CASE + 32_767) / 32_768;
      byte[] disk = new byte[(1 + 64 * chunks + 64) * 512 / 516_096 * 516_096 + 516_096];
      byte[] sector = harness(chunks, cases);
      System.arraycopy(sector, 0, disk, 0, 512);
      int back = back(sector);
      List<byte[]> all = new ArrayList<>();
      for (int i = 0; i < cases; i++) {
        all.add(one(r, back));
        System.arraycopy(all.get(i), 0, disk, 512 + i * CASE, CASE);
      }
      byte[] a = ours(disk);
      byte[] b = theirs(disk, home);
      assertThat(a).hasSize(cases * SENT);
      assertThat(b).hasSize(cases * SENT);
      for (int i = 0; i < cases; i++) {
        String mine = HexFormat.of().formatHex(a, i * SENT, (i + 1) * SENT);
        String other = HexFormat.of().formatHex(b, i * SENT, (i + 1) * SENT);
        assertThat(mine).as(HexFormat.of().formatHex(all.get(i))).isEqualTo(other);
      }
      left -= cases;
    }
  }

  /** Where the case comes back: the vector of a division error stands in the code. */
  private static int back(byte[] sector) {
    for (int i = 0; i < 500; i++) {
      boolean here =
          (sector[i] & 0xFF) == 0xC7
              && sector[i + 1] == 6
              && sector[i + 2] == 0
              && sector[i + 3] == 0;
      if (here) return sector[i + 4] & 0xFF | (sector[i + 5] & 0xFF) << 8;
    }
    throw new AssertionError("no vector");
  }
}
