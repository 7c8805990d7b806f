package lanternshed.core.container;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.Trials;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.survey.Surveyor;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Disk images that a general tool made, against the drive that went into them. */
@Tag("trial")
class DiskImageTest {
  @TempDir static Path home;
  private static final Geometry G = new Geometry(200, 16, 63);
  private static Path raw;

  @BeforeAll
  static void drive() {
    raw = home.resolve("raw.img");
    MemoryMedium m = Samples.drive(G);
    try (FileMedium f = FileMedium.create(raw, m.sectors())) {
      for (long s = 0; s < m.sectors(); s += 1008) f.write(s, 1008, m.sectors(s, 1008), 0);
      byte[] b = new byte[1008 * 512];
      new Random(4).nextBytes(b);
      f.write(1008 * 150, 1008, b, 0);
    }
  }

  private static Path made(String options) {
    Path p = home.resolve("made" + Math.abs(options.hashCode()));
    Tool.run("rm -f " + p + "; qemu-img convert -f raw " + options + " " + raw + " " + p);
    return p;
  }

  @ParameterizedTest
  @CsvSource({
    "-O qcow2",
    "-c -O qcow2",
    "-O qcow2 -o compat=v2",
    "-O qcow2 -o cluster_size=512",
    "-O qcow2 -o cluster_size=2M",
    "-O vdi",
    "-O vdi -o static=on",
    "-O vpc -o force_size=on",
    "-O vmdk",
    "-O vmdk -o subformat=streamOptimized",
    "-O vhdx",
    "-O vhdx -o block_size=1M"
  })
  void whatAGeneralToolMadeIsTheSameDrive(String options) throws IOException {
    Path p = made(options);
    try (FileMedium file = FileMedium.open(p);
        FileMedium original = FileMedium.open(raw)) {
      Medium drive = Catalogue.drive(file).orElseThrow();
      assertThat(drive.sectors()).isGreaterThanOrEqualTo(original.sectors());
      for (long s = 0; s < original.sectors(); s += 700) {
        int n = (int) Math.min(700, original.sectors() - s);
        assertThat(drive.sectors(s, n)).as("sector " + s).isEqualTo(original.sectors(s, n));
      }
      assertThat(Surveyor.survey(drive).volumes().get(0).files()).isEqualTo(62);
    }
  }

  @Test
  void whatDependsOnAnotherFileIsRefusedInWords() {
    Path base = made("-O qcow2");
    Path over = home.resolve("over.qcow2");
    Tool.run("qemu-img create -q -f qcow2 -b " + base + " -F qcow2 " + over);
    refused(over, "it builds on another file");
    Path locked = home.resolve("locked.qcow2");
    Tool.run(
        "qemu-img create -q -f qcow2 --object secret,id=s,data=abc -o"
            + " encrypt.format=luks,encrypt.key-secret=s,encrypt.iter-time=10 "
            + locked
            + " 1M");
    refused(locked, "is encrypted");
    Path vmdk = made("-O vmdk");
    Path child = home.resolve("child.vmdk");
    Tool.run("qemu-img create -q -f vmdk -b " + vmdk + " -F vmdk " + child);
    refused(child, "differs from a parent");
  }

  private static void refused(Path p, String why) {
    try (FileMedium file = FileMedium.open(p)) {
      assertThatThrownBy(() -> Catalogue.drive(file))
          .isInstanceOf(ShedException.class)
          .hasMessageContaining(why);
    }
  }

  @Test
  void aRawImageIsNone() {
    try (FileMedium file = FileMedium.open(raw)) {
      assertThat(Catalogue.drive(file)).isEmpty();
    }
  }

  /** Headers and tables with wrong bytes, and files that were cut: a drive or a sentence. */
  @Test
  void damageIsASentence() throws IOException {
    for (String options : new String[] {"-O qcow2", "-O vdi", "-O vpc", "-O vmdk", "-O vhdx"}) {
      byte[] whole = Files.readAllBytes(made(options));
      for (int turn = 0; turn < Trials.turns(20, 600); turn++) {
        Random dice = new Random(turn);
        Path p = home.resolve("damaged");
        Files.write(p, whole);
        try (RandomAccessFile f = new RandomAccessFile(p.toFile(), "rw")) {
          for (int k = 0; k < 4; k++) {
            int place = turn % 2 == 0 ? dice.nextInt(2048) : dice.nextInt(400_000);
            f.seek(Math.min(place, whole.length - 1));
            f.write(dice.nextInt(256));
          }
          if (turn % 5 == 0) f.setLength(dice.nextInt(whole.length));
        }
        try (FileMedium file = FileMedium.open(p)) {
          Medium drive = Catalogue.drive(file).orElse(file);
          for (long s = 0; s < Math.min(drive.sectors(), 400_000); s += 997) drive.sector(s);
        } catch (ShedException e) {
          assertThat(e.getMessage()).endsWith(".");
        }
      }
    }
  }
}
