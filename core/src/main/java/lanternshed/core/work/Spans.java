package lanternshed.core.work;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * Sectors in rising order, as spans that do not touch. There are never more than a bound of them: a
 * medium on which every second sector fails must not fill the memory. Past it the last span takes
 * in what lies between, so that more is named than failed and never less.
 */
final class Spans {
  private static final int MOST = 1000;
  private final List<Span> list = new ArrayList<>();

  Spans() {}

  Spans(List<Span> begun) {
    begun.forEach(s -> add(s.start(), s.length()));
  }

  void add(long start, long length) {
    Span last = list.isEmpty() ? null : list.get(list.size() - 1);
    if (last == null || start > last.end() && list.size() < MOST) {
      list.add(new Span(start, length));
      return;
    }
    if (start < last.start()) {
      merge(start, length);
      return;
    }
    long end = Math.max(last.end(), start + length);
    list.set(list.size() - 1, new Span(last.start(), end - last.start()));
  }

  /** A second pass comes to the front again. */
  private void merge(long start, long length) {
    List<Span> all = new ArrayList<>(list);
    all.add(new Span(start, length));
    all.sort(Comparator.comparingLong(Span::start));
    list.clear();
    all.forEach(s -> add(s.start(), s.length()));
  }

  List<Span> list() {
    return List.copyOf(list);
  }

  boolean has(long sector) {
    return list.stream().anyMatch(s -> sector >= s.start() && sector < s.end());
  }

  void clear() {
    list.clear();
  }

  long sectors() {
    return sectors(list);
  }

  static long sectors(List<Span> some) {
    return some.stream().mapToLong(Span::length).sum();
  }
}
