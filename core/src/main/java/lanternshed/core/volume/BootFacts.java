package lanternshed.core.volume;

import java.util.List;

/**
 * What a volume's first sectors say of starting a machine.
 *
 * @param heads that its code computes with; 0 where it says none that can be
 * @param sectors a track, likewise
 * @param hidden sectors before it on its medium, as it says
 * @param code whether it has boot code at all
 * @param systemFiles the files that stand first in the root with the system mark
 */
public record BootFacts(
    int heads, int sectors, long hidden, boolean code, List<String> systemFiles) {}
