package tidybridge.service.release;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.compare.Comparison;
import tidybridge.core.compare.DifferenceNote;
import tidybridge.core.contract.Contract;
import tidybridge.core.definition.Version;
import tidybridge.core.plan.ModulePlan;
import tidybridge.engine.Source;
import tidybridge.records.KeptContract;
import tidybridge.records.LiveMoved;
import tidybridge.records.NewRelease;
import tidybridge.records.Published;
import tidybridge.records.Publisher;
import tidybridge.records.Records;
import tidybridge.records.Release;
import tidybridge.records.ReleaseEntry;
import tidybridge.records.Releases;
import tidybridge.records.Review;
import tidybridge.records.ReviewClosed;
import tidybridge.records.Standing;
import tidybridge.records.VersionTaken;
import tidybridge.service.live.LiveModules;
import tidybridge.service.live.TextCompiler;

/**
 * Publishes modules, compares them first with what their callers were promised, and takes them back. Thread-safe: what was looked at is
 * looked at again in the transaction that changes it.
 */
public final class Publishing {

    private final LiveModules modules;
    private final TextCompiler compiler;
    private final Records records;

    public Publishing(LiveModules modules, TextCompiler compiler, Records records) {
        this.modules = modules;
        this.compiler = compiler;
        this.records = records;
    }

    /**
     * What whoever publishes says of it.
     *
     * @param note for those who read of the release
     * @param breaking why callers must live with what breaks
     * @param from the release of another service that it is carried from
     */
    public record Words(
            @Nullable String note,
            @Nullable String breaking,
            @Nullable String from) {}

    /**
     * Looks what publishing a module would mean.
     *
     * @param compiled without errors
     */
    public Prospect look(TextCompiler.Compiled compiled) {
        ModulePlan plan = compiled.publishable();
        Contract contract = Contract.of(plan);
        int major = plan.version().major();
        String hash = Releases.hash(compiled.text());
        Standing standing = records.releases().standing(plan.name(), plan.version(), hash);
        List<ReleaseEntry> entries = standing.all();
        Release live = standing.live();
        Release released = standing.released();
        ReleaseEntry base = base(entries, plan.version(), live).orElse(null);
        return new Prospect(
                compiled,
                contract,
                live,
                base,
                base == null ? null : compared(base, contract, compiled).orElse(null),
                entries.stream()
                        .map(ReleaseEntry::version)
                        .filter(version -> version.major() == major)
                        .max(Comparator.naturalOrder())
                        .orElse(null),
                Math.max(
                        major,
                        entries.stream()
                                .mapToInt(entry -> entry.version().major())
                                .max()
                                .orElse(0)),
                new Prospect.Approval(released == null && asksReview(plan, entries), standing.review()),
                released == null
                        ? Prospect.Taken.FREE
                        : released.hash().equals(hash) ? Prospect.Taken.BY_THE_SAME : Prospect.Taken.BY_ANOTHER);
    }

    /** Nobody gets around a review with a text that does not ask for it any more. */
    private static boolean asksReview(ModulePlan plan, List<ReleaseEntry> entries) {
        return plan.asksReview()
                || entries.stream().anyMatch(entry -> entry.live() && entry.asksReview())
                || entries.stream()
                        .max(Comparator.comparing(ReleaseEntry::version))
                        .filter(ReleaseEntry::asksReview)
                        .isPresent();
    }

    /** What is live; else the newest of the same major version, or of the nearest one below. */
    private static Optional<ReleaseEntry> base(List<ReleaseEntry> entries, Version version, @Nullable Release live) {
        return entries.stream()
                .filter(entry -> live == null
                        ? entry.version().major() <= version.major()
                                && !entry.version().equals(version)
                        : entry.id() == live.id())
                .max(Comparator.comparing(
                                (ReleaseEntry entry) -> entry.version().major())
                        .thenComparing(ReleaseEntry::live)
                        .thenComparing(ReleaseEntry::version));
    }

    private Optional<Comparison> compared(ReleaseEntry base, Contract contract, TextCompiler.Compiled compiled) {
        return records.releases().kept(base.id()).map(kept -> {
            Comparison comparison = Comparison.of(read(base, kept), contract);
            return records.releases()
                    .find(base.module(), base.version())
                    .map(release -> comparison.withTexts(release.text(), compiled.text()))
                    .orElse(comparison);
        });
    }

    private static Contract read(ReleaseEntry release, KeptContract kept) {
        try {
            return Contract.read(kept.contract());
        } catch (IllegalArgumentException e) {
            throw new UnreadableContract(release, e);
        }
    }

    /** What keeps a module from being published as it is. */
    private static Optional<Objection> whyNot(Prospect prospect, Words words) {
        Optional<Objection> promised = objection(prospect, prospect.words(words).breaking());
        return promised.isEmpty() && prospect.approval().needed() && prospect.approved() == null
                ? Optional.of(new Objection.Unapproved(prospect))
                : promised;
    }

