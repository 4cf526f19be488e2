package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.ColorScheme;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;

/** A client team's own pages, and the owner's answer in the console, in Debian's Chromium. */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class TeamPagesTest {

    private static final String PASSWORD = "lantern-44-of-the-quay";

    private static RunningService service;
    private static Callers callers;
    private static BrowserContext member;
    private static String axe;
    private static String team;
    private static String application;
    private static String key;

    private final List<String> errors = new ArrayList<>();
    private Page page;

    @BeforeAll
    static void start() throws Exception {
        service = SharedService.get();
        service.publishDemo();
        callers = new Callers(service);
        team = Callers.fresh("harbour-apps");
        application = Callers.fresh("quay-board");
        axe = Files.readString(Path.of("..", "console", "node_modules", "axe-core", "axe.min.js"));
        member = Chromium.person(options -> options.setBypassCSP(true));
    }

    @AfterAll
    static void stop() throws Exception {
        callers.desk("DELETE", "/desk/teams/" + team, null);
        member.close();
    }

    @BeforeEach
    void open() {
        page = member.newPage();
        page.onPageError(errors::add);
    }

    @AfterEach
    void close() {
        page.close();
        assertThat(errors).isEmpty();
    }

    private void visit(String path) {
        page.navigate(service.address() + path);
    }

    @Test
    @Order(1)
    void somebodyJoinsAndMakesAnApplicationWithAKey() throws Exception {
        callers.desk("PUT", "/desk/teams/" + team, Map.of("title", "Harbour apps", "contact", "a@marrowby.example"));
        HttpResponse<String> invitation = callers.desk("POST", "/desk/teams/" + team + "/invitations", Map.of());
        page.navigate(RunningService.json(invitation).path("link").asString());
        assertThat(page.locator("h1").textContent()).isEqualTo("Join Harbour apps");
        page.locator("input[name=full-name]").fill("Ida Lind");
        page.locator("input[name=name]").fill(Callers.fresh("ida.lind"));
        page.locator("input[name=password]").fill("password12");
        page.locator("button.main").click();
        assertThat(page.locator("[role=alert]").textContent()).contains("password");
        assertThat(page.locator("input[name=full-name]").inputValue()).isEqualTo("Ida Lind");
        page.locator("input[name=password]").fill(PASSWORD);
        page.locator("button.main").click();
        page.locator("h1:text-is('Harbour apps')").waitFor();
        page.locator("input[name=application]").fill(application);
        page.locator("form[action='/team/applications'] button").click();
        page.locator("h1:text-is('" + application + "')").waitFor();
        page.locator("input[name=credential]").fill("first");
        page.locator("form[action$='/credentials'] button").click();
        key = Member.key(page.locator(".notice pre code").first().textContent());
    }

    @Test
    @Order(2)
    void anOperationLeadsToTheFormAndTheOwnerAllowsIt() throws Exception {
        visit("/reference/moorings/v1/postBookings");
        page.locator("a:text-is('Ask for access')").click();
        page.locator("textarea").fill("Skippers book at the board.");
        assertThat(page.locator("input[value='moorings.book']").isChecked()).isTrue();
        page.locator("button.main").click();
        page.locator(".state.waiting").waitFor();

        try (BrowserContext owner = Chromium.person()) {
            Page console = owner.newPage();
            HttpResponse<String> link = callers.desk("POST", "/desk/sign-in-codes", Map.of());
            console.navigate(
                    service.address() + RunningService.json(link).path("path").asString());
            console.locator("nav a:has-text('Requests') .ant-badge-count").waitFor();
            console.locator("nav a:has-text('Requests')").click();
            console.locator(".ant-card:has-text('" + application + "') button:has-text('Allow')")
                    .click();
            console.locator(".ant-modal input[type=date]").fill("2099-12-31");
            console.locator(".ant-modal textarea").fill("For the season");
            console.locator(".ant-modal button:has-text('Allow')").click();
            console.locator(".ant-modal:has-text('No mail server is set')").waitFor();
            console.locator(".ant-modal-close").last().click();
            console.locator(".ant-card:has-text('the last day is 2099-12-31'):has-text('" + application + "')")
                    .waitFor();
            console.navigate(service.address() + "/access/clients/" + application);
            console.locator(".ant-card:has-text('Given on request'):has-text('moorings.book')")
                    .waitFor();
        }
        page.reload();
        assertThat(page.locator("main").innerText())
                .contains("allowed until the end of 31 December 2099", "For the season");
        assertThat(service.send("GET", "/api/moorings/v1/bookings?limit=1", "", "Authorization", "Bearer " + key)
                        .statusCode())
                .isEqualTo(200);
    }

    @Test
    @Order(3)
    void everyPageCanBeReadByEverybodyAndFitsAPhone() throws Exception {
        HttpResponse<String> invitation = callers.desk("POST", "/desk/teams/" + team + "/invitations", Map.of());
        String join = RunningService.json(invitation).path("link").asString().replace(service.address(), "");
        for (String path : List.of(
                "/team",
                "/team/applications/" + application,
                "/team/ask?module=moorings/v1",
                "/team/sign-in",
                "/team/join",
                join)) {
            for (ColorScheme scheme : List.of(ColorScheme.LIGHT, ColorScheme.DARK)) {
                page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(scheme));
                visit(path);
                page.evaluate("() => document.querySelectorAll('details').forEach((one) => (one.open = true))");
                page.evaluate(axe);
                Object violations = page.evaluate("""
                        async () => (await axe.run()).violations
                            .map((rule) => rule.id + ": " + rule.nodes.map((node) => node.html).join(" "))""");
                assertThat((List<?>) violations).as(path).isEmpty();
            }
            page.setViewportSize(360, 740);
            assertThat(page.evaluate("document.documentElement.scrollWidth"))
                    .as(path)
                    .isEqualTo(360);
            page.setViewportSize(1280, 800);
        }
    }

    /** A link in a mail is opened from another site, with which the browser sends no cookie at first. */
    @Test
    @Order(4)
    void aLinkFromElsewhereFindsWhoeverIsSignedIn() {
        page.route(
                "http://mail.example/",
                route -> route.fulfill(new Route.FulfillOptions()
                        .setContentType("text/html")
                        .setBody("<a href='" + service.address() + "/team'>Your team</a>")));
        page.navigate("http://mail.example/");
        page.locator("a").click();
        page.locator("h1:text-is('Harbour apps')").waitFor();
    }

    @Test
    @Order(5)
    void aKeyIsRevokedOnlyByItsName() throws Exception {
        visit("/team/applications/" + application);
        page.locator("summary:text-is('Revoke')").click();
        page.locator("form[action$='/revoke'] input").fill("second");
        page.locator("form[action$='/revoke'] button").click();
        assertThat(page.locator("[role=alert]").textContent()).contains("Nothing was removed");
        page.locator("summary:text-is('Revoke')").click();
        page.locator("form[action$='/revoke'] input").fill("first");
        page.locator("form[action$='/revoke'] button").click();
        page.locator("text=It has none yet").waitFor();
        assertThat(service.send("GET", "/api/moorings/v1/bookings?limit=1", "", "Authorization", "Bearer " + key)
                        .statusCode())
                .isEqualTo(401);
    }
}
