package lanternshed.core.medium;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Reads and writes past the cache, at any place and of any length. */
class NodeMediumTest {
  /** Not a whole number of blocks, so that a tail is left over. */
  private static final int SECTORS = 5003;

  private Path file;
  private byte[] bytes;

  @BeforeEach
  void aFile() throws IOException {
    // The folder of the build: what lies in memory only has no way past the cache.
    file = Files.createTempFile(Path.of("target"), "node", ".img");
    bytes = new byte[SECTORS * 512];
    new Random(1).nextBytes(bytes);
    Files.write(file, bytes);
    try {
      NodeMedium.open(file, true, () -> {}).close();
    } catch (MediumException e) {
      Assumptions.abort("This file system has no way past its cache: " + e.getMessage());
    }
  }

  @AfterEach
  void away() throws IOException {
    Files.deleteIfExists(file);
  }

  @Test
  void whatIsWrittenAnywhereReadsBackAndNothingElseChanges() throws IOException {
    Random random = new Random(2);
    try (NodeMedium m = NodeMedium.open(file, true, () -> {})) {
      assertThat(m.sectors()).isEqualTo(SECTORS);
      for (int i = 0; i < 200; i++) {
        int lba = i % 10 == 0 ? SECTORS - 1 - random.nextInt(9) : random.nextInt(SECTORS);
        int n = 1 + random.nextInt(Math.min(SECTORS - lba, i % 7 == 0 ? 4000 : 40));
        byte[] b = new byte[n * 512];
        random.nextBytes(b);
        m.write(lba, n, b, 0);
        System.arraycopy(b, 0, bytes, lba * 512, b.length);
        int from = random.nextInt(SECTORS);
        int many = 1 + random.nextInt(Math.min(60, SECTORS - from));
        assertThat(m.sectors(from, many))
            .isEqualTo(Arrays.copyOfRange(bytes, from * 512, (from + many) * 512));
      }
      m.flush();
      assertThat(m.sectors(0, SECTORS)).isEqualTo(bytes);
    }
    assertThat(Files.readAllBytes(file)).isEqualTo(bytes);
  }

  @Test
  void outsideNothingIsReadOrWritten() {
    try (NodeMedium m = NodeMedium.open(file, true, () -> {})) {
      byte[] b = new byte[1024];
      assertThatThrownBy(() -> m.read(SECTORS - 1, 2, b, 0)).isInstanceOf(MediumException.class);
      assertThatThrownBy(() -> m.write(SECTORS, 1, b, 0)).isInstanceOf(MediumException.class);
    }
  }

  /** Mounted meanwhile, or taken out: the write ends at once. */
  @Test
  void theGuardIsAskedWhileItIsWritten() {
    boolean[] mounted = {false};
    Runnable guard =
        () -> {
          if (mounted[0]) throw new MediumException("It is mounted.");
        };
    try (NodeMedium m = NodeMedium.open(file, true, guard)) {
      m.write(0, SECTORS, bytes, 0);
      mounted[0] = true;
      assertThatThrownBy(() -> m.write(0, 1, bytes, 0)).hasMessage("It is mounted.");
    }
  }

  @Test
  void forReadingOnlyNothingIsWritten() {
    try (NodeMedium m = NodeMedium.open(file, false, () -> {})) {
      assertThatThrownBy(() -> m.write(0, 1, new byte[512], 0))
          .isInstanceOf(RuntimeException.class);
      assertThat(m.sector(0)).isEqualTo(Arrays.copyOf(bytes, 512));
    }
  }

  /** W-3: as long as it is written no other program comes to it, and it comes to none of theirs. */
  @Test
  void aDeviceThatIsWrittenIsHeldAlone() throws Exception {
    String node = deviceOf(file);
    try {
      String makes = "mkfs.fat " + node;
      try (NodeMedium m = NodeMedium.open(Path.of(node), true, () -> {})) {
        assertThat(said(makes)).contains("busy");
        assertThatThrownBy(() -> NodeMedium.open(Path.of(node), true, () -> {}))
            .isInstanceOf(MediumException.class)
            .hasMessageContaining("is held already");
        NodeMedium.open(Path.of(node), false, () -> {}).close();
        m.write(7, 1, new byte[512], 0);
        assertThat(m.sectors(7, 1)).isEqualTo(new byte[512]);
      }
      assertThat(said(makes)).doesNotContain("busy");
      closedTwice(Path.of(node));
      assertThatThrownBy(() -> NodeMedium.open(Path.of(node + "-none"), true, () -> {}))
          .isInstanceOf(MediumException.class)
          .hasMessageContaining("cannot be held alone");
    } finally {
      said("losetup -d " + node);
    }
  }

  /** The second time nothing is closed that another opened meanwhile. */
  private static void closedTwice(Path node) throws IOException {
    NodeMedium m = NodeMedium.open(node, true, () -> {});
    m.close();
    try (FileMedium other = FileMedium.open(node);
        NodeMedium next = NodeMedium.open(node, true, () -> {})) {
      m.close();
      assertThat(said("mkfs.fat " + node)).contains("busy");
      assertThat(other.sector(0)).isEqualTo(next.sector(0));
    }
  }

  private static String deviceOf(Path file) throws IOException {
    String node = "";
    try {
      node = said("losetup -f --show " + file);
    } catch (IOException e) {
      Assumptions.abort("losetup is not here: " + e.getMessage());
    }
    Assumptions.assumeTrue(node.matches("/dev/loop\\d+"), node);
    return node;
  }

  private static String said(String command) throws IOException {
    Process p = new ProcessBuilder(command.split(" ")).redirectErrorStream(true).start();
    return new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip();
  }
}
