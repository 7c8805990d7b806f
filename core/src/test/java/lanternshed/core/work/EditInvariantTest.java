package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.Trials;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.work.Edit.Change;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * An edit is judged by what it did not touch: it comes out as it was, in every byte that is told.
 */
@Tag("trial")
class EditInvariantTest {
  private static final Geometry G = new Geometry(240, 8, 32);
  @TempDir private Path home;

  private static Change put(String path, byte[] b) {
    return new Change.Put(path, b.length, Samples.STAMP, s -> s.take(b, 0, b.length));
  }

  private static byte[] content(String name) {
    return ("what is in " + name).repeat(60).getBytes(StandardCharsets.UTF_8);
  }

  private static MemoryMedium volume(String kind, List<String> files) {
    long sectors = kind.equals("FAT12") ? 8_000 : kind.equals("FAT16") ? 40_000 : 80_000;
    MemoryMedium m = new MemoryMedium(sectors);
    Maker maker = Catalogue.maker(kind);
    FileSet set = FileSet.asTheyLie();
    for (String f : files) {
      byte[] b = content(f);
      set.file(f, b.length, 0x20, Samples.STAMP, s -> s.take(b, 0, b.length));
    }
    Maker.Wish wish =
        new Maker.Wish(
            Optional.of(kind),
            sectors,
            0,
            kind.equals("FAT32") ? 512 : 0,
            0,
            G,
            "MILL",
            77,
            true,
            Samples.STAMP);
    maker.write(maker.layout(wish), set, m, new byte[0], (p, n) -> {});
    return m;
  }

  private static MemoryMedium edited(Medium from, Change... changes) {
    MemoryMedium copy = new MemoryMedium(from.sectors());
    Edit.make(from, 0, List.of(changes), copy, Progress.NONE);
    return copy;
  }

  /** All that is told of each entry, by path. */
  private static Map<String, String> told(Medium m) {
    Volume v = Volumes.find(m, 0).volume();
    Map<String, String> out = new TreeMap<>();
    for (Node n : v.all()) {
      java.io.ByteArrayOutputStream b = new java.io.ByteArrayOutputStream();
      if (!n.folder()) v.read(n, b::write);
      String own = java.util.HexFormat.of().formatHex(v.own(n));
      String is =
          n.name() + " " + n.attributes() + " " + n.stamp() + " " + own + " " + n.folder() + " ";
      out.put(n.path(), is + Tool.sha256(b.toByteArray()));
    }
    return out;
  }

  /** By path what is told, less those that begin with one of these. */
  private static Map<String, String> but(Map<String, String> all, String... gone) {
    Map<String, String> out = new TreeMap<>(all);
    for (String g : gone) out.remove(g);
    return out;
  }

  @ParameterizedTest
  @CsvSource({
    "FFS, ä.txt, Ä.txt",
    "OFS, é, É",
    "FAT16, i long name.text, ı long name.text",
    "FAT32, s and a long name.text, ſ and a long name.text",
    "exFAT, i.txt, ı.txt",
    "exFAT, s.txt, ſ.txt"
  })
  void namesThatAnotherRuleWouldMakeOneStayTwo(String kind, String one, String other) {
    MemoryMedium m = volume(kind, List.of(one, other, "third"));
    Map<String, String> before = told(m);
    assertThat(before).containsOnlyKeys(one, other, "third");

    assertThat(but(told(edited(m, put("new", content("new")))), "new")).isEqualTo(before);
    assertThat(told(edited(m, new Change.Remove(one)))).isEqualTo(but(before, one));
    assertThat(told(edited(m, new Change.Remove(other)))).isEqualTo(but(before, other));
    Map<String, String> moved = told(edited(m, new Change.Move(one, "b.txt")));
    assertThat(but(moved, "b.txt")).isEqualTo(but(before, one));
    assertThat(moved.get("b.txt")).endsWith(Tool.sha256(content(one)));
    Map<String, String> over = told(edited(m, put(other, content("newer"))));
    assertThat(but(over, other)).isEqualTo(but(before, other));
    assertThat(over.get(other)).endsWith(Tool.sha256(content("newer")));
  }

  /**
   * Where its own systems take two names for one they are one here, and what is not clear is asked.
   */
  @ParameterizedTest
  @CsvSource({"FFS, Heron, HERON", "FAT16, a Long Name, A LONG NAME", "exFAT, ärm, ÄRM"})
  void aNameIsFoundAsItsOwnSystemsFindIt(String kind, String stands, String asked) {
    MemoryMedium m = volume(kind, List.of(stands));
    assertThat(told(edited(m, put(asked, content("x"))))).containsOnlyKeys(stands);
    assertThat(told(edited(m, new Change.Remove(asked)))).isEmpty();
  }

