package tidybridge.service.traffic;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.problem.Problem;
import tidybridge.records.RefusedCall;
import tidybridge.records.RefusedCalls;
import tidybridge.service.capacity.LineLimit;

/**
 * Writes down which calls were refused to their callers and why, so that one is found by its request id, on every node. It is done in the
 * background, for at most {@link #MOST} calls in {@link #SPAN}; beyond that refused calls are counted only. Thread-safe.
 */
public final class Refusals implements CallObserver, AutoCloseable {

    static final int MOST = 500;

    static final Duration SPAN = Duration.ofSeconds(10);

    private static final long WRITE_EVERY_MILLIS = 300;
    private static final long FORGET_EVERY_MILLIS = 60_000;
    private static final int UNAUTHORIZED = 401;
    private static final int FORBIDDEN = 403;
    private static final int TOO_MANY = 429;
    private static final Logger LOG = LoggerFactory.getLogger(Refusals.class);

    private final RefusedCalls calls;
    private final Clock clock;
    private final LineLimit limit = new LineLimit(MOST, SPAN);
    private final BlockingQueue<RefusedCall> waiting = new ArrayBlockingQueue<>(MOST);
    private final ScheduledExecutorService background = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("refusals").factory());

    public Refusals(RefusedCalls calls, Clock clock) {
        this.calls = calls;
        this.clock = clock;
        background.scheduleWithFixedDelay(
                this::writeQuietly, WRITE_EVERY_MILLIS, WRITE_EVERY_MILLIS, TimeUnit.MILLISECONDS);
        background.scheduleWithFixedDelay(
                this::forgetQuietly, FORGET_EVERY_MILLIS, FORGET_EVERY_MILLIS, TimeUnit.MILLISECONDS);
    }

    @Override
    public void ended(CallRecord record) {
        int status = record.status();
        Problem problem = record.problem();
        if (problem == null || status != UNAUTHORIZED && status != FORBIDDEN && status != TOO_MANY) {
            return;
        }
        OperationPlan operation = record.operation();
        String reason = record.reason();
        note(new RefusedCall(
                clock.instant(),
                record.requestId(),
                record.module(),
                operation == null
                        ? null
                        : operation.method() + " " + operation.path().text(),
                record.caller(),
                record.address(),
                status,
                problem.code(),
                reason == null ? problem.detail() : reason));
    }

    /** Writes down a call that something other than the gateway refused. */
    public void note(RefusedCall call) {
        int before = limit.ask(System.nanoTime());
        if (before != LineLimit.NONE) {
            if (before > 0) {
                LOG.warn("{} more refused calls were not written down one by one.", before);
            }
            // a full queue means that the records are away; the newest are left out
            waiting.offer(call);
        }
    }

    private void writeQuietly() {
        try {
            write();
        } catch (RuntimeException e) {
            LOG.warn("Refused calls could not be written down: {}", e.getMessage());
        }
    }

    private void write() {
        List<RefusedCall> some = new ArrayList<>();
        waiting.drainTo(some);
        if (!some.isEmpty()) {
            calls.add(some);
        }
    }

    private void forgetQuietly() {
        try {
            Instant now = clock.instant();
            while (calls.forget(now)) {
                LOG.debug("more refused calls are forgotten");
            }
        } catch (RuntimeException e) {
            LOG.warn("Refused calls could not be forgotten: {}", e.getMessage());
        }
    }

    @Override
    public void close() {
        background.shutdown();
        writeQuietly();
    }
}
