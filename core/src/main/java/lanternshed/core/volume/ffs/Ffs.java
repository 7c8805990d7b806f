package lanternshed.core.volume.ffs;

import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.names.NameRule;
import lanternshed.core.volume.Filesystem;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Search;
import lanternshed.core.volume.Volume;

/**
 * OFS and FFS: "DOS" and a figure in the boot block, a root block in the middle whose longs sum to
 * zero. Read, checked, mended and made; links are told and not followed.
 */
public final class Ffs implements Filesystem {
  @Override
  public String key() {
    return "ffs";
  }

  @Override
  public List<String> kinds() {
    return FfsLayout.KINDS;
  }

  @Override
  public String unit() {
    return "block";
  }

  @Override
  public List<NameRule> names() {
    return List.of(NameRule.of("latin-30"));
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
  public Optional<Maker> maker() {
    return Optional.of(new FfsMaker());
  }

  @Override
  public Optional<Recognised> recognise(Medium m, Hint hint) {
    if (m.sectorSize() != FfsBlock.BYTES || m.sectors() < 8) {
      return Optional.empty();
    }
    byte[] boot = m.sector(0);
    if (boot[0] != 'D' || boot[1] != 'O' || boot[2] != 'S' || boot[3] < 0 || boot[3] > 5) {
      return Optional.empty();
    }
    FfsLayout l = new FfsLayout(boot[3], m.sectors(), "", 0);
    byte[] root = m.sector(l.root());
    boolean whole = FfsBlock.sum(root) == 0;
    boolean isRoot =
        FfsBlock.long32(root, FfsBlock.TYPE) == FfsBlock.HEADER
            && FfsBlock.long32(root, FfsBlock.SECONDARY_TYPE) == FfsBlock.ROOT;
    boolean read = isRoot && m.sectors() <= FfsMaker.MOST_SECTORS;
    Optional<Volume> volume = read ? Optional.of(new FfsVolume(m, l, root)) : Optional.empty();
    String there = whole ? "found, checksum right" : "found, checksum wrong";
    return Optional.of(
        new Recognised(
            l.kindName(),
            volume.map(Volume::label).orElse(""),
            0,
            Sum.of("A-2", l.kindName())
                .note("boot block", "DOS and figure " + boot[3])
                .line("", "root block expected at", l.root())
                .note("root block", isRoot ? there : "not found")
                .note("read as files", read ? "yes" : "no: without a root, or past 128 GiB")
                .because(
                    "The root block stands in the middle of the volume: (reserved + highest) ÷ 2.")
                .done(),
            volume));
  }
}
