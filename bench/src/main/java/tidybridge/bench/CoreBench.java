package tidybridge.bench;

import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;
import org.openjdk.jmh.runner.Runner;
import org.openjdk.jmh.runner.RunnerException;
import org.openjdk.jmh.runner.options.OptionsBuilder;
import tidybridge.core.page.Continuation;
import tidybridge.core.route.PathTemplate;
import tidybridge.core.route.Router;
import tidybridge.core.sql.Dialect;
import tidybridge.core.sql.Statement;
import tidybridge.core.text.SourceText;

/** {@code ./tidy bench core}: the steps of a request that need no database, in nanoseconds. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.NANOSECONDS)
@Fork(1)
@Warmup(iterations = 3, time = 1)
@Measurement(iterations = 5, time = 1)
@SuppressWarnings("NullAway.Init")
public class CoreBench {

    private static final SourceText STATEMENT = new SourceText("berths.sql", """
            select b.id, n.name as basin, b.berth_no from berth b join basin n on n.id = b.basin_id
            where b.closed = 0
              and n.name = :basin            -- when :basin
              and b.length_m >= :minLength   -- when :minLength
            """);

    private final int[] captures = new int[2 * Router.MOST_CAPTURES];
    private final Continuation continuation = new Continuation(new byte[32]);
    private Router<Integer> router;

    public static void main(String[] args) throws RunnerException {
        new Runner(new OptionsBuilder().include(CoreBench.class.getName()).build()).run();
    }

    @Setup
    public void routes() {
        Router.Builder<Integer> builder = new Router.Builder<>();
        for (int i = 0; i < 10_000; i++) {
            builder.add(PathTemplate.parse("/module" + i % 100 + "/v1/things" + i + "/{id}/parts"), i);
        }
        router = builder.build();
    }

    @Benchmark
    public @Nullable Object matchAmongTenThousandRoutes() {
        return router.match("/module77/v1/things9977/4711/parts", 0, captures);
    }

    @Benchmark
    public Object writeContinuation() {
        return continuation.write("moorings/v1 GET /berths +basin+berth_no", new String[] {"Heron Pool", "B07"});
    }

    @Benchmark
    public Object scanStatement() throws Exception {
        return Statement.scan(STATEMENT, Dialect.usual());
    }
}
