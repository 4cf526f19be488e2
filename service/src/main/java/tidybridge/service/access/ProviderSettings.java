package tidybridge.service.access;

import java.net.URI;
import java.util.Map;

/**
 * An outside provider that people sign in with (OpenID Connect).
 *
 * @param name what the console calls it
 * @param client what it knows this service by
 * @param nameClaim the claim of an ID token that a person is called by here
 * @param groupsClaim the claim that lists a person's groups
 * @param groups roles by groups
 */
public record ProviderSettings(
        String name,
        URI issuer,
        String client,
        String secret,
        String nameClaim,
        String groupsClaim,
        Map<String, String> groups) {
    public ProviderSettings {
        groups = Map.copyOf(groups);
    }

    /** Nobody shall find the secret in a log. */
    @Override
    public String toString() {
        return name + " at " + issuer;
    }
}
