package lanternshed.core.boot.pc;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Chs;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Say;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.Mending;
import lanternshed.core.table.TableEntry;
import lanternshed.core.table.TableReading;
import lanternshed.core.table.mbr.Mbr;
import lanternshed.core.volume.BootFacts;
import lanternshed.core.volume.Hint;
import lanternshed.core.volume.Recognised;
import lanternshed.core.volume.Volume;

/**
 * B-1 to B-7: what a PC's start computes with, put right for one geometry: marks, code of sector 0,
 * the one active entry, places by C/H/S, hidden sectors, heads and sectors. What is in the volumes
 * stays as it is, and so does boot code that is there.
 */
final class StartMending implements Mending {
  private static final int CODE_BYTES = 440;
  private static final int HIDDEN_AT = 0x1C;
  private static final int HEADS_AT = 0x1A;
  private static final int TRACK_AT = 0x18;

  /** Where a FAT32 boot sector says that its copy lies. */
  private static final int COPY_AT = 0x32;

  private final Medium medium;
  private final Geometry g;
  private final Map<Long, byte[]> sectors = new LinkedHashMap<>();
  private final List<Finding> changes = new ArrayList<>();

  StartMending(Medium medium, Geometry g) {
    this.medium = medium;
    this.g = g;
    Optional<TableReading> table = Catalogue.table("MBR").read(medium);
    if (table.isEmpty()) return;
    List<TableEntry> entries = table.get().entries();
    // What counts in larger sectors starts no machine from a card, whatever its places say.
    if (entries.stream().anyMatch(e -> e.first().equals(Chs.UNSAID))) return;
    first();
    active(entries);
    for (TableEntry e : entries) if (e.length() > 0) place(e);
    for (TableEntry e : entries) if (!e.container()) bootSector(e);
  }

  /** A sector as it will be, for changing. */
  private byte[] sector(long lba) {
    return sectors.computeIfAbsent(lba, medium::sector);
  }

  private void changed(String rule, String where, String what) {
    changes.add(Finding.note(rule, where, what));
  }

  private void first() {
    byte[] b = sector(0);
    if (Bytes.u16(b, Mbr.MARK_AT) != 0xAA55) {
      Bytes.put16(b, Mbr.MARK_AT, 0xAA55);
      changed("B-1", "sector 0", "The mark 55 AA is written at the end of sector 0.");
    }
    if (!Bytes.allZero(b, 0, CODE_BYTES)) return;
    byte[] code = BootCode.table();
    System.arraycopy(code, 0, b, 0, code.length);
    changed("B-2", "sector 0", "Boot code of our own is put into sector 0, where there is none.");
  }

  /** One entry starts the machine: the first whose volume can. */
  private void active(List<TableEntry> entries) {
    List<TableEntry> primary =
        entries.stream().filter(e -> !e.logical() && !e.container()).toList();
    List<TableEntry> marked = primary.stream().filter(TableEntry::active).toList();
    if (marked.size() == 1) return;
    List<TableEntry> from = marked.isEmpty() ? primary : marked;
    Optional<TableEntry> starts = from.stream().filter(this::starts).findFirst();
    if (starts.isEmpty()) return;
    for (TableEntry e : primary) {
      boolean wanted = e.number() == starts.get().number();
      if (e.active() == wanted) continue;
      sector(0)[at(e)] = (byte) (wanted ? 0x80 : 0);
      String what = wanted ? " is marked active." : " is not marked active any more.";
      changed("B-3", "entry " + e.number(), "Entry " + e.number() + what);
    }
  }

  private static int at(TableEntry e) {
    return Mbr.ENTRIES_AT + (e.number() - 1) * Mbr.ENTRY_BYTES;
  }

  private boolean starts(TableEntry e) {
    return facts(e).filter(f -> f.code() && !f.starts().isEmpty()).isPresent();
  }

  private Optional<BootFacts> facts(TableEntry e) {
    return volume(e).flatMap(Volume::bootFacts);
  }

  private Optional<Volume> volume(TableEntry e) {
    if (e.start() >= medium.sectors()) return Optional.empty();
    Medium slice = Opener.slice(medium, e.start(), e.length());
    return Opener.recognise(slice, new Hint(false, "MBR", e.type(), e.active()))
        .flatMap(Recognised::volume);
  }

  /** B-5: both places of an entry; a logical volume's stands first in a table of its own. */
  private void place(TableEntry e) {
    long table = e.logical() ? e.tableSector() : 0;
    int at = e.logical() ? Mbr.ENTRIES_AT : at(e);
    Chs first = g.toTableChs(e.start());
    Chs last = g.toTableChs(e.end() - 1);
    if (e.first().equals(first) && e.last().equals(last)) return;
    byte[] b = sector(table);
    first.pack(b, at + 1);
    last.pack(b, at + 5);
    changed(
        "B-5",
        "entry " + e.number(),
        String.format(
            Locale.ROOT,
            "Entry %d goes from %s to %s; it said %s to %s.",
            e.number(),
            first,
            last,
            e.first(),
            e.last()));
  }

  /** B-6, B-7: the fields from which a FAT's boot code computes places, and their copy. */
  private void bootSector(TableEntry e) {
    Optional<Volume> v = volume(e);
    if (v.isEmpty() || !v.get().kind().startsWith("FAT")) return;
    String name = "the boot sector of entry " + e.number();
    byte[] b = sector(e.start());
    long hidden = Bytes.u32(b, HIDDEN_AT);
    int heads = Bytes.u16(b, HEADS_AT);
    int track = Bytes.u16(b, TRACK_AT);
    // Of a logical volume systems count from its own table, or from the first sector; both work.
    boolean moved = hidden != e.start() && !e.logical();
    boolean other = heads != g.heads() || track != g.sectors();
    if (moved) {
      String was = "; it said " + Say.count(hidden) + ".";
      String what = "In " + name + " hidden sectors are " + Say.count(e.start()) + was;
      changed("B-6", name, what);
    }
    if (other) {
      String was = "; it said " + heads + " × " + track + ".";
      String what = "In " + name + " heads and sectors are " + g.heads() + " × " + g.sectors();
      changed("B-7", name, what + was);
    }
    if (!moved && !other) return;
    fields(b, e);
    int copy = v.get().kind().equals("FAT32") ? Bytes.u16(b, COPY_AT) : 0;
    boolean there = copy > 0 && copy < Math.min(e.length(), 64);
    if (there && e.start() + copy < medium.sectors()) {
      byte[] c = sector(e.start() + copy);
      if (Bytes.u16(c, Mbr.MARK_AT) == 0xAA55) fields(c, e);
    }
  }

  private void fields(byte[] b, TableEntry e) {
    if (!e.logical()) Bytes.put32(b, HIDDEN_AT, e.start());
    Bytes.put16(b, HEADS_AT, g.heads());
    Bytes.put16(b, TRACK_AT, g.sectors());
  }

  @Override
  public List<Finding> changes() {
    return List.copyOf(changes);
  }

  @Override
  public void apply(Medium copy) {
    if (changes.isEmpty()) return;
    sectors.forEach((lba, b) -> copy.write(lba, 1, b, 0));
  }
}
