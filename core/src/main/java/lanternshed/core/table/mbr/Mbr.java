package lanternshed.core.table.mbr;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Chs;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.GeometryHint;
import lanternshed.core.table.Overlaps;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableMaker;
import lanternshed.core.table.TableReading;
import lanternshed.core.table.TableScheme;

/**
 * Reads the master boot record: four entries in sector 0 and the chain of extended tables, in which
 * entry 1 is a volume relative to its own table and entry 2 the next link relative to the first
 * extended table.
 */
public final class Mbr implements TableScheme {
  static final int CODE_END = 440;
  static final int SIGNATURE_AT = 440;
  public static final int ENTRIES_AT = 446;
  public static final int ENTRY_BYTES = 16;
  public static final int MARK_AT = 510;

  /** More links than letters: past this many a chain is nonsense whatever it says. */
  private static final int MOST_LINKS = 64;

  @Override
  public String name() {
    return "MBR";
  }

  @Override
  public Optional<TableReading> read(Medium medium) {
    if (medium.sectors() < 1 || medium.sectorSize() < 512) return Optional.empty();
    byte[] sector = medium.sector(0);
    boolean marked = marked(sector);
    int per = marked && medium.sectorSize() == 512 ? CountedIn.sectors(medium, sector) : 1;
    List<TableEntry> entries = new ArrayList<>();
    List<Finding> findings = new ArrayList<>();
    boolean flagsMakeSense = true;
    for (int i = 0; i < 4; i++) {
      int at = ENTRIES_AT + i * ENTRY_BYTES;
      int flag = Bytes.u8(sector, at);
      flagsMakeSense &= flag == 0 || flag == 0x80;
      if (Bytes.u8(sector, at + 4) != 0) entries.add(entry(sector, at, i + 1, 0, 0, per));
    }
    boolean plausible =
        flagsMakeSense
            && entries.stream().anyMatch(e -> e.length() > 0 && e.start() < medium.sectors());
    if (!plausible || !marked && entries.isEmpty()) return Optional.empty();
    if (!marked) {
      findings.add(
          Finding.stops(
              "P-5",
              "sector 0, bytes 510–511",
              String.format(
                  "The mark 55 AA is missing (%02X %02X stands there): firmware will not start this"
                      + " table.",
                  sector[510], sector[511]),
              "Build a new image; its table carries the mark."));
    }
    List<TableEntry> all = new ArrayList<>(entries);
    for (TableEntry e : entries) {
      if (isContainer(e.type())) followChain(medium, e, per, all, findings);
    }
    if (per > 1) findings.add(counted(per));
    findings.addAll(rules(medium, all));
    return Optional.of(new TableReading(name(), all, findings));
  }

  @Override
  public Optional<TableMaker> maker() {
    return Optional.of(new MbrWriter());
  }

  @Override
  public boolean ofPcs() {
    return true;
  }

  @Override
  public List<Place> places(TableReading table, Medium medium) {
    List<Place> out = new ArrayList<>();
    out.add(Place.headed("table", 0, 1, MbrFields.TABLE));
    for (TableEntry e : table.volumes()) {
      if (e.logical()) out.add(Place.headed("table", e.tableSector(), 1, MbrFields.TABLE));
    }
    return out;
  }

  /** P-4: the type code must be that of the volume. */
  @Override
  public List<Finding> against(TableReading table, Map<Integer, String> kinds) {
    List<Finding> out = new ArrayList<>();
    for (TableEntry e : table.volumes()) {
      String kind = kinds.getOrDefault(e.number(), "");
      if (!kind.startsWith("FAT") || fits(e.type(), kind)) continue;
      out.add(
          Finding.wrong(
              "P-4",
              "entry " + e.number(),
              "Entry "
                  + e.number()
                  + " says "
                  + e.typeName()
                  + ", but the volume in it is "
                  + kind
                  + ": some systems will not mount it.",
              "A new table carries the right type."));
    }
    return out;
  }

  private static boolean fits(int type, String kind) {
    return switch (type) {
      case 0x01 -> kind.equals("FAT12");
      case 0x04, 0x06, 0x0E -> kind.equals("FAT16");
      case 0x0B, 0x0C -> kind.equals("FAT32");
      default -> false;
    };
  }

  /** By the ends of entries: systems end volumes on a cylinder boundary (G-15). */
  @Override
  public List<GeometryHint> geometry(TableReading table) {
    return table.entries().stream().flatMap(e -> end(e).stream()).toList();
  }

