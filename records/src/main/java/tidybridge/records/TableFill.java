package tidybridge.records;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** Inserts rows into one table, some together. Used by one thread. */
final class TableFill implements AutoCloseable {

    private static final int ROWS_TOGETHER = 200;
    private static final int CHARACTERS_TOGETHER = 1_000_000;

    private final Connection store;
    private final String table;
    private final RowJson form;
    private List<String> columns = List.of();
    private @Nullable PreparedStatement statement;
    private int rows;
    private int characters;

    TableFill(Connection store, String table) throws SQLException {
        this.store = store;
        this.table = table;
        try (Statement asking = store.createStatement();
                ResultSet none = asking.executeQuery("select * from `" + table + "` limit 0")) {
            this.form = new RowJson(none.getMetaData());
        }
    }

    /** True when the table has every column that a row names. */
    boolean knows(JsonNode row) {
        return form.knows(row);
    }

    /**
     * Adds a row; the columns it does not name get what the table gives them.
     *
     * @param length how many characters it has, about
     */
    void add(JsonNode row, int length) throws SQLException {
        PreparedStatement insert = insert(form.names(row));
        form.bind(row, insert);
        insert.addBatch();
        rows++;
        characters += length;
        if (rows >= ROWS_TOGETHER || characters >= CHARACTERS_TOGETHER) {
            end();
        }
    }

    private PreparedStatement insert(List<String> names) throws SQLException {
        if (statement != null && columns.equals(names)) {
            return statement;
        }
        close();
        columns = names;
        PreparedStatement prepared =
                store.prepareStatement("insert into `" + table + "` (`" + String.join("`, `", names) + "`) values ("
                        + String.join(", ", names.stream().map(name -> "?").toList()) + ")");
        statement = prepared;
        return prepared;
    }

    /** Sends what has not been sent. */
    void end() throws SQLException {
        if (statement != null && rows > 0) {
            statement.executeBatch();
        }
        rows = 0;
        characters = 0;
    }

    @Override
    public void close() throws SQLException {
        if (statement != null) {
            end();
            statement.close();
        }
    }
}
