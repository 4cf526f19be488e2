package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.io.ByteArrayOutputStream;
import java.net.Socket;
import java.net.URLEncoder;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;
import tidybridge.service.Launched.Ended;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Sheets become tables with all of their rows, or leave nothing behind. */
class DraftFromSheetTest {

    private static RunningService service;

    @TempDir
    Path folder;

    @BeforeAll
    static void make() throws Exception {
        TestDatabase.execute("", "create or replace schema sheets character set utf8mb4");
        TestDatabase.execute(
                "sheets",
                "create table basin (id int primary key, name varchar(20) not null)",
                "insert into basin values (1, 'Heron Pool')",
                "create table berth (no varchar(5) primary key, basin_id int not null, length_m decimal(5,2) null, open boolean not null default true,"
                        + " seen datetime null, constraint basin_of_berth foreign key (basin_id) references basin (id),"
                        + " constraint long_enough check (length_m > 3))");
        service = RunningService.withSource("sheets", "select, insert, update, delete, create, drop");
    }

    @AfterAll
    static void drop() throws Exception {
        service.close();
        TestDatabase.execute("", "drop schema sheets");
    }

    private static HttpResponse<String> sent(String deed, byte[] sheet, String... query) throws Exception {
        String asked = IntStream.range(0, query.length / 2)
                .mapToObj(i -> query[2 * i] + "=" + URLEncoder.encode(query[2 * i + 1], StandardCharsets.UTF_8))
                .collect(Collectors.joining("&"));
        return RunningService.send(asking("/desk/sheets/" + deed + "?source=sheets&" + asked)
                .header("Content-Type", "text/csv")
                .POST(HttpRequest.BodyPublishers.ofByteArray(sheet)));
    }

    private static JsonNode look(byte[] sheet, String... query) throws Exception {
        HttpResponse<String> response = sent("looks", sheet, query);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        return RunningService.json(response);
    }

    /** The last line of what is answered. */
    private static JsonNode load(String csv, String... query) throws Exception {
        HttpResponse<String> response = sent("loads", csv.getBytes(StandardCharsets.UTF_8), query);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        List<String> lines = response.body().lines().toList();
        return JsonMapper.shared().readTree(lines.getLast());
    }

    private static HttpRequest.Builder asking(String path) throws Exception {
        return service.request(path).header("Authorization", "Bearer " + service.token());
    }

    private static List<String> rows(String sql) throws Exception {
        return TestDatabase.column(sql.replace(" from ", " from sheets."));
    }

    private static List<String> tables(String name) throws Exception {
        return TestDatabase.column(
                "select table_name from information_schema.tables where table_schema = 'sheets' and table_name = '"
                        + name + "'");
    }

    @Test
    void aSheetBecomesATableWithAllOfItsRows() throws Exception {
        String csv = "Mooring No;Length (m);Built;Seen at;Open\n"
                + IntStream.range(0, 1_234)
                        .mapToObj(i ->
                                "M%04d;%d.5;2031-05-01;2031-05-01 09:30:%02d;%s\n".formatted(i, i, i % 60, i % 2 == 0))
                        .collect(Collectors.joining());
        JsonNode look = look(csv.getBytes(StandardCharsets.UTF_8), "table", "mooring");
        assertThat(look.path("rows").asInt()).isEqualTo(1_234);
        assertThat(look.path("there").asBoolean()).isFalse();
        assertThat(look.path("separator").asString()).isEqualTo(";");
        assertThat(look.path("createTable").asString())
                .contains(
                        "mooring_no varchar(5) not null primary key comment 'Mooring No'",
                        "length_m decimal(7,1) not null",
                        "seen_at datetime not null",
                        "open boolean not null");
        JsonNode outcome = load(csv, "table", "mooring", "create", "true");
        assertThat(outcome.path("kept").asBoolean()).as(outcome.toString()).isTrue();
        assertThat(outcome.path("rows").asInt()).isEqualTo(1_234);
        assertThat(rows("select concat_ws(' ', count(*), sum(length_m), max(seen_at), sum(open)) from mooring"))
                .containsExactly("1234 761378.0 2031-05-01 09:30:59 617");

        JsonNode again = load(csv, "table", "mooring");
        assertThat(again.path("kept").asBoolean()).isFalse();
        assertThat(again.path("bad").path(0).path("line").asInt()).isEqualTo(2);
        assertThat(again.path("bad").path(0).path("reason").asString()).contains("there already");
        assertThat(again.path("moreBad").asInt()).isPositive();
        assertThat(rows("select count(*) from mooring")).containsExactly("1234");
        assertThat(service.desk("/desk/audit?action=load-rows&subject=sheets/mooring")
                        .body())
                .contains("load-rows");
    }

