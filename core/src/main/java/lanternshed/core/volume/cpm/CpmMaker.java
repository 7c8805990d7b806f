package lanternshed.core.volume.cpm;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.Sum;
import lanternshed.core.medium.Medium;
import lanternshed.core.volume.ClusterWriter;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Sink;
import lanternshed.core.volume.VolumeException;

/**
 * Makes CP/M volumes over a whole medium. User areas come from folders USER1 to USER15; a length
 * that is no whole record is told by S1, and the rest of the record is filled with the mark that
 * ends a text (C-6), so that both schools read it right.
 */
final class CpmMaker implements Maker {
  private static final int MOST_BLOCKS = 65_536;

  /** Sixteen blocks of 16 KiB: what the two bytes of AL can mark. */
  static final int MOST_ENTRIES = 8192;

  private static final int END_OF_TEXT = 0x1A;
  private static final int MOST_EXTENT = 64 * 32;
  private static final Pattern USER = Pattern.compile("USER(1[0-5]|[1-9])");
  private static final Pattern NAME =
      Pattern.compile(
          "[^\\x00-\\x20<>.,;:=?*\\[\\]a-z`{|}~/]{1,8}(\\.[^\\x00-\\x20<>.,;:=?*\\[\\]a-z`{|}~/]{1,3})?");

  @Override
  public List<Integer> unitSizes() {
    return List.of(1024, 2048, 4096, 8192, 16_384);
  }

  @Override
  public long mostSectors(String kind, int clusterBytes) {
    return MOST_BLOCKS * (clusterBytes == 0 ? 16_384L : clusterBytes) / 512;
  }

  /** It keeps none. */
  @Override
  public String label(String wanted) {
    return wanted.strip().toUpperCase(Locale.ROOT);
  }

  @Override
  public CpmLayout layout(Wish wish) {
    int block = wish.clusterBytes() > 0 ? wish.clusterBytes() : usual(wish.sectors());
    if (!unitSizes().contains(block)) {
      throw new VolumeException("A block has 1 to 16 KiB, not " + Say.size(block) + ".");
    }
    long blocks = Math.min(MOST_BLOCKS, wish.sectors() * 512 / block);
    if (block == 1024 && blocks > 256) {
      throw new VolumeException(
          "Blocks of 1 KiB have numbers of one byte: 256 KiB a volume, not "
              + Say.mib(wish.sectors() * 512)
              + ". Take larger blocks.");
    }
    int entries = Math.min(block * 16 / CpmLayout.ENTRY, entries(block, blocks));
    CpmLayout l = new CpmLayout("the whole medium", 0, block, entries, (int) blocks);
    if (l.clusterCount() < 1) {
      throw new VolumeException(
          Say.mib(wish.sectors() * 512) + " leave no block behind the folder.");
    }
    return l;
  }

  private static int usual(long sectors) {
    long kib = sectors / 2;
    return kib <= 256
        ? 1024
        : kib <= 1024 ? 2048 : kib <= 8192 ? 4096 : kib <= 65_536 ? 8192 : 16_384;
  }

  /** An entry for each four blocks, as tools of the time allow, in whole blocks of the folder. */
  private static int entries(int block, long blocks) {
    int entries = 64;
    while (entries < MOST_ENTRIES && entries < blocks / 4) entries *= 2;
    return Math.max(entries, block / CpmLayout.ENTRY);
  }

  @Override
  public Fit fit(Layout layout, FileSet files) {
    CpmLayout l = (CpmLayout) layout;
    long blocks = 0;
    int entries = 0;
    for (FileSet.Item i : files.items()) {
      check(l, i);
      if (i.folder()) continue;
      blocks += units("", l.block(), i.bytes());
      entries += entries(l, i);
    }
    Sum sum =
        Sum.of("F-15", "Does it fit")
            .line("", "blocks of files", blocks)
            .line(blocks <= l.clusterCount() ? "≤" : ">", "blocks there", l.clusterCount())
            .line("", "entries needed", entries)
            .line(entries <= l.entries() ? "≤" : ">", "entries there", l.entries())
            .because("A file takes whole blocks, and an entry for each run of them.")
            .done();
    return new Fit(blocks, l.clusterCount(), entries, l.entries(), sum);
  }

  private static int entries(CpmLayout l, FileSet.Item i) {
    return (int) Math.max(1, (i.bytes() + l.entryBytes() - 1) / l.entryBytes());
  }

  private static void check(CpmLayout l, FileSet.Item i) {
    boolean root = i.parent().parent() == null && i.parent().name().isEmpty();
    if (i.folder()) {
      if (root && USER.matcher(i.name()).matches()) return;
      throw new VolumeException(
          i.path() + " is a folder; CP/M knows user areas only: USER1 to USER15 in the root.");
    }
    if (!NAME.matcher(i.name()).matches()) {
      throw new VolumeException(
          "\""
              + i.path()
              + "\" cannot stand in CP/M: eight letters and three, capitals, none of"
              + " < > . , ; : = ? * [ ].");
    }
    if (i.bytes() > (long) MOST_EXTENT * CpmLayout.EXTENT) {
      throw new VolumeException(
          i.path() + " has " + Say.bytes(i.bytes()) + "; a file ends at 32 MiB.");
    }
  }

