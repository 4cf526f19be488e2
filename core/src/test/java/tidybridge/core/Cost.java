package tidybridge.core;

import com.sun.management.OperatingSystemMXBean;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.function.LongSupplier;
import java.util.stream.Stream;

/**
 * What something costs in time of the processors. A machine that is busy with other things changes it less than the time on a clock. What the
 * host of a virtual machine takes away meanwhile is counted as time of whoever ran, so it is taken off.
 */
public final class Cost {

    private static final OperatingSystemMXBean SYSTEM =
            (OperatingSystemMXBean) ManagementFactory.getOperatingSystemMXBean();

    private static final int TRIES = 3;

    /** Linux tells there, in hundredths of a second, what all processors did; see proc_stat(5). */
    private static final Path PROCESSORS = Path.of("/proc/stat");

    private static final int STOLEN = 8;
    private static final long NANOS_OF_A_TICK = 10_000_000;

    private Cost() {}

    /** Work that may throw. */
    @FunctionalInterface
    public interface Work<E extends Exception> {
        void run() throws E;
    }

    /** What this thread spends on it. */
    public static <E extends Exception> Duration ofThread(Work<E> work) throws E {
        return spent(ManagementFactory.getThreadMXBean()::getCurrentThreadCpuTime, work);
    }

    /** What all threads of this process spend meanwhile, a service within it among them. */
    public static <E extends Exception> Duration ofProcess(Work<E> work) throws E {
        return spent(SYSTEM::getProcessCpuTime, work);
    }

    private static <E extends Exception> Duration spent(LongSupplier nanos, Work<E> work) throws E {
        long stolenBefore = stolenNanos();
        long before = nanos.getAsLong();
        work.run();
        long spent = nanos.getAsLong() - before;
        return Duration.ofNanos(Math.max(0, spent - (stolenNanos() - stolenBefore)));
    }

    /** What the host took away from all processors since this machine started; 0 where nobody tells. */
    private static long stolenNanos() {
        try (Stream<String> lines = Files.lines(PROCESSORS)) {
            String[] ticks = lines.findFirst().orElse("").split(" +");
            return ticks.length > STOLEN ? Long.parseLong(ticks[STOLEN]) * NANOS_OF_A_TICK : 0;
        } catch (IOException e) {
            return 0;
        }
    }

    /**
     * Holds when the process spends less than a limit on it. What else it does at that moment, such as compiling, is no fault of the work: it may
     * be tried again, and what the work itself costs is over the limit each time.
     */
    public static <E extends Exception> void isWithin(Duration limit, String what, Work<E> work) throws E {
        List<Duration> spent = new ArrayList<>();
        do {
            spent.add(ofProcess(work));
            if (spent.getLast().compareTo(limit) < 0) {
                return;
            }
        } while (spent.size() < TRIES);
        throw new AssertionError(what + " took " + spent + " of the processors' time, each time more than " + limit);
    }
}
