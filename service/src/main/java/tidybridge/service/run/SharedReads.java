package tidybridge.service.run;

import java.nio.ByteBuffer;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.Bound;

/**
 * Lets equal reads of one operation that come while one of them runs have its answer. Nothing is kept after it. Thread-safe.
 *
 * @param <A> an answer
 */
public final class SharedReads<A> {

    private final Map<Key, CompletableFuture<@Nullable A>> running = new ConcurrentHashMap<>();

    /**
     * All that an answer depends on.
     *
     * @param address as it was called, because pages tell addresses made of it
     * @param accept what the caller takes
     * @param seen stands for what the caller may see
     * @param values bound to the statement
     */
    public record Key(String address, String accept, Object seen, List<@Nullable Object> values) {

        /**
         * The key of a call.
         *
         * @param seen equal for callers for whom the same masks are lifted
         */
        static Key of(String address, @Nullable String accept, Object seen, Bound bound) {
            List<@Nullable Object> values = new ArrayList<>(bound.values().length);
            for (Object value : bound.values()) {
                // arrays are equal to themselves alone
                values.add(value instanceof byte[] bytes ? ByteBuffer.wrap(bytes) : value);
            }
            return new Key(address, accept == null ? "" : accept, seen, values);
        }
    }

    /** The part in a read: that of whoever runs it, or of somebody who waits. */
    public final class Part implements AutoCloseable {
        private final Key key;
        private final CompletableFuture<@Nullable A> answer;
        private final boolean runs;

        private Part(Key key, CompletableFuture<@Nullable A> answer, boolean runs) {
            this.key = key;
            this.answer = answer;
            this.runs = runs;
        }

        /**
         * The answer of an equal read.
         *
         * @param most how long it is waited for
         * @return null for whoever must read alone
         */
        public @Nullable A of(Duration most) {
            if (runs) {
                return null;
            }
            try {
                return answer.get(most.toMillis(), TimeUnit.MILLISECONDS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                return null;
            } catch (ExecutionException | TimeoutException e) {
                return null;
            }
        }

        /** Hands the answer to those who wait. */
        public void share(A shared) {
            if (runs) {
                answer.complete(shared);
            }
        }

        /** Ends the read: who still waits reads alone, and who comes from now on begins another. */
        @Override
        public void close() {
            if (runs) {
                running.remove(key, answer);
                answer.complete(null);
            }
        }
    }

    /** Takes part in a read. */
    public Part join(Key key) {
        CompletableFuture<@Nullable A> own = new CompletableFuture<>();
        CompletableFuture<@Nullable A> other = running.putIfAbsent(key, own);
        return other == null ? new Part(key, own, true) : new Part(key, other, false);
    }
}
