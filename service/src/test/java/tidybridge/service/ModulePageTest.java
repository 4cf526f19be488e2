package tidybridge.service;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.google.gson.JsonElement;
import com.google.gson.JsonObject;
import com.microsoft.playwright.CDPSession;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.json.JsonMapper;

/** A module's text is finished in the console: by forms, as text, with every step taken back and nothing overwritten. */
class ModulePageTest {

    private static final String YAML = """
            # kept by the harbour office
            module: %s
            version: 1.0.0   # the first
            title: Quays
            source: waterways
            public: true
            accept: { open-to-everybody: a test }

            routes:
              /quays:
                get:
                  about: Quays # short
                  sql: quays.sql
                  answer: rows
                  order: [id]

              /quays/{id}:
                get:
                  about: One quay
                  sql: quay.sql
                  answer: row
                  parameters:
                    id: { in: path, type: integer, example: 3 } # its number
            """;
    private static final Map<String, String> STATEMENTS = Map.of(
            "quays.sql", "select id, berth_no from berth\n",
            "quay.sql", "select id, berth_no from berth where id = :id\n");

    private static RunningService service;

    private final List<String> pageErrors = new ArrayList<>();
    private Page page;
    private String name = "";

    @BeforeAll
    static void start() {
        service = SharedService.get();
    }

    @BeforeEach
    void open() throws Exception {
        name = Callers.fresh("quays");
        page = Chromium.guest();
        page.onPageError(pageErrors::add);
        Chromium.signIn(page, service);
    }

    @AfterEach
    void close() {
        Chromium.leave(page, service);
        assertThat(pageErrors).isEmpty();
    }

    private int save(String yaml, Map<String, String> statements, String header, String value) throws Exception {
        Map<String, String> files = new LinkedHashMap<>(statements);
        files.put("module.yaml", yaml);
        var response = service.send(
                "PUT",
                "/desk/drafts/" + name + "/v1",
                JsonMapper.shared().writeValueAsString(Map.of("folder", "modules/x", "files", files)),
                service.signed(header, value));
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        return RunningService.json(response).path("revision").asInt();
    }

    private void edit(String operation) throws Exception {
        save(YAML.formatted(name), STATEMENTS, "If-None-Match", "*");
        visit(operation);
    }

    private void visit(String operation) {
        String place = operation.isEmpty() ? "" : "?operation=" + URLEncoder.encode(operation, StandardCharsets.UTF_8);
        page.navigate(service.address() + "/drafts/" + name + "/v1/edit" + place);
        assertThat(page.locator("[aria-label='module.yaml'] .cm-line").nth(5)).isVisible();
    }

