package lanternshed.core.node;

import static lanternshed.core.node.Wire.Ask;

import java.io.IOException;
import java.net.UnixDomainSocketAddress;
import java.nio.BufferUnderflowException;
import java.nio.ByteBuffer;
import java.nio.channels.SocketChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.function.Consumer;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;
import lanternshed.core.medium.UnreadableException;
import lanternshed.core.medium.UnwritableException;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/**
 * Nodes that a {@link ReaderProcess} has open for us: this process needs no rights on them. What
 * may be opened, and what may be written, that process decides; a line to it is one medium and ends
 * with it.
 */
public final class AskedNodes implements Nodes {
  private static final JsonMapper JSON = JsonMapper.shared();

  /** Facts and openings come at once; only what reads or writes may take a medium's time. */
  private static final long WAIT_MS = 20_000;

  private final Path socket;

  public AskedNodes(Path socket) {
    this.socket = socket;
  }

  @Override
  public List<NodeNow> all() {
    if (!Files.exists(socket)) return List.of();
    return Arrays.asList(asked(Ask.ALL, "", NodeNow[].class));
  }

  @Override
  public NodeNow now(String node) {
    return asked(Ask.NOW, node, NodeNow.class);
  }

  private <T> T asked(Ask what, String about, Class<T> form) {
    if (what != Ask.ALL) needOne(about);
    try (Wire w = line()) {
      w.send(what, about);
      return JSON.readValue(Wire.text(done(w, about, WAIT_MS)), form);
    } catch (IOException | JacksonException e) {
      throw new ShedException(away(e), e);
    }
  }

  @Override
  public Medium openOriginal(String node, String identity) {
    return opened(Ask.OPEN_ORIGINAL, node, new Order(node, identity, ""));
  }

  @Override
  public Medium open(String node, String identity) {
    return opened(Ask.OPEN, node, new Order(node, identity, ""));
  }

  @Override
  public Medium openWritable(String node, String identity, String insertion) {
    return opened(Ask.OPEN_WRITABLE, node, new Order(node, identity, insertion));
  }

  /** Which medium at which node is meant. */
  record Order(String node, String identity, String insertion) {}

  private Medium opened(Ask how, String node, Order order) {
    needOne(node);
    try {
      Wire w = line();
      try {
        w.send(how, JSON.writeValueAsString(order));
        long sectors = done(w, node, WAIT_MS).getLong();
        return new Far(w, String.valueOf(Path.of(node).getFileName()), sectors);
      } catch (IOException | RuntimeException e) {
        w.close();
        throw e;
      }
    } catch (IOException | BufferUnderflowException e) {
      throw new ShedException(away(e), e);
    }
  }

  private void needOne(String node) {
    if (Files.exists(socket)) return;
    throw new ShedException(
        "The device "
            + OwnNodes.clean(node)
            + " is not in the list of devices that may be opened: SHED_DEVICES names none, and no"
            + " reader process runs at "
            + socket
            + ". Whoever runs the shed starts one with ./shed reader.");
  }

  /** Who answers is looked at as well: anybody may lay a socket into a folder of everybody. */
  private Wire line() throws IOException {
    SocketChannel channel = SocketChannel.open(UnixDomainSocketAddress.of(socket));
    Wire w = new Wire(channel);
    try {
      String who = Wire.peer(channel);
      if (!who.equals("root") && !who.equals(System.getProperty("user.name"))) {
        throw new IOException("it is run by " + who);
      }
      String said = Wire.text(done(w, "", WAIT_MS));
      if (!said.equals(Wire.GREETING)) throw new IOException("it is of another version");
      return w;
    } catch (IOException | RuntimeException e) {
      w.close();
      throw e;
    }
  }

  private String away(Exception e) {
    return "The reader process at "
        + socket
        + " cannot be used: "
        + e.getMessage()
        + ". Whoever runs the shed starts it with ./shed reader; then go on here.";
  }

  /** The answer's content; what was refused at the other end is refused here in the same words. */
  private static ByteBuffer done(Wire w, String name, long waitMs) throws IOException {
    ByteBuffer m = w.receive(waitMs);
    switch (Wire.kind(Wire.Answer.class, m)) {
      case DONE -> {
        return m;
      }
      case REFUSED -> throw new ShedException(Wire.text(m));
      case MEDIUM -> throw new MediumException(Wire.text(m));
      case UNWRITABLE -> throw new UnwritableException(Wire.text(m));
      case UNREADABLE -> throw new UnreadableException(name, m.getLong());
    }
    throw new IOException("it sent what is no message");
  }

  /** A medium at the other end of a line. */
  private final class Far implements Medium {
    private static final int SECTOR = 512;
    private static final int AT_ONCE = Wire.MOST_DATA / SECTOR;
    private static final int PIECE = AT_ONCE / 4;
    private static final int PIECES = 3;

    private final Wire wire;
    private final String name;
    private final long sectors;

    private Far(Wire wire, String name, long sectors) {
      this.wire = wire;
      this.name = name;
      this.sectors = sectors;
    }

    @Override
    public int sectorSize() {
      return SECTOR;
    }

    @Override
    public long sectors() {
      return sectors;
    }

    @Override
    public String name() {
      return name;
    }

    @Override
    public synchronized void read(long lba, int count, byte[] into, int at) {
      bound(lba, count);
      for (int done = 0; done < count; done += AT_ONCE) {
        int n = Math.min(AT_ONCE, count - done);
        long from = lba + done;
        ByteBuffer got = asked(Ask.READ, b -> b.putLong(from).putInt(n));
        if (got.remaining() != n * SECTOR) throw lost(new IOException("it sent too little"));
        got.get(into, at + done * SECTOR, n * SECTOR);
      }
    }

    /** In pieces: while one goes onto the medium, the next one is on its way. */
    @Override
    public synchronized void write(long lba, int count, byte[] from, int at) {
      bound(lba, count);
      int asked = 0;
      RuntimeException first = null;
      for (int answered = 0; answered < asked || asked * PIECE < count; answered++) {
        for (; first == null && asked * PIECE < count && asked - answered < PIECES; asked++) {
          int begin = asked * PIECE;
          int n = Math.min(PIECE, count - begin);
          int start = at + begin * SECTOR;
          ask(Ask.WRITE, b -> b.putLong(lba + begin).putInt(n).put(from, start, n * SECTOR));
        }
        if (answered == asked) break;
        try {
          answer();
        } catch (ShedException e) {
          if (first == null) first = e;
        }
      }
      if (first != null) throw first;
    }

    @Override
    public synchronized void flush() {
      asked(Ask.FLUSH, b -> {});
    }

    private ByteBuffer asked(Ask what, Consumer<ByteBuffer> order) {
      ask(what, order);
      return answer();
    }

    private void ask(Ask what, Consumer<ByteBuffer> order) {
      try {
        order.accept(wire.begin(what));
        wire.send();
      } catch (IOException e) {
        throw lost(e);
      }
    }

    private ByteBuffer answer() {
      try {
        return done(wire, name, 0);
      } catch (IOException | BufferUnderflowException e) {
        throw lost(e);
      }
    }

    /** Of the medium nothing is known then: no sector is called bad for it. */
    private MediumException lost(Exception e) {
      return new MediumException(name + " is out of reach. " + away(e), e);
    }

    @Override
    public void close() {
      try {
        wire.close();
      } catch (IOException e) {
        throw new MediumException(name + " could not be closed: " + e.getMessage() + ".", e);
      }
    }
  }
}
