package lanternshed.core.medium;

import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;

/**
 * A medium in memory that keeps only what was written: chunks of 64 KiB that hold something. A
 * medium of 1 TiB with one boot sector costs one chunk. This is the project's sparse medium and its
 * memory medium in one.
 */
public final class MemoryMedium implements Medium {
  private static final int CHUNK = 64 * 1024;
  private final int sectorSize;
  private final long sectors;
  private final Map<Long, byte[]> chunks = new HashMap<>();

  public MemoryMedium(long sectors) {
    this(sectors, 512);
  }

  public MemoryMedium(long sectors, int sectorSize) {
    this.sectors = sectors;
    this.sectorSize = sectorSize;
  }

  /** A medium with these bytes from sector 0; a last part of a sector is filled with zeros. */
  public static MemoryMedium of(byte[] content) {
    MemoryMedium m = new MemoryMedium((content.length + 511) / 512);
    byte[] whole = Arrays.copyOf(content, Math.toIntExact(m.bytes()));
    m.write(0, Math.toIntExact(m.sectors), whole, 0);
    return m;
  }

  @Override
  public int sectorSize() {
    return sectorSize;
  }

  @Override
  public long sectors() {
    return sectors;
  }

  @Override
  public synchronized void read(long lba, int count, byte[] into, int at) {
    bound(lba, count);
    long position = lba * sectorSize;
    int left = count * sectorSize;
    while (left > 0) {
      int inside = (int) (position % CHUNK);
      int n = Math.min(left, CHUNK - inside);
      byte[] chunk = chunks.get(position / CHUNK);
      if (chunk == null) Arrays.fill(into, at, at + n, (byte) 0);
      else System.arraycopy(chunk, inside, into, at, n);
      position += n;
      at += n;
      left -= n;
    }
  }

  @Override
  public synchronized void write(long lba, int count, byte[] from, int at) {
    bound(lba, count);
    long position = lba * sectorSize;
    int left = count * sectorSize;
    while (left > 0) {
      int inside = (int) (position % CHUNK);
      int n = Math.min(left, CHUNK - inside);
      byte[] chunk = chunks.computeIfAbsent(position / CHUNK, k -> new byte[CHUNK]);
      System.arraycopy(from, at, chunk, inside, n);
      position += n;
      at += n;
      left -= n;
    }
  }

  @Override
  public String name() {
    return "a medium in memory";
  }
}