  @Test
  void aNameThatMayBeTwoIsAskedForLetterByLetter() {
    MemoryMedium m = volume("FAT16", List.of("A long one", "a Long One"));
    assertThatThrownBy(() -> edited(m, new Change.Remove("A LONG ONE")))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("A long one or a Long One")
        .hasMessageContaining("letter for letter");
    assertThat(told(edited(m, new Change.Remove("a Long One")))).containsOnlyKeys("A long one");
  }

  /** What a general tool wrote: times of making and last look, case of short names. */
  @ParameterizedTest
  @ValueSource(strings = {"12", "16", "32"})
  void timesThatAGeneralToolWroteStay(String kind) throws Exception {
    Path image = home.resolve("f" + kind);
    String size = kind.equals("12") ? "1M" : kind.equals("16") ? "20M" : "40M";
    Tool.run("truncate -s " + size + " " + image);
    Tool.run("mkfs.fat -F " + kind + " -s 1 " + image);
    Path file = home.resolve("mixed case.txt");
    Files.write(file, content("a"));
    Tool.run("mmd -i " + image + " ::SUB");
    Tool.run("mcopy -m -i " + image + " '" + file + "' ::");
    Tool.run("mcopy -m -i " + image + " '" + file + "' ::SUB/lower.txt");
    Tool.run("mcopy -i " + image + " '" + file + "' ::UPPER.TXT");
    try (FileMedium m = FileMedium.open(image)) {
      Map<String, String> before = told(m);
      assertThat(before.values()).anyMatch(x -> !x.split(" ")[3].startsWith("0".repeat(16)));
      Map<String, String> after = told(edited(m, put("SUB/ANOTHER.TXT", content("b"))));
      assertThat(but(after, "SUB/ANOTHER.TXT")).isEqualTo(before);
    }
  }

  @Test
  void timesZonesAndTheTableOfLettersOfExfatStay() {
    MemoryMedium m = volume("exFAT", List.of("one.txt", "two.txt"));
    Volume v = Volumes.find(m, 0).volume();
    long root = v.sectorsOf(v.root()).get(0)[0];
    byte[] b = m.sector(root);
    Random dice = new Random(3);
    for (int at = 0; at < 512; at += 32) {
      if ((b[at] & 0xFF) != 0x85) continue;
      for (int i = 8; i < 25; i++) if (i < 12 || i > 15) b[at + i] = (byte) dice.nextInt(256);
      int sum = 0;
      for (int i = at; i < at + 96; i++) {
        if (i != at + 2 && i != at + 3) {
          sum = ((sum & 1) << 15) + (sum >> 1) + (b[i] & 0xFF) & 0xFFFF;
        }
      }
      Bytes.put16(b, at + 2, sum);
    }
    m.write(root, 1, b, 0);
    Map<String, String> before = told(m);
    MemoryMedium copy = edited(m, put("new.txt", content("new")));
    assertThat(but(told(copy), "new.txt")).isEqualTo(before);
    Volume now = Volumes.find(copy, 0).volume();
    assertThat(now.own(now.root())).isEqualTo(v.own(v.root())).isNotEmpty();
  }

  /** A letter that leads outside or cannot be shown has no other form: nothing is written anew. */
  @ParameterizedTest
  @CsvSource({"FAT32, a long name.txt, 58", "exFAT, one.txt, 47", "FFS, Heron, 1"})
  void aNameThatIsNotShownAsItStandsIsNotWrittenAgain(String kind, String name, int letter) {
    MemoryMedium m = volume(kind, List.of(name, "second"));
    Volume v = Volumes.find(m, 0).volume();
    boolean header = kind.equals("FFS");
    Node n = v.all().stream().filter(x -> x.path().equals(name)).findFirst().orElseThrow();
    long lba = header ? n.first() : v.sectorsOf(v.root()).get(0)[0];
    byte[] b = m.sector(lba);
    int step = header ? 1 : 2;
    int at = -1;
    for (int i = 0; i + 2 * step < 512 && at < 0; i++) {
      if (b[i] == name.charAt(1) && b[i + step] == name.charAt(2)) at = i;
    }
    b[at] = (byte) letter;
    if (header) {
      Bytes.putBe32(b, 20, 0);
      long sum = 0;
      for (int i = 0; i < 512; i += 4) sum += Bytes.be32(b, i);
      Bytes.putBe32(b, 20, -sum);
    }
    m.write(lba, 1, b, 0);
    assertThat(told(m)).doesNotContainKey(name).hasSize(2);
    assertThatThrownBy(() -> edited(m, put("new", content("new"))))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("cannot be shown");
  }

