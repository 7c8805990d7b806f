package lanternshed.core.node;

import static lanternshed.core.node.Wire.Answer;
import static lanternshed.core.node.Wire.Ask;

import java.io.Closeable;
import java.io.IOException;
import java.net.ConnectException;
import java.net.StandardProtocolFamily;
import java.net.UnixDomainSocketAddress;
import java.nio.ByteBuffer;
import java.nio.channels.ClosedChannelException;
import java.nio.channels.ServerSocketChannel;
import java.nio.channels.SocketChannel;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFileAttributeView;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.Semaphore;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;
import lanternshed.core.medium.UnreadableException;
import lanternshed.core.medium.UnwritableException;
import tools.jackson.databind.json.JsonMapper;

/**
 * Opens nodes for a server that may not: it alone holds the list, asks what the system says before
 * and while a medium is written, and answers one user over a local socket. A line is one medium;
 * when it breaks the medium is let go of, and a message that did not come whole does nothing.
 */
public final class ReaderProcess implements Closeable {
  private static final JsonMapper JSON = JsonMapper.shared();
  private static final int MOST_LINES = 16;
  private static final Set<Ask> OPENING = Set.of(Ask.OPEN_ORIGINAL, Ask.OPEN, Ask.OPEN_WRITABLE);

  private final Nodes nodes;
  private final Path socket;
  private final Set<String> users;
  private final ServerSocketChannel door;
  private final Semaphore lines = new Semaphore(MOST_LINES);

  /**
   * Opens the door; {@link #run} serves.
   *
   * @param user whose server may ask; the user of this process may too
   * @throws ShedException where another process is there, or the socket cannot be made
   */
  public ReaderProcess(Nodes nodes, Path socket, String user) {
    this.nodes = nodes;
    this.socket = socket;
    this.users = new HashSet<>(List.of(user, System.getProperty("user.name")));
    try {
      Files.createDirectories(socket.toAbsolutePath().getParent());
      sweep();
      door = ServerSocketChannel.open(StandardProtocolFamily.UNIX);
      door.bind(UnixDomainSocketAddress.of(socket));
      // Who asks is looked at too; this keeps others from even knocking. No link is followed.
      PosixFileAttributeView file =
          Files.getFileAttributeView(
              socket, PosixFileAttributeView.class, LinkOption.NOFOLLOW_LINKS);
      Files.setPosixFilePermissions(socket, PosixFilePermissions.fromString("rw-------"));
      file.setOwner(
          socket.getFileSystem().getUserPrincipalLookupService().lookupPrincipalByName(user));
    } catch (IOException e) {
      throw new ShedException(
          "The socket "
              + socket
              + " cannot be made for "
              + user
              + ": "
              + e.getMessage()
              + ". Name another place in SHED_READER, for this process and for the server.",
          e);
    }
  }

  /** Takes away what a process left that was killed; one that answers is left alone. */
  private void sweep() throws IOException {
    if (!Files.exists(socket, LinkOption.NOFOLLOW_LINKS)) return;
    try (SocketChannel there = SocketChannel.open(UnixDomainSocketAddress.of(socket))) {
      throw new ShedException("A reader process runs already at " + socket + "; stop that one.");
    } catch (ConnectException e) {
      Files.delete(socket);
    }
  }

  /** Serves until it is closed. */
  public void run() {
    while (door.isOpen()) {
      try {
        SocketChannel line = door.accept();
        Thread t = new Thread(() -> serve(line), "line");
        t.setDaemon(true);
        t.start();
      } catch (IOException e) {
        if (!door.isOpen()) return;
      }
    }
  }

  private void serve(SocketChannel line) {
    boolean room = lines.tryAcquire();
    try (Wire w = new Wire(line)) {
      String user = Wire.peer(line);
      if (!users.contains(user)) {
        w.send(Answer.REFUSED, "This reader process does not serve " + user + ".");
      } else if (!room) {
        w.send(Answer.REFUSED, "All " + MOST_LINES + " lines to the reader process are taken.");
      } else {
        w.send(Answer.DONE, Wire.GREETING);
        talk(w);
      }
    } catch (IOException | RuntimeException e) {
      // The other end has gone, or says what is no message: its line ends, and no other.
    } finally {
      if (room) lines.release();
    }
  }

  private void talk(Wire w) throws IOException {
    Medium medium = null;
    byte[] data = new byte[Wire.MOST_DATA];
    try {
      while (true) {
        ByteBuffer m = w.receive(0);
        Ask ask = Wire.kind(Ask.class, m);
        try {
          if (OPENING.contains(ask)) {
            if (medium != null) throw new ClosedChannelException();
            medium = open(ask, JSON.readValue(Wire.text(m), AskedNodes.Order.class));
            w.begin(Answer.DONE).putLong(medium.sectors());
            w.send();
          } else {
            answer(w, ask, m, medium, data);
          }
        } catch (UnreadableException e) {
          w.begin(Answer.UNREADABLE).putLong(e.lba());
          w.send();
        } catch (UnwritableException e) {
          w.send(Answer.UNWRITABLE, e.getMessage());
        } catch (MediumException e) {
          w.send(Answer.MEDIUM, e.getMessage());
        } catch (ShedException e) {
          w.send(Answer.REFUSED, e.getMessage());
        }
      }
    } finally {
      if (medium != null) medium.close();
    }
  }

  private Medium open(Ask ask, AskedNodes.Order o) {
    return switch (ask) {
      case OPEN_ORIGINAL -> nodes.openOriginal(o.node(), o.identity());
      case OPEN -> nodes.open(o.node(), o.identity());
      default -> nodes.openWritable(o.node(), o.identity(), o.insertion());
    };
  }

  private void answer(Wire w, Ask ask, ByteBuffer m, Medium medium, byte[] data)
      throws IOException {
    switch (ask) {
      case ALL -> w.send(Answer.DONE, JSON.writeValueAsString(nodes.all()));
      case NOW -> w.send(Answer.DONE, JSON.writeValueAsString(nodes.now(Wire.text(m))));
      case READ -> {
        Medium there = needed(medium);
        long lba = m.getLong();
        int count = count(there, m.getInt());
        there.read(lba, count, data, 0);
        w.begin(Answer.DONE).put(data, 0, count * there.sectorSize());
        w.send();
      }
      case WRITE -> {
        Medium there = needed(medium);
        long lba = m.getLong();
        int count = count(there, m.getInt());
        m.get(data, 0, count * there.sectorSize());
        there.write(lba, count, data, 0);
        w.send(Answer.DONE, "");
      }
      case FLUSH -> {
        needed(medium).flush();
        w.send(Answer.DONE, "");
      }
      default -> throw new ClosedChannelException();
    }
  }

  private static Medium needed(Medium m) throws IOException {
    if (m == null) throw new ClosedChannelException();
    return m;
  }

  private static int count(Medium m, int count) throws IOException {
    if (count < 0 || count > Wire.MOST_DATA / m.sectorSize()) throw new ClosedChannelException();
    return count;
  }

  @Override
  public void close() {
    try {
      door.close();
      Files.deleteIfExists(socket);
    } catch (IOException e) {
      throw new ShedException("The socket " + socket + " could not be taken away.", e);
    }
  }
}
