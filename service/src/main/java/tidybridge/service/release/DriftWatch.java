package tidybridge.service.release;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Collectors;
import org.jooq.exception.DataAccessException;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.compare.CatalogComparison;
import tidybridge.core.compare.CatalogDifference;
import tidybridge.core.compare.Comparison;
import tidybridge.core.compare.Difference;
import tidybridge.core.compare.Effect;
import tidybridge.core.contract.CatalogFacts;
import tidybridge.core.contract.Contract;
import tidybridge.core.finding.Finding;
import tidybridge.core.finding.Severity;
import tidybridge.core.plan.ModulePlan;
import tidybridge.engine.Source;
import tidybridge.records.DriftRecords;
import tidybridge.records.KeptContract;
import tidybridge.records.Records;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.LiveModules;
import tidybridge.service.live.TextCompiler;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * Looks now and then, and when somebody asks, whether databases still are what live releases were published against: what their statements
 * name, what compiling their texts finds, and what they would promise today. Thread-safe.
 */
public final class DriftWatch implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(DriftWatch.class);

    private static final JsonMapper NOTES = JsonMapper.shared();

    /** How long between two looks unless something else is set. */
    public static final Duration USUALLY_EVERY = Duration.ofMinutes(15);

    /** How late a node knows what another one found. */
    private static final long TAKEN_OVER_SECONDS = 3;

    /** The shortest time between two looks. */
    public static final Duration LEAST_EVERY = Duration.ofSeconds(1);

    private final LiveModules modules;
    private final TextCompiler compiler;
    private final Records records;
    private final Examples examples;
    private final Clock clock;
    private final Duration every;
    private final AtomicLong begun = new AtomicLong();
    private final Map<Long, Drift> known = new ConcurrentHashMap<>();
    private final ScheduledExecutorService background = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("drift").factory());
    private final ScheduledExecutorService others = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("drift-others").factory());

    /**
     * Begins to look.
     *
     * @param every how long between two looks; zero to look only when somebody asks
     */
    public DriftWatch(
            LiveModules modules,
            TextCompiler compiler,
            Records records,
            Examples examples,
            Clock clock,
            Duration every) {
        this.modules = modules;
        this.compiler = compiler;
        this.records = records;
        this.examples = examples;
        this.clock = clock;
        this.every = every;
        others.scheduleWithFixedDelay(this::takeOverQuietly, 0, TAKEN_OVER_SECONDS, TimeUnit.SECONDS);
        if (!every.isZero()) {
            background.scheduleWithFixedDelay(
                    this::lookQuietly, every.toMillis(), every.toMillis(), TimeUnit.MILLISECONDS);
        }
    }

    private void takeOverQuietly() {
        try {
            takeOver();
        } catch (RuntimeException e) {
            LOG.error("What other nodes found cannot be taken over", e);
        }
    }

    private void lookQuietly() {
        try {
            takeOver();
            // of several nodes, one looks
            Instant due = clock.instant().minus(every.multipliedBy(9).dividedBy(10));
            if (modules.now().modules().stream()
                    .map(this::of)
                    .anyMatch(drift -> drift == null || drift.checkedAt().isBefore(due))) {
                look();
            }
        } catch (RuntimeException e) {
            LOG.error("Whether databases still fit could not be looked at", e);
        }
    }

    /** Looks at every live module now, one after the other. Whoever asks while others look gets what the next look finds, with all who wait. */
    public List<Drift> look() {
        long seen = begun.get();
        synchronized (begun) {
            if (begun.get() == seen) {
                begun.incrementAndGet();
                lookAtAll();
            }
        }
        return found();
    }

    private void lookAtAll() {
        compiler.readAnew(modules.now().modules().stream()
                .map(LiveModule::plan)
                .filter(Objects::nonNull)
                .map(ModulePlan::source)
                .collect(Collectors.toSet()));
        for (LiveModule module : modules.now().modules()) {
            try {
                look(module);
            } catch (Source.Unreachable | DataAccessException e) {
                LOG.warn("Whether {} still fits cannot be looked at: {}", module.identity(), e.getMessage());
            }
        }
        records.drift().forgetOthers();
        examples.forgetOthers();
    }

    /** What was found last of everything that is live, whichever node looked. */
    public List<Drift> found() {
        return modules.now().modules().stream()
                .map(this::of)
                .filter(Objects::nonNull)
                .toList();
    }

    /** Takes over what other nodes found; while the record store is away, what is known here stays. */
    private void takeOver() {
        try {
            Map<Long, String> identities = new HashMap<>();
            modules.now()
                    .modules()
                    .forEach(module -> identities.put(module.release().id(), module.identity()));
            for (DriftRecords.Entry entry : records.drift().live()) {
                String identity = identities.get(entry.release());
                Drift here = known.get(entry.release());
                if (identity != null && (here == null || here.checkedAt().isBefore(entry.lookedAt()))) {
                    List<Drift.Note> notes = NOTES.readValue(entry.notes(), new TypeReference<>() {});
                    known.put(entry.release(), new Drift(identity, entry.release(), entry.lookedAt(), notes));
                }
            }
            known.keySet().retainAll(identities.keySet());
        } catch (DataAccessException e) {
            LOG.debug("What other nodes found cannot be read", e);
        }
    }

    /** What was found last of a live module; null for one that was not looked at yet. */
    public @Nullable Drift of(LiveModule module) {
        return known.get(module.release().id());
    }

    /** What was found last of a live release; null for one that is not live or was not looked at yet. */
    public @Nullable Drift of(long release) {
        return modules.now().modules().stream()
                .filter(module -> module.release().id() == release)
                .findAny()
                .map(this::of)
                .orElse(null);
    }

    private void look(LiveModule module) {
        KeptContract kept = records.releases().kept(module.release().id()).orElse(null);
        if (kept == null) {
            return;
        }
        Set<Drift.Note> notes = new LinkedHashSet<>();
        addLost(module, kept, notes);
        TextCompiler.Compiled compiled = compiler.compile(module.release().text());
        addFindings(compiled.findings(), FindingNote.read(kept.findings()), notes);
        ModulePlan plan = compiled.plan();
        if (plan != null) {
            addPromises(Contract.read(kept.contract()), Contract.of(plan), notes);
            notes.addAll(examples.recheck(module));
        }
        Drift before = of(module);
        Drift now = new Drift(module.identity(), module.release().id(), clock.instant(), new ArrayList<>(notes));
        known.put(module.release().id(), now);
        records.drift()
                .keep(new DriftRecords.Entry(now.release(), now.checkedAt(), NOTES.writeValueAsString(now.notes())));
        if (!now.notes().isEmpty() && (before == null || !before.notes().equals(now.notes()))) {
            now.notes()
                    .forEach(note -> LOG.warn(
                            "{} {}no longer fits its database: {}",
                            now.identity(),
                            note.operation() == null ? "" : note.operation() + " ",
                            note.words()));
        }
    }

    /** What is gone or has another form, for each operation that names it. */
    private void addLost(LiveModule module, KeptContract kept, Set<Drift.Note> notes) {
        CatalogFacts counted = CatalogFacts.read(kept.catalog());
        CatalogComparison comparison =
                CatalogComparison.of(counted, compiler.facts(module.release().text()));
        OperationNames names = OperationNames.of(module.release().text(), counted.schema());
        for (CatalogDifference difference : comparison.differences()) {
            boolean breaking = switch (difference.kind()) {
                case RELATION_GONE, COLUMN_GONE, ROUTINE_GONE, ROUTINE_CHANGED -> true;
                case COLUMN_RETYPED, COLUMN_NULLABLE, COLUMN_NEVER_NULL, INDEX_GONE -> false;
            };
            List<String> naming = names.naming(difference.object(), difference.column());
            if (naming.isEmpty()) {
                notes.add(new Drift.Note(null, breaking, difference.words()));
            }
            naming.forEach(operation -> notes.add(new Drift.Note(operation, breaking, difference.words())));
        }
    }

    /** What compiling the text finds today and did not find when it was published. */
    private static void addFindings(List<Finding> now, List<FindingNote> then, Set<Drift.Note> notes) {
        Set<String> known = then.stream()
                .map(finding -> finding.code() + " " + finding.operation())
                .collect(Collectors.toSet());
        for (Finding finding : now) {
            boolean isNew = !known.contains(finding.code().label() + " " + finding.operation());
            if (isNew && finding.accepted() == null && finding.severity() != Severity.ADVICE) {
                notes.add(new Drift.Note(finding.operation(), finding.isError(), finding.message()));
            }
        }
    }

    /** What callers get today and were promised otherwise. */
    private static void addPromises(Contract promised, Contract today, Set<Drift.Note> notes) {
        for (Difference difference : Comparison.of(promised, today).differences()) {
            if (difference.effect() != Effect.INTERNAL) {
                notes.add(new Drift.Note(
                        difference.operation(), difference.effect() == Effect.BREAKING, difference.words()));
            }
        }
    }

    @Override
    public void close() {
        background.shutdownNow();
        others.shutdownNow();
    }
}
