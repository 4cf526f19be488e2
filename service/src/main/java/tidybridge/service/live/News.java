package tidybridge.service.live;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import tidybridge.core.compare.DifferenceNote;
import tidybridge.core.definition.Version;
import tidybridge.core.reference.ModuleNews;
import tidybridge.records.Announcement;
import tidybridge.records.LiveChange;
import tidybridge.records.Records;
import tidybridge.records.ReleaseEntry;

/** What happened to modules, read from the record store when somebody asks first, and kept until something goes live. Thread-safe. */
public final class News {

    private static final long AGE_NANOS = Duration.ofSeconds(5).toNanos();

    private final Records records;
    private final Supplier<Live> live;
    private volatile Kept kept = new Kept();

    /** What was read since something went live. */
    private static final class Kept {
        private final long atNanos = System.nanoTime();
        private final Map<String, ModuleNews> news = new ConcurrentHashMap<>();
        private volatile @Nullable Map<String, Instant> firsts;
    }

    News(Records records, Supplier<Live> live) {
        this.records = records;
        this.live = live;
    }

    /** Something else is live, or was said; what is being read meanwhile is not kept. */
    public void forget() {
        kept = new Kept();
    }

    /** When something was live for the first time under each major version, by {@code moorings/v1}. */
    public Map<String, Instant> firsts() {
        Kept since = kept;
        Map<String, Instant> firsts = since.firsts;
        if (firsts == null) {
            firsts = Map.copyOf(records.releases().firsts());
            since.firsts = firsts;
        }
        return firsts;
    }

    /** What happened to a module, by its name. */
    public ModuleNews of(String module) {
        return fresh().news.computeIfAbsent(module, this::read);
    }

    /** What owners say on another node is known here a little later, and nobody makes the record store be read more often. */
    private Kept fresh() {
        Kept known = kept;
        if (System.nanoTime() - known.atNanos > AGE_NANOS) {
            known = new Kept();
            kept = known;
        }
        return known;
    }

    private ModuleNews read(String module) {
        List<LiveModule> live = this.live.get().modules().stream()
                .filter(one -> one.release().module().equals(module))
                .toList();
        Map<Version, ReleaseEntry> releases = new HashMap<>();
        records.releases().history(module).forEach(release -> releases.put(release.version(), release));
        List<ModuleNews.Event> events = new ArrayList<>();
        for (LiveChange change : records.releases().changes(module)) {
            events.add(event(change, change.version() == null ? null : releases.get(change.version())));
        }
        for (Announcement one : records.announcements().of(module)) {
            events.add(ModuleNews.Event.announced(
                    id(module + " announcement " + one.id() + " " + one.at()),
                    module,
                    one.title(),
                    one.words(),
                    one.at()));
        }
        events.sort(Comparator.comparing(ModuleNews.Event::at).reversed());
        String title = live.stream()
                .map(LiveModule::plan)
                .map(plan -> plan == null ? module : plan.title())
                .reduce(module, (before, last) -> last);
        return new ModuleNews(
                module, title, live.stream().map(LiveModule::identity).toList(), events);
    }

    private static String id(String what) {
        return UUID.nameUUIDFromBytes(what.getBytes(StandardCharsets.UTF_8)).toString();
    }

    private static ModuleNews.Event event(LiveChange change, @Nullable ReleaseEntry release) {
        ReleaseEntry published = change.kind() == LiveChange.Kind.PUBLISH ? release : null;
        Version before = published == null ? change.replaced() : published.comparedWith();
        String differences = published == null ? change.differences() : published.differences();
        return new ModuleNews.Event(
                id(change.module() + " " + change.id() + " " + change.at()),
                switch (change.kind()) {
                    case PUBLISH -> ModuleNews.Kind.PUBLISHED;
                    case REVERT -> ModuleNews.Kind.LIVE_AGAIN;
                    case RETIRE -> ModuleNews.Kind.RETIRED;
                },
                change.module() + "/v" + change.major(),
                null,
                change.version() == null ? null : change.version().toString(),
                change.at(),
                before == null ? null : before.toString(),
                differences == null ? List.of() : DifferenceNote.read(differences),
                0,
                published == null ? null : published.note(),
                change.reason());
    }
}
