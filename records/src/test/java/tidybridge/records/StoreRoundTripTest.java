package tidybridge.records;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.sql.Types;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.mariadb.jdbc.MariaDbDataSource;
import tidybridge.core.archive.ArchiveWriter;
import tidybridge.core.archive.Manifest;
import tidybridge.core.archive.StoreArchive;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;
import tidybridge.demo.TestDatabase;

/** A whole store goes into an archive and comes out of it as it was. */
class StoreRoundTripTest {

    private static final String FROM = "tidy_records_from";
    private static final String TO = "tidy_records_to";
    private static final Instant AT = Instant.parse("2031-05-01T10:00:00Z");

    @TempDir
    Path folder;

    @BeforeEach
    void empty() throws Exception {
        TestDatabase.emptyRecords(FROM);
        TestDatabase.emptyRecords(TO);
    }

    private static RecordsSettings settings(String schema) {
        return new RecordsSettings(
                "127.0.0.1", TestDatabase.server().port(), schema, schema, TestDatabase.PASSWORD, false);
    }

    private static MariaDbDataSource source(String schema) throws Exception {
        MariaDbDataSource source = new MariaDbDataSource(
                "jdbc:mariadb://127.0.0.1:" + TestDatabase.server().port() + "/" + schema);
        source.setUser(schema);
        source.setPassword(TestDatabase.PASSWORD);
        return source;
    }

    /** Something in every table. */
    private static void fill() throws Exception {
        try (Records records = Records.open(settings(FROM))) {
            for (int i = 0; i < 3; i++) {
                Map<String, String> files = Map.of(
                        "module.yaml",
                        "title: Bérths \"" + i + "\"\r\n\ttab, and a \\ too",
                        "berths.sql",
                        "select '\u2028' as line, '\ud83d\udea2' as ship");
                Long live = records.releases().live().stream().findFirst().orElse(null);
                KeptContract kept = new KeptContract("{}", "{}", "[]", live, "[]", "Note 'é'", null, null);
                NewRelease release = new NewRelease(
                        "moorings",
                        new Version(1, i, 0),
                        "waterways",
                        new ModuleText("modules/moorings", files),
                        kept,
                        live);
                records.reviews().ask(release, new Publisher("mara", null, AT));
                records.releaseChanges()
                        .publish(List.of(release), new Publisher("mara", "127.0.0.1", AT.plusMillis(i)));
            }
            records.secret("mask-key", () -> "00ff");
            records.drift()
                    .keep(new DriftRecords.Entry(records.releases().live().getFirst(), AT, "[]"));
        }
        // the other tables by their columns, whatever they are
        try (Connection store = source(FROM).getConnection();
                Statement statement = store.createStatement()) {
            statement.execute("set foreign_key_checks = 0");
            for (String table : StoreExport.tables(store)) {
                if (rows(FROM, table).isEmpty()) {
                    statement.execute(sample(store, table));
                }
            }
        }
    }

    /** A row whose values are as unlike as their types allow. */
    private static String sample(Connection store, String table) throws Exception {
        List<String> values = new ArrayList<>();
        try (Statement statement = store.createStatement();
                ResultSet columns = statement.executeQuery(
                        "select data_type, character_maximum_length, is_nullable, ordinal_position from information_schema.columns where table_schema = database() and table_name = '"
                                + table + "' order by ordinal_position")) {
            while (columns.next()) {
                values.add(
                        switch (columns.getString(1)) {
                            case "int", "bigint" -> String.valueOf(columns.getInt(4) + 40);
                            case "tinyint" -> "1";
                            case "datetime" -> "'2031-02-03 04:05:06.789'";
                            case "binary", "varbinary", "blob", "mediumblob", "longblob" -> "0x00ff0a0d22";
                            default ->
                                columns.getString(3).equals("YES")
                                        ? "null"
                                        : "left('é\"\\\\ \\n,x', " + Math.min(columns.getInt(2), 20) + ")";
                        });
            }
        }
        return "insert into `" + table + "` values (" + String.join(", ", values) + ")";
    }

    private static List<String> rows(String schema, String table) throws Exception {
        List<String> all = new ArrayList<>();
        try (Connection store = source(schema).getConnection();
                Statement statement = store.createStatement();
                ResultSet rows = statement.executeQuery("select * from `" + table + "` order by 1")) {
            while (rows.next()) {
                List<String> row = new ArrayList<>();
                for (int i = 1; i <= rows.getMetaData().getColumnCount(); i++) {
                    if (rows.getMetaData().getColumnType(i) == Types.TIMESTAMP) {
                        row.add(String.valueOf(rows.getObject(i, LocalDateTime.class)));
                        continue;
                    }
                    boolean text = !rows.getMetaData().getColumnTypeName(i).matches("(?i).*(blob|binary).*");
                    row.add(text ? rows.getString(i) : Arrays.toString(rows.getBytes(i)));
                }
                all.add(String.join("|", row));
            }
        }
        return all;
    }

    private static Map<String, List<String>> everything(String schema) throws Exception {
        Map<String, List<String>> all = new TreeMap<>();
        try (Connection store = source(schema).getConnection()) {
            for (String table : StoreExport.tables(store)) {
                all.put(table, rows(schema, table));
            }
        }
        return all;
    }

