package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.boot.pc.PcBoot;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.catalogue.LaidOutMedium;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.survey.Volumes;
import lanternshed.core.table.TableEntry;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.work.Edit.Change;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Files come, go and change their names on a copy; everything else stays to the byte. */
class EditTest {
  private static final Geometry G = new Geometry(240, 8, 32);

  @TempDir private Path home;

  private static Change put(String path, byte[] b) {
    return new Change.Put(path, b.length, Samples.STAMP, s -> s.take(b, 0, b.length));
  }

  private static MemoryMedium edited(MemoryMedium from, int number, Change... changes) {
    MemoryMedium copy = new MemoryMedium(from.sectors());
    Edit.make(from, number, List.of(changes), copy, Progress.NONE);
    return copy;
  }

  private static Map<String, String> digests(MemoryMedium m, int number) {
    return Samples.digests(Volumes.find(m, number).volume());
  }

  @Test
  void whatIsAroundTheVolumeStaysAndTheDiskStillStarts() {
    MemoryMedium disk = Samples.drive(G);
    Map<String, String> before = digests(disk, 1);
    byte[] fresh = "a new pattern".getBytes(StandardCharsets.US_ASCII);
    MemoryMedium now =
        edited(
            disk,
            1,
            put("NEW/Deep folder/A new pattern.pat", fresh),
            new Change.Remove("SET3"),
            new Change.Move("SET1/P1.PAT", "SET2/FIRST.PAT"),
            new Change.Set("SET2/P10.PAT", Optional.of(0x01), Optional.of(Stamp.NONE)));
    Map<String, String> after = digests(now, 1);
    assertThat(after.get("NEW/Deep folder/A new pattern.pat")).isEqualTo(Tool.sha256(fresh));
    assertThat(after.keySet()).noneMatch(p -> p.startsWith("SET3/"));
    assertThat(after.get("SET2/FIRST.PAT")).isEqualTo(before.get("SET1/P1.PAT"));
    Node marked =
        Volumes.find(now, 1).volume().all().stream()
            .filter(n -> n.path().equals("SET2/P10.PAT"))
            .findFirst()
            .orElseThrow();
    assertThat(marked.attributes() & 0x27).isEqualTo(0x01);
    assertThat(marked.stamp()).isEqualTo(Stamp.NONE);
    for (int s = 0; s < G.sectors(); s++) assertThat(now.sector(s)).isEqualTo(disk.sector(s));
    assertThat(new PcBoot().walk(now, G, G.total()).holds()).isTrue();
    Volume a = Volumes.find(disk, 1).volume();
    Volume b = Volumes.find(now, 1).volume();
    assertThat(b.serial()).isEqualTo(a.serial());
    assertThat(b.label()).isEqualTo(a.label());
    assertThat(b.use().clusterBytes()).isEqualTo(a.use().clusterBytes());
  }

  /** Random changes against a map that is changed the same way; general tools agree. */
  @ParameterizedTest
  @ValueSource(strings = {"FAT12", "FAT16", "FAT32", "exFAT", "FFS", "OFS-DC"})
  void randomChangesComeToWhatAMapSaysAndCheckersAreSilent(String kind) throws Exception {
    long sectors = kind.equals("FAT12") ? 8_000 : kind.equals("FAT16") ? 40_000 : 80_000;
    int cluster = kind.equals("FAT32") ? 512 : 0;
    Maker maker = Catalogue.maker(kind);
    MemoryMedium m = new MemoryMedium(sectors);
    Maker.Wish wish =
        new Maker.Wish(Optional.of(kind), sectors, 0, cluster, 0, G, "MILL", 77, true, 0);
    maker.write(maker.layout(wish), new FileSet(), m, new byte[0], (p, n) -> {});
    for (int turn = 0; turn < 12; turn++) {
      Random dice = new Random(turn);
      Map<String, byte[]> wanted = new TreeMap<>();
      Map<String, String> spelling = new HashMap<>();
      List<Change> changes = new ArrayList<>();
      for (int i = 0; i < 40; i++) step(dice, wanted, spelling, changes);
      MemoryMedium copy = new MemoryMedium(sectors);
      Edit.make(m, 0, changes, copy, Progress.NONE);
      Map<String, String> digests = new TreeMap<>();
      wanted.forEach((p, b) -> digests.put(p, Tool.sha256(b)));
      assertThat(digests(copy, 0)).as(kind + " " + turn).isEqualTo(digests);
      if (turn > 2) continue;
      Path image = home.resolve(kind + turn);
      Samples.toFile(copy, image);
      if (kind.startsWith("O") || kind.startsWith("FF")) continue;
      String checker = kind.equals("exFAT") ? "fsck.exfat -n " : "fsck.fat -n ";
      assertThat(Tool.ask(checker + image).exit()).as(kind + " " + turn).isZero();
    }
  }

