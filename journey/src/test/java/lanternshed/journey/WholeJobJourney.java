package lanternshed.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.SelectOption;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.List;
import org.junit.jupiter.api.Test;

/**
 * A person takes the loom controller from its clicking drive to a written, read-back, rehearsed
 * card, in the real interface. On the way the screenshots of the documentation are taken.
 */
class WholeJobJourney extends Journey {
  @Test
  void theLoomControllerComesToAProvedCard() throws Exception {
    Page p = open(1280, 800);
    assertThat(text(p, "Corvane KD-3 loom controller")).isVisible();
    shot(p, "jobs");
    text(p, "Corvane KD-3 loom controller").click();

    // 1 Intake
    assertThat(text(p, "Look before power")).isVisible();
    assertThat(text(p, "Before power: look at points 1, 2, 3, 4.")).isVisible();
    p.getByLabel("Find the clock battery or backup cell. What is found").selectOption("leaked");
    assertThat(text(p, "No power yet.")).isVisible();
    Locator found = p.locator("ol select");
    for (int i = 0; i < found.count(); i++) {
      found.nth(i).selectOption(new SelectOption().setIndex(1));
    }
    for (int i = 0; i < 8; i++) p.locator("#step-" + i).check();
    reading(p, "5 V rail").fill("5.04 V");
    reading(p, "12 V rail").fill("12.1 V");
    p.getByLabel("Add a sound").selectOption("clicks");
    assertThat(text(p, "do not power-cycle it to try again")).isVisible();
    p.getByLabel("Symptoms and notes").fill("Clicks four times, then spins up again.");
    assertThat(text(p, "Nothing stands against power.")).isVisible();
    shot(p, "intake");
    button(p, "Intake is done").click();
    // The page stays where the person is, and names the way on.
    link(p, "Fault").click();
    assertThat(text(p, "Evidence board")).isVisible();

    // 2 Fault, by its key
    station(p, "2");
    button(p, "decide by hand, or do not ask").click();
    text(p, "Storage is the fault").click();
    button(p, "Settle this station").click();
    assertThat(link(p, "Rescue the medium")).isVisible();

    rescue(p);
    survey(p);
    plan(p);
    build(p);
    write(p);
    fitProveClose(p);
    assertThat(browser.errors).isEmpty();
  }

  private void rescue(Page p) {
    station(p, "3");
    button(p, "Start the rescue").click();
    assertThat(text(p, "reading forward")).isVisible();
    button(p, "Pause").click();
    assertThat(text(p, "Paused; it goes on where it stands.")).isVisible();
    button(p, "Go on with the rescue").click();
    assertThat(text(p, "What was saved")).isVisible(within(90));
    assertThat(text(p, "files hit")).isVisible();
    shot(p, "rescue");
    link(p, "Read what is on it").click();
  }

  private void survey(Page p) {
    assertThat(text(p, "PATTERNS · FAT16")).isVisible();
    assertThat(text(p, "is not whole")).isVisible();
    p.getByLabel("Find a file").fill("weave/heron001");
    assertThat(button(p, "WEAVE/HERON001.PAT")).isVisible();
    Download d = p.waitForDownload(() -> link(p, "get").click());
    assertThat(d.suggestedFilename()).isEqualTo("HERON001.PAT");
    p.getByLabel("Find a file").fill("");
    shot(p, "survey");
    link(p, "Lay out the new card").click();
  }

  private void plan(Page p) {
    assertThat(text(p, "From the old drive to the card")).isVisible();
    button(p, "change the choices").click();
    p.locator("label:has-text('Card') select")
        .selectOption(new SelectOption().setLabel("mill-3, 8 GB compact flash"));
    button(p, "back to the answer").click();
    assertThat(text(p, "Plain C/H/S firmware — binds")).isVisible();
    assertThat(text(p, "504.0 MiB")).isVisible();
    // The edge of C moves by the arrow keys, cylinder by cylinder, and can be taken back.
    Locator edge = p.getByRole(AriaRole.SLIDER).first();
    String before = edge.getAttribute("aria-valuenow");
    edge.focus();
    for (int i = 0; i < 3; i++) {
      p.keyboard().press("PageDown");
      p.waitForTimeout(120);
    }
    assertThat(edge).not().hasAttribute("aria-valuenow", before);
    button(p, "Undo").click();
    assertThat(edge).hasAttribute("aria-valuenow", before);
    shot(p, "plan");
    p.locator("[data-why]")
        .filter(new Locator.FilterOptions().setHasText("504.0 MiB"))
        .first()
        .click();
    assertThat(text(p, "10 bits of cylinder")).isVisible();
    p.keyboard().press("Escape");
    assertThat(text(p, "10 bits of cylinder")).not().isVisible();
    p.locator("main").focus();
    p.keyboard().press("u");
    assertThat(text(p, "528.4 MB")).isVisible();
    for (int i = 0; i < 3; i++) p.keyboard().press("u");
    chain(p);
    // What was chosen before is still there.
    assertThat(text(p, "mill-3, 8 GB compact flash")).isVisible();
    button(p, "Settle this plan").click();
    link(p, "Build this image").click();
  }