  /** The halves of a pair of letters may stand in two entries of a name. */
  @ParameterizedTest
  @CsvSource({"exFAT, fsck.exfat -n, 14", "FAT16, fsck.fat -n, 12", "FAT32, fsck.fat -n, 25"})
  void aPairOfLettersOverTwoEntriesIsWhole(String kind, String checker, int before)
      throws Exception {
    String name = "ABCDEFGHIJKLMNOPQRSTUVWXYZ".substring(0, before) + "\uD83D\uDE00.TXT";
    MemoryMedium m = edited(volume(kind, List.of("first")), put(name, content(name)));
    assertThat(told(m)).containsOnlyKeys("first", name);
    MemoryMedium again = edited(m, put("third", content("third")));
    assertThat(told(again)).containsOnlyKeys("first", name, "third");
    assertThat(Volumes.find(again, 0).volume().check()).isEmpty();
    assertThat(Volumes.find(again, 0).volume().mending().orElseThrow().changes()).isEmpty();
    Path image = home.resolve("pair");
    Samples.toFile(again, image);
    assertThat(Tool.ask(checker + " " + image).exit()).isZero();
  }

  @Test
  void theDatesOfABlockChainedVolumeStay() {
    MemoryMedium m = volume("FFS", List.of("one"));
    Volume v = Volumes.find(m, 0).volume();
    byte[] root = m.sector(v.root().first());
    Bytes.putBe32(root, 0x1A4, 5_432);
    Bytes.putBe32(root, 0x1AC, 17);
    Bytes.putBe32(root, 20, 0);
    int sum = 0;
    for (int i = 0; i < 512; i += 4) sum += (int) Bytes.be32(root, i);
    Bytes.putBe32(root, 20, -sum & 0xFFFF_FFFFL);
    m.write(v.root().first(), 1, root, 0);
    byte[] now = edited(m, put("two", content("two"))).sector(v.root().first());
    assertThat(java.util.Arrays.copyOfRange(now, 0x1A4, 0x1B0))
        .isEqualTo(java.util.Arrays.copyOfRange(root, 0x1A4, 0x1B0));
  }

  /** Random volumes and changes: whatever was not named is as it was. */
  @ParameterizedTest
  @ValueSource(strings = {"FAT12", "FAT16", "FAT32", "exFAT", "FFS", "OFS", "FFS-INTL"})
  void whatWasNotNamedIsAsItWas(String kind) {
    for (int turn = 0; turn < Trials.turns(8, 300); turn++) {
      Random dice = new Random(turn * 31L + kind.hashCode());
      Set<String> names = new TreeSet<>();
      while (names.size() < 4 + dice.nextInt(20)) names.add(name(dice, kind));
      MemoryMedium m = volume(kind, distinct(kind, names));
      Map<String, String> before = told(m);
      List<String> there = new ArrayList<>(before.keySet());
      String named = there.get(dice.nextInt(there.size()));
      String fresh = "fresh" + turn;
      Change change =
          switch (dice.nextInt(4)) {
            case 0 -> put(fresh, content("x"));
            case 1 -> new Change.Remove(named);
            case 2 -> new Change.Move(named, fresh);
            default -> put(named, content("y"));
          };
      Map<String, String> after = told(edited(m, change));
      boolean isNew = change instanceof Change.Put p && p.path().equals(fresh);
      assertThat(but(after, named, fresh))
          .as("%s, turn %d, %s", kind, turn, change)
          .isEqualTo(isNew ? but(before, named) : but(before, named));
      if (isNew) assertThat(after.get(named)).isEqualTo(before.get(named));
    }
  }

  private static final String LETTERS = "aAbBiIsSkKäÄéÉßıſÿµñÑ0-";

  private static String name(Random dice, String kind) {
    StringBuilder out = new StringBuilder();
    int length = 1 + dice.nextInt(20);
    for (int i = 0; i < length; i++) {
      char c = LETTERS.charAt(dice.nextInt(LETTERS.length()));
      // A block-chained name has letters of one byte.
      if (c < 0x100 || !kind.contains("FS")) out.append(c);
    }
    return out.isEmpty() ? "x" : out.toString();
  }

  /** One of each name that the volume's systems take for one. */
  private static List<String> distinct(String kind, Set<String> names) {
    Volume rule = Volumes.find(volume(kind, List.of()), 0).volume();
    Map<String, String> out = new TreeMap<>();
    for (String n : names) out.putIfAbsent(rule.fold(n), n);
    return List.copyOf(out.values());
  }
}
