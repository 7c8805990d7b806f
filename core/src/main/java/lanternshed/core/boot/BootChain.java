package lanternshed.core.boot;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Chs;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableReading;
import lanternshed.core.table.mbr.Mbr;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.fat.FatLayout;
import lanternshed.core.volume.fat.FatVolume;

/**
 * The walk along a PC's boot chain, B-1 to B-8, on the real bytes of a medium under the target's
 * geometry and reach. The first broken link decides; the links after it are still looked at, so
 * that all can be mended at once.
 *
 * @param links in the order of the machine
 * @param message what our boot code will print where the chain breaks; empty where the chain holds,
 *     or where other boot code stands on the medium
 */
public record BootChain(List<Link> links, Optional<BootCode.Message> message) {
  private static final int SYSTEM_MARK = 0x04;

  /** How a link stands. */
  public enum Verdict {
    HOLDS,
    BREAKS,
    /** Cannot be looked at because of a link before it. */
    UNSEEN
  }

  /**
   * One link.
   *
   * @param evidence what was read, and where
   * @param mend what to do when it breaks; "" when it holds
   */
  public record Link(
      String rule, String name, Verdict verdict, String evidence, String mend, Sum because) {}

  public boolean holds() {
    return links.stream().noneMatch(l -> l.verdict() == Verdict.BREAKS);
  }

  /** How many links were seen to hold. */
  public long holding() {
    return links.stream().filter(l -> l.verdict() == Verdict.HOLDS).count();
  }

  /** The first link that breaks. */
  public Optional<Link> broken() {
    return links.stream().filter(l -> l.verdict() == Verdict.BREAKS).findFirst();
  }

  /**
   * Walks the chain.
   *
   * @param target what the target firmware's disk call shows
   * @param reach sectors that the boot path can reach
   */
  public static BootChain walk(Medium medium, Geometry target, long reach) {
    return new Walk(medium, target, reach).run();
  }

  private static final class Walk {
    private final Medium medium;
    private final Geometry target;
    private final long reach;
    private final List<Link> links = new ArrayList<>();
    private Optional<BootCode.Message> message = Optional.empty();
    private boolean tableOurs;

    Walk(Medium medium, Geometry target, long reach) {
      this.medium = medium;
      this.target = target;
      this.reach = reach;
    }

    BootChain run() {
      byte[] first = medium.sector(0);
      boolean marked = Bytes.u16(first, 510) == 0xAA55;
      link(
          "B-1",
          "Mark 55 AA",
          marked,
          String.format(Locale.ROOT, "sector 0 ends in %02X %02X", first[510], first[511]),
          "Write the table again; its sector carries the mark.");
      boolean code = !Bytes.allZero(first, 0, 440);
      tableOurs = BootCode.isTable(first);
      link(
          "B-2",
          "Boot code",
          code,
          !code
              ? "the first 440 bytes of sector 0 are all zero"
              : tableOurs ? "our own code stands in sector 0" : "code stands in sector 0",
          "Build the image with boot code.");
      Optional<TableReading> reading = new Mbr().read(medium);
      List<TableEntry> active =
          reading.stream()
              .flatMap(r -> r.entries().stream())
              .filter(e -> e.active() && !e.logical())
              .toList();
      link(
          "B-3",
          "One active entry",
          active.size() == 1,
          active.isEmpty()
              ? "no entry has the flag 80"
              : "flag 80 on "
                  + String.join(", ", active.stream().map(e -> "entry " + e.number()).toList()),
          "Mark the one volume that starts the machine.");
      if (active.size() != 1) {
        say(
            active.isEmpty() ? BootCode.Message.NO_ACTIVE : BootCode.Message.MANY_ACTIVE,
            tableOurs);
        unseen("B-4", "Within reach");
        unseen("B-5", "C/H/S equals LBA");
        unseen("B-6", "Hidden sectors");
        unseen("B-7", "Heads and sectors");
        unseen("B-8", "System file");
        return done();
      }
      entry(active.get(0));
      return done();
    }

