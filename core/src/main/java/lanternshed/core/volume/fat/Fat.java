package lanternshed.core.volume.fat;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.names.NameRule;
import lanternshed.core.volume.Filesystem;
import lanternshed.core.volume.Grower;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Search;
import lanternshed.core.volume.VolumeException;

/** FAT12, FAT16 and FAT32, and the 16-bit volumes of the DMA bus. */
public final class Fat implements Filesystem {
  /** How tables of machines begin whose FATs have 16 bits whatever the number of clusters. */
  private static final String ALWAYS_16 = "AHDI";

  @Override
  public String key() {
    return "fat";
  }

  @Override
  public List<String> kinds() {
    return Arrays.stream(FatKind.values()).map(FatKind::name).toList();
  }

  @Override
  public List<NameRule> names() {
    return List.of(NameRule.of("8.3"), NameRule.of("long"));
  }

  @Override
  public boolean speaksForItself() {
    return true;
  }

  @Override
  public Optional<Recognised> recognise(Medium slice, Hint hint) {
    try {
      return Optional.of(recognised(open(slice, hint)));
    } catch (VolumeException e) {
      return Optional.empty();
    }
  }

  private static FatVolume open(Medium slice, Hint hint) {
    if (hint.scheme().startsWith(ALWAYS_16)) return FatVolume.openAlways16(slice);
    if (hint.damaged()) return FatVolume.open(slice);
    return FatVolume.recognise(slice).orElseThrow(() -> new VolumeException("No boot sector."));
  }

  private static Recognised recognised(FatVolume v) {
    FatLayout l = v.layout();
    Sum evidence =
        Sum.of("F-1", v.kind())
            .note("boot sector", "its fields make sense together")
            .line("", "clusters", l.clusters())
            .because(
                "The kind follows from the number of clusters: " + Say.count(l.clusters()) + ".")
            .done();
    long sectors = l.total() * (l.bytesPerSector() / 512);
    return new Recognised(v.kind(), "", sectors, evidence, Optional.of(v));
  }

  @Override
  public Optional<String> refusal(Medium slice) {
    try {
      FatVolume.open(slice);
      return Optional.empty();
    } catch (VolumeException e) {
      boolean none = slice.sectors() > 0 && !beginsLikeOne(slice.sectors(0, 1));
      return none ? Optional.empty() : Optional.of(e.getMessage());
    }
  }

  /** A jump over the parameter block, or the signature at the end; each may be lost alone. */
  private static boolean beginsLikeOne(byte[] b) {
    if (b.length < 512) return false;
    int first = b[0] & 0xFF;
    boolean jump = first == 0xE9 || first == 0xEB && (b[2] & 0xFF) == 0x90;
    return jump || (b[510] & 0xFF) == 0x55 && (b[511] & 0xFF) == 0xAA;
  }

  @Override
  public Optional<Maker> maker() {
    return Optional.of(new FatMaker());
  }

  @Override
  public Optional<Grower> grower() {
    return Optional.of(new FatGrow());
  }

  @Override
  public Optional<Search> search() {
    return Optional.of(new FatSearch());
  }
}
