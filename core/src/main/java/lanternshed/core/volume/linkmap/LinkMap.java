package lanternshed.core.volume.linkmap;

import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.names.NameRule;
import lanternshed.core.volume.Filesystem;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Recognised;

/**
 * Small 8-bit disks of 35, 40 or 80 tracks whose blocks of 256 bytes are linked by track and block,
 * with map and catalogue on a middle track. Told by its length, by where the map's first block
 * points, and by a map whose counts are those of its bits.
 */
public final class LinkMap implements Filesystem {

  @Override
  public String key() {
    return "link-map";
  }

  @Override
  public List<String> kinds() {
    return List.of(MapLayout.KIND);
  }

  @Override
  public String unit() {
    return "block";
  }

  @Override
  public List<NameRule> names() {
    return List.of(NameRule.of("typed-16"));
  }

  @Override
  public boolean speaksForItself() {
    return false;
  }

  @Override
  public Optional<Maker> maker() {
    return Optional.of(new MapMaker());
  }

  @Override
  public Optional<Recognised> recognise(Medium m, Hint hint) {
    if (!hint.whole() || m.sectorSize() != 512) return Optional.empty();
    for (int tracks : new int[] {35, 40, 80}) {
      MapLayout l = new MapLayout(tracks, "", "");
      if (m.sectors() != l.sectorCount()) continue;
      byte[] disk = m.sectors(0, (int) m.sectors());
      int map = l.at(l.middle(), 0);
      int first = disk[map] & 0xFF;
      int agreeing = agreeing(l, disk);
      // The first link, and nine tracks of ten: a damaged map is still one.
      if (first != l.middle() || agreeing * 10 < Math.min(tracks, 35) * 9) continue;
      int title = map + (l.large() ? 4 : 144);
      int id = map + (l.large() ? 22 : 162);
      MapLayout read =
          new MapLayout(
              tracks, MapNames.read(disk, title, MapLayout.MOST_NAME), MapNames.read(disk, id, 2));
      Sum sum =
          Sum.of("F-16", MapLayout.KIND)
              .line("", "blocks of 256 B, the length of " + tracks + " tracks", l.blocks())
              .line("", "tracks whose count is that of its bits", agreeing)
              .because("Its map's first block points into its own track, as the drive expects.")
              .done();
      return Optional.of(
          new Recognised(
              MapLayout.KIND,
              read.title(),
              read.sectorCount(),
              sum,
              Optional.of(MapVolume.open(disk, read, sum))));
    }
    return Optional.empty();
  }

  private static int agreeing(MapLayout l, byte[] disk) {
    int n = 0;
    for (int t = 1; t <= l.tracks(); t++) {
      int at = BlockMap.entry(l, t, disk);
      if (at >= 0 && BlockMap.agrees(disk, at, l.blocks(t))) n++;
    }
    return n;
  }
}
