package lanternshed.core.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.RandomAccessFile;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.measure.Geometry;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class CliTest {
  private static final Geometry G = new Geometry(100, 16, 63);
  @TempDir private Path folder;
  private Path image;
  private String out;

  @BeforeEach
  void image() {
    image = folder.resolve("d.img");
    Samples.toFile(Samples.drive(G), image);
  }

  private int shed(Object... args) {
    StringWriter text = new StringWriter();
    PrintWriter w = new PrintWriter(text, true);
    String[] words = java.util.Arrays.stream(args).map(String::valueOf).toArray(String[]::new);
    int exit = Shed.run(words, w, w);
    out = text.toString();
    return exit;
  }

  private JsonNode json() {
    return JsonMapper.shared().readTree(out);
  }

  @Test
  void inspectListGetAndCheckSayTheSameAsTheImage() throws Exception {
    assertThat(shed("image", "inspect", image, "--json")).isZero();
    assertThat(json().get("volumes").get(0).get("files").asInt()).isEqualTo(62);
    assertThat(json().get("entries").get(0).get("lastChs").asString()).isEqualTo("99/15/63");
    assertThat(shed("image", "list", image, "--json")).isZero();
    assertThat(json().get("files")).hasSize(66);
    Path to = folder.resolve("p.pat");
    assertThat(shed("image", "get", image, "set2/p7.pat", to)).isZero();
    assertThat(Files.readAllBytes(to)).isEqualTo(Samples.content(207, 7 * 1777));
    assertThat(shed("image", "get", image, "set2/p7.pat", to)).isEqualTo(2);
    assertThat(out).contains("exists already");
    assertThat(shed("image", "get", image, "../etc/passwd", folder.resolve("x"))).isEqualTo(2);
    Path all = folder.resolve("all");
    assertThat(shed("image", "get", image, "/", all, "--json")).isZero();
    assertThat(json().get("files").asInt()).isEqualTo(62);
    assertThat(Files.readAllBytes(all.resolve("SET2/P7.PAT")))
        .isEqualTo(Samples.content(207, 7 * 1777));
    assertThat(shed("image", "check", image)).isZero();
    assertThat(out).contains("Clean.");
  }

  @Test
  void rescueAndCompareEndWithZeroOneOrTwo() throws Exception {
    Path copy = folder.resolve("c.img");
    assertThat(shed("image", "rescue", image, copy, "--json")).isZero();
    assertThat(json().get("sha256").asString()).isEqualTo(Tool.sha256(Files.readAllBytes(image)));
    assertThat(shed("image", "compare", image, copy)).isZero();
    try (RandomAccessFile f = new RandomAccessFile(copy.toFile(), "rw")) {
      f.seek(5000 * 512);
      f.write(1);
    }
    assertThat(shed("image", "compare", image, copy, "--json")).isEqualTo(1);
    assertThat(json().get("first").asLong()).isEqualTo(5000);
    JsonNode files = json().get("volumes").get(0);
    assertThat(files.get("same").asInt() + files.get("differing").size()).isEqualTo(62);
    assertThat(shed("image", "compare", image, folder.resolve("none"))).isEqualTo(2);
  }

  /** What is no medium is refused before anything is made, and never waited for. */
  @Test
  void whatIsNoMediumIsNotRescued() throws Exception {
    Path none = folder.resolve("none.img");
    Path pipe = folder.resolve("pipe");
    Tool.run("mkfifo " + pipe);
    Path empty = Files.createFile(folder.resolve("empty"));
    Map<Path, String> refused =
        Map.of(
            Path.of("/dev/zero"),
            "neither a file nor a drive",
            Path.of("/dev/full"),
            "neither a file nor a drive",
            pipe,
            "neither a file nor a drive",
            folder,
            "is a folder",
            empty,
            "not one sector",
            folder.resolve("gone"),
            "There is no file gone");
    for (Map.Entry<Path, String> r : refused.entrySet()) {
      assertThat(shed("image", "rescue", r.getKey(), none)).as(r.getKey() + out).isEqualTo(2);
      assertThat(out).contains(r.getValue());
      assertThat(none).doesNotExist();
    }
    assertThat(shed("image", "rescue", image, none, "--retries", "-1")).isEqualTo(2);
    assertThat(none).doesNotExist();
    Path odd = Files.write(folder.resolve("odd"), new byte[513]);
    assertThat(shed("image", "rescue", odd, none)).isEqualTo(1);
    assertThat(out).contains("1 sector read", "The last 1 B of " + odd + " are no whole sector");
  }

  /** What the disk refuses is one sentence, and no trace of the program. */
  @Test
  void whatTheDiskRefusesIsOneSentence() {
    for (Object[] call :
        new Object[][] {
          {"image", "mend", image, folder.resolve("no/where")},
          {"image", "put", image, folder.resolve("gone"), "A", "--to", folder.resolve("b.img")},
          {"image", "put", image, image, "A", "--to", folder.resolve("no/where")},
          {"image", "list", image, "--volume", "-3"},
          {"image", "build", folder.resolve("gone"), folder.resolve("b.img")}
        }) {
      assertThat(shed(call)).as(out).isEqualTo(2);
      assertThat(out.strip())
          .as(List.of(call).toString())
          .endsWith(".")
          .doesNotContain("\n", "Exception");
    }
  }

  /** A file that is no image as it is says so; a description is followed to the sectors. */
  @Test
  void whatIsPackedIsNamedAndWhatIsDescribedIsFound() throws Exception {
    Path flat = folder.resolve("d.vmdk");
    Tool.run("qemu-img convert -f raw -O vmdk -o subformat=monolithicFlat " + image + " " + flat);
    assertThat(shed("image", "inspect", flat, "--json")).isZero();
    assertThat(json().get("volumes").get(0).get("files").asInt()).isEqualTo(62);
    assertThat(shed("image", "compare", flat, image)).isZero();
    try (RandomAccessFile sectors =
        new RandomAccessFile(folder.resolve("d-flat.vmdk").toFile(), "rw")) {
      sectors.setLength(512 * 1000);
    }
    assertThat(shed("image", "inspect", flat)).isEqualTo(2);
    assertThat(out).contains("d-flat.vmdk has 100\u202f800 sectors; it has 1\u202f000: it was cut");
    for (String tool : new String[] {"gzip", "xz", "bzip2", "lzma"}) {
      Path packed = folder.resolve("packed." + tool);
      Tool.run((tool.equals("lzma") ? "xz --format=lzma" : tool) + " -c " + image + " > " + packed);
      assertThat(shed("image", "inspect", packed)).isEqualTo(2);
      assertThat(out).as(tool).contains("is not an image as it is but " + tool.charAt(0));
    }
    Path archive = folder.resolve("a.7z");
    Files.write(archive, new byte[] {0x37, 0x7A, (byte) 0xBC, (byte) 0xAF, 0x27, 0x1C, 0, 4});
    assertThat(shed("image", "list", archive)).isEqualTo(2);
    assertThat(out).contains("7z archive, which is not read here");
    assertThat(shed("image", "inspect", folder)).isEqualTo(2);
  }

  @Test
  void pegsPrintTheBindingOne() {
    assertThat(shed("pegs", "--machine", "controller-pc", "--card", 15_500_000, "--json")).isZero();
    assertThat(json().get("binding").asString()).isEqualTo("G-2");
    assertThat(json().get("reach").asLong()).isEqualTo(1_032_192);
    assertThat(shed("pegs", "--machine", "none", "--card", 5)).isEqualTo(2);
    assertThat(out).contains("there are: xt, at-286");
    assertThat(shed("pegs", "--card", 5)).isEqualTo(2);
  }

  @Test
  void aRecipeFromAFolderIsBuiltAndTheGeneralToolAccepts() throws Exception {
    Path files = folder.resolve("files/sub");
    Files.createDirectories(files);
    Files.write(files.resolve("a.txt"), new byte[3000]);
    String recipe =
        """
        {"form":"lantern shed recipe, form 1","strategy":"REBUILD","sectors":100800,
         "geometry":{"cylinders":100,"heads":16,"sectors":63},"signature":"0000beef","bootCode":"OWN",
         "sourceSha256":"","volumes":[{"start":63,"length":100737,"tableSector":0,"logical":false,
         "active":true,"type":6,"kind":"FAT16","clusterBytes":0,"rootEntries":0,"label":"MILL",
         "serial":"00000001","from":-1,"folder":"%s","systemFile":""}]}
        """
            .formatted(folder.resolve("files"));
    Path file = folder.resolve("recipe.json");
    Files.writeString(file, recipe);
    Path to = folder.resolve("b.img");
    assertThat(shed("image", "build", file, to, "--json")).as(out).isZero();
    assertThat(json().get("proved").asBoolean()).isTrue();
    assertThat(Tool.run("mdir -b -i " + to + "@@32256 ::/SUB")).contains("::/SUB/A.TXT");
    assertThat(shed("image", "build", file, to)).isEqualTo(2);
    Files.writeString(file, "no");
    assertThat(shed("image", "build", file, folder.resolve("n.img"))).isEqualTo(2);
    assertThat(folder.resolve("n.img")).doesNotExist();
  }

  /** One verdict, of what the recipe has: a disk that nothing starts from has no broken link. */
  @Test
  void aDiskWithoutATableIsProvedWithoutAWordOfOne() throws Exception {
    String recipe =
        """
        {"form":"lantern shed recipe, form 3","family":"rdb68k","table":"none","strategy":"REBUILD",
         "sectors":1760,"geometry":{"cylinders":80,"heads":2,"sectors":11},"signature":"00000000",
         "bootCode":"OWN","sourceSha256":"","volumes":[{"start":0,"length":1760,"tableSector":0,
         "logical":false,"active":false,"type":"","kind":"FFS","clusterBytes":0,"rootEntries":0,
         "label":"Mill","serial":"00000000","from":-1,"folder":"","files":[],"systemFile":"",
         "contract":"","longNames":true,"sectorBytes":0}]}
        """;
    Path file = Files.writeString(folder.resolve("floppy.json"), recipe);
    assertThat(shed("image", "build", file, folder.resolve("floppy.img"))).as(out).isZero();
    assertThat(out).contains("Proved").doesNotContain("P-14", "BREAKS");
  }

  /** The same disk under what is asked for: 0 where its loader is entered, 1 where it is not. */
  @Test
  void aStartIsRunUnderWhatIsAskedFor() {
    String[] plain = {"image", "boot", image.toString(), "--machine", "controller-pc", "--json"};
    assertThat(shed((Object[]) plain)).as(out).isZero();
    assertThat(json().get("entered").asString()).isEqualTo("LOOMIO.SYS");
    long steps = json().get("steps").asLong();
    Object[][] asked = {
      {1, "--active", 0},
      {1, "--heads", 4, "--sectors", 17},
      {0, "--processor", "I8086"},
      {0, "--second", image},
      {0, "--keys", "F8 3 Enter"},
      {0, "--past"},
      {2, "--keys", "F11"},
      {2, "--heads", 4},
      {2, "--heads", 4, "--sectors", 99},
      {2, "--active", 3}
    };
    for (Object[] a : asked) {
      List<Object> words = new ArrayList<>(List.of(plain));
      words.addAll(Arrays.asList(a).subList(1, a.length));
      assertThat(shed(words.toArray())).as(words + out).isEqualTo(a[0]);
      if (words.contains("--past")) assertThat(json().get("steps").asLong()).isGreaterThan(steps);
    }
  }

  @Test
  @Timeout(60)
  void badImagesGetOneClearSentence() throws Exception {
    Path bad = folder.resolve("bad.img");
    Files.write(bad, new byte[0]);
    assertThat(shed("image", "inspect", bad)).isEqualTo(2);
    assertThat(out).contains("The image is empty");
    Files.write(bad, Samples.content(1, 1_000_000));
    assertThat(shed("image", "inspect", bad)).isEqualTo(2);
    assertThat(out).contains("neither a table nor a volume");
    byte[] cut = java.util.Arrays.copyOf(Files.readAllBytes(image), 300_100);
    Files.write(bad, cut);
    assertThat(shed("image", "check", bad)).isEqualTo(1);
    assertThat(out).contains("the end of the volume is not here").contains("B into a sector");
    try (RandomAccessFile f = new RandomAccessFile(bad.toFile(), "rw")) {
      f.setLength(1L << 40);
    }
    assertThat(shed("image", "check", bad)).isIn(0, 1);
    try (RandomAccessFile f = new RandomAccessFile(bad.toFile(), "rw")) {
      f.setLength(0);
      f.setLength(1L << 40);
    }
    assertThat(shed("image", "inspect", bad)).isEqualTo(2);
    assertThat(out).contains("all zero");
  }
}