  /** Names that no rule gives, by systems that did not ask: an edit of others leaves them alone. */
  @Test
  void aNameThatIsNotLegalStaysToTheByte() throws Exception {
    Path image = home.resolve("names");
    Path file = home.resolve("x");
    Files.writeString(file, "heron");
    Tool.run("mkfs.fat -F 16 -C " + image + " 20000");
    List<String> names = List.of("A\u007fB     TXT", "EA DATA  SF", "small   txt", "A+B=C   TX ");
    for (int i = 0; i < names.size(); i++) {
      Tool.run("mcopy -i %s %s ::/NAME%d.BIN".formatted(image, file, i));
    }
    Path edited = home.resolve("edited");
    try (FileMedium m = FileMedium.openWritable(image);
        FileMedium copy = FileMedium.create(edited, m.sectors())) {
      int root = folderOf(m);
      byte[] b = m.sector(root);
      for (int i = 0; i < names.size(); i++) {
        System.arraycopy(names.get(i).getBytes(StandardCharsets.ISO_8859_1), 0, b, i * 32, 11);
      }
      m.write(root, 1, b, 0);
      Edit.make(m, 0, List.of(put("NEW.TXT", new byte[5])), copy, Progress.NONE);
      byte[] after = copy.sector(folderOf(copy));
      for (int i = 0; i < names.size(); i++) {
        assertThat(Arrays.copyOfRange(after, i * 32, i * 32 + 26))
            .as(names.get(i))
            .isEqualTo(Arrays.copyOfRange(b, i * 32, i * 32 + 26));
      }
      assertThat(after[4 * 32]).as("no long name was made").isEqualTo((byte) 'N');
    }
  }

  /** Where the root folder begins, by the fields of the boot sector. */
  private static int folderOf(Medium m) {
    byte[] b = m.sector(0);
    return (b[14] & 0xFF) + b[16] * ((b[22] & 0xFF) + (b[23] & 0xFF) * 256);
  }

  /** What only its own kind keeps of a file outlives a change beside it, and a mark that is set. */
  @Test
  void aCommentOutlivesChangesAndCpmKeepsItsUsers() {
    FileSet files = new FileSet();
    Samples.file(files, "Heron", 0x20, new byte[700]);
    byte[] own = new byte[116];
    own[12] = 4;
    System.arraycopy("warp".getBytes(StandardCharsets.US_ASCII), 0, own, 13, 4);
    files.item("Heron").own(own);
    MemoryMedium m = new MemoryMedium(1760);
    Maker maker = Catalogue.maker("FFS");
    maker.write(
        maker.layout(Samples.wish("FFS", 1760, 0, G, 0, "Mill", 0)),
        files,
        m,
        new byte[0],
        (p, n) -> {});
    MemoryMedium copy = new MemoryMedium(1760);
    List<Change> changes =
        List.of(
            put("Reed", new byte[9]), new Change.Set("Heron", Optional.of(0x21), Optional.empty()));
    Edit.make(m, 0, changes, copy, Progress.NONE);
    Volume v = Volumes.find(copy, 0).volume();
    Node heron = v.all().stream().filter(n -> n.name().equals("Heron")).findFirst().orElseThrow();
    assertThat(v.label()).isEqualTo("Mill");
    assertThat(heron.attributes()).isEqualTo(0x21);
    assertThat(Arrays.copyOfRange(v.own(heron), 12, 17)).isEqualTo(Arrays.copyOfRange(own, 12, 17));
    Change hidden = new Change.Set("Heron", Optional.of(0x02), Optional.empty());
    assertThatThrownBy(() -> Edit.make(copy, 0, List.of(hidden), m, Progress.NONE))
        .hasMessageContaining("have no mark h; those that they have are ra");

    FileSet logs = new FileSet();
    logs.folder("USER3", 0, 0);
    Samples.file(logs, "USER3/A.DAT", 0x20, new byte[300]);
    Samples.file(logs, "B.DAT", 0x20, new byte[9000]);
    MemoryMedium card = new MemoryMedium(2048);
    Maker cpm = Catalogue.maker("CP/M 2.2");
    Maker.Wish wish = Samples.wish("CP/M 2.2", 2048, 0, G, 0, "", 0);
    cpm.write(cpm.layout(wish), logs, card, new byte[0], (p, n) -> {});
    MemoryMedium changed = new MemoryMedium(2048);
    List<Change> more = List.of(put("USER3/C.DAT", new byte[5]));
    assertThatThrownBy(() -> Edit.make(card, 0, more, changed, Progress.NONE))
        .hasMessageContaining("is a guess");
    Medium said = new LaidOutMedium(card, Volumes.find(card, 0).volume().guesses().get(0));
    Edit.make(said, 0, more, changed, Progress.NONE);
    assertThat(Volumes.find(changed, 0).volume().all())
        .extracting(Node::path)
        .containsExactlyInAnyOrder("USER3", "USER3/A.DAT", "USER3/C.DAT", "B.DAT");
  }

