package lanternshed.core.boot.pc;

import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import lanternshed.core.measure.Geometry;

/** A general PC emulator that starts a disk with its cylinders, heads and sectors forced. */
final class PcEmulator {
  private static final int LOOKS = 150;
  private static final int LOOKS_AT_NOTHING = 15;

  /** Of what the emulator says of its processor: the flags, and whether it stands still. */
  private static final Pattern STATE = Pattern.compile("EFL=([0-9a-f]{8}).*?HLT=([01])");

  private PcEmulator() {}

  /**
   * What its text screen shows when something is expected on it, or time is up; where nothing is
   * expected, once its processor stands still for good, or after three seconds.
   */
  static String screen(Path image, Geometry g, String expected) throws Exception {
    return screen(image, g, expected, "");
  }

  /** The same with an option ROM that its firmware finds. */
  static String screen(Path image, Geometry g, String expected, Path rom) throws Exception {
    return screen(image, g, expected, " -option-rom " + rom);
  }

  private static String screen(Path image, Geometry g, String expected, String more)
      throws Exception {
    Path dump = image.resolveSibling("screen.bin");
    Files.deleteIfExists(dump);
    String drive =
        String.format(
            "ide-hd,drive=d,bus=ide.0,unit=0,bios-chs-trans=none,cyls=%d,heads=%d,secs=%d",
            g.cylinders(), g.heads(), g.sectors());
    Process p =
        new ProcessBuilder(
                "sh",
                "-c",
                "exec qemu-system-i386 -display none -monitor stdio -m 16 -net none -drive"
                    + " if=none,id=d,format=raw,file="
                    + image
                    + " -device "
                    + drive
                    + more)
            .redirectErrorStream(true)
            .redirectOutput(image.resolveSibling("log.txt").toFile())
            .start();
    String text = "";
    int looks = expected.isEmpty() ? LOOKS_AT_NOTHING : LOOKS;
    try (OutputStream monitor = p.getOutputStream()) {
      for (int i = 0; i < looks && (expected.isEmpty() || !text.contains(expected)); i++) {
        Thread.sleep(150);
        String line = "pmemsave 0xb8000 4000 \"" + dump + "\"\n";
        monitor.write(line.getBytes(StandardCharsets.US_ASCII));
        monitor.flush();
        Thread.sleep(50);
        if (Files.exists(dump)) text = text(Files.readAllBytes(dump));
        if (expected.isEmpty() && halted(monitor, image.resolveSibling("log.txt"))) break;
      }
      monitor.write("quit\n".getBytes(StandardCharsets.US_ASCII));
      monitor.flush();
    } finally {
      if (!p.waitFor(5, TimeUnit.SECONDS)) p.destroyForcibly();
    }
    return text;
  }

  /** Whether the processor stands still and hears no interrupt: nothing more will come. */
  private static boolean halted(OutputStream monitor, Path log) throws Exception {
    monitor.write("info registers\n".getBytes(StandardCharsets.US_ASCII));
    monitor.flush();
    Thread.sleep(30);
    String said = Files.readString(log, StandardCharsets.ISO_8859_1);
    Matcher m = STATE.matcher(said);
    boolean out = false;
    while (m.find()) {
      out = m.group(2).equals("1") && (Integer.parseUnsignedInt(m.group(1), 16) & 0x200) == 0;
    }
    return out;
  }

  private static String text(byte[] screen) {
    StringBuilder s = new StringBuilder();
    for (int i = 0; i + 1 < screen.length; i += 2) {
      int c = screen[i] & 0xFF;
      s.append(c >= 0x20 && c < 0x7F ? (char) c : c == 0 ? ' ' : '·');
    }
    return s.toString();
  }
}
