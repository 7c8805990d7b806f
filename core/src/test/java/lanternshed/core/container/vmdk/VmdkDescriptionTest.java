package lanternshed.core.container.vmdk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Random;
import lanternshed.core.Tool;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.container.Container;
import lanternshed.core.container.Unpacked;
import lanternshed.core.measure.ShedException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class VmdkDescriptionTest {
  @TempDir Path folder;

  private static InputStream stream(String extents) {
    String text = "# Disk DescriptorFile\nversion=1\nparentCID=ffffffff\n" + extents + "\n";
    return new ByteArrayInputStream(text.getBytes(StandardCharsets.ISO_8859_1));
  }

  private static String refused(InputStream in) {
    Throwable[] thrown = new Throwable[1];
    assertThatThrownBy(() -> Catalogue.UNPACKER.open(in).close())
        .isInstanceOf(ShedException.class)
        .satisfies(e -> thrown[0] = e);
    return thrown[0].getMessage();
  }

  /** As a general tool makes them. */
  @ParameterizedTest
  @CsvSource({
    "monolithicFlat, 8M, Bring in that file instead",
    "twoGbMaxExtentFlat, 8M, Bring in that file instead",
    "twoGbMaxExtentFlat, 5G, lie one behind the other in 3 files",
    "twoGbMaxExtentSparse, 5G, spread over 3 files"
  })
  void whereTheSectorsAreIsSaid(String form, String size, String said) throws IOException {
    Path made = folder.resolve("drive.vmdk");
    Tool.run("qemu-img create -q -f vmdk -o subformat=" + form + " " + made + " " + size);
    assertThat(refused(Files.newInputStream(made))).contains(said).contains("\"drive-");
    Optional<Container.Beside> beside;
    try (InputStream in = Files.newInputStream(made)) {
      beside = new VmdkDescription().describes(in);
    }
    assertThat(beside.isPresent()).isEqualTo(said.startsWith("Bring"));
    beside.ifPresent(
        b -> assertThat(folder.resolve(b.name())).hasSize(8 << 20).hasSize(b.sectors() * 512));
  }

  @Test
  void theFlatFileIsTheDriveThatTheToolReads() throws IOException {
    Path raw = folder.resolve("raw.img");
    byte[] b = new byte[3 << 20];
    new Random(9).nextBytes(b);
    Files.write(raw, b);
    Path made = folder.resolve("flat.vmdk");
    Tool.run("qemu-img convert -f raw -O vmdk -o subformat=monolithicFlat " + raw + " " + made);
    try (InputStream in = Files.newInputStream(made);
        Unpacked o =
            Catalogue.UNPACKER.open(
                Files.newInputStream(
                    folder.resolve(new VmdkDescription().describes(in).orElseThrow().name())))) {
      assertThat(o.stream().readAllBytes()).isEqualTo(b);
    }
  }

  /** What a description names is a plain name beside it, or it is not followed. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "RW 2048 FLAT \"/etc/shadow\" 0",
        "RW 2048 FLAT \"../outer-flat.vmdk\" 0",
        "RW 2048 FLAT \"..\" 0",
        "RW 2048 FLAT \"C:\\disks\\a-flat.vmdk\" 0",
        "RW 2048 FLAT \"a-flat.vmdk\" 2048",
        "RW 2048 FLAT \"a-flat.vmdk\" 0\nRW 2048 FLAT \"b-flat.vmdk\" 0",
        "RW 2048 SPARSE \"a-s001.vmdk\"",
        "RW 2048 ZERO",
        "RW 2048 FLAT",
        ""
      })
  void nothingElseIsFollowed(String extents) throws IOException {
    assertThat(new VmdkDescription().describes(stream(extents))).isEmpty();
    assertThat(refused(stream(extents))).startsWith("This file only describes a VMDK drive");
  }

  @Test
  void whatDiffersFromAParentIsNotReadAlone() {
    InputStream in =
        new ByteArrayInputStream(
            "# Disk DescriptorFile\nparentCID=12345678\nRW 9 FLAT \"a-flat.vmdk\" 0\n"
                .getBytes(StandardCharsets.ISO_8859_1));
    assertThat(refused(in)).contains("differs from a parent");
  }
}
