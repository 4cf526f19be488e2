package tidybridge.records;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.stream.Collectors;
import javax.sql.DataSource;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.FlywayException;
import tidybridge.core.archive.Manifest;
import tidybridge.core.archive.StoreArchive;
import tidybridge.core.definition.ModuleText;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * Fills an empty store from an archive. Its tables are made in the form that the archive was written in, filled in one transaction, and then
 * brought to the form of this program, as if the old store had been updated.
 */
final class StoreImport {

    private static final String TABLES = "tables/";
    private static final String JSON_LINES = ".ndjson";

    /** Rows that making the tables puts there. */
    private static final Set<String> FILLED_AT_FIRST = Set.of("access_number", "audit_head");

    private final StoreArchive archive;
    private final BiConsumer<String, Long> progress;

    private StoreImport(StoreArchive archive, BiConsumer<String, Long> progress) {
        this.archive = archive;
        this.progress = progress;
    }

    /**
     * Fills a store.
     *
     * @param store of whoever may make its tables
     * @param progress is told each table, with its rows
     * @throws RecordsFailure in one sentence when the store is not empty, the archive is of a later program, or the store refuses something;
     *     nothing is in the store then
     */
    static void fill(DataSource store, StoreArchive archive, BiConsumer<String, Long> progress) throws IOException {
        int schema = archive.manifest().schema();
        try {
            if (schema > KnownSchema.NEWEST) {
                throw new RecordsFailure("The archive was written by a later program ("
                        + archive.manifest().program() + "), whose store has the form " + schema
                        + "; this one knows the forms up to " + KnownSchema.NEWEST + ".");
            }
            try (Connection connection = store.getConnection()) {
                refuseFilled(connection);
            }
            flyway(store, schema).migrate();
            new StoreImport(archive, progress).fill(store);
            flyway(store, KnownSchema.NEWEST).migrate();
        } catch (FlywayException | SQLException e) {
            throw new RecordsFailure(
                    "The archive cannot be put into the record store: " + Records.rootReason(e) + ".", e);
        }
    }

    private static Flyway flyway(DataSource store, int schema) {
        return Records.flyway(store).target(String.valueOf(schema)).load();
    }

    private static void refuseFilled(Connection store) throws SQLException {
        for (String table : StoreExport.tables(store)) {
            try (Statement statement = store.createStatement();
                    ResultSet rows = statement.executeQuery("select 1 from `" + table + "` limit 1")) {
                if (rows.next() && !FILLED_AT_FIRST.contains(table)) {
                    throw new RecordsFailure("The record store is in use already: its table " + table
                            + " has rows. Name an empty schema in tidy.records.schema.");
                }
            }
        }
    }

    private void fill(DataSource store) throws SQLException, IOException {
        try (Connection connection = store.getConnection();
                Statement statement = connection.createStatement()) {
            connection.setAutoCommit(false);
            // the tables come in the order of their names
            statement.execute("set foreign_key_checks = 0");
            try {
                Set<String> there = Set.copyOf(StoreExport.tables(connection));
                for (Map.Entry<String, Manifest.Entry> table : tables().entrySet()) {
                    if (!there.contains(table.getKey())) {
                        throw new RecordsFailure(
                                "The archive holds a table " + table.getKey() + " that its own form does not have.");
                    }
                    if (FILLED_AT_FIRST.contains(table.getKey())) {
                        statement.execute("delete from `" + table.getKey() + "`");
                    }
                    fill(connection, table.getKey(), table.getValue());
                    progress.accept(table.getKey(), table.getValue().rows());
                }
                connection.commit();
            } finally {
                connection.rollback();
                statement.execute("set foreign_key_checks = 1");
                connection.setAutoCommit(true);
            }
        }
    }

    private Map<String, Manifest.Entry> tables() {
        return archive.manifest().files().stream()
                .filter(file -> file.name().startsWith(TABLES) && file.name().endsWith(JSON_LINES))
                .collect(Collectors.toMap(
                        file -> file.name()
                                .substring(TABLES.length(), file.name().length() - JSON_LINES.length()),
                        file -> file,
                        (one, other) -> one,
                        LinkedHashMap::new));
    }

    private void fill(Connection store, String table, Manifest.Entry file) throws SQLException, IOException {
        long rows = 0;
        try (TableFill fill = new TableFill(store, table);
                BufferedReader lines =
                        new BufferedReader(new InputStreamReader(archive.read(file.name()), StandardCharsets.UTF_8))) {
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                ObjectNode row = (ObjectNode) JsonMapper.shared().readTree(line);
                if (table.equals(StoreExport.RELEASES)) {
                    putText(row);
                }
                if (!fill.knows(row)) {
                    throw new RecordsFailure(
                            "The archive's table " + table + " has columns that its own form does not have.");
                }
                fill.add(row, line.length());
                rows++;
            }
        }
        if (rows != file.rows()) {
            throw new RecordsFailure(
                    "The archive's table " + table + " has " + rows + " rows, and should have " + file.rows() + ".");
        }
    }

    /** Puts a text together again; its digest tells whether it is the same. */
    private void putText(ObjectNode row) throws IOException {
        if (!row.has(StoreExport.FILES)) {
            return;
        }
        String folder = StoreExport.folder(
                row.path("module").asString(), row.path("version").asString());
        Map<String, String> files = new LinkedHashMap<>();
        for (JsonNode file : row.path(StoreExport.FILES)) {
            files.put(
                    file.asString(),
                    new String(archive.read(folder + file.asString()).readAllBytes(), StandardCharsets.UTF_8));
        }
        String content =
                ReleaseText.write(new ModuleText(row.path(StoreExport.FOLDER).asString(), files));
        if (!ReleaseText.hash(content).equals(row.path("content_sha256").asString())) {
            throw new RecordsFailure("The text of " + row.path("module").asString() + " "
                    + row.path("version").asString() + " is not the one that was published.");
        }
        row.remove(StoreExport.FOLDER);
        row.remove(StoreExport.FILES);
        row.put(StoreExport.CONTENT, content);
    }
}
