package tidybridge.engine;

import java.sql.BatchUpdateException;
import java.sql.CallableStatement;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Field;
import tidybridge.core.condition.Condition;
import tidybridge.core.condition.ConditionKind;
import tidybridge.core.plan.StepPlan.Out;
import tidybridge.core.plan.Variant;

/** Statements on one connection that all come true, or none of them. Ends with the work it is given to; used by one thread. */
public final class Transaction {

    private static final int SAVED_AT = 500;

    private final SourceSettings settings;
    private final Database database;
    private final ConnectionPool pool;
    private final Lease lease;
    private final Connection physical;
    private final PreparedStatements statements;
    private final TransactionMark mark;
    private final long deadlineNanos;

    /**
     * Wraps a connection that is in a transaction.
     *
     * @param settled how it was begun
     * @param enders statements whose routines have been seen to end a transaction; what is seen now is added
     * @param timeout for all statements together
     */
    Transaction(
            SourceSettings settings,
            Database database,
            ConnectionPool pool,
            Lease lease,
            PreparedStatements statements,
            TransactionSettings settled,
            Set<String> enders,
            Duration timeout) {
        this.settings = settings;
        this.database = database;
        this.pool = pool;
        this.lease = lease;
        this.physical = lease.physical();
        this.statements = statements;
        this.mark = new TransactionMark(
                physical, database.failures(), settled.ending() == TransactionSettings.Ending.COMMIT, enders);
        this.deadlineNanos = System.nanoTime() + timeout.toNanos();
    }

    /** What a change did. */
    public record Changed(long rows, @Nullable Long key) {}

    /** Reads the rows of a result of a procedure. */
    @FunctionalInterface
    public interface ResultReader {
        /**
         * Reads one result set.
         *
         * @param index counts the result sets from 0
         */
        void read(int index, List<Field> fields, Rows rows);
    }

    /** Runs a query and hands its rows to a reader. */
    public void read(Variant form, @Nullable Object[] values, int readAhead, Source.Reader reader)
            throws SourceFailure {
        inTime();
        try {
            PreparedStatement statement = statements.get(lease, form.sql(), PreparedStatements.Way.QUERY);
            statement.setFetchSize(readAhead);
            Binding.bind(statement, form, values);
            try (ResultSet result = statement.executeQuery()) {
                reader.read(new JdbcRows(result));
            }
            lease.look();
        } catch (JdbcRows.Broken e) {
            throw failed(e.reason());
        } catch (SQLException e) {
            throw failed(e);
        }
    }

    /** Runs an INSERT, UPDATE, DELETE or REPLACE. */
    public Changed change(Variant form, @Nullable Object[] values) throws SourceFailure {
        inTime();
        try {
            PreparedStatement statement = statements.get(lease, form.sql(), PreparedStatements.Way.CHANGE);
            Binding.bind(statement, form, values);
            long rows = statement.executeLargeUpdate();
            lease.look();
            try (ResultSet keys = statement.getGeneratedKeys()) {
                return new Changed(rows, keys.next() ? keys.getLong(1) : null);
            }
        } catch (SQLException e) {
            throw failed(e);
        }
    }

    /**
     * Runs a change for many rows at once.
     *
     * @param first what the first of the rows is called when one of them is to blame
     * @return how many rows each of them changed
     */
    public long[] changeAll(Variant form, List<@Nullable Object[]> rows, int first) throws SourceFailure, RowRefused {
        long[] counts = new long[rows.size()];
        for (int from = 0; from < rows.size(); from += SAVED_AT) {
            int to = Math.min(rows.size(), from + SAVED_AT);
            long[] some = chunk(form, rows.subList(from, to), first + from);
            System.arraycopy(some, 0, counts, from, Math.min(some.length, to - from));
        }
        return counts;
    }

    private long[] chunk(Variant form, List<@Nullable Object[]> rows, int first) throws SourceFailure, RowRefused {
        inTime();
        save();
        try {
            PreparedStatement statement = statements.get(lease, form.sql(), PreparedStatements.Way.CHANGE);
            long[] counts = sent(statement, form, rows);
            lease.look();
            return counts;
        } catch (BatchUpdateException e) {
            return oneByOne(form, rows, first, failureOf(e));
        } catch (SQLException e) {
            throw failed(e);
        }
    }

    /** The statement is kept for later, and must not keep any of these rows. */
    private static long[] sent(PreparedStatement statement, Variant form, List<@Nullable Object[]> rows)
            throws SQLException {
        try {
            for (@Nullable Object[] values : rows) {
                Binding.bind(statement, form, values);
                statement.addBatch();
            }
            long[] counts = statement.executeLargeBatch();
            for (int i = 0; i < counts.length; i++) {
                counts[i] = counts[i] == Statement.SUCCESS_NO_INFO ? 1 : counts[i];
            }
            return counts;
        } finally {
            statement.clearBatch();
        }
    }

    private SourceFailure failureOf(BatchUpdateException e) {
        return failed(e.getCause() instanceof SQLException cause ? cause : e);
    }

