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
import tools.jackson.databind.json.JsonMapper;

/**
 * Every view as people meet it: with a reader of screens, by night, on a phone, on a wide screen.
 */
class ViewsJourney extends Journey {
  private static final Path AXE = Path.of("../web/node_modules/axe-core/axe.min.js");

  /** By how much the page is wider than its window, two frames after that had its width. */
  private static final String OVER =
      "() => new Promise(told => requestAnimationFrame(() => requestAnimationFrame(() =>"
          + " setTimeout(() => told(document.documentElement.scrollWidth -"
          + " document.documentElement.clientWidth), 50))))";

  private static final String NIGHT = "document.documentElement.dataset.look = 'night'";
  private static final String ONLY_COLOURS =
      "{\"runOnly\": {\"type\": \"rule\", \"values\": [\"color-contrast\"]}}";

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

  /** What the judge of accessibility says of what stands there; adds to {@code found}. */
  @SuppressWarnings("unchecked")
  private static int judged(Page p, String options, String where, List<String> found) {
    Map<String, Object> result =
        (Map<String, Object>)
            p.evaluate(
                "async options => { const r = await axe.run(document, options); return {passes:"
                    + " r.passes.length, found: r.violations.map(v => v.id + ': ' + v.nodes.map(n"
                    + " => n.html.slice(0, 140) + ' ' + (n.any[0]?.message ?? '')).slice(0,"
                    + " 3).join(' | '))} }",
                JsonMapper.shared().readValue(options, Map.class));
    for (String f : (List<String>) result.get("found")) found.add(where + f);
    return ((Number) result.get("passes")).intValue();
  }

  @Test
  void noViewHasAFindingOfAccessibilityNorHasToBePushedSideways() throws IOException {
    // The page's own rules admit no foreign script; the judge comes in by the debugger's door.
    String axe = Files.readString(AXE);
    List<String> found = new ArrayList<>();
    int rules = 0;
    int byNight = 0;
    Page p = open(1280, 800);
    for (String view : views()) {
      come(p, view);
      p.evaluate(axe);
      rules += judged(p, "{}", "day " + view + " ", found);
      // By night only colours differ; the page has them by a word at its root.
      p.evaluate(NIGHT);
      byNight += judged(p, ONLY_COLOURS, "night " + view + " ", found);
      // 640 is what a window of 1280 has at twice the size of letters.
      for (int width : new int[] {390, 640, 1024, 1920, 1280}) {
        p.setViewportSize(width, 800);
        int over = ((Number) p.evaluate(OVER)).intValue();
        if (over > 0) found.add(width + " " + view + " by " + over);
      }
    }
    assertThat(rules).as("rules that were looked at").isGreaterThan(250);
    assertThat(byNight).as("views whose colours were looked at by night").isEqualTo(views().size());
    assertThat(found).isEmpty();
    assertThat(browser.errors).isEmpty();
  }
}
