package lanternshed.core.prove;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.prove.Speeds.SpeedRow;
import lanternshed.core.prove.Speeds.Verdict;
import lanternshed.core.prove.Timing.Kind;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SpeedsTest {
  private static final Optional<Speeds.Limit> BUS =
      Optional.of(new Speeds.Limit(3_300_000, "PIO mode 0"));

  private static List<Timing> taken(Kind kind, boolean after, String... figures) {
    List<Timing> out = new ArrayList<>();
    for (String f : figures) out.add(new Timing(kind, after, f, "system 6", "disk test"));
    return out;
  }

  @SafeVarargs
  private static Speeds of(Optional<Speeds.Limit> limit, List<Timing>... all) {
    List<Timing> flat = new ArrayList<>();
    for (List<Timing> t : all) flat.addAll(t);
    return Speeds.of(flat, limit);
  }

  @ParameterizedTest
  @CsvSource({
    "READ,812 KB/s,812000", "READ,1.4 MB/s,1400000", "READ,800 KiB/s,819200", "RANDOM,28 ms,0.028",
    "RANDOM,41 /s,41", "PROMPT,1 min 40 s,100", "PROMPT,1:40,100", "PROMPT,100 s,100",
    "INSTALL,35 min,2100", "INSTALL,1:05:00,3900", "WRITE,'1,5 mb/s',1500000",
  })
  void figuresAreReadAsToolsAndClocksGiveThem(Kind kind, String text, double amount) {
    assertThat(new Timing(kind, false, text, "", "").value().amount()).isEqualTo(amount);
  }

  @ParameterizedTest
  @CsvSource({
    "READ,fast",
    "READ,35 min",
    "PROMPT,812 KB/s",
    "READ,812",
    "PROMPT,",
    "READ,0 KB/s",
    "PROMPT,1 min about",
    "READ,1 KB/s 2 KB/s",
    "PROMPT,-5 s",
    "PROMPT,0 s",
  })
  void whatIsNoFigureOfItsKindIsRefused(Kind kind, String text) {
    assertThatThrownBy(() -> new Timing(kind, false, text == null ? "" : text, "", "").checked())
        .hasMessageStartingWith("“");
  }

  @Test
  void theMiddleOfRepeatedOnesIsComparedAndTheSpreadShown() {
    SpeedRow r =
        of(
                BUS,
                taken(Kind.READ, false, "610 KB/s", "640 KB/s", "600 KB/s"),
                taken(Kind.READ, true, "1.2 MB/s", "1.4 MB/s"))
            .rows()
            .get(0);
    assertThat(r.before().text()).isEqualTo("610 kB/s");
    assertThat(r.before().spread()).isEqualTo("600 kB/s to 640 kB/s");
    assertThat(r.after().middle()).isEqualTo(1_300_000);
    assertThat(r.verdict()).isEqualTo(Verdict.FASTER);
    assertThat(r.change()).isEqualTo("+113 %");
    assertThat(r.sentence()).isEmpty();
  }

  @Test
  void aTimeThatFallsIsFasterAndRangesThatTouchAreAlike() {
    Speeds s =
        of(
            BUS,
            taken(Kind.PROMPT, false, "100 s"),
            taken(Kind.PROMPT, true, "40 s"),
            taken(Kind.WRITE, false, "500 KB/s", "700 KB/s"),
            taken(Kind.WRITE, true, "650 KB/s", "900 KB/s"));
    assertThat(s.rows())
        .extracting(SpeedRow::kind, SpeedRow::verdict)
        .containsExactly(
            org.assertj.core.groups.Tuple.tuple(Kind.WRITE, Verdict.ALIKE),
            org.assertj.core.groups.Tuple.tuple(Kind.PROMPT, Verdict.FASTER));
    assertThat(s.rows().get(1).change()).isEqualTo("−60 %");
  }

  @Test
  void aDropIsExplainedOrToBeTakenAgain() {
    List<Timing> reads = new ArrayList<>(taken(Kind.READ, false, "600 KB/s", "610 KB/s"));
    reads.addAll(taken(Kind.READ, true, "900 KB/s", "910 KB/s"));
    List<Timing> before = taken(Kind.WRITE, false, "500 KB/s", "510 KB/s");
    assertThat(of(BUS, before, taken(Kind.WRITE, true, "200 KB/s")).rows().get(0).sentence())
        .contains("taken once");
    List<Timing> slow = taken(Kind.WRITE, true, "200 KB/s", "210 KB/s");
    assertThat(of(BUS, reads, before, slow).rows().get(1).sentence())
        .contains("Cards write small blocks slowly");
    assertThat(of(BUS, before, slow).rows().get(0).sentence()).contains("transfer mode");
  }

  @Test
  void onlyTheSameSystemAndToolAreCompared() {
    List<Timing> all = new ArrayList<>();
    all.add(new Timing(Kind.READ, false, "600 KB/s", "System 6", "Disk  Test "));
    all.add(new Timing(Kind.READ, true, "900 KB/s", "system 6", "disk test"));
    all.add(new Timing(Kind.WRITE, false, "300 KB/s", "system 6", "disk test"));
    all.add(new Timing(Kind.WRITE, true, "310 KB/s", "system 7", "disk test"));
    all.add(new Timing(Kind.PROMPT, true, "20 s", "", ""));
    all.add(new Timing(Kind.RANDOM, false, "28 ms", "", ""));
    all.add(new Timing(Kind.RANDOM, true, "90 /s", "", ""));
    List<SpeedRow> rows = Speeds.of(all, Optional.empty()).rows();
    assertThat(rows)
        .extracting(SpeedRow::verdict)
        .containsExactly(
            Verdict.FASTER,
            Verdict.NOT_COMPARABLE,
            Verdict.NOT_COMPARABLE,
            Verdict.NOT_COMPARABLE,
            Verdict.NOT_COMPARABLE,
            Verdict.ONLY_AFTER);
    assertThat(rows.get(1).sentence()).contains("disk test under system 7");
    assertThat(rows.get(3).sentence()).contains("another unit");
    assertThat(rows.get(1).change()).isEmpty();
  }

  @Test
  void theBusIsNamedWhereItBinds() {
    String near = of(BUS, taken(Kind.READ, true, "3.1 MB/s")).rows().get(0).sentence();
    assertThat(near).contains("PIO mode 0 carries: a faster card changes nothing");
    String beyond = of(BUS, taken(Kind.READ, true, "8 MB/s")).rows().get(0).sentence();
    assertThat(beyond).contains("More than PIO mode 0 can carry");
    String under = of(BUS, taken(Kind.READ, true, "1 MB/s")).rows().get(0).sentence();
    assertThat(under).doesNotContain("PIO");
  }
}
