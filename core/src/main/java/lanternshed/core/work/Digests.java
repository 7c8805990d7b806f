package lanternshed.core.work;

import com.dynatrace.hash4j.hashing.HashStream128;
import com.dynatrace.hash4j.hashing.HashValue128;
import com.dynatrace.hash4j.hashing.Hashing;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.zip.CRC32;
import lanternshed.core.measure.Sha256;
import lanternshed.core.medium.Medium;

/**
 * The digests of a whole image.
 *
 * @param sha256 SHA-256 of all bytes, in hexadecimal
 * @param crc32 CRC-32, for old tools
 * @param chunks XXH3, 128 bits, of each 16 MiB, the last one shorter: it places a difference within
 *     16 MiB and costs next to nothing beside SHA-256, which alone vouches for the whole
 */
public record Digests(String sha256, long crc32, List<String> chunks) {
  public static final int CHUNK_BYTES = 16 << 20;

  public Digests {
    chunks = List.copyOf(chunks);
  }

  /** Digests a whole medium; memory does not depend on its size. */
  public static Digests of(Medium medium, Progress progress, String phase) {
    try (Running running = new Running()) {
      long total = medium.bytes();
      int perBlock = Running.BLOCK / medium.sectorSize();
      for (long lba = 0; lba < medium.sectors(); lba += perBlock) {
        int n = (int) Math.min(perBlock, medium.sectors() - lba);
        byte[] block = running.block();
        medium.read(lba, n, block, 0);
        running.take(block, n * medium.sectorSize());
        progress.at(phase, (lba + n) * medium.sectorSize(), total);
      }
      return running.done();
    }
  }

  /**
   * Whether sectors of a medium have that digest of a chunk. Images that an older version kept
   * carry SHA-512/256, which is twice as long.
   */
  static boolean isChunk(Medium m, long lba, int count, String expected) {
    HashStream128 quick = Hashing.xxh3_128().hashStream();
    MessageDigest old = expected.length() == 32 ? null : sha512_256();
    byte[] b = new byte[Running.BLOCK];
    int per = Running.BLOCK / m.sectorSize();
    for (int done = 0; done < count; done += per) {
      int n = Math.min(per, count - done);
      m.read(lba + done, n, b, 0);
      if (old == null) quick.putBytes(b, 0, n * m.sectorSize());
      else old.update(b, 0, n * m.sectorSize());
    }
    return expected.equals(old == null ? hex(quick.get()) : hex(old.digest()));
  }

  private static MessageDigest sha512_256() {
    try {
      return MessageDigest.getInstance("SHA-512/256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }

  private static String hex(HashValue128 v) {
    return String.format("%016x%016x", v.getMostSignificantBits(), v.getLeastSignificantBits());
  }

  static String hex(byte[] b) {
    return HexFormat.of().formatHex(b);
  }

  /**
   * Digests that run along while blocks are copied: the whole in a thread of its own, the chunks in
   * the caller's, so that two cores are busy. Blocks come from a fixed pool; it bounds the memory
   * and makes a fast reader wait for the digest.
   */
  static final class Running implements AutoCloseable {
    static final int BLOCK = 1 << 20;
    private static final int POOL = 8;
    private static final byte[] END = new byte[0];

    private record Piece(byte[] block, int length) {}

    private final BlockingQueue<byte[]> free = new ArrayBlockingQueue<>(POOL);
    private final BlockingQueue<Piece> todo = new ArrayBlockingQueue<>(POOL + 1);
    private final MessageDigest whole = Sha256.fresh();
    private final CRC32 crc = new CRC32();
    private final Thread thread;
    private final HashStream128 chunk = Hashing.xxh3_128().hashStream();
    private final List<String> chunks = new ArrayList<>();
    private int inChunk;
    private boolean ended;

    Running() {
      for (int i = 0; i < POOL; i++) free.add(new byte[BLOCK]);
      thread = new Thread(this::run, "digest");
      thread.setDaemon(true);
      thread.start();
    }

    private void run() {
      try {
        for (Piece p = todo.take(); p.block() != END; p = todo.take()) {
          whole.update(p.block(), 0, p.length());
          free.add(p.block());
        }
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }

    /** A block to fill; waits until the digest has given one back. */
    byte[] block() {
      try {
        return free.take();
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new StoppedException("The work was interrupted; what it has is kept.");
      }
    }

    /** Takes a filled block, the next in the order of the image. */
    void take(byte[] block, int length) {
      int at = 0;
      while (at < length) {
        int n = Math.min(length - at, CHUNK_BYTES - inChunk);
        chunk.putBytes(block, at, n);
        at += n;
        inChunk += n;
        if (inChunk == CHUNK_BYTES) endChunk();
      }
      crc.update(block, 0, length);
      todo.add(new Piece(block, length));
    }

    private void endChunk() {
      chunks.add(hex(chunk.get()));
      chunk.reset();
      inChunk = 0;
    }

    Digests done() {
      if (inChunk > 0) endChunk();
      close();
      return new Digests(hex(whole.digest()), crc.getValue(), chunks);
    }

    @Override
    public void close() {
      if (ended) return;
      ended = true;
      todo.add(new Piece(END, 0));
      try {
        thread.join();
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }
  }
}
