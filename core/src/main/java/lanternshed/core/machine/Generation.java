package lanternshed.core.machine;

import java.util.Arrays;
import java.util.Optional;
import lanternshed.core.measure.Sum;
import lanternshed.core.volume.fat.FatKind;

/**
 * A generation of the disk operating system of PCs, with the ceilings of its volumes (F-4). Sectors
 * are of 512 bytes.
 */
public enum Generation {
  DOS_2("dos-2", "DOS 2.x", 32_679, 1, false, false, false),
  DOS_3_0("dos-3.0", "DOS 3.0 to 3.2", 65_535, 1, true, false, false),
  DOS_3_3("dos-3.3", "DOS 3.3", 65_535, 24, true, false, false),
  DOS_5("dos-5", "DOS 3.31 to 6.x", Ceiling.FAT16_SECTORS, 24, true, false, false),
  W95_FIRST("w95-1", "95-generation, first edition", Ceiling.FAT16_SECTORS, 24, true, true, false),
  W95_SECOND("w95-2", "95-generation, second edition", Ceiling.MBR_SECTORS, 24, true, true, true),
  NT("nt", "NT-generation", Ceiling.MBR_SECTORS, 24, true, true, true);

  /** From this size on a system that knows FAT32 makes it by itself: 512 MiB. */
  private static final long FAT32_FROM = 1_048_576;

  private final String key;
  private final String title;
  private final long volumeSectors;
  private final int volumes;
  private final boolean fat16;
  private final boolean longNames;
  private final boolean extendedCalls;

  Generation(
      String key,
      String title,
      long volumeSectors,
      int volumes,
      boolean fat16,
      boolean longNames,
      boolean extendedCalls) {
    this.key = key;
    this.title = title;
    this.volumeSectors = volumeSectors;
    this.volumes = volumes;
    this.fat16 = fat16;
    this.longNames = longNames;
    this.extendedCalls = extendedCalls;
  }

  public static Optional<Generation> of(String key) {
    return Arrays.stream(values()).filter(g -> g.key.equals(key)).findFirst();
  }

  public String key() {
    return key;
  }

  public String title() {
    return title;
  }

  /** Whether it mounts FAT32. */
  public boolean fat32() {
    return volumeSectors > Ceiling.FAT16_SECTORS;
  }

  /**
   * Whether this program's own boot code starts it: the code loads the first sectors of the first
   * file to 0070:0000, which is the contract up to DOS 6 (B-9).
   */
  public boolean startedByOwnCode() {
    return !longNames;
  }

  /** The largest volume it mounts. */
  public long volumeSectors() {
    return volumeSectors;
  }

  /** How many volumes of one drive get a letter. */
  public int volumes() {
    return volumes;
  }

  public boolean longNames() {
    return longNames;
  }

  /** Whether it uses the disk calls that pass an LBA. */
  public boolean extendedCalls() {
    return extendedCalls;
  }

  /** Whether volumes past the first live in an extended container. */
  public boolean extendedContainer() {
    return volumes > 1;
  }

  /** The kind of a volume of that size, as the system itself would choose it. */
  public FatKind kind(long sectors) {
    if (fat32() && sectors >= FAT32_FROM) return FatKind.FAT32;
    return !fat16 || sectors < 32_680 ? FatKind.FAT12 : FatKind.FAT16;
  }

  /**
   * The table's type code of a volume; only the codes that this generation knows (P-8).
   *
   * @param past whether it ends past cylinder 1023, where only calls that pass an LBA reach
   */
  public int type(FatKind kind, long sectors, boolean past) {
    boolean lba = past && extendedCalls;
    return switch (kind) {
      case FAT12 -> 0x01;
      case FAT16 -> lba ? 0x0E : sectors <= 65_535 ? 0x04 : 0x06;
      case FAT32 -> lba ? 0x0C : 0x0B;
    };
  }

  /** The sum behind {@link #volumeSectors()}. */
  public Sum volumeSum() {
    return switch (this) {
      case DOS_2 ->
          Sum.of("F-4", "FAT12 volume of " + title)
              .sectors("", "largest FAT12 volume", 32_679)
              .sectorsAsSize(32_679)
              .because(
                  "This generation knows FAT12 only, with one volume a drive that lies inside the first"
                      + " 16 MiB.")
              .lift("a system from DOS 3.0 on")
              .done();
      case DOS_3_0, DOS_3_3 ->
          Sum.of("G-14", "16-bit sector count")
              .line("", "2 to the 16th", 65_536)
              .line("−", "one", 1)
              .sectorsAsSize(65_535)
              .because("This generation keeps the size of a volume in 16 bits.")
              .lift("DOS 3.31 or later")
              .lift(this == DOS_3_3 ? "several volumes" : "DOS 3.3, for several volumes")
              .done();
      case W95_SECOND, NT ->
          Sum.of("F-4", "volume of " + title)
              .sectors("", "largest volume of FAT32 in this table", Ceiling.MBR_SECTORS)
              .sectorsAsSize(Ceiling.MBR_SECTORS)
              .because("FAT32 has room for more; the table of the drive keeps lengths in 32 bits.")
              .lift("a table of today's computers, which this machine does not read")
              .done();
      default -> Ceiling.fat16Sum();
    };
  }
}
