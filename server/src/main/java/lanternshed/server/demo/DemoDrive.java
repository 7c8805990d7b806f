package lanternshed.server.demo;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import lanternshed.core.boot.BootPath;
import lanternshed.core.boot.pc.BootCode;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.family.Families;
import lanternshed.core.family.Family;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Setup;
import lanternshed.core.measure.Bytes;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.Damage;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.SliceMedium;
import lanternshed.core.survey.Volumes;
import lanternshed.core.table.TableMaker;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.Volume;

/** Fills a stand-in drive: table, volume that starts, files of the trade, and its damage. */
final class DemoDrive {
  private static final String[] NAMES = {
    "HERON", "REED", "SALT", "TIDE", "FERN", "ASH", "LARK", "ELM", "STONE", "MOSS", "GORSE", "DUNE"
  };
  private static final int SYSTEM_MARKS = 0x27;
  private static final int ARCHIVE = 0x20;
  private static final int EXECUTABLE = 0x1234;
  private final Scenario.DriveSpec spec;
  private final Geometry geometry;
  private final Setup setup;
  private final Family family;

  DemoDrive(Scenario.DriveSpec spec, Profile profile) {
    this.spec = spec;
    this.geometry = new Geometry(spec.cylinders(), spec.heads(), spec.sectors());
    this.setup = Setup.of(profile, "", "");
    this.family = Families.of(profile);
  }

  long sectors() {
    return geometry.total();
  }

  /** A table with one volume, laid out as the machine's own tools do. */
  void fill(Medium m) {
    long start = family.grid(setup, geometry).first();
    long length = geometry.total() - start;
    String kind = setup.system().kind(length);
    Maker maker = Catalogue.maker(kind);
    int cluster = family.countsHeads() ? 2048 : 0;
    Maker.Wish wish =
        new Maker.Wish(
                Optional.of(kind),
                length,
                start,
                cluster,
                family.countsHeads() ? 512 : 0,
                geometry,
                spec.label(),
                0x5A17_0000L + spec.start(),
                family.longNames() && !family.countsHeads(),
                stamp(0))
            .of(family.sectorBytes(setup, length), family.always16());
    FileSet b = new FileSet();
    system(b);
    for (String f : spec.folders()) b.folder(f, 0, stamp(0));
    files(b);
    BootPath boot = family.boot().orElseThrow();
    byte[] code =
        family.always16()
            ? executable()
            : boot.volumeCode(kind, setup.system().contract(), spec.systemFiles().get(0));
    maker.write(maker.layout(wish), b, new SliceMedium(m, start, length), code, (p, n) -> {});
    TableMaker table = family.table(setup.system()).maker().orElseThrow();
    String type = table.type(kind, length, false);
    table.write(
        m,
        geometry,
        family.always16() ? executable() : boot.tableCode(),
        spec.start(),
        List.of(new TableMaker.Slot(start, length, type, true, false, 0)));
  }

  /** What the machine starts: loaders of a PC, a text and what it calls, or a driver. */
  private void system(FileSet b) {
    List<String> names = spec.systemFiles();
    if (family.countsHeads()) {
      byte[] loader = BootCode.loader(spec.says(), setup.system().contract());
      file(b, names.get(0), SYSTEM_MARKS, Arrays.copyOf(loader, 28_672));
      file(b, names.get(1), SYSTEM_MARKS, content(1, 37_500));
      String path = "PATH C:\\" + spec.folders().get(0);
      file(b, "AUTOEXEC.BAT", ARCHIVE, text("@ECHO OFF", path, "START"));
      file(b, "CONFIG.SYS", ARCHIVE, text("FILES=30", "BUFFERS=20"));
      return;
    }
    for (String n : names) {
      int slash = n.indexOf('/');
      if (slash > 0 && !b.has(n.substring(0, slash))) b.folder(n.substring(0, slash), 0, stamp(0));
      boolean isText = slash > 0 && n.equals(names.get(0));
      file(b, n, ARCHIVE, isText ? startText() : content(1, 9_000));
    }
  }

