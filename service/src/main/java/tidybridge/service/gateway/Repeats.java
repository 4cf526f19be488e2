package tidybridge.service.gateway;

import java.time.Clock;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.jooq.exception.DataAccessException;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Inputs;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.Source;
import tidybridge.engine.SourceFailure;
import tidybridge.engine.Transaction;
import tidybridge.records.CallOutcomes;
import tidybridge.records.Claim;
import tidybridge.records.Outcome;
import tidybridge.service.capacity.Deadline;
import tidybridge.service.run.Refusal;
import tools.jackson.databind.json.JsonMapper;

/**
 * Makes repeated requests harmless: what was answered to an {@code Idempotency-Key} is kept and answered again. Where a source can write to
 * the record store itself, the answer is kept by the same transaction as the change. Thread-safe.
 */
public final class Repeats implements AutoCloseable {

    /** How long outcomes are kept unless the settings say otherwise. */
    public static final Duration USUALLY_KEPT = Duration.ofHours(24);

    private static final Logger LOG = LoggerFactory.getLogger(Repeats.class);
    private static final Duration LEASE_BEYOND_TIMEOUT = Duration.ofSeconds(2);

    /** How long a claim outlives its node where it can be taken over; renewed while the request runs. */
    private static final Duration SHORT_LEASE = Duration.ofSeconds(2);

    private static final Duration BETWEEN_RENEWALS = Duration.ofMillis(500);

    /** What the record store may add to a call. */
    private static final Duration PATIENCE = Duration.ofMillis(800);

    private static final int LARGEST_KEPT_BYTES = 4 * 1024 * 1024;
    private static final int MINUTES_BETWEEN_CLEANINGS = 1;
    private static final String CONTENT_TYPE = "Content-Type";

