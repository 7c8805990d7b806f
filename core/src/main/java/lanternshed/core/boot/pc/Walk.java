package lanternshed.core.boot.pc;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import lanternshed.core.boot.BootChain;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Chs;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableReading;
import lanternshed.core.volume.BootFacts;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Volume;

/**
 * One walk along a PC's boot chain, B-1 to B-8, on the real bytes of a medium under the target's
 * geometry and reach.
 */
final class Walk {
  private static final String TABLE = "MBR";

  /** Where the first system file begins, by the contract up to DOS 6. */
  private static final int FIRST_UNIT = 2;

  private final Medium medium;
  private final Geometry target;
  private final long reach;
  private final List<BootChain.Link> links = new ArrayList<>();
  private Optional<String> message = Optional.empty();
  private boolean tableOurs;
  private String kind = "";

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
    Optional<TableReading> reading = Catalogue.table(TABLE).read(medium);
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
      say(active.isEmpty() ? BootCode.Message.NO_ACTIVE : BootCode.Message.MANY_ACTIVE, tableOurs);
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
    Optional<Volume> volume =
        Opener.recognise(slice, new Hint(false, TABLE, e.type(), true)).flatMap(Recognised::volume);
    kind = volume.map(Volume::kind).orElse("");
    Optional<BootFacts> facts = volume.flatMap(Volume::bootFacts);
    byte[] boot = medium.sector(e.start());
    if (facts.isEmpty() || Bytes.u16(boot, 510) != 0xAA55) {
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
    volume(e, boot, facts.get());
  }

  private void volume(TableEntry e, byte[] boot, BootFacts facts) {
    String ours = BootCode.systemFileOf(boot);
    link(
        "B-6",
        "Hidden sectors",
        facts.hidden() == e.start(),
        "boot sector says " + Say.count(facts.hidden()) + ", table says " + Say.count(e.start()),
        "Set the boot sector's hidden sectors to the start of its volume.");
    boolean geometry = facts.heads() == target.heads() && facts.sectors() == target.sectors();
    link(
        "B-7",
        "Heads and sectors",
        geometry,
        "boot sector says "
            + facts.heads()
            + " heads, "
            + facts.sectors()
            + " sectors; firmware "
            + target.heads()
            + ", "
            + target.sectors(),
        "Set heads and sectors in the boot sector to what the firmware computes for this card.",
        Sum.of("G-15", "Geometry in the boot sector")
            .line("", "heads in the boot sector", facts.heads())
            .line("", "heads of the firmware", target.heads())
            .line("", "sectors in the boot sector", facts.sectors())
            .line("", "sectors of the firmware", target.sectors())
            .because(
                "The boot sector computes C/H/S from its own fields; under another geometry it reads"
                    + " the wrong sectors.")
            .done());
    String byName = BootCode.namedFileOf(boot, kind);
    if (byName.isEmpty()) systemFile(facts, ours);
    else anywhere(facts, byName);
    // The code looks for the system file first and asks what is wrong only when it is not found.
    boolean found = links.get(links.size() - 1).verdict() != BootChain.Verdict.BREAKS;
    if (!geometry) say(BootCode.Message.WRONG_GEOMETRY, !ours.isEmpty());
    else if (facts.hidden() != e.start()) say(BootCode.Message.WRONG_HIDDEN, !ours.isEmpty());
    else if (!found) say(BootCode.Message.NO_SYSTEM, !ours.isEmpty());
  }

  /** F-11: the first file of the root is the loader, it starts at cluster 2 and is contiguous. */
  private void systemFile(BootFacts facts, String ours) {
    if (ours.isEmpty() && !startsFirst(facts)) {
      otherCode(facts);
      return;
    }
    List<BootFacts.RootEntry> root = facts.first();
    Optional<BootFacts.RootEntry> first = root.stream().filter(n -> !n.folder()).findFirst();
    int slot = first.map(BootFacts.RootEntry::slot).orElse(-1);
    boolean there =
        first.isPresent()
            && slot == 0
            && first.get().unit() == FIRST_UNIT
            && first.get().bytes() > 0
            && first.get().runs() == 1
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
                    + root.get(0).unit()
                    + (there ? ", contiguous" : ""),
        "Put " + wanted + " first into the root folder, contiguous from cluster 2.");
  }

  /** Our own code that finds its file by name: it is in the root, wherever that is. */
  private void anywhere(BootFacts facts, String file) {
    boolean there = facts.named().contains(file);
    link(
        "B-8",
        "System file",
        there,
        there ? file + " is in the root folder" : file + " is not in the root folder",
        "Put " + file + " into the root folder.");
    if (!there) {
      boolean wide = kind.equals("FAT32");
      say(wide ? BootCode.Message.NO_FILE_32 : BootCode.Message.NO_FILE, true);
    }
  }

  /** Whether the code names two files: the contract up to DOS 6, whose files stand first. */
  private boolean startsFirst(BootFacts facts) {
    boolean system = !facts.first().isEmpty() && facts.first().get(0).system();
    // Boot code of a kind without a root of a fixed place looks for one file by its name.
    boolean fixedRoot = PcBoot.FIXED_ROOT.contains(kind);
    return system && fixedRoot || facts.named().size() > 1;
  }

  /** B-9: what another system's code loads, and from where, is its own affair. */
  private void otherCode(BootFacts facts) {
    List<String> named = facts.named();
    String evidence =
        named.isEmpty()
            ? "the code is another system's; what it loads only running it shows"
            : "the code names " + named.get(0) + ", which is in the root folder";
    links.add(
        new BootChain.Link(
            "B-8",
            "System file",
            named.isEmpty() ? BootChain.Verdict.UNSEEN : BootChain.Verdict.HOLDS,
            evidence,
            "",
            Sum.of("B-9", "System file").note("read", evidence).because(evidence).done()));
  }

  private void say(BootCode.Message m, boolean ourCode) {
    if (message.isEmpty() && ourCode) message = Optional.of(m.text());
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
        new BootChain.Link(
            rule,
            name,
            holds ? BootChain.Verdict.HOLDS : BootChain.Verdict.BREAKS,
            evidence,
            holds ? "" : mend,
            because));
  }

  private void unseen(String rule, String name) {
    Sum none = Sum.of(rule, name).because("A link before it broke.").done();
    links.add(new BootChain.Link(rule, name, BootChain.Verdict.UNSEEN, "not reached", "", none));
  }

  private BootChain done() {
    return new BootChain(List.copyOf(links), message);
  }
}
