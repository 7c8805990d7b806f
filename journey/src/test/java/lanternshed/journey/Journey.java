package lanternshed.journey;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.nio.file.Path;
import lanternshed.server.TestShed;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;

/** A shed with the demonstration, a browser, and the words of a person's way through it. */
abstract class Journey {
  private static final Path SHOTS = Path.of("../docs/screenshots");

  /** How much faster than their own time stand-ins are; as the program has it. */
  static final int PACE = 10;

  static TestShed shed;
  static Browser browser;

  @BeforeAll
  static void start() {
    shed = new TestShed(true, PACE);
    browser = new Browser();
  }

  @AfterAll
  static void stop() {
    browser.close();
    shed.close();
  }

  static Page open(int width, int height) {
    Page p = browser.page("http://127.0.0.1:" + shed.port(), width, height);
    p.navigate("/jobs");
    return p;
  }

  /** Taken only when asked for, so that a test run leaves the documentation as it is. */
  static void shot(Page p, String name) {
    if (!Boolean.getBoolean("shots")) return;
    p.mouse().move(640, 790);
    p.waitForTimeout(250);
    p.screenshot(new Page.ScreenshotOptions().setPath(SHOTS.resolve(name + ".png")));
  }

  /** Goes to a station by its key; a key that comes before the job does is nobody's. */
  static void station(Page p, String key) {
    assertThat(p.locator("[aria-label=Stations] a").first()).isVisible();
    p.locator("main").focus();
    p.keyboard().press(key);
  }

  static Locator button(Page p, String name) {
    return p.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
  }

  static Locator link(Page p, String name) {
    return p.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(name).setExact(true));
  }

  /** A place for a reading; its name may go on with the band that is expected. */
  static Locator reading(Page p, String name) {
    return p.getByRole(AriaRole.TEXTBOX, new Page.GetByRoleOptions().setName(name));
  }

  /** Reads every figure off the machine as it was foretold. */
  static void readAsForetold(Page p) {
    Locator rows = p.locator("main tbody tr:has(input.figure)");
    assertThat(rows.first()).isVisible();
    for (Locator row : rows.all()) {
      row.locator("input.figure").fill(row.locator("[data-why]").innerText());
    }
    assertThat(p.locator("main").getByText("✓ as predicted")).hasCount(rows.count());
  }

  static Locator text(Page p, String words) {
    return p.getByText(words).first();
  }

  static LocatorAssertions.IsVisibleOptions within(int seconds) {
    return new LocatorAssertions.IsVisibleOptions().setTimeout(seconds * 1000.0);
  }
}
