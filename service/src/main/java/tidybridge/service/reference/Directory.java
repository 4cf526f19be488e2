package tidybridge.service.reference;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jooq.exception.DataAccessException;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tidybridge.core.directory.Found;
import tidybridge.core.directory.ModuleIndex;
import tidybridge.core.directory.ModuleState;
import tidybridge.core.directory.SearchWords;
import tidybridge.core.reference.ModuleNews;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.LiveModules;
import tidybridge.service.live.Onlooker;
import tidybridge.service.live.ReferenceFiles;

/** Finds modules for those who do not know them yet. Thread-safe. */
@Component
public final class Directory {

    private static final int MOST_LATEST = 3;

    private final LiveModules modules;
    private final Clock clock;

    public Directory(LiveModules modules, Clock clock) {
        this.modules = modules;
        this.clock = clock;
    }

    /**
     * A module that was found.
     *
     * @param callable whether whoever looks may call something of it already
     * @param found where the words are; nothing when no words were looked for
     */
    public record Entry(LiveModule module, ModuleState state, boolean callable, Found found) {}

    /** A word that modules have in common, and how many do. */
    public record Facet(String word, int modules) {}

    /**
     * What was found.
     *
     * @param known how many modules there are to be found by whoever looks
     * @param owners of all of them
     * @param tags of all of them
     */
    public record Finds(List<Entry> entries, int known, List<Facet> owners, List<Facet> tags) {
        public Finds {
            entries = List.copyOf(entries);
            owners = List.copyOf(owners);
            tags = List.copyOf(tags);
        }
    }

    /** The modules that somebody may find; those that have more of the words in their title and description come first. */
    public Finds find(Onlooker onlooker, Question question) {
        List<LiveModule> known =
                modules.whole().modules().stream().filter(onlooker::finds).toList();
        SearchWords words = SearchWords.of(question.text());
        Map<String, Instant> firsts = firsts();
        List<Entry> entries = new ArrayList<>();
        for (LiveModule module : known) {
            if (isAsked(module, question)) {
                found(module, words)
                        .ifPresent(found ->
                                entries.add(new Entry(module, state(module, firsts), onlooker.calls(module), found)));
            }
        }
        entries.sort(Comparator.comparingInt(entry -> -entry.found().inHead()));
        return new Finds(entries, known.size(), owners(known), tags(known));
    }

    /** The state of one module. */
    public ModuleState state(LiveModule module) {
        return state(module, firsts());
    }

    private ModuleState state(LiveModule module, Map<String, Instant> firsts) {
        return ModuleState.of(module.said().deprecated(), firsts.get(module.identity()), clock.instant());
    }

    /** Nothing while the record store is away: what is new is not worth an error. */
    private Map<String, Instant> firsts() {
        try {
            return modules.news().firsts();
        } catch (DataAccessException e) {
            return Map.of();
        }
    }

    private static boolean isAsked(LiveModule module, Question question) {
        String owner = question.owner();
        String tag = question.tag();
        return (owner == null || owner.equals(module.said().listing().owner()))
                && (tag == null || module.said().listing().tags().contains(tag));
    }

    private static Optional<Found> found(LiveModule module, SearchWords words) {
        return words.isEmpty()
                ? Optional.of(new Found(0, List.of(), 0))
                : index(module).find(words);
    }

    private static ModuleIndex index(LiveModule module) {
        ReferenceFiles reference = module.reference();
        LiveModule.Said said = module.said();
        return reference == null
                ? ModuleIndex.ofHead(module.release().module(), said.title(), said.about(), said.listing())
                : reference.index();
    }

    private static List<Facet> owners(List<LiveModule> known) {
        Map<String, Integer> counts = new TreeMap<>();
        known.forEach(module -> count(module.said().listing().owner(), counts));
        return facets(counts);
    }

    private static List<Facet> tags(List<LiveModule> known) {
        Map<String, Integer> counts = new TreeMap<>();
        known.forEach(module -> module.said().listing().tags().forEach(tag -> count(tag, counts)));
        return facets(counts);
    }

    private static void count(@Nullable String word, Map<String, Integer> counts) {
        if (word != null) {
            counts.merge(word, 1, Integer::sum);
        }
    }

    private static List<Facet> facets(Map<String, Integer> counts) {
        List<Facet> facets = new ArrayList<>();
        counts.forEach((word, modules) -> facets.add(new Facet(word, modules)));
        return facets;
    }

    /** What happened to the modules that somebody may find, the newest first, as many as are told of one. */
    public List<ModuleNews.Event> news(Onlooker onlooker) {
        return modules.whole().modules().stream()
                .filter(onlooker::finds)
                .map(module -> module.release().module())
                .distinct()
                .flatMap(name -> modules.news().of(name).events().stream())
                .filter(event -> isShown(event, onlooker))
                .sorted(Comparator.comparing(ModuleNews.Event::at).reversed())
                .limit(ModuleNews.MOST)
                .toList();
    }

    /** What happened last to one version, and what its owner said last of the module; nothing while the record store is away. */
    List<ModuleNews.Event> latest(LiveModule module) {
        try {
            return modules.news().of(module.release().module()).events().stream()
                    .filter(event -> event.kind() == ModuleNews.Kind.ANNOUNCED
                            || event.address().equals(module.identity()))
                    .limit(MOST_LATEST)
                    .toList();
        } catch (DataAccessException e) {
            return List.of();
        }
    }

    /** Of a major version that is live and not to be found, nothing is told. */
    private boolean isShown(ModuleNews.Event event, Onlooker onlooker) {
        LiveModule live = modules.now().module(event.address());
        return event.kind() == ModuleNews.Kind.ANNOUNCED || live == null || onlooker.finds(live);
    }
}
