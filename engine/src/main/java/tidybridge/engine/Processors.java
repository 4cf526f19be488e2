package tidybridge.engine;

import com.sun.management.OperatingSystemMXBean;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.LongStream;
import java.util.stream.Stream;

/**
 * Tells whether this machine had processors to spare. What the host of a virtual machine takes away counts too, which the JDK's own number
 * leaves out. Not thread-safe.
 */
final class Processors {

    /** Linux tells there, in ticks, what all processors did since the start; see proc_stat(5). */
    static final Path LINUX = Path.of("/proc/stat");

    /** The share of the time that was worked from which there was none to spare. */
    private static final double BUSY = 0.9;

    /** The share of the time that the host took away from which this machine may have stood still, however little it did. */
    private static final double STOLEN = 0.1;

    private static final OperatingSystemMXBean MACHINE =
            (OperatingSystemMXBean) ManagementFactory.getOperatingSystemMXBean();

    /** Ticks since the start: all, those in which nothing was to be done, and those that the host took away. */
    private record Ticks(long all, long idle, long stolen) {

        private static final int IDLE_AT = 3;
        private static final int WAITING_AT = 4;
        private static final int STOLEN_AT = 7;

        static Ticks in(String line) {
            long[] ticks = Stream.of(line.split(" +"))
                    .skip(1)
                    .limit(STOLEN_AT + 1)
                    .mapToLong(Long::parseLong)
                    .toArray();
            if (ticks.length <= STOLEN_AT) {
                throw new IllegalArgumentException("the first line of what the processors did is not as expected");
            }
            return new Ticks(LongStream.of(ticks).sum(), ticks[IDLE_AT] + ticks[WAITING_AT], ticks[STOLEN_AT]);
        }
    }

    private final Path told;
    private Ticks last = new Ticks(0, 0, 0);

    /**
     * Looks at the processors of this machine.
     *
     * @param told the file that tells what they did; where it cannot be read, the JDK's number counts
     */
    Processors(Path told) {
        this.told = told;
    }

    /** True when there was no time to spare since the last look. */
    boolean wereBusy() {
        Ticks now;
        try (Stream<String> lines = Files.lines(told)) {
            now = Ticks.in(lines.findFirst().orElse(""));
        } catch (IOException | UncheckedIOException | IllegalArgumentException e) {
            return MACHINE.getCpuLoad() > BUSY;
        }
        double all = now.all - last.all;
        double idle = now.idle - last.idle;
        double stolen = now.stolen - last.stolen;
        last = now;
        return all > 0 && (idle < (1 - BUSY) * all || stolen > STOLEN * all);
    }
}
