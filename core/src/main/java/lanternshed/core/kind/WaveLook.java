package lanternshed.core.kind;

import java.util.Optional;
import lanternshed.core.measure.Say;

/**
 * Sound as RIFF/WAVE: rate and length give the seconds that a machine listens.
 *
 * <p>RIFF, its length, WAVE; then chunks of four letters, a length and so many bytes, even ones
 * ("fmt " and "data"), as the multimedia programming interface publishes them (1991).
 */
final class WaveLook implements Look {
  private static final int MOST_CHUNKS = 64;
  private static final int FORMAT = 16;

  @Override
  public Optional<Known> look(Sample s) {
    if (!s.begins(0, "RIFF") || !s.begins(8, "WAVE")) return Optional.empty();
    long at = 12;
    long perSecond = 0;
    String form = "";
    for (int i = 0; i < MOST_CHUNKS && at + 8 <= s.head().length; i++) {
      int a = (int) at;
      long length = s.little32(a + 4);
      if (s.begins(a, "fmt ") && a + 8 + FORMAT <= s.head().length) {
        perSecond = s.little32(a + 16);
        form = form(s, a + 8);
      } else if (s.begins(a, "data")) {
        return Optional.of(sound(s, form, perSecond, length, s.length() - a - 8));
      }
      at += 8 + length + (length & 1);
    }
    return Optional.of(Known.of(Kind.RECORDED_TAPE, form).faulty("it has no sound in it"));
  }

  private static String form(Sample s, int at) {
    String channels = s.little(at + 2) == 1 ? "mono" : s.little(at + 2) + " channels";
    String packed = s.little(at) == 1 ? "" : ", not plain samples";
    return Say.count(s.little32(at + 4))
        + " Hz, "
        + s.little(at + 14)
        + " bits, "
        + channels
        + packed;
  }

  private static Known sound(Sample s, String form, long perSecond, long said, long there) {
    if (perSecond == 0) {
      return Known.of(Kind.RECORDED_TAPE, form).faulty("its rate is not said");
    }
    long seconds = Math.min(said, there) / perSecond;
    Known k = new Known(Kind.RECORDED_TAPE, form + ", " + Say.seconds(seconds), "", seconds);
    return said <= there
        ? k
        : k.faulty(
            "cut short: "
                + Say.bytes(said)
                + " of sound are said, "
                + Say.bytes(there)
                + " are there");
  }
}
