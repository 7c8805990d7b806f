package lanternshed.core.table.rdb;

import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Random;

/** Loadable files such as the machine's assembler and linker leave them. */
public final class DriverFiles {
  private DriverFiles() {}

  /**
   * Code that names its version, data with relocations into both hunks, and room; symbols and
   * debugging longs behind the code.
   *
   * @param longs of code
   */
  public static byte[] file(String version, int longs, long seed) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (DataOutputStream out = new DataOutputStream(bytes)) {
      byte[] code = new byte[4 * longs];
      new Random(seed).nextBytes(code);
      byte[] said = (version + "\0").getBytes(StandardCharsets.ISO_8859_1);
      System.arraycopy(said, 0, code, 8, Math.min(said.length, code.length - 8));
      // The second asks for memory of a kind that a long of its own names.
      for (int x : new int[] {0x3F3, 0, 3, 0, 2, longs, 0xC000_0010, 0x11, 0x4000_0100}) {
        out.writeInt(x);
      }
      out.writeInt(0x3E9);
      out.writeInt(longs);
      out.write(code);
      for (int x : new int[] {0x3EC, 2, 1, 4, 12, 1, 0, 0, 0}) out.writeInt(x);
      for (int x : new int[] {0x3F0, 2, 0x656E7472, 0x79000000, 0, 0}) out.writeInt(x);
      for (int x : new int[] {0x3F1, 2, 7, 8, 0x3F2}) out.writeInt(x);
      out.writeInt(0x400003EA);
      out.writeInt(4);
      out.write(new byte[16]);
      // Three places by words, so that a word fills up to the next long.
      out.writeInt(0x3FC);
      for (int x : new int[] {2, 0, 4, 8, 0, 0}) out.writeShort(x);
      out.writeInt(0x3F2);
      for (int x : new int[] {0x3EB, 0x100, 0x3F2}) out.writeInt(x);
    } catch (IOException e) {
      throw new IllegalStateException(e);
    }
    return bytes.toByteArray();
  }
}
