package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import lanternshed.core.KernelGuest;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.survey.Volumes;
import lanternshed.core.table.TableMaker;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A general kernel reads the tables and volumes that are made here, and writes to them. */
@Tag("only-trial")
class KernelTest {
  private static final List<String> KINDS =
      List.of("OFS", "FFS", "OFS-INTL", "FFS-INTL", "OFS-DC", "FFS-DC");
  private static final Pattern FILE =
      Pattern.compile("file (\\S+) (\\d*) (\\d+) ([0-9a-f]{64})  \\./(.+)");
  private static final Pattern PART = Pattern.compile("part (\\S+) (\\d+) (\\d+) (.*)");

  private static final String FROM_DESK = time(LocalDateTime.of(1994, 3, 1, 10, 20));

  /** What {@link Samples#STAMP} says. */
  private static final String SAMPLE = time(LocalDateTime.of(1994, 9, 1, 12, 0));

  /** A disk keeps no zone: the kernel, which has none either, takes its time as it stands. */
  private static String time(LocalDateTime t) {
    return " " + t.toEpochSecond(ZoneOffset.UTC);
  }

  /** Every file of every part of every disk; a disk without parts is one itself. */
  private static final String READ =
      String.join(
          "\n",
          "for d in /sys/block/vd*; do",
          "  n=${d##*/}; parts=$(ls -d $d/$n[0-9]* 2>/dev/null)",
          "  for p in ${parts:-$d}; do",
          "    b=${p##*/}; i=$(cat $p/partition 2>/dev/null); how=none",
          "    for t in affs vfat exfat; do",
          "      [ $how = none ] && mount -t $t -o ro /dev/$b /m 2>/dev/null && how=$t",
          "    done",
          "    echo part $b $(cat $p/start 2>/dev/null || echo 0) $(cat $p/size) $how",
          "    [ $how = none ] && continue",
          "    (cd /m; find . -type f | while read -r f; do",
          "       echo \"file $n $i $(stat -c %Y \"$f\") $(sha256sum \"$f\")\"; done)",
          "    umount /m",
          "  done",
          "done");

  /** What somebody does who works on a volume: makes, fills up, moves, removes. */
  private static final String CHANGES =
      String.join(
          "\n",
          "  first=$(find . -type f | head -n 1); rm \"$first\" || echo \"not removed: $first\"",
          "  mkdir 'by the kernel'",
          "  dd if=/dev/vda of='by the kernel/long one' bs=1000 count=333 2>/dev/null",
          "  dd if=/dev/vda of=short bs=17 count=1 skip=5 2>/dev/null",
          "  for f in $(seq 60); do echo \"text $f\" > \"by the kernel/text $f\"; done",
          "  rm \"by the kernel/text 7\"; mv 'by the kernel/text 8' 'moved'",
          "  mkdir a; mkdir a/b; mkdir a/b/c; for f in $(seq 150); do echo $f > a/b/c/$f; done",
          "  mv a/b/c 'by the kernel/c'; rm -r a; rm 'by the kernel/c/'1*",
          "  for f in $(seq 40); do dd if=/dev/vda bs=700 count=1 skip=$f 2>/dev/null; done >> short",
          "  dd if=/dev/vda bs=800 count=100 skip=9 2>/dev/null >> short");

  @TempDir private Path home;

  @BeforeAll
  static void itsPartsAreThere() {
    Assumptions.assumeTrue(KernelGuest.parts().isPresent(), "Nobody brought a kernel: -Dkernel=…");
  }

  /** What the kernel found, by disk: of every file its path, digest and time. */
  private static Map<String, Map<String, String>> files(List<String> said) {
    Map<String, Map<String, String>> out = new TreeMap<>();
    for (String line : said) {
      Matcher m = FILE.matcher(line);
      if (!m.matches()) continue;
      out.computeIfAbsent(m.group(1), d -> new TreeMap<>())
          .put(m.group(2) + ":" + m.group(5), m.group(4) + " " + m.group(3));
    }
    return out;
  }

