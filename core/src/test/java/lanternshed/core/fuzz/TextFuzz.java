package lanternshed.core.fuzz;

import com.code_intelligence.jazzer.junit.FuzzTest;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import lanternshed.core.catalogue.Catalogue;
import lanternshed.core.container.Container;
import lanternshed.core.container.Unpacked;
import lanternshed.core.fault.StartLog;
import lanternshed.core.machine.ProfileFile;
import lanternshed.core.measure.Band;
import lanternshed.core.measure.ShedException;
import lanternshed.core.table.TableDrivers;
import lanternshed.core.table.TableMaker;
import lanternshed.core.work.Recipe;
import lanternshed.core.work.RescueMap;

/** Containers, maps, recipes, profiles, logs and drivers as a person might bring them in. */
class TextFuzz {
  private static final int MOST = 1 << 22;
  private static final TableDrivers DRIVERS =
      Catalogue.table("RDB").maker().flatMap(TableMaker::drivers).orElseThrow();

  @FuzzTest(maxDuration = "6s")
  void anyBytesAreReadOrRefusedInWords(byte[] data) {
    if (data.length == 0) return;
    byte[] rest = java.util.Arrays.copyOfRange(data, 1, data.length);
    String text = new String(rest, StandardCharsets.UTF_8);
    try {
      switch (data[0] & 7) {
        case 0 -> {
          unpack(rest);
          Container form = Catalogue.UNPACKER.of(rest);
          form.describes(new ByteArrayInputStream(rest));
        }
        case 1 -> RescueMap.read(text);
        case 2 -> StartLog.read(text);
        case 3 -> ProfileFile.read(text);
        case 4 -> Recipe.parse(text);
        case 5 -> new Band(1, 2, "V").judge(text);
        case 6 -> DRIVERS.version("a driver", rest);
        default -> Catalogue.sectorsBeforeEnd(java.util.Arrays.copyOf(rest, 512), rest.length);
      }
    } catch (ShedException | IOException e) {
      // A sentence, or a stream that breaks off: both are answers.
    }
  }

  private static void unpack(byte[] b) throws IOException {
    try (Unpacked o = Catalogue.UNPACKER.open(new ByteArrayInputStream(b));
        InputStream in = o.stream()) {
      byte[] block = new byte[1 << 16];
      for (int total = 0; total < MOST; ) {
        int n = in.read(block);
        if (n < 0) break;
        total += n;
      }
    }
  }
}
