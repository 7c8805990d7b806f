package lanternshed.core.survey;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;

/**
 * What lies where on a medium: table, boot sectors, FATs, folders, files, free space. Where two
 * overlap the first counts.
 */
public final class Whereabouts {

  /** A piece that belongs to one place alone, up to its end. */
  private record Piece(long end, Place of) {}

  private final List<Place> places = new ArrayList<>();

  /** By first sector; disjoint, so that a sector is found without going through all places. */
  private final TreeMap<Long, Piece> pieces = new TreeMap<>();

  private Whereabouts() {}

  /**
   * Names everything that can be named; what is damaged ends the list early, never with a fault.
   */
  public static Whereabouts of(Medium image) {
    Whereabouts w = new Whereabouts();
    try {
      w.all(image);
    } catch (ShedException e) {
      // What would have named the rest is damaged; it stays without a name.
    }
    return w;
  }

  public List<Place> places() {
    return List.copyOf(places);
  }

  /** What lies at a sector; empty where nothing is known of it. */
  public Optional<Place> at(long sector) {
    Map.Entry<Long, Piece> e = pieces.floorEntry(sector);
    return e == null || e.getValue().end() <= sector
        ? Optional.empty()
        : Optional.of(e.getValue().of());
  }

  /** Everything that lies in a run of sectors, in the order on the medium. */
  public List<Place> in(long start, long length) {
    Long first = pieces.floorKey(start);
    return pieces.subMap(first == null ? start : first, start + length).values().stream()
        .filter(p -> p.end() > start)
        .map(Piece::of)
        .distinct()
        .toList();
  }

  /** Whether these runs belong to this one place alone; crossed chains share theirs. */
  public boolean isOnly(String path, long start, List<long[]> runs) {
    return runs.stream()
        .flatMap(r -> in(start + r[0], r[1]).stream())
        .allMatch(p -> p.path().equals(path));
  }

  private void all(Medium image) {
    Opener.Opened opened = Opener.open(image);
    opened.table().ifPresent(t -> t.scheme().places(t.reading(), image).forEach(p -> add(p, 0)));
    for (Opener.Part part : opened.parts()) {
      if (part.slice().isEmpty()) continue;
      try {
        part(part);
      } catch (ShedException e) {
        // This volume ends early; the next one has its names all the same.
      }
    }
  }

  /** What is in a volume; of one that is not read as files only what it is called. */
  private void part(Opener.Part part) {
    long start = part.entry().start();
    if (part.volume().isPresent()) part.volume().get().places().forEach(p -> add(p, start));
    else if (part.entry().number() > 0) {
      long length = part.slice().orElseThrow().sectors();
      add(Place.of("volume", part.entry().typeName(), 0, length, 0), start);
    }
  }

  private void add(Place relative, long sectors) {
    if (relative.length() <= 0) return;
    Place p = relative.moved(sectors);
    long start = p.start();
    long length = p.length();
    places.add(p);
    // Only what nothing before it has: gaps between the pieces that are there.
    long at = start;
    long end = start + length;
    while (at < end) {
      Map.Entry<Long, Piece> before = pieces.floorEntry(at);
      if (before != null && before.getValue().end() > at) {
        at = before.getValue().end();
        continue;
      }
      Long next = pieces.higherKey(at);
      long to = next == null ? end : Math.min(end, next);
      pieces.put(at, new Piece(to, p));
      at = to;
    }
  }
}
