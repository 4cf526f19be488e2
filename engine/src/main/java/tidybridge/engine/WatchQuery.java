package tidybridge.engine;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The first rows of a query as texts; null for NULL. */
public record WatchQuery(List<String> columns, List<List<@Nullable String>> rows) {

    private static final int MOST_ROWS = 20;
    private static final int LONGEST_TEXT = 1_000;

    private static @Nullable String cut(@Nullable String text) {
        return text == null || text.length() <= LONGEST_TEXT ? text : text.substring(0, LONGEST_TEXT) + "...";
    }

    /** Asks inside a transaction, so that what it did is seen. */
    public static WatchQuery ask(Transaction transaction, String sql) throws SourceFailure {
        return transaction.ask(connection -> {
            try (PreparedStatement statement = connection.prepareStatement(sql)) {
                statement.setMaxRows(MOST_ROWS);
                try (ResultSet result = statement.executeQuery()) {
                    int count = result.getMetaData().getColumnCount();
                    List<String> columns = new ArrayList<>();
                    for (int i = 1; i <= count; i++) {
                        columns.add(result.getMetaData().getColumnLabel(i));
                    }
                    List<List<@Nullable String>> rows = new ArrayList<>();
                    while (result.next()) {
                        List<@Nullable String> row = new ArrayList<>();
                        for (int i = 1; i <= count; i++) {
                            row.add(cut(StoredTime.textOf(result, i)));
                        }
                        rows.add(Collections.unmodifiableList(row));
                    }
                    return new WatchQuery(columns, rows);
                }
            }
        });
    }
}