    private void entry(TableEntry e) {
      boolean inReach = e.start() < Math.min(reach, medium.sectors());
      link(
          "B-4",
          "Within reach",
          inReach,
          "starts at sector " + Say.count(e.start()),
          "Move the volume up; the boot path reaches " + Say.sectors(reach) + ".",
          Sum.of("B-4", "Start of the boot volume")
              .sectors("", "start", e.start())
              .sectors(inReach ? "≤" : ">", "reach of the boot path", reach)
              .because("Firmware can only start what its disk call can reach.")
              .done());
      Chs right = target.toTableChs(e.start());
      boolean byLba = e.type() == 0x0C || e.type() == 0x0E;
      boolean same = byLba || e.first().equals(right);
      link(
          "B-5",
          "C/H/S equals LBA",
          same,
          "entry says " + e.first() + ", sector " + Say.count(e.start()) + " is " + right,
          "Write the entry again under " + target + ".",
          target.lbaSum(e.first()));
      if (!same) say(BootCode.Message.NO_BOOT_SECTOR, tableOurs);
      if (!inReach) say(BootCode.Message.VOLUME_UNREADABLE, tableOurs);
      if (e.start() >= medium.sectors()) {
        unseen("B-6", "Hidden sectors");
        unseen("B-7", "Heads and sectors");
        unseen("B-8", "System file");
        return;
      }
      Medium slice = new SliceMedium(medium, e.start(), e.length());
      Optional<FatVolume> volume = FatVolume.recogniseDamaged(slice);
      byte[] boot = medium.sector(e.start());
      if (volume.isEmpty() || Bytes.u16(boot, 510) != 0xAA55) {
        say(BootCode.Message.NO_BOOT_SECTOR, tableOurs);
        unseen("B-6", "Hidden sectors");
        unseen("B-7", "Heads and sectors");
        link(
            "B-8",
            "System file",
            false,
            "no boot sector of a FAT volume at sector " + Say.count(e.start()),
            "Format the volume with boot code.");
        return;
      }
      volume(e, boot, volume.get());
    }

    private void volume(TableEntry e, byte[] boot, FatVolume volume) {
      FatLayout l = volume.layout();
      String ours = BootCode.systemFileOf(boot);
      link(
          "B-6",
          "Hidden sectors",
          l.hidden() == e.start(),
          "boot sector says " + Say.count(l.hidden()) + ", table says " + Say.count(e.start()),
          "Set the boot sector's hidden sectors to the start of its volume.");
      boolean geometry = l.heads() == target.heads() && l.sectorsPerTrack() == target.sectors();
      link(
          "B-7",
          "Heads and sectors",
          geometry,
          "boot sector says "
              + l.heads()
              + " heads, "
              + l.sectorsPerTrack()
              + " sectors; firmware "
              + target.heads()
              + ", "
              + target.sectors(),
          "Set heads and sectors in the boot sector to what the firmware computes for this card.",
          Sum.of("G-15", "Geometry in the boot sector")
              .line("", "heads in the boot sector", l.heads())
              .line("", "heads of the firmware", target.heads())
              .line("", "sectors in the boot sector", l.sectorsPerTrack())
              .line("", "sectors of the firmware", target.sectors())
              .because(
                  "The boot sector computes C/H/S from its own fields; under another geometry it reads"
                      + " the wrong sectors.")
              .done());
      systemFile(volume, boot, ours);
      // The code looks for the system file first and asks what is wrong only when it is not found.
      boolean found = links.get(links.size() - 1).verdict() != Verdict.BREAKS;
      if (!geometry) say(BootCode.Message.WRONG_GEOMETRY, !ours.isEmpty());
      else if (l.hidden() != e.start()) say(BootCode.Message.WRONG_HIDDEN, !ours.isEmpty());
      else if (!found) say(BootCode.Message.NO_SYSTEM, !ours.isEmpty());
    }

