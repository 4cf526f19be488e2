package tidybridge.service;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.eatthepath.otp.TimeBasedOneTimePasswordGenerator;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import javax.crypto.spec.SecretKeySpec;
import org.apache.commons.codec.binary.Base32;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Signing in by name, the own account, and giving access, in Debian's Chromium. */
class ConsoleAccessTest {

    private static final String PASSWORD = "seven herons on a lock beam";
    private static final String OTHER = "ochre paint dries slowly in May";

    private static final String TOLL = "/api/tolls/v1/vessels/MW-10000/locks/3/toll";

    private static RunningService service;
    private static Callers callers;

    private final List<String> pageErrors = new ArrayList<>();
    private Page page;

    @BeforeAll
    static void start() throws Exception {
        service = SharedService.get();
        service.publishDemo();
        callers = new Callers(service);
    }

    @BeforeEach
    void open() {
        page = Chromium.guest();
        page.onPageError(pageErrors::add);
    }

    @AfterEach
    void close() {
        Chromium.leave(page, service);
        assertThat(pageErrors).isEmpty();
    }

    private Locator button(String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    private Locator row(String text) {
        return page.locator("tr.ant-table-row", new Page.LocatorOptions().setHasText(text));
    }

    private void signIn(String name, String password) {
        page.navigate(service.address() + "/sign-in");
        page.getByLabel("Name").fill(name);
        page.getByLabel("Password").fill(password);
        button("Sign in").click();
    }

    private void signInAsAdministrator() throws Exception {
        String name = callers.person(PASSWORD, "administrator");
        Chromium.signIn(page, service, Map.of("name", name, "password", PASSWORD));
    }

    @Test
    void aPersonOpensTheirLinkAndChoosesAPassword() throws Exception {
        signInAsAdministrator();
        String name = Callers.fresh("mara.holt");
        page.navigate(service.address() + "/access?show=people");
        button("New person").click();
        page.getByLabel("Name to sign in with").fill(name);
        page.getByLabel("Full name").fill("Mara Holt");
        page.getByLabel("Roles").fill("reviewer");
        page.keyboard().press("Enter");
        page.keyboard().press("Escape");
        button("Save").click();
        assertThat(row(name)).containsText("no password yet");
        assertThat(row(name)).containsText("reviewer");
        row(name).getByText("More").click();
        page.getByText("Link to choose a password").click();
        String link = page.locator(".ant-modal code").textContent();
        try (BrowserContext hers = Chromium.person()) {
            Page her = hers.newPage();
            her.navigate(link);
            assertThat(her.getByRole(AriaRole.HEADING)).hasText("Choose a password, " + name);
            her.getByLabel("New password").fill("MaraHolt12");
            her.getByLabel("Once more").fill(PASSWORD);
            her.getByText("Choose it").click();
            assertThat(her.getByText("The two are not the same.")).isVisible();
            her.getByLabel("Once more").fill("MaraHolt12");
            her.getByText("Choose it").click();
            assertThat(her.getByRole(AriaRole.ALERT).first()).containsText("among the first");
            her.getByLabel("New password").fill(PASSWORD);
            her.getByLabel("Once more").fill(PASSWORD);
            her.getByText("Choose it").click();
            her.waitForURL("**/modules");
            her.navigate(service.address() + "/access?show=people");
            assertThat(her.getByRole(AriaRole.ALERT).first()).containsText("'tidy.give-access'");
        }
    }

    @Test
    void aWrongPasswordIsToldAndASecondFactorIsAskedFor() throws Exception {
        String name = callers.person(PASSWORD);
        signIn(name, OTHER);
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("Name or password is wrong.");
        page.getByLabel("Password").fill(PASSWORD);
        button("Sign in").click();
        page.waitForURL("**/modules");
        page.navigate(service.address() + "/account");
        button("Set one up").click();
        String secret = page.locator(".factor code").textContent();
        assertThat(page.locator(".factor .ant-qrcode")).isVisible();
        page.getByLabel("Code it shows").fill(code(secret, Instant.now()));
        page.locator(".factor").getByLabel("Password").fill(PASSWORD);
        button("Use it from now on").click();
        assertThat(button("Sign in without it")).isVisible();
        button("Sign out").click();
        page.waitForURL("**/sign-in");
        signIn(name, PASSWORD);
        page.getByLabel("Code of your authenticator").fill("000000");
        button("Sign in").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("wrong or was used before");
        page.getByLabel("Code of your authenticator")
                .fill(code(secret, Instant.now().plus(Duration.ofSeconds(30))));
        button("Sign in").click();
        page.waitForURL("**/modules");
    }

    private static String code(String secret, Instant at) throws Exception {
        return new TimeBasedOneTimePasswordGenerator()
                .generateOneTimePasswordString(new SecretKeySpec(new Base32().decode(secret), "HmacSHA1"), at);
    }

    @Test
    void thePasswordIsChangedAndOtherSessionsAreEnded() throws Exception {
        String name = callers.person(PASSWORD, "operator");
        String other = callers.token(name, PASSWORD);
        signIn(name, PASSWORD);
        page.waitForURL("**/modules");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Account"))
                .click();
        assertThat(page.getByText("tidy.operate")).isVisible();
        assertThat(row("a command line")).hasCount(1);
        row("a command line").getByText("End").click();
        assertThat(row("a command line")).hasCount(0);
        assertThat(service.send("GET", "/desk/account", "", "Authorization", "Bearer " + other)
                        .statusCode())
                .isEqualTo(401);
        page.getByLabel("Present password").fill(PASSWORD);
        page.getByLabel("New password").fill(OTHER);
        page.getByLabel("Once more").fill(OTHER);
        button("Change it").click();
        assertThat(page.getByText("The password is changed.")).isVisible();
        assertThat(callers.signIn(Map.of("name", name, "password", OTHER)).statusCode())
                .isEqualTo(204);
    }

    @Test
    void anApplicationGetsAKeyThatWorksUntilItIsRevoked() throws Exception {
        signInAsAdministrator();
        String name = Callers.fresh("quay-display");
        page.navigate(service.address() + "/modules");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Access"))
                .click();
        button("New application").click();
        page.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill(name);
        page.getByLabel("Owner").fill("Harbour office");
        button("Save").click();
        assertThat(page.getByText("Where is somebody told")).isVisible();
        page.getByLabel("Contact").fill("quays@marrowby.example");
        page.getByLabel("Roles").fill("toll-clerk");
        page.keyboard().press("Enter");
        page.keyboard().press("Escape");
        button("Save").click();
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(name)).click();
        assertThat(page.getByText("It has no key yet")).isVisible();
        button("New key").click();
        page.getByLabel("Name").fill("spring-2031");
        page.getByLabel("Last day, in UTC").fill("2099-09-30");
        button("Save").click();
        String key = page.locator(".ant-modal code").first().textContent();
        assertThat(service.send("GET", TOLL, "", "Authorization", "Bearer " + key)
                        .statusCode())
                .isEqualTo(200);
        page.keyboard().press("Escape");
        assertThat(row("spring-2031")).isVisible();
        row("spring-2031").getByText("Revoke").click();
        page.locator(".ant-popover")
                .getByText("Revoke", new Locator.GetByTextOptions().setExact(true))
                .click();
        assertThat(row("spring-2031")).hasCount(0);
        assertThat(service.send("GET", TOLL, "", "Authorization", "Bearer " + key)
                        .statusCode())
                .isEqualTo(401);
    }