    @Test
    void oneBadRowKeepsAllOthersOut() throws Exception {
        String head = "no,basin_id,length_m\n";
        Map<String, String> bad = Map.of(
                "B1,7,12\n", "basin_of_berth",
                "B1,1,2\n", "long_enough",
                "B1,1,12.345\n", "would be rounded",
                "B1234567,1,12\n", "takes 5 characters",
                "B1,one,12\n", "whole number",
                "B1,,12\n", "must have a value",
                "B1,1\n", "It has 2 cells",
                "b2,1,12\n", "there already");
        for (Map.Entry<String, String> row : bad.entrySet()) {
            String csv = head
                    + IntStream.range(0, 700).mapToObj(i -> "x" + i + ",1,12\n").collect(Collectors.joining())
                    + "B2,1,4\n" + row.getKey();
            JsonNode outcome = load(csv, "table", "berth");
            assertThat(outcome.path("kept").asBoolean()).as(row.getKey()).isFalse();
            assertThat(outcome.path("bad")).hasSize(1);
            assertThat(outcome.path("bad").path(0).path("line").asInt())
                    .as(row.getKey())
                    .isEqualTo(703);
            assertThat(outcome.path("bad").path(0).path("reason").asString()).contains(row.getValue());
            assertThat(outcome.toString()).doesNotContain("12.345").doesNotContain("B1234567");
            assertThat(rows("select count(*) from berth")).as(row.getKey()).containsExactly("0");
        }
    }

    @Test
    void aTableThatWasMadeForItGoesAgainWhenNothingCameOfIt() throws Exception {
        JsonNode outcome = load("id,name\n1,a\n2,b\n", "table", "gone", "create", "true", "type", "name:int");
        assertThat(outcome.path("kept").asBoolean()).isFalse();
        assertThat(tables("gone")).isEmpty();
        assertThat(sent("loads", "id\n1\n".getBytes(StandardCharsets.UTF_8), "table", "gone")
                        .statusCode())
                .isEqualTo(404);
    }

    /** Whoever hangs up while rows are put there leaves nothing behind: no row, no table, no transaction. */
    @Test
    void whoeverHangsUpLeavesNothingBehind() throws Exception {
        byte[] csv = ("id,label\n"
                        + IntStream.range(0, 150_000)
                                .mapToObj(i -> i + ",some words that make it longer than a socket holds\n")
                                .collect(Collectors.joining()))
                .getBytes(StandardCharsets.UTF_8);
        try (Socket socket = new Socket("127.0.0.1", service.port())) {
            String head =
                    "POST /desk/sheets/loads?source=sheets&table=left&create=true HTTP/1.1\r\nHost: 127.0.0.1\r\nAuthorization: Bearer "
                            + service.token() + "\r\nContent-Type: text/csv\r\nContent-Length: " + csv.length
                            + "\r\n\r\n";
            socket.getOutputStream().write(head.getBytes(StandardCharsets.US_ASCII));
            socket.getOutputStream().write(csv);
            socket.getOutputStream().flush();
            assertThat(new String(socket.getInputStream().readNBytes(12), StandardCharsets.US_ASCII))
                    .isEqualTo("HTTP/1.1 200");
            socket.setSoLinger(true, 0);
        }
        Until.holds(() -> service.desk("/desk/audit?action=load-rows&subject=sheets/left")
                .body()
                .contains("hung up"));
        Until.holds(() -> tables("left").isEmpty());
    }

    /** As many rows as a batch has, each as long as a cell can be, are more than the heap of a small service. */
    @Test
    void longTextsAreSentBeforeTheyFillTheMemory() throws Exception {
        String csv = "id,label\n"
                + IntStream.range(0, 24)
                        .mapToObj(i -> i + "," + "x".repeat(1_000_000) + "\n")
                        .collect(Collectors.joining());
        HttpResponse<String> answer =
                sent("loads", csv.getBytes(StandardCharsets.UTF_8), "table", "long_texts", "create", "true");
        assertThat(answer.body().lines().count()).as("a line for each batch").isGreaterThan(6);
        assertThat(rows("select sum(length(label)) from long_texts")).containsExactly("24000000");
    }