  private static void step(
      Random dice, Map<String, byte[]> wanted, Map<String, String> spelling, List<Change> to) {
    List<String> there = new ArrayList<>(wanted.keySet());
    int what = dice.nextInt(10);
    if (what < 6 || there.isEmpty()) {
      byte[] b = new byte[dice.nextInt(7000)];
      dice.nextBytes(b);
      String folder = dice.nextInt(3) == 0 ? "" : "Folder " + dice.nextInt(3) + "/";
      String path = folder + "Datei ü " + dice.nextInt(25) + ".pat";
      wanted.put(spelling.computeIfAbsent(path, p -> p), b);
      to.add(put(path, b));
      return;
    }
    String path = there.get(dice.nextInt(there.size()));
    if (what < 8) {
      wanted.remove(path);
      to.add(new Change.Remove(path));
      return;
    }
    String fresh = "Moved " + to.size() + ".pat";
    wanted.put(fresh, wanted.remove(path));
    to.add(new Change.Move(path, fresh));
  }

  @Test
  void whatCannotBeIsSaidAndTheOriginalStays() {
    MemoryMedium disk = Samples.drive(G);
    String before = Tool.sha256(disk.sectors(0, (int) disk.sectors()));
    assertThatThrownBy(() -> edited(disk, 1, new Change.Remove("NONE.TXT")))
        .hasMessage("There is no NONE.TXT on the volume.");
    assertThatThrownBy(() -> edited(disk, 1, put("SET1", new byte[1])))
        .hasMessageContaining("is a folder");
    assertThatThrownBy(() -> edited(disk, 1, put("LOOMIO.SYS/X", new byte[1])))
        .hasMessageContaining("is a file");
    assertThatThrownBy(() -> edited(disk, 1, new Change.Move("SET1", "SET1/SET1")))
        .hasMessageContaining("into itself");
    assertThatThrownBy(() -> edited(disk, 1, new Change.Move("SET1", "SET2")))
        .hasMessageContaining("there already");
    assertThatThrownBy(() -> edited(disk, 1, put("BIG", new byte[40_000_000])))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("would not fit");
    assertThatThrownBy(() -> edited(disk, 3)).hasMessageContaining("Volume 3 is not there");
    assertThat(Tool.sha256(disk.sectors(0, (int) disk.sectors()))).isEqualTo(before);
  }

  @Test
  void aVolumeOfLargerSectorsKeepsThem() throws Exception {
    Path image = home.resolve("wide");
    Path edited = home.resolve("edited");
    List<Change> changes = List.of(put("NEW.TXT", new byte[5]));
    for (String make :
        List.of("-F 16 -S 1024 -s 2 -C %s 20000", "-F 32 -S 1024 -s 1 -R 40 -C %s 80000")) {
      Tool.run("rm -f " + image + " " + edited + "; mkfs.fat " + make.formatted(image));
      byte[] before;
      try (FileMedium m = FileMedium.open(image);
          FileMedium copy = FileMedium.create(edited, m.sectors())) {
        before = m.sector(0);
        Edit.make(m, 0, changes, copy, Progress.NONE);
        assertThat(copy.sector(0)).as("all that the boot sector says").isEqualTo(before);
      }
      Tool.run("fsck.fat -n " + edited);
      assertThat(Tool.run("mdir -b -i " + edited)).contains("NEW.TXT");
      assertThat(Tool.run("minfo -i " + edited)).contains("sector size: 1024 bytes");
    }
  }

