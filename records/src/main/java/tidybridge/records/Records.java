package tidybridge.records;

import static tidybridge.records.generated.Tables.SERVICE_SECRET;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import com.zaxxer.hikari.pool.HikariPool.PoolInitializationException;
import java.io.IOException;
import java.io.OutputStream;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.Supplier;
import javax.sql.DataSource;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.FlywayException;
import org.flywaydb.core.api.configuration.FluentConfiguration;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.conf.Settings;
import org.jooq.impl.DSL;
import tidybridge.core.archive.Manifest;
import tidybridge.core.archive.StoreArchive;

/** The record store. Thread-safe; every change is one transaction. */
public final class Records implements AutoCloseable {

    private static final int CONNECTIONS = 4;
    private static final long PATIENCE_MILLIS = 700;
    /** To open a connection, and to load the driver for the first one, takes more than a second where the processors are busy. */
    private static final long OPENING_MILLIS = 3_000;

    static final int LONGEST_WHO = 120;

    private final HikariDataSource pool;
    private final DSLContext db;

    private Records(HikariDataSource pool) {
        this.pool = pool;
        this.db = DSL.using(pool, SQLDialect.MARIADB, new Settings().withRenderSchema(false));
    }

    /**
     * Opens the store and brings its schema to the version this program knows.
     *
     * @throws RecordsFailure in one sentence when the store cannot be reached or used
     */
    public static Records open(RecordsSettings settings) {
        RecordsSettings.Owner owner = settings.owner();
        if (owner != null) {
            prepare(settings, owner);
        }
        HikariDataSource pool = connect(settings, settings.user(), settings.password());
        try {
            if (owner == null) {
                migrate(pool);
            }
            return new Records(pool);
        } catch (FlywayException | SQLException e) {
            pool.close();
            throw unusable(settings, e);
        }
    }

    private static void migrate(DataSource store) throws SQLException {
        if (!KnownSchema.isIn(store)) {
            flyway(store).load().migrate();
        }
    }

    static FluentConfiguration flyway(DataSource store) {
        return Flyway.configure(Records.class.getClassLoader())
                .dataSource(store)
                .locations("classpath:" + KnownSchema.MIGRATIONS)
                .table(KnownSchema.TABLE);
    }

    /**
     * Fills an empty store from an archive.
     *
     * @param progress is told each table, with its rows
     * @throws RecordsFailure in one sentence when that is not possible; nothing is in the store then
     */
    public static void restore(RecordsSettings settings, StoreArchive archive, BiConsumer<String, Long> progress)
            throws IOException {
        RecordsSettings.Owner owner = settings.owner();
        String user = owner == null ? settings.user() : owner.user();
        String password = owner == null ? settings.password() : owner.password();
        try (HikariDataSource store = connect(settings, user, password)) {
            StoreImport.fill(store, archive, progress);
        }
        // gives the service's own user what it needs
        open(settings).close();
    }

    /**
     * Writes the whole store, as it is at this moment, into an archive.
     *
     * @param out is not closed
     * @param program says which program writes it
     * @throws RecordsFailure when the store cannot be read
     */
    public Manifest archive(OutputStream out, String program, Instant at) throws IOException {
        return StoreExport.write(pool, out, program, at);
    }

    /** Has the owner make the tables, and give the service's user what it needs of them and no more. */
    private static void prepare(RecordsSettings settings, RecordsSettings.Owner owner) {
        try (HikariDataSource owned = connect(settings, owner.user(), owner.password());
                Connection service = DriverManager.getConnection(
                        url(settings, "") + (settings.tls() ? "?sslMode=verify-full" : "?sslMode=disable"),
                        settings.user(),
                        settings.password());
                Statement asking = service.createStatement();
                ResultSet account = asking.executeQuery("select current_user()")) {
            migrate(owned);
            account.next();
            try (Connection granting = owned.getConnection()) {
                Grants.give(granting, settings.schema(), account.getString(1));
            }
        } catch (FlywayException | SQLException e) {
            throw unusable(settings, e);
        }
    }

    private static RecordsFailure unusable(RecordsSettings settings, Exception e) {
        return new RecordsFailure(
                "The record store (" + settings + ") cannot be used: " + rootReason(e)
                        + ". Check the tidy.records settings and that the schema and its user exist.",
                e);
    }

