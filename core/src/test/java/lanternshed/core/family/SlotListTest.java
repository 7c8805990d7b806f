package lanternshed.core.family;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import lanternshed.core.family.SlotList.Lying;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Profiles;
import org.junit.jupiter.api.Test;

/** The emulator's list of numbered disks. */
class SlotListTest {
  private static final Profile.Carrier FLOPPIES = Profiles.get("floppy-instrument").carrier();

  @Test
  void whatItWritesItReads() {
    SlotList list =
        new SlotList(
            List.of(
                new SlotList.Slot(0, "DISK000.IMG", "Loom patterns, spring"),
                new SlotList.Slot(42, "DISK042.IMG", "")));
    assertThat(SlotList.read(list.text())).isEqualTo(list);
    assertThat(list.text()).contains("\r\n042 DISK042.IMG").startsWith(";");
  }

  @Test
  void handWrittenListsAreReadAsPeopleWriteThem() {
    assertThat(SlotList.read("; mine\n\n  7   A.IMG   two  words \n0 B.IMG\r").slots())
        .containsExactly(
            new SlotList.Slot(7, "A.IMG", "two  words"), new SlotList.Slot(0, "B.IMG", ""));
  }

  @Test
  void aLineThatMakesNoSenseIsNamed() {
    assertThatThrownBy(() -> SlotList.read("0 A.IMG\nDISK one"))
        .hasMessage("Line 2 of the slot list is no number with a file: “DISK one”.");
    assertThatThrownBy(() -> SlotList.read("0 A.IMG\n000 B.IMG"))
        .hasMessageContaining("Line 2")
        .hasMessageContaining("disk 0 again");
  }

  @Test
  void titlesStayPlainAndShort() {
    String line =
        new SlotList(List.of(new SlotList.Slot(1, "A.IMG", "Geläut\n" + "x".repeat(80)))).text();
    assertThat(line).matches("(?s);[^;]*\r\n001 A\\.IMG Gel\\?ut\\?x{33}\r\n");
  }

  @Test
  void theListKeepsTitlesAndNamesOnlyWhatIsFound() {
    SlotList before =
        SlotList.read("000 DISK000.IMG first steps\r\n001 DISK001.IMG gone by now\r\n");
    SlotList now =
        before.of(
            FLOPPIES,
            List.of(
                new Lying("DISK004.IMG", 737_280, "Weir song"),
                new Lying("disk000.img", 737_280, "not asked for"),
                new Lying("README.TXT", 12, "")));
    assertThat(now.slots())
        .containsExactly(
            new SlotList.Slot(0, "disk000.img", "first steps"),
            new SlotList.Slot(4, "DISK004.IMG", "Weir song"));
    assertThat(SlotList.read(now.text())).isEqualTo(now);
  }

  @Test
  void ofTwoThatSayOneNumberOneIsListed() {
    Profile.Carrier ids =
        new Profile.Carrier("D{id}.IMG", List.of(512), List.of(1), false, 0, 0, "L.TXT", List.of());
    SlotList both =
        new SlotList(List.of())
            .of(ids, List.of(new Lying("D1.IMG", 512, ""), new Lying("D01.IMG", 512, "")));
    assertThat(both.slots()).extracting(SlotList.Slot::file).containsExactly("D1.IMG");
    assertThat(SlotList.read(both.text())).isEqualTo(both);
  }
}
