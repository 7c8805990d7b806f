package lanternshed.core.table;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import lanternshed.core.Tool;
import lanternshed.core.catalogue.Opener;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.table.ahdi.Ahdi;
import lanternshed.core.table.gpt.Gpt;
import lanternshed.core.table.mbr.Mbr;
import lanternshed.core.table.mbr.MbrWriter;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Tables that lost a part: what another part still says is read, and what is wrong is named. */
class DamagedTableTest {
  @TempDir Path home;

  private static List<Long> starts(TableReading t) {
    return t.volumes().stream().map(TableEntry::start).toList();
  }

  private static String said(TableReading t) {
    return String.join("\n", t.findings().stream().map(Finding::what).toList());
  }

  // ---- GPT --------------------------------------------------------------------------------------

  private Path gpt() {
    Path p = home.resolve("gpt");
    Tool.run("rm -f " + p + "; truncate -s 64M " + p);
    Tool.run(
        "printf 'label: gpt\\nstart=2048, size=20480, name=mill\\nstart=22528\\n' | sfdisk -q "
            + "--no-tell-kernel "
            + p);
    return p;
  }

  private static TableReading read(Medium m) {
    return new Gpt().read(m).orElseThrow();
  }

  /** A disk that was divided anew by a tool that leaves the rest as it was. */
  @Test
  void aGptThatNothingGuardsIsToldAndDoesNotHideTheTableThatCounts() {
    Path p = gpt();
    Tool.run("cp " + p + " " + p + ".old");
    Tool.run(
        "printf 'label: dos\nstart=63, size=60000, type=6\n' | sfdisk -q --wipe never "
            + "--no-tell-kernel "
            + p);
    // Some of these tools take the header away; others, and old systems, do not.
    Tool.run(
        "dd if=" + p + ".old of=" + p + " bs=512 skip=1 seek=1 count=33 conv=notrunc status=none");
    Tool.run("mkfs.fat -F 16 --offset 63 " + p + " 30000");
    assertThat(Tool.run("sfdisk -d " + p + " 2>/dev/null")).contains("label: dos");
    try (FileMedium m = FileMedium.open(p)) {
      Opener.Opened o = Opener.open(m);
      Opener.Table t = o.table().orElseThrow();
      assertThat(t.scheme().name()).isEqualTo("MBR");
      assertThat(starts(t.reading())).containsExactly(63L);
      assertThat(said(t.reading()))
          .contains("An older GPT stands here still")
          .contains("2 048 to 22 527");
      assertThat(o.parts().get(0).volume()).isPresent();
    }
  }

  @Test
  void theCopyIsReadWhereTheFirstIsGone() {
    try (FileMedium m = FileMedium.openWritable(gpt())) {
      assertThat(said(read(m))).doesNotContain("copy");
      byte[] header = m.sector(1);
      m.write(1, 1, new byte[512], 0);
      assertThat(starts(read(m))).containsExactly(2048L, 22528L);
      assertThat(said(read(m))).contains("The header of the GPT is gone");
      // The guard gone, too.
      byte[] guard = m.sector(0);
      m.write(0, 1, new byte[512], 0);
      assertThat(starts(read(m))).containsExactly(2048L, 22528L);
      m.write(0, 1, guard, 0);
      m.write(1, 1, header, 0);
      byte[] entries = m.sector(2);
      entries[40] ^= 1;
      m.write(2, 1, entries, 0);
      assertThat(starts(read(m))).containsExactly(2048L, 22528L);
      assertThat(said(read(m))).contains("CRC-32 of the entries is wrong; the copy in sector");
    }
  }

  @Test
  void aCopyThatIsMissingDamagedOrAnotherIsTold() {
    try (FileMedium m = FileMedium.openWritable(gpt())) {
      long last = m.sectors() - 1;
      byte[] copy = m.sector(last);
      byte[] bad = copy.clone();
      bad[40] ^= 1;
      m.write(last, 1, bad, 0);
      assertThat(said(read(m))).contains("The copy of the GPT in sector").contains("is damaged");
      m.write(last, 1, new byte[512], 0);
      assertThat(said(read(m))).contains("The copy of the GPT is missing");
      assertThat(said(read(new SliceMedium(m, 0, 60_000)))).contains("it was cut off");
    }
  }

  @Test
  void aTableOfAnotherSystemKeepsTheRestOfAnOldGptFromBeingTaken() {
    try (FileMedium m = FileMedium.openWritable(gpt())) {
      m.write(1, 1, new byte[512], 0);
      Geometry g = new Geometry(130, 16, 63);
      new MbrWriter()
          .write(
              m, g, new byte[0], 1, List.of(new TableMaker.Slot(63, 1000, "04", true, false, 0)));
      assertThat(new Gpt().read(m)).isEmpty();
    }
  }