    private Locator button(String words) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(words).setExact(true));
    }

    private Locator text() {
        return page.getByLabel("Text of module.yaml");
    }

    private Locator sql() {
        return page.locator(".sql-editor .cm-content");
    }

    private Locator key(String... path) {
        return page.locator("[id='key-" + String.join("-", path) + "']");
    }

    private Locator pathField() {
        return page.getByRole(
                AriaRole.TEXTBOX, new Page.GetByRoleOptions().setName("Path").setExact(true));
    }

    private Locator state() {
        return page.getByRole(AriaRole.STATUS, new Page.GetByRoleOptions().setName("Draft"));
    }

    private String kept(String file) throws Exception {
        return RunningService.json(service.desk("/desk/drafts/" + name + "/v1"))
                .path("text")
                .path("files")
                .path(file)
                .asString();
    }

    private void saved() {
        page.keyboard().press("Control+s");
        assertThat(state()).not().containsText("not saved");
        assertThat(button("Save")).isDisabled();
    }

    /** What a form changes is one line of the text, beside its comment; each step can be taken back across both. */
    @Test
    void formsAndTextAreOneText() throws Exception {
        edit("GET /quays");
        key("routes", "/quays", "get", "about").fill("Every quay");
        assertThat(text()).containsText("about: Every quay # short");
        page.locator("[aria-label='module.yaml']").click();
        page.keyboard().press("Control+Home");
        page.keyboard().press("End");
        page.keyboard().type(", for years");
        assertThat(text()).containsText("# kept by the harbour office, for years");
        key("routes", "/quays", "get", "id").fill("listQuays");
        saved();
        assertThat(kept("module.yaml"))
                .isEqualTo(YAML.formatted(name)
                        .replace("office", "office, for years")
                        .replace("about: Quays # short\n", "about: Every quay # short\n      id: listQuays\n"));

        page.keyboard().press("Control+z");
        assertThat(key("routes", "/quays", "get", "id")).hasValue("");
        page.keyboard().press("Control+z");
        assertThat(text()).not().containsText("years");
        page.keyboard().press("Control+z");
        assertThat(key("routes", "/quays", "get", "about")).hasValue("Quays");
        assertThat(button("Undo")).isDisabled();
        page.keyboard().press("Control+Shift+Z");
        assertThat(key("routes", "/quays", "get", "about")).hasValue("Every quay");
    }

    /** What is typed in the text stands in the forms at once, also while another part of it cannot be read. */
    @Test
    void textShowsInForms() throws Exception {
        save(YAML.formatted(name).replace("order: [id]", "order: [id"), STATEMENTS, "If-None-Match", "*");
        visit("GET /quays/{id}");
        page.getByText("about: One quay").click();
        page.keyboard().press("End");
        page.keyboard().type(", found by its number");
        assertThat(key("routes", "/quays/{id}", "get", "about")).hasValue("One quay, found by its number");
        assertThat(page.getByRole(AriaRole.STATUS, new Page.GetByRoleOptions().setName("Findings")))
                .containsText("1 error");
        page.getByText("/quays", new Page.GetByTextOptions().setExact(true))
                .first()
                .click();
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("/quays")))
                .isVisible();
    }

    @Test
    void anOperationIsAddedDescribedTriedSavedAndPublished() throws Exception {
        edit("");
        button("Add").first().click();
        page.getByRole(AriaRole.MENUITEM, new Page.GetByRoleOptions().setName("An operation"))
                .click();
        pathField().fill("quays");
        button("Add").last().click();
        assertThat(page.getByText("A path begins with '/'")).isVisible();
        pathField().fill("/quays/longest");
        button("Add").last().click();
        sql().click();
        page.keyboard().press("Control+a");
        page.keyboard().type("select id, length_m from berth where length_m >= :least");
        button("Describe it").click();
        assertThat(text()).containsText("least: { in: query, type: number");
        page.locator("#try-least").fill("20");
        page.keyboard().press("Enter");
        Locator result = page.locator(".result");
        assertThat(result).containsText("200");
        page.getByText("Rows: order, filters, pages").click();
        key("routes", "/quays/longest", "get", "filter").isVisible();
        page.getByLabel("Add a column to filter by").click();
        page.locator(".ant-select-item-option[title='length_m']").last().click();
        assertThat(text()).containsText("filter: [length_m]");
        page.locator("#example-least").fill("20");
        page.locator("#example-least").press("Enter");
        assertThat(text()).containsText("example: 20 }");
        button("Run").click();
        assertThat(result).containsText("200");
        saved();
        assertThat(kept("module.yaml"))
                .startsWith(YAML.formatted(name))
                .contains("\n\n  /quays/longest:\n    get:\n      about: Say what it does\n");

        button("Compare and publish").click();
        button("Publish").click();
        page.getByLabel("Note").fill("By hand");
        button("Save").click();
        page.waitForURL("**/modules/" + name + "/releases");
        assertThat(service.get("/api/" + name + "/v1/quays/longest?least=20&limit=1")
                        .statusCode())
                .isEqualTo(200);
        assertThat(service.get("/api/" + name + "/v1/quays/3").statusCode()).isEqualTo(200);
    }

    /** Values stay with the operation, and a change is rehearsed: nothing of it remains. */
    @Test
    void aChangeIsRehearsedWithValuesThatStay() throws Exception {
        String tagged = YAML.formatted(name).replace("answer: row\n", "answer: row\n      tag: representation\n");
        String yaml = tagged + """
                    delete:
                      about: Seen
                      sql: clear.sql
                      answer: nothing
                      precondition: required
                      parameters:
                        id: { in: path, type: integer, example: 3 }
                """;
        Map<String, String> statements = new LinkedHashMap<>(STATEMENTS);
        statements.put("clear.sql", "update booking set note = concat('seen ', now(6)) where id = :id\n");
        save(yaml, statements, "If-None-Match", "*");
        visit("DELETE /quays/{id}");
        String booking = TestDatabase.column("select min(k.id) from booking k join berth b on b.id = k.id")
                .getFirst();
        page.locator("#try-id").fill(booking);
        button("Rehearse").click();
        assertThat(page.locator(".result")).containsText("rolled back");
        assertThat(page.locator("#try-If-Match")).hasValue("*");
        assertThat(page.locator(".curl")).containsText("curl -X DELETE -H 'If-Match: *'");
        assertThat(page.locator(".curl")).containsText("/quays/" + booking + "'");
        page.reload();
        assertThat(page.locator("#try-id")).hasValue(booking);
    }

    @Test
    void operationsAreDuplicatedMovedRenamedAndRemoved() throws Exception {
        edit("GET /quays/{id}");
        change("Duplicate");
        pathField().fill("/piers/{id}");
        button("Add").last().click();
        assertThat(text()).containsText("sql: get-piers-id.sql");
        assertThat(sql()).containsText("where id = :id");
        change("Rename the path");
        pathField().fill("/landings/{id}");
        page.keyboard().press("Enter");
        assertThat(page).hasURL(Pattern.compile(".*operation=GET\\+%2Flandings.*"));
        visitTree("/landings/{id}");
        change("Move up");
        change("Move up");
        visitTree("/quays");
        change("Remove with its operations");
        saved();
        String yaml = kept("module.yaml");
        assertThat(yaml.indexOf("/landings/{id}:")).isPositive().isLessThan(yaml.indexOf("/quays/{id}:"));
        assertThat(yaml).doesNotContain("/quays:").contains("# its number", "# kept by");
        assertThat(kept("quays.sql")).isEmpty();
        assertThat(kept("get-piers-id.sql")).isEqualTo(STATEMENTS.get("quay.sql"));
    }

    private void visitTree(String words) {
        page.locator(".operation-tree .ant-tree-title")
                .filter(new Locator.FilterOptions().setHasText(words))
                .first()
                .click();
    }

    private void change(String deed) {
        button("Change").click();
        page.getByRole(
                        AriaRole.MENUITEM,
                        new Page.GetByRoleOptions().setName(deed).setExact(true))
                .click();
    }

    /** The second is told who was first, sees the difference, and both texts come together; nothing is overwritten. */
    @Test
    void twoPeopleEditOneDraft() throws Exception {
        edit("GET /quays");
        key("routes", "/quays", "get", "about").fill("Mine");
        save(YAML.formatted(name).replace("One quay", "Theirs"), STATEMENTS, "If-Match", "\"1\"");
        page.keyboard().press("Control+s");
        Locator dialog = page.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("changed this draft");
        assertThat(dialog).containsText("Theirs");
        assertThat(kept("module.yaml")).doesNotContain("Mine");
        button("Bring both together").click();
        assertThat(text()).containsText("about: Mine # short");
        assertThat(text()).containsText("about: Theirs");
        saved();
        assertThat(kept("module.yaml"))
                .isEqualTo(YAML.formatted(name)
                        .replace("Quays # short", "Mine # short")
                        .replace("One quay", "Theirs"));

        key("routes", "/quays", "get", "about").fill("Mine again");
        save(YAML.formatted(name).replace("Quays # short", "Theirs again"), STATEMENTS, "If-Match", "\"3\"");
        page.keyboard().press("Control+s");
        assertThat(dialog).containsText("Both of you changed the same lines in module.yaml");
        button("Back to my text").click();
        assertThat(kept("module.yaml")).contains("Theirs again");

        service.send("DELETE", "/desk/drafts/" + name + "/v1", "", service.signed("If-Match", "\"4\""));
        page.keyboard().press("Control+s");
        assertThat(dialog.last()).containsText("Somebody threw this draft away");
        button("Begin it anew with my text").click();
        saved();
        assertThat(kept("module.yaml")).contains("Mine again");
    }

    /** Text that was not saved is still there when the page is opened again. */
    @Test
    void unsavedTextIsNotLost() throws Exception {
        page.clock().install();
        edit("GET /quays");
        key("routes", "/quays", "get", "about").fill("Half a thought");
        // what is kept when nobody has typed for a while
        page.clock().runFor(1_200);
        page.onDialog(dialog -> dialog.accept());
        visit("GET /quays");
        button("Take it up again").click();
        assertThat(key("routes", "/quays", "get", "about")).hasValue("Half a thought");
    }

    @Test
    void findingsLeadToTheirPlaces() throws Exception {
        Map<String, String> statements = new LinkedHashMap<>(STATEMENTS);
        statements.put("quays.sql", "select id, berth_no\nfrom berths\n");
        save(YAML.formatted(name), statements, "If-None-Match", "*");
        visit("GET /quays/{id}");
        assertThat(page.getByRole(AriaRole.STATUS, new Page.GetByRoleOptions().setName("Findings")))
                .containsText("1 error");
        page.keyboard().press("F8");
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("GET /quays")))
                .isVisible();
        assertThat(page.locator(".sql-editor .cm-lint-marker-error")).isVisible();
        page.keyboard().press("Control+k");
        page.keyboard().type("one quay");
        page.keyboard().press("Enter");
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("GET /quays/{id}")))
                .isVisible();
    }

    /** A module begins without a file anywhere. */
    @Test
    void aNewModuleBeginsInTheConsole() throws Exception {
        page.navigate(service.address() + "/drafts");
        button("New module").click();
        page.getByLabel("Name").fill(name);
        page.getByLabel("Title").fill("Quays: all of them");
        button("Save").click();
        page.waitForURL("**/drafts/" + name + "/v1/edit");
        assertThat(text()).containsText("title: \"Quays: all of them\"");
        assertThat(text()).containsText("routes: {}");
    }

    /** From a database that nobody wrote anything for to an address that is called, without a file. */
    @Test
    void aFirstModuleIsMadeFromTwoTables() throws Exception {
        page.navigate(service.address() + "/begin");
        button("Test the connection").click();
        assertThat(page.getByRole(AriaRole.STATUS)).containsText("schema");
        choose("basin");
        choose("berth");
        page.getByLabel("Read", new Page.GetByLabelOptions().setExact(true)).click();
        page.locator(".ant-select-item-option[title='everybody']").last().click();
        page.getByLabel("Name, as in").fill(name);
        assertThat(page.locator(".first-text")).containsText("5 operations");
        assertThat(page.getByText("Adding a row is refused by the database").first())
                .isVisible();
        assertThat(page.locator(".first-text")).containsText("/basin/{id}/berth:");
        button("Keep it as a draft").click();
        page.waitForURL("**/drafts/" + name + "/v1/edit");
        visitTree("/basin/{id}/berth");
        page.locator(".operation-tree [title='GET /basin/{id}/berth']").click();
        button("Run").click();
        assertThat(page.locator(".result")).containsText("200");
        button("Compare and publish").click();
        button("Publish").click();
        button("Save").click();
        page.waitForURL("**/modules/" + name + "/releases");
        assertThat(service.get("/api/" + name + "/v1/basin/1/berth?limit=2").statusCode())
                .isEqualTo(200);
    }

    /** What others wrote down of an API: what was proposed is mended, and what is still to be written is tried and found on the module's page. */
    @Test
    void aModuleIsMadeFromAnOpenApiDocument() throws Exception {
        page.navigate(service.address() + "/begin");
        page.getByRole(AriaRole.TAB, new Page.GetByRoleOptions().setName("Document or sample"))
                .click();
        page.locator("input[type=file]").setInputFiles(Path.of("src/test/resources/stays.yaml"));
        assertThat(page.locator("#begin-title")).hasValue("Stays");
        assertThat(page.locator(".matches")).containsText("10 of 11");
        assertThat(page.getByText("here rows stand in 'data'").first()).isVisible();

        pick("Table of GET /places/{placeId}", "berth");
        page.locator("tr[data-row-key='GET /places/{placeId}'] .ant-table-row-expand-icon")
                .click();
        pick("Column of place in GET /places/{placeId}", "berth_no");
        pick("Column of town in GET /places/{placeId}", "basin.town");
        pick("Column of placeId in GET /places/{placeId}", "id");
        assertThat(page.locator("tr[data-row-key='GET /places/{placeId}']")).containsText("4 of 4");
        page.getByLabel("Name, as in").fill(name);
        assertThat(page.locator(".first-text")).containsText("module: " + name);
        button("Keep it as a draft").click();

        page.waitForURL("**/drafts/" + name + "/v1/edit");
        visitTree("/places/{placeId}");
        page.locator(".operation-tree [title='GET /places/{placeId}']").click();
        page.locator("#try-placeId").fill("1");
        button("Run").click();
        assertThat(page.locator(".result")).containsText("A01");
        assertThat(page.locator(".result")).containsText("Marrowby");
        assertThat(text()).containsText("promise:");
        visitTree("/vessels/{vesselId}/inspect");
        assertThat(page.locator(".findings-bar")).containsText("5 errors");
    }

    private void pick(String label, String option) {
        page.getByLabel(label, new Page.GetByLabelOptions().setExact(true)).click();
        page.keyboard().type(option);
        page.locator(".ant-select-dropdown:not(.ant-select-dropdown-hidden) .ant-select-item-option[title='" + option
                        + "']")
                .click();
    }

    private void choose(String table) {
        page.getByLabel("Look for a table").fill(table);
        page.getByRole(
                        AriaRole.CHECKBOX,
                        new Page.GetByRoleOptions().setName(table).setExact(true))
                .check();
    }

    @Test
    void operationsOnTablesAreAddedToAText() throws Exception {
        edit("");
        button("Add").first().click();
        page.getByRole(AriaRole.MENUITEM, new Page.GetByRoleOptions().setName("From tables, routines, documents"))
                .click();
        choose("closure");
        assertThat(page.locator(".first-text")).containsText("2 operations");
        button("Take them over").click();
        assertThat(text()).containsText("# its number");
        visitTree("/closure");
        saved();
        assertThat(kept("module.yaml")).startsWith(YAML.formatted(name)).contains("\n\n  /closure:\n    get:\n");
        assertThat(kept("closure-list.sql")).startsWith("select id, lock_id");
        page.keyboard().press("Control+z");
        assertThat(page.locator(".operation-tree")).not().containsText("/closure");
    }

    /** In a module of 200 operations with statements of 300 lines, a key pressed shows within 100 ms. */
    private static final int KEYS = 30;

    /** A piece of work that takes the page's thread 20 ms where nothing else goes on; beside busy neighbours it takes longer, as a key does. */
    private static final String WORK = """
            () => {
              let seed = 7;
              const numbers = Array.from({ length: 16_000 }, () => (seed = (seed * 48_271) % 2_147_483_647));
              return numbers.sort((a, b) => a - b)[0];
            }""";

    private static final double WORK_MILLIS = 20;

    /** Seconds that the page's thread has computed, which a busy machine makes no longer. */
    private static double spent(CDPSession looking) {
        for (JsonElement metric : looking.send("Performance.getMetrics").getAsJsonArray("metrics")) {
            if (metric.getAsJsonObject().get("name").getAsString().equals("TaskDuration")) {
                return metric.getAsJsonObject().get("value").getAsDouble();
            }
        }
        throw new AssertionError("the browser does not tell what its pages cost");
    }

    @Test
    void typingIsQuickInALargeModule() throws Exception {
        StringBuilder yaml = new StringBuilder(YAML.formatted(name));
        Map<String, String> statements = new LinkedHashMap<>(STATEMENTS);
        for (int i = 0; i < 200; i++) {
            yaml.append("""

                  /quays-%d/{id}:
                    get:
                      about: Quays of the part number %d
                      sql: quay-%d.sql
                      answer: row
                      parameters:
                        id: { in: path, type: integer, minimum: 1, example: 3, about: The number of the quay in the register }
                """.formatted(i, i, i));
            statements.put(
                    "quay-" + i + ".sql",
                    "select id, berth_no\n" + "-- a line\n".repeat(300) + "from berth where id = :id\n");
        }
        save(yaml.toString(), statements, "If-None-Match", "*");
        Page guest = page;
        page = Chromium.measured();
        try {
            Chromium.signIn(page, service);
            visit("GET /quays-150/{id}");
            typeAndMeasure();
        } finally {
            page.context().browser().close();
            page = guest;
        }
    }

    /** What a script costs the page's own thread. */
    private double millis(CDPSession looking, String script) {
        double before = spent(looking);
        page.evaluate(script);
        return 1_000 * (spent(looking) - before);
    }

    /** What each costs by itself: other work, and the host of a virtual machine, make some dearer and none cheaper. */
    private static double lowerQuartile(List<Double> values) {
        return values.stream().sorted().toList().get(values.size() / 4);
    }

    private void typeAndMeasure() {
        CDPSession looking = page.context().newCDPSession(page);
        JsonObject clock = new JsonObject();
        clock.addProperty("timeDomain", "threadTicks");
        looking.send("Performance.enable", clock);
        for (Locator where : List.of(text().getByText("about: Quays of the part number 150"), sql())) {
            where.click();
            page.keyboard().press("End");
            page.evaluate("() => new Promise((done) => requestIdleCallback(done))");
            List<Double> keys = new ArrayList<>();
            List<Double> works = new ArrayList<>();
            for (int i = 0; i < KEYS; i++) {
                keys.add(millis(looking, """
                        async () => {
                          document.execCommand("insertText", false, "x");
                          await new Promise((done) => requestAnimationFrame(() => setTimeout(done)));
                        }"""));
                works.add(millis(looking, WORK));
            }
            double slower = Math.max(1, lowerQuartile(works) / WORK_MILLIS);
            assertThat(lowerQuartile(keys))
                    .as("ms of the page's own thread for a key, of %s, beside work that took %s", keys, works)
                    .isLessThan(100 * slower);
        }
        assertThat(text()).containsText("part number 150xxx");
        assertThat(key("routes", "/quays-150/{id}", "get", "about"))
                .hasValue("Quays of the part number 150" + "x".repeat(KEYS));
    }
}
