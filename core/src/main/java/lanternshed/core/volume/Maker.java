package lanternshed.core.volume;

import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;

/** Makes volumes of one kind. All is planned before the first byte is written. */
public interface Maker {

  /**
   * What is asked of a new volume.
   *
   * @param kind published name, "FAT16"; empty to let the size decide
   * @param sectors sectors of 512 bytes
   * @param start first sector of the volume on its medium
   * @param clusterBytes 0 for the size's own default
   * @param rootEntries entries of a root folder of a fixed place; 0 for the usual number
   * @param geometry what the target firmware computes
   * @param longNames whether the systems that read it know long names
   * @param stamp packed date and time of what has none of its own
   * @param sectorBytes bytes of a logical sector; 0 for 512
   * @param always16 whether its table has 16 bits an entry whatever the number of clusters (P-26)
   */
  record Wish(
      Optional<String> kind,
      long sectors,
      long start,
      int clusterBytes,
      int rootEntries,
      Geometry geometry,
      String label,
      long serial,
      boolean longNames,
      int stamp,
      int sectorBytes,
      boolean always16) {

    /** A wish for logical sectors of 512 bytes, of the usual kind. */
    public Wish(
        Optional<String> kind,
        long sectors,
        long start,
        int clusterBytes,
        int rootEntries,
        Geometry geometry,
        String label,
        long serial,
        boolean longNames,
        int stamp) {
      this(
          kind,
          sectors,
          start,
          clusterBytes,
          rootEntries,
          geometry,
          label,
          serial,
          longNames,
          stamp,
          0,
          false);
    }

    /** The same with logical sectors of another size. */
    public Wish of(int bytes, boolean sixteen) {
      return new Wish(
          kind,
          sectors,
          start,
          clusterBytes,
          rootEntries,
          geometry,
          label,
          serial,
          longNames,
          stamp,
          bytes,
          sixteen);
    }
  }

  /** How a volume will be laid out: figures only. */
  interface Layout {
    /** Published name, "FAT16". */
    String kindName();

    int clusterBytes();

    long clusterCount();

    /** Sectors of 512 bytes that the volume has. */
    long sectorCount();

    /** Bytes of an image of it: a small disk may end within a sector. */
    default long byteCount() {
      return sectorCount() * 512;
    }

    Sum because();
  }

  /**
   * Whether a set of files fits.
   *
   * @param needed units for files and folders
   * @param there units that the volume has
   * @param rootNeeded entries needed in a root folder of a fixed place; 0 where it grows
   * @param rootEntries entries that it has
   */
  record Fit(long needed, long there, int rootNeeded, int rootEntries, Sum because) {
    public boolean fits() {
      return needed <= there && rootNeeded <= rootEntries;
    }
  }

  /** Is told of each file's bytes as they are laid down; of a long file more than once. */
  interface Watch {
    void wrote(String path, long bytes);
  }

  /** Sizes of an allocation unit that are offered, in bytes, the smallest first. */
  List<Integer> unitSizes();

  /**
   * The longest volume of a kind that {@link #layout} grants.
   *
   * @param clusterBytes bytes of a unit; 0 for the largest that is offered
   * @return sectors of 512 bytes
   */
  long mostSectors(String kind, int clusterBytes);

  /**
   * Bytes that a system reads to count what is free, as no figure for it is kept (F-12).
   *
   * @return 0 where one is kept, or the free space is not counted
   */
  default long countedBytes(String kind, long units) {
    return 0;
  }

  /** A volume with fewer units is of another kind. */
  default long fewestUnits(String kind) {
    return 1;
  }

  /** Units that a file of that length takes, with what describes it. */
  default long units(String kind, int clusterBytes, long bytes) {
    return (bytes + clusterBytes - 1) / clusterBytes;
  }

  /** A label as it can stand on disk; what cannot is replaced. */
  String label(String wanted);

  /**
   * The layout that grants a wish.
   *
   * @throws VolumeException where no volume of this kind can
   */
  Layout layout(Wish wish);

  /**
   * Exactly what the files need and what the volume has.
   *
   * @throws VolumeException where a name cannot stand in it
   */
  Fit fit(Layout layout, FileSet files);

  /**
   * Writes the whole volume into {@code to}, whose sector 0 is its first.
   *
   * @param code boot code; empty for a sector that says there is nothing to start
   * @throws VolumeException where the files do not fit, before anything is written; or where a
   *     source gives another length than announced
   */
  void write(Layout layout, FileSet files, Medium to, byte[] code, Watch watch);
}
