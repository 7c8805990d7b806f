package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import lanternshed.core.catalogue.BlankDisk;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.machine.Profile;
import lanternshed.core.machine.Profiles;
import lanternshed.core.medium.MemoryMedium;
import lanternshed.core.names.Shelving;
import lanternshed.core.survey.Volumes;
import lanternshed.core.volume.Node;
import lanternshed.core.work.Crossing.Coming;
import org.junit.jupiter.api.Test;

/** P-32: the emulator's own list goes along, and takes room like any file. */
class SlotFileTest {
  private static final Profile.Carrier DISKS = Profiles.get("z80-cpm-floppy").carrier();

  private static MemoryMedium card(String list) {
    MemoryMedium empty = Crossing.blank(BlankDisk.of("720K"), "");
    if (list.isEmpty()) return empty;
    byte[] b = list.getBytes(StandardCharsets.US_ASCII);
    MemoryMedium out = new MemoryMedium(empty.sectors());
    Edit.make(empty, 0, List.of(put("SLOTS.TXT", b)), out, Progress.NONE);
    return out;
  }

  private static Edit.Change put(String path, byte[] b) {
    return new Edit.Change.Put(path, b.length, Stamp.NONE, s -> s.take(b, 0, b.length));
  }

  private static SlotFile.Beside beside(Profile.Carrier carrier, MemoryMedium card, long... disks) {
    List<Coming> coming =
        IntStream.range(0, disks.length)
            .mapToObj(
                i ->
                    new Coming(
                        String.format("DISK%03d.IMG", i),
                        disks[i],
                        0,
                        "" + i,
                        Optional.empty(),
                        ""))
            .toList();
    Hold hold = Edit.hold(card, 0, List.of());
    Crossing.Choices choices =
        new Crossing.Choices(
            Catalogue.filesystem(hold.kind()).names().get(0),
            Shelving.AS_IT_IS,
            40,
            false,
            Map.of(),
            Set.of());
    return SlotFile.beside(
        carrier,
        hold,
        list -> Edit.hold(card, 0, List.of(list)),
        h -> Crossing.onto(h, coming, choices));
  }

  @Test
  void itNamesWhatGoesOverAndKeepsWhatWasWrittenThere() {
    SlotFile.Beside b = beside(DISKS, card(""), 512, 1024);
    assertThat(b.list().path()).isEqualTo("SLOTS.TXT");
    assertThat(b.list().text()).contains("000 DISK000.IMG DISK000").contains("001 DISK001.IMG");
    SlotFile.Beside kept = beside(DISKS, card("000 DISK000.IMG first steps\r\n"), 512, 512);
    assertThat(kept.list().text())
        .contains("000 DISK000.IMG first steps", "001 DISK001.IMG DISK001");
    // One that says so already is not written again.
    assertThat(beside(DISKS, card("000 DISK000.IMG first steps\r\n"), 512).list())
        .isEqualTo(SlotFile.NONE);
  }

  @Test
  void whatCannotBeReadStaysAsItIs() {
    SlotFile.Beside b = beside(DISKS, card("the first disk\r\n"), 512);
    assertThat(b.list().change()).isEmpty();
    assertThat(b.list().fault()).contains("Line 1 of the slot list").contains("mend that line");
    assertThat(beside(null, card(""), 512).list()).isEqualTo(SlotFile.NONE);
    assertThat(beside(Profiles.get("scsi-sampler").carrier(), card(""), 512).list())
        .isEqualTo(SlotFile.NONE);
  }

  /** With every length of the last disk around a full card: what goes over and its list fit. */
  @Test
  void whatGoesOverFitsBesideTheListThatNamesExactlyThat() {
    int left = 0;
    for (int clusters = 700; clusters <= 716; clusters++) {
      MemoryMedium card = card("");
      SlotFile.Beside b = beside(DISKS, card, 1024, clusters * 1024L);
      List<Crossing.Row> over = b.crossed().on(0);
      if (over.size() < 2) left++;
      List<Edit.Change> all = new ArrayList<>();
      b.list().change().ifPresent(all::add);
      for (Crossing.Row r : over) all.add(put(r.to(), new byte[(int) r.bytes()]));
      MemoryMedium made = new MemoryMedium(card.sectors());
      Edit.make(card, 0, all, made, Progress.NONE);
      List<String> there =
          Volumes.find(made, 0).volume().all().stream()
              .map(Node::path)
              .filter(p -> p.startsWith("DISK"))
              .toList();
      assertThat(b.list().text().lines().filter(l -> l.contains(".IMG"))).hasSameSizeAs(there);
      assertThat(there).allMatch(p -> b.list().text().contains(p));
    }
    assertThat(left).isBetween(1, 16);
  }
}
