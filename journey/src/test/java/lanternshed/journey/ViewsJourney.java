package lanternshed.journey;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/**
 * Every view as people meet it: with a reader of screens, by night, on a phone, on a wide screen.
 */
class ViewsJourney extends Journey {
  private static final Path AXE = Path.of("../web/node_modules/axe-core/axe.min.js");
  private static final String OVER =
      "document.documentElement.scrollWidth - document.documentElement.clientWidth";
  private static final List<String> ROOMS =
      List.of(
          "/jobs",
          "/jobs/1/chain",
          "/media",
          "/media/register",
          "/images",
          "/machines",
          "/machines/controller-pc",
          "/parts",
          "/reckoner",
          "/roms",
          "/roms/1",
          "/crossings/1");

  /** The rooms, and all ten stations of a job that has begun and of one that is at its end. */
  private static List<String> views() {
    List<String> out = new ArrayList<>(ROOMS);
    for (String job : List.of("/jobs/3", closest())) {
      for (int station = 1; station <= 10; station++) out.add(job + "/" + station);
    }
    return out;
  }

  /** The job of the demonstration that got farthest. */
  private static String closest() {
    for (var j : shed.get("/api/jobs?size=100").json().get("rows")) {
      if (j.get("machine").asString().startsWith("Tolley Ledger")) {
        return "/jobs/" + j.get("id").asLong();
      }
    }
    throw new AssertionError("the demonstration has no such job");
  }

  private static void come(Page p, String view) {
    p.navigate("http://127.0.0.1:" + shed.port() + view);
    p.locator("main").waitFor();
    p.waitForLoadState();
    p.waitForTimeout(700);
  }

  @Test
  @SuppressWarnings("unchecked")
  void noViewHasAFindingOfAccessibilityByDayOrByNight() throws IOException {
    // The page's own rules admit no foreign script; the judge comes in by the debugger's door.
    String axe = Files.readString(AXE);
    List<String> found = new ArrayList<>();
    int rules = 0;
    Page p = open(1280, 800);
    for (String look : List.of("day", "night")) {
      p.evaluate("look => localStorage.setItem('shed.look', look)", look);
      for (String view : views()) {
        come(p, view);
        p.evaluate(axe);
        Map<String, Object> result =
            (Map<String, Object>)
                p.evaluate(
                    "async () => { const r = await axe.run(); return {passes: r.passes.length, found:"
                        + " r.violations.map(v => v.id + ': ' + v.nodes.map(n => n.html.slice(0,"
                        + " 140) + ' ' + (n.any[0]?.message ?? '')).slice(0, 3).join(' | '))} }");
        rules += ((Number) result.get("passes")).intValue();
        for (String f : (List<String>) result.get("found")) found.add(look + " " + view + " " + f);
      }
    }
    assertThat(rules).as("rules that were looked at").isGreaterThan(500);
    assertThat(found).isEmpty();
  }

  @Test
  void noViewHasToBePushedSideways() {
    List<String> found = new ArrayList<>();
    Page p = open(1280, 800);
    for (String view : views()) {
      come(p, view);
      // 640 is what a window of 1280 has at twice the size of letters.
      for (int width : new int[] {390, 640, 1024, 1280, 1920}) {
        p.setViewportSize(width, 800);
        p.waitForTimeout(150);
        int over = ((Number) p.evaluate(OVER)).intValue();
        if (over > 0) found.add(width + " " + view + " by " + over);
      }
    }
    assertThat(found).isEmpty();
    assertThat(browser.errors).isEmpty();
  }
}
