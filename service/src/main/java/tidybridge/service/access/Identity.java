package tidybridge.service.access;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Holdings;
import tidybridge.core.bind.Caller;

/**
 * Somebody known, whatever address they call from.
 *
 * @param client the application's name; null for a person
 * @param claims what a token says besides, as texts
 */
record Identity(
        String name, @Nullable String client, List<String> roles, Holdings holdings, Map<String, String> claims) {

    /** Whoever has the administrator's token, or came by its link. */
    static final Identity ADMINISTRATOR = new Identity("administrator", null, List.of("administrator"), Holdings.ALL);

    Identity {
        roles = List.copyOf(roles);
        claims = Map.copyOf(claims);
    }

    /** Somebody of whom nothing else is said. */
    Identity(String name, @Nullable String client, List<String> roles, Holdings holdings) {
        this(name, client, roles, holdings, Map.of());
    }

    Caller at(String address) {
        return new Caller(name, client, roles, address, holdings, claims);
    }
}
