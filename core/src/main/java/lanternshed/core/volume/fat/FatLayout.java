package lanternshed.core.volume.fat;

import java.nio.charset.StandardCharsets;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Say;
import lanternshed.core.volume.VolumeException;

/**
 * The fields of a FAT boot sector (F-5) and the places that follow from them, in sectors of {@code
 * bytesPerSector} from the volume's start.
 *
 * <p>Field names as in the FAT specification: total is TotSec16/32, fatSectors FATSz16/32, hidden
 * HiddSec.
 *
 * @param rootCluster first cluster of the root folder on FAT32; 0 where the root is fixed
 * @param drive the drive number that boot code is told, 80 for the first hard drive
 * @param always16 whether the FAT has 16 bits an entry whatever the number of clusters
 */
public record FatLayout(
    String oem,
    int bytesPerSector,
    int sectorsPerCluster,
    int reserved,
    int fats,
    int rootEntries,
    long total,
    int media,
    long fatSectors,
    int sectorsPerTrack,
    int heads,
    long hidden,
    int drive,
    long serial,
    String label,
    long rootCluster,
    boolean always16) {

  static final int MOST_SECTOR = 4096;
  static final int MOST_LOGICAL_SECTOR = 16_384;

  static final int OEM = 0x03;
  static final int BYTES_PER_SECTOR = 0x0B;
  static final int SECTORS_PER_CLUSTER = 0x0D;
  static final int RESERVED = 0x0E;
  static final int FATS = 0x10;
  static final int ROOT_ENTRIES = 0x11;
  static final int TOTAL_16 = 0x13;
  static final int MEDIA = 0x15;
  static final int FAT_SECTORS_16 = 0x16;
  static final int SECTORS_PER_TRACK = 0x18;
  static final int HEADS = 0x1A;
  static final int HIDDEN = 0x1C;
  static final int TOTAL_32 = 0x20;
  static final int FAT_SECTORS_32 = 0x24;
  static final int ROOT_CLUSTER_32 = 0x2C;
  static final int FSINFO_32 = 0x30;
  static final int BACKUP_32 = 0x32;

  /** Where the information sector of a new FAT32 volume lies. */
  static final int FSINFO_SECTOR = 1;

  /** Where drive number, mark 29, serial, label and kind stand: after the FAT32 fields on FAT32. */
  static final int TAIL_16 = 0x24;

  static final int TAIL_32 = 0x40;

  /** First byte of boot code in a FAT12 or FAT16 boot sector. */
  public static final int CODE = 0x3E;

  /** The same in a FAT32 boot sector. */
  static final int CODE_32 = 0x5A;

  /** The same laid down anew, with another label; FAT32's root is at the first cluster then. */
  FatLayout anew(String newLabel) {
    return new FatLayout(
        oem,
        bytesPerSector,
        sectorsPerCluster,
        reserved,
        fats,
        rootEntries,
        total,
        media,
        fatSectors,
        sectorsPerTrack,
        heads,
        hidden,
        drive,
        serial,
        newLabel,
        kind() == FatKind.FAT32 ? 2 : 0,
        always16);
  }

  /**
   * Reads and bounds the fields.
   *
   * @param b the first sector, at least 512 bytes
   * @param room sectors of 512 bytes that the volume has for itself
   * @throws VolumeException with the field that makes no sense
   */
  public static FatLayout parse(byte[] b, long room) {
    return parse(b, room, false);
  }

  /** The same for a volume whose FAT always has 16 bits an entry, and larger sectors. */
  static FatLayout parseAlways16(byte[] b, long room) {
    return parse(b, room, true);
  }

  private static FatLayout parse(byte[] b, long room, boolean always16) {
    int bps = Bytes.u16(b, BYTES_PER_SECTOR);
    int most = always16 ? MOST_LOGICAL_SECTOR : MOST_SECTOR;
    need(
        bps >= 512 && bps <= most && Integer.bitCount(bps) == 1,
        "bytes a sector (offset 0B) is " + bps + ", not a power of two from 512 to " + most);
    int spc = Bytes.u8(b, SECTORS_PER_CLUSTER);
    need(
        spc > 0 && Integer.bitCount(spc) == 1,
        "sectors a cluster (offset 0D) is " + spc + ", not a power of two");
    int reserved = Bytes.u16(b, RESERVED);
    need(reserved > 0, "reserved sectors (offset 0E) is 0");
    int fats = Bytes.u8(b, FATS);
    need(fats >= 1 && fats <= 4, "the number of FATs (offset 10) is " + fats);
    int rootEntries = Bytes.u16(b, ROOT_ENTRIES);
    long total = Bytes.u16(b, TOTAL_16);
    if (total == 0) total = Bytes.u32(b, TOTAL_32);
    need(total > 0, "the number of sectors (offsets 13 and 20) is 0");
    int media = Bytes.u8(b, MEDIA);
    // The family of the DMA bus leaves the byte unset.
    need(always16 || media >= 0xF0, String.format("the media byte (offset 15) is %02X", media));
    long fatSectors = Bytes.u16(b, FAT_SECTORS_16);
    boolean wide = fatSectors == 0;
    if (wide) fatSectors = Bytes.u32(b, FAT_SECTORS_32);
    need(fatSectors > 0, "the FAT's size (offset 16) is 0");
    need(wide || rootEntries > 0, "the root folder (offset 11) has no entries");
    int tail = wide ? TAIL_32 : TAIL_16;
    int mark = Bytes.u8(b, tail + 2);
    boolean extended = mark == 0x29;
    FatLayout l =
        new FatLayout(
            text(b, OEM, 8),
            bps,
            spc,
            reserved,
            fats,
            rootEntries,
            total,
            media,
            fatSectors,
            Bytes.u16(b, SECTORS_PER_TRACK),
            Bytes.u16(b, HEADS),
            Bytes.u32(b, HIDDEN),
            Bytes.u8(b, tail),
            extended || mark == 0x28 ? Bytes.u32(b, tail + 3) : 0,
            extended ? text(b, tail + 7, 11) : "",
            wide ? Bytes.u32(b, ROOT_CLUSTER_32) : 0,
            always16);
    need(
        l.firstData() < total,
        "the FATs and the root folder ("
            + Say.sectors(l.firstData())
            + ") leave nothing of its "
            + Say.sectors(total));
    need(
        l.fatStart() * (bps / 512) < room,
        "its FAT would begin past the end of the medium, at " + Say.sectors(room));
    need(l.clusters() >= 1, "it has no data cluster");
    // All fields together: a root folder of a fixed place and a FAT of 16 bits' size are no
    // FAT32's.
    need(
        wide || always16 || l.dataClusters() <= FatKind.FAT16.mostClusters(),
        "the FAT's size at offset 16 and the root folder are FAT16's, but it would have "
            + Say.count(l.dataClusters())
            + " clusters; FAT16 ends at "
            + Say.count(FatKind.FAT16.mostClusters()));
    return l;
  }

  private static void need(boolean holds, String otherwise) {
    if (!holds) throw new VolumeException("This is no FAT boot sector: " + otherwise + ".");
  }

  private static String text(byte[] b, int at, int length) {
    return new String(b, at, length, StandardCharsets.ISO_8859_1).stripTrailing();
  }

  /**
   * The kind by the number of clusters; a boot sector with FAT32's fields is FAT32 whatever it has.
   */
  public FatKind kind() {
    if (always16) return FatKind.FAT16;
    return rootCluster > 0 || rootEntries == 0 ? FatKind.FAT32 : FatKind.of(dataClusters());
  }

  private long dataClusters() {
    return (total - firstData()) / sectorsPerCluster;
  }

  /** Data clusters, no more than the table has entries for. */
  public int clusters() {
    long entries = fatSectors * bytesPerSector * 8 / kind().bits() - 2;
    return (int) Math.max(0, Math.min(Math.min(dataClusters(), entries), kind().mostClusters()));
  }

  public int clusterBytes() {
    return sectorsPerCluster * bytesPerSector;
  }

  public long fatStart() {
    return reserved;
  }

  /** First sector of the fixed root folder. */
  public long rootStart() {
    return reserved + fats * fatSectors;
  }

  public int rootSectors() {
    return (rootEntries * 32 + bytesPerSector - 1) / bytesPerSector;
  }

  /** The sector in which cluster 2 begins. */
  public long firstData() {
    return rootStart() + rootSectors();
  }

  public long sectorOf(long cluster) {
    return firstData() + (cluster - 2) * sectorsPerCluster;
  }

  /** Where boot code begins. */
  public int codeAt() {
    return kind() == FatKind.FAT32 ? CODE_32 : CODE;
  }

  /**
   * The boot sector.
   *
   * @param code boot code from {@link #codeAt} on; with none the sector says so and stops
   */
  public byte[] bootSector(byte[] code) {
    boolean wide = kind() == FatKind.FAT32;
    int at = codeAt();
    byte[] b = new byte[512];
    b[0] = (byte) 0xEB;
    b[1] = (byte) (at - 2);
    b[2] = (byte) 0x90;
    put(b, OEM, oem, 8);
    Bytes.put16(b, BYTES_PER_SECTOR, bytesPerSector);
    b[SECTORS_PER_CLUSTER] = (byte) sectorsPerCluster;
    Bytes.put16(b, RESERVED, reserved);
    b[FATS] = (byte) fats;
    Bytes.put16(b, ROOT_ENTRIES, rootEntries);
    if (!wide && total < 65_536) Bytes.put16(b, TOTAL_16, (int) total);
    else Bytes.put32(b, TOTAL_32, total);
    b[MEDIA] = (byte) media;
    Bytes.put16(b, SECTORS_PER_TRACK, sectorsPerTrack);
    Bytes.put16(b, HEADS, heads);
    Bytes.put32(b, HIDDEN, hidden);
    if (wide) {
      Bytes.put32(b, FAT_SECTORS_32, fatSectors);
      Bytes.put32(b, ROOT_CLUSTER_32, rootCluster);
      Bytes.put16(b, FSINFO_32, FSINFO_SECTOR);
      Bytes.put16(b, BACKUP_32, FatBoot.BACKUP);
    } else Bytes.put16(b, FAT_SECTORS_16, (int) fatSectors);
    int tail = wide ? TAIL_32 : TAIL_16;
    b[tail] = (byte) drive;
    b[tail + 2] = 0x29;
    Bytes.put32(b, tail + 3, serial);
    put(b, tail + 7, label.isEmpty() ? "NO NAME" : label, 11);
    put(b, tail + 18, kind().name(), 8);
    if (code.length > 510 - at) {
      throw new VolumeException(
          "The boot code has " + code.length + " bytes; there is room for " + (510 - at) + ".");
    }
    System.arraycopy(code, 0, b, at, code.length);
    if (code.length == 0) {
      // INT 18h: firmware says that there is nothing to start; then stop.
      byte[] stop = {(byte) 0xCD, 0x18, (byte) 0xEB, (byte) 0xFE};
      System.arraycopy(stop, 0, b, at, stop.length);
    }
    Bytes.put16(b, 510, 0xAA55);
    return b;
  }

  static void put(byte[] b, int at, String s, int length) {
    byte[] t = s.getBytes(StandardCharsets.ISO_8859_1);
    for (int i = 0; i < length; i++) b[at + i] = i < t.length ? t[i] : (byte) ' ';
  }
}
