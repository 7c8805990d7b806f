package lanternshed.core.volume.ffs;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.Filesystem;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Search;

/**
 * OFS and FFS: "DOS" and a figure in the boot block, a root block in the middle whose longs sum to
 * zero. Recognised with its label; its files are not listed yet.
 */
public final class Ffs implements Filesystem {
  private static final int LABEL = 432;
  private static final int SECONDARY_TYPE = 508;
  private static final int RESERVED = 2;

  @Override
  public String key() {
    return "ffs";
  }

  @Override
  public List<String> kinds() {
    return List.of("OFS", "FFS");
  }

  @Override
  public boolean speaksForItself() {
    return false;
  }

  @Override
  public Optional<Search> search() {
    return Optional.of(new FfsSearch());
  }

  @Override
  public Optional<Recognised> recognise(Medium m, Hint hint) {
    if (m.sectors() < 8) return Optional.empty();
    byte[] boot = m.sector(0);
    if (boot[0] != 'D' || boot[1] != 'O' || boot[2] != 'S' || boot[3] < 0 || boot[3] > 5) {
      return Optional.empty();
    }
    long at = (RESERVED + m.sectors() - 1) / 2;
    byte[] root = m.sector(at);
    long sum = 0;
    for (int i = 0; i < 512; i += 4) sum += Bytes.be32(root, i);
    boolean whole = (sum & 0xFFFF_FFFFL) == 0;
    boolean isRoot = Bytes.be32(root, 0) == 2 && Bytes.be32(root, SECONDARY_TYPE) == 1;
    int length = Math.min(30, root[LABEL] & 0xFF);
    String label =
        isRoot
            ? new String(root, LABEL + 1, length, StandardCharsets.ISO_8859_1)
                .replaceAll("\\p{Cntrl}", "")
            : "";
    String kind = boot[3] % 2 == 0 ? "OFS" : "FFS";
    return Optional.of(
        new Recognised(
            kind,
            label,
            0,
            Sum.of("A-2", kind)
                .note("boot block", "DOS and figure " + boot[3])
                .line("", "root block expected at", at)
                .note(
                    "root block",
                    isRoot
                        ? (whole ? "found, checksum right" : "found, checksum wrong")
                        : "not found")
                .because(
                    "The root block stands in the middle of the volume: (reserved + highest) ÷ 2.")
                .done(),
            Optional.empty()));
  }
}
