package tidybridge.records;

import static tidybridge.records.generated.Tables.LIVE_CHANGE;
import static tidybridge.records.generated.Tables.LIVE_RELEASE;
import static tidybridge.records.generated.Tables.MODULE_RELEASE;
import static tidybridge.records.generated.Tables.RELEASE_CONTRACT;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.SelectOnConditionStep;
import org.jooq.exception.DataAccessException;
import org.jooq.exception.IntegrityConstraintViolationException;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;
import tidybridge.records.generated.tables.ModuleRelease;
import tools.jackson.databind.json.JsonMapper;

/** What was published, what is live of it, and what was live before. Thread-safe; every change is one transaction. */
public final class Releases {

    private static final ModuleRelease EARLIER = MODULE_RELEASE.as("earlier");

    private static final tidybridge.records.generated.tables.LiveChange LAST = LIVE_CHANGE.as("last");
    private static final tidybridge.records.generated.tables.LiveChange BEFORE = LIVE_CHANGE.as("before");
    private static final Field<String> NO_DIFFERENCES = DSL.inline((String) null);

    private final DSLContext db;

    Releases(DSLContext db) {
        this.db = db;
    }

    /** What a release of a text has as its hash. */
    public static String hash(ModuleText text) {
        return ReleaseText.hash(ReleaseText.write(text));
    }

    /** The releases that are live, by their numbers, ordered by module and major version. */
    public List<Long> live() {
        return db.select(LIVE_RELEASE.RELEASE_ID)
                .from(LIVE_RELEASE)
                .orderBy(LIVE_RELEASE.MODULE, LIVE_RELEASE.MAJOR)
                .fetch(LIVE_RELEASE.RELEASE_ID);
    }

    /** Some releases whole, in no order; those that do not exist are left out. */
    public List<Release> of(Collection<Long> ids) {
        return ids.isEmpty()
                ? List.of()
                : whole().where(MODULE_RELEASE.ID.in(ids)).fetch(Releases::release);
    }

    /** One release whole. */
    public Optional<Release> find(String module, Version version) {
        return whole().where(named(module, version)).fetchOptional(Releases::release);
    }

    /** What is kept beside the text of a release; empty for one that was published before contracts were kept. */
    public Optional<KeptContract> kept(long release) {
        return db.select(
                        RELEASE_CONTRACT.CONTRACT,
                        RELEASE_CONTRACT.CATALOG,
                        RELEASE_CONTRACT.FINDINGS,
                        RELEASE_CONTRACT.COMPARED_WITH,
                        RELEASE_CONTRACT.DIFFERENCES,
                        RELEASE_CONTRACT.NOTE,
                        RELEASE_CONTRACT.BREAKS_BECAUSE,
                        RELEASE_CONTRACT.CAME_FROM)
                .from(RELEASE_CONTRACT)
                .where(RELEASE_CONTRACT.RELEASE_ID.eq(release))
                .fetchOptional(row -> new KeptContract(
                        row.value1(),
                        row.value2(),
                        row.value3(),
                        row.value4(),
                        row.value5(),
                        row.value6(),
                        row.value7(),
                        row.value8()));
    }

    /** What is live under a major version, whole. */
    public Optional<Release> live(String module, int major) {
        return whole().where(MODULE_RELEASE.ID.eq(DSL.select(LIVE_RELEASE.RELEASE_ID)
                        .from(LIVE_RELEASE)
                        .where(LIVE_RELEASE.MODULE.eq(module))
                        .and(LIVE_RELEASE.MAJOR.eq(major))))
                .fetchOptional(Releases::release);
    }

    private SelectOnConditionStep<Record> whole() {
        return whole(db);
    }

    private static SelectOnConditionStep<Record> whole(DSLContext db) {
        return db.select(MODULE_RELEASE.fields())
                .select(RELEASE_CONTRACT.CONTRACT_SHA256)
                .from(MODULE_RELEASE)
                .leftJoin(RELEASE_CONTRACT)
                .on(RELEASE_CONTRACT.RELEASE_ID.eq(MODULE_RELEASE.ID));
    }

    /**
     * How a module stands at one moment.
     *
     * @param version of which the release is wanted
     */
    public Standing standing(String module, Version version) {
        return db.transactionResult(transaction -> {
            Releases now = new Releases(transaction.dsl());
            return new Standing(
                    now.of(module),
                    now.live(module, version.major()).orElse(null),
                    now.find(module, version).orElse(null));
        });
    }

