package tidybridge.core;

import com.sun.management.OperatingSystemMXBean;
import java.lang.management.ManagementFactory;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * What something costs in time of the processors. A machine that is busy with other things changes it less than the time on a clock.
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
        long before = ManagementFactory.getThreadMXBean().getCurrentThreadCpuTime();
        work.run();
        return Duration.ofNanos(ManagementFactory.getThreadMXBean().getCurrentThreadCpuTime() - before);
    }

    /** What all threads of this process spend meanwhile, a service within it among them. */
    public static <E extends Exception> Duration ofProcess(Work<E> work) throws E {
        long before = SYSTEM.getProcessCpuTime();
        work.run();
        return Duration.ofNanos(SYSTEM.getProcessCpuTime() - before);
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
