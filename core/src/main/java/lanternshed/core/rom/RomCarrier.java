package lanternshed.core.rom;

import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Optional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * What a chip sits in, as data (O-5, O-10).
 *
 * @param kilobits of the chips that it takes
 * @param facts what whoever fits it must know
 * @param jumpers by name, in the order in which they stand
 */
public record RomCarrier(
    String key,
    String name,
    List<Integer> kilobits,
    String facts,
    List<String> jumpers,
    List<WindowSetting> windows) {

  /**
   * Which jumpers are closed for a window. A board's printing can be wrong: what was tested wins.
   *
   * @param start as hexadecimal text
   */
  public record WindowSetting(String start, List<String> print, List<String> tested) {
    public int at() {
      return Integer.parseInt(start, 16);
    }
  }

  private static final List<RomCarrier> ALL = load();

  private static List<RomCarrier> load() {
    try (InputStream in = RomCarrier.class.getResourceAsStream("/rom/boards.json")) {
      return JsonMapper.shared().readValue(in, new TypeReference<List<RomCarrier>>() {});
    } catch (IOException e) {
      throw new IllegalStateException("The carriers ship with the program", e);
    }
  }

  public static List<RomCarrier> all() {
    return ALL;
  }

  /** How its jumpers are set for a window; empty where it does not decode that one. */
  public Optional<WindowSetting> setting(int window) {
    return windows.stream().filter(w -> w.at() == window).findFirst();
  }
}