  private Path file(Medium m, int i) {
    Path file = home.resolve("disk" + i);
    Samples.toFile(m, file);
    return file;
  }

  private static String disk(int i) {
    return "vd" + (char) ('a' + i);
  }

  /** All families whose tables and volumes it has drivers for, as their own plans make them. */
  @Test
  void cardsOfEveryFamilyAreReadByTheKernelsOwnDrivers() throws IOException {
    FamiliesTest families = new FamiliesTest();
    List<FamiliesTest.Way> ways =
        FamiliesTest.ways().stream().filter(w -> !w.system().startsWith("cpm")).toList();
    List<Path> disks = new ArrayList<>();
    List<Medium> cards = new ArrayList<>();
    List<Map<String, byte[]>> contents = new ArrayList<>();
    for (FamiliesTest.Way w : ways) {
      Map<String, byte[]> content = families.files(w);
      Medium card = families.card(w, content);
      contents.add(content);
      cards.add(card);
      disks.add(file(card, disks.size()));
    }
    List<String> said = KernelGuest.run(home, disks, READ);
    Map<String, Map<String, String>> found = files(said);
    for (int i = 0; i < ways.size(); i++) {
      Survey own = Surveyor.survey(cards.get(i));
      String disk = disk(i);
      List<String> parts = said.stream().filter(l -> l.startsWith("part " + disk)).toList();
      Map<String, String> wanted = new TreeMap<>();
      contents.get(i).forEach((path, b) -> wanted.put(path, Tool.sha256(b) + FROM_DESK));
      Map<String, String> there = new TreeMap<>();
      found
          .getOrDefault(disk, Map.of())
          .forEach((path, sha) -> there.put(path.replaceFirst("^[^:]*:", ""), sha));
      assertThat(there).as(ways.get(i) + " " + parts).isEqualTo(wanted);
      // Where it sees a part we see the same one; a desktop's boot sector lies before the
      // machine's.
      int before = ways.get(i).system().equals("ahdi-both") ? 1 : 0;
      List<String> places =
          own.volumes().stream()
              .map(v -> (v.start() - before) + " " + (v.length() + before))
              .toList();
      assertThat(parts)
          .as("" + ways.get(i))
          .isNotEmpty()
          .allMatch(l -> places.contains(l.split(" ")[2] + " " + l.split(" ")[3]));
    }
  }

  /** One disk with a volume of each kind, full of folders and names of all sorts. */
  private Medium sixKinds(List<Map<String, String>> wanted) {
    Geometry g = new Geometry(200, 16, 32);
    long cylinder = g.perCylinder();
    TableMaker table = Catalogue.table("RDB").maker().orElseThrow();
    MemoryMedium m = new MemoryMedium(g.total());
    List<TableMaker.Slot> slots = new ArrayList<>();
    for (int i = 0; i < KINDS.size(); i++) {
      String kind = KINDS.get(i);
      long start = (2 + 32L * i) * cylinder;
      slots.add(
          new TableMaker.Slot(
              start, 32 * cylinder, table.type(kind, 32 * cylinder, false), i == 0, false, 0));
      Map<String, String> content = new TreeMap<>();
      FileSet set = tree(new Random(i), content);
      Maker maker = Catalogue.maker(kind);
      maker.write(
          maker.layout(Samples.wish(kind, 32 * cylinder, 0, g, start, "V" + i, i)),
          set,
          new SliceMedium(m, start, 32 * cylinder),
          new byte[0],
          (p, n) -> {});
      wanted.add(content);
    }
    table.write(m, g, new byte[0], 0, slots);
    return m;
  }

