package tidybridge.records;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import tidybridge.core.archive.ArchiveWriter;
import tidybridge.core.archive.Manifest;
import tidybridge.core.definition.ModuleText;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * Writes the whole store, as it is at one moment, into an archive: a file of JSON lines for each table, and the texts of releases as the
 * files they are. It knows no table but that of releases, so that it writes the form of any program. Rows are streamed.
 */
final class StoreExport {

    static final String RELEASES = "module_release";
    static final String CONTENT = "content";
    static final String FOLDER = "text_folder";
    static final String FILES = "text_files";

    /** What a store says of itself, and what its nodes say of themselves, belongs to no other. */
    static final Set<String> LEFT_OUT = Set.of("schema_version", "node");

    private static final int ROWS_AT_ONCE = 50;

    private final Connection store;
    private final ArchiveWriter archive;

    private StoreExport(Connection store, ArchiveWriter archive) {
        this.store = store;
        this.archive = archive;
    }

    /**
     * Writes an archive.
     *
     * @param out is not closed
     * @param program says which program writes it
     * @throws RecordsFailure when the store cannot be read
     */
    static Manifest write(DataSource pool, OutputStream out, String program, Instant at) throws IOException {
        try (Connection store = pool.getConnection();
                Statement statement = store.createStatement()) {
            statement.execute("start transaction with consistent snapshot, read only");
            try {
                StoreExport export = new StoreExport(store, new ArchiveWriter(out));
                for (String table : tables(store)) {
                    export.table(table);
                }
                export.texts();
                return export.archive.end(program, at, schema(store));
            } finally {
                statement.execute("rollback");
            }
        } catch (SQLException e) {
            throw new RecordsFailure("The record store cannot be read: " + e.getMessage() + ".", e);
        }
    }

    /** The tables that are part of an archive, by name. */
    static List<String> tables(Connection store) throws SQLException {
        List<String> tables = new ArrayList<>();
        try (Statement statement = store.createStatement();
                ResultSet found = statement.executeQuery(
                        "select table_name from information_schema.tables where table_schema = database() and table_type = 'BASE TABLE' order by 1")) {
            while (found.next()) {
                if (!LEFT_OUT.contains(found.getString(1))) {
                    tables.add(found.getString(1));
                }
            }
        }
        return tables;
    }

    /** The number of the newest migration. */
    static int schema(Connection store) throws SQLException {
        try (Statement statement = store.createStatement();
                ResultSet newest = statement.executeQuery(
                        "select max(cast(version as unsigned)) from schema_version where success")) {
            newest.next();
            return newest.getInt(1);
        }
    }

    private void table(String table) throws IOException {
        archive.add("tables/" + table + ".ndjson", out -> {
            try {
                return rows(table, out);
            } catch (SQLException e) {
                throw new RecordsFailure("The table " + table + " cannot be read: " + e.getMessage() + ".", e);
            }
        });
    }

    private long rows(String table, OutputStream out) throws SQLException, IOException {
        long count = 0;
        try (Statement statement = streaming();
                ResultSet rows = statement.executeQuery("select * from `" + table + "` order by 1")) {
            RowJson json = new RowJson(rows.getMetaData());
            while (rows.next()) {
                ObjectNode row = json.read(rows);
                if (table.equals(RELEASES)) {
                    leaveTextOut(row);
                }
                out.write(JsonMapper.shared().writeValueAsBytes(row));
                out.write('\n');
                count++;
            }
        }
        return count;
    }

    private Statement streaming() throws SQLException {
        Statement statement = store.createStatement();
        statement.setFetchSize(ROWS_AT_ONCE);
        return statement;
    }

    private static void leaveTextOut(ObjectNode row) {
        ModuleText text = inFiles(row.path(CONTENT).asString());
        if (text != null) {
            row.remove(CONTENT);
            row.put(FOLDER, text.folder());
            row.set(FILES, JsonMapper.shared().valueToTree(text.files().keySet()));
        }
    }

    /** The text, when it would be put together again byte for byte; null otherwise. */
    private static @Nullable ModuleText inFiles(String content) {
        ModuleText text = ReleaseText.read(content);
        return ReleaseText.write(text).equals(content) ? text : null;
    }

    /** The texts of releases as the files they are. */
    private void texts() throws SQLException, IOException {
        try (Statement statement = streaming();
                ResultSet rows =
                        statement.executeQuery("select module, version, content from " + RELEASES + " order by id")) {
            while (rows.next()) {
                String folder = folder(rows.getString(1), rows.getString(2));
                ModuleText text = inFiles(rows.getString(3));
                if (text != null) {
                    for (Map.Entry<String, String> file : text.files().entrySet()) {
                        archive.add(folder + file.getKey(), out -> {
                            out.write(file.getValue().getBytes(StandardCharsets.UTF_8));
                            return 0;
                        });
                    }
                }
            }
        }
    }

    /** Where the text of a release lies in an archive. */
    static String folder(String module, String version) {
        return "releases/" + module + "/" + version + "/";
    }
}
