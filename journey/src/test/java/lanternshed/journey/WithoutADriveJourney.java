package lanternshed.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.FilePayload;
import com.microsoft.playwright.options.SelectOption;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;

/** Jobs that have no old drive, a carrier card, and images that go on a card as they are. */
class WithoutADriveJourney extends Journey {
  private static FilePayload file(String name) {
    return new FilePayload(name, "text/plain", name.repeat(900).getBytes(StandardCharsets.UTF_8));
  }

  @Test
  void filesOfADesktopBecomeACardThatIsReadBackAndCloses() {
    Page p = open(1280, 800);
    button(p, "Open a job").click();
    p.getByLabel("What is the machine called?").fill("Office exchange card");
    p.getByLabel("Which family is it of?")
        .selectOption(new SelectOption().setValue("controller-pc"));
    p.getByLabel("files of a desktop").check();
    button(p, "Open it").click();
    assertThat(text(p, "Look before power")).isVisible();
    station(p, "3");
    assertThat(text(p, "Files for the new card")).isVisible();
    p.getByLabel("Choose files")
        .setInputFiles(
            new FilePayload[] {file("Opening times 2026.txt"), file("TOUR.TXT"), file("x.txt")});
    assertThat(text(p, "3 files")).isVisible();
    button(p, "Take out x.txt").click();
    assertThat(text(p, "2 files")).isVisible();
    link(p, "Plan").click();
    assertThat(text(p, "All 2 files of FILES fit.")).isVisible();
    button(p, "Settle this plan").click();
    link(p, "Build this image").click();
    button(p, "Build it").click();
    assertThat(text(p, "Proved: 2 files identical")).isVisible(within(60));
    link(p, "Put it on the card").click();
    p.getByLabel("mill-1, 64 MB compact flash").check();
    p.getByLabel("Last four of the serial").fill("K7T2");
    button(p, "Write this stand-in").click();
    assertThat(text(p, "Reads back identical")).isVisible(within(90));
    station(p, "0");
    assertThat(text(p, "was not read back yet")).isVisible();
    p.getByLabel("The finished card")
        .selectOption(new SelectOption().setLabel("mill-1, 64 MB compact flash"));
    button(p, "Read it back").click();
    assertThat(text(p, "Read back whole")).isVisible(within(90));
    button(p, "Close the job").click();
    assertThat(text(p, "Golden copy on the shelf")).isVisible();
    assertThat(browser.errors).isEmpty();
  }

  @Test
  void aSamplersDrivesBecomeFilesOfACardAndTheCardIsMadeAgainFromTheShelf() {
    Page p = open(1280, 800);
    text(p, "Tarn SX-8 sampler").click();
    station(p, "5");
    assertThat(text(p, "Drives on the carrier")).isVisible();
    assertThat(text(p, "DRIVE5.IMG")).isVisible();
    shot(p, "carrier");
    p.getByLabel("Id of spare drive of the sampler, 30 MiB")
        .selectOption(new SelectOption().setLabel("id 5"));
    // The drive that had it takes the other's place: no two ever have one id.
    assertThat(p.getByLabel("Id of empty drive of the sampler, 60 MiB")).not().hasValue("5");
    assertThat(button(p, "Settle this plan")).isEnabled();
    button(p, "Undo").click();
    link(p, "Build this image").click();
    button(p, "Build it").click();
    assertThat(text(p, "Proved: 2 files identical")).isVisible(within(90));

    p.navigate("/images");
    button(p, "Put on a card").first().click();
    p.getByLabel("mill-3, 8 GB compact flash").check();
    p.getByLabel("Last four of the serial").fill("Q4N7");
    button(p, "Write this stand-in").click();
    assertThat(text(p, "reads back identical from the card")).isVisible(within(240));
    button(p, "Done").click();
    button(p, "Look inside").first().click();
    assertThat(text(p, "DRIVE5.IMG")).isVisible();
    assertThat(browser.errors).isEmpty();
  }
}
