package tidybridge.core.bind;

import static org.assertj.core.api.Assertions.assertThat;

import java.lang.management.ManagementFactory;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import tidybridge.core.Cost;

/** No body may cost more than its share, whatever it holds. */
class WorstBodiesTest {

    private static final com.sun.management.ThreadMXBean THREADS =
            (com.sun.management.ThreadMXBean) ManagementFactory.getThreadMXBean();

    /**
     * The goal is 50 ms of processor time for a service that is warm; these limits leave room for a machine that is slow and busy, and are
     * still far below what a single fault of this kind costs.
     */
    private static final int MOST_MILLIS = 400;

    /** Read into a tree, the worst of them took 300 MB. */
    private static final int MOST_MEGABYTES = 48;

    @Test
    void noBodyCostsMoreThanItsShare() throws Exception {
        Binder binder = BodyTest.binder(WorstBodies.PARAMETERS);
        WorstBodies.all().forEach((name, text) -> {
            byte[] body = text.getBytes(StandardCharsets.UTF_8);
            bind(binder, body);
            List<String> mistakes = new ArrayList<>();
            long bytes = THREADS.getCurrentThreadAllocatedBytes();
            long millis =
                    Cost.ofThread(() -> mistakes.addAll(bind(binder, body))).toMillis();
            long megabytes = (THREADS.getCurrentThreadAllocatedBytes() - bytes) >> 20;
            System.out.printf(
                    "%-45s %4d ms %4d MB  %s%n",
                    name, millis, megabytes, mistakes.isEmpty() ? "taken" : mistakes.getFirst());
            assertThat(millis).as("ms for %s", name).isLessThan(MOST_MILLIS);
            assertThat(megabytes).as("MB for %s", name).isLessThan(MOST_MEGABYTES);
            assertThat(mistakes).as(name).hasSizeLessThanOrEqualTo(50).allMatch(mistake -> mistake.length() < 400);
        });
    }

    private static List<String> bind(Binder binder, byte[] body) {
        try {
            binder.bind(RawRequest.ofBody(null, body));
            return List.of();
        } catch (BadInput e) {
            return e.errors().stream().map(error -> error.detail()).toList();
        }
    }
}
