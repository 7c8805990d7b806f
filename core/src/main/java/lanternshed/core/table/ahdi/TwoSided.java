package lanternshed.core.table.ahdi;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.Place;
import lanternshed.core.measure.Say;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.table.TableMaker;
import lanternshed.core.table.TableReading;
import lanternshed.core.table.TableScheme;

/**
 * P-23: one volume with two boot sectors over the same FATs, root and data. The machine takes the
 * first entry of its root sector, and logical sectors as large as the volume asks for. A desktop
 * takes the fourth entry of the MBR in the same sector, which begins one sector earlier, and
 * sectors of 512 bytes. The four other entries overlap in the sector: the type bytes that a desktop
 * would read of them are zero, the flags that the machine would read are even.
 */
public final class TwoSided implements TableScheme, TableMaker {
  private static final int MBR_ENTRY = 0x1EE;
  private static final int MBR_TYPE = MBR_ENTRY + 4;
  private static final int MARK_AT = 510;
  private static final int MARK = 0xAA55;
  private static final int LBA_TYPE = 0x0E;
  private static final int CHS_TYPE = 0x06;

  /** Where type bytes of the other MBR entries lie. */
  private static final int[] OTHER_TYPES = {0x1C2, 0x1D2, 0x1E2};

  /** The mark of an entry that is the volume's label, among those of kinds of entries. */
  private static final int LABEL = 0x08;

  private static final int MARKS = 0x1E;

  /** Fewer clusters a desktop takes for FAT12. */
  private static final int LEAST_CLUSTERS = 4085;

  /** With clusters of 1 KiB: those clusters, two FATs of 16, the root and what is reserved. */
  private static final long LEAST_SECTORS = 2L * LEAST_CLUSTERS + 2 * 16 + 64;

  private final AhdiWriter machine = new AhdiWriter();

  @Override
  public String name() {
    return "AHDI+MBR";
  }

  @Override
  public Optional<TableReading> read(Medium medium) {
    if (medium.sectors() < 3) return Optional.empty();
    byte[] b = medium.sector(0);
    int type = b[MBR_TYPE] & 0xFF;
    boolean sides = Bytes.u16(b, MARK_AT) == MARK && (type == LBA_TYPE || type == CHS_TYPE);
    for (int at : OTHER_TYPES) sides &= b[at] == 0;
    if (!sides) return Optional.empty();
    return new Ahdi()
        .read(medium)
        .filter(r -> r.entries().size() == 1)
        .map(r -> checked(r, medium));
  }

  /** The two views must be of one volume. */
  private TableReading checked(TableReading r, Medium medium) {
    byte[] b = medium.sector(0);
    List<Finding> findings = new ArrayList<>(r.findings());
    long start = r.entries().get(0).start();
    long other = Bytes.u32(b, MBR_ENTRY + 8);
    Optional<byte[]> view =
        start > 0 && start < medium.sectors() ? view(medium, start) : Optional.empty();
    boolean same =
        view.isPresent()
            && other == start - 1
            && Arrays.equals(fields(view.get()), fields(medium.sector(other)));
    if (!same) {
      findings.add(
          Finding.wrong(
              "P-23",
              "volume 1",
              "The desktop's view of the volume does not lie over the machine's: what one side"
                  + " writes the other does not find.",
              "Write to it on one side only, and build the card anew."));
    }
    return new TableReading(name(), r.entries(), findings, r.startOrder(), r.drivers());
  }

  /** What decides where things lie: sector and cluster size, FATs, root, length. */
  private static byte[] fields(byte[] boot) {
    byte[] out = Arrays.copyOfRange(boot, 11, 24);
    // The length stands in 16 bits or in 32; of a view made here in 32.
    byte[] all = Arrays.copyOf(out, out.length + 4);
    System.arraycopy(boot, 32, all, out.length, 4);
    return all;
  }

