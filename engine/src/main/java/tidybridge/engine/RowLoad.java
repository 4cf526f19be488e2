package tidybridge.engine;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.function.LongConsumer;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Relation;
import tidybridge.core.condition.Condition;
import tidybridge.core.sheet.BadRows;
import tidybridge.core.sql.Dialect;

/** Puts many rows into a table, in batches and in one transaction: all of them are kept, or none. Used by one thread. */
final class RowLoad {

    private static final int BATCH = 500;

    /** A batch waits in memory, in bytes. */
    private static final long LARGEST_BATCH = 2L * 1024 * 1024;

    private static final int USUAL_VALUE = 24;

    /** A load is not held up by the limit of one statement. */
    private static final Duration LONGEST = Duration.ofHours(1);

    private final ConnectionPool pool;
    private final Database database;
    private final SourceSettings settings;

    RowLoad(ConnectionPool pool, Database database, SourceSettings settings) {
        this.pool = pool;
        this.database = database;
        this.settings = settings;
    }

    <E extends Exception> long run(
            Relation table, List<String> columns, Source.RowSupply<E> rows, LongConsumer progress, BadRows bad)
            throws SourceFailure, E {
        pool.takeTurn();
        try (Lease lease = pool.connect()) {
            Connection connection = lease.physical();
            boolean kept = false;
            TransactionSettings wanted =
                    new TransactionSettings(null, false, LONGEST, TransactionSettings.Ending.COMMIT);
            String branch = UUID.randomUUID().toString();
            database.sessions().begin(connection, wanted, settings.readOnly(), branch);
            try {
                long loaded = load(connection, insert(table, columns), rows, progress, bad);
                if (bad.isEmpty()) {
                    database.sessions().commit(connection);
                    kept = true;
                }
                return loaded;
            } finally {
                // triggers may leave anything behind
                lease.touched();
                if (!kept && !lease.isClosed()) {
                    database.sessions().undo(connection, wanted.ending(), branch);
                }
            }
        } catch (SQLException e) {
            throw pool.failure(e);
        } finally {
            pool.giveTurnBack();
        }
    }

    private String insert(Relation table, List<String> columns) {
        Dialect dialect = database.dialect();
        return "insert into " + dialect.named(table.name())
                + columns.stream().map(dialect::named).collect(Collectors.joining(", ", " (", ")"))
                + columns.stream().map(column -> "?").collect(Collectors.joining(", ", " values (", ")"));
    }

    private <E extends Exception> long load(
            Connection connection, String sql, Source.RowSupply<E> rows, LongConsumer progress, BadRows bad)
            throws SQLException, E {
        long loaded = 0;
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            List<Source.NumberedRow> batch = new ArrayList<>(BATCH);
            long size = 0;
            Source.NumberedRow row = rows.next();
            while (row != null) {
                batch.add(row);
                size += size(row.values());
                row = rows.next();
                if (batch.size() == BATCH || size > LARGEST_BATCH || row == null) {
                    put(connection, statement, batch, bad);
                    loaded += batch.size();
                    batch.clear();
                    size = 0;
                    progress.accept(loaded);
                }
                if (bad.more() > 0) {
                    return loaded;
                }
            }
        }
        return loaded;
    }

    /** A batch that is refused is tried row by row, so that people are told which one it was. */
    private void put(Connection connection, PreparedStatement statement, List<Source.NumberedRow> batch, BadRows bad)
            throws SQLException {
        Savepoint before = connection.setSavepoint();
        try {
            for (Source.NumberedRow row : batch) {
                bind(statement, row.values());
                statement.addBatch();
            }
            statement.executeBatch();
            connection.releaseSavepoint(before);
        } catch (SQLException e) {
            if (!isOfOneRow(e)) {
                throw e;
            }
            statement.clearBatch();
            connection.rollback(before);
            for (Source.NumberedRow row : batch) {
                putAlone(statement, row, bad);
            }
        }
    }

    private void putAlone(PreparedStatement statement, Source.NumberedRow row, BadRows bad) throws SQLException {
        try {
            bind(statement, row.values());
            statement.executeUpdate();
        } catch (SQLException e) {
            if (!isOfOneRow(e)) {
                throw e;
            }
            Condition condition = database.failures().condition(e);
            String named = condition.name() == null ? "" : " (" + condition.name() + ")";
            String words = condition.words().isEmpty() ? condition.kind().message() : condition.words();
            bad.add(row.line(), words.replaceFirst("\\.$", "") + named + ".");
        }
    }

    private boolean isOfOneRow(SQLException e) {
        return database.failures().condition(e).kind().blamesValues();
    }

    /** About how many bytes a row takes while it waits to be sent. */
    private static long size(@Nullable Object[] values) {
        long size = 0;
        for (Object value : values) {
            size += switch (value) {
                case String text -> 2L * text.length();
                case byte[] bytes -> bytes.length;
                case null, default -> USUAL_VALUE;
            };
        }
        return size;
    }

    private static void bind(PreparedStatement statement, @Nullable Object[] values) throws SQLException {
        for (int i = 0; i < values.length; i++) {
            Binding.bindValue(statement, i + 1, values[i]);
        }
    }
}
