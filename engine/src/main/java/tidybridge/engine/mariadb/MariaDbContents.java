package tidybridge.engine.mariadb;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.ColumnType;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.ForeignKey;
import tidybridge.core.catalog.Index;
import tidybridge.core.catalog.Relation;
import tidybridge.core.catalog.Routine;

/** Reads what a schema holds from the server's information schema (SQL, part 11), in one query for each kind of thing. */
final class MariaDbContents {

    /** JSON is a text with such a check. */
    private static final Pattern JSON_CHECK = Pattern.compile("\\s*json_valid\\(`?([^`)]+)`?\\)\\s*");

    private final Connection connection;
    private final String schema;

    MariaDbContents(Connection connection, String schema) {
        this.connection = connection;
        this.schema = schema;
    }

    Contents read() throws SQLException {
        return new Contents(schema, Instant.now().truncatedTo(ChronoUnit.SECONDS), relations(), routines());
    }

    /** Takes one row of a result. */
    private interface RowTaker {
        void take(ResultSet row) throws SQLException;
    }

    private void each(String sql, RowTaker taker) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setString(1, schema);
            try (ResultSet rows = statement.executeQuery()) {
                while (rows.next()) {
                    taker.take(rows);
                }
            }
        }
    }

    private List<Relation> relations() throws SQLException {
        Map<String, List<Column>> columns = columns();
        Map<String, List<Index>> indexes = indexes();
        Map<String, List<ForeignKey>> foreignKeys = foreignKeys();
        Map<String, List<Relation.Check>> checks = checks();
        Set<String> transactional = transactionalEngines();
        Map<String, String> definitions = viewDefinitions();
        List<Relation> relations = new ArrayList<>();
        each("""
                select table_name, table_type, engine, table_rows, table_comment
                from information_schema.tables
                where table_schema = ? and table_type in ('BASE TABLE', 'VIEW', 'SYSTEM VERSIONED', 'SYSTEM VIEW')
                order by table_name""", row -> {
            String name = row.getString(1);
            boolean view = row.getString(2).endsWith("VIEW");
            long rows = row.getLong(4);
            relations.add(new Relation(
                    name,
                    view ? Relation.Kind.VIEW : Relation.Kind.TABLE,
                    row.wasNull() ? -1 : rows,
                    view ? trouble(text(row.getString(5))) : text(row.getString(5)),
                    view || transactional.contains(text(row.getString(3))),
                    definitions.get(name),
                    columns.getOrDefault(name, List.of()),
                    indexes.getOrDefault(name, List.of()),
                    foreignKeys.getOrDefault(name, List.of()),
                    checks.getOrDefault(name, List.of())));
        });
        return relations;
    }

    /** In the place of a view's comment the database says what is wrong with it. */
    private static String trouble(String comment) {
        return comment.isEmpty() || comment.equals("VIEW") ? "" : "broken: " + comment;
    }

    /** Empty for a view whose text the user may not see, which is no definition. */
    private Map<String, String> viewDefinitions() throws SQLException {
        Map<String, String> definitions = new HashMap<>();
        each("select table_name, view_definition from information_schema.views where table_schema = ?", row -> {
            String definition = text(row.getString(2));
            if (!definition.isBlank()) {
                definitions.put(row.getString(1), definition);
            }
        });
        return definitions;
    }

    private Set<String> transactionalEngines() throws SQLException {
        Set<String> engines = new HashSet<>();
        each(
                "select engine from information_schema.engines where transactions = 'YES' and ? is not null",
                row -> engines.add(row.getString(1)));
        return engines;
    }

    private Map<String, List<Column>> columns() throws SQLException {
        Set<String> json = jsonColumns();
        Map<String, List<Column>> columns = new HashMap<>();
        each("""
                select table_name, column_name, column_default, is_nullable, data_type, column_type, character_maximum_length,
                  numeric_precision, numeric_scale, collation_name, extra, column_comment
                from information_schema.columns
                where table_schema = ?
                order by table_name, ordinal_position""", row -> {
            String table = row.getString(1);
            String name = row.getString(2);
            String extra = text(row.getString(11)).toUpperCase(Locale.ROOT);
            String defaultText = row.getString(3);
            columns.computeIfAbsent(table, key -> new ArrayList<>())
                    .add(new Column(
                            name,
                            json.contains(table + "." + name) ? type(row, 5, "json", "json") : type(row, 5, null, null),
                            row.getString(4).equals("YES"),
                            "NULL".equals(defaultText) ? null : defaultText,
                            extra.contains("GENERATED"),
                            extra.contains("AUTO_INCREMENT"),
                            text(row.getString(12))));
        });
        return columns;
    }

    /** Reads data type, whole type, length, precision, scale and collation from six columns of a row. */
    private static ColumnType type(ResultSet row, int first, @Nullable String base, @Nullable String whole)
            throws SQLException {
        String text = whole == null ? text(row.getString(first + 1)) : whole;
        return new ColumnType(
                text,
                base == null ? text(row.getString(first)).toLowerCase(Locale.ROOT) : base,
                text.toLowerCase(Locale.ROOT).contains("unsigned"),
                number(row, first + 2),
                integer(row, first + 3),
                integer(row, first + 4),
                row.getString(first + 5),
                ColumnType.members(text));
    }

    private static @Nullable Long number(ResultSet row, int column) throws SQLException {
        long value = row.getLong(column);
        return row.wasNull() ? null : value;
    }

    private static @Nullable Integer integer(ResultSet row, int column) throws SQLException {
        int value = row.getInt(column);
        return row.wasNull() ? null : value;
    }

    private static String text(@Nullable String value) {
        return value == null ? "" : value;
    }

    private Set<String> jsonColumns() throws SQLException {
        Set<String> columns = new HashSet<>();
        each(
                """
                select table_name, check_clause
                from information_schema.check_constraints
                where constraint_schema = ? and check_clause like '%json_valid%'""",
                row -> {
                    Matcher matcher = JSON_CHECK.matcher(row.getString(2));
                    if (matcher.matches()) {
                        columns.add(row.getString(1) + "." + matcher.group(1));
                    }
                });
        return columns;
    }

    private Map<String, List<Relation.Check>> checks() throws SQLException {
        Map<String, List<Relation.Check>> checks = new HashMap<>();
        each(
                """
                select table_name, constraint_name, check_clause
                from information_schema.check_constraints
                where constraint_schema = ?
                order by table_name, constraint_name""",
                row -> checks.computeIfAbsent(row.getString(1), key -> new ArrayList<>())
                        .add(new Relation.Check(row.getString(2), row.getString(3))));
        return checks;
    }

    private Map<String, List<Index>> indexes() throws SQLException {
        Map<String, Map<String, List<String>>> columns = new HashMap<>();
        Map<String, Boolean> unique = new HashMap<>();
        Set<String> ofWords = new HashSet<>();
        each("""
                select table_name, index_name, column_name, non_unique, index_type
                from information_schema.statistics
                where table_schema = ?
                order by table_name, index_name = 'PRIMARY' desc, index_name, seq_in_index""", row -> {
            columns.computeIfAbsent(row.getString(1), key -> new LinkedHashMap<>())
                    .computeIfAbsent(row.getString(2), key -> new ArrayList<>())
                    .add(row.getString(3));
            unique.put(row.getString(1) + "." + row.getString(2), row.getInt(4) == 0);
            if ("FULLTEXT".equals(row.getString(5))) {
                ofWords.add(row.getString(1) + "." + row.getString(2));
            }
        });
        Map<String, List<Index>> indexes = new HashMap<>();
        columns.forEach((table, byName) ->
                byName.forEach((name, names) -> indexes.computeIfAbsent(table, key -> new ArrayList<>())
                        .add(new Index(
                                name,
                                unique.getOrDefault(table + "." + name, false),
                                name.equals("PRIMARY"),
                                ofWords.contains(table + "." + name),
                                names))));
        return indexes;
    }

    private Map<String, List<ForeignKey>> foreignKeys() throws SQLException {
        Map<String, Map<String, List<String[]>>> rows = new HashMap<>();
        each(
                """
                select table_name, constraint_name, column_name, referenced_table_name, referenced_column_name
                from information_schema.key_column_usage
                where table_schema = ? and referenced_table_name is not null
                order by table_name, constraint_name, ordinal_position""",
                row -> rows.computeIfAbsent(row.getString(1), key -> new LinkedHashMap<>())
                        .computeIfAbsent(row.getString(2), key -> new ArrayList<>())
                        .add(new String[] {row.getString(3), row.getString(4), row.getString(5)}));
        Map<String, List<ForeignKey>> keys = new HashMap<>();
        rows.forEach((table, byName) ->
                byName.forEach((name, parts) -> keys.computeIfAbsent(table, key -> new ArrayList<>())
                        .add(new ForeignKey(
                                name,
                                parts.stream().map(part -> part[0]).toList(),
                                parts.getFirst()[1],
                                parts.stream().map(part -> part[2]).toList()))));
        return keys;
    }

    private List<Routine> routines() throws SQLException {
        Map<String, List<Routine.Parameter>> parameters = new HashMap<>();
        Map<String, ColumnType> returns = new HashMap<>();
        each("""
                select specific_name, routine_type, ordinal_position, parameter_mode, parameter_name, data_type, dtd_identifier,
                  character_maximum_length, numeric_precision, numeric_scale, collation_name
                from information_schema.parameters
                where specific_schema = ?
                order by specific_name, ordinal_position""", row -> {
            String routine = row.getString(2) + " " + row.getString(1);
            if (row.getInt(3) == 0) {
                returns.put(routine, type(row, 6, null, null));
            } else {
                parameters
                        .computeIfAbsent(routine, key -> new ArrayList<>())
                        .add(new Routine.Parameter(row.getString(5), mode(row.getString(4)), type(row, 6, null, null)));
            }
        });
        List<Routine> routines = new ArrayList<>();
        each("""
                select routine_name, routine_type, sql_data_access, routine_comment
                from information_schema.routines
                where routine_schema = ? and routine_type in ('PROCEDURE', 'FUNCTION')
                order by routine_name""", row -> {
            String key = row.getString(2) + " " + row.getString(1);
            routines.add(new Routine(
                    row.getString(1),
                    row.getString(2).equals("PROCEDURE") ? Routine.Kind.PROCEDURE : Routine.Kind.FUNCTION,
                    returns.get(key),
                    parameters.getOrDefault(key, List.of()),
                    access(text(row.getString(3))),
                    text(row.getString(4))));
        });
        return routines;
    }

    private static Routine.Mode mode(@Nullable String mode) {
        return switch (text(mode)) {
            case "OUT" -> Routine.Mode.OUT;
            case "INOUT" -> Routine.Mode.INOUT;
            default -> Routine.Mode.IN;
        };
    }

    private static Routine.Access access(String declared) {
        return switch (declared) {
            case "NO SQL" -> Routine.Access.NO_SQL;
            case "READS SQL DATA" -> Routine.Access.READS_DATA;
            case "MODIFIES SQL DATA" -> Routine.Access.MODIFIES_DATA;
            default -> Routine.Access.CONTAINS_SQL;
        };
    }
}
