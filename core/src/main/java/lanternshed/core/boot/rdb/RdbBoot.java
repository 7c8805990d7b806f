package lanternshed.core.boot.rdb;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import lanternshed.core.boot.BootChain;
import lanternshed.core.boot.BootPath;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Medium;

/** The way of a 68000 computer: table, driver, priority, boot block, start-up text. */
public final class RdbBoot implements BootPath {

  @Override
  public BootChain walk(Medium medium, Geometry target, long reach) {
    return new RdbWalk(medium, reach).run();
  }

  /** The table starts nothing by code of its own; drivers come from the old one. */
  @Override
  public byte[] tableCode() {
    return new byte[0];
  }

  /**
   * Finds the disk system in ROM and hands its start address back, which is all that a boot block
   * is asked for: A6 holds the executive's base on entry; D0 is 0 and A0 the address on return.
   */
  @Override
  public byte[] volumeCode(String kind, String contract, String systemFile) {
    if (systemFile.isEmpty()) return new byte[0];
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    int[] words = {
      0x43FA,
      0x0018, // LEA name(PC),A1
      0x4EAE,
      0xFFA0, // JSR find resident(A6)
      0x4A80, // TST.L D0
      0x670A, // BEQ.S not found
      0x2040, // MOVEA.L D0,A0
      0x2068,
      0x0016, // MOVEA.L start address(A0),A0
      0x7000, // MOVEQ #0,D0
      0x4E75, // RTS
      0x70FF, // MOVEQ #-1,D0
      0x4E75 // RTS
    };
    for (int w : words) {
      out.write(w >> 8);
      out.write(w);
    }
    out.writeBytes("dos.library\0".getBytes(StandardCharsets.US_ASCII));
    return out.toByteArray();
  }
}
