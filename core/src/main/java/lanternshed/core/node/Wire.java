package lanternshed.core.node;

import java.io.Closeable;
import java.io.EOFException;
import java.io.IOException;
import java.net.SocketTimeoutException;
import java.net.StandardSocketOptions;
import java.nio.ByteBuffer;
import java.nio.channels.ClosedChannelException;
import java.nio.channels.ClosedSelectorException;
import java.nio.channels.SelectionKey;
import java.nio.channels.Selector;
import java.nio.channels.SocketChannel;
import java.nio.charset.StandardCharsets;
import jdk.net.ExtendedSocketOptions;

/**
 * Messages between a server and its reader process: the length of what follows in four bytes, a
 * byte that says what it is, the rest. Each question has one answer. Nothing is taken that is
 * longer than {@link #MOST_DATA} and its heading.
 */
final class Wire implements Closeable {
  /** Said first by the reader process; another version is another program. */
  static final String GREETING = "lantern shed reader 1";

  /** Sectors' bytes of one question, at most. */
  static final int MOST_DATA = 1 << 20;

  private static final int HEADING = 64;

  /** What is asked. */
  enum Ask {
    ALL,
    NOW,
    OPEN_ORIGINAL,
    OPEN,
    OPEN_WRITABLE,
    READ,
    WRITE,
    FLUSH
  }

  /** What is answered: what was asked for, or a refusal by its kind. */
  enum Answer {
    DONE,
    REFUSED,
    MEDIUM,
    UNREADABLE,
    UNWRITABLE
  }

  private final SocketChannel channel;
  private final Selector selector;
  private final SelectionKey key;
  private final ByteBuffer out = ByteBuffer.allocateDirect(MOST_DATA + HEADING);
  private final ByteBuffer in = ByteBuffer.allocateDirect(MOST_DATA + HEADING);

  Wire(SocketChannel channel) throws IOException {
    this.channel = channel;
    channel.setOption(StandardSocketOptions.SO_SNDBUF, MOST_DATA);
    channel.configureBlocking(false);
    selector = Selector.open();
    key = channel.register(selector, SelectionKey.OP_READ);
  }

  /** Begins a message; what it says is put into what comes back, then it is {@link #send sent}. */
  ByteBuffer begin(Enum<?> kind) {
    return out.clear().putInt(0).put((byte) kind.ordinal());
  }

  /** Sends what was begun. */
  void send() throws IOException {
    out.putInt(0, out.position() - Integer.BYTES).flip();
    while (out.hasRemaining()) {
      if (channel.write(out) == 0) await(SelectionKey.OP_WRITE, 0);
    }
  }

  void send(Enum<?> kind, String text) throws IOException {
    byte[] b = text.getBytes(StandardCharsets.UTF_8);
    begin(kind).put(b, 0, Math.min(b.length, MOST_DATA));
    send();
  }

  /**
   * The next message, from the byte of its kind on; valid until the next one.
   *
   * @param waitMs how long it may take to begin; 0 for ever
   * @throws EOFException where the other end has gone
   * @throws SocketTimeoutException where nothing comes in time
   */
  ByteBuffer receive(long waitMs) throws IOException {
    fill(Integer.BYTES, waitMs);
    int length = in.getInt();
    if (length < 1 || length > MOST_DATA + HEADING - Integer.BYTES) {
      throw new IOException("it sent what is no message");
    }
    fill(length, waitMs);
    return in;
  }

  private void fill(int bytes, long waitMs) throws IOException {
    in.clear().limit(bytes);
    while (in.hasRemaining()) {
      int n = channel.read(in);
      if (n < 0) throw new EOFException("it has ended");
      if (n == 0) await(SelectionKey.OP_READ, waitMs);
    }
    in.flip();
  }

  private void await(int what, long ms) throws IOException {
    try {
      key.interestOps(what);
      if (selector.select(ms) == 0 && ms > 0) {
        throw new SocketTimeoutException("it does not answer within " + ms / 1000 + " s");
      }
      selector.selectedKeys().clear();
    } catch (ClosedSelectorException e) {
      throw new ClosedChannelException();
    }
    if (Thread.interrupted()) throw new IOException("it was left");
  }

  /** The user whose process is at the other end. */
  static String peer(SocketChannel channel) throws IOException {
    return channel.getOption(ExtendedSocketOptions.SO_PEERCRED).user().getName();
  }

  static String text(ByteBuffer message) {
    byte[] b = new byte[message.remaining()];
    message.get(b);
    return new String(b, StandardCharsets.UTF_8);
  }

  /**
   * @throws IOException where the byte names none of them
   */
  static <E extends Enum<E>> E kind(Class<E> kinds, ByteBuffer message) throws IOException {
    int i = message.get();
    E[] all = kinds.getEnumConstants();
    if (i < 0 || i >= all.length) throw new IOException("it sent what is no message");
    return all[i];
  }

  @Override
  public void close() throws IOException {
    selector.close();
    channel.close();
  }
}
