package tidybridge.service.release;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import org.jooq.exception.DataAccessException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.sample.RecordedExample;
import tidybridge.engine.SourceFailure;
import tidybridge.records.Records;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.LiveModules;
import tidybridge.service.run.Refusal;
import tidybridge.service.trial.ExampleRun;

/**
 * Has the examples of each release answered once it is live, and keeps the answers for its reference. They are asked for again whenever it
 * is looked whether databases still fit. Thread-safe.
 */
public final class Examples implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(Examples.class);

    private static final int NOT_FOUND = 404;
    private static final Duration LOOK = Duration.ofMillis(500);

    /** How late a node shows what another one recorded. */
    private static final Duration KNOWN_FOR = Duration.ofSeconds(5);

    /** How long the examples of one module may take; what comes after it keeps what was recorded before. */
    private static final Duration LONGEST = Duration.ofSeconds(10);

    /** How long nothing is tried at a module whose source does not answer. */
    private static final Duration PAUSE = Duration.ofSeconds(30);

    /** Characters of all answers of one release that are kept; the operations behind it have none. */
    private static final int MOST_OF_RELEASE = 2_000_000;

    /** Characters of answers that a node keeps in memory. */
    private static final long MOST_KNOWN = 4_000_000;

    private final LiveModules modules;
    private final Records records;
    private final Clock clock;
    private final ExampleRun run;
    private final boolean wanted;
    private final Set<Long> recorded = new HashSet<>();
    private final Map<Long, Instant> later = new HashMap<>();
    private final Cache<Long, Map<String, RecordedExample>> known = Caffeine.newBuilder()
            .maximumWeight(MOST_KNOWN)
            .weigher((Long release, Map<String, RecordedExample> examples) -> size(examples.values()))
            .expireAfterWrite(KNOWN_FOR)
            .build();
    private final ScheduledExecutorService background = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("examples").factory());

    /**
     * Begins to look for releases whose examples were not recorded.
     *
     * @param wanted false where no example is to be called
     */
    public Examples(LiveModules modules, Records records, Clock clock, boolean wanted) {
        this.modules = modules;
        this.records = records;
        this.clock = clock;
        this.run = new ExampleRun(clock);
        this.wanted = wanted;
        if (wanted) {
            background.scheduleWithFixedDelay(this::recordNew, LOOK.toMillis(), LOOK.toMillis(), TimeUnit.MILLISECONDS);
        }
    }

    /** What was answered to the example of an operation; empty where there is none. */
    public Optional<RecordedExample> of(LiveModule module, String label) {
        try {
            return Optional.ofNullable(
                    known.get(module.release().id(), this::read).get(label));
        } catch (DataAccessException e) {
            return Optional.empty();
        }
    }

    private Map<String, RecordedExample> read(long release) {
        return kept(release).stream()
                .collect(Collectors.toMap(RecordedExample::operation, example -> example, (one, other) -> one));
    }

    private List<RecordedExample> kept(long release) {
        return records.examples().of(release).map(RecordedExample::read).orElse(List.of());
    }

    private void recordNew() {
        try {
            List<LiveModule> live = modules.now().modules();
            Set<Long> releases =
                    live.stream().map(module -> module.release().id()).collect(Collectors.toSet());
            recorded.retainAll(releases);
            later.keySet().retainAll(releases);
            for (LiveModule module : live) {
                Instant due = later.get(module.release().id());
                if (due == null || !due.isAfter(clock.instant())) {
                    recordOnce(module);
                }
            }
        } catch (DataAccessException e) {
            LOG.debug("Examples are recorded later", e);
        } catch (RuntimeException e) {
            LOG.error("Examples could not be recorded", e);
        }
    }

    private void recordOnce(LiveModule module) {
        long release = module.release().id();
        ModulePlan plan = module.plan();
        if (plan == null || recorded.contains(release)) {
            return;
        }
        if (records.examples().of(release).isEmpty()) {
            // whatever comes of it, a source is not asked for the same again at once
            later.put(release, clock.instant().plus(PAUSE));
            try {
                keep(release, called(plan, Map.of()));
            } catch (SourceFailure | Refusal e) {
                LOG.debug("The examples of {} are recorded later", module.identity(), e);
                return;
            }
        }
        recorded.add(release);
    }

    /**
     * Calls the examples of a module.
     *
     * @param before what was recorded of them; counts for those that there is no time for
     */
    private List<RecordedExample> called(ModulePlan plan, Map<String, RecordedExample> before)
            throws SourceFailure, Refusal {
        long until = System.nanoTime() + LONGEST.toNanos();
        List<RecordedExample> examples = new ArrayList<>();
        // what there was no time for the last time comes first
        List<OperationPlan> operations = plan.operations()
                .sorted(Comparator.comparing(operation -> before.containsKey(ExampleRun.label(operation))))
                .toList();
        for (OperationPlan operation : operations) {
            RecordedExample earlier = before.get(ExampleRun.label(operation));
            if (System.nanoTime() - until < 0) {
                run.run(modules.runnable(plan, operation)).ifPresent(examples::add);
            } else if (earlier != null) {
                examples.add(earlier);
            }
        }
        return examples;
    }

    private void keep(long release, List<RecordedExample> examples) {
        List<RecordedExample> kept = new ArrayList<>();
        int size = 0;
        for (RecordedExample example : examples) {
            size += example.body() == null ? 0 : example.body().length();
            kept.add(size <= MOST_OF_RELEASE ? example : example.withoutBody());
        }
        records.examples().keep(release, clock.instant(), RecordedExample.write(kept));
        known.invalidate(release);
    }

    private static int size(Collection<RecordedExample> examples) {
        return examples.stream()
                .mapToInt(example ->
                        200 + (example.body() == null ? 0 : example.body().length()))
                .sum();
    }

    /**
     * Has the examples of a live release answered anew.
     *
     * @return what no longer fits: an example that found something once and finds nothing now
     */
    List<Drift.Note> recheck(LiveModule module) {
        ModulePlan plan = module.plan();
        if (!wanted || plan == null) {
            return List.of();
        }
        try {
            return recheck(module, plan);
        } catch (SourceFailure | Refusal e) {
            LOG.debug("The examples of {} are looked at later", module.identity(), e);
            return List.of();
        }
    }

    private List<Drift.Note> recheck(LiveModule module, ModulePlan plan) throws SourceFailure, Refusal {
        Map<String, RecordedExample> before = read(module.release().id());
        List<Drift.Note> notes = new ArrayList<>();
        List<RecordedExample> now = new ArrayList<>();
        for (RecordedExample example : called(plan, before)) {
            RecordedExample earlier = before.get(example.operation());
            boolean lost =
                    example.status() == NOT_FOUND && earlier != null && (earlier.body() != null || earlier.lost());
            now.add(lost ? example.asLost() : example);
            if (lost) {
                notes.add(
                        new Drift.Note(
                                example.operation(),
                                false,
                                "The example of its text finds nothing any more, so its reference shows no answer; name another row in it."));
            }
        }
        keep(module.release().id(), now);
        return notes;
    }

    /** Forgets what was recorded of releases that are not live any more. */
    void forgetOthers() {
        records.examples().forgetOthers();
    }

    @Override
    public void close() {
        background.shutdownNow();
    }
}
