package lanternshed.core.catalogue;

import java.util.List;
import java.util.Optional;
import lanternshed.core.container.DiskImage;
import lanternshed.core.container.qcow2.Qcow2;
import lanternshed.core.container.vdi.Vdi;
import lanternshed.core.container.vhd.GrowingVhd;
import lanternshed.core.container.vhdx.Vhdx;
import lanternshed.core.container.vmdk.Vmdk;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.TableScheme;
import lanternshed.core.table.ahdi.Ahdi;
import lanternshed.core.table.apm.Apm;
import lanternshed.core.table.gpt.Gpt;
import lanternshed.core.table.mbr.Mbr;
import lanternshed.core.table.rdb.Rdb;
import lanternshed.core.volume.Filesystem;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.VolumeException;
import lanternshed.core.volume.cpm.Cpm;
import lanternshed.core.volume.exfat.Exfat;
import lanternshed.core.volume.fat.Fat;
import lanternshed.core.volume.ffs.Ffs;
import lanternshed.core.volume.hfs.Hfs;
import lanternshed.core.volume.ntfs.Ntfs;
import lanternshed.core.volume.unix.UnixLike;

/**
 * The only lists of tables, filesystems and disk images. A new one is a package of its own and a
 * line here; see docs/architecture.md, "How to add a filesystem".
 */
public final class Catalogue {

  /** From the strongest mark to the weakest: a checksum, a CRC, a mark, plausible entries. */
  public static final List<TableScheme> TABLES =
      List.of(new Rdb(), new Gpt(), new Apm(), new Mbr(), new Ahdi());

  /** From the strongest mark to the weakest: a name, fields that agree, a mark, a guess. */
  public static final List<Filesystem> FILESYSTEMS =
      List.of(new Exfat(), new Ntfs(), new Fat(), new UnixLike(), new Hfs(), new Ffs(), new Cpm());

  /** Files whose blocks lie anywhere, each told by its first bytes. */
  public static final List<DiskImage> DISK_IMAGES =
      List.of(new GrowingVhd(), new Qcow2(), new Vdi(), new Vmdk(), new Vhdx());

  private Catalogue() {}

  /**
   * The drive that a file is the image of, where its blocks lie anywhere; empty for a raw image.
   *
   * @throws lanternshed.core.measure.ShedException in a sentence for one that is known and not read
   */
  public static Optional<Medium> drive(Medium file) {
    return DISK_IMAGES.stream().flatMap(d -> d.open(file).stream()).findFirst();
  }

  /**
   * Who makes volumes of a kind.
   *
   * @param key of the filesystem, "fat"
   * @throws VolumeException where none are made here
   */
  public static Maker maker(String key) {
    Optional<Maker> maker =
        FILESYSTEMS.stream()
            .filter(f -> f.key().equals(key))
            .findFirst()
            .flatMap(Filesystem::maker);
    return maker.orElseThrow(
        () -> new VolumeException("Volumes of " + key + " are not made here."));
  }
}
