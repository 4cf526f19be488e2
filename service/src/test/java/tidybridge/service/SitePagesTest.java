package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.ColorScheme;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** The pages of client teams in Debian's Chromium, with the demo's modules. */
class SitePagesTest {

    private static final List<String> PAGES = List.of(
            "/directory",
            "/directory?q=nightly+rate",
            "/reference/moorings/v1",
            "/reference/moorings/v1?q=berth",
            "/reference/moorings/v1/getBerths",
            "/reference/moorings/v1/patchBookingsByBookingId",
            "/reference/moorings/v1/guides/book-a-berth",
            "/problems/conflict",
            "/problems/bad-input",
            "/calls",
            "/calls?id=unknown",
            "/reference/none/v1");

    private static RunningService service;
    private static String axe;

    private final List<String> errors = new ArrayList<>();
    private BrowserContext context;
    private Page page;

    @BeforeAll
    static void start() throws Exception {
        service = SharedService.get();
        service.publishDemo();
        axe = Files.readString(Path.of("..", "console", "node_modules", "axe-core", "axe.min.js"));
    }

    @BeforeEach
    void open() {
        context = Chromium.person(options -> options.setBypassCSP(true));
        page = context.newPage();
        page.onPageError(errors::add);
    }

    @AfterEach
    void close() {
        context.close();
        assertThat(errors).isEmpty();
    }

    private void visit(String path) {
        page.navigate(service.address() + path);
    }

