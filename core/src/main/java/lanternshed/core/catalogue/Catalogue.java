package lanternshed.core.catalogue;

import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import lanternshed.core.container.Container;
import lanternshed.core.container.DiskImage;
import lanternshed.core.container.Packer;
import lanternshed.core.container.Unpacker;
import lanternshed.core.container.atr.Atr;
import lanternshed.core.container.bz2.Bzip2;
import lanternshed.core.container.gz.Gzip;
import lanternshed.core.container.lzma.Lzma;
import lanternshed.core.container.qcow2.Qcow2;
import lanternshed.core.container.raw.Raw;
import lanternshed.core.container.unread.Unread;
import lanternshed.core.container.vdi.Vdi;
import lanternshed.core.container.vhd.FixedVhd;
import lanternshed.core.container.vhd.GrowingVhd;
import lanternshed.core.container.vhdx.Vhdx;
import lanternshed.core.container.vmdk.Vmdk;
import lanternshed.core.container.vmdk.VmdkDescription;
import lanternshed.core.container.xz.Xz;
import lanternshed.core.container.zip.Zip;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.DiskRow;
import lanternshed.core.table.TableScheme;
import lanternshed.core.table.ahdi.Ahdi;
import lanternshed.core.table.ahdi.TwoSided;
import lanternshed.core.table.apm.Apm;
import lanternshed.core.table.gpt.Gpt;
import lanternshed.core.table.library.Library;
import lanternshed.core.table.mbr.Mbr;
import lanternshed.core.table.none.NoTable;
import lanternshed.core.table.rdb.Rdb;
import lanternshed.core.volume.Filesystem;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.VolumeException;
import lanternshed.core.volume.cpm.Cpm;
import lanternshed.core.volume.exfat.Exfat;
import lanternshed.core.volume.fat.Fat;
import lanternshed.core.volume.ffs.Ffs;
import lanternshed.core.volume.hfs.Hfs;
import lanternshed.core.volume.linked.LinkedSector;
import lanternshed.core.volume.linkmap.LinkMap;
import lanternshed.core.volume.ntfs.Ntfs;
import lanternshed.core.volume.twosector.TwoSector;
import lanternshed.core.volume.unix.UnixLike;

/**
 * The only lists of tables, filesystems and disk images. A new one is a package of its own and a
 * line here; see docs/architecture.md, "How to add a filesystem".
 */
public final class Catalogue {

  /** From the strongest mark to the weakest: a checksum, a CRC, a mark, plausible entries. */
  public static final List<TableScheme> TABLES =
      List.of(
          new Rdb(), new Gpt(), new Apm(), new TwoSided(), new Mbr(), new Library(), new Ahdi());

  /** What stands for a table where there is none. */
  private static final TableScheme NONE = new NoTable();

  /** From the strongest mark to the weakest: a name, fields that agree, a mark, a guess. */
  public static final List<Filesystem> FILESYSTEMS =
      List.of(
          new Exfat(),
          new Ntfs(),
          new Fat(),
          new UnixLike(),
          new Hfs(),
          new Ffs(),
          new TwoSector(),
          new LinkMap(),
          new LinkedSector(),
          new Cpm());

  /** Files whose blocks lie anywhere, each told by its first bytes. */
  public static final List<DiskImage> DISK_IMAGES =
      List.of(new GrowingVhd(), new Qcow2(), new Vdi(), new Vmdk(), new Vhdx());

  /** The sectors as they are. */
  public static final Container RAW = new Raw();

  /** Files that are unpacked while they stream; the last begins as anything. */
  public static final List<Container> CONTAINERS =
      List.of(
          new Gzip(),
          new Zip(),
          new Xz(),
          new Bzip2(),
          new Lzma(),
          new FixedVhd(),
          new Atr(),
          new VmdkDescription(),
          new Unread("7z", "377ABCAF271C", "7z archive"),
          new Unread("rar", "526172211A07", "RAR archive"),
          new Unread("zst", "28B52FFD", "zstd file"),
          new Unread("qed", "51454400", "QED image"),
          new Unread("hdd", "576974686F7574467265655370616365", "growing disk image"),
          new Unread("hddx", "576974686F7546726553706163457874", "growing disk image"),
          new Unread("ewf", "455646090D0AFF00", "EWF image"),
          RAW);

  /** Opens what comes in. */
  public static final Unpacker UNPACKER = new Unpacker(CONTAINERS);

