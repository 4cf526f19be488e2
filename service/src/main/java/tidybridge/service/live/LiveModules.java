package tidybridge.service.live;

import java.time.Clock;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.function.Predicate;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.answer.MaskKey;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.finding.Finding;
import tidybridge.core.page.Continuation;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OperationIds;
import tidybridge.core.plan.OperationPlan;
import tidybridge.engine.Source;
import tidybridge.engine.SourceSettings;
import tidybridge.engine.Sources;
import tidybridge.records.LiveMoved;
import tidybridge.records.NewRelease;
import tidybridge.records.Published;
import tidybridge.records.Publisher;
import tidybridge.records.Records;
import tidybridge.records.Release;
import tidybridge.records.Releases;
import tidybridge.records.VersionTaken;
import tidybridge.service.run.ModuleStates;
import tidybridge.service.run.Notice;
import tidybridge.service.run.RunnableOperation;

/**
 * Holds what is live. Requests read one immutable {@link Live}; whatever changes compiles first, outside any lock, and then puts a new one
 * in its place, so that no request meets half a change or waits for one. A module whose database does not answer waits and is tried again.
 */
public final class LiveModules implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(LiveModules.class);
    private static final long RETRY_SECONDS = 1;

    /** Whenever something changes, all routes are put together anew. */
    private static final int INSTALLED_TOGETHER = 40;

    /** No statement runs longer. */
    private static final long DRAIN_MINUTES = OperationDefinition.LONGEST_TIMEOUT.toMinutes();

    private final Records records;
    private final Sources sources;
    private final TextCompiler compiler;
    private final Continuation continuation;
    private final MaskKey maskKey;
    private final ScheduledExecutorService background = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("live-retry").factory());
    private final OtherNodes others;
    private final Promises promises;
    private final News news;
    private final Set<String> noted = ConcurrentHashMap.newKeySet();
    private final InPlace inPlace;
    private final EarlyReferences references = new EarlyReferences();
    private volatile FirstCompilation first = new FirstCompilation(List.of(), LiveModule::pending);

    private LiveModules(
            Records records,
            Sources sources,
            TextCompiler compiler,
            Continuation continuation,
            MaskKey maskKey,
            Clock clock) {
        this.promises = new Promises(records, sources, clock);
        this.news = new News(records, this::now);
        this.others = new OtherNodes(this, records);
        this.records = records;
        this.sources = sources;
        this.compiler = compiler;
        this.continuation = continuation;
        this.maskKey = maskKey;
        this.inPlace = new InPlace(continuation, maskKey);
    }

    /** Loads what the records say is live; it is compiled when it is called, or once {@link #compileRest} is asked for. */
    public static LiveModules load(
            Records records,
            Sources sources,
            TextCompiler compiler,
            Continuation continuation,
            MaskKey maskKey,
            Clock clock) {
        LiveModules modules = new LiveModules(records, sources, compiler, continuation, maskKey, clock);
        modules.begin();
        modules.background.scheduleWithFixedDelay(
                modules::retryWaiting, RETRY_SECONDS, RETRY_SECONDS, TimeUnit.SECONDS);
        modules.background.scheduleWithFixedDelay(
                () -> modules.references.write(modules.now()), RETRY_SECONDS, RETRY_SECONDS, TimeUnit.SECONDS);
        modules.others.begin();
        return modules;
    }

    /** What is live now. Ask once a request. Just after the start some of it may not be compiled yet. */
    public Live now() {
        return inPlace.live();
    }

    /** The same once all of it is compiled. */
    public Live whole() {
        first.await();
        return inPlace.live();
    }

    /**
     * The same once all major versions of one module are compiled.
     *
     * @param path begins with the slash before the module's name
     */
    public Live completed(String path) {
        int end = path.indexOf('/', 1);
        String name = path.substring(Math.min(1, path.length()), end < 0 ? path.length() : end);
        settle(inPlace.live().modules().stream()
                .filter(module -> module.state() == LiveModule.State.PENDING)
                .map(LiveModule::release)
                .filter(release -> release.module().equals(name))
                .map(first::compiled)
                .toList());
        return inPlace.live();
    }

    /** Takes over what the records say is live, without compiling it. */
    private void begin() {
        long ticket = inPlace.ticket();
        Releases.LiveNow now = records.releases().liveNow();
        Map<Long, Release> releases = new HashMap<>();
        records.releases().of(now.releases()).forEach(release -> releases.put(release.id(), release));
        List<Release> inOrder = now.releases().stream()
                .map(releases::get)
                .filter(Objects::nonNull)
                .toList();
        TextCompiler.Releases compiling = compiler.new Releases(promises);
        first = new FirstCompilation(inOrder, compiling::compile);
        inPlace.put(
                ticket,
                now.change(),
                inOrder.stream().map(LiveModule::pending).toList(),
                promises.retired(inPlace.retired()));
        if (!inOrder.isEmpty()) {
            // while the rest of the service starts: its first callers would wait for that
            Thread.ofPlatform().daemon().name("live-sources").start(() -> AtOnce.map(sources.all(), Source::isKnown));
        }
    }

    /** Begins to compile, in the background, what nobody has called yet. */
    public void compileRest() {
        background.execute(this::compilePending);
    }

    private void compilePending() {
        try {
            List<Release> releases = first.releases();
            for (int i = 0; i < releases.size(); i += INSTALLED_TOGETHER) {
                List<Release> some = releases.subList(i, Math.min(i + INSTALLED_TOGETHER, releases.size()));
                settle(AtOnce.mapBesideCallers(some, first::compiledMeanwhile));
            }
        } catch (RuntimeException e) {
            LOG.error("What is live could not be compiled", e);
        } finally {
            first.end();
        }
        keepPromises();
    }

    /** Puts modules in place that were not compiled yet. */
    private void settle(List<LiveModule> made) {
        Map<Long, LiveModule> byRelease = new HashMap<>();
        made.forEach(module -> byRelease.put(module.release().id(), module));
        if (!byRelease.isEmpty()) {
            inPlace.change(module -> module.state() == LiveModule.State.PENDING
                    ? byRelease.getOrDefault(module.release().id(), module)
                    : module);
        }
    }

    /** The number of the newest change of what should be live that is taken over here; negative before the first look. */
    public long settled() {
        return inPlace.change();
    }

    /** Takes over what other nodes changed. */
    public void catchUp() {
        if (hasChangedElsewhere()) {
            reconcile();
        }
    }

    /** True when the records tell of a change of what should be live that is not taken over here. */
    public boolean hasChangedElsewhere() {
        return records.releases().liveChange() != inPlace.change();
    }

    /** What the operations of a live module are called in its reference, by their labels; empty for a module that is not live. */
    public Map<String, String> operationIds(String identity) {
        LiveModule module = inPlace.live().module(identity);
        ModulePlan plan = module == null ? null : module.plan();
        return plan == null ? Map.of() : OperationIds.of(plan).byLabel();
    }

    /** What happened to modules. */
    public News news() {
        return news;
    }

    /** An operation of a compiled module, ready to be run without being published. */
    public RunnableOperation runnable(ModulePlan module, OperationPlan operation) {
        Source source = sources.find(module.source()).orElseThrow();
        return RunnableOperation.of(operation, ModuleStates.of(module, maskKey), source, continuation, maskKey);
    }

    /** Makes live what the records say is live; what is live already and unchanged stays as it is. */
    public void reconcile() {
        reconcile(Map.of());
    }

    /**
     * Compiles what is not live yet and puts it in place. Several may do so at once. Each takes a ticket before it reads what should be
     * live, so whoever has the later ticket has read everything the others knew: the later one stays, whichever ends last.
     *
     * @param ready modules that were compiled already, by the numbers of their releases
     */
    private void reconcile(Map<Long, LiveModule> ready) {
        long ticket = inPlace.ticket();
        Map<Long, LiveModule> known = new HashMap<>();
        inPlace.live().modules().forEach(module -> known.put(module.release().id(), module));
        known.putAll(ready);
        Releases.LiveNow now = records.releases().liveNow();
        List<Long> wanted = now.releases();
        List<Long> missing =
                wanted.stream().filter(id -> !known.containsKey(id)).toList();
        TextCompiler.Releases compiling = compiler.new Releases(promises);
        for (LiveModule made : compiling.compile(records.releases().of(missing))) {
            known.put(made.release().id(), orBefore(made));
        }
        if (inPlace.put(
                ticket,
                now.change(),
                wanted.stream().map(known::get).filter(Objects::nonNull).toList(),
                promises.retired(inPlace.retired()))) {
            news.forget();
        }
        renew(module -> false);
    }

    /** Another node could compile a release; until this one can, it goes on with what it has. */
    private LiveModule orBefore(LiveModule made) {
        LiveModule before = made.plan() == null ? inPlace.live().module(made.identity()) : null;
        if (before != null && before.state() == LiveModule.State.PENDING) {
            before = first.compiled(before.release());
        }
        return before != null && before.plan() != null ? before.behind(made) : made;
    }

    /**
     * Compiles some live modules again, and those whose source is defined in another way by now. Which releases are live stays as it is,
     * whoever changes it meanwhile.
     */
    private void renew(Predicate<LiveModule> which) {
        List<LiveModule> old = old(which);
        while (!old.isEmpty()) {
            TextCompiler.Releases compiling = compiler.new Releases(promises);
            Map<Long, LiveModule> made = new HashMap<>();
            compiling
                    .compile(old.stream().map(LiveModule::release).toList())
                    .forEach(module -> made.put(module.release().id(), module));
            inPlace.change(module -> made.getOrDefault(module.release().id(), module));
            old = old(module -> false);
        }
    }

    private List<LiveModule> old(Predicate<LiveModule> which) {
        return inPlace.live().modules().stream()
                .filter(module -> which.test(module) || !isCurrent(module))
                .toList();
    }

    /** False for a module over a source that is defined in another way now, or no longer. */
    private boolean isCurrent(LiveModule module) {
        Source source = module.source();
        return source == null
                || sources.find(source.settings().name())
                        .filter(found -> found == source)
                        .isPresent();
    }

    private void keepPromises() {
        try {
            inPlace.live().modules().forEach(promises::keepLater);
        } catch (RuntimeException e) {
            LOG.error("What is promised could not be kept", e);
        }
    }

    /**
     * Releases compiled modules and makes them live, all or none.
     *
     * @param releases one for each of the modules, in their order
     * @throws VersionTaken when a version is released already with another text
     * @throws LiveMoved when something else went live since they were compared with what they replace
     */
    public List<Published> publish(List<TextCompiler.Compiled> modules, List<NewRelease> releases, Publisher by)
            throws VersionTaken, LiveMoved {
        List<Published> published = records.releaseChanges().publish(releases, by);
        Map<Long, LiveModule> ready = new HashMap<>();
        for (int i = 0; i < modules.size(); i++) {
            TextCompiler.Compiled module = modules.get(i);
            ModulePlan plan = module.publishable();
            Release release = published.get(i).release();
            noted.removeIf(label -> label.startsWith(plan.identity() + " "));
            sources.find(plan.source())
                    .ifPresent(source -> ready.put(
                            release.id(),
                            LiveModule.ready(release, promises.of(release, plan), plan, source, module.findings())));
        }
        reconcile(ready);
        return published;
    }

    /**
     * Takes new definitions of the sources: modules over a changed one are compiled again and use it from the next request on; the
     * old connections are closed once the requests under way are done with them. The others open their connections anew, so that what was
     * granted to their users is felt.
     *
     * @return the names of the sources that changed, came or went
     */
    public List<String> useSources(List<SourceSettings> settings) {
        Set<String> before = sources.names();
        List<Source> gone = sources.replace(settings);
        Set<String> changed = new TreeSet<>();
        gone.forEach(source -> changed.add(source.settings().name()));
        settings.stream()
                .map(SourceSettings::name)
                .filter(name -> !before.contains(name))
                .forEach(changed::add);
        settings.stream()
                .map(SourceSettings::name)
                .filter(name -> !changed.contains(name))
                .forEach(name -> sources.find(name).ifPresent(Source::renew));
        renew(module -> module.plan() == null);
        gone.forEach(source -> background.schedule(source::close, DRAIN_MINUTES, TimeUnit.MINUTES));
        return List.copyOf(changed);
    }

    private void retryWaiting() {
        try {
            if (inPlace.live().modules().stream().anyMatch(LiveModule::isWaiting)) {
                long before = waiting();
                renew(LiveModule::isWaiting);
                if (waiting() < before) {
                    LOG.info("Waiting modules were compiled again");
                }
            }
        } catch (RuntimeException e) {
            LOG.error("Waiting modules could not be tried again", e);
        }
    }

    private long waiting() {
        return inPlace.live().modules().stream().filter(LiveModule::isWaiting).count();
    }

    /** Notes, each once for an operation, what running it showed: its owner must hear of it. The request does not wait. */
    public void note(OperationPlan operation, Set<Notice> notices) {
        for (Notice notice : notices) {
            if (noted.add(operation.label() + " " + notice)) {
                Thread.ofVirtual().name("live-note").start(() -> keep(operation, notice));
            }
        }
    }

    private void keep(OperationPlan operation, Notice notice) {
        String identity = operation.header().module();
        Finding finding = notice.finding(operation);
        LOG.warn("{}: {} {}", operation.label(), finding.message(), finding.remedy());
        inPlace.change(module -> module.identity().equals(identity) ? module.with(finding) : module);
    }

    @Override
    public void close() {
        background.shutdownNow();
        others.close();
    }
}
