package lanternshed.core.volume;

import java.util.List;
import java.util.Optional;
import lanternshed.core.medium.Medium;
import lanternshed.core.names.NameRule;

/**
 * The face of each package of volumes. A verb that is missing is absent as data: callers ask for it
 * and say in one place that it is not there.
 */
public interface Filesystem {

  /** A short key, "fat". */
  String key();

  /** Published names of the kinds that it makes or reads as one, "FAT16". */
  List<String> kinds();

  /** What its allocation unit is called. */
  default String unit() {
    return "cluster";
  }

  /** Whether its first sector alone is proof enough to look for it before any table. */
  boolean speaksForItself();

  /** The volume that fills this slice; empty where it is none of this kind. */
  Optional<Recognised> recognise(Medium slice, Hint hint);

  /**
   * Why a slice that begins like one of this kind is none, in a sentence; empty where it does not.
   */
  default Optional<String> refusal(Medium slice) {
    return Optional.empty();
  }

  /**
   * A layout by somebody's own figures, for kinds that write no mark of their own.
   *
   * @param figures "offset=4096 block=2048 ..."
   * @throws VolumeException naming the figure that makes no sense; also where none are taken
   */
  default Maker.Layout layout(Medium medium, String figures) {
    throw new VolumeException("What is " + key() + " says itself how it lies.");
  }

  /** What names on it may be, the rule that every machine of the kind reads first. */
  default List<NameRule> names() {
    return List.of();
  }

  /** Makes volumes of this kind; empty where they are not made here. */
  default Optional<Maker> maker() {
    return Optional.empty();
  }

  /** Makes a volume larger with all that is in it; empty where that is not done here. */
  default Optional<Grower> grower() {
    return Optional.empty();
  }

  /** Looks for volumes of this kind that no table names; empty where they are not looked for. */
  default Optional<Search> search() {
    return Optional.empty();
  }
}
