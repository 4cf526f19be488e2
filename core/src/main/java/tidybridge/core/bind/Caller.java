package tidybridge.core.bind;

import java.util.List;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * Who calls.
 *
 * @param name the user's or the application's; null for somebody unknown
 * @param client the application through which they call; null when there is none
 * @param roles by name, in no particular order
 * @param address the network address the call came from
 * @param privileges accepts the names of the privileges they hold
 */
public record Caller(
        @Nullable String name,
        @Nullable String client,
        List<String> roles,
        String address,
        Predicate<String> privileges) {
    public Caller {
        roles = List.copyOf(roles);
    }

    /** Somebody unknown, who holds nothing. */
    public static Caller unknown(String address) {
        return new Caller(null, null, List.of(), address, privilege -> false);
    }
}