    @Test
    void aViewTakesNoRows() throws Exception {
        TestDatabase.execute("sheets", "create or replace view seen as select 1 as id");
        HttpResponse<String> answer =
                sent("loads", "id\n1\n".getBytes(StandardCharsets.UTF_8), "table", "seen", "create", "true");
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(409);
        assertThat(answer.body()).contains("'seen' is a view");
    }

    @Test
    void aTableThatIsThereTellsWhatItCannotTake() throws Exception {
        JsonNode look = look("no,basin_id\nA1,one\n".getBytes(StandardCharsets.UTF_8), "table", "berth");
        assertThat(look.path("there").asBoolean()).isTrue();
        assertThat(look.path("bad").path(0).path("reason").asString()).contains("'basin_id'", "whole number");
        assertThat(sent("looks", "no,color\nA1,1\n".getBytes(StandardCharsets.UTF_8), "table", "berth")
                        .body())
                .contains("has no column for 'color'");
        assertThat(sent("looks", "length_m\n4\n".getBytes(StandardCharsets.UTF_8), "table", "berth")
                        .body())
                .contains("needs a value for 'no'");
    }

    private static byte[] workbook() throws Exception {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (Workbook workbook = new Workbook(bytes, "Test", "1.0")) {
            workbook.newWorksheet("notes").value(0, 0, "nothing");
            Worksheet sheet = workbook.newWorksheet("plan");
            List<String> heads = List.of("Name", "Day", "Moment", "Rate", "Sum", "Flag");
            for (int i = 0; i < heads.size(); i++) {
                sheet.value(0, i, heads.get(i));
            }
            for (int row = 1; row <= 3; row++) {
                sheet.value(row, 0, "Berth " + row);
                sheet.value(row, 1, LocalDate.of(2031, 5, row));
                sheet.style(row, 1).format("yyyy-mm-dd").set();
                sheet.value(row, 2, LocalDateTime.of(2031, 5, row, 9, 30));
                sheet.style(row, 2).format("yyyy-mm-dd hh:mm:ss").set();
                sheet.value(row, 3, 0.1 + 0.2);
                sheet.formula(row, 4, "D" + (row + 1) + "*2");
                sheet.value(row, 5, row == 1);
            }
        }
        return bytes.toByteArray();
    }

    @Test
    void aWorkbookIsReadAsItsCellsAreShown() throws Exception {
        JsonNode look = look(workbook(), "table", "plan", "sheet", "plan");
        Map<String, String> types = look.path("columns")
                .valueStream()
                .collect(Collectors.toMap(
                        column -> column.path("name").asString(),
                        column -> column.path("type").asString()));
        assertThat(types)
                .containsEntry("name", "varchar(10)")
                .containsEntry("day", "date")
                .containsEntry("moment", "datetime")
                .containsEntry("rate", "decimal(4,1)")
                .containsEntry("flag", "boolean");
        assertThat(look.path("encoding").isMissingNode()).isTrue();
        assertThat(sent("looks", workbook(), "table", "plan", "sheet", "gone").body())
                .contains("[notes, plan]");
        byte[] cut = Arrays.copyOf(workbook(), 900);
        assertThat(sent("looks", cut, "table", "plan").statusCode()).isEqualTo(400);
    }

