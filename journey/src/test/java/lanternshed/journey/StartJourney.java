package lanternshed.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.SelectOption;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A disk that does not start any more: the rehearsal says so, a copy is mended, and starts. */
class StartJourney extends Journey {
  private static final int FLAG_AT = 446;
  @TempDir private Path home;

  @Test
  void aDiskWithoutAnActiveEntryIsMendedOnACopyAndStarts() throws Exception {
    long image =
        StreamSupport.stream(shed.get("/api/images").json().spliterator(), false)
            .filter(i -> i.get("name").asString().equals("Tolley Ledger sub-notebook, as rescued"))
            .findFirst()
            .orElseThrow()
            .get("id")
            .asLong();
    byte[] disk = shed.bytes("/api/images/" + image + "/download?form=raw");
    disk[FLAG_AT] = 0;
    Path file = home.resolve("broken.img");
    Files.write(file, disk);

    Page p = open(1280, 800);
    p.navigate("/media");
    button(p, "Bring in an image").click();
    p.getByLabel("Image file").setInputFiles(file);
    button(p, "put it on the shelf").click(within40());
    assertThat(text(p, "On the shelf:")).isVisible(within(60));

    p.navigate("/jobs");
    button(p, "Open a job").click();
    p.getByLabel("What is the machine called?").fill("Spare sub-notebook");
    p.getByLabel("Which family is it of?").selectOption(new SelectOption().setValue("subnotebook"));
    p.getByLabel("an image on the shelf").check();
    p.getByLabel("The image").selectOption(new SelectOption().setIndex(1));
    button(p, "Open it").click();
    assertThat(text(p, "Look before power")).isVisible();
    station(p, "4");
    assertThat(text(p, "Its loader is not entered")).isVisible(within(30));
    assertThat(text(p, "No active entry")).isVisible();
    // What would be if entry 1 were marked, before anything is written.
    p.getByLabel("Active entry", new Page.GetByLabelOptions().setExact(true)).selectOption("1");
    assertThat(text(p, "with what was changed here")).isVisible();
    assertThat(text(p, "Its loader is entered")).isVisible(within(30));
    button(p, "back to how it is").click();
    assertThat(text(p, "Its loader is not entered")).isVisible(within(30));
    assertThat(text(p, "Mend its start on a copy")).isVisible();
    assertThat(text(p, "Entry 1 is marked active.")).isVisible();
    button(p, "Make the mended copy").first().click();
    button(p, "Go on with it in this job").click(within40());
    assertThat(text(p, "Its loader is entered")).isVisible(within(30));
    assertThat(browser.errors).isEmpty();
  }

  private static Locator.ClickOptions within40() {
    return new Locator.ClickOptions().setTimeout(40_000);
  }
}
