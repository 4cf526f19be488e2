package tidybridge.records;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Who signs in with name and password.
 *
 * @param passwordHash null until a password was chosen
 * @param factorSecret the shared secret of the second factor (RFC 6238) in Base32; null for none
 * @param factorStep the last time step whose code was used
 * @param provider the outside provider they sign in with, which says their roles too; null for a password
 * @param subject what the provider knows them by; null without one
 * @param team the name of the client team that they belong to; null for none
 */
public record Person(
        String name,
        String fullName,
        @Nullable String passwordHash,
        @Nullable String factorSecret,
        long factorStep,
        boolean disabled,
        Instant createdAt,
        @Nullable String provider,
        @Nullable String subject,
        @Nullable String team,
        List<String> roles) {
    public Person {
        roles = List.copyOf(roles);
    }
}
