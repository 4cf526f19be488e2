package tidybridge.engine;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;
import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Access;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Described;
import tidybridge.core.catalog.Field;
import tidybridge.core.sql.Dialect;
import tidybridge.core.sql.TimeLimit;

/** Answers a compiler's questions about one source. What the schema holds is kept for a minute, or until it is asked for anew. Thread-safe. */
final class SourceCatalog implements Catalog {

    /** Long enough for a check of many operations, short enough that a changed schema is noticed by the next. */
    private static final Duration KEPT = Duration.ofMinutes(1);

    /** For how many times as long as reading took what was read is good enough. */
    private static final int RESTS = 5;

    /** How long one column of flags is looked at. */
    private static final Duration LOOK = Duration.ofMillis(200);

    private final Source source;
    private final Database database;
    private final Map<Field.Origin, Boolean> flags = new ConcurrentHashMap<>();
    private final AtomicReference<@Nullable FutureTask<Contents>> reading = new AtomicReference<>();
    private volatile @Nullable Contents contents;
    private volatile long readingNanos;
    private volatile long readEndedNanos;

    SourceCatalog(Source source, Database database) {
        this.source = source;
        this.database = database;
    }

    @Override
    public Dialect dialect() {
        return database.dialect();
    }

    @Override
    public Described describe(String sql) {
        try {
            return source.ask(
                    connection -> new Described.Fields(database.catalog().describe(connection, sql)));
        } catch (SourceFailure e) {
            if (isOfStatement(e) && e.getCause() instanceof SQLException refused) {
                return new Described.Refused(database.failures().reason(refused));
            }
            throw new Source.Unreachable(e);
        }
    }

    @Override
    public String bounded(String sql, TimeLimit limit) {
        return source.bounded(sql, limit);
    }

    @Override
    public boolean holdsFlags(Field.Origin column) {
        return flags.computeIfAbsent(column, this::looksForFlags);
    }

    private boolean looksForFlags(Field.Origin column) {
        Dialect dialect = database.dialect();
        String name = dialect.quoted(column.column());
        String sql = database.sessions()
                .bounded(
                        "select 1 from " + dialect.quoted(column.schema()) + "." + dialect.quoted(column.table())
                                + " where " + name + " not in (0, 1)" + dialect.limit(),
                        LOOK);
        try {
            return source.ask(connection -> {
                try (PreparedStatement statement = connection.prepareStatement(sql)) {
                    statement.setInt(1, 1);
                    try (ResultSet row = statement.executeQuery()) {
                        return !row.next();
                    }
                }
            });
        } catch (SourceFailure e) {
            // too long a look, or a table that may not be read as a whole
            return true;
        }
    }

    @Override
    public Optional<String> procedureBody(String name) {
        try {
            String schema = source.settings().schema();
            return source.ask(
                    connection -> Optional.ofNullable(database.catalog().procedureBody(connection, schema, name)));
        } catch (SourceFailure e) {
            throw new Source.Unreachable(e);
        }
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
        return Optional.of(readOnce());
    }

    /** Of those who ask at once one reads, and the others wait for what comes of it. */
    private Contents readOnce() {
        FutureTask<Contents> own = new FutureTask<>(this::refresh);
        FutureTask<Contents> first = reading.compareAndExchange(null, own);
        if (first == null) {
            own.run();
            reading.compareAndSet(own, null);
            first = own;
        }
        try {
            return first.get();
        } catch (ExecutionException e) {
            if (e.getCause() instanceof RuntimeException failure) {
                throw failure;
            }
            throw new IllegalStateException(e.getCause());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted while a catalog is read", e);
        }
    }

    /** What was read last, however long ago; null before that. */
    @Nullable
    Contents known() {
        return contents;
    }

    /** Has the next question read it anew. */
    void forget() {
        // what is being read may be from before
        reading.set(null);
        contents = null;
        flags.clear();
    }

    @Override
    public boolean refreshed(Duration age) {
        // a large catalog takes long to read, and must not be read all the time
        long enough = age.isZero() ? readingNanos : Math.max(age.toNanos(), RESTS * readingNanos);
        if (contents != null && System.nanoTime() - readEndedNanos < enough) {
            return false;
        }
        refresh();
        return true;
    }

    Contents refresh() {
        long start = System.nanoTime();
        try {
            Contents read = source.ask(connection ->
                    database.catalog().contents(connection, source.settings().schema()));
            readingNanos = System.nanoTime() - start;
            readEndedNanos = start + readingNanos;
            contents = read;
            flags.clear();
            return read;
        } catch (SourceFailure e) {
            throw new Source.Unreachable(e);
        }
    }

    @Override
    public List<Access> explain(String sql, List<Object> values) {
        try {
            return source.ask(connection -> database.catalog().explain(connection, sql, values));
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
}
