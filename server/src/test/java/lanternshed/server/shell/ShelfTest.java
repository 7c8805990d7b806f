package lanternshed.server.shell;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ShelfTest {
  @TempDir private Path home;

  private Shelf shelf(long spare) {
    return new Shelf(new Settings(home, false, 0, 1, 1, spare, java.util.List.of(), home));
  }

  @Test
  void aDiskWithoutRoomIsToldBeforeAnythingIsWritten() throws Exception {
    long free = Files.getFileStore(home).getUsableSpace();
    shelf(0).needRoom(1);
    assertThatThrownBy(() -> shelf(free).needRoom(1L << 30))
        .hasMessageContaining("free; ")
        .hasMessageContaining("stay spare. Make room");
    assertThatThrownBy(() -> shelf(0).needRoom(Long.MAX_VALUE)).hasMessageContaining("are needed");
  }

  @Test
  void aFullDiskIsNotTakenForATransferThatStopped() {
    assertThatThrownBy(() -> Files.writeString(Path.of("/dev/full"), "x"))
        .matches(e -> Shelf.isFull(new java.io.UncheckedIOException((java.io.IOException) e)));
    assertThat(Shelf.isFull(new java.io.IOException("Broken pipe"))).isFalse();
  }

  @Test
  void onlyNamesThatTheFolderListsAreTakenAndOnlyDigestsName() throws Exception {
    Shelf s = shelf(0);
    Files.createDirectory(home.resolve("incoming/folder"));
    Files.writeString(home.resolve("incoming/a.img"), "x");
    assertThat(s.incoming()).containsExactly("a.img");
    assertThat(s.incoming("a.img")).exists();
    for (String bad : new String[] {"../images", "folder", "/etc/passwd", "a.img/..", ""}) {
      assertThatThrownBy(() -> s.incoming(bad)).hasMessageContaining("no file of that name");
    }
    assertThatThrownBy(() -> s.image("../../x")).hasMessageContaining("no digest");
    assertThatThrownBy(() -> s.medium("../x.medium")).hasMessageContaining("No such");
  }

  @Test
  void anIdenticalImageIsKeptOnce() throws Exception {
    Shelf s = shelf(0);
    String digest = "ab".repeat(32);
    for (long work = 1; work <= 2; work++) {
      Files.writeString(s.half(work), "same");
      s.keepImage(s.half(work), digest);
      assertThat(s.half(work)).doesNotExist();
    }
    assertThat(Files.list(home.resolve("images"))).hasSize(1);
  }
}
