package tidybridge.service.capacity;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.InputStream;
import java.io.OutputStream;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicReference;
import org.junit.jupiter.api.Test;

/** The bounds on what callers hold, each by itself. */
class CapacityTest {

    private static final int MEGABYTE = 1024 * 1024;

    @Test
    void theFirstBytesOfEachRequestAreFreeAndTheOthersComeBack() {
        BytesInFlight bytes = new BytesInFlight(MEGABYTE);
        try (BytesInFlight.Share one = bytes.share();
                BytesInFlight.Share other = bytes.share()) {
            assertThat(one.hold(BytesInFlight.FREE)).isTrue();
            assertThat(bytes.held()).isZero();
            assertThat(one.hold(MEGABYTE)).isTrue();
            assertThat(bytes.held()).isEqualTo(MEGABYTE);
            assertThat(other.hold(BytesInFlight.FREE)).isTrue();
            assertThat(other.hold(1)).isFalse();
            assertThat(other.hold(2 * MEGABYTE, Duration.ofSeconds(60)))
                    .as("what can never be is not waited for")
                    .isFalse();
        }
        assertThat(bytes.held()).isZero();
    }

    /** Many who hold and wait at random: never more than the bound, and nothing is left behind. */
    @Test
    void noMoreIsHeldThanTheBound() throws Exception {
        BytesInFlight bytes = new BytesInFlight(MEGABYTE);
        try (ExecutorService callers = Executors.newVirtualThreadPerTaskExecutor()) {
            List<Future<?>> all = new ArrayList<>();
            for (int i = 0; i < 64; i++) {
                Random random = new Random(i);
                all.add(callers.submit(() -> {
                    for (int n = 0; n < 200; n++) {
                        try (BytesInFlight.Share share = bytes.share()) {
                            for (int k = random.nextInt(4); k >= 0; k--) {
                                share.hold(random.nextInt(400_000), Duration.ofMillis(random.nextInt(3)));
                                assertThat(bytes.held()).isBetween(0L, (long) MEGABYTE);
                            }
                        }
                    }
                    return null;
                }));
            }
            for (Future<?> one : all) {
                one.get();
            }
        }
        assertThat(bytes.held()).isZero();
    }

    @Test
    void onlyTimeSpentWaitingCountsAgainstAPeer() throws Exception {
        Pace pace = new Pace(Duration.ofSeconds(5));
        for (int i = 0; i < 100; i++) {
            pace.moved(Pace.LEAST_BYTES, Duration.ofSeconds(4).toNanos());
        }
        pace.moved(1, Duration.ofSeconds(3).toNanos());
        assertThatThrownBy(() -> pace.moved(1, Duration.ofSeconds(3).toNanos()))
                .isInstanceOf(Pace.TooSlow.class)
                .hasMessageContaining("2 bytes moved in 6 s");
    }

    @Test
    void anAnswerIsWrittenWholeAtSomePaceAndWithinATime() throws Exception {
        byte[] bytes = new byte[300_001];
        new Random(1).nextBytes(bytes);
        ByteArrayOutputStream taken = new ByteArrayOutputStream();
        PacedOutput out = new PacedOutput(taken, PacedOutput.LONGEST);
        out.write(bytes, 0, 5_000);
        out.write(bytes, 5_000, 100);
        out.write(bytes[5_100]);
        out.write(bytes, 5_101, bytes.length - 5_101);
        assertThat(taken.toByteArray()).isEqualTo(bytes);
        PacedOutput late = new PacedOutput(slow(20), new Pace(), Duration.ofMillis(50));
        assertThatThrownBy(() -> {
                    for (int i = 0; i < 10; i++) {
                        late.write(new byte[64 * 1024]);
                    }
                })
                .isInstanceOf(Pace.TooSlow.class)
                .hasMessageContaining("took longer");
        PacedOutput trickling = new PacedOutput(slow(20), new Pace(Duration.ofMillis(50)), Duration.ofHours(1));
        assertThatThrownBy(() -> {
                    for (int i = 0; i < 10; i++) {
                        trickling.write(new byte[8 * 1024 + 1], 0, 1 + 8 * 1024 * (i == 0 ? 1 : 0));
                    }
                })
                .isInstanceOf(Pace.TooSlow.class);
    }

    private static OutputStream slow(int millis) {
        return new OutputStream() {
            @Override
            public void write(int value) {}

            @Override
            public void write(byte[] source, int offset, int length) {
                try {
                    TimeUnit.MILLISECONDS.sleep(millis);
                } catch (InterruptedException e) {
                    Thread.currentThread().interrupt();
                }
            }
        };
    }