    /** Every release, the newest first, without its differences. */
    public List<ReleaseEntry> all() {
        return entries(DSL.trueCondition(), NO_DIFFERENCES);
    }

    /** Every release of a module, the newest first, without its differences. */
    public List<ReleaseEntry> of(String module) {
        return entries(MODULE_RELEASE.MODULE.eq(module), NO_DIFFERENCES);
    }

    /** Every release of a module, the newest first, with what came of comparing it. */
    public List<ReleaseEntry> history(String module) {
        return entries(MODULE_RELEASE.MODULE.eq(module), RELEASE_CONTRACT.DIFFERENCES);
    }

    private List<ReleaseEntry> entries(Condition which, Field<String> differences) {
        Field<Boolean> live = DSL.field(LIVE_RELEASE.RELEASE_ID.isNotNull());
        return db.select(
                        MODULE_RELEASE.ID,
                        MODULE_RELEASE.MODULE,
                        MODULE_RELEASE.VERSION,
                        MODULE_RELEASE.CONTENT_SHA256,
                        MODULE_RELEASE.PUBLISHED_BY,
                        MODULE_RELEASE.PUBLISHED_AT,
                        live,
                        EARLIER.VERSION,
                        differences,
                        RELEASE_CONTRACT.NOTE,
                        RELEASE_CONTRACT.BREAKS_BECAUSE,
                        RELEASE_CONTRACT.CAME_FROM)
                .from(MODULE_RELEASE)
                .leftJoin(LIVE_RELEASE)
                .on(LIVE_RELEASE.RELEASE_ID.eq(MODULE_RELEASE.ID))
                .leftJoin(RELEASE_CONTRACT)
                .on(RELEASE_CONTRACT.RELEASE_ID.eq(MODULE_RELEASE.ID))
                .leftJoin(EARLIER)
                .on(EARLIER.ID.eq(RELEASE_CONTRACT.COMPARED_WITH))
                .where(which)
                .orderBy(MODULE_RELEASE.ID.desc())
                .fetch(row -> new ReleaseEntry(
                        row.value1(),
                        row.value2(),
                        version(row.value3()),
                        row.value4(),
                        row.value5(),
                        row.value6().toInstant(ZoneOffset.UTC),
                        Boolean.TRUE.equals(row.value7()),
                        versionOrNull(row.value8()),
                        row.value9(),
                        row.value10(),
                        row.value11(),
                        row.value12()));
    }

    /** What was live of a module, the newest change first. */
    public List<LiveChange> changes(String module) {
        return db.select(LIVE_CHANGE.fields())
                .select(MODULE_RELEASE.VERSION, EARLIER.VERSION)
                .from(LIVE_CHANGE)
                .leftJoin(MODULE_RELEASE)
                .on(MODULE_RELEASE.ID.eq(LIVE_CHANGE.RELEASE_ID))
                .leftJoin(EARLIER)
                .on(EARLIER.ID.eq(LIVE_CHANGE.REPLACED_ID))
                .where(LIVE_CHANGE.MODULE.eq(module))
                .orderBy(LIVE_CHANGE.ID.desc())
                .fetch(row -> new LiveChange(
                        row.get(LIVE_CHANGE.ID),
                        row.get(LIVE_CHANGE.MODULE),
                        row.get(LIVE_CHANGE.MAJOR),
                        versionOrNull(row.get(MODULE_RELEASE.VERSION)),
                        versionOrNull(row.get(EARLIER.VERSION)),
                        LiveChange.Kind.valueOf(row.get(LIVE_CHANGE.KIND).toUpperCase(Locale.ROOT)),
                        row.get(LIVE_CHANGE.DIFFERENCES),
                        row.get(LIVE_CHANGE.REASON),
                        row.get(LIVE_CHANGE.CHANGED_BY),
                        row.get(LIVE_CHANGE.CHANGED_AT).toInstant(ZoneOffset.UTC)));
    }

