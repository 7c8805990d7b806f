package lanternshed.core.survey;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import lanternshed.core.catalogue.Catalogue;

/**
 * Drive letters as the system of a PC gives them to its first drive (P-7): the active or first
 * primary volume, then the logical volumes, then the other primaries. Only volumes that the system
 * mounts have one.
 */
public final class Letters {
  private static final int LAST = 'Z' - 'C' + 1;

  private Letters() {}

  /** Letter by the volume's number. */
  public static Map<Integer, String> of(Survey s) {
    List<Survey.Found> mounted =
        s.volumes().stream().filter(v -> v.kind().startsWith("FAT") && v.readable()).toList();
    List<Survey.Found> order = new ArrayList<>();
    // Only PCs put the active volume first and the other primaries last.
    if (s.table().isPresent() && !Catalogue.table(s.table().get().scheme()).ofPcs()) {
      order.addAll(mounted);
    }
    List<Survey.Found> primaries = mounted.stream().filter(v -> v.number() <= 4).toList();
    if (order.isEmpty()) {
      primaries.stream()
          .filter(Survey.Found::active)
          .findFirst()
          .or(() -> primaries.stream().findFirst())
          .ifPresent(order::add);
      mounted.stream().filter(v -> v.number() > 4).forEach(order::add);
    }
    primaries.stream().filter(v -> !order.contains(v)).forEach(order::add);
    Map<Integer, String> out = new HashMap<>();
    // A table that names its volumes leaves nothing to be worked out.
    s.table().ifPresent(t -> t.entries().forEach(e -> out.put(e.number(), e.name())));
    out.values().removeIf(String::isEmpty);
    for (int i = 0; i < order.size() && i < LAST; i++) {
      out.put(order.get(i).number(), String.valueOf((char) ('C' + i)));
    }
    return out;
  }
}
