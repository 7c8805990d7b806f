package lanternshed.core.machine;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** P-32: what an emulator finds, by its name, and names that it will find. */
class CarrierNamesTest {
  private static final Profile.Carrier SAMPLER = Profiles.get("scsi-sampler").carrier();
  private static final Profile.Carrier FLOPPIES = Profiles.get("floppy-instrument").carrier();
  private static final long DISK = 737_280;

  private static Map<String, Long> disks(String... paths) {
    Map<String, Long> out = new LinkedHashMap<>();
    for (String p : paths) out.put(p, DISK);
    return out;
  }

  @Test
  void whatItDoesNotFindIsSaidWithTheReason() {
    assertThat(CarrierNames.astray(FLOPPIES, "disk007.img", DISK)).isEmpty();
    assertThat(CarrierNames.astray(FLOPPIES, "Disk 7.img", DISK))
        .hasValue("it asks for names like DISK000.IMG");
    assertThat(CarrierNames.astray(FLOPPIES, "OLD/DISK007.IMG", DISK))
        .hasValue("it looks in the root only");
    assertThat(CarrierNames.astray(FLOPPIES, "DISK007.IMG", DISK + 1))
        .hasValue("no whole blocks of 512 B");
    assertThat(CarrierNames.astray(FLOPPIES, "DISK007.IMG", 0)).isPresent();
    assertThat(CarrierNames.astray(FLOPPIES, "DISK007.IMG", 204_800))
        .hasValue("its drive takes disks of 720.0 KiB or 1.4 MiB");
    assertThat(CarrierNames.astray(SAMPLER, "DRIVE1.IMG", 204_800)).isEmpty();
    assertThat(CarrierNames.astray(SAMPLER, "DRIVE9.IMG", DISK)).hasValue("it knows no id 9");
    assertThat(CarrierNames.astray(SAMPLER, "DRIVE9.IMG", DISK - 512)).isPresent();
  }

  @Test
  void theFirstFreeIdsAreTakenInTheOrderOfTheProfile() {
    Map<String, String> names =
        CarrierNames.numbered(
            FLOPPIES,
            List.of("DISK000.IMG", "disk002.img", "OLD/DISK001.IMG", "README.TXT"),
            disks("a/One.img", "Two.img"));
    assertThat(names)
        .containsExactly(
            Map.entry("a/One.img", "DISK001.IMG"), Map.entry("Two.img", "DISK003.IMG"));
  }

  @Test
  void whereNoIdIsLeftAFileKeepsItsName() {
    Map<String, Long> ten =
        disks(IntStream.range(0, 10).mapToObj(i -> "tape " + i).toArray(String[]::new));
    Map<String, String> names = CarrierNames.numbered(SAMPLER, List.of("DRIVE3.IMG"), ten);
    assertThat(names).hasSize(SAMPLER.ids().size() - 1).doesNotContainValue("DRIVE3.IMG");
    assertThat(names.values()).doesNotHaveDuplicates();
    assertThat(names).doesNotContainKey("tape 9");
  }

  @Test
  void aBlockInTheNameIsOneThatFitsTheLength() {
    Profile.Carrier sizes =
        new Profile.Carrier(
            "HD{id}_{block}.DAT", List.of(1024, 256), List.of(4), true, 0, 0, "", List.of());
    assertThat(CarrierNames.numbered(sizes, List.of(), Map.of("x", 2048L)))
        .containsValue("HD4_1024.DAT");
    assertThat(CarrierNames.numbered(sizes, List.of(), Map.of("x", 1280L)))
        .containsValue("HD4_256.DAT");
  }

  @Test
  void aTemplateThatAsksTwiceDoesNoHarm() {
    Profile.Carrier odd =
        new Profile.Carrier(
            "D{id}-{id}.IMG", List.of(512), List.of(1, 2), false, 0, 0, "L.TXT", List.of());
    assertThat(CarrierNames.id(odd, "d1-1.img")).hasValue(1);
    assertThat(CarrierNames.id(odd, "d1.img")).isEmpty();
  }
}
