package lanternshed.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.FilePayload;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.Random;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files from a desktop over disks and onto a volume, and out again under their old names. */
class CrossingJourney extends Journey {
  @TempDir Path desktop;

  @Test
  void filesAreNamedSplitOverThreeDisksAndTakenOutAgain() throws Exception {
    Map<String, byte[]> all = new HashMap<>();
    FilePayload[] chosen = new FilePayload[9];
    for (int i = 0; i < chosen.length; i++) {
      byte[] b = new byte[100_000 + i];
      new Random(i).nextBytes(b);
      String name = "Heron pattern, shift " + (i + 1) + ".pat";
      all.put(name, b);
      chosen[i] = new FilePayload(name, "application/octet-stream", b);
    }
    Page p = open(1280, 800);
    link(p, "Images").click();
    button(p, "Split files over new disks").click();
    assertThat(text(p, "Nothing waits on the quay yet")).isVisible();
    p.getByLabel("onto disks of").selectOption("360K");
    p.keyboard().press("Escape");
    button(p, "Bring files").click();
    p.getByLabel("Choose files").setInputFiles(chosen);
    assertThat(text(p, "HERONPA7.PAT")).isVisible();
    assertThat(text(p, "no fewer would do")).isVisible();
    button(p, "Carry 9 over").click();
    assertThat(text(p, "all of it was read back and is right")).isVisible();
    assertThat(link(p, "Look inside Disk 3")).isVisible();

    Download d = p.waitForDownload(() -> link(p, "Zip under the old names").click());
    int files = 0;
    try (ZipInputStream in =
        new ZipInputStream(new ByteArrayInputStream(Files.readAllBytes(d.path())))) {
      for (ZipEntry e = in.getNextEntry(); e != null; e = in.getNextEntry()) {
        assertThat(in.readAllBytes()).as(e.getName()).isEqualTo(all.get(e.getName()));
        files++;
      }
    }
    assertThat(files).isEqualTo(9);
    assertThat(browser.errors).isEmpty();
  }

  @Test
  void aSetGoesIntoALibraryAndWhatWasTriedIsNoted() throws Exception {
    byte[] noise = new byte[150_000];
    new Random(9).nextBytes(noise);
    Page p = open(1280, 800);
    link(p, "Images").click();
    button(p, "Split files over new disks").click();
    p.getByLabel("onto disks of").selectOption("200-two");
    button(p, "Bring files").click();
    p.getByLabel("Choose files")
        .setInputFiles(
            new FilePayload[] {
              new FilePayload("Weir", "application/octet-stream", noise),
              new FilePayload(
                  "Reed.txt", "text/plain", "one\rtwo\r".getBytes(StandardCharsets.US_ASCII)),
              new FilePayload("Sluice", "application/octet-stream", Arrays.copyOf(noise, 120_000))
            });
    assertThat(text(p, "2 lines, ends CR")).isVisible();
    button(p, "Carry 3 over").click();
    assertThat(text(p, "all of it was read back and is right")).isVisible();
    p.getByLabel("What was seen").fill("drawn on the screen");
    button(p, "It started").click();
    assertThat(text(p, "started: drawn on the screen")).isVisible();
    button(p, "Put them in").click();
    link(p, "Look at the library").click();
    String library = p.url().replaceAll(".*at=", "");
    assertThat(p.locator("article:has-text('2 disks of')").first()).isVisible();

    // The disks of that library go onto a carrier card, named as its emulator asks.
    p.locator("article:has-text('Tolley Ledger sub-notebook, built')")
        .getByText("Look inside")
        .click();
    button(p, "Bring files onto it").click();
    button(p, "Bring files").click();
    p.locator("[role=dialog] select[aria-label=Image]").selectOption(library);
    p.getByLabel("what of it").selectOption("DISKS");
    button(p, "Bring them").click();
    p.getByLabel("Machine that the card is for").selectOption("z80-cpm-floppy");
    assertThat(text(p, "2 not found by it")).isVisible();
    button(p, "Name 2 as it asks").click();
    assertThat(text(p, "2 found by its emulator")).isVisible();
    button(p, "Carry 2 over").click();
    assertThat(text(p, "was written along")).isVisible();
    // Others look for the image itself by its name.
    link(p, "Look inside the copy").click();
    p.locator("#image-" + p.url().replaceAll(".*at=", "")).getByText("take away").click();
    assertThat(text(p, "is out of sight")).isVisible();
    assertThat(browser.errors).isEmpty();
  }

  @Test
  void aVolumeIsChangedOnACopyByKeyboard() throws Exception {
    Page p = open(1280, 800);
    link(p, "Images").click();
    p.locator("article:has-text('Larkspur 1900 gate laptop, built')")
        .getByText("Look inside")
        .click();
    button(p, "Bring files onto it").click();
    assertThat(text(p, "Nothing waits on the quay yet")).isVisible();
    p.locator("main").focus();
    p.keyboard().press("a");
    p.getByLabel("Choose files")
        .setInputFiles(
            new Path[] {
              file("con.tik", new byte[5000]),
              file("Lies mich.txt", "Gr\u00FCn\nzwei\n".getBytes(StandardCharsets.UTF_8)),
              file("Meadow pattern, spring.pat", new byte[38_400]),
              file("Archive of all shifts.zip", new byte[60 << 20]),
            });
    assertThat(text(p, "CON is a device")).isVisible();
    p.getByText("texts: as they are").click();
    p.getByLabel("lines end with").selectOption("CRLF");
    assertThat(text(p, "LF → CR LF; the old bytes can be had again")).isVisible();
    p.keyboard().press("Escape");
    p.locator("[data-row]").first().focus();
    p.keyboard().press("ArrowDown");
    p.keyboard().press("Enter");
    p.keyboard().type("CONSOLE.TIK");
    p.keyboard().press("Enter");
    assertThat(text(p, "CONSOLE.TIK")).isVisible();
    p.getByLabel("Machine that the card is for").selectOption("m6803-cart");
    assertThat(text(p, "is missing: without it the menu does not come up")).isVisible();
    shot(p, "crossing");
    p.locator("main").focus();
    p.keyboard().press("t");
    p.getByLabel("Take AUTOEXEC.BAT off").click();
    assertThat(text(p, "1 change to what is there")).isVisible();
    button(p, "Carry 3 over").click();
    assertThat(text(p, "3 files carried over, 1 change made")).isVisible();
    link(p, "Look inside the copy").click();
    assertThat(text(p, "CONSOLE.TIK")).isVisible();
    assertThat(p.getByText("AUTOEXEC.BAT")).hasCount(0);
    assertThat(browser.errors).isEmpty();
  }

  private Path file(String name, byte[] bytes) throws IOException {
    return Files.write(desktop.resolve(name), bytes);
  }
}