    @Test
    void rolesAreMadeAndTheirOperationsShown() throws Exception {
        signInAsAdministrator();
        String name = Callers.fresh("quay-clerk");
        page.navigate(service.address() + "/access?show=roles");
        assertThat(row("administrator").first()).containsText("every service");
        assertThat(row("toll-clerk").first()).containsText("Demo");
        button("New role").click();
        page.getByLabel("Name").fill(name);
        page.getByLabel("Holds").fill("tolls.*");
        page.keyboard().press("Enter");
        button("Save").click();
        assertThat(row(name)).containsText("made here");
        page.navigate(service.address() + "/access?show=operations&module=tolls/v1");
        Locator toll = row("/vessels/{registration}/locks/{lockId}/toll");
        assertThat(toll).containsText("needs tolls.read");
        assertThat(toll.getByLabel("yes, by tolls.read")).hasCount(holders());
        page.navigate(service.address() + "/access?show=roles");
        row(name).getByText("Remove").click();
        page.locator(".ant-popover")
                .getByText("Remove", new Locator.GetByTextOptions().setExact(true))
                .click();
        assertThat(row(name)).hasCount(0);
    }

    @Test
    void anApplicationIsGivenAQuotaThatCounts() throws Exception {
        signInAsAdministrator();
        String name = callers.client("toll-clerk");
        page.navigate(service.address() + "/access/clients/" + name);
        button("Change").click();
        page.getByLabel("Calls in a window").fill("2");
        page.getByLabel("Seconds of a window").fill("86400");
        button("Save").click();
        assertThat(page.getByText("2 calls in 86400 s")).isVisible();
        String key = callers.key(name, "first");
        for (int status : List.of(200, 200, 429)) {
            assertThat(service.send("GET", TOLL, "", "Authorization", "Bearer " + key)
                            .statusCode())
                    .isEqualTo(status);
        }
    }

