package lanternshed.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.SelectOption;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/**
 * An image comes in over a line that breaks once; a failing drive is rescued over a pause and a
 * restart; what is on it is looked at, got, and compared.
 */
class RescueJourney extends Journey {
  @TempDir Path folder;

  private static JsonNode job(String machine) {
    for (JsonNode j : shed.get("/api/jobs?size=100").json().get("rows")) {
      if (j.get("machine").asString().equals(machine)) {
        return shed.get("/api/jobs/" + j.get("id").asLong()).json();
      }
    }
    throw new AssertionError(machine);
  }

  @Test
  void anImageComesInThoughTheLineBreaks() throws Exception {
    long image = job("Tolley Ledger sub-notebook").get("rescuedId").asLong();
    Path own = folder.resolve("tolley.img");
    Files.write(own, shed.bytes("/api/images/" + image + "/download?form=raw"));
    Page p = open(1280, 800);
    int[] pieces = {0};
    p.route(
        "**/api/uploads/**",
        route -> {
          boolean second = route.request().method().equals("PATCH") && ++pieces[0] == 2;
          if (second) route.abort();
          else route.resume();
        });
    link(p, "Media").click();
    button(p, "Bring in an image").click();
    p.getByLabel("Image file").setInputFiles(own);
    assertThat(text(p, "tolley.img")).isVisible(within(60));
    assertThat(pieces[0]).as("one piece was sent again").isGreaterThan(5);
    JsonNode media = shed.get("/api/media").json();
    assertThat(media).anyMatch(m -> m.get("name").asString().equals("tolley.img"));
  }

  @Test
  void aCutImageIsReadAsFarAsItGoesAndNeverCalledWhole() throws Exception {
    JsonNode tolley = job("Tolley Ledger sub-notebook");
    byte[] whole =
        shed.bytes("/api/images/" + tolley.get("rescuedId").asLong() + "/download?form=raw");
    Path own = folder.resolve("cut.img");
    Files.write(own, Arrays.copyOf(whole, 4 << 20));
    Page p = open(1280, 800);
    link(p, "Media").click();
    button(p, "Bring in an image").click();
    p.getByLabel("Image file").setInputFiles(own);
    assertThat(text(p, "cut.img")).isVisible(within(60));
    long medium = -1;
    for (JsonNode m : shed.get("/api/media").json()) {
      if (m.get("name").asString().equals("cut.img")) medium = m.get("id").asLong();
    }
    Map<String, Object> facts = new HashMap<>();
    facts.put("machine", "Tolley Ledger, half a copy");
    facts.put("profile", tolley.get("profile").asString());
    facts.put("fault", "");
    facts.put("mediumId", medium);
    long id = shed.post("/api/jobs", facts).json().get("id").asLong();
    p.navigate("/jobs/" + id + "/3");
    button(p, "Start the rescue").click();
    assertThat(text(p, "What was saved")).isVisible(within(60));
    link(p, "Read what is on it").click();
    // General tools list every file of it, and so do we; what is beyond the cut is said.
    assertThat(text(p, "514 files in")).isVisible();
    assertThat(text(p, "files do not come whole")).isVisible();
    assertThat(link(p, "To the plan all the same")).isVisible();
    assertThat(link(p, "Lay out the new card")).not().isVisible();
    assertThat(browser.errors).isEmpty();
  }

  @Test
  void aFailingDriveIsRescuedOverAPauseAndARestartAndLookedInto() throws Exception {
    JsonNode loom = job("Corvane KD-3 loom controller");
    String path = "/jobs/" + loom.get("id").asLong();
    Page p = open(1280, 800);
    p.navigate(path + "/3");
    p.getByLabel("What is in use first table, FATs, folders, files; free space last").check();
    button(p, "Start the rescue").click();
    assertThat(text(p, "reading")).isVisible();
    button(p, "Pause").click();
    assertThat(text(p, "Paused; it goes on where it stands.")).isVisible();
    shed.kill();
    shed.start();
    p.navigate("http://127.0.0.1:" + shed.port() + path + "/3");
    button(p, "Go on with the rescue").click();
    p.getByLabel("Rounds of retries").fill("3");
    assertThat(text(p, "What was saved")).isVisible(within(120));
    assertThat(text(p, "What the holes hit")).isVisible();
    shot(p, "rescue");
    link(p, "Read what is on it").click();

    assertThat(text(p, "PATTERNS · FAT16")).isVisible();
    p.getByLabel("Find a file").fill("autoexec");
    button(p, "AUTOEXEC.BAT").click();
    assertThat(p.locator("pre").first()).not().isEmpty();
    button(p, "Close the preview").click();
    p.getByLabel("Find a file").fill("");
    Download zip = p.waitForDownload(() -> link(p, "All as zip").click());
    Set<String> names = new HashSet<>();
    try (ZipInputStream z = new ZipInputStream(Files.newInputStream(zip.path()))) {
      for (ZipEntry e = z.getNextEntry(); e != null; e = z.getNextEntry()) names.add(e.getName());
    }
    assertThat(names).contains("SHA256SUMS").hasSizeGreaterThan(100);
    button(p, "What stands out").click();
    assertThat(text(p, "Largest")).isVisible();
    button(p, "Sectors").click();
    assertThat(text(p, "boot code")).isVisible();
    p.locator("main").focus();
    p.keyboard().press("PageDown");
    p.keyboard().press("PageDown");
    Locator sector = p.getByLabel("Sector", new Page.GetByLabelOptions().setExact(true));
    assertThat(sector).hasValue("1");
    p.keyboard().press("PageUp");
    p.keyboard().press("PageUp");
    assertThat(sector).hasValue("0");
    // By keyboard into the table: the first entry's start.
    p.getByLabel("Bytes in hexadecimal").focus();
    for (int i = 0; i < 28; i++) p.keyboard().press("ArrowDown");
    for (int i = 0; i < 6; i++) p.keyboard().press("ArrowRight");
    assertThat(text(p, "entry 1: start LBA")).isVisible();
    shot(p, "contents");

    p.navigate("http://127.0.0.1:" + shed.port() + "/images");
    Locator one = p.getByLabel("One image");
    one.selectOption(new SelectOption().setIndex(1));
    p.getByLabel("The other image").selectOption(new SelectOption().setIndex(2));
    assertThat(
            p.locator("[role=status]")
                .filter(new Locator.FilterOptions().setHasText("chunks of 16 MiB")))
        .isVisible(within(30));
    assertThat(browser.errors)
        .allMatch(e -> e.contains("ERR_CONNECTION_REFUSED") || e.contains("ERR_"));
  }
}
