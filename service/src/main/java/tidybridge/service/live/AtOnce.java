package tidybridge.service.live;

import java.util.List;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.Function;

/** Work that mostly waits for a source, done a few at a time. */
public final class AtOnce {

    /** More would take a source's connections from its callers. */
    private static final int THREADS = 4;

    private AtOnce() {}

    /**
     * What becomes of each, in the same order. What one fails with is thrown once all are done.
     *
     * @param work throws nothing that is checked
     */
    public static <T, R> List<R> map(List<T> all, Function<T, R> work) {
        return map(THREADS, all, work);
    }

    /** The same by fewer at a time than there are processors, so that one is left for callers. */
    static <T, R> List<R> mapBesideCallers(List<T> all, Function<T, R> work) {
        int others = Runtime.getRuntime().availableProcessors() - 1;
        return map(Math.clamp(others, 1, THREADS), all, work);
    }

    private static <T, R> List<R> map(int threads, List<T> all, Function<T, R> work) {
        try (ExecutorService workers = Executors.newFixedThreadPool(threads)) {
            List<Future<R>> working = all.stream()
                    .map(one -> workers.submit(() -> work.apply(one)))
                    .toList();
            return working.stream().map(AtOnce::done).toList();
        }
    }

    /** What became of some work, once it is done. */
    static <R> R done(Future<R> working) {
        try {
            return working.get();
        } catch (ExecutionException e) {
            if (e.getCause() instanceof RuntimeException failure) {
                throw failure;
            }
            throw new IllegalStateException(e.getCause());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted while others work", e);
        }
    }
}
