package lanternshed.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import org.junit.jupiter.api.Test;

/** Machines that are no PCs, each from where the demonstration has it to the end. */
class FamiliesJourney extends Journey {

  /** Ticks what is there to tick, and writes down a reading where one is asked for. */
  private static void tickAll(Page p) {
    Locator boxes = p.locator("main li input[type=checkbox]");
    assertThat(boxes.first()).isVisible();
    Locator readings = p.locator("main li input.field");
    for (int i = 0; i < readings.count(); i++) readings.nth(i).fill("as predicted");
    for (int i = 0; i < boxes.count(); i++) boxes.nth(i).check();
  }

  /**
   * @param figures whether what its screen shows is foretold in figures
   */
  private static void fitProveClose(Page p, boolean figures) {
    station(p, "8");
    assertThat(button(p, "It is fitted")).isVisible();
    Locator cases = p.locator("input[name=case]");
    if (cases.count() > 0) {
      cases.first().check();
      assertThat(text(p, "Open it")).isVisible();
    }
    tickAll(p);
    button(p, "It is fitted").click();
    assertThat(button(p, "Open again")).isVisible();
    station(p, "9");
    assertThat(text(p, "What the machine shows")).isVisible();
    tickAll(p);
    if (figures) readAsForetold(p);
    p.getByLabel("as predicted", new Page.GetByLabelOptions().setExact(true)).last().check();
    button(p, "Settle the proof").click();
    assertThat(text(p, "The machine shows what the plan predicted.")).isVisible();
    station(p, "0");
    button(p, "Close the job").click();
    assertThat(text(p, "✓ closed")).isVisible();
  }

  private static void buildAndWrite(Page p, String card, String serial) {
    station(p, "6");
    button(p, "Build it").click();
    assertThat(text(p, "Proved")).isVisible(within(120));
    link(p, "Put it on the card").click();
    p.getByLabel(card).check();
    p.getByLabel("Last four of the serial").fill(serial);
    button(p, "Write this stand-in").click();
    assertThat(text(p, "Reads back identical")).isVisible(within(200));
  }

  @Test
  void aStudiosBlockChainedDriveMovesToACardWithItsSheet() {
    Page p = open(1280, 800);
    text(p, "Pellow Atelier 30 pattern studio").click();
    station(p, "4");
    assertThat(text(p, "Atelier · FFS")).isVisible();
    station(p, "5");
    // H-17: what the machine has is too little until somebody gets it and says so.
    assertThat(text(p, "The machine has ROM version 1.3; at least 2.0 is needed.").first())
        .isVisible();
    station(p, "1");
    p.waitForResponse(
        r -> r.url().endsWith("/stations/1") && r.ok(),
        () -> p.getByLabel("ROM version").fill("2.04"));
    station(p, "5");
    assertThat(text(p, "DH0 is mounted by the ROM.")).isVisible();
    text(p, "Typed on the machine").click();
    assertThat(text(p, "0x1FE00")).isVisible();
    p.keyboard().press("Escape");
    button(p, "change the choices").click();
    Locator cards =
        p.locator("label", new Page.LocatorOptions().setHasText("Card")).locator("select").first();
    // What the card holds stands behind its name.
    Locator meant =
        cards.locator("option", new Locator.LocatorOptions().setHasText("mill-7")).first();
    cards.selectOption(meant.getAttribute("value"));
    button(p, "Settle this plan").click();
    assertThat(link(p, "Build this image")).isVisible();
    buildAndWrite(p, "mill-7, 64 MB secure digital", "A8G2");
    station(p, "9");
    assertThat(text(p, "S/Startup-Sequence calls 3 commands, all of them there")).isVisible();
    fitProveClose(p, true);
    assertThat(browser.errors).isEmpty();
  }

  @Test
  void aNotebooksCpmCardGoesFromItsPlanToTheEnd() {
    Page p = open(1280, 800);
    text(p, "Brack Daybook").click();
    station(p, "5");
    assertThat(text(p, "CP/M 2.2, blocks of 4 KiB")).isVisible();
    buildAndWrite(p, "mill-5, 8 MB memory card", "D4B1");
    fitProveClose(p, true);
    assertThat(browser.errors).isEmpty();
  }

  @Test
  void anEightBitComputersSlotsAndTheDesktopsVolumeShareACard() {
    Page p = open(1280, 800);
    text(p, "Finch Micro with IDE pack").click();
    station(p, "5");
    assertThat(text(p, "slot 3 SLOT3")).isVisible();
    text(p, "Typed on the machine").click();
    assertThat(text(p, "65535")).isVisible();
    p.keyboard().press("Escape");
    buildAndWrite(p, "mill-6, 2 GB compact flash", "F6M3");
    fitProveClose(p, true);
    assertThat(browser.errors).isEmpty();
  }

  /** F-16: a library's disks are moved and locked by keys, and a copy is made of it. */
  @Test
  void aLibraryOfSmallDisksIsPutInOrder() {
    Page p = open(1280, 800);
    p.navigate("/images");
    Locator library =
        p.locator("article")
            .filter(new Locator.FilterOptions().setHasText("Library of the schoolroom computer"));
    library.getByText("Look inside").click();
    assertThat(text(p, "disks of 200 KiB in")).isVisible();
    Locator place = p.locator("#place-4");
    assertThat(place).containsText("Lace charts");
    place.focus();
    p.keyboard().press("Alt+ArrowUp");
    assertThat(p.locator("#place-3")).containsText("Lace charts");
    p.keyboard().press("Alt+ArrowUp");
    assertThat(p.locator("#place-2")).containsText("Lace charts");
    p.locator("#place-0").getByText("unlock").click();
    button(p, "Undo the last").click();
    assertThat(p.locator("#place-0")).containsText("locked");
    library.getByLabel("Disks").scrollIntoViewIfNeeded();
    button(p, "Make a copy with 2 changes").click();
    Locator copy =
        p.locator("article")
            .filter(
                new Locator.FilterOptions()
                    .setHasText("Library of the schoolroom computer, changed"));
    assertThat(copy.locator("#place-2")).containsText("Lace charts");
    assertThat(browser.errors).isEmpty();
  }
}
