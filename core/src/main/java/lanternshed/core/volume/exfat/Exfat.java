package lanternshed.core.volume.exfat;

import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.names.NameRule;
import lanternshed.core.volume.Filesystem;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Search;

/** exFAT, as carrier cards have it. */
public final class Exfat implements Filesystem {
  @Override
  public String key() {
    return "exfat";
  }

  @Override
  public List<String> kinds() {
    return List.of("exFAT");
  }

  @Override
  public List<NameRule> names() {
    return List.of(NameRule.of("long"));
  }

  @Override
  public boolean speaksForItself() {
    return true;
  }

  @Override
  public Optional<Recognised> recognise(Medium slice, Hint hint) {
    return ExfatVolume.recognise(slice).filter(v -> hint.damaged() || !v.byCopy()).map(Exfat::of);
  }

  private static Recognised of(ExfatVolume v) {
    long sectors = v.layout().sectors() * v.layout().per512();
    Sum evidence =
        Sum.of("F-2", "exFAT")
            .note("boot sector", "the mark EXFAT, and figures that fit the medium")
            .line("", "clusters", v.layout().clusters())
            .because("The boot sector names the filesystem itself.")
            .done();
    return new Recognised("exFAT", "", sectors, evidence, Optional.of(v));
  }

  @Override
  public Optional<Maker> maker() {
    return Optional.of(new ExfatMaker());
  }

  @Override
  public Optional<Search> search() {
    return Optional.of(Exfat::see);
  }

  private static List<Search.Found> see(Medium m, long lba, byte[] b, int at) {
    if (b[at] != (byte) 0xEB) return List.of();
    Medium rest = new SliceMedium(m, lba, m.sectors() - lba);
    return ExfatVolume.recognise(rest)
        .filter(v -> !v.byCopy())
        .map(v -> Math.min(rest.sectors(), v.layout().sectors() * v.layout().per512()))
        .map(n -> new Search.Found(lba, n, "", "", "its boot sector", new byte[0]))
        .stream()
        .toList();
  }
}
