package tidybridge.service.access;

import java.net.URI;
import java.util.Map;

/**
 * Somebody outside whose tokens are taken.
 *
 * @param name what callers with its tokens are told apart by here
 * @param issuer as its tokens name it
 * @param audience what its tokens must be for
 * @param keys where its public keys are (RFC 7517)
 * @param nameClaim the claim that a caller is called by
 * @param rolesClaim the claim that lists what maps to roles: a list, or words with spaces between them
 * @param roles roles by the values of that claim
 */
public record TrustedIssuer(
        String name,
        String issuer,
        String audience,
        URI keys,
        String nameClaim,
        String rolesClaim,
        Map<String, String> roles) {
    public TrustedIssuer {
        roles = Map.copyOf(roles);
    }
}
