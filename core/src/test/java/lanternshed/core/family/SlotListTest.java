package lanternshed.core.family;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import org.junit.jupiter.api.Test;

/** The emulator's list of numbered disks. */
class SlotListTest {
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
}