    @Test
    void anOperationTellsWhoMayCallItAndWhy() throws Exception {
        signInAsAdministrator();
        String clerk = callers.client("toll-clerk");
        String stranger = callers.client("lock-keeper");
        page.navigate(service.address() + "/access?show=operations&module=tolls/v1");
        row("/vessels/{registration}/locks/{lockId}/toll")
                .getByTitle("Who may call it, and why")
                .click();
        Locator drawer = page.locator(".ant-drawer");
        assertThat(drawer).containsText("tolls.read");
        assertThat(drawer.locator("tr.ant-table-row", new Locator.LocatorOptions().setHasText(clerk)))
                .containsText("toll-clerk");
        Locator answer = drawer.getByRole(AriaRole.STATUS);
        drawer.getByLabel("Name").fill(stranger);
        drawer.getByText("Explain").click();
        assertThat(answer).containsText("No.");
        assertThat(answer.getByLabel("no", new Locator.GetByLabelOptions().setExact(true))
                        .first())
                .isVisible();
        drawer.getByLabel("Name").fill(clerk);
        drawer.getByText("Explain").click();
        assertThat(answer).containsText("has no key that is valid");
        callers.key(clerk, "first");
        drawer.getByText("Explain").click();
        assertThat(answer).containsText("Yes.");
        drawer.getByLabel("Name").fill("nobody-of-that-name");
        drawer.getByText("Explain").click();
        assertThat(drawer.getByRole(AriaRole.ALERT)).containsText("nobody-of-that-name");
    }

    @Test
    void aRefusedCallIsFoundByItsId() throws Exception {
        signInAsAdministrator();
        String client = callers.client("lock-keeper");
        HttpResponse<String> refused =
                service.send("GET", TOLL, "", "Authorization", "Bearer " + callers.key(client, "first"));
        assertThat(refused.statusCode()).isEqualTo(403);
        String id = refused.headers().firstValue("X-Request-Id").orElseThrow();
        page.navigate(service.address() + "/access?show=refused");
        page.getByLabel("Request id").fill(id);
        button("Find").click();
        Locator calls = page.locator("tr.ant-table-row");
        assertThat(calls).hasCount(1);
        assertThat(calls).containsText(client);
        assertThat(calls).containsText("'tolls.read'");
    }

    @Test
    void theAuditTrailIsSearchedAndTakenAway() throws Exception {
        signInAsAdministrator();
        String role = callers.role("tolls.read");
        page.navigate(service.address() + "/access?show=audit");
        page.getByLabel("Action").fill("set-role");
        page.getByLabel("Text").fill(role);
        button("Find").click();
        assertThat(row(role)).hasCount(1);
        row(role).getByLabel("Expand row").click();
        assertThat(page.locator(".ant-table-expanded-row")).containsText("\"tolls.read\"");
        Download file = page.waitForDownload(() -> page.getByText("CSV").click());
        assertThat(file.suggestedFilename()).isEqualTo("audit.csv");
        assertThat(Files.readAllLines(file.path()))
                .hasSizeGreaterThan(1)
                .allSatisfy(line -> assertThat(line).containsAnyOf("subject", role));
    }

    /** How many roles that are not the service's own hold {@code tolls.read}. */
    private static int holders() throws Exception {
        return (int) RunningService.json(service.desk("/desk/roles"))
                .path("roles")
                .valueStream()
                .filter(role -> !role.path("from").asString().equals("service"))
                .filter(role -> role.path("holds")
                        .valueStream()
                        .anyMatch(held -> held.asString().equals("tolls.read")
                                || held.asString().equals("tolls.*")))
                .count();
    }

    /** Somebody asks on the command line; another person reads, approves and publishes in the console. */
    @Test
    void aReviewIsReadApprovedAndPublished() throws Exception {
        String name = Callers.fresh("weirs");
        Map<String, String> files =
                Map.of("weirs.sql", "select id, berth_no from berth", "module.yaml", """
                module: %s
                version: 1.0.0
                title: Weirs
                source: waterways
                review: true
                public: true
                accept: { open-to-everybody: a test }
                routes:
                  /weirs:
                    get: { about: Weirs, sql: weirs.sql, answer: rows, order: [id] }
                """.formatted(name));
        callers.desk(
                "POST",
                "/desk/reviews",
                Map.of("note", "Weirs for boaters", "modules", List.of(Map.of("folder", name, "files", files))));
        signInAsAdministrator();
        page.navigate(service.address() + "/modules");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Reviews"))
                .click();
        assertThat(row(name)).containsText("Weirs for boaters");
        assertThat(row(name)).containsText("waits");
        row(name).getByRole(AriaRole.LINK).click();
        assertThat(page.getByLabel("weirs.sql")).containsText("select id, berth_no from berth");
        button("Decline").click();
        button("Save").click();
        assertThat(page.getByText("Say why; its author reads it.")).isVisible();
        button("Cancel").click();
        button("Approve").click();
        page.getByLabel("Words").fill("Read and tried");
        button("Save").click();
        assertThat(page.getByText("Read and tried")).isVisible();
        button("Publish").click();
        assertThat(page.locator(".page-head")).containsText("published");
        assertThat(page.request().get(service.address() + "/api/" + name + "/v1/weirs?limit=1"))
                .isOK();
    }
}