    /** Comes in pieces of any size, as from a socket. */
    private static InputStream inPieces(byte[] bytes, Random random) {
        return new ByteArrayInputStream(bytes) {
            @Override
            public int read(byte[] target, int offset, int length) {
                return super.read(target, offset, Math.min(length, 1 + random.nextInt(5_000)));
            }
        };
    }

    @Test
    void aBodyIsReadAsItCame() throws Exception {
        Random random = new Random(3);
        BytesInFlight bytes = new BytesInFlight(16L * MEGABYTE);
        for (int size : new int[] {0, 1, 8_191, 8_192, 8_193, 24_576, 24_577, 300_000, MEGABYTE}) {
            byte[] body = new byte[size];
            random.nextBytes(body);
            for (long announced : new long[] {-1, size}) {
                try (BytesInFlight.Share share = bytes.share()) {
                    assertThat(PacedInput.read(inPieces(body, random), announced, MEGABYTE, share))
                            .as("%d bytes, announced %d", size, announced)
                            .isEqualTo(body);
                }
            }
        }
        assertThat(bytes.held()).isZero();
    }

    private static PacedInput.Reason refused(InputStream in, long announced, int most, BytesInFlight bytes) {
        try (BytesInFlight.Share share = bytes.share()) {
            return catchThrowableOfType(PacedInput.NotRead.class, () -> PacedInput.read(in, announced, most, share))
                    .reason();
        }
    }

    @Test
    void aBodyThatIsTooLargeOrHasNoRoomIsNotReadToItsEnd() {
        BytesInFlight bytes = new BytesInFlight(64 * 1024);
        byte[] body = new byte[MEGABYTE];
        assertThat(refused(new ByteArrayInputStream(body), MEGABYTE, 1_000, bytes))
                .isEqualTo(PacedInput.Reason.TOO_LARGE);
        assertThat(refused(new ByteArrayInputStream(body), -1, 20_000, bytes)).isEqualTo(PacedInput.Reason.TOO_LARGE);
        assertThat(refused(new ByteArrayInputStream(body), -1, MEGABYTE, bytes)).isEqualTo(PacedInput.Reason.NO_ROOM);
        assertThat(bytes.held()).isZero();
    }

    @Test
    void aBodyThatEndsEarlyIsWhatCame() throws Exception {
        try (BytesInFlight.Share share = new BytesInFlight(MEGABYTE).share()) {
            assertThat(PacedInput.read(new ByteArrayInputStream(new byte[10]), 100, 1_000, share))
                    .hasSize(10);
        }
    }

    @Test
    void linesBeyondTheLimitAreCounted() {
        LineLimit limit = new LineLimit(2, Duration.ofSeconds(10));
        long second = Duration.ofSeconds(1).toNanos();
        assertThat(limit.ask(5)).isZero();
        assertThat(limit.ask(6)).isZero();
        for (int i = 0; i < 7; i++) {
            assertThat(limit.ask(7 + i)).isEqualTo(LineLimit.NONE);
        }
        assertThat(limit.ask(9 * second)).isEqualTo(LineLimit.NONE);
        assertThat(limit.ask(10 * second + 5))
                .as("what was left out is told once")
                .isEqualTo(8);
        assertThat(limit.ask(10 * second + 6)).isZero();
    }

    @Test
    void aDeadlineIsKeptAndWhatComesLateIsHandedOver() throws Exception {
        assertThat(Deadline.within(Duration.ofSeconds(5), () -> "done", late -> {}))
                .isEqualTo("done");
        assertThatThrownBy(() -> Deadline.within(
                        Duration.ofSeconds(5),
                        () -> {
                            throw new IllegalArgumentException("own");
                        },
                        late -> {}))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessage("own");
        AtomicReference<String> late = new AtomicReference<>();
        CountDownLatch handed = new CountDownLatch(1);
        CountDownLatch go = new CountDownLatch(1);
        assertThatThrownBy(() -> Deadline.within(
                        Duration.ofMillis(20),
                        () -> {
                            await(go);
                            return "late";
                        },
                        value -> {
                            late.set(value);
                            handed.countDown();
                        }))
                .isInstanceOf(TimeoutException.class);
        assertThat(late.get()).isNull();
        go.countDown();
        assertThat(handed.await(5, TimeUnit.SECONDS)).isTrue();
        assertThat(late.get()).isEqualTo("late");
    }

    private static void await(CountDownLatch latch) {
        try {
            latch.await();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
