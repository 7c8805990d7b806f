package lanternshed.core.cpu;

/**
 * One MiB and the 64 KiB less 16 bytes that a segment reaches above it, where gate A20 is open;
 * where it is shut they are the first again.
 */
public final class Memory {
  private static final int SIZE = 0x11_0000;
  private static final int SHUT = 0xF_FFFF;
  private final byte[] bytes = new byte[SIZE];
  private int mask = SHUT;

  /** Opens or shuts gate A20. */
  public void a20(boolean open) {
    mask = open ? 0x1F_FFFF : SHUT;
  }

  public boolean a20() {
    return mask != SHUT;
  }

  public int u8(int at) {
    int i = at & mask;
    return i < SIZE ? bytes[i] & 0xFF : 0xFF;
  }

  public int u16(int at) {
    int i = at & mask;
    if (i + 1 >= SIZE || i == SHUT) return u8(at) | u8(at + 1) << 8;
    return bytes[i] & 0xFF | (bytes[i + 1] & 0xFF) << 8;
  }

  public int u32(int at) {
    return u16(at) | u16(at + 2) << 16;
  }

  public void put8(int at, int v) {
    int i = at & mask;
    if (i < SIZE) bytes[i] = (byte) v;
  }

  public void put16(int at, int v) {
    put8(at, v);
    put8(at + 1, v >> 8);
  }

  public void put32(int at, int v) {
    put16(at, v);
    put16(at + 2, v >>> 16);
  }

  public void put(int at, byte[] from, int start, int count) {
    for (int i = 0; i < count; i++) put8(at + i, from[start + i]);
  }

  public byte[] get(int at, int count) {
    byte[] out = new byte[count];
    for (int i = 0; i < count; i++) out[i] = (byte) u8(at + i);
    return out;
  }
}