    /** The major versions that were live once, and under which nothing is live now. */
    public List<Retirement> retired() {
        return db.select(LIVE_CHANGE.fields())
                .select(DSL.field(DSL.select(BEFORE.RELEASE_ID)
                        .from(BEFORE)
                        .where(BEFORE.ID.eq(DSL.select(DSL.max(LAST.ID))
                                .from(LAST)
                                .where(LAST.MODULE.eq(LIVE_CHANGE.MODULE))
                                .and(LAST.MAJOR.eq(LIVE_CHANGE.MAJOR))
                                .and(LAST.RELEASE_ID.isNotNull())))))
                .from(LIVE_CHANGE)
                .where(LIVE_CHANGE.RELEASE_ID.isNull())
                .and(LIVE_CHANGE.ID.in(DSL.select(DSL.max(LAST.ID)).from(LAST).groupBy(LAST.MODULE, LAST.MAJOR)))
                .orderBy(LIVE_CHANGE.MODULE, LIVE_CHANGE.MAJOR)
                .fetch(row -> new Retirement(
                        row.get(LIVE_CHANGE.MODULE),
                        row.get(LIVE_CHANGE.MAJOR),
                        row.get(LIVE_CHANGE.fields().length, Long.class),
                        row.get(LIVE_CHANGE.REASON),
                        row.get(LIVE_CHANGE.CHANGED_AT).toInstant(ZoneOffset.UTC)));
    }

    /**
     * Publishes modules, all of them or none, and makes each live under its major version.
     *
     * @param by who, how and when
     * @throws VersionTaken when one of the versions is released already with another text
     * @throws LiveMoved when something else went live since the modules were compared with what they replace
     */
    public List<Published> publish(List<NewRelease> modules, Publisher by) throws VersionTaken, LiveMoved {
        try {
            return db.transactionResult(transaction -> {
                AuditTrail.lock(transaction.dsl());
                List<Published> published = new ArrayList<>();
                for (NewRelease module : modules) {
                    published.add(publish(transaction.dsl(), module, by));
                }
                return published;
            });
        } catch (DataAccessException e) {
            if (e.getCause() instanceof VersionTaken taken) {
                throw taken;
            }
            if (e.getCause() instanceof LiveMoved moved) {
                throw moved;
            }
            throw e;
        }
    }

    private static Published publish(DSLContext db, NewRelease module, Publisher by) throws VersionTaken, LiveMoved {
        String content = ReleaseText.write(module.text());
        String hash = ReleaseText.hash(content);
        Condition same = named(module.module(), module.version());
        Release known = whole(db).where(same).fetchOne(Releases::release);
        Release inserted = known == null ? insert(db, module, content, hash, by) : null;
        if (inserted == null && known == null) {
            // somebody else was faster; a locking read sees what they have committed since this transaction began
            known = whole(db).where(same).forShare().fetchOne(Releases::release);
        }
        if (known != null && !known.hash().equals(hash)) {
            throw new VersionTaken(module.module(), module.version());
        }
        Release release = inserted == null ? known : inserted;
        if (release == null) {
            throw new IllegalStateException("a release that is there cannot be read");
        }
        Long before = liveNow(db, module.module(), module.version().major());
        Published published = new Published(release, outcome(known, before, release.id()));
        if (published.outcome() != Published.Outcome.UNCHANGED) {
            refuseMoved(db, module.module(), module.version().major(), module.replaces(), before);
            boolean again = published.outcome() == Published.Outcome.LIVE_AGAIN;
            makeLive(
                    db,
                    release,
                    before,
                    again ? LiveChange.Kind.REVERT : LiveChange.Kind.PUBLISH,
                    module.kept().differences(),
                    module.kept().breaksBecause(),
                    by);
        }
        return published;
    }

    /**
     * Makes an earlier release live again.
     *
     * @param replaces what is live now, as whoever asks believes; null for nothing
     * @param differences from what is promised now, as JSON; null where that is not known
     * @param reason why; null where nobody had to say
     * @throws LiveMoved when something else is live
     */
    public void revert(
            Release release,
            @Nullable Long replaces,
            @Nullable String differences,
            @Nullable String reason,
            Publisher by)
            throws LiveMoved {
        changing(db -> {
            int major = release.version().major();
            Long before = liveNow(db, release.module(), major);
            refuseMoved(db, release.module(), major, replaces, before);
            makeLive(db, release, before, LiveChange.Kind.REVERT, differences, reason, by);
        });
    }