    /** F-11: the first file of the root is the loader, it starts at cluster 2 and is contiguous. */
    private void systemFile(FatVolume volume, byte[] boot, String ours) {
      if (ours.isEmpty() && !startsFirst(volume, boot)) {
        otherCode(volume, boot);
        return;
      }
      List<Node> root = volume.list(volume.root());
      Optional<Node> first = root.stream().filter(n -> !n.folder()).findFirst();
      int slot = first.map(volume::rootSlot).orElse(-1);
      boolean there =
          first.isPresent()
              && slot == 0
              && first.get().first() == 2
              && first.get().bytes() > 0
              && volume.sectorsOf(first.get()).size() == 1
              && (ours.isEmpty() || first.get().name().equals(ours));
      String wanted = ours.isEmpty() ? "the first system file" : ours;
      link(
          "B-8",
          "System file",
          there,
          first.isEmpty()
              ? "the root folder holds no file"
              : slot > 0 && root.indexOf(first.get()) == 0
                  ? first.get().name()
                      + " is entry "
                      + (slot + 1)
                      + " of the root; a label or a deleted entry stands first"
                  : "first in the root is "
                      + root.get(0).name()
                      + " at cluster "
                      + root.get(0).first()
                      + (there ? ", contiguous" : ""),
          "Put " + wanted + " first into the root folder, contiguous from cluster 2.");
    }

    /** Whether the code names two files: the contract up to DOS 6, whose files stand first. */
    private static boolean startsFirst(FatVolume volume, byte[] boot) {
      List<Node> root = volume.list(volume.root());
      boolean system = !root.isEmpty() && (root.get(0).attributes() & SYSTEM_MARK) != 0;
      return system && !volume.kind().equals("FAT32") || named(volume, boot).size() > 1;
    }

    /** Files of the root whose names stand in a boot sector as they stand in a folder. */
    private static List<Node> named(FatVolume volume, byte[] boot) {
      String text = new String(boot, StandardCharsets.ISO_8859_1);
      List<Node> out = new ArrayList<>();
      for (Node n : volume.list(volume.root())) {
        int dot = n.name().lastIndexOf('.');
        String base = dot < 0 ? n.name() : n.name().substring(0, dot);
        String extension = dot < 0 ? "" : n.name().substring(dot + 1);
        if (!n.folder() && text.contains(String.format("%-8s%-3s", base, extension))) out.add(n);
      }
      return out;
    }

    /** B-9: what another system's code loads, and from where, is its own affair. */
    private void otherCode(FatVolume volume, byte[] boot) {
      List<Node> named = named(volume, boot);
      String evidence =
          named.isEmpty()
              ? "the code is another system's; what it loads only running it shows"
              : "the code names " + named.get(0).name() + ", which is in the root folder";
      links.add(
          new Link(
              "B-8",
              "System file",
              named.isEmpty() ? Verdict.UNSEEN : Verdict.HOLDS,
              evidence,
              "",
              Sum.of("B-9", "System file").note("read", evidence).because(evidence).done()));
    }

    private void say(BootCode.Message m, boolean ourCode) {
      if (message.isEmpty() && ourCode) message = Optional.of(m);
    }

    private void link(String rule, String name, boolean holds, String evidence, String mend) {
      link(
          rule,
          name,
          holds,
          evidence,
          mend,
          Sum.of(rule, name).note("read", evidence).because(holds ? evidence : mend).done());
    }

    private void link(
        String rule, String name, boolean holds, String evidence, String mend, Sum because) {
      links.add(
          new Link(
              rule,
              name,
              holds ? Verdict.HOLDS : Verdict.BREAKS,
              evidence,
              holds ? "" : mend,
              because));
    }

    private void unseen(String rule, String name) {
      Sum none = Sum.of(rule, name).because("A link before it broke.").done();
      links.add(new Link(rule, name, Verdict.UNSEEN, "not reached", "", none));
    }

    private BootChain done() {
      return new BootChain(List.copyOf(links), message);
    }
  }
}
