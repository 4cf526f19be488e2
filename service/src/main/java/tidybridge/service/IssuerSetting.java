package tidybridge.service;

import java.net.URI;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.service.access.TrustedIssuer;

/**
 * Somebody outside whose tokens are taken.
 *
 * @param issuer as its tokens name it
 * @param audience what its tokens must be for
 * @param keys the address of its public keys (RFC 7517)
 * @param nameClaim the claim that a caller is called by; {@code sub} unless set
 * @param rolesClaim the claim that maps to roles; {@code roles} unless set
 * @param roles roles by the values of that claim
 */
public record IssuerSetting(
        @Nullable String issuer,
        @Nullable String audience,
        @Nullable String keys,
        @Nullable String nameClaim,
        @Nullable String rolesClaim,
        @Nullable Map<String, String> roles) {

    TrustedIssuer settled(String name, List<String> problems) {
        String prefix = "tidy.issuers." + name + ".";
        if (issuer == null || audience == null) {
            problems.add(prefix + "issuer and " + prefix + "audience must be set");
        }
        if (keys == null || !keys.matches("https?://[^\\s]+")) {
            problems.add(prefix + "keys must be the address of its public keys");
        }
        return new TrustedIssuer(
                name,
                issuer == null ? "" : issuer,
                audience == null ? "" : audience,
                URI.create(keys == null ? "" : keys.replaceAll("\\s", "")),
                nameClaim == null ? "sub" : nameClaim,
                rolesClaim == null ? "roles" : rolesClaim,
                roles == null ? Map.of() : roles);
    }
}
