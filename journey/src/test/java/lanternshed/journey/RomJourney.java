package lanternshed.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.FilePayload;
import java.nio.file.Files;
import org.junit.jupiter.api.Test;

/** An option ROM from the file to the chip, and a chip that does not read as it should. */
class RomJourney extends Journey {
  @Test
  void aRomIsCorrectedVerifiedSplitAndJoinedAgain() throws Exception {
    Page p = open(1280, 800);
    link(p, "ROM bench").click();
    link(p, "mill-drive-13.bin").click();
    assertThat(text(p, "the firmware skips it without a word")).isVisible();
    assertThat(text(p, "needs an 80386 or later")).isVisible();
    assertThat(text(p, "the print says J1 J2")).isVisible();
    shot(p, "rom");
    button(p, "Correct the last byte").click();
    assertThat(text(p, "its sum is 00, the firmware enters it")).isVisible();
    Download d = p.waitForDownload(() -> link(p, "bytes").click());
    byte[] right = Files.readAllBytes(d.path());
    int sum = 0;
    for (int i = 0; i < 6144; i++) sum += right[i];
    assertThat(sum & 0xFF).isZero();

    byte[] stuck = right.clone();
    for (int i = 0; i < stuck.length; i++) stuck[i] |= 0x20;
    p.getByLabel("Bring a read-back").setInputFiles(payload("read.bin", stuck));
    assertThat(text(p, "Data line D5 at 1 is stuck").first()).isVisible();
    p.getByLabel("Bring a read-back").setInputFiles(payload("read.bin", right));
    assertThat(text(p, "✓ identical")).isVisible();
    p.getByLabel("its window").selectOption(String.valueOf(0xC8000));
    assertThat(text(p, "C8000 to C9FFF is free")).isVisible();

    button(p, "Split for two chips").click();
    p.getByLabel("Join mill-drive-13.bin, sum right, odd, high (D8 to D15)").check();
    p.getByLabel("Join mill-drive-13.bin, sum right, even, low (D0 to D7)").check();
    button(p, "Join these 2").click();
    assertThat(text(p, "They were given in another order")).isVisible();
  }

  private static FilePayload payload(String name, byte[] bytes) {
    return new FilePayload(name, "application/octet-stream", bytes);
  }
}
