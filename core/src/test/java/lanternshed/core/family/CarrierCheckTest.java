package lanternshed.core.family;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
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
    return card(files);
  }

  private static Volume card(FileSet files) {
    MemoryMedium m = new MemoryMedium(40_000);
    Maker maker = Catalogue.maker("FAT16");
    Maker.Wish wish =
        new Maker.Wish(
            Optional.of("FAT16"), 40_000, 0, 0, 0, new Geometry(40, 16, 63), "", 1, true, 0);
    maker.write(maker.layout(wish), files, m, new byte[0], (p, n) -> {});
    return Volumes.find(m, 0).volume();
  }

  /** A card of two floppies and the emulator's list. */
  private static Volume listed(String list) {
    FileSet files = new FileSet();
    for (String f : List.of("DISK000.IMG", "DISK042.IMG")) {
      files.file(f, 737_280, 0, 0, s -> s.take(new byte[737_280], 0, 737_280));
    }
    byte[] b = list.getBytes(StandardCharsets.US_ASCII);
    files.file("SLOTS.TXT", b.length, 0, 0, s -> s.take(b, 0, b.length));
    return card(files);
  }

  @Test
  void theListOfTheDisksIsHeldAgainstThem() {
    assertThat(said(FLOPPIES, listed("; mine\n0 disk000.img a\n42 DISK042.IMG b\n"))).isEmpty();
    assertThat(said(FLOPPIES, listed("0 DISK000.IMG a\n41 DISK042.IMG b\n")))
        .containsExactly("SLOTS.TXT has DISK042.IMG as disk 41, its name says 42.");
    assertThat(said(FLOPPIES, listed("0 DISK000.IMG a\n7 DISK007.IMG\n")))
        .containsExactly(
            "SLOTS.TXT names DISK007.IMG as disk 7; it is not there.",
            "DISK042.IMG is not in SLOTS.TXT: the emulator does not show it.");
    assertThat(said(FLOPPIES, listed("disk the first")))
        .containsExactly("Line 1 of the slot list is no number with a file: “disk the first”.");
  }

  private static List<String> said(Profile.Carrier c, Volume card) {
    return CarrierCheck.of(c, card).stream().map(Finding::what).toList();
  }

  @Test
  void aCardAsTheEmulatorAsksForItHasNoFinding() {
    Volume v = card("DRIVE0.IMG", 1024, "drive3.img", 51_200);
    assertThat(said(SAMPLER, v)).isEmpty();
    assertThat(CarrierCheck.drives(SAMPLER, v))
        .extracting(CarrierCheck.Drive::id)
        .containsExactly(0, 3);
    Volume f = card("DISK000.IMG", 737_280, "DISK042.IMG", 737_280);
    assertThat(said(FLOPPIES, f))
        .containsExactly("The list of the disks, SLOTS.TXT, is not on it: it will show no disk.");
    assertThat(CarrierCheck.drives(FLOPPIES, f))
        .extracting(CarrierCheck.Drive::id)
        .containsExactly(0, 42);
  }

  @Test
  void whatTheEmulatorWillNotSeeIsNamed() {
    Volume v = card("DRIVE0.IMG", 1000, "DRIVE9.IMG", 512, "SOUNDS.IMG", 512, "DRIVE2.IMG", 0);
    assertThat(said(SAMPLER, v))
        .containsExactlyInAnyOrder(
            "DRIVE0.IMG has 1\u202F000 B: no whole blocks of 512 or 1024 B.",
            "DRIVE9.IMG says id 9, which the emulator does not know.",
            "SOUNDS.IMG is not named as the emulator asks (DRIVE{id}.IMG).",
            "DRIVE2.IMG has 0 B: no whole blocks of 512 or 1024 B.");
    assertThat(said(SAMPLER, card("NOTES.TXT", 10)))
        .anyMatch(s -> s.contains("it will show no drive"));
    Profile.Carrier sizes =
        new Profile.Carrier(
            "DRIVE{id}_{block}.IMG", List.of(512, 1024), List.of(1), true, 0, 0, "", List.of());
    assertThat(said(sizes, card("DRIVE1_512.IMG", 512, "DRIVE1_1024.IMG", 1024)))
        .containsExactly("DRIVE1_1024.IMG and DRIVE1_512.IMG say the same id, 1.");
  }
}
