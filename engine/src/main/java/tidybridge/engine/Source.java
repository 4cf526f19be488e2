package tidybridge.engine;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.List;
import java.util.function.LongConsumer;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Relation;
import tidybridge.core.catalog.RowCount;
import tidybridge.core.condition.ConditionKind;
import tidybridge.core.plan.Variant;
import tidybridge.core.sheet.BadRows;
import tidybridge.core.sql.TimeLimit;

/**
 * A database with its pool of connections. Statements are prepared on the server and cached for each connection; sessions
 * are read-only unless the settings say otherwise, speak UTC, and stop any statement at its time limit. Thread-safe.
 */
public final class Source implements AutoCloseable {

    /** Of a source's connections, one part in so many may be busy with answers that outgrow memory, and with what is only tried. */
    private static final int STREAMING_PART = 2;

    private static final int TRYING_PART = 4;

    private final SourceSettings settings;
    private final Database database;
    private final TimeLimits limits;
    private final ConnectionPool pool;
    private final QueryRun queries;
    private final TransactionRun transactions;
    private final SourceCatalog catalog;
    private final ConnectionShare streams;
    private final ConnectionShare trials;

    /** Opens the pool; the database need not be there yet. */
    public Source(SourceSettings settings) {
        this.settings = settings;
        this.database = Databases.of(settings.kind());
        this.limits = TimeLimits.of(settings);
        this.catalog = new SourceCatalog(this, database);
        this.streams = share(settings, STREAMING_PART);
        this.trials = share(settings, TRYING_PART);
        PreparedStatements statements =
                new PreparedStatements(settings.connections(), new RoutineCalls(catalog::known));
        this.pool = new ConnectionPool(settings, database, limits, statements);
        this.queries = new QueryRun(pool, database, statements, limits);
        this.transactions = new TransactionRun(settings, database, pool, statements, limits);
    }

    private static ConnectionShare share(SourceSettings settings, int part) {
        return new ConnectionShare(Math.max(1, settings.connections() / part), settings.patience());
    }

    /** The connections for answers that leave while their rows are read, at the pace of whoever reads them. */
    public ConnectionShare streams() {
        return streams;
    }

    /** The connections for trials and rehearsals. */
    public ConnectionShare trials() {
        return trials;
    }

    public SourceSettings settings() {
        return settings;
    }

    Database database() {
        return database;
    }

    /** A statement in the form in which the server stops it in time; the session's own limit needs no words. */
    String bounded(String sql, TimeLimit limit) {
        Duration allowed = limits.allowed(limit);
        return limits.isUsual(allowed) ? sql : database.sessions().bounded(sql, allowed);
    }

    /** Does something with the rows of a result, which end when it returns. */
    @FunctionalInterface
    public interface Reader {
        void read(Rows rows);
    }

    /**
     * Runs a query and hands its rows to a reader. A connection that turns out to be dead before the first row is replaced
     * once, so that a restarted database costs no failed call.
     *
     * @throws SourceFailure when it cannot be run to its end
     */
    public void read(Query query, Reader reader) throws SourceFailure {
        queries.run(query, reader);
    }

    /** Does something with the rows of a result, which end when it returns, and says what is read next. */
    @FunctionalInterface
    public interface SeriesReader {
        /**
         * Reads.
         *
         * @return null when all is read
         */
        @Nullable
        Query read(Rows rows);
    }

    /**
     * Runs queries one after the other in one state of the database, as {@link #read} runs one.
     *
     * @throws SourceFailure when they cannot be run to their end
     */
    public void readSeries(Query first, SeriesReader reader) throws SourceFailure {
        queries.runSeries(first, reader);
    }

    /** True when the database would tell the first rows of a query without reading the others. */
    public boolean isInOrder(Query query) throws SourceFailure {
        return ask(connection -> {
            String planned = database.catalog().planned(query.variant().sql());
            try (PreparedStatement statement = connection.prepareStatement(planned)) {
                Binding.bind(statement, query);
                try (ResultSet plan = statement.executeQuery()) {
                    return plan.next() && database.catalog().isInOrder(plan.getString(1));
                }
            }
        });
    }

    /**
     * Something done in a transaction. It may be done again from its start when others were in its way.
     *
     * @param <E> what it gives up with, after which everything is rolled back
     */
    @FunctionalInterface
    public interface Work<E extends Exception> {
        void run(Transaction transaction) throws SourceFailure, E;
    }

    /**
     * Runs some work in a transaction: all of its changes are kept or none. A deadlock and its like are tried again a few times.
     *
     * @throws SourceFailure when it cannot be run to its end; nothing is changed, unless its kind is
     *     {@link ConditionKind#OUTCOME_UNKNOWN}
     */
    public <E extends Exception> void transact(TransactionSettings wanted, Work<E> work) throws SourceFailure, E {
        transactions.run(wanted, work);
    }

