package lanternshed.core.family;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Profiles;
import lanternshed.core.measure.Finding;
import lanternshed.core.measure.Geometry;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.FileSet;
import lanternshed.core.volume.Maker;
import lanternshed.core.volume.Volume;
import org.junit.jupiter.api.Test;

/** A carrier's listing against the template of its emulator. */
class CarrierCheckTest {
  private static final Profile.Carrier SAMPLER = Profiles.get("scsi-sampler").carrier();
  private static final Profile.Carrier FLOPPIES = Profiles.get("floppy-instrument").carrier();

  private static Volume card(Object... namesAndBytes) {
    FileSet files = new FileSet();
    for (int i = 0; i < namesAndBytes.length; i += 2) {
      int n = (int) namesAndBytes[i + 1];
      files.file((String) namesAndBytes[i], n, 0, 0, s -> s.take(new byte[n], 0, n));
    }
    MemoryMedium m = new MemoryMedium(40_000);
    Maker maker = Catalogue.maker("FAT16");
    Maker.Wish wish =
        new Maker.Wish(
            Optional.of("FAT16"), 40_000, 0, 0, 0, new Geometry(40, 16, 63), "", 1, true, 0);
    maker.write(maker.layout(wish), files, m, new byte[0], (p, n) -> {});
    return Volumes.find(m, 0).volume();
  }

  private static List<String> said(Profile.Carrier c, Volume card) {
    return CarrierCheck.of(c, card).stream().map(Finding::what).toList();
  }

  @Test
  void aCardAsTheEmulatorAsksForItHasNoFinding() {
    Volume v = card("HD00.IMG", 1024, "hd30.img", 51_200);
    assertThat(said(SAMPLER, v)).isEmpty();
    assertThat(CarrierCheck.drives(SAMPLER, v))
        .extracting(CarrierCheck.Drive::id)
        .containsExactly(0, 3);
    Volume f = card("DISK000.IMG", 737_280, "DISK042.IMG", 737_280);
    assertThat(said(FLOPPIES, f)).isEmpty();
    assertThat(CarrierCheck.drives(FLOPPIES, f))
        .extracting(CarrierCheck.Drive::id)
        .containsExactly(0, 42);
  }

  @Test
  void whatTheEmulatorWillNotSeeIsNamed() {
    Volume v = card("HD00.IMG", 1000, "HD90.IMG", 512, "SOUNDS.IMG", 512, "HD20.IMG", 0);
    assertThat(said(SAMPLER, v))
        .containsExactlyInAnyOrder(
            "HD00.IMG has 1\u202F000 B, which is no whole block.",
            "HD90.IMG says id 9, which the emulator does not know.",
            "SOUNDS.IMG is not named as the emulator asks (HD{id}0.IMG).",
            "HD20.IMG has 0 B, which is no whole block.");
    assertThat(said(SAMPLER, card("NOTES.TXT", 10)))
        .anyMatch(s -> s.contains("it will show no drive"));
    Profile.Carrier sizes =
        new Profile.Carrier("HD{id}_{block}.IMG", List.of(512, 1024), List.of(1), true, 0, 0);
    assertThat(said(sizes, card("HD1_512.IMG", 512, "HD1_1024.IMG", 1024)))
        .containsExactly("HD1_1024.IMG and HD1_512.IMG say the same id, 1.");
  }
}