  @Test
  void aHybridTableIsTold() {
    try (FileMedium m = FileMedium.openWritable(gpt())) {
      byte[] b = m.sector(0);
      b[446 + 16 + 4] = 0x0C;
      Bytes.put32(b, 446 + 16 + 8, 2048);
      Bytes.put32(b, 446 + 16 + 12, 20_480);
      m.write(0, 1, b, 0);
      assertThat(said(read(m))).contains("The MBR lists 1 volume beside the guard");
    }
  }

  @Test
  void blocksOf4096BytesAreRead() {
    Path p = home.resolve("wide");
    Tool.run("truncate -s 64M " + p);
    Tool.ask("printf 'g\\nn\\n1\\n256\\n+1000\\nn\\n2\\n2000\\n\\nw\\n' | fdisk -b 4096 " + p);
    try (FileMedium m = FileMedium.openWritable(p)) {
      assertThat(starts(read(m))).containsExactly(256L * 8, 2000L * 8);
      assertThat(said(read(m))).doesNotContain("CRC").doesNotContain("copy");
      m.write(8, 1, new byte[512], 0);
      assertThat(starts(read(m))).containsExactly(256L * 8, 2000L * 8);
    }
  }

  // ---- MBR --------------------------------------------------------------------------------------

  private static final Geometry G = new Geometry(200, 16, 63);

  private static MemoryMedium extended() {
    MemoryMedium m = new MemoryMedium(G.total());
    new MbrWriter()
        .write(
            m,
            G,
            new byte[0],
            1,
            List.of(
                new TableMaker.Slot(63, 20_097, "04", true, false, 0),
                new TableMaker.Slot(20_223, 20_000, "04", false, true, 20_160),
                new TableMaker.Slot(50_463, 20_000, "04", false, true, 50_400),
                new TableMaker.Slot(80_703, 20_000, "04", false, true, 80_640)));
    return m;
  }

  private static TableReading mbr(Medium m) {
    return new Mbr().read(m).orElseThrow();
  }

  @Test
  void linksBeforeTheirVolumesAreFollowed() {
    MemoryMedium m = extended();
    List<Long> right = starts(mbr(m));
    assertThat(right).hasSize(4);
    for (long lba : new long[] {20_160, 50_400}) {
      byte[] b = m.sector(lba);
      byte[] volume = java.util.Arrays.copyOfRange(b, 446, 462);
      System.arraycopy(b, 462, b, 446, 16);
      System.arraycopy(volume, 0, b, 462, 16);
      m.write(lba, 1, b, 0);
    }
    assertThat(starts(mbr(m))).isEqualTo(right);
    assertThat(said(mbr(m))).isEmpty();
  }

  @Test
  void whatReachesOverItsPlaceIsTold() {
    MemoryMedium m = extended();
    byte[] b = m.sector(20_160);
    Bytes.put32(b, 446 + 12, 40_000);
    m.write(20_160, 1, b, 0);
    assertThat(said(mbr(m)))
        .contains("Entries 5 and 6 overlap")
        .contains("The table of entry 6 lies inside the volume of entry 5");
    m = extended();
    b = m.sector(80_640);
    Bytes.put32(b, 446 + 12, 60_000);
    m.write(80_640, 1, b, 0);
    assertThat(said(mbr(m)))
        .contains("Entry 7 ends at sector")
        .contains("some systems do not list it");
    m = extended();
    b = m.sector(0);
    Bytes.put32(b, 446 + 8, 0);
    m.write(0, 1, b, 0);
    assertThat(said(mbr(m))).contains("begins at sector 0");
  }

  // ---- AHDI -------------------------------------------------------------------------------------

  private static void entry(byte[] b, int i, String id, long start, long length) {
    int at = 0x1C6 + i * 12;
    b[at] = 1;
    for (int k = 0; k < 3; k++) b[at + 1 + k] = (byte) id.charAt(k);
    for (int k = 0; k < 4; k++) {
      b[at + 4 + k] = (byte) (start >> 24 - 8 * k);
      b[at + 8 + k] = (byte) (length >> 24 - 8 * k);
    }
  }

  @Test
  void kindsThatAreNotKnownAreListedAndOverlapsTold() {
    MemoryMedium m = new MemoryMedium(60_000);
    byte[] b = new byte[512];
    entry(b, 0, "GEM", 2, 20_000);
    entry(b, 1, "F32", 20_100, 10_000);
    entry(b, 2, "BGM", 25_000, 30_000);
    m.write(0, 1, b, 0);
    TableReading t = new Ahdi().read(m).orElseThrow();
    assertThat(starts(t)).containsExactly(2L, 20_100L, 25_000L);
    assertThat(said(t)).contains("the kind \"F32\"").contains("Entries 2 and 3 overlap");
    b = new byte[512];
    entry(b, 0, "F32", 2, 20_000);
    m.write(0, 1, b, 0);
    assertThat(new Ahdi().read(m)).as("one known kind at least").isEmpty();
  }
}