    /**
     * This database as a catalog.
     *
     * @return describes by preparing; its methods throw {@link Unreachable} when the database does not answer
     */
    public Catalog catalog() {
        return catalog;
    }

    /** Has what the database holds read, unless it is known already; false when it does not answer. */
    public boolean isKnown() {
        try {
            return catalog.contents().isPresent();
        } catch (Unreachable e) {
            return false;
        }
    }

    /** What the database holds, read again. */
    public Contents refresh() {
        return catalog.refresh();
    }

    /** Has connections opened anew and the catalog read anew: what was granted to the user since then is felt. */
    public void renew() {
        pool.renewAll();
        catalog.forget();
    }

    /** Runs something on a connection of the pool, for questions that are no operation of anybody's. */
    <T> T ask(Question<T> question) throws SourceFailure {
        pool.takeTurn();
        try (Lease lease = pool.connect()) {
            return asked(lease, question);
        } catch (SQLException e) {
            throw pool.failure(e);
        } finally {
            pool.giveTurnBack();
        }
    }

    /** The same for somebody who holds a connection already, and so must not queue for his turn. */
    <T> T askAside(Question<T> question) throws SourceFailure {
        try (Lease lease = pool.connect()) {
            return asked(lease, question);
        } catch (SQLException e) {
            throw pool.failure(e);
        }
    }

    private static <T> T asked(Lease lease, Question<T> question) throws SQLException {
        try {
            return question.ask(lease.physical());
        } finally {
            lease.look();
        }
    }

    /** Something to be asked on a connection. */
    @FunctionalInterface
    interface Question<T> {
        T ask(Connection connection) throws SQLException;
    }

    /**
     * How many rows a query has as the database expects, without running it.
     *
     * @param form counts the rows
     */
    public RowCount estimate(Variant form, @Nullable Object[] values) throws SourceFailure {
        return ask(connection -> {
            RowCount estimate = estimate(connection, form, values);
            return estimate == null ? counted(connection, form, values) : estimate;
        });
    }

    private @Nullable RowCount estimate(Connection connection, Variant form, @Nullable Object[] values)
            throws SQLException {
        try (PreparedStatement statement =
                connection.prepareStatement(database.catalog().planned(form.sql()))) {
            Binding.bind(statement, form, values);
            try (ResultSet plan = statement.executeQuery()) {
                return plan.next() ? database.catalog().estimate(plan.getString(1)) : null;
            }
        }
    }

    /** Of what the database has counted already. */
    private static RowCount counted(Connection connection, Variant form, @Nullable Object[] values)
            throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(form.sql())) {
            Binding.bind(statement, form, values);
            try (ResultSet rows = statement.executeQuery()) {
                long count = rows.next() ? rows.getLong(1) : 0;
                return new RowCount.Estimate(count, count, count);
            }
        }
    }

    /**
     * A row to be put into a table.
     *
     * @param line where it stands in what it comes from
     * @param values as statements bind them
     */
    public record NumberedRow(long line, @Nullable Object[] values) {}

    /**
     * Tells rows one after the other.
     *
     * @param <E> what it gives up with, after which nothing is kept
     */
    @FunctionalInterface
    public interface RowSupply<E extends Exception> {
        /**
         * The next row.
         *
         * @return null at the end
         */
        @Nullable
        NumberedRow next() throws E;
    }

    /**
     * Puts rows into a table, in batches and in one transaction: all of them are kept, or none when one is refused.
     *
     * @param progress is told how many were put after each batch
     * @param bad is told which were refused, and why
     * @return how many were put
     * @throws SourceFailure when it cannot be done to its end; nothing is kept, unless its kind is {@link ConditionKind#OUTCOME_UNKNOWN}
     */
    public <E extends Exception> long load(
            Relation table, List<String> columns, RowSupply<E> rows, LongConsumer progress, BadRows bad)
            throws SourceFailure, E {
        return new RowLoad(pool, database, settings).run(table, columns, rows, progress, bad);
    }

    /**
     * Runs a statement that makes a table or takes it away, and reads what the database holds anew.
     *
     * @param sql made by the service itself, never by a caller
     */
    public void define(String sql) throws SourceFailure {
        ask(connection -> {
            try (Statement statement = connection.createStatement()) {
                return statement.execute(sql);
            }
        });
        refresh();
    }

    /** How many connections are busy now. */
    public int busy() {
        return pool.busy();
    }

    /** The first rows of a table or view, long values cut; for people who look around. */
    public SampleRows sample(Relation relation, int rows) throws SourceFailure {
        return ask(connection -> SampleRows.read(connection, database, relation, rows));
    }

    /** The database could not be asked about a statement. */
    public static final class Unreachable extends RuntimeException {
        Unreachable(SourceFailure cause) {
            super(cause.getMessage(), cause);
        }
    }

    /** Closes every connection. */
    @Override
    public void close() {
        pool.close();
    }
}
