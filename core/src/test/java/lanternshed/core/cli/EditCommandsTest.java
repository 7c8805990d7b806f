package lanternshed.core.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class EditCommandsTest {
  private static final Geometry G = new Geometry(240, 8, 32);

  @TempDir private Path home;

  @Test
  void theCommandsChangeACopyAndNeverTheImage() throws Exception {
    Path image = home.resolve("disk.img");
    Samples.toFile(Samples.drive(G), image);
    String before = Tool.sha256(Files.readAllBytes(image));
    Path file = Files.writeString(home.resolve("note.txt"), "for the weaver");
    String at = image.toString();
    assertThat(shed("image", "put", at, "" + file, "NOTES/NOTE.TXT", "--to", "" + out(1)))
        .contains("Changed and checked");
    assertThat(shed("image", "mv", "" + out(1), "NOTES", "MEMO", "--to", "" + out(2)))
        .contains("Changed");
    assertThat(
            shed(
                "image", "set", "" + out(2), "MEMO/NOTE.TXT", "--marks", "rh", "--to", "" + out(3)))
        .contains("Changed");
    assertThat(shed("image", "mkdir", "" + out(3), "EMPTY", "--to", "" + out(4)))
        .contains("Changed");
    assertThat(shed("image", "rm", "" + out(4), "SET1", "--to", "" + out(5))).contains("Changed");
    assertThat(shed("image", "rm", "" + out(4), "SET1", "--to", "" + out(5)))
        .contains("exists already");
    assertThat(shed("image", "set", at, "SET1", "--marks", "x", "--to", "" + out(6)))
        .contains("none of r, h, s, a");
    assertThat(Tool.sha256(Files.readAllBytes(image))).isEqualTo(before);
    try (FileMedium m = FileMedium.open(out(5))) {
      List<String> paths = Volumes.find(m, 1).volume().all().stream().map(Node::path).toList();
      assertThat(paths).contains("MEMO/NOTE.TXT", "EMPTY").doesNotContain("SET1");
    }
    try (var all = Files.list(home)) {
      assertThat(all.map(Path::toString)).noneMatch(p -> p.endsWith(".half"));
    }
  }

  /** What does not come into a library as it was brought is told. */
  @Test
  void aLibraryTellsWhatItCannotTakeAsItIs() throws Exception {
    String library = home.resolve("library.img").toString();
    shed("library", "new", "--to", library, "5");
    Path whole = Files.write(home.resolve("whole"), new byte[204_800]);
    Path half = Files.write(home.resolve("half"), new byte[102_400]);
    Path none = Files.write(home.resolve("none"), new byte[0]);
    Path large = Files.write(home.resolve("large"), new byte[299_520]);
    assertThat(shed("library", "put", library, "1", "" + whole, "--to", "" + out(1)))
        .isEqualTo("Changed and compared: 1 disk.\n");
    assertThat(shed("library", "put", library, "0", "" + half, "--to", "" + out(2)))
        .contains("of 204\u202F800 B; zeros stand behind it");
    assertThat(shed("library", "put", library, "0", "" + none, "--to", "" + out(3)))
        .contains("An empty file is no disk")
        .doesNotContain("Changed");
    assertThat(shed("library", "put", library, "0", "" + large, "--to", "" + out(3)))
        .contains("the one that is brought has");
    assertThat(Files.exists(out(3))).isFalse();
    assertThat(shed("library", "title", "" + out(1), "1", "ünï", "--to", "" + out(4)))
        .contains("Its title is “_n_”");
    String title = "x".repeat(300);
    assertThat(
            shed("library", "put", library, "0", "" + whole, "--title", title, "--to", "" + out(5)))
        .contains("Its title is “" + "x".repeat(12) + "”");
  }

  /** A small disk that ends within 512 bytes keeps its length to the byte. */
  @Test
  void aSmallDiskKeepsItsLength() throws Exception {
    int bytes = 683 * 256;
    MemoryMedium m = new MemoryMedium((bytes + 511) / 512);
    FileSet files = new FileSet();
    Samples.file(files, "A.prg", 0x20, Samples.content(1, 700));
    Maker maker = Catalogue.maker("link-and-map");
    Maker.Wish wish =
        Samples.wish("link-and-map", m.sectors(), 0, new Geometry(80, 1, 5), 0, "QUILTS", 0);
    maker.write(maker.layout(wish), files, m, new byte[0], (p, n) -> {});
    Path disk = home.resolve("disk");
    Files.write(disk, Arrays.copyOf(m.sectors(0, (int) m.sectors()), bytes));
    Path file = Files.write(home.resolve("NEW.seq"), new byte[400]);
    assertThat(shed("image", "put", "" + disk, "" + file, "NEW.seq", "--to", "" + out(1)))
        .contains("Changed and checked: 2");
    assertThat(Files.size(out(1))).isEqualTo(bytes);
    assertThat(shed("image", "list", "" + out(1))).contains("A.prg", "NEW.seq");
  }

  private Path out(int n) {
    return home.resolve("out" + n);
  }

  /** Laid down anew, files that a wrong guess tears would be lost; the figures are asked for. */
  @Test
  void aVolumeWhoseLayoutIsAGuessIsChangedOnlyByItsFigures() throws Exception {
    FileSet files = new FileSet();
    Random r = new Random(7);
    byte[][] content = new byte[6][];
    for (int i = 0; i < content.length; i++) {
      byte[] b = content[i] = new byte[3000 + 2000 * i];
      r.nextBytes(b);
      files.file("LOG" + i + ".DAT", b.length, 0, 0, s -> s.take(b, 0, b.length));
    }
    Maker maker = Catalogue.maker("CP/M 2.2");
    MemoryMedium m = new MemoryMedium(1440);
    Maker.Wish wish = new Maker.Wish(Optional.of("CP/M 2.2"), 1440, 0, 2048, 0, G, "", 0, false, 0);
    maker.write(maker.layout(wish), files, m, new byte[0], (p, n) -> {});
    Path image = home.resolve("guess.img");
    Samples.toFile(m, image);
    String to = home.resolve("out.img").toString();
    String said = shed("image", "rm", "" + image, "LOG0.DAT", "--to", to);
    assertThat(said).contains("is a guess", "nothing on it is changed");
    assertThat(Path.of(to)).doesNotExist();
    // What it says can be given back to it.
    String figures = said.replaceAll("(?s).*?--layout (\\S+).*", "$1");
    shed("image", "rm", "" + image, "LOG0.DAT", "--to", to, "--layout", figures);
    Path got = home.resolve("got");
    assertThat(shed("image", "get", to, "/", "" + got, "--layout", figures)).contains("5 files");
    for (int i = 1; i < content.length; i++) {
      byte[] back = Files.readAllBytes(got.resolve("LOG" + i + ".DAT"));
      assertThat(Arrays.copyOf(back, content[i].length)).isEqualTo(content[i]);
    }
    assertThat(shed("image", "check", to, "--layout", figures)).contains("Clean");
    assertThat(shed("image", "check", to)).contains("is a guess");
    // Neither is it a source whose files are promised, until somebody says how it lies.
    String recipe =
        """
        {"form":"lantern shed recipe, form 3","family":"pc","table":"MBR","strategy":"REBUILD",
         "sectors":100800,"geometry":{"cylinders":100,"heads":16,"sectors":63},
         "signature":"0000beef","bootCode":"OWN","sourceSha256":"%s","volumes":[{"start":63,
         "length":100737,"tableSector":0,"logical":false,"active":true,"type":"06","kind":"FAT16",
         "clusterBytes":0,"rootEntries":0,"label":"MILL","serial":"00000001","from":0,"folder":"",
         "files":[],"systemFile":"","contract":"","longNames":false,"sectorBytes":0}]}
        """
            .formatted(Tool.sha256(Files.readAllBytes(image)));
    Path r1 = Files.writeString(home.resolve("r.json"), recipe);
    String[] build = {
      "image", "build", "" + r1, "" + home.resolve("b.img"), "--source", "" + image
    };
    assertThat(shed(build)).contains("is a guess", "not laid down anew");
    assertThat(home.resolve("b.img")).doesNotExist();
    String[] told = Arrays.copyOf(build, build.length + 2);
    told[build.length] = "--layout";
    told[build.length + 1] = figures;
    assertThat(shed(told)).contains("Proved");
  }

  /** What is wrong and has no mending is not called whole. */
  @Test
  void whatIsNotMendedIsToldAndNotCalledWhole() throws Exception {
    FileSet files = new FileSet();
    Samples.file(files, "Heron", 0, new byte[900]);
    MemoryMedium m = new MemoryMedium(1760);
    Maker maker = Catalogue.maker("FFS");
    Maker.Layout l = maker.layout(Samples.wish("FFS", 1760, 0, G, 0, "Mill", 0));
    maker.write(l, files, m, new byte[0], (p, n) -> {});
    for (int s = 2; s < 1760; s++) {
      byte[] b = m.sector(s);
      boolean header = Bytes.be32(b, 0) == 2 && Bytes.be32(b, 508) == 0xFFFF_FFFDL;
      if (!header) continue;
      Bytes.putBe32(b, 308, 9999); // its first block, outside the volume
      Bytes.putBe32(b, 20, 0);
      int sum = 0;
      for (int at = 0; at < 512; at += 4) sum -= (int) Bytes.be32(b, at);
      Bytes.putBe32(b, 20, sum);
      m.write(s, 1, b, 0);
    }
    Path image = home.resolve("ffs.img");
    Samples.toFile(m, image);
    String said = shed("image", "mend", "" + image, "--dry-run");
    assertThat(said).contains("mended by this program").doesNotContain("Nothing has to be");
    assertThat(shed("image", "check", "" + image)).contains("WRONG");
  }

  private static String shed(String... args) {
    StringWriter said = new StringWriter();
    PrintWriter w = new PrintWriter(said);
    Shed.run(args, w, w);
    return said.toString();
  }
}