  /**
   * H-1: another way is looked at and taken by keys; its reach is a peg, its settings are at Fit.
   */
  private void chain(Page p) {
    link(p, "choose one").click();
    assertThat(text(p, "Chain: every joint fits")).isVisible();
    assertThat(text(p, "all of it lies here")).isVisible();
    assertThat(p.getByLabel("Where you are")).containsText("Chain");
    // The plan's card says which ways are looked at first.
    assertThat(p.getByLabel("Which kind of card")).hasValue("cf50");
    shot(p, "chain");
    p.getByLabel("Which kind of card").selectOption("");
    assertThat(text(p, "bridge")).isVisible();
    p.locator("main").focus();
    p.keyboard().press("j");
    p.keyboard().press("j");
    assertThat(text(p, "it reaches 131 072.0 MiB of a card")).isVisible();
    p.keyboard().press("n");
    assertThat(p.getByLabel("For how many machines")).hasValue("10");
    p.keyboard().press("n");
    button(p, "Take this chain").click();
    assertThat(text(p, "This chain is taken")).isVisible();
    p.getByLabel("Which kind of card").selectOption("cf50");
    p.getByText("adapter 40 to compact flash, bay plate").first().click();
    button(p, "Take this chain").click();
    assertThat(text(p, "This chain is taken")).isVisible();
    link(p, "Back to the plan").click();
    assertThat(text(p, "adapter 40 to compact flash, bay plate")).isVisible();
  }

  private void build(Page p) {
    button(p, "Build it").click();
    assertThat(text(p, "The image is proved")).isVisible(within(90));
    assertThat(text(p, "Nothing stands against its start")).isVisible();
    // The bytes are run: what they read is gone through by keys.
    Locator rehearsal = p.getByLabel("Rehearsal");
    assertThat(rehearsal).containsText("LOOMIO.SYS is entered at 0070:0000, with 80 in DL.");
    Locator reads = p.getByLabel("Disk reads");
    reads.focus();
    p.keyboard().press("Home");
    assertThat(reads.locator("tr[aria-current]")).containsText("0/1/1");
    p.keyboard().press("ArrowRight");
    assertThat(reads.locator("tr[aria-current]")).containsText("root folder");
    rehearsal.scrollIntoViewIfNeeded();
    shot(p, "build");
    link(p, "Put it on the card").click();
  }

  private void write(Page p) throws Exception {
    text(p, "market find, 64 MB compact flash").click();
    assertThat(text(p, "Not this card")).isVisible();
    text(p, "mill-3, 8 GB compact flash").click();
    p.getByLabel("Last four of the serial").fill("WXYZ");
    button(p, "Write this stand-in").click();
    assertThat(text(p, "nothing was written")).isVisible();
    p.getByLabel("Last four of the serial").fill("q4n7");
    shot(p, "write");
    button(p, "Write this stand-in").click();
    assertThat(text(p, "Reads back identical")).isVisible(within(120));
    link(p, "Fit the card").click();
  }

  private static void figure(Page p, String text) {
    button(p, "Add a figure").click();
    p.getByLabel("figure with its unit").fill(text);
    button(p, "Keep it").click();
    assertThat(text(p, "after only")).isVisible();
  }

