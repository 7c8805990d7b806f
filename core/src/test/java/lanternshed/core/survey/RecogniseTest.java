package lanternshed.core.survey;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Arrays;
import lanternshed.core.Samples;
import lanternshed.core.Tool;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.volume.Volume;
import lanternshed.core.volume.exfat.ExfatVolume;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What other systems wrote is told by name, listed as far as it is known, and never mistaken. */
class RecogniseTest {
  @TempDir Path folder;

  private static void be32(byte[] b, int at, long v) {
    for (int i = 0; i < 4; i++) b[at + i] = (byte) (v >> 24 - 8 * i);
  }

  private static void sealed(byte[] b, int checksumAt) {
    long sum = 0;
    for (int i = 0; i < 512; i += 4) {
      for (int k = 0; k < 4; k++) sum += (long) (b[i + k] & 0xFF) << 24 - 8 * k;
    }
    be32(b, checksumAt, -sum);
  }

  private static void text(byte[] b, int at, String s) {
    byte[] t = s.getBytes(StandardCharsets.US_ASCII);
    System.arraycopy(t, 0, b, at, t.length);
  }

  @Test
  void aGptOfSfdiskIsListedAndWarnedOf() {
    Path p = folder.resolve("gpt");
    Tool.run("truncate -s 64M " + p);
    Tool.run(
        "printf 'label: gpt\\nstart=2048, size=20480, name=mill\\nstart=22528\\n' | sfdisk -q "
            + p);
    try (FileMedium m = FileMedium.open(p)) {
      Survey s = Surveyor.survey(m);
      assertThat(s.table().orElseThrow().scheme()).isEqualTo("GPT");
      assertThat(s.volumes()).hasSize(2);
      assertThat(s.volumes().get(0).start()).isEqualTo(2048);
      assertThat(s.table().get().entries().get(0).typeName()).contains("mill");
      assertThat(s.findings())
          .extracting("what")
          .anyMatch(t -> t.toString().contains("old machines do not read it"));
      assertThat(s.findings()).extracting("what").noneMatch(t -> t.toString().contains("CRC"));
      Whereabouts where = Whereabouts.of(m);
      assertThat(where.at(33).orElseThrow().kind()).isEqualTo("GPT table");
      assertThat(where.at(34)).isEmpty();
      assertThat(where.at(2048).orElseThrow().kind()).isEqualTo("volume");
    }
  }

  /** A table of one partition with an FFS volume, as the machine's own tool lays it. */
  private static MemoryMedium rdb() {
    MemoryMedium m = new MemoryMedium(40_000);
    byte[] r = new byte[512];
    text(r, 0, "RDSK");
    be32(r, 4, 64);
    be32(r, 16, 512);
    be32(r, 28, 3);
    be32(r, 132, 63);
    sealed(r, 8);
    m.write(2, 1, r, 0);
    byte[] p = new byte[512];
    text(p, 0, "PART");
    be32(p, 4, 64);
    be32(p, 16, 0xFFFF_FFFFL);
    be32(p, 20, 1);
    p[36] = 3;
    text(p, 37, "DH0");
    be32(p, 128, 16);
    be32(p, 132, 128);
    be32(p, 140, 4);
    be32(p, 148, 16);
    be32(p, 164, 2);
    be32(p, 168, 500);
    be32(p, 180, 0x1FFFFF);
    be32(p, 192, 0x444F5301L);
    sealed(p, 8);
    m.write(3, 1, p, 0);
    byte[] boot = new byte[512];
    text(boot, 0, "DOS");
    boot[3] = 1;
    m.write(128, 1, boot, 0);
    long length = 499L * 64;
    byte[] root = new byte[512];
    be32(root, 0, 2);
    be32(root, 508, 1);
    root[432] = 7;
    text(root, 433, "Atelier");
    sealed(root, 20);
    m.write(128 + (2 + length - 1) / 2, 1, root, 0);
    return m;
  }

  @Test
  void aBlockChainedTableAndItsVolumeAreNamed() {
    Survey s = Surveyor.survey(rdb());
    assertThat(s.table().orElseThrow().scheme()).isEqualTo("RDB");
    Survey.Found v = s.volumes().get(0);
    assertThat(v.kind()).isEqualTo("FFS");
    assertThat(v.label()).isEqualTo("Atelier");
    assertThat(v.active()).isTrue();
    assertThat(s.table().get().entries().get(0).typeName()).isEqualTo("DH0, DOS\\1");
    assertThat(s.findings()).extracting("rule").contains("P-11").doesNotContain("P-14");
  }

