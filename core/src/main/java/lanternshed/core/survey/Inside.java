package lanternshed.core.survey;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.RunsMedium;
import lanternshed.core.medium.SmallDisks;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;

/**
 * Storage is a tree: a file on a volume may be the image of a whole drive again, as on a carrier
 * card. Each step goes one down, and what is found is a medium like any other.
 */
public final class Inside {
  /** A carrier in a carrier in a carrier: more is no card that a machine reads. */
  public static final int MOST_DEPTH = 4;

  /** The least that holds a table and a volume. */
  private static final long LEAST_BYTES = 64 << 10;

  private Inside() {}

  /**
   * A file in a file, as deep as the steps go.
   *
   * @param steps as in {@link #open(Medium, String)}, the outermost first
   * @throws ShedException where they go deeper than {@link #MOST_DEPTH}
   */
  public static Medium open(Medium m, List<String> steps) {
    if (steps.size() > MOST_DEPTH) {
      throw new ShedException("Images are opened " + MOST_DEPTH + " deep, not deeper.");
    }
    Medium out = m;
    for (String step : steps) out = open(out, step);
    return out;
  }

  /**
   * A file as a medium.
   *
   * @param path number of the volume and the file's path in it, "1/DRIVE1.IMG"; 0 where there is no
   *     table
   * @throws ShedException where there is no such file, or it is no whole number of sectors
   */
  public static Medium open(Medium m, String path) {
    int slash = path.indexOf('/');
    String number = slash < 0 ? "" : path.substring(0, slash);
    if (!number.matches("\\d{1,3}")) {
      throw new ShedException(
          "\"" + path + "\" does not begin with the number of a volume; say 1/NAME.IMG.");
    }
    String file = path.substring(slash + 1);
    Volumes.Opened o = Volumes.at(m, Integer.parseInt(number));
    Node n =
        o.volume().all().stream()
            .filter(x -> !x.folder() && x.path().equalsIgnoreCase(file))
            .findFirst()
            .orElseThrow(() -> new ShedException("There is no file " + file + " on it."));
    Optional<String> why = o.volume().notWhole(n);
    if (why.isPresent()) {
      throw new ShedException(file + " is not whole: " + why.get() + ".");
    }
    return medium(m, o, n);
  }

  private static Medium medium(Medium m, Volumes.Opened o, Node n) {
    Medium slice = Opener.slice(m, o.start(), m.sectors() - o.start());
    return new RunsMedium(slice, o.volume().sectorsOf(n), SmallDisks.sectors(n.bytes()), n.path());
  }

  /**
   * A file that was found.
   *
   * @param way down to the image that it lies in, as for {@link #open(Medium, List)}
   * @param path "volume/path" of the file itself
   */
  public record Hit(List<String> way, String path, long bytes) {}

  /**
   * What a search found.
   *
   * @param whole whether it looked everywhere; else there may be more
   */
  public record Hits(List<Hit> hits, boolean whole) {}

  /**
   * Files with some letters in their path, in an image and in the images on it.
   *
   * @param most of them; the search ends there
   */
  public static Hits find(Medium m, String letters, int most) {
    return find(m, letters, most, most);
  }

  /**
   * The same, where one volume with many hits must not hide those of the others.
   *
   * @param mostOfOne of one volume; where so many are told there may be others on it
   */
  public static Hits find(Medium m, String letters, int most, int mostOfOne) {
    Search s = new Search(letters, most, mostOfOne);
    s.in(m, List.of());
    return new Hits(List.copyOf(s.hits), !s.full && !s.missed);
  }

  /**
   * One search; what it opens is bounded, for files of a damaged volume may share their sectors.
   */
  private static final class Search {
    private static final int MOST_OPENED = 2000;
    private final String letters;
    private final int most;
    private final int mostOfOne;
    private final List<Hit> hits = new ArrayList<>();
    private int opened;

    /** Nothing more is looked for. */
    private boolean full;

    /** Something does not open; the search goes on beside it. */
    private boolean missed;

    Search(String letters, int most, int mostOfOne) {
      this.letters = letters;
      this.most = most;
      this.mostOfOne = mostOfOne;
    }

    void in(Medium m, List<String> way) {
      for (Volumes.Opened o : Volumes.all(m)) {
        Medium slice = Opener.slice(m, o.start(), m.sectors() - o.start());
        int here = 0;
        for (Node n : o.volume().all()) {
          if (n.folder()) continue;
          String path = o.number() + "/" + n.path();
          if (n.hasLetters(letters)) {
            full |= hits.size() == most;
            if (full) return;
            if (here++ < mostOfOne) hits.add(new Hit(way, path, n.bytes()));
          }
          if (way.size() < MOST_DEPTH) deeper(m, o, n, slice, way, path);
        }
      }
    }

    private void deeper(
        Medium m, Volumes.Opened o, Node n, Medium slice, List<String> way, String path) {
      if (n.bytes() < LEAST_BYTES || full) return;
      full = ++opened > MOST_OPENED;
      if (full) return;
      try {
        if (imageIn(slice, o.volume(), n).isEmpty()) return;
        List<String> down = new ArrayList<>(way);
        down.add(path);
        in(medium(m, o, n), down);
      } catch (ShedException e) {
        missed = true;
      }
    }
  }

  /** What a file is the image of, in words; empty where it is none. */
  public static Optional<String> imageIn(Medium slice, Volume v, Node n) {
    if (n.folder() || n.bytes() < LEAST_BYTES || v.notWhole(n).isPresent()) return Optional.empty();
    Medium inside = new RunsMedium(slice, v.sectorsOf(n), SmallDisks.sectors(n.bytes()), n.path());
    Opener.Opened opened = Opener.open(inside);
    if (opened.table().isPresent()) {
      int parts = opened.parts().size();
      long known = opened.parts().stream().filter(p -> p.found().isPresent()).count();
      if (known == 0) return Optional.empty();
      String scheme = opened.table().get().reading().scheme();
      return Optional.of(scheme + " with " + Say.plural(parts, "volume", "volumes"));
    }
    // Without a table only what opens: a guess by a folder's look is no word to give of a file.
    return opened.parts().stream()
        .flatMap(p -> p.found().stream())
        .filter(r -> r.volume().isPresent())
        .findFirst()
        .map(r -> r.kind() + " without a table");
  }
}
