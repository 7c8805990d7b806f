package lanternshed.core.transfer;

import java.util.Arrays;

/**
 * The blocks of XMODEM: a mark, the number and its complement, 128 or 1 024 bytes, and a sum or a
 * CRC of two bytes (polynomial 1021, as published with the CRC option).
 */
final class Xmodem {
  static final int SOH = 0x01;
  static final int STX = 0x02;
  static final int EOT = 0x04;
  static final int ACK = 0x06;
  static final int NAK = 0x15;
  static final int CAN = 0x18;

  /** Asks for a CRC instead of a sum. */
  static final int CRC = 'C';

  /** Fills the last block: the length of a file is not carried. */
  static final byte FILL = 0x1A;

  static final int SHORT = 128;
  static final int LONG = 1024;

  /** A block is said again so often before an end gives up. */
  static final int TRIES = 10;

  private Xmodem() {}

  /**
   * A block as it goes over the line.
   *
   * @param number of the block, the first being 1; its lowest eight bits go over
   */
  static byte[] block(byte[] file, int from, int length, int number, boolean crc) {
    byte[] b = new byte[3 + length + (crc ? 2 : 1)];
    b[0] = (byte) (length == LONG ? STX : SOH);
    b[1] = (byte) number;
    b[2] = (byte) ~number;
    Arrays.fill(b, 3, 3 + length, FILL);
    System.arraycopy(file, from, b, 3, Math.min(length, file.length - from));
    if (crc) {
      int c = crc(b, 3, length);
      b[3 + length] = (byte) (c >> 8);
      b[4 + length] = (byte) c;
    } else {
      b[3 + length] = (byte) sum(b, 3, length);
    }
    return b;
  }

  /** Bytes of a block by its mark. */
  static int length(int mark, boolean crc) {
    return 3 + (mark == STX ? LONG : SHORT) + (crc ? 2 : 1);
  }

  static int sum(byte[] b, int from, int length) {
    int s = 0;
    for (int i = from; i < from + length; i++) s += b[i];
    return s & 0xFF;
  }

  static int crc(byte[] b, int from, int length) {
    int c = 0;
    for (int i = from; i < from + length; i++) {
      c ^= (b[i] & 0xFF) << 8;
      for (int bit = 0; bit < 8; bit++) c = (c & 0x8000) != 0 ? c << 1 ^ 0x1021 : c << 1;
    }
    return c & 0xFFFF;
  }
}
