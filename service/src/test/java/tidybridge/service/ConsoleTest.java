package tidybridge.service;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.TimeoutError;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.LoadState;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;

/** The console in Debian's Chromium. */
class ConsoleTest {

    /** The card with what came back. */
    private static final String ANSWER = ".ant-card:has([role=status])";

    private static RunningService service;

    private final List<String> pageErrors = new ArrayList<>();
    private Page page;

    @BeforeAll
    static void start() throws Exception {
        service = RunningService.fresh();
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    @BeforeEach
    void open() throws Exception {
        service.publishDemo();
        page = Chromium.guest();
        page.onPageError(pageErrors::add);
    }

    @AfterEach
    void close() {
        Chromium.leave(page, service);
        assertThat(pageErrors).isEmpty();
    }

    private void signIn() throws Exception {
        Chromium.signIn(page, service);
    }

    private void openModules() throws Exception {
        signIn();
        page.navigate(service.address() + "/modules");
    }

    private Locator button(String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    private void openOperation(String name) {
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(name)).click();
    }

    @Test
    void withoutASessionEveryPageLeadsToTheSignIn() {
        page.navigate(service.address() + "/modules");
        page.waitForURL("**/sign-in");
        button("Use the administrator's token").click();
        page.getByLabel("Administrator's token").fill("guess");
        button("Sign in").click();
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("This is not the administrator's token");
    }

    @Test
    void theTokenSignsIn() throws Exception {
        page.navigate(service.address() + "/sign-in");
        button("Use the administrator's token").click();
        page.getByLabel("Administrator's token").fill(service.token());
        page.keyboard().press("Enter");
        page.waitForURL("**/modules");
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Live modules")))
                .isVisible();
        button("Sign out").click();
        page.waitForURL("**/sign-in");
        page.navigate(service.address() + "/modules");
        page.waitForURL("**/sign-in");
    }

    @Test
    void aLinkLeadsToModulesWithVersionsAndOperations() throws Exception {
        String code = RunningService.json(service.post("/desk/sign-in-codes", Map.of()))
                .path("code")
                .asString();
        page.navigate(service.address() + "/sign-in#" + code);
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Berths and bookings")))
                .isVisible();
        assertThat(page.locator(".module")).hasCount(3);
        assertThat(page.locator(".module").first()).containsText("partly open");
        assertThat(page.locator(".module").last()).containsText("needs tolls.read");
        assertThat(page.locator(".operations a")).hasCount(16);
    }

    @Test
    void anOperationIsShownAndCalled() throws Exception {
        openModules();
        openOperation("GET /berths Berths free for a whole stay");
        assertThat(page.locator(".cm-content")).containsText("-- when :basin");
        assertThat(page.locator("table").last()).containsText("length_m");
        button("Call").click();
        Locator status = page.getByRole(AriaRole.STATUS);
        assertThat(status).containsText("200");
        assertThat(status).containsText("25 rows");
        assertThat(page.locator(".curl"))
                .hasText("curl '" + service.address() + "/api/moorings/v1/berths?from=2031-05-01&until=2031-05-04'");
        assertThat(page.locator(".ant-table-tbody .ant-table-row").first()).containsText("Alder Basin");
        page.getByRole(AriaRole.TAB, new Page.GetByRoleOptions().setName("Header fields"))
                .click();
        assertThat(page.locator(".headers")).containsText("application/json");
    }

    @Test
    void rowsAreFilteredAndSorted() throws Exception {
        openModules();
        openOperation("GET /berths Berths free for a whole stay");
        page.getByLabel("Conditions").click();
        page.getByText("nightly_rate ≤").click();
        page.keyboard().press("Escape");
        page.getByLabel("nightly_rate[lte]").fill("twenty");
        button("Call").click();
        assertThat(page.locator(".ant-form-item-explain-error")).containsText("must be a number such as 12 or 0.5");
        page.getByLabel("nightly_rate[lte]").fill("20");
        button("Call").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("200");
        Locator head = page.locator(ANSWER + " th:has-text('nightly_rate')");
        head.click();
        assertThat(page.locator(".curl")).containsText("sort=nightly_rate&nightly_rate%5Blte%5D=20");
        head.click();
        assertThat(page.locator(".curl")).containsText("sort=-nightly_rate&nightly_rate%5Blte%5D=20");
        assertThat(head).hasAttribute("aria-sort", "descending");
    }

    @Test
    void fieldsAreChosenAndRowsCountedAndSaved() throws Exception {
        openModules();
        openOperation("GET /passages Passages, the latest first");
        page.getByLabel("Fields", new Page.GetByLabelOptions().setExact(true)).click();
        page.keyboard().type("passed_at");
        page.keyboard().press("Enter");
        page.keyboard().press("Escape");
        page.getByLabel("total").click();
        page.keyboard().press("Enter");
        page.getByLabel("last").click();
        page.keyboard().press("Enter");
        button("Call").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("rows of");
        assertThat(page.locator(ANSWER + " th")).hasText("passed_at");
        assertThat(button("Next page")).isHidden();
        button("Page before").click();
        assertThat(button("Next page")).isEnabled();
        button("Download").click();
        Download saved = page.waitForDownload(
                () -> page.getByText("This page as CSV", new Page.GetByTextOptions().setExact(true))
                        .click());
        assertThat(saved.suggestedFilename()).isEqualTo("passages.csv");
        assertThat(Files.readAllLines(saved.path())).hasSize(51).first().isEqualTo("passed_at");
        assertThat(page.getByText("All rows as spreadsheet"))
                .hasAttribute("href", Pattern.compile(".*limit=all&format=xlsx"));
    }

    @Test
    void theNextPageIsOneStepAway() throws Exception {
        openModules();
        openOperation("GET /passages Passages, the latest first");
        page.getByLabel("limit").fill("10");
        button("Call").click();
        String first = page.locator(".ant-table-row").first().innerText();
        button("Next page").click();
        assertThat(page.getByText("page 2")).isVisible();
        assertThat(page.locator(".ant-table-row").first()).not().containsText(first.split("\\s")[0]);
    }

    @Test
    void aChangeIsRehearsedBeforeItIsMade() throws Exception {
        openModules();
        openOperation("PATCH /bookings/{bookingId} Change the nights, the state or the note of a booking");
        assertThat(page.getByText("2 statements, one transaction")).isVisible();
        assertThat(button("Call for real")).isVisible();
        page.getByLabel("If-Match").fill("*");
        page.getByLabel("/note").fill("Two bicycles");
        button("Rehearse").click();
        assertThat(page.getByRole(AriaRole.STATUS).first()).containsText("rolled back");
        assertThat(page.locator(".changes")).containsText("booking: 1 changed");
        assertThat(page.locator(".changes .ant-table-row", new Page.LocatorOptions().setHasText("note")))
                .containsText("Two bicycles");
        assertThat(page.locator(".curl")).containsText("curl -X PATCH -H 'If-Match: *'");
        assertThat(tidybridge.demo.TestDatabase.column("select count(*) from booking where note = 'Two bicycles'"))
                .containsExactly("0");
        page.getByLabel("/status").click();
        page.getByText("confirmed", new Page.GetByTextOptions().setExact(true))
                .last()
                .click();
        page.getByLabel("If-Match").fill("\"stale\"");
        button("Rehearse").click();
        assertThat(page.getByRole(AriaRole.STATUS).first()).containsText("412");
    }

    @Test
    void releasesAreComparedGoneBackToAndRetired() throws Exception {
        String yaml = """
                module: sluices
                version: 1.0.0
                title: Sluices
                source: waterways
                public: true
                accept: { open-to-everybody: a test }
                routes:
                  /sluices:
                    get: { about: Sluices, sql: sluices.sql, answer: rows, order: [id] }
                """;
        service.publish(yaml, Map.of("sluices.sql", "select id, berth_no from berth"));
        service.publishBreaking(
                yaml.replace("1.0.0", "1.1.0"), Map.of("sluices.sql", "select id from berth"), "numbers were wrong");
        signIn();
        page.navigate(service.address() + "/modules/sluices/releases");
        assertThat(page.getByText("Breaks callers: numbers were wrong")).isVisible();
        assertThat(page.getByLabel("breaking")).containsText("The field 'berth_no' is gone.");
        assertThat(page.getByLabel("sluices.sql").locator(".gone")).containsText("- select id, berth_no from berth");
        assertThat(page.getByLabel("sluices.sql").locator(".come")).containsText("+ select id from berth");
        button("Make live again").click();
        page.getByLabel("Reason").fill("numbers are right");
        button("Save").click();
        assertThat(page.getByRole(AriaRole.CELL, new Page.GetByRoleOptions().setName("1.0.0 live again")))
                .isVisible();
        assertThat(service.get("/api/sluices/v1/sluices?limit=1").body()).contains("berth_no");
        // the dialog before it is gone only when its end was drawn
        assertThat(page.getByRole(AriaRole.DIALOG)).hasCount(0);
        button("Retire").click();
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("Retire sluices/v1");
        button("Save").click();
        assertThat(page.getByText("Say why it goes.")).isVisible();
        page.getByLabel("Reason").fill("the water is low");
        button("Save").click();
        assertThat(page.getByRole(AriaRole.CELL, new Page.GetByRoleOptions().setName("the water is low")))
                .isVisible();
        assertThat(service.get("/api/sluices/v1/sluices").statusCode()).isEqualTo(410);
    }

    @Test
    void modulesAreFoundByAnyWord() throws Exception {
        openModules();
        Locator look = page.getByLabel("Look for");
        look.fill("whole stay");
        assertThat(page.locator(".module")).hasCount(1);
        assertThat(page.locator(".operations a")).hasCount(1);
        assertThat(page.locator(".operations a")).containsText("Berths free for a whole stay");
        look.fill("nothing of the kind");
        assertThat(page.getByText("No module and no operation is so.")).isVisible();
        look.fill("");
        assertThat(page.locator(".operations a")).hasCount(16);
    }

    /** As on a telephone: nothing stands beyond the edge, and no word is cut into letters. */
    @Test
    void aNarrowPageHasNothingBeyondItsEdge() throws Exception {
        signIn();
        for (String address : List.of(
                "/modules",
                "/reviews",
                "/drafts",
                "/nodes",
                "/access",
                "/begin",
                "/modules/moorings/v1",
                "/drafts/moorings/v1/edit?operation=GET%20/berths")) {
            page.setViewportSize(360, 800);
            page.navigate(service.address() + address);
            assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(1))
                            .first())
                    .isVisible();
            page.waitForLoadState(LoadState.NETWORKIDLE);
            for (int width : new int[] {360, 420}) {
                page.setViewportSize(width, 800);
                assertThat((Integer) page.evaluate("document.documentElement.scrollWidth"))
                        .as(address + " at " + width)
                        .isLessThanOrEqualTo(width);
            }
        }
        page.navigate(service.address() + "/modules");
        assertThat(page.locator(".operations a .method-path").first().boundingBox().width)
                .isGreaterThan(80);
    }

    /** Only what is behind the '#' changes then. */
    @Test
    void aLinkIsOpenedWhereTheSignInPageIsShownAlready() throws Exception {
        page.navigate(service.address() + "/sign-in");
        assertThat(page.getByLabel("Password")).isVisible();
        page.evaluate("window.location.hash = '#no-such-code'");
        assertThat(page.getByRole(AriaRole.ALERT).first()).isVisible();
        assertThat(page).hasURL(service.address() + "/sign-in");
    }

    @Test
    void whoeverHasNotBegunHasMadeNoMistake() throws Exception {
        signIn();
        page.clock().install();
        page.navigate(service.address() + "/workbench");
        assertThat(page.locator(".cm-content").first()).isVisible();
        // what is looked at when nobody has typed for a while
        page.clock().runFor(1_500);
        page.waitForLoadState(LoadState.NETWORKIDLE);
        assertThat(page.locator(".cm-lint-marker-error, .findings li")).hasCount(0);
    }

    /** A draft is looked at by its address, gets an earlier text again, and is published. */
    @Test
    void aDraftIsReadRestoredAndPublished() throws Exception {
        String yaml = """
                module: fords
                version: 1.0.0
                title: Fords
                source: waterways
                public: true
                accept: { open-to-everybody: a test }
                routes:
                  /fords:
                    get: { about: Fords, sql: fords.sql, answer: rows, order: [id] }
                """;
        String good = "select id, berth_no from berth";
        saveDraft(yaml, good, "If-None-Match", "*");
        saveDraft(yaml, "select nothing from nowhere", "If-Match", "\"1\"");
        openModules();
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Drafts"))
                .first()
                .click();
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("fords/v1"))
                .click();
        assertThat(page.getByText("It cannot be published as it is")).isVisible();
        button("Restore").click();
        assertThat(page.getByText("1.0.0 would be the first of its name")).isVisible();
        assertThat(page.getByLabel("fords.sql")).containsText(good);
        assertThat(page.getByText("as revision 1")).isVisible();
        button("Publish").click();
        page.getByLabel("Note").fill("Fords for everybody");
        button("Save").click();
        try {
            page.waitForURL("**/modules/fords/releases");
        } catch (TimeoutError e) {
            throw new AssertionError("not published: " + page.locator("body").innerText(), e);
        }
        assertThat(page.getByText("Fords for everybody")).isVisible();
        assertThat(service.get("/api/fords/v1/fords?limit=1").statusCode()).isEqualTo(200);
        service.send("DELETE", "/desk/modules/fords/v1/release?version=1.0.0&reason=over", "", service.signed());
    }

    private static void saveDraft(String yaml, String sql, String header, String value) throws Exception {
        Map<String, Object> text = Map.of("folder", "fords", "files", Map.of("module.yaml", yaml, "fords.sql", sql));
        assertThat(service.send(
                                "PUT",
                                "/desk/drafts/fords/v1",
                                JsonMapper.shared().writeValueAsString(text),
                                service.signed(header, value))
                        .statusCode())
                .isEqualTo(200);
    }

    @Test
    void theNodesAreListed() throws Exception {
        openModules();
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Nodes"))
                .click();
        assertThat(page.locator("tr.ant-table-row").filter(new Locator.FilterOptions().setHasText("answers you")))
                .containsText("serving");
    }

    @Test
    void aMistakeStandsBesideItsField() throws Exception {
        openModules();
        openOperation("GET /berths Berths free for a whole stay");
        page.getByLabel("from").fill("soon");
        page.getByLabel("minLength").fill("-1");
        page.keyboard().press("Enter");
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("400");
        assertThat(page.locator(".ant-form-item-has-error")).hasCount(2);
        assertThat(page.locator(".ant-form-item-has-error").first())
                .containsText("'from' must be a date such as 2031-05-01.");
    }

    @Test
    void aClosedModuleCanBeTriedFromHere() throws Exception {
        openModules();
        openOperation("GET /vessels/{registration}/locks/{lockId}/toll The toll for one passage");
        page.getByLabel("registration").fill("MW-10000");
        button("Call").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("200");
    }

    @Test
    void theKeyboardAloneReachesAnAnswer() throws Exception {
        openModules();
        page.locator(".operations a").nth(2).focus();
        page.keyboard().press("Enter");
        page.getByLabel("berthId").focus();
        page.keyboard().press("Enter");
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("200");
    }

    @Test
    void aSourceIsTestedSearchedAndLookedInto() throws Exception {
        openModules();
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Sources"))
                .click();
        button("Test the connection").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("tables, views and routines");
        page.getByLabel("Find").fill("nightly");
        assertThat(page.locator(".holdings li")).hasCount(1);
        assertThat(page.locator(".browse")).containsText("decimal(7,2)");
        page.getByRole(AriaRole.TAB, new Page.GetByRoleOptions().setName("Sample rows"))
                .click();
        assertThat(page.locator(".ant-table-tbody .ant-table-row")).hasCount(10);
        page.getByRole(AriaRole.TAB, new Page.GetByRoleOptions().setName("Statement"))
                .click();
        assertThat(page.locator(".statement")).containsText("where id = :id");
        page.getByLabel("Find").fill("toll");
        page.locator(".holdings button").first().click();
        assertThat(page.locator(".browse")).containsText("decimal(8,2)");
        page.getByLabel("Find").fill("no such thing");
        assertThat(page.getByText("Nothing matches.")).isVisible();
    }

    private void write(String sql) {
        page.locator(".cm-content").click();
        page.keyboard().press("Control+a");
        page.keyboard().insertText(sql);
    }

    @Test
    void aStatementIsWrittenRunAndTakenAlong() throws Exception {
        openModules();
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Workbench"))
                .click();
        write("select id, berth_no, length_m from berth where length_m >= :least");
        assertThat(page.getByLabel("Definition of least")).hasValue("type: number");
        assertThat(page.getByLabel("Order")).hasValue("id");
        page.locator("#value-least").fill("soon");
        button("Run").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("400");
        assertThat(page.locator(".result")).containsText("'least' must be a number");
        page.locator("#value-least").fill("12");
        page.locator("#value-least").press("Enter");
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("200");
        assertThat(page.locator(".result .ant-table-row").first()).isVisible();
        page.getByRole(AriaRole.TAB, new Page.GetByRoleOptions().setName("Statement and plan"))
                .click();
        assertThat(page.locator(".result .plan").first()).containsText("berth:");
        assertThat(page.locator(".columns > .stack .statement"))
                .containsText("least: { in: query, type: number, required: true }");
    }

    @Test
    void findingsAreUnderlinedWhileTyping() throws Exception {
        signIn();
        page.navigate(service.address() + "/workbench");
        write("select id, berth_nmbr from berth");
        assertThat(page.locator(".cm-lintRange-error")).hasText("berth_nmbr");
        page.getByRole(AriaRole.TAB, new Page.GetByRoleOptions().setName("Findings"))
                .click();
        assertThat(page.locator(".findings")).containsText("statement-refused");
        write("select * from berth");
        assertThat(page.locator(".cm-lintRange-warning")).hasText("*");
        page.keyboard().press("End");
        page.keyboard().type(" where ber");
        assertThat(page.locator(".cm-tooltip-autocomplete")).containsText("berth");
        page.keyboard().type("th_no = :ber");
        assertThat(page.locator(".cm-content")).containsText(":ber");
        assertThat(page.locator(".cm-tooltip-autocomplete")).hasCount(0);
    }

    @Test
    void aLiveOperationsStatementIsChangedAndTriedInItsPlace() throws Exception {
        signIn();
        page.navigate(service.address() + "/workbench?operation="
                + URLEncoder.encode("moorings/v1 GET /berths/{berthId}", StandardCharsets.UTF_8));
        assertThat(page.locator(".cm-content")).containsText("where b.id = :berthId");
        page.locator("#value-berthId").fill("3");
        write("select b.id, 'changed' as berth_no from berth b where b.id = :berthId");
        button("Run").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("200");
        assertThat(page.locator(".result")).containsText("changed");
        assertThat(service.get("/api/moorings/v1/berths/3").body()).doesNotContain("changed");
    }

    @Test
    void aCallWithABodyIsMade() throws Exception {
        openModules();
        openOperation("POST /berths/search Berths of some basins that fit a vessel");
        page.getByLabel("/basins").fill("Heron Pool, Alder Basin");
        button("Call").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("200");
        assertThat(page.locator(".curl"))
                .containsText("-d '{\"basins\":[\"Heron Pool\",\"Alder Basin\"],\"vessel\":{\"length_m\":11.5}}'");
    }

    @Test
    void darkFollowsTheSystemAndCanBeChosen() throws Exception {
        page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.DARK));
        openModules();
        Locator frame = page.locator(".frame");
        assertThat(frame).hasCSS("background-color", "rgb(20, 26, 26)");
        button("Use the light appearance").click();
        assertThat(frame).hasCSS("background-color", "rgb(244, 242, 237)");
        page.reload();
        assertThat(frame).hasCSS("background-color", "rgb(244, 242, 237)");
    }

    @Test
    void emptyAndFailedAreSaid() throws Exception {
        signIn();
        page.route(
                "**/desk/modules",
                route -> route.fulfill(new com.microsoft.playwright.Route.FulfillOptions()
                        .setContentType("application/json")
                        .setBody("{\"modules\":[]}")));
        page.navigate(service.address() + "/modules");
        assertThat(page.getByText("Nothing is published yet.")).isVisible();
        page.unroute("**/desk/modules");
        page.route("**/desk/modules", com.microsoft.playwright.Route::abort);
        page.reload();
        assertThat(page.getByText("The service does not answer.")).isVisible();
        page.unroute("**/desk/modules");
        button("Try again").click();
        assertThat(page.locator(".module")).hasCount(3);
    }
}
