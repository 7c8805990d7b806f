package lanternshed.core.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Collectors;
import lanternshed.core.Tool;
import lanternshed.core.medium.FileMedium;
import lanternshed.core.work.SinceWritten.Change;
import lanternshed.core.work.SinceWritten.What;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Z-1: a general tool plays the machine that wrote to its card. */
class SinceWrittenTest {
  @TempDir private Path folder;

  private Path text(String name, String content) throws Exception {
    return Files.writeString(folder.resolve(name), content);
  }

  private void put(Path image, Path file, String as) throws Exception {
    Tool.run("mcopy -o -i " + image + " " + file + " ::" + as);
  }

  @Test
  void eachChangeIsNamedWithWhatTheGuessRestsOn() throws Exception {
    Path written = folder.resolve("written.img");
    Tool.run("mformat -C -f 1440 -i " + written + " ::");
    put(written, text("a", "first start\r\n"), "RUN.LOG");
    put(written, text("b", "x".repeat(5000)), "TABLE.BIN");
    put(written, text("c", "[desk]\r\ncolour=1\r\n"), "DESK.INI");
    put(written, text("d", "kept"), "KEPT.TXT");
    put(written, text("e", "short lived"), "WORK.TMP");
    Path now = Files.copy(written, folder.resolve("now.img"));
    put(now, text("a", "first start\r\nsecond start\r\n"), "RUN.LOG");
    put(now, text("b", "x".repeat(4990) + "y".repeat(10)), "TABLE.BIN");
    put(now, text("c", "[desk]\r\npaper=grey\r\ncolour=2\r\n"), "DESK.INI");
    put(now, text("f", "swapped out"), "WIN.SWP");
    Tool.run("mdel -i " + now + " ::WORK.TMP");
    SinceWritten since;
    try (FileMedium a = FileMedium.open(written);
        FileMedium b = FileMedium.open(now)) {
      since = SinceWritten.of(a, b, Progress.NONE);
    }
    assertThat(since.sentence()).isEqualTo("1 file is as written; 3 changed, 1 new, 1 gone.");
    var guesses = since.changes().stream().collect(Collectors.toMap(Change::path, Change::guess));
    assertThat(guesses.get("RUN.LOG")).contains("14 B were added at its end", "a log");
    assertThat(guesses.get("TABLE.BIN")).contains("10 of 5").contains("differ in place");
    assertThat(guesses.get("DESK.INI")).contains("written anew", "settings");
    assertThat(guesses.get("WIN.SWP")).contains("swap");
    assertThat(guesses.get("WORK.TMP")).contains("for a while");
    assertThat(since.changes())
        .filteredOn(c -> c.what() == What.GONE)
        .extracting(Change::path)
        .containsExactly("WORK.TMP");
    try (FileMedium a = FileMedium.open(written);
        FileMedium b = FileMedium.open(written)) {
      assertThat(SinceWritten.of(a, b, Progress.NONE).changes()).isEmpty();
    }
  }
}
