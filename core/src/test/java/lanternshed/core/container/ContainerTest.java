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
import java.util.List;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Damage;
import lanternshed.core.medium.FailingDrive;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.Pace;
import lanternshed.core.medium.UnreadableException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

class ContainerTest {
  private static final Geometry G = new Geometry(20, 16, 63);
  @TempDir Path folder;

  private static byte[] packed(String key) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    Catalogue.packer(key).pack(parcel(Samples.drive(G)), out);
    return out.toByteArray();
  }

  private static Packer.Parcel parcel(Medium m) {
    return new Packer.Parcel(m, m.bytes(), "loom", new byte[16]);
  }

  private static byte[] raw() throws IOException {
    return packed("raw");
  }

  private static Stream<String> packers() {
    return Catalogue.CONTAINERS.stream().filter(c -> c.packer().isPresent()).map(Container::key);
  }

  @ParameterizedTest
  @MethodSource("packers")
  void whatWasWrittenComesBackAndIsToldByItsContent(String c) throws IOException {
    byte[] b = packed(c);
    try (Unpacked o = Catalogue.UNPACKER.open(new ByteArrayInputStream(b))) {
      byte[] got = o.stream().readAllBytes();
      o.end();
      if (c.equals("vhd")) {
        byte[] last = java.util.Arrays.copyOfRange(got, got.length - 512, got.length);
        assertThat(Catalogue.sectorsBeforeEnd(last, got.length)).contains(G.total());
        got = java.util.Arrays.copyOf(got, (int) G.total() * 512);
      } else {
        assertThat(o.form().key()).isEqualTo(c);
      }
      assertThat(got).isEqualTo(raw());
    }
  }

  /**
   * Whoever counts a VHD by its cylinders reads all of it, also where they do not come out even.
   */
  @ParameterizedTest
  @ValueSource(longs = {68, 1440, 124_992, 1_032_192, 1_032_193})
  void aVhdIsReadToItsLastSectorByGeneralTools(long sectors) throws IOException {
    MemoryMedium m = new MemoryMedium(sectors);
    byte[] last = "the last sector".getBytes(java.nio.charset.StandardCharsets.US_ASCII);
    m.write(sectors - 1, 1, Arrays.copyOf(last, 512), 0);
    Path p = folder.resolve("drive.vhd");
    try (var to = Files.newOutputStream(p)) {
      Catalogue.packer("vhd").pack(new Packer.Parcel(m, m.bytes(), "drive", new byte[16]), to);
    }
    Tool.run("qemu-img convert -f vpc -O raw " + p + " " + folder.resolve("raw"));
    try (FileMedium raw = FileMedium.open(folder.resolve("raw"));
        FileMedium own = FileMedium.open(p)) {
      assertThat(raw.sector(sectors - 1)).startsWith(last);
      byte[] footer = own.sector(own.sectors() - 1);
      assertThat(Catalogue.sectorsBeforeEnd(footer, own.bytes())).contains(sectors);
    }
  }

  @Test
  void growingFormsOfOthersAreNamedAndNotTakenForTheDriveItself() {
    for (String begin :
        List.of("QED\0", "WithoutFreeSpace", "WithouFreSpacExt", "EVF\t\r\n\u00FF\0")) {
      byte[] b = Arrays.copyOf(begin.getBytes(java.nio.charset.StandardCharsets.ISO_8859_1), 4096);
      assertThatThrownBy(() -> Catalogue.UNPACKER.open(new ByteArrayInputStream(b)))
          .hasMessageContaining("which is not read here");
    }
  }

  @ParameterizedTest
  @CsvSource({"gz, gzip -dc", "xz, xz -dc", "bz2, bzip2 -dc"})
  void generalToolsReadThem(String c, String tool) throws IOException {
    Path p = Files.write(folder.resolve("x"), packed(c));
    assertThat(Tool.run(tool + " " + p + " | sha256sum")).startsWith(Tool.sha256(raw()));
  }

  @Test
  void whatGeneralToolsPackedIsRead() throws IOException {
    Path p = Files.write(folder.resolve("drive.img"), raw());
    for (String tool : new String[] {"gzip -k", "xz -k -9"}) {
      Tool.run(tool + " " + p);
      Path made = folder.resolve("drive.img." + (tool.startsWith("gzip") ? "gz" : "xz"));
      try (Unpacked o = Catalogue.UNPACKER.open(Files.newInputStream(made))) {
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
    Unpacked o = Catalogue.UNPACKER.open(new ByteArrayInputStream(two.toByteArray()));
    o.stream().readAllBytes();
    assertThatThrownBy(o::end).hasMessageContaining("more than one file");
    byte[] archive = java.util.HexFormat.of().parseHex("377ABCAF271C000400000000");
    assertThatThrownBy(() -> Catalogue.UNPACKER.open(new ByteArrayInputStream(archive)))
        .hasMessageContaining("7z archive, which is not read here");
    assertThatThrownBy(() -> Catalogue.packer("rar"))
        .hasMessageContaining("gz, zip, xz, bz2, vhd, atr, raw; not as \"rar\"");
  }

  @ParameterizedTest
  @ValueSource(strings = {"gz", "xz", "zip", "bz2"})
  void whatIsDamagedOrCutOffIsSaidAndASourceThatFailsIsNotBlamed(String c) throws IOException {
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

  /** A medium with a hole gives a form without its end, which nobody takes for the whole. */
  @ParameterizedTest
  @ValueSource(strings = {"gz", "xz", "zip", "bz2"})
  void whatDoesNotReadIsNeverPackedAsIfItWereWhole(String c) {
    Damage dead = new Damage(List.of(new Damage.Zone(9_000, 1, Damage.Kind.DEAD, 0)));
    Medium hole = new FailingDrive(Samples.drive(G), dead, Pace.counted());
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    assertThatThrownBy(() -> Catalogue.packer(c).pack(parcel(hole), out))
        .isInstanceOf(UnreadableException.class);
    assertThatThrownBy(() -> unpacked(new ByteArrayInputStream(out.toByteArray())))
        .isInstanceOf(ShedException.class);
  }

  private static byte[] unpacked(InputStream in) throws IOException {
    try (Unpacked o = Catalogue.UNPACKER.open(in)) {
      byte[] all = o.stream().readAllBytes();
      o.end();
      return all;
    }
  }

  @Test
  void manyZerosTakeNoRoomPacked() throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    Catalogue.packer("xz").pack(parcel(new MemoryMedium(200_000)), out);
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
      try (Unpacked o = Catalogue.UNPACKER.open(Files.newInputStream(folder.resolve(name)))) {
        assertThat(o.stream().readAllBytes()).as(name).isEqualTo(image);
        o.end();
      }
    }
    java.io.ByteArrayOutputStream zip = new java.io.ByteArrayOutputStream();
    try (java.util.zip.ZipOutputStream z = new java.util.zip.ZipOutputStream(zip)) {
      z.putNextEntry(new java.util.zip.ZipEntry("twice.img.gz"));
      z.write(Files.readAllBytes(folder.resolve("twice.img.gz")));
    }
    try (Unpacked o = Catalogue.UNPACKER.open(new ByteArrayInputStream(zip.toByteArray()))) {
      assertThat(o.stream().readAllBytes()).isEqualTo(image);
      o.end();
    }
    // Three times is nobody's way to send an image: what is inside stays packed.
    Tool.run("cd " + folder + " && gzip -k twice.img.gz.bz2");
    try (Unpacked o =
        Catalogue.UNPACKER.open(Files.newInputStream(folder.resolve("twice.img.gz.bz2.gz")))) {
      assertThat(o.stream().readAllBytes())
          .isEqualTo(Files.readAllBytes(folder.resolve("twice.img.gz")));
    }
    assertThatThrownBy(() -> Catalogue.packer("lzma")).hasMessageContaining("not as");
  }

  @Test
  void theFormsAreToldOneByOneAndEveryOneHasItsName() {
    assertThat(Catalogue.CONTAINERS).extracting(Container::key).doesNotHaveDuplicates();
    assertThat(Catalogue.UNPACKER.of(new byte[0]).key())
        .as("what begins as nothing")
        .isEqualTo("raw");
    assertThat(Catalogue.UNPACKER.of(new byte[] {0x1F, (byte) 0x8B}).key()).isEqualTo("gz");
    assertThat(Catalogue.UNPACKER.of(new byte[] {0x1F}).key()).isEqualTo("raw");
  }
}