  private static FileSet tree(Random r, Map<String, String> content) {
    FileSet out = new FileSet();
    List<String> folders = new ArrayList<>(List.of(""));
    String[] stems = {"Gewebe für ", "warp ", "ÉTOFFE-", "rather long name of a file ", "x"};
    for (int i = 0; i < 250; i++) {
      String in = folders.get(r.nextInt(folders.size()));
      String path = (in.isEmpty() ? "" : in + "/") + stems[r.nextInt(stems.length)] + i;
      if (r.nextInt(7) == 0) {
        out.folder(path, 0x20, Samples.STAMP);
        folders.add(path);
        continue;
      }
      byte[] b = Samples.content(i, r.nextInt(10) == 0 ? r.nextInt(90_000) : r.nextInt(4000));
      Samples.file(out, path, 0x20, b);
      content.put(path, Tool.sha256(b) + SAMPLE);
    }
    return out;
  }

  @Test
  void everyKindOfBlockVolumeIsReadAndWrittenToAndComesBackSound() throws IOException {
    List<Map<String, String>> wanted = new ArrayList<>();
    Path disk = file(sixKinds(wanted), 0);
    String write =
        String.join(
            "\n",
            "for i in 1 2 3 4; do",
            "  mount -t affs /dev/vda$i /m && cd /m || echo \"not mounted: $i\"",
            CHANGES,
            "  ln short 'by the kernel/the same'",
            // Cut short under OFS, its last block goes on saying the old length, which is told as
            // wrong.
            "  [ $((i % 2)) = 1 ] || truncate -s 50001 'by the kernel/long one'",
            "  [ $((i % 2)) = 1 ] || truncate -s 100 short",
            "  ln -s short 'by the kernel/points there'",
            "  cd /; umount /m",
            "done");
    List<String> said =
        KernelGuest.run(home, List.of(disk), READ + "\necho then\n" + write + "\n" + READ);
    int then = said.indexOf("then");
    Map<String, String> before = files(said.subList(0, then)).get("vda");
    Map<String, String> after = files(said.subList(then, said.size())).get("vda");
    List<String> parts =
        said.subList(0, then).stream().filter(l -> PART.matcher(l).matches()).toList();
    assertThat(said).noneMatch(l -> l.startsWith("not "));
    assertThat(parts).hasSize(KINDS.size()).allMatch(l -> l.endsWith(" affs"));
    try (FileMedium m = FileMedium.open(disk)) {
      List<Volumes.Opened> volumes = Volumes.all(m);
      for (int i = 0; i < KINDS.size(); i++) {
        String kind = KINDS.get(i);
        Matcher p = PART.matcher(parts.get(i));
        assertThat(p.matches()).isTrue();
        assertThat(Long.parseLong(p.group(2))).as(kind).isEqualTo((2 + 32L * i) * 512);
        assertThat(Long.parseLong(p.group(3))).as(kind).isEqualTo(32L * 512);
        assertThat(of(before, i)).as(kind).isEqualTo(wanted.get(i));
        Volume v = volumes.get(i).volume();
        assertThat(v.kind()).isEqualTo(kind);
        assertThat(v.check())
            .filteredOn(f -> f.weight() != Finding.Weight.NOTE)
            .as(kind)
            .extracting(Finding::what)
            .isEmpty();
        List<String> elsewhere = new ArrayList<>();
        Map<String, String> ours = ours(v, elsewhere);
        assertThat(elsewhere).isEqualTo(i < 4 ? List.of("by the kernel/points there") : List.of());
        Map<String, String> theirs = of(after, i);
        theirs.replaceAll((path, file) -> file.split(" ")[0]);
        assertThat(ours).as(kind).isEqualTo(theirs);
        if (i < 4) {
          assertThat(ours).containsKeys("moved", "by the kernel/the same");
          assertThat(new TreeSet<>(ours.keySet()))
              .hasSize(wanted.get(i).size() - 1 + 62 + 150 - 62);
        }
      }
    }
  }

