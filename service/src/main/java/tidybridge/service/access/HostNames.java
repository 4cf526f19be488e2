package tidybridge.service.access;

import java.util.Collection;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;

/** The names under which this service is called (RFC 9110, 7.2). Immutable and thread-safe. */
public final class HostNames {

    private static final Set<String> LOOPBACK = Set.of("localhost", "127.0.0.1", "[::1]", "::1");

    private final Set<String> known;
    private final boolean all;

    private HostNames(Set<String> known, boolean all) {
        this.known = known;
        this.all = all;
    }

    /**
     * The names that settings give it.
     *
     * @param said beside those of loopback; empty when nothing is said
     * @param onLoopback whether the service listens on this machine only; then it has no other name unless one is said
     */
    public static HostNames of(Collection<String> said, boolean onLoopback) {
        Set<String> known = new HashSet<>(LOOPBACK);
        said.forEach(name -> known.add(name.toLowerCase(Locale.ROOT)));
        return new HostNames(known, said.isEmpty() && !onLoopback);
    }

    /** True for a name of this machine itself, by which no other machine reaches it. */
    public static boolean isLoopback(String name) {
        return LOOPBACK.contains(name.toLowerCase(Locale.ROOT));
    }

    /** Whether the service is called so, without a port. */
    boolean include(String name) {
        return all || known.contains(name) || known.contains(name.toLowerCase(Locale.ROOT));
    }
}