  @Test
  void aChainThatLoopsAndAWrongSumAreFindings() {
    MemoryMedium m = rdb();
    byte[] p = m.sector(3);
    be32(p, 16, 3);
    m.write(3, 1, p, 0);
    Survey s = Surveyor.survey(m);
    assertThat(s.findings()).extracting("rule").contains("P-6", "P-14");
  }

  @Test
  void aRootSectorOfTheDmaBusIsListed() {
    MemoryMedium m = new MemoryMedium(80_000);
    byte[] b = new byte[512];
    be32(b, 0x1C2, 80_000);
    b[0x1C6] = (byte) 0x81;
    text(b, 0x1C7, "GEM");
    be32(b, 0x1CA, 2);
    be32(b, 0x1CE, 30_000);
    b[0x1D2] = 1;
    text(b, 0x1D3, "XGM");
    be32(b, 0x1D6, 30_002);
    be32(b, 0x1DA, 49_998);
    m.write(0, 1, b, 0);
    byte[] x = new byte[512];
    x[0x1C6] = 1;
    text(x, 0x1C7, "BGM");
    be32(x, 0x1CA, 1);
    be32(x, 0x1CE, 40_000);
    m.write(30_002, 1, x, 0);
    Survey s = Surveyor.survey(m);
    assertThat(s.table().orElseThrow().scheme()).isEqualTo("AHDI");
    assertThat(s.volumes()).extracting(Survey.Found::start).containsExactly(2L, 30_003L);
    assertThat(s.findings()).extracting("rule").contains("P-22");
  }

  @Test
  void cpmIsToldByItsFolderWithTheScoreShown() {
    MemoryMedium m = new MemoryMedium(1440);
    byte[] all = new byte[1440 * 512];
    Arrays.fill(all, (byte) 0xE5);
    String[] names = {"HUMIDITYDAT", "PIP     COM", "NOTES   TXT"};
    for (int i = 0; i < names.length; i++) {
      int at = 4608 + i * 32;
      Arrays.fill(all, at, at + 32, (byte) 0);
      text(all, at + 1, names[i]);
      all[at + 15] = 64;
      for (int k = 0; k < 4; k++) all[at + 16 + 2 * k] = (byte) (4 + i * 4 + k);
    }
    m.write(0, 1440, all, 0);
    Survey s = Surveyor.survey(m);
    assertThat(s.volumes().get(0).kind()).isEqualTo("CP/M 2.2");
    var finding =
        s.allFindings().stream().filter(f -> f.what().contains("CP/M")).findFirst().orElseThrow();
    assertThat(finding.because().lines()).anyMatch(l -> l.label().contains("parameter set"));
  }

  @Test
  void anExfatCardIsListedAndItsFilesAreGot() throws Exception {
    Path p = folder.resolve("exfat");
    Tool.run("truncate -s 32M " + p);
    Tool.run("mkfs.exfat -c 4096 -L MILLCARD " + p);
    byte[] content = Samples.content(3, 10_000);
    try (FileMedium m = FileMedium.openWritable(p)) {
      plant(m, "Loom pattern with a long name.img", content);
    }
    assertThat(Tool.run("fsck.exfat -n " + p + " || true")).doesNotContain("corrupted");
    try (FileMedium m = FileMedium.open(p)) {
      Survey s = Surveyor.survey(m);
      Survey.Found v = s.volumes().get(0);
      assertThat(v.kind()).isEqualTo("exFAT");
      assertThat(v.label()).isEqualTo("MILLCARD");
      assertThat(v.findings()).isEmpty();
      assertThat(v.files()).isEqualTo(1);
      Volume volume = ExfatVolume.recognise(m).orElseThrow();
      var file = volume.all().get(0);
      assertThat(file.path()).isEqualTo("Loom pattern with a long name.img");
      assertThat(Samples.bytes(volume, file)).isEqualTo(content);
      assertThat(volume.use().free()).isLessThan(volume.use().clusters());
      Whereabouts where = Whereabouts.of(m);
      long[] run = volume.sectorsOf(file).get(0);
      assertThat(volume.sectorsOf(file)).hasSize(1);
      assertThat(m.sector(run[0])).startsWith(Arrays.copyOf(content, 512));
      assertThat(where.at(run[0]).orElseThrow().path()).isEqualTo(file.path());
      assertThat(where.at(0).orElseThrow().kind()).isEqualTo("exFAT boot region");
      assertThat(where.at(m.sectors() - 60).orElseThrow().kind()).isEqualTo("free space");
    }
    try (FileMedium m = FileMedium.openWritable(p)) {
      byte[] b = m.sector(3);
      b[7]++;
      m.write(3, 1, b, 0);
      assertThat(Surveyor.survey(m).volumes().get(0).findings())
          .extracting("what")
          .anyMatch(t -> t.toString().contains("checksum"));
    }
  }