  @Override
  public void write(Layout layout, FileSet files, Medium to, byte[] code, Watch watch) {
    CpmLayout l = (CpmLayout) layout;
    Fit fit = fit(l, files);
    if (!fit.fits()) {
      throw new VolumeException(
          "The files need "
              + Say.count(fit.needed())
              + " blocks and "
              + Say.count(fit.rootNeeded())
              + " entries; there are "
              + Say.count(fit.there())
              + " and "
              + Say.count(fit.rootEntries())
              + ": leave some out, or make the volume larger.");
    }
    byte[] folder = new byte[l.folderBlocks() * l.block()];
    Arrays.fill(folder, (byte) CpmEntry.FREE);
    int next = l.folderBlocks();
    int slot = 0;
    for (FileSet.Item i : files.items()) {
      if (i.folder()) continue;
      for (CpmEntry e : describe(l, i, next)) e.put(folder, slot++ * CpmLayout.ENTRY);
      next += (int) units("", l.block(), i.bytes());
    }
    // Where something lay before, nothing of it is left in a free block.
    long free = l.wholeMedium() ? 0 : (long) (l.blocks() - next) * l.block();
    try (ClusterWriter out =
        new ClusterWriter(l.wholeMedium() ? to : new InUseOrder(to, l), 0, 512)) {
      out.whole(folder);
      for (FileSet.Item i : files.items()) {
        if (i.folder()) continue;
        Padded p = new Padded(out, i);
        i.copyTo(p);
        p.end(l.block());
        watch.wrote(i.path(), i.bytes());
      }
      byte[] zeros = new byte[l.block()];
      for (; free > 0; free -= zeros.length) out.take(zeros, 0, zeros.length);
      out.finish();
    }
  }

  /** The entries of a file whose blocks follow each other. */
  private static List<CpmEntry> describe(CpmLayout l, FileSet.Item i, int first) {
    Matcher area = USER.matcher(i.parent().name());
    int user = area.matches() ? Integer.parseInt(area.group(1)) : 0;
    int marks = marks(i);
    long records = (i.bytes() + CpmLayout.RECORD - 1) / CpmLayout.RECORD;
    long blocks = (i.bytes() + l.block() - 1) / l.block();
    int s1 = (int) (i.bytes() % CpmLayout.RECORD);
    List<CpmEntry> out = new ArrayList<>();
    int entries = entries(l, i);
    for (int n = 0; n < entries; n++) {
      boolean last = n + 1 == entries;
      long upTo = last ? records : (n + 1) * l.entryBytes() / CpmLayout.RECORD;
      // The last extent of an entry is told full, not as the next one empty.
      long extent = upTo == 0 ? 0 : (upTo - 1) / CpmEntry.MOST_RECORDS;
      int[] numbers = new int[l.pointers()];
      for (int k = 0; k < numbers.length; k++) {
        long index = (long) n * l.pointers() + k;
        numbers[k] = index < blocks ? (int) (first + index) : 0;
      }
      int inLast = (int) (upTo - extent * CpmEntry.MOST_RECORDS);
      out.add(new CpmEntry(0, user, i.name(), marks, (int) extent, last ? s1 : 0, inLast, numbers));
    }
    return out;
  }

  private static int marks(FileSet.Item i) {
    int kept = i.own().length == 2 ? i.own()[0] & 0xFF | (i.own()[1] & 0xFF) << 8 : 0;
    int told = 1 << CpmEntry.READ_ONLY | 1 << CpmEntry.SYSTEM | 1 << CpmEntry.ARCHIVED;
    return kept & ~told
        | ((i.marks() & 0x01) != 0 ? 1 << CpmEntry.READ_ONLY : 0)
        | ((i.marks() & 0x04) != 0 ? 1 << CpmEntry.SYSTEM : 0)
        | ((i.marks() & 0x20) != 0 ? 0 : 1 << CpmEntry.ARCHIVED);
  }

  /** Fills the last record with the end of a text, and the last block with zeros. */
  private static final class Padded implements Sink {
    private final ClusterWriter out;
    private final FileSet.Item item;
    private long given;

    Padded(ClusterWriter out, FileSet.Item item) {
      this.out = out;
      this.item = item;
    }

    @Override
    public void take(byte[] b, int at, int length) {
      given += length;
      if (given > item.bytes()) throw otherLength();
      out.take(b, at, length);
    }

    void end(int block) {
      if (given != item.bytes()) throw otherLength();
      int over = (int) (given % CpmLayout.RECORD);
      if (over > 0) fill(CpmLayout.RECORD - over, END_OF_TEXT);
      int rest = (int) (given % block);
      if (rest > 0) fill(block - rest, 0);
    }

    private void fill(int count, int value) {
      byte[] b = new byte[count];
      Arrays.fill(b, (byte) value);
      given += count;
      out.take(b, 0, count);
    }

    private VolumeException otherLength() {
      return new VolumeException(
          item.path()
              + " was announced with "
              + Say.bytes(item.bytes())
              + " and gave another length.");
    }
  }
}
