package tidybridge.engine;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.Relation;

/**
 * Some rows of a table or view as texts; a null value is null. What is binary is told by its size, what is long is cut.
 *
 * @param columns the names, one for each value of a row
 */
public record SampleRows(List<String> columns, List<List<@Nullable String>> rows) {

    private static final int LONGEST_TEXT = 120;

    static SampleRows read(Connection connection, Database database, Relation relation, int most) throws SQLException {
        String columns = relation.columns().stream()
                .map(column -> database.inspection().text(column, LONGEST_TEXT))
                .collect(Collectors.joining(", "));
        String sql = "select " + columns + " from " + database.dialect().quoted(relation.name())
                + database.dialect().limit();
        List<List<@Nullable String>> rows = new ArrayList<>();
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setInt(1, most);
            try (ResultSet result = statement.executeQuery()) {
                while (result.next()) {
                    List<@Nullable String> row = new ArrayList<>();
                    for (int i = 1; i <= relation.columns().size(); i++) {
                        row.add(StoredTime.textOf(result, i));
                    }
                    rows.add(Collections.unmodifiableList(row));
                }
            }
        }
        return new SampleRows(relation.columns().stream().map(Column::name).toList(), rows);
    }
}