  /** Adds a contiguous file to the root folder, as the specification lays it. */
  private static void plant(Medium m, String name, byte[] content) {
    byte[] boot = m.sector(0);
    long heap = (boot[88] & 0xFF | (boot[89] & 0xFF) << 8 | (long) (boot[90] & 0xFF) << 16);
    int perCluster = 1 << boot[109];
    long root = boot[96] & 0xFF;
    long at = heap + (root - 2) * perCluster;
    byte[] dir = m.sectors(at, perCluster);
    int o = 0;
    while (dir[o] != 0) o += 32;
    long first = root + 1;
    int names = (name.length() + 14) / 15;
    byte[] e = new byte[(2 + names) * 32];
    e[0] = (byte) 0x85;
    e[1] = (byte) (1 + names);
    e[4] = 0x20;
    e[32] = (byte) 0xC0;
    e[33] = 3;
    e[35] = (byte) name.length();
    for (int i = 0; i < 4; i++) {
      e[32 + 8 + i] = (byte) (content.length >> 8 * i);
      e[32 + 24 + i] = (byte) (content.length >> 8 * i);
      e[32 + 20 + i] = (byte) (first >> 8 * i);
    }
    byte[] utf = Arrays.copyOf(name.getBytes(StandardCharsets.UTF_16LE), names * 30);
    for (int n = 0; n < names; n++) {
      e[64 + n * 32] = (byte) 0xC1;
      System.arraycopy(utf, n * 30, e, 66 + n * 32, 30);
    }
    int hash = 0;
    for (int i = 0; i < name.length() * 2; i++) {
      byte[] up = name.toUpperCase(java.util.Locale.ROOT).getBytes(StandardCharsets.UTF_16LE);
      hash = ((hash & 1) << 15) + (hash >> 1) + (up[i] & 0xFF) & 0xFFFF;
    }
    e[36] = (byte) hash;
    e[37] = (byte) (hash >> 8);
    int sum = 0;
    for (int i = 0; i < e.length; i++) {
      if (i == 2 || i == 3) continue;
      sum = ((sum & 1) << 15) + (sum >> 1) + (e[i] & 0xFF) & 0xFFFF;
    }
    e[2] = (byte) sum;
    e[3] = (byte) (sum >> 8);
    System.arraycopy(e, 0, dir, o, e.length);
    m.write(at, perCluster, dir, 0);
    byte[] padded = Arrays.copyOf(content, (content.length + 511) / 512 * 512);
    m.write(heap + (first - 2) * perCluster, padded.length / 512, padded, 0);
    // The bitmap is in cluster 2: mark what is taken.
    byte[] bitmap = m.sector(heap);
    int clusters = (content.length + perCluster * 512 - 1) / (perCluster * 512);
    for (long c = first - 2; c < first - 2 + clusters; c++) bitmap[(int) (c / 8)] |= 1 << c % 8;
    m.write(heap, 1, bitmap, 0);
  }

  @Test
  void twoTablesOnOneMediumAreToldApartByEvidence() {
    MemoryMedium m = rdb();
    Geometry g = new Geometry(20, 16, 63);
    byte[] mbr = Samples.drive(g).sector(0);
    m.write(0, 1, mbr, 0);
    Survey s = Surveyor.survey(m);
    assertThat(s.table().orElseThrow().scheme()).isEqualTo("RDB");
    assertThat(s.findings())
        .extracting("what")
        .anyMatch(t -> t.toString().contains("also looks like MBR"));
    assertThat(new SliceMedium(m, 0, 10).sectors()).isEqualTo(10);
  }
}
