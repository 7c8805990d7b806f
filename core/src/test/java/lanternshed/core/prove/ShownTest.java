package lanternshed.core.prove;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.SplittableRandom;
import lanternshed.core.measure.ShedException;
import lanternshed.core.measure.Sum;
import lanternshed.core.prove.Shown.Figure;
import lanternshed.core.prove.Shown.Predicted;
import lanternshed.core.prove.Shown.Seen;
import lanternshed.core.prove.Shown.ShownRow;
import lanternshed.core.prove.Shown.Verdict;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ShownTest {
  private static final Sum NONE = Sum.of("", "").done();

  private static ShownRow judged(Figure f, String text, long value, String seen, String explained) {
    Predicted p = new Predicted("k", "C: free", f, text, value, NONE);
    return Shown.judge(List.of(p), List.of(new Seen("k", seen, false, explained))).get(0);
  }

  private static ShownRow bytes(long value, String seen) {
    return judged(Figure.BYTES, "", value, seen, "");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "20840448 | 20840448",
        "20840448 | 20,840,448 bytes free",
        "20840448 | 20 840 448",
        "20840448 | 20.840.448",
        "20840448 | 20352K",
        "20840448 | 20 352 KB",
        "20840448 | 19.8 MB",
        "20840448 | 19,87 MiB",
        "20840448 | 20.8 MB",
        "20840448 | 20 MB",
        "1070596096 | 1,021 MB",
        "1070596096 | 1021M",
        "1070596096 | 1.07 GB",
        "901120 | 1760",
      })
  void aFigureIsTakenInEveryCountingThatScreensUse(long value, String seen) {
    assertThat(bytes(value, seen).verdict()).as(seen).isEqualTo(Verdict.AGREES);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "20840448 | 20840449 | 1 B more than predicted.",
        "20840448 | 20351 | 20.3 KiB",
        "20840448 | 21 000 KB",
        "20840448 | 18 MB",
        "901120 | 880 bytes",
        // A short number fits nearly everything in some unit.
        "901120 | 880",
      })
  void whatDiffersSaysByHowMuch(long value, String seen) {
    ShownRow r = bytes(value, seen.strip());
    assertThat(r.verdict()).as(seen).isEqualTo(Verdict.DIFFERS);
    assertThat(r.sentence()).matches(".+ (more|less) than predicted\\.");
  }

  @Test
  void theDifferenceIsThatOfTheFigureItself() {
    // 51 652 608 B are 49.26 MiB; 48 MB of 1 048 576 are 1.26 MiB less.
    assertThat(bytes(51_652_608, "48 MB").sentence()).isEqualTo("1.2 MiB less than predicted.");
  }

  @Test
  void aBareNumberIsTakenInTheMachinesOwnCountingAndSaysSo() {
    ShownRow r = bytes(901120, "1760");
    assertThat(r.sentence()).isEqualTo("Taken as blocks of 512 bytes.");
    assertThat(bytes(20840448, "20352").sentence()).isEqualTo("Taken as KiB.");
  }

  @Test
  void everyRoundingOfEveryFigureAgreesAndATenthOffDoesNot() {
    SplittableRandom r = new SplittableRandom(3);
    for (int i = 0; i < 2000; i++) {
      long value = r.nextLong(10_000_000, 200_000_000_000L);
      double m = value / 1048576.0;
      assertThat(bytes(value, String.format("%.1f MB", m)).verdict()).isEqualTo(Verdict.AGREES);
      assertThat(bytes(value, (long) m + " MiB").verdict()).isEqualTo(Verdict.AGREES);
      assertThat(bytes(value, value / 1024 + "K").verdict()).isEqualTo(Verdict.AGREES);
      assertThat(bytes(value, String.format("%.2f MB", m * 1.2)).verdict())
          .isEqualTo(Verdict.DIFFERS);
    }
  }

  @Test
  void numbersOfAGeometryAreComparedInTheirOrder() {
    String g = "1\u202f024 cylinders, 16 heads, 63 sectors";
    assertThat(judged(Figure.NUMBERS, g, 0, "1024/16/63", "").verdict()).isEqualTo(Verdict.AGREES);
    ShownRow other = judged(Figure.NUMBERS, g, 0, "CHS 981 16 63", "");
    assertThat(other.verdict()).isEqualTo(Verdict.DIFFERS);
    assertThat(other.sentence()).isEqualTo("981 shown in place of 1\u202f024.");
    assertThat(judged(Figure.NUMBERS, g, 0, "1024", "").sentence()).contains("predicted are 3");
    assertThat(judged(Figure.NUMBERS, g, 0, "", "").verdict()).isEqualTo(Verdict.OPEN);
  }

  @Test
  void aPassNeedsEachRowReadOrSaidToBeUnseenAndAReasonWhereItDiffers() {
    List<Predicted> two =
        List.of(
            new Predicted("a", "C: free", Figure.BYTES, "", 4096, NONE),
            new Predicted("b", "Drives", Figure.COUNT, "", 2, NONE));
    assertThatThrownBy(() -> pass(two, new Seen("a", "4096", false, "")))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("Drives: type what the machine shows");
    assertThatThrownBy(
            () -> pass(two, new Seen("a", "4096", false, ""), new Seen("b", "1", false, " ")))
        .hasMessage(
            "Drives: 1 less than predicted. Write why, or say that it is not as predicted.");
    assertThatThrownBy(() -> pass(two, new Seen("a", "some", false, "")))
        .hasMessageContaining("“some” has no figure");
    assertThat(
            pass(
                two,
                new Seen("a", "", true, ""),
                new Seen("b", "1", false, "the second is seen from the next restart on")))
        .isEqualTo("1 differs with a reason, 1 is not shown by it.");
    assertThat(pass(List.of())).isEmpty();
  }

  private static String pass(List<Predicted> p, Seen... seen) {
    return Shown.passed(Shown.judge(p, List.of(seen)));
  }

  @Test
  void whatIsTypedNeverBreaksIt() {
    SplittableRandom r = new SplittableRandom(9);
    String of = "0123456789 .,:/'KMGBib-bytes\u202f\u00a0“é";
    for (int i = 0; i < 5000; i++) {
      StringBuilder s = new StringBuilder();
      for (int n = r.nextInt(60); n > 0; n--) s.append(of.charAt(r.nextInt(of.length())));
      for (Figure f : Figure.values()) {
        assertThat(judged(f, "1 2 3", r.nextLong(1L << 50), s.toString(), "").verdict())
            .isNotNull();
      }
    }
    assertThat(bytes(1, "9".repeat(200) + " GB").verdict()).isEqualTo(Verdict.DIFFERS);
  }
}
