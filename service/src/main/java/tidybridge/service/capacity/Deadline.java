package tidybridge.service.capacity;

import java.time.Duration;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.Consumer;
import java.util.function.Supplier;
import tidybridge.engine.Patience;

/** Does something that may hang, and waits for it no longer than a time. */
public final class Deadline {

    private Deadline() {}

    /**
     * Does it on a thread of its own.
     *
     * @param limit where this machine has processors to spare; see {@link Patience}
     * @param late takes what comes of it after the time is over
     * @throws TimeoutException when it is not done in time; it goes on all the same
     */
    public static <T> T within(Duration limit, Supplier<T> task, Consumer<T> late) throws TimeoutException {
        CompletableFuture<T> done = new CompletableFuture<>();
        Thread.ofVirtual().start(() -> {
            try {
                T value = task.get();
                if (!done.complete(value)) {
                    late.accept(value);
                }
            } catch (RuntimeException e) {
                done.completeExceptionally(e);
            }
        });
        try {
            return await(done, new Patience(limit));
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        } catch (ExecutionException e) {
            throw unchecked(e);
        } catch (TimeoutException e) {
            // it may have been done at this very moment
        }
        if (done.completeExceptionally(new TimeoutException())) {
            throw new TimeoutException();
        }
        return done.join();
    }

    private static <T> T await(CompletableFuture<T> done, Patience patience)
            throws InterruptedException, ExecutionException, TimeoutException {
        for (; ; ) {
            try {
                return done.get(patience.half().toNanos(), TimeUnit.NANOSECONDS);
            } catch (TimeoutException e) {
                if (!patience.goesOn(true)) {
                    throw e;
                }
            }
        }
    }

    private static RuntimeException unchecked(ExecutionException e) {
        return e.getCause() instanceof RuntimeException cause ? cause : new IllegalStateException(e.getCause());
    }
}