    /** What was promised to callers and keeps a module from being published as it is, approved or not. */
    public static Optional<Objection> objection(Prospect prospect, @Nullable String breaking) {
        if (prospect.breaks() && breaking == null) {
            return Optional.of(
                    prospect.taken() == Prospect.Taken.BY_THE_SAME
                            ? new Objection.Earlier(prospect)
                            : new Objection.Breaking(prospect));
        }
        boolean isLow = prospect.taken() != Prospect.Taken.BY_THE_SAME
                && prospect.staysUnderMajor()
                && prospect.version().compareTo(prospect.nextUnderMajor()) < 0;
        return isLow ? Optional.of(new Objection.VersionTooLow(prospect)) : Optional.empty();
    }

    /**
     * Publishes modules, all of them or none, and makes them live.
     *
     * @throws Objected when one of them may not be published as it is
     * @throws VersionTaken when one of the versions is published already with another text
     * @throws LiveMoved when something else went live since the modules were looked at
     */
    public List<Published> publish(List<Prospect> prospects, Words words, Publisher by)
            throws Objected, VersionTaken, LiveMoved {
        refuseTaken(prospects);
        List<Objection> objections = prospects.stream()
                .flatMap(prospect -> whyNot(prospect, words).stream())
                .toList();
        if (!objections.isEmpty()) {
            throw new Objected(objections);
        }
        // what is kept is what later looks are held against
        compiler.readAnew(prospects.stream().map(Publishing::source).collect(Collectors.toSet()));
        List<NewRelease> releases = new ArrayList<>();
        for (Prospect prospect : prospects) {
            releases.add(release(prospect, prospect.words(words)));
        }
        return modules.publish(prospects.stream().map(Prospect::compiled).toList(), releases, by);
    }

    private static String source(Prospect prospect) {
        return prospect.compiled().publishable().source();
    }

    private static boolean asksReview(Prospect prospect) {
        ModulePlan plan = prospect.compiled().plan();
        return plan != null && plan.asksReview();
    }

    private static @Nullable String differences(Prospect prospect) {
        return prospect.compared()
                .map(DifferenceNote::of)
                .map(DifferenceNote::write)
                .orElse(null);
    }

    /** That a version has another text already says more than that it is too low. */
    private static void refuseTaken(List<Prospect> prospects) throws VersionTaken {
        for (Prospect prospect : prospects) {
            if (prospect.taken() == Prospect.Taken.BY_ANOTHER) {
                throw new VersionTaken(
                        prospect.contract().module(), prospect.contract().version());
            }
        }
    }

    private NewRelease release(Prospect prospect, Words words) {
        Contract contract = prospect.contract();
        ReleaseEntry base = prospect.base();
        Release live = prospect.live();
        Review approved = prospect.approved();
        KeptContract kept = new KeptContract(
                contract.text(),
                compiler.facts(prospect.compiled().text()).text(),
                FindingNote.write(prospect.compiled().findings()),
                base == null ? null : base.id(),
                differences(prospect),
                words.note(),
                prospect.breaks() ? words.breaking() : null,
                words.from());
        return new NewRelease(
                contract.module(),
                contract.version(),
                source(prospect),
                prospect.compiled().text(),
                kept,
                asksReview(prospect),
                prospect.approval().needed() && approved != null ? approved.id() : null,
                live == null ? null : live.id());
    }

    /**
     * Asks for the approval of those modules that need one and do not have it.
     *
     * @return the reviews that wait or stand, in the order of the modules; null where none is needed
     * @throws Objected when one of them could not be published even if it was approved
     * @throws VersionTaken when one of the versions is published already with another text
     * @throws ReviewClosed when too many wait already
     */
    public List<@Nullable Review> ask(List<Prospect> prospects, Words words, Publisher by)
            throws Objected, VersionTaken, ReviewClosed {
        refuseTaken(prospects);
        List<Objection> objections = prospects.stream()
                .flatMap(prospect -> objection(prospect, words.breaking()).stream())
                .toList();
        if (!objections.isEmpty()) {
            throw new Objected(objections);
        }
        List<@Nullable Review> reviews = new ArrayList<>();
        for (Prospect prospect : prospects) {
            reviews.add(prospect.approval().needed() ? records.reviews().ask(release(prospect, words), by) : null);
        }
        return reviews;
    }

    /**
     * Looks what it would mean to make an earlier release live again.
     *
     * @return without a plan when the text no longer fits its source
     * @throws Source.Unreachable when its source does not answer
     */
    public TextCompiler.Compiled compile(Release release) {
        return compiler.compile(release.text());
    }

    /**
     * Makes an earlier release live again.
     *
     * @param prospect of its text
     * @param reason why; null where nothing breaks
     * @throws Objected when callers are let down and no reason is given
     * @throws LiveMoved when something else went live meanwhile
     */
    public void revert(Release release, Prospect prospect, @Nullable String reason, Publisher by)
            throws Objected, LiveMoved {
        if (prospect.breaks() && reason == null) {
            throw new Objected(List.of(new Objection.Unreasoned(prospect)));
        }
        Release live = prospect.live();
        records.releaseChanges().revert(release, live == null ? null : live.id(), differences(prospect), reason, by);
        modules.reconcile();
    }

    /**
     * Takes what is live under a major version away.
     *
     * @param live what whoever asks believes to be live
     * @param reason why
     * @throws LiveMoved when something else is live
     */
    public void retire(Release live, String reason, Publisher by) throws LiveMoved {
        records.releaseChanges().retire(live, reason, by);
        modules.reconcile();
    }
}
