package tidybridge.engine;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Access;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Described;

/** Answers a compiler's questions about one MariaDB. What the schema holds is kept for a
 * minute, or until it is asked for anew. Thread-safe. */
final class MariaDbCatalog implements Catalog {

    /** Long enough for a check of many operations, short enough that a changed schema is noticed by the next. */
    private static final Duration KEPT = Duration.ofMinutes(1);

    private final Source source;
    private volatile @Nullable Contents contents;

    MariaDbCatalog(Source source) {
        this.source = source;
    }

    @Override
    public Described describe(String sql) {
        try {
            return source.ask(connection -> {
                try (PreparedStatement statement = connection.prepareStatement(sql)) {
                    ResultSetMetaData data = statement.getMetaData();
                    return new Described.Fields(data == null ? List.of() : FieldTypes.of(data));
                }
            });
        } catch (SourceFailure e) {
            if (isOfStatement(e) && e.getCause() instanceof SQLException refused) {
                return new Described.Refused(MariaDbFailures.reason(refused));
            }
            throw new Source.Unreachable(e);
        }
    }

    @Override
    public String bounded(String sql, Duration timeout) {
        return source.bounded(sql, timeout);
    }

    @Override
    public boolean isReadOnly() {
        return source.settings().readOnly();
    }

    @Override
    public Optional<Contents> contents() {
        Contents known = contents;
        if (known != null && known.readAt().plus(KEPT).isAfter(Instant.now())) {
            return Optional.of(known);
        }
        return Optional.of(refresh());
    }

    Contents refresh() {
        try {
            Contents read = source.ask(connection ->
                    new ContentsReader(connection, source.settings().schema()).read());
            contents = read;
            return read;
        } catch (SourceFailure e) {
            throw new Source.Unreachable(e);
        }
    }

    @Override
    public List<Access> explain(String sql, List<Object> values) {
        try {
            return source.ask(connection -> {
                try (PreparedStatement statement = connection.prepareStatement(explained(sql))) {
                    for (int i = 0; i < values.size(); i++) {
                        statement.setObject(i + 1, values.get(i));
                    }
                    try (ResultSet rows = statement.executeQuery()) {
                        return accesses(rows);
                    }
                }
            });
        } catch (SourceFailure e) {
            if (isOfStatement(e)) {
                return List.of();
            }
            throw new Source.Unreachable(e);
        }
    }

    /** True when the statement is to blame, and not the way to the database. */
    private static boolean isOfStatement(SourceFailure e) {
        return !e.endsTransaction();
    }

    /** EXPLAIN stands behind a time limit, not before it. */
    private static String explained(String sql) {
        int limit = sql.startsWith("set statement ") ? sql.indexOf(" for ") + " for ".length() : 0;
        return sql.substring(0, limit) + "explain " + sql.substring(limit);
    }

    private static List<Access> accesses(ResultSet rows) throws SQLException {
        List<Access> accesses = new ArrayList<>();
        while (rows.next()) {
            String extra = text(rows.getString("Extra"));
            accesses.add(new Access(
                    rows.getInt("id"),
                    text(rows.getString("table")),
                    way(rows.getString("type")),
                    rows.getString("key"),
                    rows.getLong("rows"),
                    Arrays.stream(extra.split(";"))
                            .map(String::strip)
                            .filter(note -> !note.isEmpty())
                            .toList()));
        }
        return accesses;
    }

    private static String text(@Nullable String value) {
        return value == null ? "" : value;
    }

    private static Access.Way way(@Nullable String type) {
        return switch (text(type)) {
            case "" -> Access.Way.NONE;
            case "system", "const", "eq_ref", "unique_subquery" -> Access.Way.ONE_ROW;
            case "ref", "ref_or_null", "fulltext", "index_subquery" -> Access.Way.EQUAL;
            case "range", "index_merge" -> Access.Way.RANGE;
            case "index" -> Access.Way.WHOLE_INDEX;
            default -> Access.Way.WHOLE_TABLE;
        };
    }
}