  private static Optional<GeometryHint> end(TableEntry e) {
    if (e.last().equals(Chs.UNSAID)) return Optional.empty();
    int heads = e.last().head() + 1;
    int sectors = e.last().sector();
    if (sectors == 0 || e.length() == 0 || heads == 1) return Optional.empty();
    // Only an end that really is the last sector of a cylinder tells the geometry.
    long perCylinder = (long) heads * sectors;
    if (e.last().cylinder() < 1023 && e.end() != (e.last().cylinder() + 1) * perCylinder) {
      return Optional.empty();
    }
    return Optional.of(
        new GeometryHint("table, entry " + e.number(), heads, sectors, "end C/H/S " + e.last()));
  }

  @Override
  public List<Finding> under(TableReading table, Geometry geometry) {
    return disagreements(table, geometry);
  }

  static boolean marked(byte[] sector) {
    return Bytes.u16(sector, MARK_AT) == 0xAA55;
  }

  /** True for the types that only hold other volumes. */
  public static boolean isContainer(int type) {
    return type == 0x05 || type == 0x0F || type == 0x85;
  }

  private static Finding counted(int per) {
    String bytes = Say.count(per * 512L);
    return Finding.wrong(
        "P-2",
        "sector 0",
        "This table counts sectors of "
            + bytes
            + " bytes, as the drive did that it was written on, and its volumes do so too. Cards and"
            + " old drives have sectors of 512: written to one as it is, every entry leads elsewhere.",
        "Its files are read here as they lie. For a card take them into a new image.");
  }

  /**
   * @param per sectors of 512 bytes in one that the table counts; its C/H/S say nothing then
   */
  private static TableEntry entry(
      byte[] b, int at, int number, long base, long tableSector, int per) {
    int type = Bytes.u8(b, at + 4);
    return new TableEntry(
        number,
        base + Bytes.u32(b, at + 8) * per,
        Bytes.u32(b, at + 12) * per,
        type,
        typeName(type),
        Bytes.u8(b, at) == 0x80,
        isContainer(type),
        per == 1 ? Chs.unpack(b, at + 1) : Chs.UNSAID,
        per == 1 ? Chs.unpack(b, at + 5) : Chs.UNSAID,
        tableSector,
        "");
  }

  private static void followChain(
      Medium medium, TableEntry container, int per, List<TableEntry> all, List<Finding> findings) {
    Set<Long> seen = new HashSet<>();
    long at = container.start();
    int number = (int) Math.max(5, all.stream().filter(TableEntry::logical).count() + 5);
    for (int links = 0; links < MOST_LINKS; links++) {
      String where = "extended table at sector " + at;
      if (at < container.start() || at >= container.end() || at >= medium.sectors()) {
        findings.add(
            Finding.wrong(
                "P-6",
                where,
                "The chain of extended tables leaves its container (sectors "
                    + container.start()
                    + " to "
                    + container.end()
                    + "); what would follow is not listed.",
                "Rescue the volumes that are listed; search the rest of the image by hand."));
        return;
      }
      if (!seen.add(at)) {
        findings.add(
            Finding.wrong(
                "P-6",
                where,
                "The chain of extended tables comes back to this sector; it is followed once.",
                "Build a new table from the volumes that are listed."));
        return;
      }
      byte[] b = medium.sector(at);
      if (!marked(b)) {
        findings.add(
            Finding.wrong(
                "P-5",
                where,
                "This extended table has no mark 55 AA; the chain ends here.",
                "Build a new table from the volumes that are listed."));
        return;
      }
      // By custom the volume stands first and the link second; some wrote them the other way.
      long next = -1;
      for (int i = 0; i < 4; i++) {
        int o = ENTRIES_AT + i * ENTRY_BYTES;
        int type = Bytes.u8(b, o + 4);
        if (isContainer(type)) {
          if (next < 0) next = container.start() + Bytes.u32(b, o + 8) * per;
          continue;
        }
        if (type == 0 || Bytes.u32(b, o + 12) == 0) continue;
        TableEntry e = entry(b, o, number++, at, at, per);
        all.add(e);
        if (e.end() > container.end()) findings.add(past(e, container));
      }
      if (next < 0) return;
      at = next;
    }
    findings.add(
        Finding.wrong(
            "P-6",
            "extended table at sector " + at,
            "The chain of extended tables has more than " + MOST_LINKS + " links.",
            "Build a new table from the volumes that are listed."));
  }

  private static Finding past(TableEntry e, TableEntry container) {
    return Finding.wrong(
        "P-2",
        "entry " + e.number(),
        "Entry "
            + e.number()
            + " ends at sector "
            + Say.count(e.end())
            + ", its container at "
            + Say.count(container.end())
            + ": some systems do not list it.",
        "Build a new table; the container must hold all of its volumes.");
  }