  /**
   * The desktop's boot sector for a volume of the machine.
   *
   * @param start of the machine's
   * @return empty where there is no such volume, or its structures are no whole sectors
   */
  private static Optional<byte[]> view(Medium medium, long start) {
    byte[] m = medium.sector(start);
    int sector = Bytes.u16(m, 11);
    int per = sector / 512;
    long total = Bytes.u16(m, 19) == 0 ? Bytes.u32(m, 32) : Bytes.u16(m, 19);
    int root = Bytes.u16(m, 17);
    int fat = Bytes.u16(m, 22) * per;
    int cluster = (m[13] & 0xFF) * per;
    int reserved = Bytes.u16(m, 14) * per + 1;
    boolean sense =
        sector % 512 == 0
            && Integer.bitCount(per) == 1
            && root * 32 % sector == 0
            && fat > 0
            && fat < 1 << 16
            && cluster > 0
            && cluster <= 128
            && reserved < 1 << 16;
    if (!sense) return Optional.empty();
    byte[] b = new byte[512];
    b[0] = (byte) 0xEB;
    b[1] = 0x3C;
    b[2] = (byte) 0x90;
    System.arraycopy("TWOSIDED".getBytes(StandardCharsets.US_ASCII), 0, b, 3, 8);
    Bytes.put16(b, 11, 512);
    b[13] = (byte) cluster;
    Bytes.put16(b, 14, reserved);
    b[16] = m[16];
    Bytes.put16(b, 17, root);
    b[21] = m[21];
    Bytes.put16(b, 22, fat);
    Bytes.put16(b, 24, 63);
    Bytes.put16(b, 26, 255);
    Bytes.put32(b, 28, start - 1);
    Bytes.put32(b, 32, total * per + 1);
    b[36] = (byte) 0x80;
    b[38] = 0x29;
    for (int i = 0; i < 3; i++) b[39 + i] = m[8 + i];
    byte[] words = "NO NAME    FAT16   ".getBytes(StandardCharsets.US_ASCII);
    System.arraycopy(words, 0, b, 43, words.length);
    label(medium, start + reserved - 1 + (long) fat * (m[16] & 0xFF), root)
        .ifPresent(l -> System.arraycopy(l, 0, b, 43, l.length));
    // A desktop that starts from it waits instead of running into nothing.
    b[62] = (byte) 0xEB;
    b[63] = (byte) 0xFE;
    Bytes.put16(b, MARK_AT, MARK);
    return Optional.of(b);
  }

  /** The eleven letters of the label that stands in a root. */
  private static Optional<byte[]> label(Medium medium, long at, int entries) {
    for (int i = 0; i < entries && at + i / 16 < medium.sectors(); i += 16) {
      byte[] b = medium.sector(at + i / 16);
      for (int e = 0; e < 512; e += 32) {
        if (b[e] == 0) return Optional.empty();
        if ((b[e + 11] & MARKS) == LABEL) return Optional.of(Arrays.copyOfRange(b, e, e + 11));
      }
    }
    return Optional.empty();
  }

  @Override
  public List<Place> places(TableReading table, Medium medium) {
    List<Place> out = new ArrayList<>();
    out.add(Place.of(name() + " table", "", 0, 1, 0));
    table.volumes().stream()
        .filter(e -> e.start() > 1 && e.start() <= medium.sectors())
        .forEach(e -> out.add(Place.of("boot sector of the desktop", "", e.start() - 1, 1, 0)));
    return out;
  }

  @Override
  public Optional<TableMaker> maker() {
    return Optional.of(this);
  }

  @Override
  public long firstFree() {
    return 2;
  }

  @Override
  public String type(String kind, long sectors, boolean byLba) {
    return machine.type(kind, sectors, byLba);
  }

  @Override
  public String typeName(String type) {
    return machine.typeName(type) + ", and FAT16 of the MBR";
  }

  @Override
  public Optional<String> refusal(String type, String kind, long sectors) {
    if (sectors < LEAST_SECTORS) {
      return Optional.of(
          "a desktop takes a volume of fewer than "
              + Say.count(LEAST_CLUSTERS)
              + " clusters for FAT12");
    }
    return machine.refusal(type, kind, sectors);
  }

  /** A root sector that is executed sums to 0x1234, and this one ends with the mark of the MBR. */
  @Override
  public byte[] kept(Medium old) {
    return new byte[0];
  }

  @Override
  public void write(
      Medium medium, Geometry geometry, byte[] code, long signature, List<Slot> slots) {
    if (slots.size() != 1) {
      throw new ShedException(
          "A card that both sides read has one volume, not "
              + slots.size()
              + "; leave the others out, or make volumes for the machine alone.");
    }
    Slot s = slots.get(0);
    machine.write(medium, geometry, new byte[0], signature, slots);
    byte[] view =
        view(medium, s.start())
            .orElseThrow(() -> new ShedException("The volume is none that a desktop could read."));
    medium.write(s.start() - 1, 1, view, 0);
    byte[] b = medium.sector(0);
    Bytes.put32(b, 0x1B8, signature);
    boolean byChs = s.end() <= 1024L * 255 * 63;
    byte[] far = {(byte) 0xFE, (byte) 0xFF, (byte) 0xFF};
    System.arraycopy(far, 0, b, MBR_ENTRY + 1, 3);
    b[MBR_TYPE] = (byte) (byChs ? CHS_TYPE : LBA_TYPE);
    System.arraycopy(far, 0, b, MBR_ENTRY + 5, 3);
    Bytes.put32(b, MBR_ENTRY + 8, s.start() - 1);
    Bytes.put32(b, MBR_ENTRY + 12, Bytes.u32(view, 32));
    Bytes.put16(b, MARK_AT, MARK);
    if (Ahdi.sum(b) == Ahdi.EXECUTABLE) b[0x1BC] ^= 1;
    medium.write(0, 1, b, 0);
  }
}
