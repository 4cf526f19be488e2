package tidybridge.cli;

import java.io.InputStream;
import java.io.PrintStream;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What a command finds around it: a process's own, or what another program gives it that runs commands without starting a process.
 *
 * @param environment the environment variables
 * @param in the standard input
 * @param out the standard output, for what is printed byte for byte
 * @param err where it says what went wrong
 */
public record Surroundings(Map<String, String> environment, InputStream in, PrintStream out, PrintStream err) {

    private static final ScopedValue<Surroundings> GIVEN = ScopedValue.newInstance();

    public Surroundings {
        environment = Map.copyOf(environment);
    }

    /** Those of this process. */
    static Surroundings ofProcess() {
        return new Surroundings(System.getenv(), System.in, System.out, System.err);
    }

    /** Those of the command that runs on this thread. */
    static Surroundings here() {
        return GIVEN.orElse(ofProcess());
    }

    /** An environment variable; null when there is none. */
    static @Nullable String variable(String name) {
        return GIVEN.isBound() ? GIVEN.get().environment.get(name) : System.getenv(name);
    }

    int around(ScopedValue.CallableOp<Integer, RuntimeException> command) {
        return ScopedValue.where(GIVEN, this).call(command);
    }
}