  /** Digests of the files that read; the others are named. */
  private static Map<String, String> ours(Volume v, List<String> elsewhere) {
    Map<String, String> out = new TreeMap<>();
    for (Node n : v.all()) {
      if (v.notWhole(n).isPresent()) elsewhere.add(n.path());
      else if (!n.folder()) out.put(n.path(), Tool.sha256(Samples.bytes(v, n)));
    }
    return out;
  }

  /** FAT of all widths and exFAT, each over a whole disk. */
  @Test
  void everyKindOfFatIsReadAndWrittenToAndComesBackSound() throws IOException {
    Map<String, Long> kinds = new LinkedHashMap<>();
    kinds.put("FAT12", 16_000L);
    kinds.put("FAT16", 60_000L);
    kinds.put("FAT32", 200_000L);
    kinds.put("exFAT", 80_000L);
    List<Path> disks = new ArrayList<>();
    List<Map<String, String>> wanted = new ArrayList<>();
    kinds.forEach(
        (kind, sectors) -> {
          MemoryMedium m = new MemoryMedium(sectors);
          Map<String, String> content = new TreeMap<>();
          FileSet set = tree(new Random(sectors), content);
          Maker maker = Catalogue.maker(kind);
          Maker.Wish wish =
              Samples.wish(kind, sectors, 0, new Geometry(200, 16, 63), 0, "MILL", sectors);
          maker.write(maker.layout(wish), set, m, new byte[0], (p, n) -> {});
          disks.add(file(m, disks.size()));
          wanted.add(content);
        });
    String write =
        String.join(
            "\n",
            "for d in a:vfat b:vfat c:vfat d:exfat; do",
            "  mount -t ${d#*:} /dev/vd${d%:*} /m && cd /m || echo \"not mounted: $d\"",
            CHANGES,
            "  truncate -s 50001 'by the kernel/long one'; truncate -s 100 short",
            "  cd /; umount /m",
            "done");
    List<String> said = KernelGuest.run(home, disks, READ + "\necho then\n" + write + "\n" + READ);
    int then = said.indexOf("then");
    assertThat(said).noneMatch(l -> l.startsWith("not "));
    int i = 0;
    for (String kind : kinds.keySet()) {
      assertThat(utf8(files(said.subList(0, then)).get(disk(i)))).as(kind).isEqualTo(wanted.get(i));
      Map<String, String> after = utf8(files(said.subList(then, said.size())).get(disk(i)));
      after.replaceAll((path, file) -> file.split(" ")[0]);
      try (FileMedium m = FileMedium.open(disks.get(i))) {
        Volume v = Volumes.all(m).get(0).volume();
        assertThat(v.kind()).isEqualTo(kind);
        assertThat(v.check()).as(kind).extracting(Finding::what).isEmpty();
        List<String> elsewhere = new ArrayList<>();
        assertThat(ours(v, elsewhere)).as(kind).isEqualTo(after);
        assertThat(elsewhere).isEmpty();
        TreeSet<String> added = new TreeSet<>(after.keySet());
        added.removeAll(wanted.get(i).keySet());
        assertThat(added).as(kind).contains("moved").hasSize(61 + 150 - 62);
        assertThat(after.keySet()).as(kind).hasSize(wanted.get(i).size() - 1 + added.size());
      }
      i++;
    }
  }

  /** The files of a disk without parts; its names came in UTF-8. */
  private static Map<String, String> utf8(Map<String, String> all) {
    Map<String, String> out = new TreeMap<>();
    all.forEach(
        (path, sha) ->
            out.put(
                new String(
                    path.substring(1).getBytes(StandardCharsets.ISO_8859_1),
                    StandardCharsets.UTF_8),
                sha));
    return out;
  }

  /** The files of one part; names come as bytes of Latin-1. */
  private static Map<String, String> of(Map<String, String> all, int part) {
    Map<String, String> out = new TreeMap<>();
    all.forEach(
        (path, sha) -> {
          String start = (part + 1) + ":";
          if (path.startsWith(start)) out.put(path.substring(start.length()), sha);
        });
    return out;
  }
}
