package tidybridge.service.quota;

import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.Condition;
import java.util.concurrent.locks.ReentrantLock;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.records.QuotaUses;

/**
 * Tells the other services what was let through here, and hears what they let through, in a thread of its own: no call asks a database. While
 * the record store is away each service counts alone. Thread-safe.
 */
final class Exchange implements AutoCloseable {

    /** How late the others know, unless somebody waits. */
    static final Duration EVERY = Duration.ofMillis(100);

    /** How long a call waits for it at most. */
    static final Duration PATIENCE = Duration.ofSeconds(3);

    private static final Duration FORGET_EVERY = Duration.ofMinutes(1);
    private static final int MOST_AT_ONCE = 2_000;
    private static final Logger LOG = LoggerFactory.getLogger(Exchange.class);

    private final QuotaUses uses;
    private final Clock clock;
    private final Set<Count> waiting = ConcurrentHashMap.newKeySet();
    private final ReentrantLock lock = new ReentrantLock();
    private final Condition asked = lock.newCondition();
    private final Condition done = lock.newCondition();
    private final Thread thread;
    private boolean isAsked;
    private long forgotten;
    private volatile boolean alone;
    private volatile boolean closed;

    Exchange(QuotaUses uses, Clock clock) {
        this.uses = uses;
        this.clock = clock;
        this.forgotten = clock.millis();
        this.thread = Thread.ofPlatform().daemon().name("quotas").start(this::run);
    }

    /** Makes room for one more call, which the others are told of; waits for them when too many are untold already. */
    void reserve(Count count) {
        long before = count.reserve(alone);
        if (before == Count.FULL) {
            before = await(count);
        }
        if (before == 0) {
            waiting.add(count);
        }
    }

    private long await(Count count) {
        long patience = PATIENCE.toNanos();
        lock.lock();
        try {
            long before = count.reserve(alone);
            while (before == Count.FULL) {
                isAsked = true;
                asked.signal();
                patience = done.awaitNanos(patience);
                if (patience <= 0) {
                    goAlone("no answer in " + PATIENCE.toMillis() + " ms");
                }
                before = count.reserve(alone || closed);
            }
            return before;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return count.reserve(true);
        } finally {
            lock.unlock();
        }
    }

    private void run() {
        while (!closed) {
            try {
                pause();
                exchange();
                forget();
            } catch (InterruptedException e) {
                return;
            } catch (RuntimeException e) {
                LOG.error("The quotas could not be told to the other services", e);
            }
        }
    }

    private void pause() throws InterruptedException {
        lock.lock();
        try {
            if (!isAsked) {
                asked.await(EVERY.toMillis(), TimeUnit.MILLISECONDS);
            }
            isAsked = false;
        } finally {
            lock.unlock();
        }
    }

    private record Told(Count count, QuotaUses.Use use) {}

    private void exchange() {
        List<Told> told = new ArrayList<>();
        Iterator<Count> counts = waiting.iterator();
        while (counts.hasNext() && told.size() < MOST_AT_ONCE) {
            Count count = counts.next();
            // first, because what is counted from here on notes itself anew
            counts.remove();
            told.add(new Told(count, count.tell()));
        }
        if (told.isEmpty()) {
            return;
        }
        try {
            Map<String, Long> totals = uses.add(told.stream().map(Told::use).toList());
            for (Told one : told) {
                if (one.count.heard(one.use, totals.getOrDefault(one.use.id(), one.use.count()))) {
                    waiting.add(one.count);
                }
            }
            alone = false;
        } catch (RuntimeException e) {
            told.forEach(one -> waiting.add(one.count));
            goAlone(String.valueOf(e.getMessage()));
        }
        lock.lock();
        try {
            done.signalAll();
        } finally {
            lock.unlock();
        }
    }

    /** Until the next time that the others were told. */
    private void goAlone(String reason) {
        if (!alone) {
            alone = true;
            LOG.warn("The record store does not answer; this service counts its quotas alone: {}", reason);
        }
    }

    private void forget() {
        long now = clock.millis();
        if (!alone && now - forgotten > FORGET_EVERY.toMillis()) {
            forgotten = now;
            while (uses.forget(clock.instant())) {
                LOG.debug("more windows of quotas have ended");
            }
        }
    }

    @Override
    public void close() {
        closed = true;
        thread.interrupt();
        exchange();
    }
}
