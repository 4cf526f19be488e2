package tidybridge.records;

import static tidybridge.records.generated.Tables.LIVE_CHANGE;
import static tidybridge.records.generated.Tables.LIVE_RELEASE;
import static tidybridge.records.generated.Tables.MODULE_RELEASE;
import static tidybridge.records.generated.Tables.RELEASE_CONTRACT;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.exception.DataAccessException;
import org.jooq.exception.IntegrityConstraintViolationException;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Version;
import tools.jackson.databind.json.JsonMapper;

/** Changes what is published and what is live of it. Thread-safe; every change is one transaction, and one follows the other. */
public final class ReleaseChanges {

    private final DSLContext db;

    ReleaseChanges(DSLContext db) {
        this.db = db;
    }

    /**
     * Publishes modules, all of them or none, and makes each live under its major version.
     *
     * @param by who, how and when
     * @throws VersionTaken when one of the versions is released already with another text
     * @throws LiveMoved when something else went live since the modules were compared with what they replace
     */
    public List<Published> publish(List<NewRelease> modules, Publisher by) throws VersionTaken, LiveMoved {
        return inOrder(db -> {
            List<Published> published = new ArrayList<>();
            for (NewRelease module : modules) {
                published.add(publish(db, module, by));
            }
            return published;
        });
    }

    private static Published publish(DSLContext db, NewRelease module, Publisher by) throws VersionTaken, LiveMoved {
        String content = ReleaseText.write(module.text());
        String hash = ReleaseText.hash(content);
        Condition same = Releases.named(module.module(), module.version());
        Release known = Releases.whole(db).where(same).fetchOne(Releases::release);
        Release inserted = known == null ? insert(db, module, content, hash, by) : null;
        if (inserted == null && known == null) {
            // somebody else was faster; a locking read sees what they have committed since this transaction began
            known = Releases.whole(db).where(same).forShare().fetchOne(Releases::release);
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
            Long review = module.review();
            if (known == null && review != null && !Reviews.use(db, review, release, before)) {
                throw LiveMoved.unapproved(module);
            }
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
     * @return false when it is live already, and nothing was changed
     * @throws LiveMoved when something else is live
     */
    public boolean revert(
            Release release,
            @Nullable Long replaces,
            @Nullable String differences,
            @Nullable String reason,
            Publisher by)
            throws LiveMoved {
        return changing(db -> {
            int major = release.version().major();
            Long before = liveNow(db, release.module(), major);
            refuseMoved(db, release.module(), major, replaces, before);
            if (before != null && before == release.id()) {
                return false;
            }
            makeLive(db, release, before, LiveChange.Kind.REVERT, differences, reason, by);
            return true;
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
            return true;
        });
    }

    /** What one transaction does to what is published and live. */
    private interface Changing<T> {
        T change(DSLContext db) throws VersionTaken, LiveMoved;
    }

    private <T> T inOrder(Changing<T> changing) throws VersionTaken, LiveMoved {
        try {
            return InOrder.run(db, changing::change);
        } catch (DataAccessException e) {
            InOrder.rethrow(e, VersionTaken.class);
            InOrder.rethrow(e, LiveMoved.class);
            throw e;
        }
    }

    private boolean changing(Changing<Boolean> changing) throws LiveMoved {
        try {
            return inOrder(changing);
        } catch (VersionTaken e) {
            throw new IllegalStateException("no version is given to a text here", e);
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
                .set(RELEASE_CONTRACT.MADE_AT, Moments.stored(at))
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
                        .fetchOne(row -> state(Releases.version(row.value1()), row.value2()));
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
        Instant when = Moments.read(Moments.stored(by.at()));
        try {
            Long id = db.insertInto(MODULE_RELEASE)
                    .set(MODULE_RELEASE.MODULE, module.module())
                    .set(MODULE_RELEASE.MAJOR, module.version().major())
                    .set(MODULE_RELEASE.VERSION, module.version().toString())
                    .set(MODULE_RELEASE.SOURCE, module.source())
                    .set(MODULE_RELEASE.CONTENT, content)
                    .set(MODULE_RELEASE.CONTENT_SHA256, hash)
                    .set(MODULE_RELEASE.PUBLISHED_BY, by.who())
                    .set(MODULE_RELEASE.ASKS_REVIEW, module.asksReview())
                    .set(MODULE_RELEASE.PUBLISHED_AT, Moments.stored(when))
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
                .set(LIVE_CHANGE.CHANGED_AT, Moments.stored(by.at()))
                .execute();
    }
}
