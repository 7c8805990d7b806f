package lanternshed.core.family;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import lanternshed.core.family.CarrierNames.Lying;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Profiles;
import org.junit.jupiter.api.Test;

/** P-32: what an emulator finds, by its name, and names that it will find. */
class CarrierNamesTest {
  private static final Profile.Carrier SAMPLER = Profiles.get("scsi-sampler").carrier();
  private static final Profile.Carrier FLOPPIES = Profiles.get("floppy-instrument").carrier();
  private static final long DISK = 737_280;

  private static Lying disk(String path) {
    return new Lying(path, DISK, "");
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
            List.of(disk("a/One.img"), disk("Two.img")));
    assertThat(names)
        .containsExactly(
            Map.entry("a/One.img", "DISK001.IMG"), Map.entry("Two.img", "DISK003.IMG"));
  }

  @Test
  void whereNoIdIsLeftAFileKeepsItsName() {
    List<Lying> ten = IntStream.range(0, 10).mapToObj(i -> disk("tape " + i)).toList();
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
    assertThat(CarrierNames.numbered(sizes, List.of(), List.of(new Lying("x", 2048, ""))))
        .containsValue("HD4_1024.DAT");
    assertThat(CarrierNames.numbered(sizes, List.of(), List.of(new Lying("x", 1280, ""))))
        .containsValue("HD4_256.DAT");
  }

  @Test
  void theListKeepsTitlesAndNamesOnlyWhatIsFound() {
    SlotList before =
        SlotList.read("000 DISK000.IMG first steps\r\n001 DISK001.IMG gone by now\r\n");
    SlotList now =
        CarrierNames.listed(
            FLOPPIES,
            before,
            List.of(
                new Lying("DISK004.IMG", DISK, "Weir song"),
                new Lying("disk000.img", DISK, "not asked for"),
                new Lying("README.TXT", 12, "")));
    assertThat(now.slots())
        .containsExactly(
            new SlotList.Slot(0, "disk000.img", "first steps"),
            new SlotList.Slot(4, "DISK004.IMG", "Weir song"));
    assertThat(SlotList.read(now.text())).isEqualTo(now);
  }

  @Test
  void aTemplateThatAsksTwiceAndNumbersThatMeetDoNoHarm() {
    Profile.Carrier odd =
        new Profile.Carrier(
            "D{id}-{id}.IMG", List.of(512), List.of(1, 2), false, 0, 0, "L.TXT", List.of());
    assertThat(CarrierNames.id(odd, "d1-1.img")).hasValue(1);
    assertThat(CarrierNames.id(odd, "d1.img")).isEmpty();
    SlotList both =
        CarrierNames.listed(
            odd, new SlotList(List.of()), List.of(disk("D1-1.IMG"), disk("D01-1.IMG")));
    assertThat(both.slots()).extracting(SlotList.Slot::file).containsExactly("D1-1.IMG");
    assertThat(SlotList.read(both.text())).isEqualTo(both);
  }
}
