package lanternshed.core.fuzz;

import com.code_intelligence.jazzer.junit.FuzzTest;
import java.util.Arrays;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.survey.Survey;
import lanternshed.core.survey.Surveyor;
import lanternshed.core.survey.Whereabouts;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.exfat.ExfatVolume;
import lanternshed.core.volume.fat.FatRepair;
import lanternshed.core.volume.fat.FatVolume;

/**
 * Every reader of a medium against bytes that a coverage-guided fuzzer makes up: no fault past the
 * interface but a sentence of ours, no loop, no allocation without a bound.
 */
class SurveyFuzz {
  private static final int ROOM = 4096;

  @FuzzTest(maxDuration = "6s")
  void anyBytesAreSurveyed(byte[] data) {
    MemoryMedium m = new MemoryMedium(ROOM);
    int sectors = Math.min(ROOM, (data.length + 511) / 512);
    m.write(0, sectors, Arrays.copyOf(data, sectors * 512), 0);
    Survey s = Surveyor.survey(m);
    Whereabouts.of(m).at(7);
    for (Survey.Found v : s.volumes()) {
      if (!v.readable()) continue;
      SliceMedium slice =
          new SliceMedium(m, v.start(), Math.min(v.length(), m.sectors() - v.start()));
      try {
        Volume volume =
            v.kind().equals("exFAT")
                ? ExfatVolume.recognise(slice).orElseThrow()
                : FatVolume.open(slice);
        volume.use();
        int read = 0;
        for (Node n : volume.all()) {
          if (n.folder() || n.bytes() > 1 << 20 || read++ > 50) continue;
          readBounded(volume, n);
        }
        if (volume instanceof FatVolume fat) mended(fat, m, v);
      } catch (ShedException e) {
        // A sentence of ours is an answer.
      }
    }
  }

  private static void readBounded(Volume volume, Node n) {
    long[] got = {0};
    try {
      volume.read(n, (b, at, length) -> got[0] += length);
    } catch (ShedException e) {
      // A sentence of ours is an answer.
    }
    if (got[0] > n.bytes()) throw new IllegalStateException("more than its length was given");
  }

  /** What was mended has nothing more to mend. */
  private static void mended(FatVolume fat, MemoryMedium m, Survey.Found v) {
    FatRepair r = FatRepair.plan(fat);
    if (r.changes().isEmpty() || v.length() > ROOM) return;
    MemoryMedium copy = new MemoryMedium(ROOM);
    copy.write(0, ROOM, m.sectors(0, ROOM), 0);
    r.apply(new SliceMedium(copy, v.start(), Math.min(v.length(), ROOM - v.start())));
  }
}