  private void fitProveClose(Page p) throws Exception {
    p.locator("main").focus();
    p.keyboard().press("b");
    assertThat(text(p, "Open it · 1 of 11")).isVisible();
    for (int i = 0; i < 10; i++) {
      assertThat(text(p, (i + 1) + " of 11")).isVisible();
      if (button(p, "Not read, go on Space").isVisible()) {
        p.keyboard().press("n");
        p.keyboard().type("as the list says");
        p.keyboard().press("Enter");
      } else p.keyboard().press(" ");
    }
    assertThat(text(p, "Close it, the same way back · 11 of 11")).isVisible();
    p.keyboard().press(" ");
    assertThat(text(p, "11 of 11")).not().isVisible();
    assertThat(text(p, "J1: master")).isVisible();
    button(p, "It is fitted").click();
    assertThat(button(p, "Open again")).isVisible();
    station(p, "9");
    assertThat(text(p, "Nothing stands against its start")).isVisible();
    p.getByLabel("as predicted", new Page.GetByLabelOptions().setExact(true)).check();
    button(p, "Settle the proof").click();
    // A proof that nobody looked at is none.
    assertThat(p.locator("main [role=alert]").first()).isVisible();
    for (int i = 0; i < 5; i++) p.locator("#step-" + i).check();
    reading(p, "files").fill("2913");
    p.getByLabel("Geometry in setup: what the machine shows").fill("1 / 2 / 3");
    assertThat(text(p, "1 shown in place of")).isVisible();
    readAsForetold(p);
    figure(p, "640 KB/s");
    shot(p, "prove");
    button(p, "Settle the proof").click();
    assertThat(text(p, "The machine shows what the plan predicted.")).isVisible();
    p.locator("main").focus();
    p.keyboard().press("l");
    p.keyboard().type("5.02 V at the adapter");
    p.keyboard().press("Enter");
    assertThat(p.getByLabel("Write in the logbook")).hasValue("");
    station(p, "0");
    Download d = p.waitForDownload(() -> link(p, "packed, .gz").click());
    assertThat(Files.size(d.path())).isPositive();
    button(p, "Close the job").click();
    assertThat(text(p, "✓ closed")).isVisible();
    paper(p);
    wipe(p);
    p.evaluate("localStorage.setItem('shed.look', 'night')");
    p.navigate("/jobs");
    assertThat(text(p, "✓ closed")).isVisible();
  }

  /** Z-2: both sheets are PDF; the label is for this job. */
  private void paper(Page p) {
    for (String name : List.of("Label for card and machine", "Record of the job")) {
      String href = link(p, name).getAttribute("href");
      assertThat(shed.bytes(href)).startsWith("%PDF".getBytes(StandardCharsets.US_ASCII));
    }
  }

  /** Z-3: the drive that is done with is wiped, and its certificate stands there. */
  private void wipe(Page p) {
    button(p, "Wipe it").click();
    assertThat(text(p, "All that is on it will be gone for good")).isVisible();
    p.getByLabel("Who wipes it").fill("the loom keeper");
    p.getByLabel("A sample").check();
    p.getByLabel("Last four of the serial").fill("0417");
    p.getByRole(AriaRole.DIALOG)
        .getByRole(
            AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Wipe it").setExact(true))
        .click();
    assertThat(text(p, "Certificate 1")).isVisible(within(240));
    p.keyboard().press("Escape");
    assertThat(button(p, "Wipe it again")).isVisible();
    shot(p, "close");
  }

  @Test
  void theListWorksByKeyboardOnlyAndEveryRoomOpens() {
    Page p = open(390, 780);
    assertThat(text(p, "On the bench")).isVisible();
    Page q = open(1280, 800);
    assertThat(text(q, "On the bench")).isVisible();
    String third = q.locator("[data-row]").nth(2).locator("strong").innerText();
    q.keyboard().press("j");
    q.keyboard().press("j");
    q.keyboard().press("Enter");
    assertThat(q.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName(third)))
        .isVisible();
    q.keyboard().press("?");
    assertThat(text(q, "Keys that work here")).isVisible();
    q.keyboard().press("Escape");
    q.navigate("/reckoner");
    assertThat(text(q, "Plain C/H/S firmware — binds")).isVisible();
    shot(q, "reckoner");
    q.evaluate("localStorage.setItem('shed.look', 'night')");
    q.navigate("/media");
    assertThat(text(q, "Cards in the drawer")).isVisible();
    shot(q, "media");
    q.navigate("/machines");
    assertThat(text(q, "Embedded DOS controller")).isVisible();
    shot(q, "machines");
    q.navigate("/nowhere");
    assertThat(text(q, "There is nothing at this address")).isVisible();
    assertThat(browser.errors).isEmpty();
  }
}
