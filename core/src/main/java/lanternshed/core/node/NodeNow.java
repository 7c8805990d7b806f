package lanternshed.core.node;

import java.util.List;
import lanternshed.core.measure.ShedException;

/**
 * A node as it is now. Nothing of what is in it is read for that: it may be somebody's failing
 * drive.
 *
 * @param says what is in it, in words
 * @param sectors of 512 bytes; 0 where nothing is in it
 * @param serial of the medium itself; "" where it tells none
 * @param identity words, serial and size: one medium and not another
 * @param insertion which putting-in of it this is; "" where the system does not count them
 * @param key the same for one device whatever name leads to it
 * @param refusals why nothing is written to it (W-3); empty where it may be
 */
public record NodeNow(
    String node,
    String says,
    long sectors,
    String serial,
    String identity,
    String insertion,
    String key,
    List<String> refusals) {

  /**
   * Another medium at the same node is another: nothing is read or written under the first one's
   * name.
   *
   * @param taken the identity it was taken in with; "" where none was known
   * @throws ShedException where it is not that one
   */
  public NodeNow same(String taken) {
    if (taken.isEmpty() || taken.equals(identity)) return this;
    throw new ShedException(
        "Another medium is at "
            + node
            + " now: it was "
            + taken
            + ", and is "
            + identity
            + ". Nothing was touched. Put the first one back, or take the new one as a medium of its"
            + " own.");
  }
}
