package tidybridge.service.node;

import java.time.Duration;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import org.springframework.context.SmartLifecycle;

/**
 * How a node leaves. Told to end, it says so at {@code /ready} and goes on answering for a while, so that whoever sends it requests sends
 * them elsewhere; only then the server takes no more, ends what is under way, and stops. Thread-safe.
 */
public final class Departure implements SmartLifecycle {

    /** How long it goes on answering unless something else is set. */
    public static final Duration USUAL_NOTICE = Duration.ZERO;

    /** The longest time it may go on answering. */
    public static final Duration LONGEST_NOTICE = Duration.ofMinutes(5);

    private final Duration notice;
    private final List<Runnable> first = new CopyOnWriteArrayList<>();
    private volatile boolean begun;
    private volatile boolean running;

    /** @param notice how long it goes on answering */
    public Departure(Duration notice) {
        this.notice = notice;
    }

    /** True once it was told to end. */
    public boolean hasBegun() {
        return begun;
    }

    /** Has something done as soon as it is told to end. */
    public void first(Runnable work) {
        first.add(work);
    }

    @Override
    public void start() {
        running = true;
    }

    @Override
    public void stop() {
        begun = true;
        running = false;
        first.forEach(Runnable::run);
        try {
            Thread.sleep(notice);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    @Override
    public boolean isRunning() {
        return running;
    }

    /** Before everything else; the server stops in a lower phase. */
    @Override
    public int getPhase() {
        return DEFAULT_PHASE;
    }
}
