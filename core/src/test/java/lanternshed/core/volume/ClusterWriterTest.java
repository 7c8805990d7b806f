package lanternshed.core.volume;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.SliceMedium;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A long file goes down by the kernel where both sides are files, and says how far it is. */
class ClusterWriterTest {
  private static final int CLUSTER = 4096;
  private static final int LONG = (40 << 20) + 1536;

  @TempDir private Path folder;
  private final byte[] content = new byte[LONG];
  private final List<Long> told = new ArrayList<>();
  private Path file;
  private int read;

  @BeforeEach
  void content() throws Exception {
    new Random(3).nextBytes(content);
    file = Files.write(folder.resolve("long.img"), content);
  }

  private FileSet.Item item(long bytes) {
    FileSet set = new FileSet();
    set.file(
        "LONG.IMG",
        bytes,
        0,
        0,
        new FileSet.Source() {
          @Override
          public void copyTo(Sink sink) {
            read++;
            for (int at = 0; at < LONG; at += 1 << 19) {
              sink.take(content, at, Math.min(1 << 19, LONG - at));
            }
          }

          @Override
          public Optional<FileMedium> file() {
            return Optional.of(FileMedium.open(file));
          }
        });
    return set.items().get(0);
  }

  private void write(Medium to, long bytes) {
    try (ClusterWriter out = new ClusterWriter(to, 8, CLUSTER)) {
      out.whole(new byte[] {1, 2, 3});
      out.file(item(bytes), (path, n) -> told.add(n));
      out.whole(new byte[] {4, 5, 6});
      out.finish();
    }
  }

  private void laidDown(Medium m) {
    int at = 8 + CLUSTER / 512;
    assertThat(m.sector(8)).startsWith(1, 2, 3, 0);
    assertThat(m.sectors(at, LONG / 512)).isEqualTo(content);
    assertThat(m.sectors(at + LONG / 512, 5)).as("no trace in the slack").containsOnly(0);
    assertThat(m.sector(at + LONG / 512 + 5)).startsWith(4, 5, 6, 0);
    assertThat(told).hasSizeGreaterThan(2);
    assertThat(told.stream().mapToLong(Long::longValue).sum()).isEqualTo(LONG);
  }

  @Test
  void fromFileToFileNothingIsRead() {
    try (FileMedium m = FileMedium.create(folder.resolve("card.img"), 100_000)) {
      write(new SliceMedium(m, 100, 99_000), LONG);
      assertThat(read).isZero();
      laidDown(new SliceMedium(m, 100, 99_000));
    }
  }

  @Test
  void whatIsNoFileIsReadAndSaysHowFarItIsAllTheSame() {
    MemoryMedium m = new MemoryMedium(100_000);
    write(m, LONG);
    assertThat(read).isEqualTo(1);
    laidDown(m);
  }

  @Test
  void anotherLengthThanAnnouncedIsRefusedEitherWay() {
    try (FileMedium m = FileMedium.create(folder.resolve("card.img"), 100_000)) {
      assertThatThrownBy(() -> write(m, LONG - 512))
          .isInstanceOf(VolumeException.class)
          .hasMessageContaining("LONG.IMG was announced with");
    }
  }

  /** A file that became shorter than it was when it was opened is said, not filled up. */
  @Test
  void aFileThatIsCutMeanwhileIsSaid() throws Exception {
    try (FileMedium source = FileMedium.open(file);
        FileMedium m = FileMedium.create(folder.resolve("card.img"), 100_000)) {
      Files.write(file, new byte[1 << 20]);
      assertThatThrownBy(() -> m.take(source, 0, LONG / 512, 0)).hasMessageContaining("shorter");
    }
  }
}
