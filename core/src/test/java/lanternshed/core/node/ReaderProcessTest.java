package lanternshed.core.node;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;

import java.io.IOException;
import java.net.UnixDomainSocketAddress;
import java.nio.ByteBuffer;
import java.nio.channels.SocketChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import lanternshed.core.Child;
import lanternshed.core.cli.Shed;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Damage;
import lanternshed.core.medium.FailingDrive;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.Pace;
import lanternshed.core.medium.UnreadableException;
import lanternshed.core.medium.UnwritableException;
import lanternshed.core.medium.Wrapper;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/** What comes over the line is what the medium said, and nothing else gets through it. */
@Timeout(60)
class ReaderProcessTest {
  private static final String CARD = "/dev/card";
  private static final int SECTORS = 9_000;
  private static final int DEAD = 5_000;
  private static final int FULL = 7_000;

  private final MemoryMedium under = new MemoryMedium(SECTORS);
  private final byte[] content = new byte[SECTORS * 512];
  private final int[] let = {0};
  private Path folder;
  private Path socket;
  private ReaderProcess reader;
  private AskedNodes asked;
  private Process process;

  /** One card with a dead sector and one that takes nothing, at a node of the list. */
  private final Nodes own =
      new Nodes() {
        @Override
        public List<NodeNow> all() {
          return List.of(now(CARD));
        }

        @Override
        public NodeNow now(String node) {
          if (!node.equals(CARD)) throw new ShedException(node + " is not in the list.");
          return new NodeNow(
              CARD,
              "é card",
              SECTORS,
              "S-1",
              "card S-1",
              "boot 7",
              "8:16",
              List.of("It is mounted."));
        }

        @Override
        public Medium openOriginal(String node, String identity) {
          return open(node, identity);
        }

        @Override
        public Medium open(String node, String identity) {
          now(node).same(identity);
          Damage dead = new Damage(List.of(new Damage.Zone(DEAD, 1, Damage.Kind.DEAD, 0)));
          return new Card(new FailingDrive(under, dead, Pace.counted()));
        }

        @Override
        public Medium openWritable(String node, String identity, String insertion) {
          if (!now(node).same(identity).insertion().equals(insertion)) {
            throw new MediumException("It was changed.");
          }
          return new Card(under);
        }
      };

  private final class Card extends Wrapper {
    private Card(Medium base) {
      super(base);
    }

    @Override
    public void write(long lba, int count, byte[] from, int at) {
      if (lba <= FULL && lba + count > FULL) {
        throw new UnwritableException("Writing stopped at sector " + FULL + ".");
      }
      super.write(lba, count, from, at);
    }

    @Override
    public void close() {
      synchronized (let) {
        let[0]++;
        let.notifyAll();
      }
    }
  }

  @BeforeEach
  void begin() throws IOException {
    new Random(1).nextBytes(content);
    under.write(0, SECTORS, content, 0);
    folder = Files.createTempDirectory(Path.of("/tmp"), "reader");
    socket = folder.resolve("s");
    reader = serve();
    asked = new AskedNodes(socket);
  }

  private ReaderProcess serve() {
    ReaderProcess r = new ReaderProcess(own, socket, System.getProperty("user.name"));
    Thread t = new Thread(r::run);
    t.setDaemon(true);
    t.start();
    return r;
  }

  @AfterEach
  void end() throws IOException {
    if (process != null) process.destroyForcibly();
    reader.close();
    Files.deleteIfExists(socket);
    Files.delete(folder);
  }

  private void awaitLet(int times) throws InterruptedException {
    synchronized (let) {
      while (let[0] < times) let.wait();
    }
  }

