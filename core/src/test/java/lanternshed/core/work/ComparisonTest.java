package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.medium.MemoryMedium;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ComparisonTest {

  private static MemoryMedium filled(long sectors) {
    MemoryMedium m = new MemoryMedium(sectors);
    byte[] b = Samples.content(1, (int) sectors * 512);
    m.write(0, (int) sectors, b, 0);
    return m;
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2047, 2048, 2049, 5000})
  void theFirstDifferenceIsFoundWhereverItLies(long sectors) {
    for (long at : new long[] {0, sectors / 2, sectors - 1}) {
      MemoryMedium a = filled(sectors);
      MemoryMedium b = filled(sectors);
      assertThat(Comparison.of(a, b, 0, Progress.NONE, "").identical()).isTrue();
      byte[] s = b.sector(at);
      s[511] ^= 1;
      b.write(at, 1, s, 0);
      Comparison c = Comparison.of(a, b, 0, Progress.NONE, "");
      assertThat(c.first()).isEqualTo(at);
      assertThat(c.differing()).isEqualTo(1);
      assertThat(c.identical()).isFalse();
    }
  }

  @Test
  void neighboursAreOneRangeAndALongerOneIsSaid() {
    MemoryMedium a = filled(300);
    MemoryMedium b = new MemoryMedium(310);
    b.write(0, 300, a.sectors(0, 300), 0);
    b.write(10, 3, new byte[3 * 512], 0);
    b.write(20, 1, new byte[512], 0);
    Comparison c = Comparison.of(a, b, 0, Progress.NONE, "");
    assertThat(c.ranges()).containsExactly(new long[] {10, 3}, new long[] {20, 1});
    assertThat(c.longer()).isEqualTo(-10);
    assertThat(c.compared()).isEqualTo(300);
  }

  @Test
  void thousandsOfDifferencesAreCountedAndTheFirstHundredListed() {
    MemoryMedium a = filled(4000);
    MemoryMedium b = filled(4000);
    for (long s = 0; s < 4000; s += 2) b.write(s, 1, new byte[512], 0);
    Comparison c = Comparison.of(a, b, 0, Progress.NONE, "");
    assertThat(c.differing()).isEqualTo(2000);
    assertThat(c.ranges()).hasSize(100);
  }

  // ---- digests ----------------------------------------------------------------------------------

  @ParameterizedTest
  @ValueSource(longs = {1, 2048, 32_767, 32_768, 32_769, 70_000})
  void digestsAreThoseOfTheWholeAndOfEachChunk(long sectors) {
    MemoryMedium m = filled(sectors);
    byte[] all = m.sectors(0, (int) sectors);
    Digests d = Digests.of(m, Progress.NONE, "");
    assertThat(d.sha256()).isEqualTo(Tool.sha256(all));
    java.util.zip.CRC32 crc = new java.util.zip.CRC32();
    crc.update(all);
    assertThat(d.crc32()).isEqualTo(crc.getValue());
    int chunk = Digests.CHUNK_BYTES;
    assertThat(d.chunks()).hasSize((all.length + chunk - 1) / chunk);
    List<String> expected = new ArrayList<>();
    for (int at = 0; at < all.length; at += chunk) {
      var digest = Digests.digest("SHA-512/256");
      digest.update(all, at, Math.min(chunk, all.length - at));
      expected.add(Digests.hex(digest.digest()));
    }
    assertThat(d.chunks()).isEqualTo(expected);
  }

  @Test
  void anotherByteIsPlacedInItsChunk() {
    MemoryMedium m = filled(70_000);
    Digests before = Digests.of(m, Progress.NONE, "");
    m.write(40_000, 1, new byte[512], 0);
    Digests after = Digests.of(m, Progress.NONE, "");
    assertThat(after.sha256()).isNotEqualTo(before.sha256());
    assertThat(after.chunks().get(0)).isEqualTo(before.chunks().get(0));
    assertThat(after.chunks().get(1)).isNotEqualTo(before.chunks().get(1));
    assertThat(after.chunks().get(2)).isEqualTo(before.chunks().get(2));
  }

  @Test
  void progressIsToldToTheEndAndCanStopTheWork() {
    long[] last = {0, 0};
    Digests.of(
        filled(10_000),
        (phase, done, total) -> {
          assertThat(phase).isEqualTo("reading");
          assertThat(done).isGreaterThan(last[0]);
          last[0] = done;
          last[1] = total;
        },
        "reading");
    assertThat(last[0]).isEqualTo(last[1]).isEqualTo(10_000 * 512);
    org.assertj.core.api.Assertions.assertThatThrownBy(
            () ->
                Comparison.of(
                    filled(10_000),
                    filled(10_000),
                    0,
                    (p, done, total) -> {
                      throw new StoppedException("enough");
                    },
                    ""))
        .isInstanceOf(StoppedException.class);
  }
}
