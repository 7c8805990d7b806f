package lanternshed.core.volume.hfs;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Filesystem;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Recognised;

/** By the volume header in sector 2, big endian: "BD" of HFS, "H+" and "HX" of HFS+. */
public final class Hfs implements Filesystem {
  private static final int HEADER = 2;
  private static final int OLD = 0x4244;
  private static final int PLUS = 0x482B;
  private static final int PLUS_X = 0x4858;

  // Of HFS.
  private static final int OLD_BLOCKS = 18;
  private static final int OLD_BLOCK_SIZE = 20;
  private static final int OLD_NAME = 36;

  // Of HFS+.
  private static final int BLOCK_SIZE = 40;
  private static final int BLOCKS = 44;
  private static final int FREE = 48;

  @Override
  public String key() {
    return "hfs";
  }

  @Override
  public List<String> kinds() {
    return List.of("HFS", "HFS+");
  }

  @Override
  public boolean speaksForItself() {
    return false;
  }

  @Override
  public Optional<Recognised> recognise(Medium m, Hint hint) {
    if (m.sectors() < 4) return Optional.empty();
    byte[] b = m.sector(HEADER);
    return switch (Bytes.be16(b, 0)) {
      case OLD -> old(b);
      case PLUS, PLUS_X -> plus(b);
      default -> Optional.empty();
    };
  }

  private static Optional<Recognised> old(byte[] b) {
    long size = Bytes.be32(b, OLD_BLOCK_SIZE);
    if (size < 512 || size % 512 != 0) return Optional.empty();
    int length = Math.min(27, b[OLD_NAME] & 0xFF);
    String label =
        new String(b, OLD_NAME + 1, length, StandardCharsets.ISO_8859_1)
            .replaceAll("\\p{Cntrl}", "");
    return Optional.of(made("HFS", label, Bytes.be16(b, OLD_BLOCKS), -1, size));
  }

  private static Optional<Recognised> plus(byte[] b) {
    long size = Bytes.be32(b, BLOCK_SIZE);
    if (size < 512 || Long.bitCount(size) != 1) return Optional.empty();
    return Optional.of(made("HFS+", "", Bytes.be32(b, BLOCKS), Bytes.be32(b, FREE), size));
  }

  private static Recognised made(String kind, String label, long blocks, long free, long size) {
    Sum.Builder sum = Sum.of("P-33", kind).line("", "blocks of " + Say.size(size), blocks);
    if (free >= 0) sum.line("−", "free", free).line("=", "used", Math.max(0, blocks - free));
    Sum evidence =
        sum.because("The header in sector 2 carries its mark and counts its blocks.").done();
    return new Recognised(kind, label, blocks * (size / 512), evidence, Optional.empty());
  }
}
