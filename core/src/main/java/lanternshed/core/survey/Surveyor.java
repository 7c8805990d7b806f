package lanternshed.core.survey;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
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
import lanternshed.core.table.mbr.Mbr;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.VolumeException;
import lanternshed.core.volume.fat.FatLayout;
import lanternshed.core.volume.fat.FatVolume;

/** Reads a medium and says what is on it. It never writes and never fails on nonsense. */
public final class Surveyor {
  private static final int SYSTEM = 0x04;

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
    if (bare.isPresent()) {
      volumes.add(readVolume(medium, bare.get(), entryOfAll(medium), sources));
      findings.add(
          Finding.note(
              "P-30",
              "sector 0",
              "There is no table: the volume begins at sector 0, as on a floppy."));
    } else {
      table = new Mbr().read(medium);
      if (table.isPresent()) tabled(medium, table.get(), findings, volumes, sources);
      else findings.add(nothing(medium));
    }
    disagreement(sources).ifPresent(findings::add);
    return new Survey(medium.sectors(), table, volumes, sources, findings);
  }

  /** A volume from sector 0 on. A table's code may look like one; then the table decides. */
  private static Optional<FatVolume> bareVolume(Medium medium) {
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

  private static TableEntry entryOfAll(Medium medium) {
    return new TableEntry(
        0,
        0,
        medium.sectors(),
        0,
        "no table",
        false,
        false,
        new lanternshed.core.measure.Chs(0, 0, 1),
        new lanternshed.core.measure.Chs(0, 0, 1),
        0);
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
    for (TableEntry e : table.entries()) fromTable(e).ifPresent(sources::add);
    for (TableEntry e : table.volumes()) {
      if (e.type() == 0xEE) {
        findings.add(
            Finding.wrong(
                "P-5",
                "entry " + e.number(),
                "This medium carries a GPT, the table of today's computers; old machines do not read it.",
                "It is replaced when a new image is written; make sure nothing on it is needed."));
      }
      if (e.start() >= medium.sectors()) {
        volumes.add(unread(e, "nothing", List.of()));
        continue;
      }
      volumes.add(tabledVolume(medium, e, sources));
    }
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
      Medium medium, TableEntry e, List<Survey.GeometrySource> sources) {
    Medium slice = new SliceMedium(medium, e.start(), e.length());
    try {
      FatVolume v = FatVolume.open(slice);
      return readVolume(medium, v, e, sources);
    } catch (VolumeException x) {
      Finding f =
          Finding.wrong(
              "P-4",
              "entry " + e.number(),
              "Entry " + e.number() + " says " + e.typeName() + ", but: " + x.getMessage(),
              "The volume is kept sector by sector; its files cannot be listed yet.");
      return unread(e, e.typeName(), List.of(f));
    }
  }

  private static Survey.Found unread(TableEntry e, String kind, List<Finding> findings) {
    return new Survey.Found(
        e.number(),
        e.start(),
        e.length(),
        kind,
        "",
        false,
        e.active(),
        new Volume.Use(0, 0, 0, 0),
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
      Medium medium, FatVolume v, TableEntry e, List<Survey.GeometrySource> sources) {
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
    if (e.number() > 0) typeAgainstContent(e, v, findings);
    if (e.number() > 0 && !e.logical() && l.hidden() != e.start()) {
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
    List<Node> all = List.of();
    List<Node> root = List.of();
    try {
      all = v.all();
      root = v.list(v.root());
      findings.addAll(v.check());
    } catch (ShedException x) {
      findings.add(
          Finding.stops(
              "F-9", "volume " + e.number(), x.getMessage(), "Look whether the image is whole."));
    }
    long[] sizes = all.stream().filter(n -> !n.folder()).mapToLong(Node::bytes).toArray();
    List<String> system =
        root.stream()
            .takeWhile(n -> !n.folder() && (n.attributes() & SYSTEM) != 0)
            .map(Node::name)
            .toList();
    byte[] boot = medium.sector(e.start());
    return new Survey.Found(
        e.number(),
        e.start(),
        e.length(),
        v.kind(),
        v.label(),
        true,
        e.active(),
        v.use(),
        sizes.length,
        all.size() - sizes.length,
        Arrays.stream(sizes).sum(),
        sizes,
        root.size(),
        system,
        !Bytes.allZero(boot, FatLayout.CODE, 510) && Bytes.u16(boot, 510) == 0xAA55,
        findings);
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