  @Test
  void factsAreTheSameAtBothEnds() {
    assertThat(asked.all()).isEqualTo(own.all());
    assertThat(asked.now(CARD)).isEqualTo(own.now(CARD));
    assertThatThrownBy(() -> asked.now("/dev/other"))
        .isInstanceOf(ShedException.class)
        .hasMessage("/dev/other is not in the list.");
    assertThatThrownBy(() -> asked.open(CARD, "card S-2"))
        .hasMessageContaining("it was card S-2, and is card S-1");
    assertThatThrownBy(() -> asked.openWritable(CARD, "card S-1", "boot 6"))
        .isInstanceOf(MediumException.class)
        .hasMessage("It was changed.");
  }

  @Test
  void whatIsReadIsWhatLiesThereInAnyPieces() throws InterruptedException {
    Random random = new Random(2);
    try (Medium m = asked.open(CARD, "card S-1")) {
      assertThat(m.sectors()).isEqualTo(SECTORS);
      assertThat(m.name()).isEqualTo("card");
      for (int i = 0; i < 60; i++) {
        int lba = random.nextInt(DEAD);
        int n = random.nextInt(Math.min(DEAD - lba, i % 4 == 0 ? 4_999 : 30) + 1);
        byte[] into = new byte[n * 512 + 7];
        m.read(lba, n, into, 7);
        assertThat(Arrays.mismatch(content, lba * 512, (lba + n) * 512, into, 7, 7 + n * 512))
            .isEqualTo(-1);
      }
    }
    awaitLet(1);
  }

  /** A dead sector is told as one, with its own number; the line goes on. */
  @Test
  void aSectorThatDoesNotReadIsThatSectorAndNoOther() {
    try (Medium m = asked.openOriginal(CARD, "")) {
      Throwable t = catchThrowable(() -> m.read(DEAD - 2_100, 3_000, new byte[3_000 * 512], 0));
      assertThat(t).isInstanceOf(UnreadableException.class);
      assertThat(((UnreadableException) t).lba()).isEqualTo(DEAD);
      assertThat(m.sector(DEAD + 1))
          .isEqualTo(Arrays.copyOfRange(content, (DEAD + 1) * 512, (DEAD + 2) * 512));
      assertThatThrownBy(() -> m.sector(SECTORS)).hasMessageContaining("which ends at sector");
      assertThatThrownBy(() -> m.write(0, 1, new byte[512], 0)).isInstanceOf(MediumException.class);
      assertThat(under.sector(0)).isEqualTo(Arrays.copyOf(content, 512));
    }
  }

  @Test
  void whatIsWrittenLiesThereAndWhatIsNotTakenIsSaid() {
    byte[] b = new byte[6_000 * 512];
    new Random(3).nextBytes(b);
    try (Medium m = asked.openWritable(CARD, "card S-1", "boot 7")) {
      m.write(10, 5_999, b, 512);
      m.flush();
      assertThat(under.sectors(10, 5_999)).isEqualTo(Arrays.copyOfRange(b, 512, b.length));
      assertThatThrownBy(() -> m.write(FULL, 1, b, 0))
          .isInstanceOf(UnwritableException.class)
          .hasMessage("Writing stopped at sector 7000.");
      m.write(FULL + 1, 1, b, 0);
      // In the middle of many: behind it no more is sent than what was on its way.
      assertThatThrownBy(() -> m.write(FULL - 1_000, 3_000, b, 0)).hasMessageContaining("7000");
      assertThat(m.sector(FULL + 1_990))
          .isEqualTo(Arrays.copyOfRange(content, (FULL + 1_990) * 512, (FULL + 1_991) * 512));
    }
    assertThat(under.sector(FULL + 1)).isEqualTo(Arrays.copyOf(b, 512));
  }

