package lanternshed.core.boot.ahdi;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import lanternshed.core.boot.BootChain;
import lanternshed.core.boot.BootPath;
import lanternshed.core.boot.Links;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.BootFacts;
import lanternshed.core.volume.Volume;

/**
 * The way of a 68000 computer with a root sector: the sector is executed, it starts the bootable
 * volume's boot sector, that loads the driver, the driver mounts all volumes. Code and driver are
 * others' work: they come from the old drive or are installed on the machine (P-22).
 */
public final class AhdiBoot implements BootPath {
  private static final int EXECUTABLE = 0x1234;
  private static final String INSTALL =
      "Start from a floppy and install the driver on the machine, or keep the old drive's.";

  @Override
  public BootChain walk(Medium medium, Geometry target, long reach) {
    Links links = new Links();
    int sum = 0;
    byte[] root = medium.sector(0);
    for (int i = 0; i < 512; i += 2) sum += Bytes.be16(root, i);
    String words = String.format("its words sum to 0x%04X", sum & 0xFFFF);
    links.look("P-22", "the root sector is executed", (sum & 0xFFFF) == EXECUTABLE, words, INSTALL);
    Opener.Opened opened = Opener.open(medium);
    List<Opener.Part> bootable = new ArrayList<>();
    for (Opener.Part p : opened.parts()) if (p.entry().active()) bootable.add(p);
    boolean any = !bootable.isEmpty();
    String which = any ? "volume " + bootable.get(0).entry().number() + " is" : "no volume is";
    links.look("P-22", "a bootable volume", any, which + " marked bootable", INSTALL);
    if (!any) return links.done();
    Opener.Part first = bootable.get(0);
    boolean within = first.entry().end() <= reach;
    String ends = "it ends at " + Say.sectors(first.entry().end());
    links.look("P-20", "within reach", within, ends, "Move it to the front.");
    Optional<BootFacts> facts = first.volume().flatMap(Volume::bootFacts);
    boolean code = facts.map(BootFacts::code).orElse(false);
    String sector = code ? "its words sum to 0x1234" : "its words do not sum to 0x1234";
    links.look("P-22", "its boot sector is executed", code, sector, INSTALL);
    List<String> drivers = facts.map(BootFacts::systemFiles).orElse(List.of());
    String driver =
        drivers.isEmpty() ? "no driver in its root" : drivers.get(0) + " is in its root";
    links.look("P-22", "the driver", !drivers.isEmpty(), driver, INSTALL);
    return links.done();
  }

  /** None of our own: a driver belongs to its makers. */
  @Override
  public byte[] tableCode() {
    return new byte[0];
  }

  @Override
  public byte[] volumeCode(String kind, String contract, String systemFile) {
    return new byte[0];
  }
}
