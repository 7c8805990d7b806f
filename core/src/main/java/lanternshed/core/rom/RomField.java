package lanternshed.core.rom;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import lanternshed.core.rom.RomFacts.OptionRom;
import lanternshed.core.rom.RomFacts.RomWords;

/**
 * Bytes of an image that have a name: the header of an option ROM as it is published, what it
 * points at, and texts.
 *
 * @param at its first byte
 */
public record RomField(int at, int length, String name) {
  private static final int ENTRY = 3;
  private static final int PCI = 0x18;
  private static final int PLUG = 0x1A;

  /** In the order of their places; of two at one place that of the header is first. */
  static List<RomField> of(byte[] b, Optional<OptionRom> option, List<RomWords> texts) {
    List<RomField> out = new ArrayList<>();
    option.ifPresent(o -> header(b, o, out));
    for (RomWords t : texts) {
      out.add(new RomField(t.at(), t.text().length(), "in the text “" + t.text() + "”"));
    }
    out.sort(Comparator.comparingInt(RomField::at));
    return List.copyOf(out);
  }

  private static void header(byte[] b, OptionRom o, List<RomField> out) {
    out.add(new RomField(0, 2, "the mark 55 AA"));
    out.add(new RomField(2, 1, "the length byte"));
    int entry = b[ENTRY] & 0xFF;
    int bytes = entry == 0xE9 ? 3 : entry == 0xEB ? 2 : 1;
    out.add(new RomField(ENTRY, bytes, "where the firmware enters it"));
    pointer(b, PCI, "PCIR", "PCI data", out);
    pointer(b, PLUG, "$PnP", "plug-and-play header", out);
    if (o.length() > PLUG && o.length() <= b.length) {
      out.add(new RomField(o.length() - 1, 1, "the byte that makes the sum right"));
    }
  }

  /** A word of the header that leads to a mark; any other word there is code. */
  private static void pointer(byte[] b, int at, String mark, String what, List<RomField> out) {
    if (b.length < at + 2) return;
    int to = b[at] & 0xFF | (b[at + 1] & 0xFF) << 8;
    if (to + mark.length() > b.length) return;
    for (int i = 0; i < mark.length(); i++) if (b[to + i] != mark.charAt(i)) return;
    out.add(new RomField(at, 2, "where its " + what + " is"));
    out.add(new RomField(to, mark.length(), "the mark of its " + what));
  }

  boolean has(int place) {
    return place >= at && place < at + length;
  }
}