    /** A small file that unpacks to a very large one is refused before anything of it is kept in memory. */
    @Test
    void aWorkbookThatUnpacksToTooMuchIsRefused() throws Exception {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
            zip.putNextEntry(new ZipEntry("xl/sharedStrings.xml"));
            byte[] piece = new byte[1024 * 1024];
            for (int i = 0; i < 40; i++) {
                zip.write(piece);
            }
            zip.closeEntry();
        }
        assertThat(bytes.size()).isLessThan(100_000);
        HttpResponse<String> answer = sent("looks", bytes.toByteArray(), "table", "x");
        assertThat(answer.statusCode()).isEqualTo(400);
        assertThat(answer.body()).contains("holds too much");
    }

    @Test
    void whatCannotBeASheetIsOneSentence() throws Exception {
        assertThat(sent("looks", new byte[0], "table", "x").body()).contains("is empty");
        assertThat(sent("looks", "a\n1\n".getBytes(StandardCharsets.UTF_8), "table", "x; drop")
                        .statusCode())
                .isEqualTo(400);
        assertThat(sent("looks", "a\n1\n".getBytes(StandardCharsets.UTF_8), "table", "x", "encoding", "klingon")
                        .body())
                .contains("encoding");
        assertThat(sent("looks", "a\n1\n".getBytes(StandardCharsets.UTF_8), "table", "x", "separator", "ab")
                        .statusCode())
                .isEqualTo(400);
        HttpResponse<String> readOnly =
                RunningService.send(asking("/desk/sheets/loads?source=waterways&table=x&create=true")
                        .POST(HttpRequest.BodyPublishers.ofString("a\n1\n")));
        assertThat(readOnly.statusCode()).as(readOnly.body()).isEqualTo(403);
    }

    /** A file of a gigabyte is refused by what it says of itself, before a byte of it is kept. */
    @Test
    void aGigabyteIsRefusedAtOnce() throws Exception {
        try (Socket socket = new Socket("127.0.0.1", service.port())) {
            String head = "POST /desk/sheets/looks?source=sheets&table=x HTTP/1.1\r\nHost: 127.0.0.1\r\nAuthorization: "
                    + "Bearer " + service.token()
                    + "\r\nContent-Type: text/csv\r\nContent-Length: 1073741824\r\n\r\na,b\n";
            socket.getOutputStream().write(head.getBytes(StandardCharsets.US_ASCII));
            socket.setSoTimeout(5_000);
            byte[] answer = socket.getInputStream().readNBytes(12);
            assertThat(new String(answer, StandardCharsets.US_ASCII)).isEqualTo("HTTP/1.1 413");
        }
    }

    @Test
    void theCommandShowsThenMakesThenLoadsThenDrafts() throws Exception {
        Launched launched = new Launched(service);
        Path csv = folder.resolve("Our Moorings.csv");
        Files.writeString(csv, "No,Length\nA1,12.5\nA2,8\n");
        Ended shown = launched.tidy("draft", "from", "sheet", "sheets", csv.toString());
        assertThat(shown.code()).as(shown.err()).isZero();
        assertThat(shown.out())
                .contains("create table our_moorings (", "decimal(", "A1, A2", "2 rows, told apart by no");
        assertThat(tables("our_moorings")).isEmpty();

        Ended loaded = launched.tidy(
                "draft",
                "from",
                "sheet",
                "sheets",
                csv.toString(),
                "--create",
                "--load",
                "--public",
                "--push",
                "--module",
                Callers.fresh("moored"));
        assertThat(loaded.code()).as(loaded.err()).isZero();
        assertThat(loaded.out()).contains("GET /our-moorings/{no}");
        assertThat(loaded.err()).contains("2 rows are in our_moorings", "A draft:");
        assertThat(rows("select count(*) from our_moorings")).containsExactly("2");

        Files.writeString(csv, "No,Length\nA1,12.5,1\n");
        Ended bad = launched.tidy(
                "draft", "from", "sheet", "sheets", csv.toString(), "--table", "other", "--create", "--load");
        assertThat(bad.code()).isNotZero();
        assertThat(bad.out()).contains("bad row", "line 2: It has 3 cells");
    }

    /** In the console: what the sheet holds, the rows that cannot be taken, then the table, its rows, and a text from it. */
    @Test
    void theConsoleMakesATableOfASheetAndATextOfTheTable() throws Exception {
        Path good = folder.resolve("Quay Plan.csv");
        Files.writeString(good, "Quay,Depth\nQ1,2.5\nQ2,3\n");
        Path bad = folder.resolve("Broken.csv");
        Files.writeString(bad, "Quay,Depth\nQ1\n");
        try (BrowserContext context = Chromium.person()) {
            Page page = context.newPage();
            Chromium.signIn(page, service);
            page.navigate(service.address() + "/begin?source=sheets");
            page.getByRole(
                            AriaRole.TAB,
                            new Page.GetByRoleOptions().setName("Sheet").setExact(true))
                    .click();
            Locator file = page.locator("[id*=panel-sheet] input[type=file]");
            file.setInputFiles(bad);
            PlaywrightAssertions.assertThat(page.getByText("It has 1 cell")).isVisible();
            file.setInputFiles(good);
            PlaywrightAssertions.assertThat(page.locator("[id*=panel-sheet] .sql"))
                    .containsText("create table quay_plan (");
            page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Make the table and load 2 rows"))
                    .click();
            page.getByRole(
                            AriaRole.BUTTON,
                            new Page.GetByRoleOptions().setName("Yes").setExact(true))
                    .click();
            PlaywrightAssertions.assertThat(page.getByText("2 rows are in quay_plan"))
                    .isVisible();
            PlaywrightAssertions.assertThat(page.locator(".first-text")).containsText("/quay-plan/{quay}:");
        }
        assertThat(rows("select concat(quay, depth) from quay_plan")).containsExactly("Q12.5", "Q23.0");
    }
}