    /** The database does not tell which row of a batch it refused, so the rows are tried again until it does. */
    private long[] oneByOne(Variant form, List<@Nullable Object[]> rows, int first, SourceFailure refused)
            throws SourceFailure, RowRefused {
        if (refused.endsTransaction()) {
            throw refused;
        }
        goBack();
        long[] counts = new long[rows.size()];
        for (int i = 0; i < rows.size(); i++) {
            try {
                counts[i] = change(form, rows.get(i)).rows();
            } catch (SourceFailure e) {
                if (e.endsTransaction()) {
                    throw e;
                }
                throw new RowRefused(first + i, e);
            }
        }
        return counts;
    }

    /** A row of a batch that the database refused. */
    public static final class RowRefused extends Exception {
        private final int row;
        private final SourceFailure failure;

        RowRefused(int row, SourceFailure failure) {
            super(failure);
            this.row = row;
            this.failure = failure;
        }

        /** Counted from 0. */
        public int row() {
            return row;
        }

        public SourceFailure failure() {
            return failure;
        }
    }

    /** What a procedure handed back: its outputs in their order, then how many rows it changed. */
    record CallOutputs(@Nullable Object[] values) {}

    CallOutputs call(Variant form, @Nullable Object[] values, List<Out> outs, ResultReader reader)
            throws SourceFailure {
        inTime();
        try {
            mark.set();
            CallableStatement statement =
                    (CallableStatement) statements.get(lease, form.sql(), PreparedStatements.Way.CALL);
            Binding.bind(statement, form, values);
            for (Out out : outs) {
                database.outputs().register(statement, out);
            }
            int results = 0;
            long changed = 0;
            boolean rows = statement.execute();
            while (rows || statement.getLargeUpdateCount() != -1) {
                if (rows) {
                    try (ResultSet result = statement.getResultSet()) {
                        reader.read(results++, database.catalog().fields(result.getMetaData()), new JdbcRows(result));
                    }
                } else {
                    changed = statement.getLargeUpdateCount();
                }
                rows = statement.getMoreResults();
            }
            CallOutputs outputs = new CallOutputs(handedBack(statement, outs, changed));
            mark.look(form.sql());
            return outputs;
        } catch (JdbcRows.Broken e) {
            throw failure(form, failed(e.reason()));
        } catch (SQLException e) {
            throw failure(form, failed(e));
        }
    }

    /** True when a routine has ended the transaction: nothing that was done so far can be undone. */
    public boolean isEnded() {
        return mark.isGone();
    }

    /** What is said when a routine has ended the transaction and more was to be done in it. */
    SourceFailure cannotGoOn() {
        return new SourceFailure(
                Condition.of(ConditionKind.TRANSACTION_ENDED), settings + ": not all steps ran; this one stopped");
    }

    /** Whatever failed may have left something in the session, also where the rest of the work goes on and is kept. */
    private SourceFailure failed(SQLException e) {
        lease.touched();
        return pool.failure(e);
    }

    private SourceFailure failure(Variant form, SourceFailure failure) throws SourceFailure {
        try {
            if (failure.endsTransaction()) {
                mark.lost(form.sql());
            } else {
                mark.look(form.sql());
            }
        } catch (SQLException e) {
            throw failed(e);
        }
        return failure;
    }

    private @Nullable Object[] handedBack(CallableStatement statement, List<Out> outs, long changed)
            throws SQLException {
        List<@Nullable Object> values = new ArrayList<>();
        for (Out out : outs) {
            values.add(database.outputs().value(statement, out));
        }
        values.add(changed);
        return values.toArray();
    }

    /**
     * Runs a change that is no operation's own; how many rows it changed.
     *
     * @param values text, numbers, bytes or null, one for each question mark
     */
    public long alongside(String sql, @Nullable Object... values) throws SourceFailure {
        inTime();
        try {
            PreparedStatement statement = statements.get(lease, sql, PreparedStatements.Way.CHANGE);
            for (int i = 0; i < values.length; i++) {
                statement.setObject(i + 1, values[i]);
            }
            return statement.executeLargeUpdate();
        } catch (SQLException e) {
            throw failed(e);
        }
    }

    /** Remembers this point, to which {@link #goBack} returns. */
    public void save() throws SourceFailure {
        execute("savepoint saved");
    }

    /** Undoes what was done since {@link #save}. */
    public void goBack() throws SourceFailure {
        execute("rollback to savepoint saved");
    }

    /** Runs a statement of the engine's own. */
    void execute(String sql) throws SourceFailure {
        try (Statement statement = physical.createStatement()) {
            statement.execute(sql);
        } catch (SQLException e) {
            throw failed(e);
        }
    }

    /** Asks something on the transaction's connection, for those who look at what it did. */
    <T> T ask(Source.Question<T> question) throws SourceFailure {
        inTime();
        try {
            return question.ask(physical);
        } catch (SQLException e) {
            throw failed(e);
        }
    }

    private void inTime() throws SourceFailure {
        if (System.nanoTime() - deadlineNanos > 0) {
            throw new SourceFailure(
                    Condition.of(ConditionKind.TIMED_OUT),
                    settings + ": the statements together took longer than their limit");
        }
    }
}
