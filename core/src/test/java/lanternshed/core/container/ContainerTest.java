package lanternshed.core.container;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.MemoryMedium;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

class ContainerTest {
  private static final Geometry G = new Geometry(20, 16, 63);
  @TempDir Path folder;

  private static byte[] packed(Container c) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    c.write(Samples.drive(G), G.total() * 512, "loom", new byte[16], out);
    return out.toByteArray();
  }

  private static byte[] raw() throws IOException {
    return packed(Container.RAW);
  }

  @ParameterizedTest
  @EnumSource(names = "LZMA", mode = EnumSource.Mode.EXCLUDE)
  void whatWasWrittenComesBackAndIsToldByItsContent(Container c) throws IOException {
    byte[] b = packed(c);
    try (Container.Opened o = Container.open(new ByteArrayInputStream(b))) {
      byte[] got = o.stream().readAllBytes();
      o.end();
      if (c == Container.VHD) {
        byte[] last = java.util.Arrays.copyOfRange(got, got.length - 512, got.length);
        assertThat(Container.sectorsBeforeFooter(last, got.length)).contains(G.total());
        got = java.util.Arrays.copyOf(got, got.length - 512);
      } else {
        assertThat(o.kind()).isEqualTo(c);
      }
      assertThat(got).isEqualTo(raw());
    }
  }

  @ParameterizedTest
  @CsvSource({"GZ, gzip -dc", "XZ, xz -dc"})
  void generalToolsReadThem(Container c, String tool) throws IOException {
    Path p = Files.write(folder.resolve("x"), packed(c));
    assertThat(Tool.run(tool + " " + p + " | sha256sum")).startsWith(Tool.sha256(raw()));
  }

  @Test
  void whatGeneralToolsPackedIsRead() throws IOException {
    Path p = Files.write(folder.resolve("drive.img"), raw());
    for (String tool : new String[] {"gzip -k", "xz -k -9"}) {
      Tool.run(tool + " " + p);
      Path made = folder.resolve("drive.img." + (tool.startsWith("gzip") ? "gz" : "xz"));
      try (Container.Opened o = Container.open(Files.newInputStream(made))) {
        assertThat(Tool.sha256(o.stream().readAllBytes())).isEqualTo(Tool.sha256(raw()));
      }
    }
  }

  @Test
  void aZipWithTwoImagesAnArchiveAndNonsenseAreRefusedInWords() throws IOException {
    ByteArrayOutputStream two = new ByteArrayOutputStream();
    try (ZipOutputStream z = new ZipOutputStream(two)) {
      for (String n : new String[] {"a.img", "../b.img"}) {
        z.putNextEntry(new ZipEntry(n));
        z.write(new byte[600]);
        z.closeEntry();
      }
    }
    Container.Opened o = Container.open(new ByteArrayInputStream(two.toByteArray()));
    o.stream().readAllBytes();
    assertThatThrownBy(o::end).hasMessageContaining("more than one file");
    byte[] archive = java.util.HexFormat.of().parseHex("377ABCAF271C000400000000");
    assertThatThrownBy(() -> Container.open(new ByteArrayInputStream(archive)))
        .hasMessageContaining("7z archive, which is not read here");
    assertThatThrownBy(() -> Container.of("rar"))
        .hasMessageContaining("gz, bz2, zip, xz, vhd or atr");
    byte[] footer = Vhd.footer(100, new byte[16]);
    footer[70]++;
    assertThat(Container.sectorsBeforeFooter(footer, 101 * 512)).as("a wrong sum").isEmpty();
    assertThat(Container.sectorsBeforeFooter(Vhd.footer(100, new byte[16]), 99 * 512)).isEmpty();
  }

  @ParameterizedTest
  @EnumSource(names = {"GZ", "XZ", "ZIP"})
  void whatIsDamagedOrCutOffIsSaidAndASourceThatFailsIsNotBlamed(Container c) throws IOException {
    byte[] whole = packed(c);
    byte[] cut = Arrays.copyOf(whole, whole.length / 2);
    assertThatThrownBy(() -> unpacked(new ByteArrayInputStream(cut)))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("cut off");
    byte[] damaged = whole.clone();
    for (int i = 0; i < 40; i++) damaged[whole.length / 2 + i] ^= 0x5A;
    assertThatThrownBy(() -> unpacked(new ByteArrayInputStream(damaged)))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("damaged");
    InputStream fails =
        new SequenceInputStream(
            new ByteArrayInputStream(cut),
            new InputStream() {
              @Override
              public int read() throws IOException {
                throw new IOException("the line is gone");
              }
            });
    assertThatThrownBy(() -> unpacked(fails)).hasMessage("the line is gone");
  }

  private static byte[] unpacked(InputStream in) throws IOException {
    try (Container.Opened o = Container.open(in)) {
      byte[] all = o.stream().readAllBytes();
      o.end();
      return all;
    }
  }

  @ParameterizedTest
  @CsvSource({
    "65535, 963, 4, 17",
    "1032192, 1024, 16, 63",
    "16514064, 16383, 16, 63",
    "66059280, 16191, 16, 255"
  })
  void theGeometryIsTheSpecifications(long sectors, int c, int h, int s) {
    assertThat(Vhd.geometry(sectors)).containsExactly(c, h, s);
  }

  @Test
  void manyZerosTakeNoRoomPacked() throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    Container.XZ.write(new MemoryMedium(200_000), 200_000L * 512, "zeros", new byte[16], out);
    assertThat(out.size()).isLessThan(100_000);
  }

  @Test
  void whatIsPackedTwiceIsUnpackedTwiceAndLzmaToo() throws IOException {
    Path raw = folder.resolve("twice.img");
    byte[] image = Samples.content(7, 300_000);
    Files.write(raw, image);
    Tool.run("cd " + folder + " && gzip -k twice.img && bzip2 -k twice.img.gz && xz -k twice.img");
    Tool.run("cd " + folder + " && xz --format=lzma -k -c twice.img > twice.lzma");
    for (String name : new String[] {"twice.img.gz.bz2", "twice.lzma", "twice.img.xz"}) {
      try (Container.Opened o = Container.open(Files.newInputStream(folder.resolve(name)))) {
        assertThat(o.stream().readAllBytes()).as(name).isEqualTo(image);
        o.end();
      }
    }
    java.io.ByteArrayOutputStream zip = new java.io.ByteArrayOutputStream();
    try (java.util.zip.ZipOutputStream z = new java.util.zip.ZipOutputStream(zip)) {
      z.putNextEntry(new java.util.zip.ZipEntry("twice.img.gz"));
      z.write(Files.readAllBytes(folder.resolve("twice.img.gz")));
    }
    try (Container.Opened o = Container.open(new ByteArrayInputStream(zip.toByteArray()))) {
      assertThat(o.stream().readAllBytes()).isEqualTo(image);
      o.end();
    }
    // Three times is nobody's way to send an image: what is inside stays packed.
    Tool.run("cd " + folder + " && gzip -k twice.img.gz.bz2");
    try (Container.Opened o =
        Container.open(Files.newInputStream(folder.resolve("twice.img.gz.bz2.gz")))) {
      assertThat(o.stream().readAllBytes())
          .isEqualTo(Files.readAllBytes(folder.resolve("twice.img.gz")));
    }
    assertThatThrownBy(() -> Container.of("lzma")).hasMessageContaining("not as");
  }

  @Test
  void aFooterOf511BytesIsOneAndAWrongOneIsTold() {
    byte[] footer = Vhd.footer(100, new byte[16]);
    byte[] early = java.util.Arrays.copyOf(footer, 511);
    assertThat(Container.sectorsBeforeFooter(early, 100 * 512 + 511)).contains(100L);
    footer[100] ^= 1;
    assertThat(Container.sectorsBeforeFooter(footer, 101 * 512)).isEmpty();
    lanternshed.core.medium.MemoryMedium m = new lanternshed.core.medium.MemoryMedium(101);
    m.write(100, 1, footer, 0);
    assertThat(lanternshed.core.survey.Surveyor.survey(m).findings())
        .anyMatch(f -> f.what().contains("the footer of a VHD whose sum or length is not right"));
  }
}