  private static List<Finding> rules(Medium medium, List<TableEntry> all) {
    List<Finding> out = new ArrayList<>();
    long active = all.stream().filter(e -> e.active() && !e.logical()).count();
    byte[] first = medium.sector(0);
    // Without code in sector 0 nothing is meant to start from here: a data card (B-11).
    boolean dataOnly = active == 0 && Bytes.allZero(first, 0, CODE_END);
    if (dataOnly) {
      out.add(
          Finding.note(
              "P-1", "sector 0", "No entry is active and there is no boot code: a data card."));
    } else if (active != 1) {
      out.add(
          Finding.wrong(
                  "P-1",
                  "sector 0",
                  active == 0
                      ? "No entry is active: firmware that looks for one will not start this medium."
                      : active + " entries are active; boot code expects one.",
                  "Mark the one volume that starts the machine.")
              .because(
                  Sum.of("P-1", "Active entries")
                      .line("", "entries with flag 80", active)
                      .line("=", "needed to start", 1)
                      .because("Boot code looks for exactly one entry with the flag 80.")
                      .done()));
    }
    for (TableEntry e : all) {
      if (e.length() == 0 || e.end() > medium.sectors()) {
        out.add(
            Finding.wrong(
                    "P-2",
                    "entry " + e.number(),
                    "Entry "
                        + e.number()
                        + " ends at sector "
                        + Say.count(e.end())
                        + ", the medium at sector "
                        + Say.count(medium.sectors())
                        + ": the end of the volume is not here.",
                    "Read what is inside; the image may have been cut.")
                .because(
                    Sum.of("P-2", "End of entry " + e.number())
                        .sectors("", "start", e.start())
                        .sectors("+", "length", e.length())
                        .sectors("=", "end", e.end())
                        .sectors(">", "medium", medium.sectors())
                        .because("A volume must lie inside its medium.")
                        .done()));
      }
      if (!e.container()) {
        for (TableEntry o : all) {
          boolean other = o.logical() && o.number() != e.number();
          if (!other || o.tableSector() < e.start() || o.tableSector() >= e.end()) continue;
          out.add(
              Finding.wrong(
                  "P-2",
                  "entries " + e.number() + " and " + o.number(),
                  "The table of entry "
                      + o.number()
                      + " lies inside the volume of entry "
                      + e.number()
                      + ": writing the volume destroys it.",
                  "Save what is in both before anything is written."));
        }
      }
      if (e.start() == 0) {
        out.add(
            Finding.wrong(
                "P-2",
                "entry " + e.number(),
                "Entry " + e.number() + " begins at sector 0, where the table itself stands.",
                "Find out whether the medium has a table at all."));
      }
    }
    out.addAll(Overlaps.of(all));
    return out;
  }

  /**
   * P-3: entries whose C/H/S and LBA say different places under a geometry. Values past cylinder
   * 1023 must be the largest that can be said.
   */
  public static List<Finding> disagreements(TableReading reading, Geometry geometry) {
    List<Finding> out = new ArrayList<>();
    for (TableEntry e : reading.entries()) {
      if (e.length() == 0 || e.first().equals(Chs.UNSAID)) continue;
      compare(out, e, "start", e.first(), e.start(), geometry);
      compare(out, e, "end", e.last(), e.end() - 1, geometry);
    }
    return out;
  }

  private static void compare(
      List<Finding> out, TableEntry e, String side, Chs said, long lba, Geometry g) {
    Chs right = g.toTableChs(lba);
    // Two customs for a place past cylinder 1023: the largest C/H/S, or cylinder 1023 with the true
    // head and sector. Both only mean "use the LBA".
    boolean past = lba / g.perCylinder() > 1023 && said.cylinder() == 1023;
    if (said.equals(right) || past) return;
    out.add(
        Finding.wrong(
                "P-3",
                "entry " + e.number() + ", " + side,
                "Entry "
                    + e.number()
                    + " says its "
                    + side
                    + " is C/H/S "
                    + said
                    + ", but under "
                    + g
                    + " sector "
                    + Say.count(lba)
                    + " is "
                    + right
                    + ": code that reads by C/H/S lands elsewhere.",
                "Write the entry again under the geometry of the machine.")
            .because(g.lbaSum(said)));
  }

  /** The types this program knows, in words. */
  public static String typeName(int type) {
    return switch (type) {
      case 0x01 -> "FAT12";
      case 0x04 -> "FAT16 below 32 MiB";
      case 0x05 -> "extended";
      case 0x06 -> "FAT16 from 32 MiB";
      case 0x07 -> "NT or exFAT";
      case 0x0B -> "FAT32, by C/H/S";
      case 0x0C -> "FAT32, by LBA";
      case 0x0E -> "FAT16, by LBA";
      case 0x0F -> "extended, by LBA";
      case 0x52 -> "CP/M";
      case 0x82 -> "swap";
      case 0x83 -> "Unix-like";
      case 0xDA -> "data without a filesystem";
      case 0xEE -> "GPT guard";
      default -> String.format(Locale.ROOT, "type %02X", type);
    };
  }
}