  /** An image of a drive of 4 096-byte sectors: table, chain and volumes count in these. */
  @Test
  void aTableThatCountsInLargerSectorsIsReadInThem() throws Exception {
    Path image = home.resolve("large");
    String table =
        "o\\nn\\np\\n1\\n256\\n+10000\\nn\\ne\\n2\\n20480\\n80000\\nn\\nl\\n20736\\n+9999\\n"
            + "n\\nl\\n40960\\n+9999\\nt\\n1\\n6\\nt\\n5\\n6\\nt\\n6\\n6\\nw\\n";
    Tool.run("truncate -s 400M " + image + "; printf '" + table + "' | fdisk -b 4096 " + image);
    Path volume = home.resolve("volume");
    for (int start : new int[] {256, 20_736, 40_960}) {
      Files.writeString(home.resolve("F"), "in the volume at " + start);
      Tool.run(
          "rm -f %1$s; mkfs.fat -F 16 -S 4096 -s 1 -h %2$d -C %1$s 40000 && mcopy -i %1$s %3$s ::/F"
                  .formatted(volume, start, home.resolve("F"))
              + " && dd if=%s of=%s bs=4096 seek=%d conv=notrunc".formatted(volume, image, start));
    }
    Path edited = home.resolve("edited");
    try (FileMedium m = FileMedium.open(image);
        FileMedium copy = FileMedium.create(edited, m.sectors())) {
      var survey = Surveyor.survey(m);
      assertThat(survey.table().orElseThrow().volumes())
          .extracting(TableEntry::start)
          .containsExactly(2048L, 165_888L, 327_680L);
      assertThat(survey.allFindings().stream().filter(f -> f.weight() != Finding.Weight.NOTE))
          .extracting(Finding::rule)
          .containsExactly("P-2");
      for (TableEntry e : survey.table().orElseThrow().volumes()) {
        Volume v = Volumes.find(m, e.number()).volume();
        var text = new ByteArrayOutputStream();
        v.read(v.all().get(0), text::write);
        assertThat(text.toString()).isEqualTo("in the volume at " + e.start() / 8);
      }
      Edit.make(m, 5, List.of(put("NEW.TXT", new byte[5])), copy, Progress.NONE);
    }
    Tool.run("dd if=%s of=%s bs=4096 skip=20736 count=10000".formatted(edited, volume));
    Tool.run("fsck.fat -n " + volume);
    assertThat(Tool.run("mdir -b -i " + volume)).contains("NEW.TXT");
    assertThat(Tool.run("fdisk -b 4096 -l " + edited)).contains("40960");
  }

  /** A drive of the time tells a floppy by its fields: not one of them may change. */
  @Test
  void aFloppyStaysAFloppyToTheFieldAndAVolumeWithUnknownCodeIsLeftAlone() throws Exception {
    Path image = home.resolve("floppy");
    Tool.run("mkfs.fat -n WEAVER -C " + image + " 1440");
    Files.writeString(home.resolve("A.TXT"), "warp");
    Tool.run("mcopy -i " + image + " " + home.resolve("A.TXT") + " ::/");
    MemoryMedium copy = new MemoryMedium(2880);
    byte[] before;
    try (FileMedium m = FileMedium.open(image)) {
      before = m.sector(0);
      Edit.make(m, 0, List.of(put("WEFT/B.TXT", new byte[700])), copy, Progress.NONE);
    }
    assertThat(Arrays.copyOf(copy.sector(0), 62)).isEqualTo(Arrays.copyOf(before, 62));
    assertThat(copy.sector(1)[0]).isEqualTo((byte) 0xF0);
    Path out = home.resolve("edited");
    Samples.toFile(copy, out);
    assertThat(Tool.ask("fsck.fat -n " + out).exit()).isZero();
    assertThat(Tool.run("mdir -i " + out + " ::/")).contains("WEAVER").contains("WEFT");

    Path more = home.resolve("more");
    Tool.run("mkfs.fat -F 16 -R 8 -C " + more + " 20000");
    try (FileMedium m = FileMedium.openWritable(more)) {
      byte[] code = new byte[512];
      code[7] = 1;
      m.write(5, 1, code, 0);
      MemoryMedium target = new MemoryMedium(m.sectors());
      List<Change> changes = List.of(put("NEW.TXT", new byte[5]));
      assertThatThrownBy(() -> Edit.make(m, 0, changes, target, Progress.NONE))
          .hasMessageContaining("not known here");
    }
  }

  /** The published bound of a folder, told before anything is laid down. */
  @Test
  void aFolderOfFatTakesAsManyEntriesAsItMayHaveAndNotOneMore() {
    Maker maker = Catalogue.maker("FAT32");
    Maker.Layout layout = maker.layout(Samples.wish("FAT32", 70_000, 512, G, 0, "", 0));
    FileSet files = new FileSet();
    files.folder("FULL", 0, 0);
    for (int i = 0; i < 65_534; i++) Samples.file(files, "FULL/F" + i + ".PAT", 0, new byte[0]);
    MemoryMedium m = new MemoryMedium(70_000);
    maker.write(layout, files, m, new byte[0], (p, n) -> {});
    Volume v = Volumes.find(m, 0).volume();
    assertThat(v.check()).isEmpty();
    assertThat(v.all()).hasSize(65_535);
    List<Change> more = List.of(put("FULL/G.PAT", new byte[0]));
    MemoryMedium copy = new MemoryMedium(70_000);
    assertThatThrownBy(() -> Edit.make(m, 0, more, copy, Progress.NONE))
        .hasMessageMatching("(?s)The folder FULL would have 65.537 entries.*at most 65.536.*");
  }
}
