package tidybridge.service;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ConcurrentSkipListSet;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import tidybridge.demo.Until;

/**
 * Callers who read and write one after the other, and remember what failed. A write that failed is sent again under its key until it is
 * acknowledged, as a careful program does.
 */
final class NodesLoad implements AutoCloseable {

    /** How many call at a time, half of them with writes. */
    static final int CALLERS = 8;

    /** Some forty calls a second fall into every moment of a change; four times as many cost more than all starts of the nodes. */
    private static final Duration PAUSE = Duration.ofMillis(200);

    private static final int STILL_RUNNING = 409;
    private static final LocalDateTime FIRST = LocalDateTime.of(2040, 1, 1, 0, 0);

    private final String address;
    private final String key;
    private final HttpClient http = HttpClient.newHttpClient();
    private final ExecutorService callers = Executors.newVirtualThreadPerTaskExecutor();
    private final ConcurrentLinkedQueue<String> failures = new ConcurrentLinkedQueue<>();
    private final ConcurrentSkipListSet<String> acknowledged = new ConcurrentSkipListSet<>();
    private final AtomicInteger writes = new AtomicInteger();
    private final AtomicInteger answered = new AtomicInteger();
    private volatile boolean ending;

    /** Begins to call. */
    NodesLoad(String address, String key) {
        this.address = address;
        this.key = key;
        for (int i = 0; i < CALLERS / 2; i++) {
            callers.execute(this::read);
            callers.execute(this::write);
        }
    }

    private void read() {
        while (!ending) {
            send(HttpRequest.newBuilder(URI.create(address + "/api/moorings/v1/berths/17")), 200);
            pause();
        }
    }

    private void write() {
        while (!ending) {
            int number = writes.incrementAndGet();
            String at = DateTimeFormatter.ISO_LOCAL_DATE_TIME.format(FIRST.plusSeconds(number));
            // the last one is acknowledged too, or nobody can say whether it is there
            while (!write(number, at.length() == 16 ? at + ":00" : at)) {
                pause();
            }
            pause();
        }
    }

    private boolean write(int number, String at) {
        String body = """
                {"lockId":3,"registration":"MW-10084","direction":"up","passedAt":"%s"}""".formatted(at);
        boolean done = send(
                HttpRequest.newBuilder(URI.create(address + "/api/passages/v1/passages"))
                        .header("Content-Type", "application/json")
                        .header("Authorization", "Bearer " + key)
                        .header("Idempotency-Key", "\"passage-" + number + "\"")
                        .POST(HttpRequest.BodyPublishers.ofString(body)),
                201);
        if (done) {
            acknowledged.add(at);
        }
        return done;
    }

    /** That an earlier try is still under way is no failure; it is asked again. */
    private boolean send(HttpRequest.Builder request, int expected) {
        try {
            HttpResponse<String> response =
                    http.send(request.timeout(Duration.ofSeconds(20)).build(), HttpResponse.BodyHandlers.ofString());
            answered.incrementAndGet();
            boolean waits = response.statusCode() == STILL_RUNNING && expected == 201;
            if (response.statusCode() != expected && !waits) {
                failures.add(response.statusCode() + " " + response.body());
            }
            return response.statusCode() == expected;
        } catch (IOException e) {
            failures.add(String.valueOf(e));
            return false;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            ending = true;
            return true;
        }
    }

    private static void pause() {
        try {
            Thread.sleep(PAUSE);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** Goes on once every caller, on the average, has been answered some more times. */
    void goOn() throws Exception {
        int enough = answered.get() + 5 * CALLERS;
        Until.holds(() -> answered.get() >= enough);
    }

    /** What failed since it was forgotten last. */
    List<String> failed() {
        return new ArrayList<>(failures);
    }

    void forget() {
        failures.clear();
    }

    /** The times of the passages that were acknowledged. */
    List<String> written() {
        return new ArrayList<>(acknowledged);
    }

    /** Lets everybody end what they are at. */
    void end() throws InterruptedException {
        ending = true;
        callers.shutdown();
        if (!callers.awaitTermination(60, TimeUnit.SECONDS)) {
            throw new AssertionError("some write is never acknowledged: " + failures);
        }
    }

    @Override
    public void close() {
        ending = true;
        callers.shutdownNow();
        http.close();
    }
}