    /**
     * Takes what is live under a major version away.
     *
     * @param retired what is live now, as whoever asks believes
     * @param reason why; null where nobody had to say
     * @throws LiveMoved when something else is live
     */
    public void retire(Release retired, @Nullable String reason, Publisher by) throws LiveMoved {
        changing(db -> {
            String module = retired.module();
            int major = retired.version().major();
            Long before = liveNow(db, module, major);
            refuseMoved(db, module, major, retired.id(), before);
            db.deleteFrom(LIVE_RELEASE)
                    .where(LIVE_RELEASE.MODULE.eq(module))
                    .and(LIVE_RELEASE.MAJOR.eq(major))
                    .execute();
            note(db, module, major, null, before, LiveChange.Kind.RETIRE, null, reason, by);
            AuditTrail.write(
                    db,
                    new AuditEntry(
                                    by.at(),
                                    by.who(),
                                    by.address(),
                                    "retire",
                                    module + "/v" + major,
                                    "version " + retired.version())
                            .changing(state(db, before), null));
        });
    }

    /** One transaction that changes what is live. */
    private interface Changing {
        void change(DSLContext db) throws LiveMoved;
    }

    private void changing(Changing changing) throws LiveMoved {
        try {
            db.transaction(transaction -> {
                AuditTrail.lock(transaction.dsl());
                changing.change(transaction.dsl());
            });
        } catch (DataAccessException e) {
            if (e.getCause() instanceof LiveMoved moved) {
                throw moved;
            }
            throw e;
        }
    }

    /** Keeps what a release promises that was published before contracts were kept; the first to come counts. */
    public void keepLater(long release, KeptContract kept, Instant at) {
        keep(db, release, kept, at);
    }

    private static void keep(DSLContext db, long release, KeptContract kept, Instant at) {
        db.insertInto(RELEASE_CONTRACT)
                .set(RELEASE_CONTRACT.RELEASE_ID, release)
                .set(RELEASE_CONTRACT.CONTRACT, kept.contract())
                .set(RELEASE_CONTRACT.CONTRACT_SHA256, kept.contractHash())
                .set(RELEASE_CONTRACT.CATALOG, kept.catalog())
                .set(RELEASE_CONTRACT.CATALOG_SHA256, ReleaseText.hash(kept.catalog()))
                .set(RELEASE_CONTRACT.FINDINGS, kept.findings())
                .set(RELEASE_CONTRACT.COMPARED_WITH, kept.comparedWith())
                .set(RELEASE_CONTRACT.DIFFERENCES, kept.differences())
                .set(RELEASE_CONTRACT.NOTE, kept.note())
                .set(RELEASE_CONTRACT.BREAKS_BECAUSE, kept.breaksBecause())
                .set(RELEASE_CONTRACT.CAME_FROM, kept.cameFrom())
                .set(RELEASE_CONTRACT.MADE_AT, moment(at))
                .onDuplicateKeyIgnore()
                .execute();
    }

    private static @Nullable Long liveNow(DSLContext db, String module, int major) {
        return db.select(LIVE_RELEASE.RELEASE_ID)
                .from(LIVE_RELEASE)
                .where(LIVE_RELEASE.MODULE.eq(module))
                .and(LIVE_RELEASE.MAJOR.eq(major))
                .forUpdate()
                .fetchOne(LIVE_RELEASE.RELEASE_ID);
    }

    private static void refuseMoved(
            DSLContext db, String module, int major, @Nullable Long expected, @Nullable Long now) throws LiveMoved {
        if (now == null ? expected != null : !now.equals(expected)) {
            String version = now == null
                    ? null
                    : db.select(MODULE_RELEASE.VERSION)
                            .from(MODULE_RELEASE)
                            .where(MODULE_RELEASE.ID.eq(now))
                            .fetchOne(MODULE_RELEASE.VERSION);
            throw new LiveMoved(module, major, version);
        }
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
                        .fetchOne(row -> state(version(row.value1()), row.value2()));
    }

    private static Published.Outcome outcome(@Nullable Release known, @Nullable Long before, long now) {
        if (known == null) {
            return Published.Outcome.PUBLISHED;
        }
        return before != null && before == now ? Published.Outcome.UNCHANGED : Published.Outcome.LIVE_AGAIN;
    }

