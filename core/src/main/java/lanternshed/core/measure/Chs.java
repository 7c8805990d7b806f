package lanternshed.core.measure;

/**
 * A place as cylinder, head and sector; sectors count from 1.
 *
 * <p>In a partition table it takes three bytes (head; sector in bits 0–5 with cylinder bits 8–9 in
 * bits 6–7; cylinder bits 0–7), so a cylinder past 1023 cannot be said there.
 */
public record Chs(int cylinder, int head, int sector) {
  /** Of a table whose C/H/S say nothing, as it counts in sectors of another size. */
  public static final Chs UNSAID = new Chs(-1, 0, 0);

  /** Reads the three packed bytes of a table entry at {@code at}. */
  public static Chs unpack(byte[] b, int at) {
    int second = b[at + 1] & 0xFF;
    return new Chs((second & 0xC0) << 2 | b[at + 2] & 0xFF, b[at] & 0xFF, second & 0x3F);
  }

  /** Writes the three packed bytes of a table entry at {@code at}. */
  public void pack(byte[] b, int at) {
    b[at] = (byte) head;
    b[at + 1] = (byte) (sector & 0x3F | cylinder >> 2 & 0xC0);
    b[at + 2] = (byte) cylinder;
  }

  @Override
  public String toString() {
    return equals(UNSAID) ? "unsaid" : cylinder + "/" + head + "/" + sector;
  }
}
