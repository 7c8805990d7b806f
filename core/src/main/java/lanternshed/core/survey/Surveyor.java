package lanternshed.core.survey;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import lanternshed.core.container.Container;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableReading;
import lanternshed.core.table.TableScheme;
import lanternshed.core.table.ahdi.Ahdi;
import lanternshed.core.table.gpt.Gpt;
import lanternshed.core.table.mbr.Mbr;
import lanternshed.core.table.rdb.Rdb;
import lanternshed.core.volume.Known;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;
import lanternshed.core.volume.cpm.Cpm;
import lanternshed.core.volume.exfat.ExfatVolume;
import lanternshed.core.volume.fat.FatLayout;
import lanternshed.core.volume.fat.FatVolume;
import lanternshed.core.volume.ffs.Ffs;

/** Reads a medium and says what is on it. It never writes and never fails on nonsense. */
public final class Surveyor {
  private static final int SYSTEM = 0x04;
  private static final String LOOK_WHOLE = "Look whether the image is whole.";

  /** From the strongest mark to the weakest: a checksum, a CRC, a mark, plausible entries. */
  private static final List<TableScheme> SCHEMES =
      List.of(new Rdb(), new Gpt(), new Mbr(), new Ahdi());

  private Surveyor() {}

  public static Survey survey(Medium medium) {
    List<Finding> findings = new ArrayList<>();
    List<Survey.Found> volumes = new ArrayList<>();
    List<Survey.GeometrySource> sources = new ArrayList<>();
    if (medium.sectors() == 0) {
      findings.add(
          Finding.stops(
              "P-30",
              "medium",
              "The image is empty: it holds no whole sector.",
              "Image it again."));
      return new Survey(0, Optional.empty(), volumes, sources, findings);
    }
    Optional<TableReading> table = Optional.empty();
    Optional<FatVolume> bare = bareVolume(medium);
    List<TableReading> tables = tables(medium);
    if (bare.isPresent()) {
      volumes.add(readVolume(medium, bare.get(), entryOfAll(medium), sources, false));
      findings.add(noTable());
    } else if (!tables.isEmpty()) {
      // The scheme with the stronger mark stands first; a second one is told, never guessed away.
      table = Optional.of(tables.get(0));
      tabled(medium, table.get(), findings, volumes, sources);
      candidates(tables).ifPresent(findings::add);
    } else if (FatVolume.recogniseDamaged(medium).isPresent()) {
      FatVolume v = FatVolume.open(medium);
      volumes.add(readVolume(medium, v, entryOfAll(medium), sources, false));
      findings.add(noTable());
    } else {
      Survey.Found whole = content(medium, entryOfAll(medium), findings);
      if (whole == null) {
        findings.add(nothing(medium));
      } else {
        volumes.add(whole);
        findings.add(noTable());
      }
    }
    disagreement(sources).ifPresent(findings::add);
    if (Container.looksLikeFooter(medium.sector(medium.sectors() - 1))) {
      findings.add(
          Finding.note(
              "R-4",
              "sector " + (medium.sectors() - 1),
              "The last sector is the footer of a VHD whose sum or length is not right; it was kept"
                  + " as part of the image."));
    }
    return new Survey(medium.sectors(), table, volumes, sources, findings);
  }

  /** Every table that a medium may have, the one with the strongest mark first. */
  static List<TableReading> tables(Medium medium) {
    return SCHEMES.stream().map(t -> t.read(medium)).flatMap(Optional::stream).toList();
  }

  /** A volume from sector 0 on. A table's code may look like one; then the table decides. */
  static Optional<FatVolume> bareVolume(Medium medium) {
    Optional<FatVolume> v = FatVolume.recognise(medium);
    if (v.isEmpty()) return v;
    boolean sizeFits =
        v.get().layout().total() * v.get().layout().bytesPerSector() / 512 <= medium.sectors() + 1;
    boolean tabled =
        new Mbr()
            .read(medium)
            .filter(
                t ->
                    t.volumes().stream()
                        .anyMatch(e -> e.start() > 0 && e.end() <= medium.sectors()))
            .isPresent();
    return tabled && !sizeFits ? Optional.empty() : v;
  }

  private static Finding noTable() {
    return Finding.note(
        "P-30", "sector 0", "There is no table: the volume begins at sector 0, as on a floppy.");
  }

  private static Optional<Finding> candidates(List<TableReading> tables) {
    // Every GPT has an MBR before it that protects it; that is no second table.
    boolean guarded = tables.get(0).scheme().equals("GPT");
    List<String> others =
        tables.stream()
            .skip(1)
            .map(TableReading::scheme)
            .filter(n -> !guarded || !n.equals("MBR"))
            .toList();
    if (others.isEmpty()) return Optional.empty();
    return Optional.of(
        Finding.note(
            "P-31",
            "sector 0",
            "The medium also looks like "
                + String.join(" and ", others)
                + "; "
                + tables.get(0).scheme()
                + " was taken because its mark is the stronger one."));
  }

