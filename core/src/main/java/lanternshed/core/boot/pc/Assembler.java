package lanternshed.core.boot.pc;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.Map;

/**
 * Puts 8086 machine code together: opcodes as they stand in the processor's manual, with labels for
 * jumps and addresses. Only what boot sectors need; each line of a listing carries its mnemonic as
 * a comment beside it.
 */
final class Assembler {
  private final int origin;
  private final ByteArrayOutputStream out = new ByteArrayOutputStream();
  private final Map<String, Integer> labels = new HashMap<>();
  private final Map<Integer, Fix> fixes = new HashMap<>();

  private record Fix(String label, int bytes, boolean relative) {}

  /**
   * @param origin the address at which the first byte will stand
   */
  Assembler(int origin) {
    this.origin = origin;
  }

  Assembler label(String name) {
    if (labels.put(name, out.size()) != null) throw new IllegalStateException("twice: " + name);
    return this;
  }

  /** Bytes as hexadecimal, "FA 31 C0". */
  Assembler op(String hex) {
    out.writeBytes(HexFormat.of().parseHex(hex.replace(" ", "")));
    return this;
  }

  /** An opcode followed by a 16-bit constant. */
  Assembler op16(String hex, int value) {
    op(hex);
    out.write(value);
    out.write(value >> 8);
    return this;
  }

  /** An opcode followed by an 8-bit constant, such as the place of a field. */
  Assembler at(String hex, int value) {
    op(hex);
    out.write(value);
    return this;
  }

  /** An opcode followed by the 16-bit address of a label. */
  Assembler address(String hex, String label) {
    op(hex);
    return fix(label, 2, false);
  }

  /** An opcode followed by an 8-bit distance to a label. */
  Assembler near(String hex, String label) {
    op(hex);
    return fix(label, 1, true);
  }

  /** An opcode followed by a 16-bit distance to a label. */
  Assembler far(String hex, String label) {
    op(hex);
    return fix(label, 2, true);
  }

  private Assembler fix(String label, int bytes, boolean relative) {
    fixes.put(out.size(), new Fix(label, bytes, relative));
    out.write(0);
    if (bytes == 2) out.write(0);
    return this;
  }

  /** Text with a closing zero. */
  Assembler text(String s) {
    out.writeBytes(s.getBytes(StandardCharsets.US_ASCII));
    out.write(0);
    return this;
  }

  Assembler bytes(byte[] b) {
    out.writeBytes(b);
    return this;
  }

  /** The code with every label in its place. */
  byte[] assemble() {
    byte[] b = out.toByteArray();
    fixes.forEach(
        (at, fix) -> {
          Integer target = labels.get(fix.label());
          if (target == null) throw new IllegalStateException("no label " + fix.label());
          int v = fix.relative() ? target - (at + fix.bytes()) : target + origin;
          if (fix.bytes() == 1 && (v < -128 || v > 127)) {
            throw new IllegalStateException("too far: " + fix.label());
          }
          b[at] = (byte) v;
          if (fix.bytes() == 2) b[at + 1] = (byte) (v >> 8);
        });
    return b;
  }
}
