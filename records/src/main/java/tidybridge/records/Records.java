package tidybridge.records;

import static tidybridge.records.generated.Tables.LIVE_RELEASE;
import static tidybridge.records.generated.Tables.MODULE_RELEASE;
import static tidybridge.records.generated.Tables.SERVICE_SECRET;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import javax.sql.DataSource;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.FlywayException;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.SQLDialect;
import org.jooq.conf.Settings;
import org.jooq.exception.DataAccessException;
import org.jooq.exception.IntegrityConstraintViolationException;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Version;
import tools.jackson.databind.json.JsonMapper;

/** The record store. Thread-safe; every change is one transaction. */
public final class Records implements AutoCloseable {

    private static final int CONNECTIONS = 4;
    private static final long PATIENCE_MILLIS = 700;
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
        HikariDataSource pool = new HikariDataSource(config(settings, settings.user(), settings.password()));
        try {
            if (owner == null) {
                migrate(pool);
            }
            return new Records(pool);
        } catch (FlywayException e) {
            pool.close();
            throw unusable(settings, e);
        }
    }

    private static void migrate(DataSource store) {
        Flyway.configure(Records.class.getClassLoader())
                .dataSource(store)
                .locations("classpath:tidybridge/records/migrations")
                .table("schema_version")
                .load()
                .migrate();
    }

    /** Has the owner make the tables, and give the service's user what it needs of them and no more. */
    private static void prepare(RecordsSettings settings, RecordsSettings.Owner owner) {
        try (HikariDataSource owned = new HikariDataSource(config(settings, owner.user(), owner.password()));
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

    private static HikariConfig config(RecordsSettings settings, String user, String password) {
        HikariConfig config = new HikariConfig();
        config.setPoolName("records");
        config.setJdbcUrl(url(settings, settings.schema()));
        config.setUsername(user);
        config.setPassword(password);
        config.setMaximumPoolSize(CONNECTIONS);
        config.setMinimumIdle(1);
        config.setConnectionTimeout(PATIENCE_MILLIS);
        config.setInitializationFailTimeout(-1);
        config.addDataSourceProperty("connectionTimeZone", "UTC");
        config.addDataSourceProperty("forceConnectionTimeZoneToSession", "true");
        config.addDataSourceProperty("socketTimeout", "30000");
        config.addDataSourceProperty("sslMode", settings.tls() ? "verify-full" : "disable");
        return config;
    }

    private static String rootReason(Throwable e) {
        Throwable root = e;
        while (root.getCause() != null) {
            root = root.getCause();
        }
        return String.valueOf(root.getMessage()).strip().replaceFirst("\\.$", "");
    }

    /** The releases that are live, ordered by module and major version. */
    public List<Release> live() {
        return db.select(MODULE_RELEASE.fields())
                .from(LIVE_RELEASE)
                .join(MODULE_RELEASE)
                .on(MODULE_RELEASE.ID.eq(LIVE_RELEASE.RELEASE_ID))
                .orderBy(MODULE_RELEASE.MODULE, MODULE_RELEASE.MAJOR)
                .fetch(Records::release);
    }

    /** Every release, the newest first. */
    public List<ReleaseEntry> all() {
        return db.select(
                        MODULE_RELEASE.ID,
                        MODULE_RELEASE.MODULE,
                        MODULE_RELEASE.VERSION,
                        MODULE_RELEASE.CONTENT_SHA256,
                        MODULE_RELEASE.PUBLISHED_BY,
                        MODULE_RELEASE.PUBLISHED_AT)
                .from(MODULE_RELEASE)
                .orderBy(MODULE_RELEASE.ID.desc())
                .fetch(row -> new ReleaseEntry(
                        row.value1(),
                        row.value2(),
                        Version.parse(row.value3()).orElseThrow(),
                        row.value4(),
                        row.value5(),
                        row.value6().toInstant(ZoneOffset.UTC)));
    }

    /**
     * Publishes modules, all of them or none, and makes each live under its major version.
     *
     * @param address where it came from; null for the service itself
     * @param at cut to milliseconds
     * @throws VersionTaken when one of the versions is released already with another text
     */
    public List<Published> publish(List<NewRelease> modules, String by, @Nullable String address, Instant at)
            throws VersionTaken {
        try {
            return db.transactionResult(transaction -> {
                AuditTrail.lock(transaction.dsl());
                List<Published> published = new ArrayList<>();
                for (NewRelease module : modules) {
                    published.add(publish(transaction.dsl(), module, by, address, at));
                }
                return published;
            });
        } catch (DataAccessException e) {
            if (e.getCause() instanceof VersionTaken taken) {
                throw taken;
            }
            throw e;
        }
    }

    private static Published publish(DSLContext db, NewRelease module, String by, @Nullable String address, Instant at)
            throws VersionTaken {
        String content = ReleaseText.write(module.text());
        String hash = ReleaseText.hash(content);
        Condition same = MODULE_RELEASE
                .MODULE
                .eq(module.module())
                .and(MODULE_RELEASE.VERSION.eq(module.version().toString()));
        Release known = db.selectFrom(MODULE_RELEASE).where(same).fetchOne(Records::release);
        Release inserted = known == null ? insert(db, module, content, hash, by, at) : null;
        if (inserted == null && known == null) {
            // somebody else was faster; a locking read sees what they have committed since this transaction began
            known = db.selectFrom(MODULE_RELEASE).where(same).forShare().fetchOne(Records::release);
        }
        if (known != null && !known.hash().equals(hash)) {
            throw new VersionTaken(module.module(), module.version());
        }
        Release release = inserted == null ? known : inserted;
        if (release == null) {
            throw new IllegalStateException("a release that is there cannot be read");
        }
        Long before = db.select(LIVE_RELEASE.RELEASE_ID)
                .from(LIVE_RELEASE)
                .where(LIVE_RELEASE.MODULE.eq(module.module()))
                .and(LIVE_RELEASE.MAJOR.eq(module.version().major()))
                .fetchOne(LIVE_RELEASE.RELEASE_ID);
        makeLive(db, release);
        Published published = new Published(release, outcome(known, before, release.id()));
        if (published.outcome() != Published.Outcome.UNCHANGED) {
            String detail = "version " + release.version()
                    + (published.outcome() == Published.Outcome.LIVE_AGAIN ? " again" : "");
            AuditTrail.write(
                    db,
                    new AuditEntry(
                                    at,
                                    by,
                                    address,
                                    "publish",
                                    release.module() + "/v" + release.version().major(),
                                    detail)
                            .changing(state(db, before), state(release.version(), hash)));
        }
        return published;
    }

    /** What the audit trail keeps of a release; its text is kept anyway. */
    private static String state(Version version, String hash) {
        return JsonMapper.shared().writeValueAsString(List.of(version.toString(), hash));
    }

    private static @Nullable String state(DSLContext db, @Nullable Long id) {
        return id == null
                ? null
                : db.select(MODULE_RELEASE.VERSION, MODULE_RELEASE.CONTENT_SHA256)
                        .from(MODULE_RELEASE)
                        .where(MODULE_RELEASE.ID.eq(id))
                        .fetchOne(row -> state(Version.parse(row.value1()).orElseThrow(), row.value2()));
    }

    private static Published.Outcome outcome(@Nullable Release known, @Nullable Long before, long now) {
        if (known == null) {
            return Published.Outcome.PUBLISHED;
        }
        return before != null && before == now ? Published.Outcome.UNCHANGED : Published.Outcome.LIVE_AGAIN;
    }

    /** The new release; null when there is one of that version already. */
    private static @Nullable Release insert(
            DSLContext db, NewRelease module, String content, String hash, String by, Instant at) {
        Instant when = at.truncatedTo(ChronoUnit.MILLIS);
        try {
            Long id = db.insertInto(MODULE_RELEASE)
                    .set(MODULE_RELEASE.MODULE, module.module())
                    .set(MODULE_RELEASE.MAJOR, module.version().major())
                    .set(MODULE_RELEASE.VERSION, module.version().toString())
                    .set(MODULE_RELEASE.SOURCE, module.source())
                    .set(MODULE_RELEASE.CONTENT, content)
                    .set(MODULE_RELEASE.CONTENT_SHA256, hash)
                    .set(MODULE_RELEASE.PUBLISHED_BY, by)
                    .set(MODULE_RELEASE.PUBLISHED_AT, LocalDateTime.ofInstant(when, ZoneOffset.UTC))
                    .returningResult(MODULE_RELEASE.ID)
                    .fetchOne(MODULE_RELEASE.ID);
            if (id == null) {
                throw new IllegalStateException("the record store gave the release no id");
            }
            return new Release(id, module.module(), module.version(), module.text(), hash, by, when);
        } catch (IntegrityConstraintViolationException e) {
            return null;
        }
    }

    private static void makeLive(DSLContext db, Release release) {
        db.insertInto(LIVE_RELEASE)
                .set(LIVE_RELEASE.MODULE, release.module())
                .set(LIVE_RELEASE.MAJOR, release.version().major())
                .set(LIVE_RELEASE.RELEASE_ID, release.id())
                .onDuplicateKeyUpdate()
                .set(LIVE_RELEASE.RELEASE_ID, release.id())
                .execute();
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

    /** Who did what. */
    public AuditTrail audit() {
        return new AuditTrail(db);
    }

    private static Release release(Record row) {
        Version version = Version.parse(row.get(MODULE_RELEASE.VERSION)).orElseThrow();
        return new Release(
                row.get(MODULE_RELEASE.ID),
                row.get(MODULE_RELEASE.MODULE),
                version,
                ReleaseText.read(row.get(MODULE_RELEASE.CONTENT)),
                row.get(MODULE_RELEASE.CONTENT_SHA256),
                row.get(MODULE_RELEASE.PUBLISHED_BY),
                row.get(MODULE_RELEASE.PUBLISHED_AT).toInstant(ZoneOffset.UTC));
    }

    @Override
    public void close() {
        pool.close();
    }
}