  /** Calls every other system file by its name. */
  private byte[] startText() {
    StringBuilder out = new StringBuilder("; " + spec.says() + "\n");
    for (String n : spec.systemFiles().subList(1, spec.systemFiles().size())) {
      out.append(n.substring(n.indexOf('/') + 1)).append(" >NIL:\n");
    }
    return out.toString().getBytes(StandardCharsets.US_ASCII);
  }

  /** A sector that its ROM executes: a branch, a text, and a sum of 0x1234. */
  private byte[] executable() {
    byte[] b = new byte[512];
    b[0] = 0x60;
    b[1] = 0x38;
    byte[] says = spec.says().getBytes(StandardCharsets.US_ASCII);
    System.arraycopy(says, 0, b, 0x40, Math.min(60, says.length));
    int sum = 0;
    for (int i = 0; i < 510; i += 2) sum += Bytes.be16(b, i);
    Bytes.putBe16(b, 510, EXECUTABLE - sum);
    return b;
  }

  /** Many small files and a few large ones, as on any drive that was worked with. */
  private void files(FileSet b) {
    Random random = new Random(spec.start());
    int perFolder = (spec.files() + spec.folders().size() - 1) / spec.folders().size();
    long mean = spec.bytes() / spec.files();
    for (int i = 0; i < spec.files(); i++) {
      String folder = spec.folders().get(i / perFolder);
      String name = NAMES[i % NAMES.length];
      String path =
          String.format(
              "%s/%s%0" + (8 - name.length()) + "d.%s",
              folder,
              name,
              i % perFolder + 1,
              spec.kind());
      double skew = Math.pow(random.nextDouble(), 3) * 3.9 + 0.02;
      file(b, path, 0x20, content(i + 2, (int) (mean * skew)));
    }
  }

  /** The damage: scattered over the medium, and a dead sector in some files of its own. */
  Damage damage(Medium m) {
    long total = geometry.total();
    // The first cylinders stay whole: a drive that reads nothing at all would show nothing.
    long first = 4096;
    Damage scattered =
        Damage.scattered(spec.start(), total - first, spec.dead(), spec.late(), spec.slow());
    List<Damage.Zone> zones = new ArrayList<>();
    for (Damage.Zone z : scattered.zones()) {
      zones.add(new Damage.Zone(z.start() + first, z.length(), z.kind(), z.tries()));
    }
    Volume v = Volumes.find(m, 1).volume();
    List<Node> files = v.all().stream().filter(n -> !n.folder() && n.bytes() > 8192).toList();
    for (int i = 1; i <= spec.hitFiles(); i++) {
      Node n = files.get(files.size() * i / (spec.hitFiles() + 2));
      long at = family.grid(setup, geometry).first() + v.sectorsOf(n).get(0)[0] + 5;
      zones.add(new Damage.Zone(at, 1 + i, Damage.Kind.DEAD, 0));
    }
    return new Damage(zones);
  }

  private static void file(FileSet b, String path, int attributes, byte[] content) {
    int stamp = stamp(path.hashCode());
    b.file(path, content.length, attributes, stamp, s -> s.take(content, 0, content.length));
  }

  /** Rows of a pattern as text in front, the punched rows behind it. */
  private byte[] content(int number, int length) {
    byte[] b = new byte[Math.max(16, length)];
    byte[] head =
        String.format("%s %04d  rows %d\r\n", spec.label(), number, b.length / 16)
            .getBytes(StandardCharsets.US_ASCII);
    long x = spec.start() * 1_000_003 + number;
    for (int i = 0; i < b.length; i++) {
      x = x * 6_364_136_223_846_793_005L + 1_442_695_040_888_963_407L;
      b[i] = (byte) (i % 16 < 10 ? x >> 56 : (x >> 60) & 3);
    }
    System.arraycopy(head, 0, b, 0, Math.min(head.length, b.length));
    return b;
  }

  private static byte[] text(String... lines) {
    return (String.join("\r\n", lines) + "\r\n").getBytes(StandardCharsets.US_ASCII);
  }

  /** A day between 1993 and 1996, packed; the same for the same file. */
  private static int stamp(int from) {
    int day = Math.floorMod(from, 1200);
    int date = (13 + day / 360) << 9 | (day / 30 % 12 + 1) << 5 | (day % 28 + 1);
    return date << 16 | (8 + day % 9) << 11 | (day % 60) << 5;
  }
}