  /**
   * What is no FAT: exFAT is read, OFS, FFS and CP/M are recognised; null where nothing is known.
   */
  private static Survey.Found content(Medium medium, TableEntry e, List<Finding> notes) {
    Medium slice =
        new SliceMedium(medium, e.start(), Math.min(e.length(), medium.sectors() - e.start()));
    Optional<ExfatVolume> exfat = ExfatVolume.recognise(slice);
    if (exfat.isPresent()) return exfat(exfat.get(), e);
    Optional<Known> known = Ffs.recognise(slice);
    if (known.isEmpty() && (e.number() == 0 || e.type() == 0x52)) known = Cpm.recognise(slice);
    if (known.isEmpty()) return null;
    Known k = known.get();
    notes.add(
        Finding.note(
                "P-30",
                e.number() == 0 ? "sector 0" : "entry " + e.number(),
                k.kind()
                    + (k.label().isEmpty() ? "" : " \"" + k.label() + "\"")
                    + " is recognised; its files are not listed yet, the sectors are kept.")
            .because(k.evidence()));
    return unread(e, k.kind(), k.label(), List.of());
  }

  private static Survey.Found exfat(ExfatVolume v, TableEntry e) {
    return contents(v, e, new ArrayList<>(), false);
  }

  /** What a volume that is read as files holds; where it breaks off, that is a finding. */
  private static Survey.Found contents(
      Volume v, TableEntry e, List<Finding> findings, boolean bootCode) {
    List<Node> all = List.of();
    List<Node> root = List.of();
    String label = "";
    Volume.Use use = new Volume.Use(0, 0, 0, 0);
    try {
      label = v.label();
      use = v.use();
      all = v.all();
      root = v.list(v.root());
      findings.addAll(v.check());
    } catch (ShedException x) {
      findings.add(Finding.stops("F-9", "volume " + e.number(), x.getMessage(), LOOK_WHOLE));
    }
    long notWhole = 0;
    try {
      notWhole = all.stream().filter(n -> v.notWhole(n).isPresent()).count();
    } catch (ShedException x) {
      findings.add(Finding.stops("F-9", "volume " + e.number(), x.getMessage(), LOOK_WHOLE));
    }
    long[] sizes = all.stream().filter(n -> !n.folder()).mapToLong(Node::bytes).toArray();
    List<String> system =
        root.stream()
            .takeWhile(n -> !n.folder() && (n.attributes() & SYSTEM) != 0)
            .map(Node::name)
            .toList();
    return new Survey.Found(
        e.number(),
        e.start(),
        e.length(),
        v.kind(),
        label,
        true,
        e.active(),
        use,
        sizes.length,
        all.size() - sizes.length,
        notWhole,
        Arrays.stream(sizes).sum(),
        sizes,
        root.size(),
        system,
        bootCode,
        findings);
  }

  private static TableEntry entryOfAll(Medium medium) {
    return TableEntry.plain(0, 0, medium.sectors(), "no table", false, 0);
  }

  private static Finding nothing(Medium medium) {
    byte[] first = medium.sector(0);
    boolean zero = Bytes.allZero(first, 0, first.length);
    return Finding.stops(
        "P-30",
        "sector 0",
        zero
            ? "Sector 0 is all zero: there is no table and no volume that this program knows."
            : "Sector 0 holds neither a table nor a volume that this program knows.",
        "Look whether this is the right medium, whole and not packed; the bytes stay as they are.");
  }

  private static void tabled(
      Medium medium,
      TableReading table,
      List<Finding> findings,
      List<Survey.Found> volumes,
      List<Survey.GeometrySource> sources) {
    findings.addAll(table.findings());
    if (table.scheme().equals("MBR")) {
      for (TableEntry e : table.entries()) fromTable(e).ifPresent(sources::add);
    }
    for (TableEntry e : table.volumes()) {
      if (e.type() == 0xEE) {
        findings.add(
            Finding.wrong(
                "P-5",
                "entry " + e.number(),
                "An entry guards a GPT, but there is no GPT: its header is gone.",
                "Look whether the image begins at the medium's first sector."));
      }
      if (e.start() >= medium.sectors()) {
        volumes.add(unread(e, "nothing", "", List.of()));
        continue;
      }
      Survey.Found other =
          table.scheme().equals("MBR") && e.type() != 0x07 && e.type() != 0x52
              ? null
              : content(medium, e, findings);
      volumes.add(other != null ? other : tabledVolume(medium, e, sources, table.scheme()));
    }
    if (!table.scheme().equals("MBR")) return;
    Optional<Geometry> g = agreed(sources, medium);
    if (g.isPresent()) findings.addAll(Mbr.disagreements(table, g.get()));
  }

  private static Optional<Geometry> agreed(List<Survey.GeometrySource> sources, Medium medium) {
    if (sources.isEmpty()) return Optional.empty();
    // The boot sector is the better witness: table ends may be clipped.
    Survey.GeometrySource s = sources.get(sources.size() - 1);
    long cylinders = Math.max(1, medium.sectors() / ((long) s.heads() * s.sectors()));
    return Optional.of(
        new Geometry((int) Math.min(cylinders, Integer.MAX_VALUE), s.heads(), s.sectors()));
  }

