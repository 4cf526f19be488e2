package tidybridge.demo;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/** What was started, stopped in the opposite order. Thread-safe. */
final class Stack {

    private static final long LOOK_MILLIS = 500;

    private final Deque<Part> parts = new ArrayDeque<>();
    private boolean closed;

    synchronized <T extends Part> T add(T part) {
        if (closed) {
            part.close();
        } else {
            parts.push(part);
        }
        return part;
    }

    /** Waits until the latch opens, then null; or until a part ends by itself, then its sentence. */
    @Nullable
    String awaitFirstEnd(CountDownLatch latch) throws InterruptedException {
        while (!latch.await(LOOK_MILLIS, TimeUnit.MILLISECONDS)) {
            String ending = ended();
            if (ending != null) {
                return ending;
            }
        }
        return null;
    }

    private synchronized @Nullable String ended() {
        if (closed) {
            return null;
        }
        return parts.stream()
                .filter(part -> !part.isRunning() && !part.revive())
                .map(Part::ending)
                .findFirst()
                .orElse(null);
    }

    synchronized void close() {
        closed = true;
        while (!parts.isEmpty()) {
            parts.pop().close();
        }
    }
}
