package lanternshed.core.volume.cpm;

import java.util.List;
import java.util.Optional;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.VolumeException;

/**
 * What the content of files says for a layout and against it (C-8): a text that goes over more than
 * one sector and ends in its last record by the sign 1A was read in the right order; one that goes
 * on behind that sign, or has sectors of a blank disk in its middle, was not.
 *
 * @param agree texts that end where their file does
 * @param disagree texts that are torn
 */
record CpmEvidence(int agree, int disagree) {
  static final CpmEvidence NONE = new CpmEvidence(0, 0);

  private static final int MOST_FILES = 32;
  private static final int MOST_BYTES = 64 << 10;
  private static final int END_OF_TEXT = 0x1A;
  private static final int MOST_SECTOR = 512;

  boolean supports() {
    return agree > 0 && disagree == 0;
  }

  static CpmEvidence of(Medium m, CpmLayout l) {
    CpmVolume v;
    try {
      v = new CpmVolume(m, l, Optional.empty(), List.of());
    } catch (VolumeException e) {
      return NONE;
    }
    int agree = 0;
    int disagree = 0;
    int looked = 0;
    for (Node n : v.all()) {
      boolean fit = !n.folder() && n.bytes() > MOST_SECTOR && n.bytes() <= MOST_BYTES;
      if (!fit || looked == MOST_FILES) continue;
      looked++;
      byte[] b = content(v, n);
      if (b.length == 0 || !text(b, 0)) continue;
      if (torn(b)) disagree++;
      else if (ends(b)) agree++;
    }
    return new CpmEvidence(agree, disagree);
  }

  private static byte[] content(CpmVolume v, Node n) {
    byte[] out = new byte[(int) n.bytes()];
    int[] at = {0};
    try {
      v.read(
          n,
          (b, from, length) -> {
            System.arraycopy(b, from, out, at[0], length);
            at[0] += length;
          });
      return out;
    } catch (VolumeException | MediumException e) {
      // What does not come whole says nothing of the order in which it lies.
      return new byte[0];
    }
  }

  /** Whether a record is text up to its end or to the sign for it; marked letters are letters. */
  private static boolean text(byte[] b, int at) {
    int end = Math.min(b.length, at + CpmLayout.RECORD);
    for (int i = at; i < end; i++) {
      int c = b[i] & 0x7F;
      if (b[i] == END_OF_TEXT) return i > at;
      if ((b[i] & 0xFF) == CpmEntry.FREE) return false;
      if (c < ' ' && c != '\t' && c != '\r' && c != '\n' && c != '\f') return false;
      if (c == 0x7F) return false;
    }
    return true;
  }

  private static boolean torn(byte[] b) {
    boolean ended = false;
    for (int at = 0; at < b.length; at += CpmLayout.RECORD) {
      boolean text = text(b, at);
      if (ended && text) return true;
      if (!ended && !text && b[at] != END_OF_TEXT) return true;
      ended |= signed(b, at);
    }
    return false;
  }

  private static boolean ends(byte[] b) {
    int last = (b.length - 1) / CpmLayout.RECORD * CpmLayout.RECORD;
    if (!signed(b, last)) return false;
    for (int at = 0; at < last; at += CpmLayout.RECORD) if (signed(b, at)) return false;
    return true;
  }

  private static boolean signed(byte[] b, int at) {
    int end = Math.min(b.length, at + CpmLayout.RECORD);
    for (int i = at; i < end; i++) if (b[i] == END_OF_TEXT) return true;
    return false;
  }
}
