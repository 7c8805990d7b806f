package lanternshed.core.survey;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.UnreadableException;
import lanternshed.core.table.GeometryHint;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableReading;
import lanternshed.core.table.TableScheme;
import lanternshed.core.volume.BootFacts;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Volume;

/**
 * Reads a medium and says what is on it: a fold over what {@link Opener} found, blind to formats.
 * It never writes and never fails on nonsense.
 */
public final class Surveyor {
  private static final String LOOK_WHOLE = "Look whether the image is whole.";
  private static final int PROTECTS_ANOTHER_TABLE = 0xEE;

  /** So many files are looked into; a carrier card has fewer. */
  private static final int MOST_IMAGES = 16;

  /** Sectors that are looked at where nothing begins. */
  private static final int BLANK = 64;

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
    Opener.Opened opened = Opener.open(medium);
    Optional<TableScheme> scheme = opened.table().map(Opener.Table::scheme);
    if (opened.table().isPresent()) {
      Opener.Table t = opened.table().get();
      findings.addAll(t.reading().findings());
      t.scheme().geometry(t.reading()).forEach(h -> sources.add(source(h)));
    } else if (opened.parts().get(0).found().isEmpty()) {
      findings.add(nothing(medium));
      footer(medium, findings);
      return new Survey(medium.sectors(), Optional.empty(), volumes, sources, findings);
    } else {
      findings.add(noTable());
    }
    for (Opener.Part p : opened.parts()) volumes.add(found(p, scheme, sources, findings));
    opened.table().ifPresent(t -> together(medium, t, volumes, sources, findings));
    candidates(opened).ifPresent(findings::add);
    disagreement(sources).ifPresent(findings::add);
    footer(medium, findings);
    return new Survey(
        medium.sectors(), opened.table().map(Opener.Table::reading), volumes, sources, findings);
  }

  private static Survey.GeometrySource source(GeometryHint h) {
    return new Survey.GeometrySource(h.source(), h.heads(), h.sectors(), h.evidence());
  }

  private static void footer(Medium medium, List<Finding> findings) {
    if (!Catalogue.endsAsContainer(medium.sector(medium.sectors() - 1))) return;
    findings.add(
        Finding.wrong(
            "R-4",
            "sector " + (medium.sectors() - 1),
            "The last sector is the footer of a VHD whose sum or length is not right; it was kept as"
                + " part of the image.",
            "Compare its length with what the program that made it says; bring in a whole copy."));
  }

  /** What only table and volumes together can say. */
  private static void together(
      Medium medium,
      Opener.Table t,
      List<Survey.Found> volumes,
      List<Survey.GeometrySource> sources,
      List<Finding> findings) {
    Map<Integer, String> kinds = new HashMap<>();
    volumes.stream().filter(Survey.Found::readable).forEach(v -> kinds.put(v.number(), v.kind()));
    for (Finding f : t.scheme().against(t.reading(), kinds)) {
      Optional<Survey.Found> of =
          volumes.stream().filter(v -> f.where().equals("entry " + v.number())).findFirst();
      // It belongs to its volume, where one is shown.
      if (of.isPresent()) of.get().findings().add(f);
      else findings.add(f);
    }
    Optional<Geometry> g = agreed(sources, medium);
    if (g.isPresent()) findings.addAll(t.scheme().under(t.reading(), g.get()));
  }

  /** One part of the medium: a volume that is read, one that is known, or nothing that is. */
  private static Survey.Found found(
      Opener.Part p,
      Optional<TableScheme> scheme,
      List<Survey.GeometrySource> sources,
      List<Finding> notes) {
    TableEntry e = p.entry();
    if (e.type() == PROTECTS_ANOTHER_TABLE) {
      notes.add(
          Finding.wrong(
              "P-5",
              "entry " + e.number(),
              "An entry guards a GPT, but there is no GPT: its header is gone.",
              "Look whether the image begins at the medium's first sector."));
    }
    if (p.slice().isEmpty()) return unread(e, "nothing", "", List.of());
    if (p.found().isEmpty()) return unknown(p);
    Recognised r = p.found().get();
    if (r.volume().isPresent()) {
      Survey.Found found = read(r.volume().get(), e, scheme, sources);
      images(p.slice().orElseThrow(), r.volume().get(), e, notes);
      return found;
    }
    notes.add(
        Finding.note(
                "P-30",
                e.number() == 0 ? "sector 0" : "entry " + e.number(),
                r.kind()
                    + (r.label().isEmpty() ? "" : " \"" + r.label() + "\"")
                    + " is recognised; its files are not listed here, the sectors are kept.")
            .because(r.evidence()));
    return unread(e, r.kind(), r.label(), List.of());
  }

  /** Files that are images of drives themselves, the largest first; a carrier card has them. */
  private static void images(Medium slice, Volume v, TableEntry e, List<Finding> notes) {
    try {
      List<Node> largest =
          v.all().stream()
              .filter(n -> !n.folder() && n.bytes() % 512 == 0)
              .sorted(java.util.Comparator.comparingLong(Node::bytes).reversed())
              .limit(MOST_IMAGES)
              .toList();
      for (Node n : largest) {
        Inside.imageIn(slice, v, n)
            .ifPresent(
                what ->
                    notes.add(
                        Finding.note(
                            "P-32",
                            n.path(),
                            n.path()
                                + " on volume "
                                + e.number()
                                + " is the image of a drive: "
                                + what
                                + ". It opens like one.")));
      }
    } catch (ShedException x) {
      // What is damaged is told by the volume's own findings.
    }
  }

  private static Survey.Found unknown(Opener.Part p) {
    TableEntry e = p.entry();
    String why =
        Catalogue.FILESYSTEMS.stream()
            .flatMap(f -> f.refusal(p.slice().orElseThrow()).stream())
            .findFirst()
            .orElseGet(() -> begins(p.slice().orElseThrow()));
    Finding f =
        Finding.wrong(
            "P-4",
            "entry " + e.number(),
            "Entry " + e.number() + " says " + e.typeName() + ", but: " + why,
            "The volume is kept sector by sector; look for volumes without a table, which may show"
                + " what is left of it.");
    return unread(e, e.typeName(), "", List.of(f));
  }

  private static String begins(Medium slice) {
    int n = (int) Math.min(BLANK, slice.sectors());
    try {
      if (n > 0 && Bytes.allZero(slice.sectors(0, n), 0, n * slice.sectorSize())) {
        return "its first "
            + Say.plural(n, "sector holds", "sectors hold")
            + " only zeros: it was never formatted, was wiped, or is not read yet.";
      }
    } catch (UnreadableException e) {
      // What does not read is no zeros.
    }
    return "nothing that is known begins there.";
  }

  private static Survey.Found read(
      Volume v, TableEntry e, Optional<TableScheme> scheme, List<Survey.GeometrySource> sources) {
    List<Finding> findings = new ArrayList<>();
    // In a library small disks are what is expected.
    if (!scheme.map(TableScheme::ofDisks).orElse(false)) {
      v.inferred().ifPresent(sum -> findings.add(told(v, e, sum)));
    }
    Optional<BootFacts> boot = Optional.empty();
    try {
      boot = v.bootFacts();
    } catch (ShedException x) {
      findings.add(Finding.stops("F-9", "volume " + e.number(), x.getMessage(), LOOK_WHOLE));
    }
    if (boot.isPresent() && scheme.map(TableScheme::ofPcs).orElse(true)) {
      BootFacts b = boot.get();
      if (b.heads() > 0) {
        sources.add(
            new Survey.GeometrySource(
                "boot sector of volume " + e.number(),
                b.heads(),
                b.sectors(),
                "offsets 1A and 18 of sector " + e.start()));
      }
      if (e.number() > 0 && !e.logical() && b.hidden() != e.start()) {
        findings.add(
            Finding.wrong(
                "B-6",
                "volume " + e.number(),
                "The boot sector says "
                    + Say.count(b.hidden())
                    + " hidden sectors, the table says the volume starts at "
                    + Say.count(e.start())
                    + ": its boot code reads the wrong place.",
                "A rebuilt volume carries the right figure."));
      }
    }
    return contents(v, e, findings, boot);
  }

  private static Finding noTable() {
    return Finding.note(
        "P-30", "sector 0", "There is no table: the volume begins at sector 0, as on a floppy.");
  }

  private static Optional<Finding> candidates(Opener.Opened opened) {
    if (opened.table().isEmpty()) return Optional.empty();
    TableReading taken = opened.table().get().reading();
    // Every GPT has an MBR before it that protects it; that is no second table.
    boolean guarded = taken.scheme().equals("GPT");
    List<String> others =
        opened.others().stream()
            .map(t -> t.reading().scheme())
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
                + taken.scheme()
                + " was taken because its mark is the stronger one."));
  }

  /** What a volume that is read as files holds; where it breaks off, that is a finding. */
  private static Survey.Found contents(
      Volume v, TableEntry e, List<Finding> findings, Optional<BootFacts> boot) {
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
        boot.map(BootFacts::starts).orElse(List.of()),
        boot.map(BootFacts::code).orElse(false),
        v.guesses(),
        findings);
  }

  private static Finding told(Volume v, TableEntry e, Sum sum) {
    String what =
        "Nothing on disk says that it is " + v.kind() + ": it was told by what its folder holds.";
    if (!v.guesses().isEmpty()) {
      return Finding.wrong(
              sum.rule(),
              "volume " + e.number(),
              what + " How its blocks lie is a guess, and its files are unproved.",
              "Look into a file whose content you know, then say how it lies: beside its files, or by"
                  + " --layout on the command line.")
          .because(sum);
    }
    return Finding.note(sum.rule(), "volume " + e.number(), what).because(sum);
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

  private static Optional<Geometry> agreed(List<Survey.GeometrySource> sources, Medium medium) {
    if (sources.isEmpty()) return Optional.empty();
    // The boot sector is the better witness: table ends may be clipped.
    Survey.GeometrySource s = sources.get(sources.size() - 1);
    long cylinders = Math.max(1, medium.sectors() / ((long) s.heads() * s.sectors()));
    return Optional.of(
        new Geometry((int) Math.min(cylinders, Integer.MAX_VALUE), s.heads(), s.sectors()));
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
        List.of(),
        findings);
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