  private static Survey.Found tabledVolume(
      Medium medium, TableEntry e, List<Survey.GeometrySource> sources, String scheme) {
    Medium slice = new SliceMedium(medium, e.start(), e.length());
    try {
      FatVolume v = FatVolume.open(slice);
      return readVolume(medium, v, e, sources, scheme.equals("MBR"));
    } catch (VolumeException x) {
      Finding f =
          Finding.wrong(
              "P-4",
              "entry " + e.number(),
              "Entry " + e.number() + " says " + e.typeName() + ", but: " + x.getMessage(),
              "The volume is kept sector by sector; its files cannot be listed yet.");
      return unread(e, e.typeName(), "", List.of(f));
    }
  }

  private static Survey.Found unread(
      TableEntry e, String kind, String label, List<Finding> findings) {
    return new Survey.Found(
        e.number(),
        e.start(),
        e.length(),
        kind,
        label,
        false,
        e.active(),
        new Volume.Use(0, 0, 0, 0),
        0,
        0,
        0,
        0,
        new long[0],
        0,
        List.of(),
        false,
        findings);
  }

  private static Survey.Found readVolume(
      Medium medium,
      FatVolume v,
      TableEntry e,
      List<Survey.GeometrySource> sources,
      boolean typed) {
    List<Finding> findings = new ArrayList<>();
    FatLayout l = v.layout();
    if (l.heads() > 0 && l.heads() <= 256 && l.sectorsPerTrack() > 0 && l.sectorsPerTrack() <= 63) {
      sources.add(
          new Survey.GeometrySource(
              "boot sector of volume " + e.number(),
              l.heads(),
              l.sectorsPerTrack(),
              "offsets 1A and 18 of sector " + e.start()));
    }
    if (e.number() > 0 && typed) typeAgainstContent(e, v, findings);
    if (e.number() > 0 && typed && !e.logical() && l.hidden() != e.start()) {
      findings.add(
          Finding.wrong(
              "B-6",
              "volume " + e.number(),
              "The boot sector says "
                  + Say.count(l.hidden())
                  + " hidden sectors, the table says the volume starts at "
                  + Say.count(e.start())
                  + ": its boot code reads the wrong place.",
              "A rebuilt volume carries the right figure."));
    }
    byte[] boot = medium.sector(e.start());
    boolean code = !Bytes.allZero(boot, FatLayout.CODE, 510) && Bytes.u16(boot, 510) == 0xAA55;
    return contents(v, e, findings, code);
  }

  private static void typeAgainstContent(TableEntry e, FatVolume v, List<Finding> findings) {
    boolean fits =
        switch (e.type()) {
          case 0x01 -> v.kind().equals("FAT12");
          case 0x04, 0x06, 0x0E -> v.kind().equals("FAT16");
          case 0x0B, 0x0C -> v.kind().equals("FAT32");
          default -> false;
        };
    if (fits) return;
    findings.add(
        Finding.wrong(
            "P-4",
            "entry " + e.number(),
            "Entry "
                + e.number()
                + " says "
                + e.typeName()
                + ", but the volume in it is "
                + v.kind()
                + ": some systems will not mount it.",
            "A new table carries the right type."));
  }

  /**
   * Heads and sectors by the end of an entry: systems end volumes on a cylinder boundary (G-15).
   */
  private static Optional<Survey.GeometrySource> fromTable(TableEntry e) {
    int heads = e.last().head() + 1;
    int sectors = e.last().sector();
    if (sectors == 0 || e.length() == 0 || heads == 1) return Optional.empty();
    // Only an end that really is the last sector of a cylinder tells the geometry.
    long perCylinder = (long) heads * sectors;
    if (e.last().cylinder() < 1023 && e.end() != (e.last().cylinder() + 1) * perCylinder) {
      return Optional.empty();
    }
    return Optional.of(
        new Survey.GeometrySource(
            "table, entry " + e.number(), heads, sectors, "end C/H/S " + e.last()));
  }

  private static Optional<Finding> disagreement(List<Survey.GeometrySource> sources) {
    for (Survey.GeometrySource s : sources) {
      Survey.GeometrySource first = sources.get(0);
      if (s.heads() == first.heads() && s.sectors() == first.sectors()) continue;
      return Optional.of(
          Finding.wrong(
                  "G-15",
                  "geometry",
                  "The sources of the geometry disagree: "
                      + first.source()
                      + " says "
                      + first.heads()
                      + " heads and "
                      + first.sectors()
                      + " sectors, "
                      + s.source()
                      + " says "
                      + s.heads()
                      + " and "
                      + s.sectors()
                      + ". A clone may not start.",
                  "Rebuild under the geometry of the machine, or look which of them its firmware shows.")
              .because(
                  Sum.of("G-15", "Geometry by source")
                      .line("", first.source() + ": heads", first.heads())
                      .line("", first.source() + ": sectors", first.sectors())
                      .line("", s.source() + ": heads", s.heads())
                      .line("", s.source() + ": sectors", s.sectors())
                      .because("Code that uses C/H/S reads other sectors under another geometry.")
                      .done()));
    }
    return Optional.empty();
  }
}
