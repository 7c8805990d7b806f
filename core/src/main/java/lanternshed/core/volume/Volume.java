package lanternshed.core.volume;

import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Mending;

/**
 * A filesystem on a medium, opened for reading. What lies on disk is not trusted: chains are
 * bounded by the volume, and what makes no sense is a finding of {@link #check()}.
 */
public interface Volume {

  /**
   * How the volume is used.
   *
   * @param clusterBytes bytes of one allocation unit
   * @param clusters how many units there are for data
   * @param free how many of them are free
   * @param bad how many are marked as not usable
   */
  record Use(long clusterBytes, long clusters, long free, long bad) {
    public long freeBytes() {
      return free * clusterBytes;
    }
  }

  /** "FAT12", "FAT16". */
  String kind();

  /** The volume's label, "" where it has none. */
  String label();

  Use use();

  /** Its layout, where the maker of its kind can lay it down to the same fields; else empty. */
  default Optional<Maker.Layout> layoutAsItLies() {
    return Optional.empty();
  }

  /**
   * Whether the maker of its kind lays it down without losing anything: no other sectors, no other
   * family's rules, nothing unknown among its structures.
   */
  default boolean remakeable() {
    return true;
  }

  /**
   * Whether something within its bounds is none of its own and stays as it is when it is laid down
   * anew, as tracks that are reserved for a system; its maker then leaves nothing else behind.
   */
  default boolean keepsAround() {
    return false;
  }

  /** The serial number that it carries; 0 where it has none. */
  default long serial() {
    return 0;
  }

  /** What is in the root, or in a folder that this volume listed. */
  List<Node> list(Node folder);

  Node root();

  /**
   * Gives a file's bytes to {@code sink}.
   *
   * @throws VolumeException where the volume ends before the file's length; what there is was given
   */
  void read(Node file, Sink sink);

  /**
   * The sectors of 512 bytes that a file or folder occupies, from the start of the volume, in the
   * order of its content.
   *
   * @return pairs of first sector and count
   */
  List<long[]> sectorsOf(Node node);

  /**
   * Why a file or folder does not come whole: its chain breaks off, the medium ends before it, its
   * content is none. Empty for what comes whole.
   */
  Optional<String> notWhole(Node node);

  /**
   * What only its own kind of filesystem keeps of an entry, such as a comment or finer times, as
   * its maker takes it; empty where a node says it all.
   */
  default byte[] own(Node node) {
    return new byte[0];
  }

  /**
   * Whether a node's name is shown letter for letter as it stands on disk. Where it is not, as a
   * letter of it would lead outside or cannot be shown, it cannot be written again as it is.
   */
  default boolean spelledOut(Node node) {
    return true;
  }

  /**
   * A name as this volume tells names apart: two whose folded forms are the same are one name to
   * its systems. Where a kind has no rule for the case of letters every name is its own.
   */
  default String fold(String name) {
    return name;
  }

  /** Of {@link #own} what says nothing of where the entry lies: that outlives whatever moves it. */
  default byte[] lasting(Node node) {
    return own(node);
  }

  /** How it was told where nothing on disk names it; empty where something does. */
  default Optional<Sum> inferred() {
    return Optional.empty();
  }

  /**
   * The ways of lying that explain it equally where nothing on it decides, as somebody may say one
   * of them; the one that was taken first. Its files may be others' bytes. Empty where it is no
   * guess.
   */
  default List<String> guesses() {
    return List.of();
  }

  /** Those of the marks read-only 01, hidden 02, system 04, archive 20 that its files have. */
  default int marks() {
    return 0x27;
  }

  /** Whether it keeps a time of each entry. */
  default boolean keepsTimes() {
    return true;
  }

  /** Whether entries stand in an order of somebody's choice; else the names decide it. */
  default boolean ordered() {
    return true;
  }

  /** Every fault of the structure; empty when there is none. */
  List<Finding> check();

  /**
   * What lies where in it, structures before what they hold; sectors from its start. Where two
   * overlap the first counts. What is damaged ends the list early.
   */
  List<Place> places();

  /** Sectors that hold something, structures among them; pairs of first sector and count. */
  List<long[]> inUse();

  /** Entries that were deleted and not written over; empty where they cannot be told. */
  default List<Node> deleted() {
    return List.of();
  }

  /** What it says of starting a machine; empty for a kind that starts none here. */
  default Optional<BootFacts> bootFacts() {
    return Optional.empty();
  }

  /** How a copy of it is mended; empty where this kind is not mended here. */
  default Optional<Mending> mending() {
    return Optional.empty();
  }

  /** All files and folders, each folder before what is in it, in the order on disk. */
  List<Node> all();
}
