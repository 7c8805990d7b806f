package lanternshed.server.archive;

import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import lanternshed.core.measure.Sha256;
import lanternshed.core.work.Progress;
import lanternshed.core.work.StoppedException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class BagReaderTest {
  private static final byte[] ZEROS = new byte[16 << 20];
  private static final int CENTRAL = 46;
  private static final int END = 22;

  @TempDir private Path home;

  private Path bag(int named) throws Exception {
    Path out = home.resolve("bag" + named + ".zip");
    String line = Sha256.of(ZEROS) + "  data/zeros\n";
    try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(out))) {
      entry(zip, "bagit.txt", "BagIt-Version: 1.0\n".getBytes(StandardCharsets.US_ASCII));
      entry(zip, "data/zeros", ZEROS);
      entry(zip, BagReader.MANIFEST, line.repeat(named).getBytes(StandardCharsets.US_ASCII));
    }
    return out;
  }

  private static void entry(ZipOutputStream zip, String name, byte[] b) throws Exception {
    zip.putNextEntry(new ZipEntry(name));
    zip.write(b);
  }

  @Test
  void whoStopsTheWorkIsHeardWithinAnEntry() throws Exception {
    try (BagReader bag = new BagReader(bag(1), Progress.NONE)) {
      bag.read("zeros", ZEROS.length, in -> {});
    }
    Progress stops =
        (phase, done, total) -> {
          throw new StoppedException("stopped");
        };
    try (BagReader bag = new BagReader(bag(1), stops)) {
      assertThatThrownBy(() -> bag.read("zeros", ZEROS.length, in -> {}))
          .isInstanceOf(StoppedException.class);
    }
  }

  @Test
  void aFileThatItsListNamesTwiceIsRefused() throws Exception {
    Path twice = bag(2);
    assertThatThrownBy(() -> new BagReader(twice, Progress.NONE))
        .hasMessageContaining("zeros is named twice");
  }

  /** A few kilobytes that many entries name as theirs come to any size. */
  @Test
  void entriesThatLieUponEachOtherAreRefused() throws Exception {
    byte[] b = Files.readAllBytes(bag(1));
    ByteBuffer in = ByteBuffer.wrap(b).order(ByteOrder.LITTLE_ENDIAN);
    int directory = in.getInt(b.length - END + 16);
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    out.write(b, 0, b.length - END);
    int added = 0;
    for (int at = directory; at < b.length - END; ) {
      int name = in.getShort(at + 28);
      int length = CENTRAL + name + in.getShort(at + 30) + in.getShort(at + 32);
      String is = new String(b, at + CENTRAL, name, StandardCharsets.US_ASCII);
      for (int i = 0; is.equals("data/zeros") && i < 300; i++, added++) out.write(b, at, length);
      at += length;
    }
    ByteBuffer end = ByteBuffer.wrap(b, b.length - END, END).slice().order(ByteOrder.LITTLE_ENDIAN);
    byte[] tail = new byte[END];
    end.get(tail);
    ByteBuffer t = ByteBuffer.wrap(tail).order(ByteOrder.LITTLE_ENDIAN);
    short entries = (short) (3 + added);
    t.putShort(8, entries).putShort(10, entries).putInt(12, out.size() - directory);
    out.write(tail);
    Path many = Files.write(home.resolve("many.zip"), out.toByteArray());
    assertThatThrownBy(() -> new BagReader(many, Progress.NONE))
        .hasMessageContaining("lie upon each other");
  }
}
