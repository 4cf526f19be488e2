package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.StringReader;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.apache.commons.csv.CSVFormat;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.demo.TestDatabase;
import tidybridge.service.Launched.Ended;
import tools.jackson.databind.json.JsonMapper;

/** {@code ./tidy call --all}: every row into a file, gone on with where it was cut off. */
class ExportCommandTest {

    private static final int ROWS = 3_000;

    private static RunningService service;

    @TempDir
    Path folder;

    @BeforeAll
    static void publish() throws Exception {
        service = SharedService.get();
        TestDatabase.execute(
                "waterways",
                "create or replace table export_note (kind varchar(30), id int, note varchar(200), primary key (kind, id))",
                "insert into export_note select elt(1 + seq % 3, 'a, b', '=c', 'd\\\\e'), seq,"
                        + " if(seq % 7 = 0, concat('line one\\n\"line two\", ', seq), if(seq % 5 = 0, null, 'plain'))"
                        + " from seq_1_to_" + ROWS);
        service.post("/desk/sources/waterways/refresh", Map.of());
        String yaml = """
                module: exported
                version: 1.0.0
                title: Exported
                source: waterways
                public: true
                routes:
                  /notes:
                    get:
                      about: Notes
                      sql: notes.sql
                      answer: rows
                      order: [kind, id desc]
                      formats: [csv, ndjson, xlsx]
                      page: { limit: 100, all: true, most-all: 700, jumps: true }
                  /ending:
                    get:
                      about: Notes that one answer cannot hold
                      sql: notes.sql
                      answer: rows
                      order: [kind, id desc]
                      formats: csv
                      page: { all: true, most-all: 700 }
                  /paged:
                    get: { about: Notes in pages only, sql: notes.sql, answer: rows, order: [kind, id desc], page: { limit: 170 } }
                """;
        HttpResponse<String> response =
                service.publish(yaml, Map.of("notes.sql", "select kind, id, note from export_note"));
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
    }

    @AfterAll
    static void drop() throws Exception {
        TestDatabase.execute("waterways", "drop table export_note");
    }

    private static Ended tidy(String... words) throws Exception {
        return new Launched(service).tidy(words);
    }

    private String fetched(String name) throws Exception {
        Path file = folder.resolve(name);
        Ended ended = tidy("call", "GET", "exported/v1/notes", "--all", "--to", file.toString());
        assertThat(ended.code()).as(ended.err()).isZero();
        assertThat(folder.resolve(name + ".part")).doesNotExist();
        assertThat(folder.resolve(name + ".part.json")).doesNotExist();
        return Files.readString(file);
    }

    /** One answer holds 700 rows: the command goes on until there are no more. */
    @ParameterizedTest
    @CsvSource({"csv", "ndjson"})
    void everyRowIsFetchedOnceInItsOrder(String format) throws Exception {
        String text = fetched("notes." + format);
        List<String> ids = TestDatabase.column("select id from export_note order by kind, id desc");
        List<String> found = format.equals("csv")
                ? CSVFormat.RFC4180
                        .builder()
                        .setHeader()
                        .setSkipHeaderRecord(true)
                        .get()
                        .parse(new StringReader(text))
                        .stream()
                        .map(row -> row.get("id"))
                        .toList()
                : text.lines()
                        .map(line ->
                                JsonMapper.shared().readTree(line).path("id").asString())
                        .toList();
        assertThat(found).isEqualTo(ids);
    }

    /** Wherever the first run was cut off, within a row or between two, both runs together make the same file. */
    @ParameterizedTest
    @ValueSource(strings = {"csv", "ndjson"})
    void aSecondRunGoesOnBehindTheLastWholeRow(String format) throws Exception {
        byte[] whole = fetched("whole." + format).getBytes(StandardCharsets.UTF_8);
        for (int cut : new int[] {20, 200, 5_000, whole.length / 2, whole.length - 3, whole.length}) {
            String name = "cut" + cut + "." + format;
            Files.write(folder.resolve(name + ".part"), Arrays.copyOf(whole, cut));
            Files.writeString(
                    folder.resolve(name + ".part.json"),
                    "{\"address\":\"/api/exported/v1/notes?limit=all&format=" + format
                            + "\",\"key\":[\"kind\",\"id\"]}");
            assertThat(fetched(name)).as("cut at " + cut).isEqualTo(new String(whole, StandardCharsets.UTF_8));
        }
    }

    @Test
    void anotherCallsBeginningIsNotGoneOnWith() throws Exception {
        Files.writeString(folder.resolve("n.csv.part"), "kind,id,note\r\n");
        Files.writeString(folder.resolve("n.csv.part.json"), "{\"address\":\"/api/other\",\"key\":[\"id\"]}");
        Ended ended = tidy(
                "call",
                "GET",
                "exported/v1/notes",
                "--all",
                "--to",
                folder.resolve("n.csv").toString());
        assertThat(ended.code()).isEqualTo(1);
        assertThat(ended.err()).contains("another call's answer");
    }

    @Test
    void whatOffersNoAnswerOfAllRowsIsReadPageByPage() throws Exception {
        Ended ended = tidy("call", "GET", "exported/v1/paged", "--all");
        assertThat(ended.code()).as(ended.err()).isZero();
        assertThat(ended.out().lines()).hasSize(ROWS).first().asString().startsWith("{\"kind\":");
        assertThat(ended.err()).contains("3,000 rows");
    }

    /** What may not be whole is not given the name of the file. */
    @Test
    void anAnswerThatMayNotBeWholeIsRefused() throws Exception {
        Path file = folder.resolve("ending.csv");
        Ended ended = tidy("call", "GET", "exported/v1/ending", "--all", "--to", file.toString());
        assertThat(ended.code()).isEqualTo(1);
        assertThat(ended.err()).contains("700 rows, as many as one may have");
        assertThat(file).doesNotExist();
    }

    @Test
    void aSpreadsheetIsFetchedWhole() throws Exception {
        Path file = folder.resolve("notes.xlsx");
        Ended ended = tidy("call", "GET", "exported/v1/notes", "--to", file.toString());
        assertThat(ended.code()).isZero();
        assertThat(ended.err()).contains("one answer has 700 rows at most");
        try (ReadableWorkbook book = new ReadableWorkbook(file.toFile())) {
            assertThat(book.getFirstSheet().read()).hasSize(701);
        }
    }

    @Test
    void aFormatIsPrintedAsItComes() throws Exception {
        assertThat(tidy("call", "GET", "exported/v1/notes", "limit=1", "fields=id", "--format", "csv")
                        .err())
                .contains("'fields' is not known here");
        assertThat(tidy("call", "GET", "exported/v1/notes", "limit=1", "--format", "ndjson")
                        .out())
                .startsWith("{\"kind\":\"=c\"")
                .endsWith("}\n");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            call GET exported/v1/notes limit=3 --all        | 2 | leave limit= and format= out
            call POST exported/v1/notes --all               | 2 | GET without a body
            call GET exported/v1/notes --all --format pdf   | 1 | can only be
            call GET exported/v1/nots --all                 | 1 | 404
            """)
    void mistakesAreNamed(String command, int code, String words) throws Exception {
        Ended ended = tidy(command.split(" "));
        assertThat(ended.code()).isEqualTo(code);
        assertThat(ended.err()).contains(words);
    }
}