    private final CallOutcomes outcomes;
    private final Clock clock;
    private final Duration kept;
    private final String finishing;
    private final Set<Source> together = ConcurrentHashMap.newKeySet();
    private final Set<Source> apart = ConcurrentHashMap.newKeySet();
    private final Set<Claim.Mine> renewed = ConcurrentHashMap.newKeySet();
    private final ScheduledExecutorService cleaning = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("outcomes").factory());
    private final ScheduledExecutorService renewing = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("claims").factory());

    /**
     * Uses the record store.
     *
     * @param schema where the store's tables are, as a source on the same server names it
     */
    public Repeats(CallOutcomes outcomes, String schema, Duration kept, Clock clock) {
        this.outcomes = outcomes;
        this.clock = clock;
        this.kept = kept;
        this.finishing = CallOutcomes.finishing(schema);
        cleaning.scheduleWithFixedDelay(this::clean, 1, MINUTES_BETWEEN_CLEANINGS, TimeUnit.MINUTES);
        long millis = BETWEEN_RENEWALS.toMillis();
        renewing.scheduleWithFixedDelay(this::renew, millis, millis, TimeUnit.MILLISECONDS);
    }

    private void clean() {
        try {
            while (outcomes.forget(clock.instant()) && !cleaning.isShutdown()) {
                // what expired is forgotten as fast as it came
            }
        } catch (DataAccessException e) {
            LOG.warn("Old outcomes could not be forgotten: {}", e.getMessage());
        }
    }

    /** Tells the other nodes that the requests of this one are still under way. */
    private void renew() {
        try {
            if (!renewed.isEmpty()) {
                outcomes.renew(List.copyOf(renewed), clock.instant().plus(SHORT_LEASE));
            }
        } catch (DataAccessException e) {
            LOG.warn("The claims of running requests could not be renewed: {}", e.getMessage());
        }
    }

    /**
     * What a request's key leads to.
     *
     * @param replay what was answered before; null when the request is to be run
     * @param attempt keeps what is answered now; null for a request without a key
     */
    record Begun(@Nullable HttpAnswer replay, @Nullable Attempt attempt) {
        static final Begun WITHOUT_KEY = new Begun(null, null);
    }

    /**
     * Looks at a request's key.
     *
     * @throws Refusal when the request is under way, or the key was sent with another
     */
    Begun begin(ChangePlan plan, Source source, Inputs inputs, String path) throws BadInput, Refusal {
        String key = RepeatKey.read(inputs, plan.idempotencyKey());
        if (key == null) {
            return Begun.WITHOUT_KEY;
        }
        String who = inputs.caller().identity();
        String scoped = RepeatKey.scoped(plan.label(), who == null ? "" : who, key);
        String print = RepeatKey.print(inputs, path, plan.parameters());
        boolean withChange = together.contains(source);
        Duration lease = withChange ? SHORT_LEASE : plan.timeout().plus(LEASE_BEYOND_TIMEOUT);
        Claim claim;
        try {
            claim = Deadline.within(
                    PATIENCE,
                    () -> outcomes.claim(scoped, print, withChange, clock.instant(), lease, kept),
                    this::giveUp);
        } catch (DataAccessException | TimeoutException e) {
            LOG.warn("{}: the idempotency key cannot be looked up: {}", plan.label(), e.getMessage());
            throw new Refusal(ProblemKind.SOURCE_UNAVAILABLE, ProblemKind.SOURCE_UNAVAILABLE.meaning());
        }
        return switch (claim) {
            case Claim.Mine mine -> new Begun(null, attempt(mine, source, withChange));
            case Claim.Finished(Outcome outcome) -> new Begun(reply(outcome), null);
            case Claim.Different() -> throw new Refusal(ProblemKind.KEY_REUSED, ProblemKind.KEY_REUSED.meaning());
            case Claim.Busy() ->
                throw new Refusal(
                        ProblemKind.STILL_RUNNING, "A request with this key is being answered; ask again in a moment.");
            case Claim.Unknown() ->
                throw new Refusal(
                        ProblemKind.STILL_RUNNING,
                        "A request with this key was begun, and what came of it is not known; look whether it was made, and use a new key if it was not.");
        };
    }

    /** Nobody waits for the claim any more. */
    private void giveUp(Claim claim) {
        if (claim instanceof Claim.Mine mine) {
            outcomes.release(mine);
        }
    }

    private Attempt attempt(Claim.Mine mine, Source source, boolean withChange) {
        if (withChange) {
            renewed.add(mine);
        }
        return new Attempt(mine, source);
    }

    private static HttpAnswer reply(Outcome outcome) {
        Map<String, String> headers = new LinkedHashMap<>();
        JsonMapper.shared()
                .readTree(outcome.headers())
                .properties()
                .forEach(field -> headers.put(field.getKey(), field.getValue().asString()));
        String contentType = headers.remove(CONTENT_TYPE);
        return new HttpAnswer(outcome.status(), headers, contentType, outcome.body());
    }

    private static Outcome outcome(HttpAnswer reply) {
        Map<String, String> headers = new LinkedHashMap<>(reply.headers());
        if (reply.mediaType() != null) {
            headers.put(CONTENT_TYPE, reply.mediaType());
        }
        return new Outcome(reply.status(), JsonMapper.shared().writeValueAsString(headers), reply.body());
    }

    /** One run of a claimed request. */
    final class Attempt {
        private final Claim.Mine mine;
        private final Source source;
        private boolean written;

        private Attempt(Claim.Mine mine, Source source) {
            this.mine = mine;
            this.source = source;
        }

        /** Keeps the answer with the change, where the source can. */
        void within(Transaction transaction, HttpAnswer reply) throws SourceFailure, Refusal {
            written = false;
            if (apart.contains(source)) {
                return;
            }
            Outcome outcome = outcome(reply);
            if (outcome.body().length > LARGEST_KEPT_BYTES) {
                return;
            }
            boolean known = together.contains(source);
            try {
                long rows = transaction.alongside(
                        finishing, outcome.status(), outcome.headers(), outcome.body(), mine.key(), mine.claim());
                written = rows == 1;
                // from here on the row's own lock keeps others off, and a renewal would wait for it
                renewed.remove(mine);
            } catch (SourceFailure e) {
                if (known || e.endsTransaction()) {
                    throw e;
                }
            }
            if (written) {
                together.add(source);
            } else if (known) {
                throw new Refusal(
                        ProblemKind.STILL_RUNNING, "Another request with this key took over; ask again in a moment.");
            } else {
                apart.add(source);
                LOG.info(
                        "The source {} cannot write to the record store, so a node that dies between commit and answer leaves the outcome"
                                + " of its request unknown; see 'Repeated requests' in the guide.",
                        source.settings().name());
            }
        }

        /** Keeps the answer of a change that is done. */
        void done(HttpAnswer reply) {
            renewed.remove(mine);
            if (!written) {
                quietly(() -> outcomes.finish(mine, outcome(reply)));
            }
        }

        /** Nothing was changed: a refusal is kept like any answer; what may pass by itself can be tried again. */
        void refused(Problem problem) {
            renewed.remove(mine);
            boolean final4xx = problem.status() < 500 && problem.kind() != ProblemKind.STILL_RUNNING;
            if (problem.kind() == ProblemKind.OUTCOME_UNKNOWN) {
                quietly(() -> outcomes.abandon(mine, clock.instant()));
            } else if (final4xx) {
                quietly(() -> outcomes.finish(mine, outcome(HttpAnswer.of(problem))));
            } else {
                quietly(() -> outcomes.release(mine));
            }
        }
    }

    /** The change is made or refused already; that its outcome could not be noted is no reason to tell the caller otherwise. */
    private static void quietly(Runnable task) {
        try {
            Deadline.within(
                    PATIENCE,
                    () -> {
                        task.run();
                        return true;
                    },
                    late -> {});
        } catch (DataAccessException | TimeoutException e) {
            LOG.error("The outcome of a request with an idempotency key could not be kept: {}", e.getMessage());
        }
    }

    @Override
    public void close() {
        cleaning.shutdownNow();
        renewing.shutdownNow();
    }
}