    /** The rules of axe: contrast, names, headings, landmarks and what else readers of a screen need. */
    @ParameterizedTest
    @EnumSource(
            value = ColorScheme.class,
            names = {"LIGHT", "DARK"})
    void everyPageCanBeReadByEverybody(ColorScheme scheme) {
        page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(scheme));
        for (String path : PAGES) {
            visit(path);
            assertThat(page.locator("h1").textContent().equals("No such module"))
                    .as(path)
                    .isEqualTo(path.contains("none"));
            page.evaluate(axe);
            Object violations = page.evaluate("""
                    async () => (await axe.run()).violations
                        .map((rule) => rule.id + ": " + rule.nodes.map((node) => node.html).join(" "))""");
            assertThat((List<?>) violations).as(path).isEmpty();
        }
    }

    @Test
    void nothingStandsBeyondTheEdgeOfAPhone() {
        page.setViewportSize(360, 740);
        for (String path : PAGES) {
            visit(path);
            assertThat(page.evaluate("document.documentElement.scrollWidth"))
                    .as(path)
                    .isEqualTo(360);
        }
    }

    @Test
    void aFieldIsFoundUnderstoodAndCopied() {
        visit("/");
        page.keyboard().press("/");
        page.keyboard().type("nightly rate");
        page.keyboard().press("Enter");
        page.locator(".hits a", new Page.LocatorOptions().setHasText("GET /berths/{berthId}"))
                .click();
        assertThat(page.url()).endsWith("/reference/moorings/v1/getBerthsByBerthId#field-nightly_rate");
        assertThat(page.locator("tr:target"))
                .satisfies(row -> assertThat(row.textContent()).contains("nightly_rate", "number"));
        context.grantPermissions(List.of("clipboard-read", "clipboard-write"));
        page.locator(".copy-button").first().click();
        page.locator("text=Copied").waitFor();
        assertThat(page.evaluate("navigator.clipboard.readText()"))
                .isEqualTo("curl '" + service.address() + "/api/moorings/v1/berths/17'");
    }

    @Test
    void theAppearanceThatWasChosenStays() {
        visit("/directory");
        Locator choice = page.locator("button.appearance");
        assertThat(choice.getAttribute("aria-label")).isEqualTo("Use the dark appearance");
        String light = background();
        choice.click();
        assertThat(background()).isNotEqualTo(light);
        visit("/reference/moorings/v1");
        assertThat(page.locator("button.appearance").getAttribute("aria-label")).isEqualTo("Use the light appearance");
    }

    private String background() {
        return String.valueOf(page.evaluate("getComputedStyle(document.body).backgroundColor"));
    }

    @Test
    void theTextIsWholeWithoutScripts() {
        try (BrowserContext plain = Chromium.person(options -> options.setJavaScriptEnabled(false))) {
            Page text = plain.newPage();
            text.navigate(service.address() + "/reference/moorings/v1/patchBookingsByBookingId");
            assertThat(text.locator("main").innerText())
                    .contains(
                            "Change the nights, the state or the note of a booking",
                            "moorings.book",
                            "If-Match",
                            "up to 400 characters",
                            "Shown as its first letter and its domain, but to holders of moorings.contacts as it is.",
                            "412",
                            "Changed in the meantime");
            text.locator("input[name=q]").first().fill("depth");
            text.locator(".search button").click();
            assertThat(text.locator("main").innerText()).contains("depth_m");
        }
    }

    private Locator answer() {
        return page.locator(".try .answer");
    }

    private void awaitAnswer(String text) {
        PlaywrightAssertions.assertThat(answer()).containsText(text);
    }

    @Test
    void aCallIsTriedByAnybodyAndGoesOnToTheNextPage() {
        visit("/reference/moorings/v1/getBerths");
        page.locator(".try summary").first().click();
        page.locator("input[name=limit]").fill("2");
        page.locator("input[name='nightly_rate[lte]']").fill("20.50");
        page.locator("button.call").click();
        awaitAnswer("200, after");
        String first = answer().locator("pre").innerText();
        assertThat(first).contains("\"nightly_rate\": 1").contains("\"limit\": 2");
        answer().getByText("Next page").click();
        page.waitForFunction("(before) => document.querySelector('.answer pre').innerText !== before", first);
        assertThat(answer().locator("pre").innerText()).contains("\"limit\": 2").isNotEqualTo(first);
        page.locator("input[name=from]").fill("soon");
        page.locator("button.call").click();
        awaitAnswer("400");
        awaitAnswer("\"parameter\": \"from\"");
    }

    @Test
    void aChangeIsAskedForFirstAndSendsTheStateThatWasRead() throws Exception {
        Callers callers = new Callers(service);
        String key = callers.key(callers.client(callers.role("moorings.book")), "first");
        visit("/reference/moorings/v1/getBookingsByBookingId");
        page.locator("input[name=bookingId]").fill("321");
        page.locator("button.call").click();
        awaitAnswer("401");
        page.locator(".credential").fill(key);
        page.locator("button.call").click();
        awaitAnswer("200, after");
        page.locator(".answer summary").click();
        awaitAnswer("etag");
        visit("/reference/moorings/v1/patchBookingsByBookingId");
        page.locator("input[name=bookingId]").fill("321");
        assertThat(page.locator("input[name=If-Match]").inputValue())
                .as("what was read last")
                .startsWith("\"");
        page.locator(".try textarea").fill("{\"note\":\"tried from the page\"}");
        page.locator("button.call").click();
        page.locator("dialog button[value=leave]").click();
        assertThat(answer().isVisible()).as("nothing was called").isFalse();
        page.locator("button.call").click();
        page.locator("dialog button[value=change]").click();
        awaitAnswer("200, after");
        awaitAnswer("tried from the page");
        page.locator("input[name=If-Match]").fill("\"another\"");
        page.locator("button.call").click();
        page.locator("dialog button[value=change]").click();
        awaitAnswer("412");
    }

    @Test
    void whoeverMayRehearsesAChangeInPlaceOfMakingIt() throws Exception {
        Callers callers = new Callers(service);
        String person =
                callers.person("nine locks and a lantern", callers.role("moorings.book", "tidy.rehearse", "tidy.try"));
        visit("/sign-in");
        page.getByLabel("Name").fill(person);
        page.getByLabel("Password").fill("nine locks and a lantern");
        page.getByText("Sign in", new Page.GetByTextOptions().setExact(true))
                .last()
                .click();
        page.waitForURL("**/modules");
        visit("/reference/moorings/v1/postBookings");
        assertThat(page.locator(".who").innerText()).isEqualTo(person);
        page.locator("button.call").click();
        page.locator("dialog button[value=rehearse]").click();
        awaitAnswer("Rehearsed, and undone");
        awaitAnswer("would be inserted");
    }
}
