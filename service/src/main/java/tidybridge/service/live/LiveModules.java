package tidybridge.service.live;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.answer.MaskKey;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.definition.ModuleReader;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Finding;
import tidybridge.core.finding.Findings;
import tidybridge.core.page.Continuation;
import tidybridge.core.plan.Compiler;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.Proposal;
import tidybridge.core.plan.Proposals;
import tidybridge.core.text.Nearest;
import tidybridge.core.text.Place;
import tidybridge.engine.Source;
import tidybridge.engine.SourceSettings;
import tidybridge.engine.Sources;
import tidybridge.records.NewRelease;
import tidybridge.records.Published;
import tidybridge.records.Records;
import tidybridge.records.Release;
import tidybridge.records.VersionTaken;

/**
 * Compiles releases and holds what is live. Requests read one immutable {@link Live}; publishing puts a new one in its place, so that
 * no request ever meets half a change. A module whose database does not answer at start waits and is tried again.
 */
public final class LiveModules implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(LiveModules.class);
    private static final long RETRY_SECONDS = 1;

    /** No statement runs longer. */
    private static final long DRAIN_MINUTES = OperationDefinition.LONGEST_TIMEOUT.toMinutes();

    private final Records records;
    private final Sources sources;
    private final Continuation continuation;
    private final MaskKey maskKey;
    private final ScheduledExecutorService retries = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("live-retry").factory());
    private final Set<String> forbidden = ConcurrentHashMap.newKeySet();
    private volatile Live live;

    private LiveModules(Records records, Sources sources, Continuation continuation, MaskKey maskKey) {
        this.maskKey = maskKey;
        this.records = records;
        this.sources = sources;
        this.continuation = continuation;
        this.live = new Live(List.of(), continuation, maskKey);
    }

    /** Loads what the records say is live. */
    public static LiveModules load(Records records, Sources sources, Continuation continuation, MaskKey maskKey) {
        LiveModules modules = new LiveModules(records, sources, continuation, maskKey);
        Set<String> silent = new HashSet<>();
        modules.swap(records.live().stream()
                .map(release -> modules.compileUnlessSilent(release, silent))
                .toList());
        modules.retries.scheduleWithFixedDelay(modules::retryWaiting, RETRY_SECONDS, RETRY_SECONDS, TimeUnit.SECONDS);
        return modules;
    }

    /** What is live now. Ask once a request. */
    public Live now() {
        return live;
    }

    /**
     * A module as compiled for publishing.
     *
     * @param plan null when a finding keeps it from being published
     */
    public record Compiled(ModuleText text, @Nullable ModulePlan plan, List<Finding> findings) {}

    /**
     * Reads and compiles a text against its source.
     *
     * @throws Source.Unreachable when the source does not answer
     */
    public Compiled compile(ModuleText text) {
        return compile(text, Compiler::compile, UnaryOperator.identity());
    }

    /**
     * Reads and compiles a part of a text against its source.
     *
     * @param narrowing leaves what is to be compiled
     * @throws Source.Unreachable when the source does not answer
     */
    public Compiled compile(ModuleText text, UnaryOperator<ModuleDefinition> narrowing) {
        return compile(text, Compiler::compile, narrowing);
    }

    /** An operation of a compiled module, ready to be run without being published. */
    public Running running(ModulePlan module, OperationPlan operation) {
        Source source = sources.find(module.source()).orElseThrow();
        return Running.of(operation, source, continuation, maskKey);
    }

    /**
     * What the catalog proposes for a text's parameters; nothing for a text that cannot be read, or whose source is not known.
     *
     * @throws Source.Unreachable when the source does not answer
     */
    public List<Proposal> propose(ModuleText text) {
        return ModuleReader.read(text, new Findings())
                .flatMap(definition -> sources.find(definition.source())
                        .flatMap(source -> source.catalog().contents())
                        .map(contents -> Proposals.of(definition, contents)))
                .orElse(List.of());
    }

    /** One of the compiler's ways. */
    private interface Way {
        Optional<ModulePlan> compile(ModuleDefinition module, Catalog catalog, Findings findings);
    }

    private Compiled compile(ModuleText text, Way way, UnaryOperator<ModuleDefinition> narrowing) {
        Findings findings = new Findings();
        Optional<ModuleDefinition> definition =
                ModuleReader.read(text, findings).map(narrowing);
        ModulePlan plan = null;
        if (definition.isPresent()) {
            Optional<Source> source = sources.find(definition.get().source());
            if (source.isEmpty()) {
                unknownSource(definition.get(), findings);
            } else {
                plan = way.compile(definition.get(), source.get().catalog(), findings)
                        .orElse(null);
            }
        }
        return new Compiled(text, findings.errors() > 0 ? null : plan, findings.sorted());
    }

    private void unknownSource(ModuleDefinition definition, Findings findings) {
        Place place = definition.sourcePlace();
        findings.add(
                Code.SOURCE_UNKNOWN,
                place,
                "This service has no source '" + definition.source() + "'."
                        + Nearest.hint(definition.source(), sources.names()),
                "Define it in the workspace.yaml this service reads, type './tidy source reload', or mend the name.");
    }

    /**
     * Releases compiled modules and makes them live, all or none.
     *
     * @throws VersionTaken when a version is released already with another text
     */
    public synchronized List<Published> publish(List<Compiled> modules, String by, Instant at) throws VersionTaken {
        List<NewRelease> releases = new ArrayList<>();
        for (Compiled module : modules) {
            ModulePlan plan = plan(module);
            releases.add(new NewRelease(plan.name(), plan.version(), plan.source(), module.text()));
        }
        List<Published> published = records.publish(releases, by, at);
        Map<String, LiveModule> next = byIdentity();
        for (int i = 0; i < modules.size(); i++) {
            Compiled module = modules.get(i);
            ModulePlan plan = plan(module);
            Source source = sources.find(plan.source()).orElseThrow();
            forbidden.removeIf(label -> label.startsWith(plan.identity() + " "));
            next.put(plan.identity(), LiveModule.ready(published.get(i).release(), plan, source, module.findings()));
        }
        swap(List.copyOf(next.values()));
        return published;
    }

    private static ModulePlan plan(Compiled module) {
        ModulePlan plan = module.plan();
        if (plan == null) {
            throw new IllegalArgumentException("a module with errors cannot be published");
        }
        return plan;
    }

    private LiveModule compile(Release release) {
        try {
            Compiled compiled = compile(release.text(), Compiler::compileReleased, UnaryOperator.identity());
            ModulePlan plan = compiled.plan();
            if (plan != null) {
                return LiveModule.ready(
                        release, plan, sources.find(plan.source()).orElseThrow(), compiled.findings());
            }
            Finding first = compiled.findings().stream()
                    .filter(Finding::isError)
                    .findFirst()
                    .orElseThrow();
            String trouble = first.place() + ": " + first.message() + " " + first.remedy();
            LOG.error("{} {} cannot be served: {}", release.module(), release.version(), trouble);
            return LiveModule.waiting(release, trouble, compiled.findings());
        } catch (Source.Unreachable e) {
            LOG.warn("{} {} waits for its source: {}", release.module(), release.version(), e.getMessage());
            return waiting(release);
        }
    }

    /**
     * Takes new definitions of the sources: modules over a changed one are compiled again and use it from the next request on; the
     * old connections are closed once the requests under way are done with them.
     *
     * @return the names of the sources that changed, came or went
     */
    public synchronized List<String> useSources(List<SourceSettings> settings) {
        Set<String> before = sources.names();
        List<Source> gone = sources.replace(settings);
        Set<String> changed = new TreeSet<>();
        gone.forEach(source -> changed.add(source.settings().name()));
        settings.stream()
                .map(SourceSettings::name)
                .filter(name -> !before.contains(name))
                .forEach(changed::add);
        swap(live.modules().stream()
                .map(module -> concerns(module, changed) ? compile(module.release()) : module)
                .toList());
        gone.forEach(source -> retries.schedule(source::close, DRAIN_MINUTES, TimeUnit.MINUTES));
        return List.copyOf(changed);
    }

    private static boolean concerns(LiveModule module, Set<String> changed) {
        ModulePlan plan = module.plan();
        return plan == null || changed.contains(plan.source());
    }

    private void retryWaiting() {
        try {
            retry();
        } catch (RuntimeException e) {
            LOG.error("Waiting modules could not be tried again", e);
        }
    }

    private synchronized void retry() {
        Map<String, LiveModule> next = byIdentity();
        boolean changed = false;
        Set<String> silent = new HashSet<>();
        for (LiveModule module : live.modules()) {
            if (isWaiting(module)) {
                LiveModule again = compileUnlessSilent(module.release(), silent);
                changed |= !isWaiting(again);
                next.put(module.identity(), again);
            }
        }
        if (changed) {
            swap(List.copyOf(next.values()));
            LOG.info("Waiting modules were compiled again");
        }
    }

    /**
     * Compiles a release, unless its source was asked for another just now and did not answer: waiting for it once is enough.
     *
     * @param silent the names of such sources, to which this one's may be added
     */
    private LiveModule compileUnlessSilent(Release release, Set<String> silent) {
        String source = sourceOf(release);
        if (silent.contains(source)) {
            return waiting(release);
        }
        LiveModule module = compile(release);
        if (isWaiting(module)) {
            silent.add(source);
        }
        return module;
    }

    private static LiveModule waiting(Release release) {
        return LiveModule.waiting(release, "Its source does not answer; it is tried again every second.", List.of());
    }

    private static boolean isWaiting(LiveModule module) {
        return module.plan() == null && module.findings().isEmpty();
    }

    /** Empty for a text that cannot be read, which waits for nothing. */
    private static String sourceOf(Release release) {
        return ModuleReader.read(release.text(), new Findings())
                .map(ModuleDefinition::source)
                .orElse("");
    }

    /** Notes, once for each operation, that its database forbids what it does: its owner must hear of it. */
    public void forbidden(OperationPlan operation) {
        if (forbidden.add(operation.label())) {
            noteForbidden(operation);
        }
    }

    private synchronized void noteForbidden(OperationPlan operation) {
        String identity = operation.label().substring(0, operation.label().indexOf(' '));
        Map<String, LiveModule> next = byIdentity();
        next.computeIfPresent(
                identity,
                (name, module) -> module.with(new Finding(
                        Code.PRIVILEGE_MISSING,
                        Place.of(operation.sqlFile()),
                        "The database forbids what the statement does, so callers get a 500.",
                        "Grant the source's user what it needs.",
                        operation.label().substring(identity.length() + 1),
                        null)));
        swap(List.copyOf(next.values()));
    }

    private Map<String, LiveModule> byIdentity() {
        Map<String, LiveModule> map = new LinkedHashMap<>();
        live.modules().forEach(module -> map.put(module.identity(), module));
        return map;
    }

    private void swap(List<LiveModule> modules) {
        live = new Live(modules, continuation, maskKey);
    }

    @Override
    public void close() {
        retries.shutdownNow();
    }
}
