package tidybridge.service.live;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import tidybridge.core.compare.DifferenceNote;
import tidybridge.core.definition.Version;
import tidybridge.core.reference.ModuleNews;
import tidybridge.records.LiveChange;
import tidybridge.records.Records;
import tidybridge.records.ReleaseEntry;

/** What happened to modules, read from the record store when somebody asks first, and kept until something goes live. Thread-safe. */
final class News {

    private final Records records;
    private volatile Map<String, ModuleNews> kept = new ConcurrentHashMap<>();

    News(Records records) {
        this.records = records;
    }

    /** Something else is live; what is being read meanwhile is not kept. */
    void forget() {
        kept = new ConcurrentHashMap<>();
    }

    /**
     * What happened to a module.
     *
     * @param live the major versions of it that are served
     */
    ModuleNews of(String module, List<LiveModule> live) {
        return kept.computeIfAbsent(module, name -> read(name, live));
    }

    private ModuleNews read(String module, List<LiveModule> live) {
        Map<Version, ReleaseEntry> releases = new HashMap<>();
        records.releases().history(module).forEach(release -> releases.put(release.version(), release));
        List<ModuleNews.Event> events = new ArrayList<>();
        for (LiveChange change : records.releases().changes(module)) {
            events.add(event(change, change.version() == null ? null : releases.get(change.version())));
        }
        String title = live.stream()
                .map(LiveModule::plan)
                .map(plan -> plan == null ? module : plan.title())
                .reduce(module, (before, last) -> last);
        return new ModuleNews(
                module, title, live.stream().map(LiveModule::identity).toList(), events);
    }

    private static ModuleNews.Event event(LiveChange change, @Nullable ReleaseEntry release) {
        ReleaseEntry published = change.kind() == LiveChange.Kind.PUBLISH ? release : null;
        Version before = published == null ? change.replaced() : published.comparedWith();
        String differences = published == null ? change.differences() : published.differences();
        return new ModuleNews.Event(
                UUID.nameUUIDFromBytes((change.module() + " " + change.id() + " " + change.at())
                                .getBytes(StandardCharsets.UTF_8))
                        .toString(),
                switch (change.kind()) {
                    case PUBLISH -> ModuleNews.Kind.PUBLISHED;
                    case REVERT -> ModuleNews.Kind.LIVE_AGAIN;
                    case RETIRE -> ModuleNews.Kind.RETIRED;
                },
                change.module() + "/v" + change.major(),
                change.version() == null ? null : change.version().toString(),
                change.at(),
                before == null ? null : before.toString(),
                differences == null ? List.of() : DifferenceNote.read(differences),
                0,
                published == null ? null : published.note(),
                change.reason());
    }
}