    /** The new release; null when there is one of that version already. */
    private static @Nullable Release insert(
            DSLContext db, NewRelease module, String content, String hash, Publisher by) {
        Instant when = by.at().truncatedTo(ChronoUnit.MILLIS);
        try {
            Long id = db.insertInto(MODULE_RELEASE)
                    .set(MODULE_RELEASE.MODULE, module.module())
                    .set(MODULE_RELEASE.MAJOR, module.version().major())
                    .set(MODULE_RELEASE.VERSION, module.version().toString())
                    .set(MODULE_RELEASE.SOURCE, module.source())
                    .set(MODULE_RELEASE.CONTENT, content)
                    .set(MODULE_RELEASE.CONTENT_SHA256, hash)
                    .set(MODULE_RELEASE.PUBLISHED_BY, by.who())
                    .set(MODULE_RELEASE.PUBLISHED_AT, moment(when))
                    .returningResult(MODULE_RELEASE.ID)
                    .fetchOne(MODULE_RELEASE.ID);
            if (id == null) {
                throw new IllegalStateException("the record store gave the release no id");
            }
            keep(db, id, module.kept(), when);
            return new Release(
                    id,
                    module.module(),
                    module.version(),
                    module.text(),
                    hash,
                    by.who(),
                    when,
                    module.kept().contractHash());
        } catch (IntegrityConstraintViolationException e) {
            return null;
        }
    }

    private static void makeLive(
            DSLContext db,
            Release release,
            @Nullable Long before,
            LiveChange.Kind kind,
            @Nullable String differences,
            @Nullable String reason,
            Publisher by) {
        int major = release.version().major();
        db.insertInto(LIVE_RELEASE)
                .set(LIVE_RELEASE.MODULE, release.module())
                .set(LIVE_RELEASE.MAJOR, major)
                .set(LIVE_RELEASE.RELEASE_ID, release.id())
                .onDuplicateKeyUpdate()
                .set(LIVE_RELEASE.RELEASE_ID, release.id())
                .execute();
        note(db, release.module(), major, release.id(), before, kind, differences, reason, by);
        String again = kind == LiveChange.Kind.REVERT ? " again" : "";
        AuditTrail.write(
                db,
                new AuditEntry(
                                by.at(),
                                by.who(),
                                by.address(),
                                "publish",
                                release.module() + "/v" + major,
                                "version " + release.version() + again)
                        .changing(state(db, before), state(release.version(), release.hash())));
    }

    private static void note(
            DSLContext db,
            String module,
            int major,
            @Nullable Long release,
            @Nullable Long replaced,
            LiveChange.Kind kind,
            @Nullable String differences,
            @Nullable String reason,
            Publisher by) {
        db.insertInto(LIVE_CHANGE)
                .set(LIVE_CHANGE.MODULE, module)
                .set(LIVE_CHANGE.MAJOR, major)
                .set(LIVE_CHANGE.RELEASE_ID, release)
                .set(LIVE_CHANGE.REPLACED_ID, replaced)
                .set(LIVE_CHANGE.DIFFERENCES, differences)
                .set(LIVE_CHANGE.KIND, kind.name().toLowerCase(Locale.ROOT))
                .set(LIVE_CHANGE.REASON, reason)
                .set(LIVE_CHANGE.CHANGED_BY, by.who())
                .set(LIVE_CHANGE.CHANGED_AT, moment(by.at()))
                .execute();
    }

    private static Condition named(String module, Version version) {
        return MODULE_RELEASE.MODULE.eq(module).and(MODULE_RELEASE.VERSION.eq(version.toString()));
    }

    private static LocalDateTime moment(Instant at) {
        return LocalDateTime.ofInstant(at.truncatedTo(ChronoUnit.MILLIS), ZoneOffset.UTC);
    }

    private static @Nullable Version versionOrNull(@Nullable String text) {
        return text == null ? null : version(text);
    }

    private static Version version(String text) {
        return Version.parse(text).orElseThrow();
    }

    private static Release release(Record row) {
        return new Release(
                row.get(MODULE_RELEASE.ID),
                row.get(MODULE_RELEASE.MODULE),
                version(row.get(MODULE_RELEASE.VERSION)),
                ReleaseText.read(row.get(MODULE_RELEASE.CONTENT)),
                row.get(MODULE_RELEASE.CONTENT_SHA256),
                row.get(MODULE_RELEASE.PUBLISHED_BY),
                row.get(MODULE_RELEASE.PUBLISHED_AT).toInstant(ZoneOffset.UTC),
                row.get(RELEASE_CONTRACT.CONTRACT_SHA256));
    }
}
