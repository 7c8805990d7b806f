package lanternshed.core.names;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import lanternshed.core.Trials;
import lanternshed.core.catalogue.BlankDisk;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.measure.Geometry;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Filesystem;
import lanternshed.core.volume.Maker;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** T-1, T-2, T-3: names that volumes take, sets that are split, libraries that are shelved. */
@Tag("trial")
class NamesTest {
  private static final String LETTERS =
      "aäAÅzZ09 .-_~+,;=[]()&%$#@!'`^{}|\\:*?\"<>ßæłøéŒ中文😀\u0001\u007F\u0085\u00A0’–";

  private static String name(Random r) {
    StringBuilder out = new StringBuilder();
    int[] all = LETTERS.codePoints().toArray();
    for (int n = 1 + r.nextInt(r.nextInt(5) == 0 ? 300 : 14); n > 0; n--) {
      out.appendCodePoint(all[r.nextInt(r.nextBoolean() ? 12 : all.length)]);
    }
    return r.nextInt(12) == 0
        ? List.of("con", "NUL.txt", "aux.c", "lpt1").get(r.nextInt(4))
        : out.toString();
  }

  private static List<String> tree(Random r) {
    List<String> folders = new ArrayList<>(List.of(""));
    for (int i = r.nextInt(6); i > 0; i--) {
      folders.add(
          folders.get(r.nextInt(folders.size())) + (r.nextInt(4) == 0 ? "D" : name(r)) + "/");
    }
    Set<String> out = new HashSet<>();
    for (int i = 1 + r.nextInt(25); i > 0; i--) {
      out.add(folders.get(r.nextInt(folders.size())) + name(r));
    }
    return new ArrayList<>(out);
  }

  private static FileSet set(List<String> paths) {
    FileSet out = new FileSet();
    for (String p : paths) {
      for (int i = p.indexOf('/'); i > 0; i = p.indexOf('/', i + 1)) {
        if (!out.has(p.substring(0, i))) out.folder(p.substring(0, i), 0, 0);
      }
      out.file(p, 1, 0, 0, s -> s.take(new byte[1], 0, 1));
    }
    return out;
  }

