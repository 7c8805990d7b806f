package lanternshed.core.survey;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import lanternshed.core.Samples;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.measure.ShedException;
import lanternshed.core.medium.Medium;
import lanternshed.core.medium.MediumException;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Node;
import lanternshed.core.volume.fat.FatKind;
import org.junit.jupiter.api.Test;

/** A carrier card: files on it are drives, and are opened like one, however deep. */
class InsideTest {
  private static final Geometry G = new Geometry(60, 16, 63);

  private static void add(FileSet files, String path, Medium drive) {
    files.file(
        path,
        drive.bytes(),
        0x20,
        Samples.STAMP,
        s -> {
          for (long at = 0; at < drive.sectors(); at += 1000) {
            int n = (int) Math.min(1000, drive.sectors() - at);
            s.take(drive.sectors(at, n), 0, n * 512);
          }
        });
  }

  /** An exFAT card with two drives on it, of which one carries a drive itself. */
  private static MemoryMedium card(MemoryMedium drive) {
    FileSet inner = new FileSet();
    inner.folder("IMAGES", 0, Samples.STAMP);
    add(inner, "IMAGES/OLD.IMG", drive);
    MemoryMedium carried = new MemoryMedium(drive.sectors() + 40_000);
    Samples.write(
        Samples.layout(G, 0, carried.sectors(), FatKind.FAT16, 0, "CARRIED"),
        inner,
        carried,
        new byte[0]);
    FileSet outer = new FileSet();
    add(outer, "DRIVE1 first drive.img", drive);
    add(outer, "DRIVE2 second drive.img", carried);
    outer.file("readme.txt", 4, 0, Samples.STAMP, s -> s.take(new byte[4], 0, 4));
    MemoryMedium m = new MemoryMedium(400_000);
    Samples.exfat(400_000, 0, 32_768, "CARRIER", outer, m);
    return m;
  }

  @Test
  void drivesOnACarrierAreToldAndOpenLikeOne() {
    MemoryMedium drive = Samples.drive(G);
    Map<String, String> whole = Samples.digests(Samples.volume(drive, G));
    MemoryMedium card = card(drive);
    assertThat(Surveyor.survey(card).findings())
        .extracting(Finding::what)
        .anyMatch(t -> t.contains("DRIVE1 first drive.img") && t.contains("MBR with 1 volume"))
        .anyMatch(
            t -> t.contains("DRIVE2 second drive.img") && t.contains("FAT16 without a table"));
    Medium first = Inside.open(card, "0/DRIVE1 first drive.img");
    assertThat(first.sectors()).isEqualTo(drive.sectors());
    assertThat(Samples.digests(Volumes.find(first, 1).volume())).isEqualTo(whole);
    // Two deep.
    Medium second = Inside.open(card, "0/drive2 SECOND drive.img");
    Medium third = Inside.open(second, "0/IMAGES/OLD.IMG");
    for (long s = 0; s < drive.sectors(); s += 997) {
      assertThat(third.sector(s)).isEqualTo(drive.sector(s));
    }
    assertThat(Surveyor.survey(third).volumes()).hasSize(1);
    assertThat(Whereabouts.of(third).at(0).orElseThrow().kind()).isEqualTo("table");
    assertThatThrownBy(() -> third.write(0, 1, new byte[512], 0))
        .isInstanceOf(MediumException.class);
  }

  @Test
  void aFileIsFoundAsDeepAsItLies() {
    MemoryMedium drive = Samples.drive(G);
    Node some =
        Samples.volume(drive, G).all().stream().filter(n -> !n.folder()).findFirst().orElseThrow();
    MemoryMedium card = card(drive);
    Inside.Hits found = Inside.find(card, some.path().toLowerCase(), 100);
    assertThat(found.whole()).isTrue();
    assertThat(found.hits())
        .extracting(Inside.Hit::way)
        .contains(
            List.of("0/DRIVE1 first drive.img"),
            List.of("0/DRIVE2 second drive.img", "0/IMAGES/OLD.IMG"));
    Inside.Hit deep = found.hits().get(found.hits().size() - 1);
    assertThat(Inside.open(card, deep.way()).sectors()).isEqualTo(drive.sectors());
    Inside.Hits few = Inside.find(card, "", 100, 1);
    assertThat(few.hits().stream().map(h -> h.way() + h.path().split("/")[0]).distinct())
        .hasSameSizeAs(few.hits())
        .hasSizeGreaterThan(1);
    assertThat(few.whole()).as("no volume is hidden").isTrue();
    assertThat(Inside.find(card, "", 3).whole()).isFalse();
    assertThat(Inside.find(card, "", 3).hits()).hasSize(3);
    assertThat(Inside.find(card, "no such letters", 3)).isEqualTo(new Inside.Hits(List.of(), true));
  }

  @Test
  void whatIsNotThereIsSaid() {
    MemoryMedium card = card(Samples.drive(G));
    assertThatThrownBy(() -> Inside.open(card, "DRIVE1.IMG"))
        .isInstanceOf(ShedException.class)
        .hasMessageContaining("number of a volume");
    assertThatThrownBy(() -> Inside.open(card, "3/DRIVE1.IMG")).hasMessageContaining("Volume 3");
    assertThatThrownBy(() -> Inside.open(card, "0/NONE.IMG")).hasMessageContaining("no file");
  }
}