  private Catalogue() {}

  /**
   * Who packs an image.
   *
   * @param key "gz"
   * @throws ShedException where nobody writes that form
   */
  public static Packer packer(String key) {
    return CONTAINERS.stream()
        .filter(c -> c.key().equals(key))
        .flatMap(c -> c.packer().stream())
        .findFirst()
        .orElseThrow(
            () ->
                new ShedException(
                    CONTAINERS.stream()
                        .filter(c -> c.packer().isPresent())
                        .map(Container::key)
                        .collect(
                            Collectors.joining(
                                ", ",
                                "An image is handed out as one of these: ",
                                "; not as \"" + key + "\"."))));
  }

  /** Whether a file ends as one of a form that is told by its end does, right or not. */
  public static boolean endsAsContainer(byte[] lastSector) {
    return CONTAINERS.stream().anyMatch(c -> c.ends(lastSector));
  }

  /**
   * Sectors of the image before an end that is no part of it.
   *
   * @param tail the last 512 bytes, or 511 where so many follow the last whole sector
   */
  public static Optional<Long> sectorsBeforeEnd(byte[] tail, long bytes) {
    return CONTAINERS.stream().flatMap(c -> c.sectorsBefore(tail, bytes).stream()).findFirst();
  }

  /**
   * The drive that a file is the image of, where its blocks lie anywhere; empty for a raw image.
   *
   * @throws ShedException in a sentence for one that is known and not read
   */
  public static Optional<Medium> drive(Medium file) {
    return DISK_IMAGES.stream().flatMap(d -> d.open(file).stream()).findFirst();
  }

  /**
   * What is on a whole medium by somebody's own figures.
   *
   * @param key of a filesystem that writes no mark of its own, "cpm"
   * @param figures as {@link Filesystem#layout} takes them
   * @throws ShedException where there is no such filesystem, or its figures make no sense
   */
  static Recognised laidOut(String key, Medium m, String figures) {
    Filesystem f =
        FILESYSTEMS.stream()
            .filter(x -> x.key().equals(key))
            .findFirst()
            .orElseThrow(() -> new ShedException("There is no filesystem \"" + key + "\" here."));
    Hint hint = new Hint(true, "", 0, true, Optional.of(f.layout(m, figures)));
    return f.recognise(m, hint)
        .filter(r -> r.volume().isPresent())
        .orElseThrow(() -> new ShedException("By these figures there is no volume."));
  }

  /**
   * The filesystem of a kind.
   *
   * @param kind published name, "FAT16"
   * @throws VolumeException where the kind is not known
   */
  public static Filesystem filesystem(String kind) {
    return FILESYSTEMS.stream()
        .filter(f -> f.kinds().contains(kind))
        .findFirst()
        .orElseThrow(() -> new VolumeException("There is no filesystem \"" + kind + "\" here."));
  }

  /**
   * Who makes volumes of a kind.
   *
   * @param kind published name, "FAT16"
   * @throws VolumeException where none are made here
   */
  public static Maker maker(String kind) {
    return filesystem(kind)
        .maker()
        .orElseThrow(() -> new VolumeException("Volumes of " + kind + " are not made here."));
  }

  /** What the allocation unit of a kind is called; "cluster" for one that is not known. */
  public static String unit(String kind) {
    return FILESYSTEMS.stream()
        .filter(f -> f.kinds().contains(kind))
        .map(Filesystem::unit)
        .findFirst()
        .orElse("cluster");
  }

  /** Whether volumes of a kind are made here. */
  public static boolean made(String kind) {
    return FILESYSTEMS.stream().anyMatch(f -> f.kinds().contains(kind) && f.maker().isPresent());
  }

  /** Whether volumes of a kind are grown here. */
  public static boolean grows(String kind) {
    return FILESYSTEMS.stream().anyMatch(f -> f.kinds().contains(kind) && f.grower().isPresent());
  }

  /** The form of a new library of small disks. */
  public static DiskRow newRow() {
    return Library.usual();
  }

  /**
   * The table of a scheme.
   *
   * @param name "MBR"
   * @throws ShedException where there is none of that name
   */
  public static TableScheme table(String name) {
    return Stream.concat(TABLES.stream(), Stream.of(NONE))
        .filter(t -> t.name().equals(name))
        .findFirst()
        .orElseThrow(() -> new ShedException("There is no table \"" + name + "\" here."));
  }
}
