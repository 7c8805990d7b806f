package lanternshed.server.shell;

import java.io.IOException;
import java.io.InputStream;
import java.util.function.Supplier;
import lanternshed.core.medium.Medium;
import org.springframework.core.io.AbstractResource;

/**
 * A whole medium as the framework hands out files: with its length, and any part of it by range.
 */
public final class MediumResource extends AbstractResource {
  private final String name;
  private final long bytes;
  private final Supplier<Medium> open;

  /**
   * @param bytes of it that are handed out; a small disk may end within the last sector
   */
  public MediumResource(String name, long bytes, Supplier<Medium> open) {
    this.name = name;
    this.bytes = bytes;
    this.open = open;
  }

  @Override
  public long contentLength() {
    return bytes;
  }

  @Override
  public String getFilename() {
    return name;
  }

  @Override
  public String getDescription() {
    return name;
  }

  @Override
  public boolean exists() {
    return true;
  }

  @Override
  public InputStream getInputStream() {
    return new Reader(open.get(), bytes);
  }

  private static final class Reader extends InputStream {
    private static final int BLOCK = 2048;
    private final Medium medium;
    private final long bytes;
    private final byte[] block;
    private long at;
    private long blockStart = -1;

    Reader(Medium medium, long bytes) {
      this.medium = medium;
      this.bytes = bytes;
      this.block = new byte[BLOCK * medium.sectorSize()];
    }

    @Override
    public int read() throws IOException {
      byte[] one = new byte[1];
      return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] into, int from, int length) {
      if (at >= bytes) return -1;
      long start = at / block.length * block.length;
      long there = Math.min(block.length, medium.bytes() - start);
      if (start != blockStart) {
        long lba = start / medium.sectorSize();
        medium.read(lba, (int) (there / medium.sectorSize()), block, 0);
        blockStart = start;
      }
      int inBlock = (int) (at - start);
      int n = (int) Math.min(Math.min(length, there - inBlock), bytes - at);
      System.arraycopy(block, inBlock, into, from, n);
      at += n;
      return n;
    }

    @Override
    public long skip(long n) {
      long step = Math.max(0, Math.min(n, bytes - at));
      at += step;
      return step;
    }

    @Override
    public void close() {
      medium.close();
    }
  }
}
