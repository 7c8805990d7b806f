package lanternshed.journey;

import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.ColorScheme;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * Debian's Chromium without a window; every error of the page is kept, so that a journey can fail
 * on it.
 */
final class Browser implements AutoCloseable {
  private static final int PATIENCE = 30_000;

  /** One for all journeys of a process; each page has a context of its own. */
  private static com.microsoft.playwright.Browser chromium;

  private final List<BrowserContext> contexts = new ArrayList<>();
  final List<String> errors = new ArrayList<>();

  Browser() {
    if (chromium == null) chromium = start();
  }

  private static com.microsoft.playwright.Browser start() {
    // A shared computer may stand still for a while; what should come does come.
    PlaywrightAssertions.setDefaultAssertionTimeout(PATIENCE);
    Playwright.CreateOptions options =
        new Playwright.CreateOptions()
            .setEnv(
                Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1", "PLAYWRIGHT_NODEJS_PATH", node()));
    Playwright playwright = Playwright.create(options);
    Runtime.getRuntime().addShutdownHook(new Thread(playwright::close));
    return playwright
        .chromium()
        .launch(
            new BrowserType.LaunchOptions()
                .setExecutablePath(Path.of("/usr/bin/chromium"))
                .setChromiumSandbox(false)
                .setArgs(
                    List.of(
                        "--disable-gpu",
                        "--no-first-run",
                        "--disable-background-networking",
                        "--disable-component-update",
                        "--disable-sync")));
  }

  private static String node() {
    for (String folder : System.getenv("PATH").split(":")) {
      Path node = Path.of(folder, "node");
      if (Files.isExecutable(node)) return node.toString();
    }
    throw new IllegalStateException("there is no node on the path");
  }

  Page page(String address, int width, int height) {
    BrowserContext context =
        chromium.newContext(
            new com.microsoft.playwright.Browser.NewContextOptions()
                .setBaseURL(address)
                .setViewportSize(width, height)
                .setColorScheme(ColorScheme.LIGHT)
                .setLocale("en-GB"));
    contexts.add(context);
    Page page = context.newPage();
    page.setDefaultTimeout(PATIENCE);
    page.onConsoleMessage(
        m -> {
          // A refusal that the journey provokes is an answer, not a fault of the page.
          if (m.type().equals("error") && !m.text().contains("status of 4")) errors.add(m.text());
        });
    page.onPageError(e -> errors.add(e));
    return page;
  }

  @Override
  public void close() {
    contexts.forEach(BrowserContext::close);
  }
}
