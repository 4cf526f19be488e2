package tidybridge.records;

import static tidybridge.records.generated.Tables.LIVE_CHANGE;
import static tidybridge.records.generated.Tables.LIVE_RELEASE;
import static tidybridge.records.generated.Tables.MODULE_RELEASE;
import static tidybridge.records.generated.Tables.RELEASE_CONTRACT;

import java.time.Instant;
import java.time.LocalDateTime;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.SelectOnConditionStep;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;
import tidybridge.records.generated.tables.ModuleRelease;

/** What was published, what is live of it, and what was live before. Thread-safe. */
public final class Releases {

    private static final ModuleRelease EARLIER = MODULE_RELEASE.as("earlier");

    private static final tidybridge.records.generated.tables.LiveChange LAST = LIVE_CHANGE.as("last");
    private static final tidybridge.records.generated.tables.LiveChange BEFORE = LIVE_CHANGE.as("before");
    /** How many releases and changes are told with their differences, which may be long; what came of older ones can be compared anew. */
    public static final int MOST_WITH_DIFFERENCES = 100;

    private static final Field<String> NO_DIFFERENCES = DSL.inline((String) null);

    private final DSLContext db;

    Releases(DSLContext db) {
        this.db = db;
    }

    /** What a release of a text has as its hash. */
    public static String hash(ModuleText text) {
        return ReleaseText.hash(ReleaseText.write(text));
    }

    /**
     * What is live at one moment.
     *
     * @param change the number of the newest change of it that is surely among them; 0 before the first
     * @param releases by their numbers, ordered by module and major version
     */
    public record LiveNow(long change, List<Long> releases) {
        public LiveNow {
            releases = List.copyOf(releases);
        }
    }

    /** The number of the newest change of what is live; 0 before the first. */
    public long liveChange() {
        Long newest = db.select(DSL.max(LIVE_CHANGE.ID)).from(LIVE_CHANGE).fetchOne(DSL.max(LIVE_CHANGE.ID));
        return newest == null ? 0 : newest;
    }

    /** What is live now. */
    public LiveNow liveNow() {
        // in this order: what came between the two is in the list, and is looked at once more
        long change = liveChange();
        return new LiveNow(change, live());
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

    static SelectOnConditionStep<Record> whole(DSLContext db) {
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
     * @param hash of the text that is to be published
     */
    public Standing standing(String module, Version version, String hash) {
        return db.transactionResult(transaction -> {
            Releases now = new Releases(transaction.dsl());
            return new Standing(
                    now.of(module),
                    now.live(module, version.major()).orElse(null),
                    now.find(module, version).orElse(null),
                    new Reviews(transaction.dsl()).of(module, version, hash).orElse(null));
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

    /** Every release of a module, the newest first; the newest {@link #MOST_WITH_DIFFERENCES} with what came of comparing them. */
    public List<ReleaseEntry> history(String module) {
        long first = first(MODULE_RELEASE.ID, MODULE_RELEASE, MODULE_RELEASE.MODULE.eq(module));
        return entries(
                MODULE_RELEASE.MODULE.eq(module), DSL.when(MODULE_RELEASE.ID.ge(first), RELEASE_CONTRACT.DIFFERENCES));
    }

    /** The oldest of the newest {@link #MOST_WITH_DIFFERENCES} numbers; 0 when there are fewer. */
    private long first(Field<Long> id, Table<?> table, Condition which) {
        Long first = db.select(id)
                .from(table)
                .where(which)
                .orderBy(id.desc())
                .limit(1)
                .offset(MOST_WITH_DIFFERENCES - 1)
                .fetchOne(id);
        return first == null ? 0 : first;
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
                        MODULE_RELEASE.ASKS_REVIEW,
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
                        Moments.read(row.value6()),
                        row.value7(),
                        Boolean.TRUE.equals(row.value8()),
                        versionOrNull(row.value9()),
                        row.value10(),
                        row.value11(),
                        row.value12(),
                        row.value13()));
    }

    /** When something was live for the first time under each major version, by {@code moorings/v1}. */
    public Map<String, Instant> firsts() {
        Field<LocalDateTime> first = DSL.min(LIVE_CHANGE.CHANGED_AT);
        Map<String, Instant> firsts = new HashMap<>();
        db.select(LIVE_CHANGE.MODULE, LIVE_CHANGE.MAJOR, first)
                .from(LIVE_CHANGE)
                .groupBy(LIVE_CHANGE.MODULE, LIVE_CHANGE.MAJOR)
                .forEach(row -> firsts.put(row.value1() + "/v" + row.value2(), Moments.read(row.value3())));
        return firsts;
    }

    /** What was live of a module, the newest change first; the newest {@link #MOST_WITH_DIFFERENCES} with what they meant for callers. */
    public List<LiveChange> changes(String module) {
        Field<String> differences = DSL.when(
                LIVE_CHANGE.ID.ge(first(LIVE_CHANGE.ID, LIVE_CHANGE, LIVE_CHANGE.MODULE.eq(module))),
                LIVE_CHANGE.DIFFERENCES);
        return db.select(
                        LIVE_CHANGE.ID,
                        LIVE_CHANGE.MODULE,
                        LIVE_CHANGE.MAJOR,
                        LIVE_CHANGE.KIND,
                        LIVE_CHANGE.REASON,
                        LIVE_CHANGE.CHANGED_BY,
                        LIVE_CHANGE.CHANGED_AT)
                .select(MODULE_RELEASE.VERSION, EARLIER.VERSION)
                .select(differences)
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
                        row.get(differences),
                        row.get(LIVE_CHANGE.REASON),
                        row.get(LIVE_CHANGE.CHANGED_BY),
                        Moments.read(row.get(LIVE_CHANGE.CHANGED_AT))));
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
                        Moments.read(row.get(LIVE_CHANGE.CHANGED_AT))));
    }

    static Condition named(String module, Version version) {
        return MODULE_RELEASE.MODULE.eq(module).and(MODULE_RELEASE.VERSION.eq(version.toString()));
    }

    private static @Nullable Version versionOrNull(@Nullable String text) {
        return text == null ? null : version(text);
    }

    static Version version(String text) {
        return Version.parse(text).orElseThrow();
    }

    static Release release(Record row) {
        return new Release(
                row.get(MODULE_RELEASE.ID),
                row.get(MODULE_RELEASE.MODULE),
                version(row.get(MODULE_RELEASE.VERSION)),
                ReleaseText.read(row.get(MODULE_RELEASE.CONTENT)),
                row.get(MODULE_RELEASE.CONTENT_SHA256),
                row.get(MODULE_RELEASE.PUBLISHED_BY),
                Moments.read(row.get(MODULE_RELEASE.PUBLISHED_AT)),
                row.get(RELEASE_CONTRACT.CONTRACT_SHA256));
    }
}
