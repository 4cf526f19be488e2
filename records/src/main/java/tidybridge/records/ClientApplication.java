package tidybridge.records;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Quota;

/**
 * What calls modules with credentials of its own.
 *
 * @param addresses networks it may call from; empty for everywhere
 * @param quota how often it may call; null for as often as it likes
 * @param subjects of the certificates it may show in place of a key (RFC 4514)
 * @param team the name of the client team that made it; null for one that was made by whoever gives access
 * @param given what it holds beside what its roles hold
 */
public record ClientApplication(
        String name,
        @Nullable String about,
        String owner,
        String contact,
        boolean disabled,
        Instant createdAt,
        List<String> addresses,
        @Nullable Quota quota,
        List<String> subjects,
        @Nullable String team,
        List<String> roles,
        List<GivenPrivilege> given,
        List<Credential> credentials) {

    /**
     * One of its credentials. The secret itself is kept nowhere.
     *
     * @param secretHash SHA-256, hexadecimal
     * @param endsAt null for one that lasts until it is revoked
     * @param usedAt when it was used last, a few seconds late; null for never
     */
    public record Credential(
            String id,
            String name,
            String secretHash,
            Instant createdAt,
            @Nullable Instant endsAt,
            @Nullable Instant usedAt) {}

    public ClientApplication {
        addresses = List.copyOf(addresses);
        subjects = List.copyOf(subjects);
        roles = List.copyOf(roles);
        given = List.copyOf(given);
        credentials = List.copyOf(credentials);
    }
}
