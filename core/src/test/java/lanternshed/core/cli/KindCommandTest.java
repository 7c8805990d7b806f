package lanternshed.core.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HexFormat;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class KindCommandTest {
  @TempDir private Path folder;
  private final StringWriter out = new StringWriter();

  private int run(String... args) {
    PrintWriter to = new PrintWriter(out, true);
    return Shed.run(args, to, to);
  }

  @Test
  void filesAreNamedByTheirContentAndBasicIsListedByATable() throws Exception {
    // 10 PRINT "A" as it lies behind its place.
    byte[] program = HexFormat.of().parseHex("01080A080A009922412200" + "0000");
    Path file = Files.write(folder.resolve("WEIR"), program);
    Path table = Files.writeString(folder.resolve("t.json"), "{\"tokens\":{\"99\":\"PRINT\"}}");
    int code = run("kind", file.toString(), "--list", "--tokens", table.toString());
    assertThat(code).isEqualTo(Shed.CLEAN);
    assertThat(out.toString()).contains("WEIR: BASIC as tokens: 1 line", "10 PRINT\"A\"");
    Path cut = Files.write(folder.resolve("A.EXE"), new byte[] {'M', 'Z', 0, 0, 9, 0, 0, 0});
    Files.write(cut, java.util.Arrays.copyOf(Files.readAllBytes(cut), 40));
    assertThat(run("kind", cut.toString())).isEqualTo(Shed.FINDINGS);
    assertThat(out.toString()).contains("but cut short");
    assertThat(run("kind", folder.resolve("none").toString())).isEqualTo(Shed.UNUSABLE);
    assertThat(run("kind", file.toString(), "--tokens", file.toString())).isEqualTo(Shed.UNUSABLE);
    assertThat(out.toString()).contains("cannot be read").contains("not JSON");
  }
}
