package tidybridge.core.bind;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Holdings;

/**
 * Who calls.
 *
 * @param name the person's, or the application's; null for somebody unknown
 * @param client the application through which they call; null when there is none
 * @param roles by name, in no particular order
 * @param address the network address the call came from
 * @param privileges what they hold
 * @param claims what a token of theirs says of them besides, as texts by the names of the claims; empty for every other credential
 */
public record Caller(
        @Nullable String name,
        @Nullable String client,
        List<String> roles,
        String address,
        Holdings privileges,
        Map<String, String> claims) {

    /** What a parameter begins with that is a claim. */
    public static final String CLAIM = "claim.";

    public Caller {
        roles = List.copyOf(roles);
        claims = Map.copyOf(claims);
    }

    /** Somebody unknown, who holds nothing. */
    public static Caller unknown(String address) {
        return new Caller(null, null, List.of(), address, Holdings.NONE, Map.of());
    }

    /** True for somebody who has shown who they are. */
    public boolean isKnown() {
        return name != null;
    }

    /** What tells this caller from every other: a person and an application may have the same name. Null for somebody unknown. */
    public @Nullable String identity() {
        return name == null ? null : client == null ? "person " + name : "client " + client;
    }
}
