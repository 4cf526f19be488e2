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
 * host of a virtual machine takes away meanwhile is counted as time of whoever ran, so the same share of it is taken off.
 */
public final class Cost {

    private static final OperatingSystemMXBean SYSTEM =
            (OperatingSystemMXBean) ManagementFactory.getOperatingSystemMXBean();

    private static final int TRIES = 3;

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
        Ticks ticks = Ticks.read();
        long before = nanos.getAsLong();
        work.run();
        long spent = nanos.getAsLong() - before;
        return Duration.ofNanos((long) (spent * Ticks.read().shareOfRunning(ticks)));
    }

    /** What all processors did since this machine started, in hundredths of a second; 0 where nobody tells. */
    private record Ticks(long ran, long stolen) {

        /** Linux tells it; see proc_stat(5). */
        private static final Path PROCESSORS = Path.of("/proc/stat");

        private static final int IDLE = 4;
        private static final int WAITING = 5;
        private static final int STOLEN = 8;

        static Ticks read() {
            try (Stream<String> lines = Files.lines(PROCESSORS)) {
                String[] ticks = lines.findFirst().orElse("").split(" +");
                long ran = 0;
                for (int i = 1; i < Math.min(STOLEN, ticks.length); i++) {
                    ran += i == IDLE || i == WAITING ? 0 : Long.parseLong(ticks[i]);
                }
                return new Ticks(ran, ticks.length > STOLEN ? Long.parseLong(ticks[STOLEN]) : 0);
            } catch (IOException e) {
                return new Ticks(0, 0);
            }
        }

        /** How much of the time that was not idle since then the host left to whoever ran, from 0 to 1. */
        double shareOfRunning(Ticks before) {
            long running = ran - before.ran;
            long all = running + stolen - before.stolen;
            return (running + 1.0) / (all + 1);
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
