package tidybridge.service;

import com.google.gson.JsonObject;
import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.Cookie;
import com.microsoft.playwright.options.ReducedMotion;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;

/**
 * Debian's Chromium, without a window. One browser serves all test classes of a process, and ends with it; what people do in it is kept apart
 * by a context for each of them.
 */
final class Chromium {

    /** How long what must show may take on a machine that is busy with other things. */
    private static final Duration PATIENCE = Duration.ofSeconds(30);

    private static Playwright playwright;
    private static Browser browser;
    private static BrowserContext guest;

    private Chromium() {}

    private static synchronized Browser browser() {
        if (browser == null) {
            PlaywrightAssertions.setDefaultAssertionTimeout(PATIENCE.toMillis());
            playwright = Playwright.create(
                    new Playwright.CreateOptions().setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
            // pages that live for seconds are cheaper without the compilers that optimize
            browser = launch("--js-flags=--max-opt=1");
        }
        return browser;
    }

    private static Browser launch(String... more) {
        List<String> arguments =
                new ArrayList<>(List.of("--no-sandbox", "--disable-gpu", "--disable-background-networking"));
        arguments.addAll(List.of(more));
        return playwright
                .chromium()
                .launch(new BrowserType.LaunchOptions()
                        .setExecutablePath(Path.of("/usr/bin/chromium-headless-shell"))
                        .setArgs(arguments));
    }

    /** A page in a browser that compiles scripts as people's does, for what is measured. Whoever opens it closes its browser. */
    static Page measured() {
        browser();
        return launch().newContext(options()).newPage();
    }

    /**
     * A page for somebody who comes for one test and must {@link #leave}. The scripts that were read for the one before need not be read again;
     * nothing else of them is there.
     */
    static Page guest() {
        if (guest == null) {
            guest = person();
        }
        return guest.newPage();
    }

    /** Closes a guest's pages, and forgets what they left with a service. */
    static void leave(Page page, RunningService service) {
        JsonObject left = new JsonObject();
        left.addProperty("origin", service.address());
        left.addProperty("storageTypes", "cookies,local_storage,indexeddb");
        guest.newCDPSession(page).send("Storage.clearDataForOrigin", left);
        guest.pages().forEach(Page::close);
        guest.clearCookies();
        guest.clearPermissions();
    }

    /** Lets them in who are shown, without the page to sign in, which has tests of its own. */
    static void signIn(Page page, RunningService service, Map<String, String> shown) throws Exception {
        HttpResponse<String> opened = new Callers(service).signIn(shown);
        for (String cookie : Callers.cookies(opened)) {
            int value = cookie.indexOf('=') + 1;
            page.context()
                    .addCookies(List.of(new Cookie(cookie.substring(0, value - 1), cookie.substring(value))
                            .setUrl(service.address())));
        }
    }

    /** Lets the administrator in. */
    static void signIn(Page page, RunningService service) throws Exception {
        signIn(
                page,
                service,
                Map.of(
                        "code",
                        RunningService.json(service.post("/desk/sign-in-codes", Map.of()))
                                .path("code")
                                .asString()));
    }

    /** A browser of somebody's own, who asks for no movement: what moves while it is clicked loses clicks on a busy machine. */
    static BrowserContext person() {
        return person(options -> {});
    }

    static BrowserContext person(Consumer<Browser.NewContextOptions> more) {
        Browser.NewContextOptions options = options();
        more.accept(options);
        return browser().newContext(options);
    }

    private static Browser.NewContextOptions options() {
        return new Browser.NewContextOptions().setViewportSize(1280, 800).setReducedMotion(ReducedMotion.REDUCE);
    }
}
