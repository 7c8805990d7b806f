package lanternshed.core.node;

import java.util.List;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;

/** The device nodes that may be opened: by this process, or by another that does it for us. */
public interface Nodes {
  /** Each node of the list as it is now, those that are not there too. */
  List<NodeNow> all();

  /**
   * @throws ShedException where the list does not have it, or it is not there
   */
  NodeNow now(String node);

  /**
   * An old drive, for reading as the system reads it: past its cache no transfer is smaller than
   * eight sectors, and one that is bad would take seven others with it.
   *
   * @throws ShedException as {@link #open}
   */
  Medium openOriginal(String node, String identity);

  /**
   * A card, for reading past the system's cache.
   *
   * @param identity of the medium that is meant; "" where none is known
   * @throws ShedException where the list does not have the node, or another medium is in it
   */
  Medium open(String node, String identity);

  /**
   * For writing. Whether it still may be is asked again while it is written.
   *
   * @param insertion the putting-in that is meant
   * @throws ShedException as {@link #open}, and with the first reason not to write (W-3)
   */
  Medium openWritable(String node, String identity, String insertion);
}
