package lanternshed.core.volume;

import java.util.List;

/**
 * What a volume's first sectors and its root say of starting a machine.
 *
 * @param heads that its code computes with; 0 where it says none that can be
 * @param sectors a track, likewise
 * @param hidden sectors before it on its medium, as it says
 * @param bootCode its boot code from where code begins; empty where it has none
 * @param systemFiles the files that stand first in the root with the system mark
 * @param first what stands first in the root, at most {@link #LOOKED_AT} of it
 * @param named files of the root whose names stand in the boot code
 */
public record BootFacts(
    int heads,
    int sectors,
    long hidden,
    byte[] bootCode,
    List<String> systemFiles,
    List<RootEntry> first,
    List<String> named) {

  /** Boot code looks at the first entries of a root only. */
  public static final int LOOKED_AT = 16;

  /**
   * One entry of the root.
   *
   * @param slot counted from 0 as boot code counts, labels and deleted entries among them
   * @param unit the allocation unit in which it begins
   * @param runs in how many pieces it lies
   */
  public record RootEntry(
      String name, int slot, boolean folder, boolean system, long bytes, long unit, int runs) {}

  /** What it starts with: what its code names, or what stands first with the system mark. */
  public List<String> starts() {
    boolean known = named.isEmpty() || systemFiles.contains(named.get(0));
    return known ? systemFiles : named;
  }

  /** Whether it has boot code at all. */
  public boolean code() {
    return bootCode.length > 0;
  }
}