    private static String url(RecordsSettings settings, String schema) {
        return "jdbc:mariadb://" + settings.host() + ":" + settings.port() + "/" + schema;
    }

    /** A pool that holds its first connection. */
    private static HikariDataSource connect(RecordsSettings settings, String user, String password) {
        HikariConfig config = new HikariConfig();
        config.setPoolName("records");
        config.setJdbcUrl(url(settings, settings.schema()));
        config.setUsername(user);
        config.setPassword(password);
        config.setMaximumPoolSize(CONNECTIONS);
        config.setMinimumIdle(1);
        config.setConnectionTimeout(PATIENCE_MILLIS);
        config.setInitializationFailTimeout(OPENING_MILLIS);
        config.addDataSourceProperty("connectTimeout", String.valueOf(OPENING_MILLIS));
        config.addDataSourceProperty("connectionTimeZone", "UTC");
        config.addDataSourceProperty("forceConnectionTimeZoneToSession", "true");
        config.addDataSourceProperty("socketTimeout", "30000");
        config.addDataSourceProperty("sslMode", settings.tls() ? "verify-full" : "disable");
        try {
            return new HikariDataSource(config);
        } catch (PoolInitializationException e) {
            throw unusable(settings, e);
        } finally {
            // the pool sets it to a second, for every connection of this process that names none of its own
            DriverManager.setLoginTimeout(0);
        }
    }

    static String rootReason(Throwable e) {
        Throwable root = e;
        while (root.getCause() != null) {
            root = root.getCause();
        }
        return String.valueOf(root.getMessage()).strip().replaceFirst("\\.$", "");
    }

    /** What was published. */
    public Releases releases() {
        return new Releases(db);
    }

    /** The services that run over these records. */
    public NodeRecords nodes() {
        return new NodeRecords(db);
    }

    /** What no longer fits the databases of live releases. */
    public DriftRecords drift() {
        return new DriftRecords(db);
    }

    /** What live releases answer to the examples of their texts. */
    public ExampleRecords examples() {
        return new ExampleRecords(db);
    }

    /** Texts that are being worked on. */
    public Drafts drafts() {
        return new Drafts(db);
    }

    /** Texts that somebody asks a second person to approve. */
    public Reviews reviews() {
        return new Reviews(db);
    }

    /** Changes what is published and live. */
    public ReleaseChanges releaseChanges() {
        return new ReleaseChanges(db);
    }

    /** A secret that all services over this store share; the first to ask brings it. */
    public String secret(String name, Supplier<String> first) {
        Optional<String> known = readSecret(name);
        if (known.isPresent()) {
            return known.get();
        }
        db.insertInto(SERVICE_SECRET)
                .set(SERVICE_SECRET.NAME, name)
                .set(SERVICE_SECRET.VALUE, first.get())
                .onDuplicateKeyIgnore()
                .execute();
        return readSecret(name).orElseThrow();
    }

    private Optional<String> readSecret(String name) {
        return db.select(SERVICE_SECRET.VALUE)
                .from(SERVICE_SECRET)
                .where(SERVICE_SECRET.NAME.eq(name))
                .fetchOptional(SERVICE_SECRET.VALUE);
    }

    /** What was answered to requests with an idempotency key. */
    public CallOutcomes outcomes() {
        return new CallOutcomes(db);
    }

    /** The calls that were refused lately. */
    public RefusedCalls refusedCalls() {
        return new RefusedCalls(db);
    }

    /** How much of each quota is used. */
    public QuotaUses quotaUses() {
        return new QuotaUses(db);
    }

    /** Who may what. */
    public AccessRecords access() {
        return new AccessRecords(db);
    }

    /** Client teams. */
    public TeamRecords teams() {
        return new TeamRecords(db);
    }

    /** What people ask for. */
    public AccessRequests requests() {
        return new AccessRequests(db);
    }

    /** What owners tell those who call their modules. */
    public Announcements announcements() {
        return new Announcements(db);
    }

    /** What is to be told to somebody. */
    public NoticeRecords notices() {
        return new NoticeRecords(db);
    }

    /** Who did what. */
    public AuditTrail audit() {
        return new AuditTrail(db);
    }

    @Override
    public void close() {
        pool.close();
    }
}