  private static Maker.Layout layout(Maker maker, String kind, boolean longNames) {
    long sectors =
        BlankDisk.ALL.stream()
            .filter(d -> d.kind().equals(kind))
            .mapToLong(BlankDisk::sectors)
            .max()
            .orElse(kind.startsWith("CP/M") ? 16_384 : 1 << 21);
    return maker.layout(
        new Maker.Wish(
            java.util.Optional.of(kind),
            sectors,
            0,
            0,
            0,
            new Geometry(80, 2, 18),
            "",
            1,
            longNames,
            0));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "FAT12",
        "FAT32",
        "exFAT",
        "OFS",
        "FFS",
        "CP/M 2.2",
        "two-sector catalogue",
        "link-and-map",
        "linked-sector"
      })
  void whatTheRuleGivesTheMakerTakesAndTheListLeadsBack(String kind) {
    Filesystem f = Catalogue.filesystem(kind);
    Maker maker = f.maker().orElseThrow();
    assertThat(f.names()).isNotEmpty();
    for (NameRule rule : f.names()) {
      Maker.Layout layout = layout(maker, kind, rule.key().equals("long"));
      for (int seed = 0; seed < Trials.turns(100, 5000); seed++) {
        Random r = new Random(seed);
        List<String> from = tree(r);
        List<NameList.Named> list = NameList.of(rule, from, Map.of(), List.of(), List.of());
        List<String> to = list.stream().map(NameList.Named::to).toList();
        assertThat(list).extracting(NameList.Named::from).containsExactlyElementsOf(from);
        assertThat(to.stream().map(NameList::fold)).doesNotHaveDuplicates();
        maker.fit(layout, set(to));
        assertThat(NameList.back(list)).hasSize(from.size());
        for (NameList.Named n : list) {
          assertThat(NameList.back(list)).containsEntry(n.to(), n.from());
          assertThat(rule.fault(n.to().substring(n.to().lastIndexOf('/') + 1)))
              .as(n.to())
              .isEmpty();
        }
        List<String> mixed = new ArrayList<>(from);
        Collections.shuffle(mixed, r);
        assertThat(NameList.of(rule, mixed, Map.of(), List.of(), List.of()))
            .containsExactlyInAnyOrderElementsOf(list);
      }
    }
  }

  @ParameterizedTest
  @CsvSource({
    "8.3, con.pat, CON_.PAT, CON is a device",
    "8.3, Tide chart 1994.pat, TIDE1994.PAT, cut to 8",
    "8.3, Muster für Grün.html, MUSTERFU.HTM, '2 letters replaced, ending cut to 3, cut to 8'",
    "8.3, HERON.PAT, HERON.PAT, ''",
    "8.3, heron.pat, HERON.PAT, ''",
    "typed-16, heron, HERON.prg, ''",
    "typed-16, Heron.SEQ, HERON.seq, ''",
    "capitals-8.3, 7 herons.pat, X7HERONS.PAT, begins with a letter",
    "seven, Heron Bay, HERONBA, cut to 7",
    "seven, Reed 1.pat, REED1, ending left out",
    "typed-16, Heron pattern.bas, HERON PATTERN.prg, ending left out",
    "latin-30, a:b, a_b, one letter replaced",
    "long, 'Heron? ', Heron_, one letter replaced"
  })
  void aNameIsCleanedAndSaysWhatBecameOfIt(String rule, String name, String to, String changes) {
    NameRule.Cleaned c = NameRule.of(rule).clean(name);
    assertThat(c.name()).isEqualTo(to);
    assertThat(String.join(", ", c.changes())).isEqualTo(changes);
  }

  @Test
  void namesThatMeetAreNumberedAndWhatIsThereIsLeft() {
    List<NameList.Named> list =
        NameList.of(
            NameRule.of("8.3"),
            List.of("Borders/heron one.pat", "borders/x.pat", "Heron pattern.pat", "HERONPAT.PAT"),
            Map.of("borders/x.pat", "BORDERS/x.pat"),
            List.of("BORDERS/HERONONE.PAT"),
            List.of("BORDERS"));
    assertThat(list)
        .extracting(NameList.Named::to)
        .containsExactly("BORDERS/HERONO~1.PAT", "BORDERS/X.PAT", "HERONP~1.PAT", "HERONPAT.PAT");
    assertThat(list.get(2).changes()).contains("numbered, as the name is taken");
  }

  @Test
  void foldersThatAreOneInCapitalsStayApart() {
    List<NameList.Named> list =
        NameList.of(
            NameRule.of("8.3"), List.of("A/x", "a/x", "a/y"), Map.of(), List.of(), List.of());
    assertThat(list).extracting(NameList.Named::to).containsExactly("A/X", "A~1/X", "A~1/Y");
  }

  @Test
  void aFolderThatIsThereKeepsItsSpelling() {
    List<NameList.Named> list =
        NameList.of(
            NameRule.of("long"), List.of("old/x"), Map.of(), List.of("Old/y"), List.of("Old"));
    assertThat(list).extracting(NameList.Named::to).containsExactly("Old/x");
  }

  @Test
  void whereThereAreNoFoldersFilesComeOutOfThem() {
    List<NameList.Named> list =
        NameList.of(
            NameRule.of("user-areas"),
            List.of("user3/heron.com", "games/heron.com"),
            Map.of(),
            List.of(),
            List.of());
    assertThat(list).extracting(NameList.Named::to).containsExactly("USER3/HERON.COM", "HERON.COM");
    assertThat(list.get(1).changes()).containsExactly("out of its folder games");
  }

  @Test
  void theLeastNumberOfDisksIsProvedForSmallSets() {
    Random r = new Random(5);
    for (int i = 0; i < 200; i++) {
      long[] pieces = r.longs(1 + r.nextInt(9), 1, 100).toArray();
      int least = Split.least(pieces, 100, pieces.length).orElseThrow();
      assertThat(least).isEqualTo(everyWay(pieces, 0, new long[pieces.length], 0));
      assertThat(least).isGreaterThanOrEqualTo(Split.bound(pieces, 100));
    }
  }

  @Test
  void piecesAreDealtOutWhereverSomeWayTakesAllOfThem() {
    Random r = new Random(6);
    int dealt = 0;
    for (int i = 0; i < 400; i++) {
      int[] kinds = {0, 1, r.nextInt(2)};
      long[] rooms = r.longs(3, 0, 120).toArray();
      long[][] pieces = new long[1 + r.nextInt(7)][];
      for (int p = 0; p < pieces.length; p++) pieces[p] = new long[] {r.nextInt(60), r.nextInt(60)};
      Optional<int[]> at = Split.deal(pieces, kinds, rooms);
      assertThat(at.isPresent()).isEqualTo(someWay(pieces, kinds, rooms, 0));
      if (at.isEmpty()) continue;
      dealt++;
      long[] left = rooms.clone();
      for (int p = 0; p < pieces.length; p++) {
        int d = at.get()[p];
        left[d] -= pieces[p][kinds[d]];
      }
      assertThat(Arrays.stream(left).allMatch(l -> l >= 0)).isTrue();
    }
    assertThat(dealt).isBetween(50, 350);
  }

  private static boolean someWay(long[][] pieces, int[] kinds, long[] left, int i) {
    if (i == pieces.length) return true;
    for (int d = 0; d < left.length; d++) {
      long[] next = left.clone();
      next[d] -= pieces[i][kinds[d]];
      if (next[d] >= 0 && someWay(pieces, kinds, next, i + 1)) return true;
    }
    return false;
  }

  /** The least number by trying all ways, without any thought. */
  private static int everyWay(long[] pieces, int i, long[] filled, int used) {
    if (i == pieces.length) return used;
    int best = pieces.length;
    for (int d = 0; d <= used && d < filled.length; d++) {
      if (filled[d] + pieces[i] > 100) continue;
      filled[d] += pieces[i];
      best = Math.min(best, everyWay(pieces, i + 1, filled, Math.max(used, d + 1)));
      filled[d] -= pieces[i];
    }
    return best;
  }

  @Test
  void pathsAreInTheOrderInWhichPeopleCount() {
    List<String> paths = new ArrayList<>(List.of("b/Reed 10", "a", "b/reed 2", "b/Reed 1", "B"));
    paths.sort(Natural.ORDER);
    assertThat(paths).containsExactly("a", "B", "b/Reed 1", "b/reed 2", "b/Reed 10");
  }

  @Test
  void aLibraryIsShelvedInBalancedRanges() {
    List<String> paths = new ArrayList<>();
    "AABBBCDDDDEFGHHZ9".chars().forEach(c -> paths.add("in/" + (char) c + paths.size() + ".pat"));
    Map<String, String> to = Shelving.RANGES.of(paths, 6, Map.of());
    Map<String, Long> sizes =
        to.values().stream()
            .collect(
                java.util.stream.Collectors.groupingBy(
                    p -> p.substring(0, p.indexOf('/')), java.util.stream.Collectors.counting()));
    assertThat(sizes).containsOnlyKeys("0-B", "C-E", "F-Z");
    assertThat(sizes.values()).allMatch(n -> n <= 6);
    assertThat(Shelving.KIND.of(paths, 0, Map.of()).values()).allMatch(p -> p.startsWith("PAT/"));
    assertThat(Shelving.LETTER.of(List.of("9.x", "éa.x"), 0, Map.of()).values())
        .containsExactly("0-9/9.x", "E/éa.x");
    assertThat(Shelving.pages(41, 20)).isEqualTo(3);
    // One letter of more than the bound stands alone, and the others keep to it.
    "CCCCCCCC".chars().forEach(c -> paths.add("in/C" + paths.size() + ".pat"));
    Map<String, Long> again =
        Shelving.RANGES.of(paths, 6, Map.of()).values().stream()
            .collect(
                java.util.stream.Collectors.groupingBy(
                    x -> x.substring(0, x.indexOf('/')), java.util.stream.Collectors.counting()));
    assertThat(again.get("C")).isEqualTo(9);
    again.remove("C");
    assertThat(again.values()).allMatch(n -> n <= 6);
  }
}
