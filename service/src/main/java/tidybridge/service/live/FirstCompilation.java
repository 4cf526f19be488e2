package tidybridge.service.live;

import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.FutureTask;
import java.util.function.Function;
import tidybridge.records.Release;

/**
 * Compiles what was live when the service started: each release once, at the latest when its first caller comes, and the others meanwhile. So a
 * service with thousands of operations takes calls as soon as one with few. Thread-safe.
 */
final class FirstCompilation {

    private final List<Release> releases;
    private final Function<Release, LiveModule> compiler;
    private final Map<Long, FutureTask<LiveModule>> begun = new ConcurrentHashMap<>();
    private final CountDownLatch whole = new CountDownLatch(1);
    private int callers;

    /** @param compiler compiles one release; it may be asked for several at once */
    FirstCompilation(List<Release> releases, Function<Release, LiveModule> compiler) {
        this.releases = List.copyOf(releases);
        this.compiler = compiler;
    }

    List<Release> releases() {
        return releases;
    }

    /** What became of a release that a caller waits for: nothing else is begun before it is done. */
    LiveModule compiled(Release release) {
        calling(1);
        try {
            return once(release);
        } finally {
            calling(-1);
        }
    }

    /** The same without a caller. */
    LiveModule compiledMeanwhile(Release release) {
        awaitCallers();
        return once(release);
    }

    private synchronized void calling(int more) {
        callers += more;
        if (callers == 0) {
            notifyAll();
        }
    }

    private synchronized void awaitCallers() {
        try {
            while (callers > 0) {
                wait();
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted while callers are served", e);
        }
    }

    /** Whoever asks first compiles it, and the others wait for that. */
    private LiveModule once(Release release) {
        FutureTask<LiveModule> own = new FutureTask<>(() -> compiler.apply(release));
        FutureTask<LiveModule> first = begun.putIfAbsent(release.id(), own);
        if (first == null) {
            own.run();
            first = own;
        }
        return AtOnce.done(first);
    }

    /** Notes that everything is compiled. */
    void end() {
        whole.countDown();
    }

    /** Waits until everything is compiled. */
    void await() {
        try {
            whole.await();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted while modules are compiled", e);
        }
    }
}
