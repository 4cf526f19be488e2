package tidybridge.service;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.options.ReducedMotion;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;

/** Debian's Chromium, without a window. */
record Chromium(Playwright playwright, Browser browser) implements AutoCloseable {

    static Chromium start() {
        Playwright playwright = Playwright.create(
                new Playwright.CreateOptions().setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
        Browser browser = playwright
                .chromium()
                .launch(new BrowserType.LaunchOptions()
                        .setExecutablePath(Path.of("/usr/bin/chromium"))
                        .setArgs(List.of("--no-sandbox", "--disable-gpu", "--disable-background-networking")));
        return new Chromium(playwright, browser);
    }

    /** A browser of somebody's own, who asks for no movement: what moves while it is clicked loses clicks on a busy machine. */
    BrowserContext person() {
        return person(options -> {});
    }

    BrowserContext person(Consumer<Browser.NewContextOptions> more) {
        Browser.NewContextOptions options =
                new Browser.NewContextOptions().setViewportSize(1280, 800).setReducedMotion(ReducedMotion.REDUCE);
        more.accept(options);
        return browser.newContext(options);
    }

    @Override
    public void close() {
        browser.close();
        playwright.close();
    }
}
