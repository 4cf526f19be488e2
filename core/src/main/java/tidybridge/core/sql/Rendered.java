package tidybridge.core.sql;

import java.util.List;

/**
 * A statement ready to be prepared.
 *
 * @param sql the text with a {@code ?} for each bind parameter, without comments
 * @param binds the bind parameters' names in the order of their question marks
 */
public record Rendered(String sql, List<String> binds) {
    public Rendered {
        binds = List.copyOf(binds);
    }
}
