package lanternshed.core.measure;

import java.util.Arrays;

/**
 * Fields of on-disk structures, unsigned as the specifications mean them; little-endian where the
 * name does not say otherwise.
 */
public final class Bytes {
  private static final byte[] ZEROS = new byte[4096];

  private Bytes() {}

  public static int u8(byte[] b, int at) {
    return b[at] & 0xFF;
  }

  public static int u16(byte[] b, int at) {
    return b[at] & 0xFF | (b[at + 1] & 0xFF) << 8;
  }

  public static long u32(byte[] b, int at) {
    return u16(b, at) | (long) u16(b, at + 2) << 16;
  }

  public static int be16(byte[] b, int at) {
    return (b[at] & 0xFF) << 8 | b[at + 1] & 0xFF;
  }

  public static long be64(byte[] b, int at) {
    return be32(b, at) << 32 | be32(b, at + 4);
  }

  public static long be32(byte[] b, int at) {
    return (long) be16(b, at) << 16 | be16(b, at + 2);
  }

  public static long u64(byte[] b, int at) {
    return u32(b, at) | u32(b, at + 4) << 32;
  }

  public static void put64(byte[] b, int at, long v) {
    for (int i = 0; i < 8; i++) b[at + i] = (byte) (v >> 8 * i);
  }

  public static void put16(byte[] b, int at, int v) {
    b[at] = (byte) v;
    b[at + 1] = (byte) (v >> 8);
  }

  public static void put32(byte[] b, int at, long v) {
    put16(b, at, (int) v);
    put16(b, at + 2, (int) (v >> 16));
  }

  public static void putBe16(byte[] b, int at, int v) {
    b[at] = (byte) (v >> 8);
    b[at + 1] = (byte) v;
  }

  public static void putBe32(byte[] b, int at, long v) {
    putBe16(b, at, (int) (v >> 16));
    putBe16(b, at + 2, (int) v);
  }

  public static boolean allZero(byte[] b, int from, int to) {
    for (int at = from; at < to; at += ZEROS.length) {
      int n = Math.min(ZEROS.length, to - at);
      // Arrays compares many bytes at once; a loop that may end at each byte does not.
      if (!Arrays.equals(b, at, at + n, ZEROS, 0, n)) return false;
    }
    return true;
  }
}