  /** The reader process that ends says nothing of a sector: none is called bad for it. */
  @Test
  void aReaderProcessThatEndedIsNoBadSector() throws Exception {
    Path other = folder.resolve("t");
    String file = folder.resolve("file").toString();
    Files.writeString(folder.resolve("file"), "x".repeat(512 * 40));
    process =
        Child.start(
            Shed.class, folder.resolve("log"), "reader", "--socket", other.toString(), file);
    AskedNodes nodes = new AskedNodes(other);
    while (!Files.exists(other) || catchThrowable(nodes::all) != null) Thread.sleep(20);
    try (Medium m = nodes.openOriginal(file, "")) {
      assertThat(m.sector(39)).isEqualTo("x".repeat(512).getBytes(StandardCharsets.UTF_8));
      assertThatThrownBy(() -> nodes.openWritable(file, "", "")).hasMessageContaining("is a file");
      process.destroyForcibly().waitFor();
      Throwable t = catchThrowable(() -> m.sector(1));
      assertThat(t)
          .isInstanceOf(MediumException.class)
          .isNotInstanceOf(UnreadableException.class)
          .hasMessageContaining("./shed reader");
    }
    assertThatThrownBy(() -> nodes.now(file)).hasMessageContaining("cannot be used");
    // What the killed one left is swept by the next; one that runs is left alone.
    new ReaderProcess(own, other, System.getProperty("user.name")).close();
    assertThatThrownBy(() -> new ReaderProcess(own, socket, "root"))
        .hasMessageContaining("runs already");
    Files.delete(folder.resolve("file"));
    Files.delete(folder.resolve("log"));
  }

  @Test
  void whereNoneRunsThereIsNothingPluggedIn() {
    AskedNodes none = new AskedNodes(folder.resolve("none"));
    assertThat(none.all()).isEmpty();
    assertThatThrownBy(() -> none.open(CARD, "")).hasMessageContaining("no reader process runs");
    assertThatThrownBy(() -> new ReaderProcess(own, Path.of("/proc/none/s"), "root"))
        .hasMessageContaining("SHED_READER");
  }

  @Test
  void onlyItsUserMayKnockAndLinesAreBounded() throws IOException {
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(socket)))
        .isEqualTo("rw-------");
    List<Medium> open = new ArrayList<>();
    Throwable t = null;
    for (int i = 0; i < 40 && t == null; i++) {
      t = catchThrowable(() -> open.add(asked.open(CARD, "")));
    }
    assertThat(open).hasSize(16);
    assertThat(t).hasMessageContaining("lines to the reader process are taken");
    open.forEach(Medium::close);
  }

  /** Whatever is sent instead of questions: nothing is written, and it serves the next one. */
  @Test
  void nonsenseOnTheLineWritesNothingAndEndsOnlyItsOwnLine() throws Exception {
    Random random = new Random(4);
    for (int round = 0; round < 300; round++) {
      try (SocketChannel c = SocketChannel.open(UnixDomainSocketAddress.of(socket))) {
        if (round % 3 == 0)
          send(
              c,
              Wire.Ask.OPEN_WRITABLE,
              "{\"node\":\"/dev/card\",\"identity\":\"\",\"insertion\":\"boot 7\"}"
                  .getBytes(StandardCharsets.UTF_8));
        byte[] b = new byte[random.nextInt(200)];
        random.nextBytes(b);
        switch (random.nextInt(3)) {
          case 0 -> send(c, Wire.Ask.values()[random.nextInt(5)], b);
          // Longer than what follows: a write that does not come whole is none.
          case 1 ->
              c.write(
                  ByteBuffer.allocate(17 + 512)
                      .putInt(100_000)
                      .put((byte) 5)
                      .putLong(3)
                      .putInt(100)
                      .rewind());
          default -> c.write(ByteBuffer.wrap(b));
        }
      } catch (IOException e) {
        // It hung up first.
      }
    }
    assertThat(asked.now(CARD)).isEqualTo(own.now(CARD));
    assertThat(under.sectors(0, SECTORS)).isEqualTo(content);
  }

  private static void send(SocketChannel c, Wire.Ask ask, byte[] body) throws IOException {
    ByteBuffer b = ByteBuffer.allocate(5 + body.length);
    c.write(b.putInt(1 + body.length).put((byte) ask.ordinal()).put(body).flip());
  }
}
