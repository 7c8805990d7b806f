package lanternshed.server.media;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class NamesTest {
  @ParameterizedTest
  @CsvSource({
    "drive.img, drive.img",
    "../../etc/passwd, passwd",
    "C:\\\\old\\\\disk.img, disk.img",
    "'a\tb', ab",
    "/, image"
  })
  void aNameIsNeverAPath(String given, String kept) {
    assertThat(MediaService.clean(given)).isEqualTo(kept);
  }
}
