package tidybridge.service;

import java.net.URI;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.service.access.ProviderSettings;

/**
 * An outside provider (OpenID Connect).
 *
 * @param name what the console calls it
 * @param client what it knows this service by
 * @param secretEnv the environment variable that holds the client's secret
 * @param secretFile a file that holds it, in place of {@code secretEnv}
 * @param nameClaim the claim that a person is called by; {@code preferred_username} unless set
 * @param groupsClaim the claim that lists a person's groups; {@code groups} unless set
 * @param groups roles by groups
 */
public record ProviderSetting(
        @Nullable String name,
        @Nullable String issuer,
        @Nullable String client,
        @Nullable String secretEnv,
        @Nullable Path secretFile,
        @Nullable String nameClaim,
        @Nullable String groupsClaim,
        @Nullable Map<String, String> groups) {

    ProviderSettings settled(List<String> problems) {
        if (issuer == null || !issuer.matches("https?://[^?#\\s]+")) {
            problems.add(
                    "tidy.provider.issuer must be the provider's address, such as https://accounts.marrowby.example");
        }
        if (client == null) {
            problems.add("tidy.provider.client is missing");
        }
        return new ProviderSettings(
                name == null ? "your organisation" : name,
                URI.create(issuer == null ? "" : issuer.replaceAll("\\s", "")),
                client == null ? "" : client,
                NamedSecret.read(secretEnv, secretFile, "tidy.provider.", problems),
                nameClaim == null ? "preferred_username" : nameClaim,
                groupsClaim == null ? "groups" : groupsClaim,
                groups == null ? Map.of() : groups);
    }
}
