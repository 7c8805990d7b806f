package lanternshed.server.shell;

import java.nio.file.Path;
import java.util.List;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * Settings under "shed".
 *
 * @param home the shelf's folder
 * @param demo whether the demonstration is laid out at the first start
 * @param pace share of a stand-in's own time that really passes, in percent; 0 for none
 * @param mostCardSectors above this no medium is taken for a card (W-3)
 * @param mostUploadBytes bound of one upload, after unpacking
 * @param devices the device nodes that may be opened, each as the list of readers says it
 * @param reader socket of the reader process, which opens devices where the list here is empty
 * @param spareBytes what stays free on the disk whatever is stored
 */
@ConfigurationProperties("shed")
public record Settings(
    Path home,
    boolean demo,
    int pace,
    long mostCardSectors,
    long mostUploadBytes,
    long spareBytes,
    List<String> devices,
    Path reader) {
  public Settings {
    devices = devices == null ? List.of() : devices.stream().filter(d -> !d.isBlank()).toList();
  }
}