    private Path archive(String schema) throws Exception {
        Path file = folder.resolve(schema + ".zip");
        try (Records records = Records.open(settings(schema));
                OutputStream out = Files.newOutputStream(file)) {
            records.archive(out, "0.1.0", AT);
        }
        return file;
    }

    private static void restore(Path file) throws Exception {
        try (StoreArchive archive = StoreArchive.open(file)) {
            Records.restore(settings(TO), archive, (table, rows) -> {});
        }
    }

    private static Map<String, String> digests(Path file) throws Exception {
        try (StoreArchive archive = StoreArchive.open(file)) {
            return archive.manifest().files().stream()
                    .collect(Collectors.toMap(Manifest.Entry::name, Manifest.Entry::sha256));
        }
    }

    @Test
    void everyRowOfEveryTableComesBack() throws Exception {
        fill();
        Map<String, List<String>> before = everything(FROM);
        assertThat(before)
                .allSatisfy((table, rows) -> assertThat(rows).as(table).isNotEmpty());
        Path file = archive(FROM);
        restore(file);
        assertThat(everything(TO)).isEqualTo(before);
        assertThat(digests(archive(TO))).isEqualTo(digests(file));
        try (StoreArchive archive = StoreArchive.open(file)) {
            assertThat(new String(
                            archive.read("releases/moorings/1.2.0/module.yaml").readAllBytes()))
                    .as("texts are the files they are")
                    .startsWith("title: Bérths \"2\"\r\n");
        }
        try (Records records = Records.open(settings(TO))) {
            assertThat(records.releases().find("moorings", new Version(1, 2, 0)))
                    .isPresent();
            assertThat(records.releases().live()).hasSize(1);
        }
    }

    @Test
    void aStoreInUseIsNotFilled() throws Exception {
        fill();
        Path file = archive(FROM);
        restore(file);
        Map<String, List<String>> before = everything(TO);
        assertThatThrownBy(() -> restore(file))
                .isInstanceOf(RecordsFailure.class)
                .hasMessageStartingWith("The record store is in use already: its table ");
        assertThat(everything(TO)).isEqualTo(before);
    }

    /** What cannot be put there whole leaves the store empty, and an archive that is whole goes in afterwards. */
    @Test
    void whatDoesNotFitLeavesTheStoreEmpty() throws Exception {
        fill();
        Path whole = archive(FROM);
        Path unfit = folder.resolve("unfit.zip");
        try (StoreArchive archive = StoreArchive.open(whole);
                OutputStream out = Files.newOutputStream(unfit)) {
            ArchiveWriter writer = new ArchiveWriter(out);
            for (Manifest.Entry entry : archive.manifest().files()) {
                writer.add(entry.name(), file -> {
                    file.write(archive.read(entry.name()).readAllBytes());
                    if (entry.name().equals("tables/session.ndjson")) {
                        file.write("{\"id\":\"one more\",\"colour\":\"red\"}\n".getBytes());
                    }
                    return entry.rows();
                });
            }
            writer.end("0.1.0", AT, archive.manifest().schema());
        }
        assertThatThrownBy(() -> restore(unfit))
                .isInstanceOf(RecordsFailure.class)
                .hasMessage("The archive's table session has columns that its own form does not have.");
        assertThat(rows(TO, "module_release")).isEmpty();
        restore(whole);
        assertThat(everything(TO)).isEqualTo(everything(FROM));
    }

    /** The tables are made as they were, and brought up to date with their rows. */
    @Test
    void anArchiveOfAnEarlierProgramIsBroughtUpToDate() throws Exception {
        Records.flyway(source(FROM)).target("10").load().migrate();
        TestDatabase.execute(
                FROM,
                "insert into module_release (id, module, major, version, source, content, content_sha256, published_by, published_at) values (7, 'locks', 1, '1.0.0', 'waterways', '{ \"folder\": \"old\", \"files\": {} }', repeat('a', 64), 'joss', '2030-01-01')",
                "insert into live_release values ('locks', 1, 7)");
        Path file = folder.resolve("old.zip");
        try (OutputStream out = Files.newOutputStream(file)) {
            StoreExport.write(source(FROM), out, "0.0.9", AT);
        }
        restore(file);
        try (Records records = Records.open(settings(TO))) {
            assertThat(records.releases().live()).containsExactly(7L);
            assertThat(records.releases().changes("locks"))
                    .as("a later migration makes it of what was live")
                    .hasSize(1);
        }
        assertThat(rows(TO, "module_release")).hasSize(1);
    }

    @Test
    void anArchiveOfALaterProgramIsRefused() throws Exception {
        Path file = folder.resolve("late.zip");
        try (OutputStream out = Files.newOutputStream(file)) {
            new ArchiveWriter(out).end("9.0.0", AT, 99);
        }
        assertThatThrownBy(() -> restore(file))
                .isInstanceOf(RecordsFailure.class)
                .hasMessageStartingWith(
                        "The archive was written by a later program (9.0.0), whose store has the form 99;");
    }
}
