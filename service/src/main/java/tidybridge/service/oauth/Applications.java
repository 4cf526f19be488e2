package tidybridge.service.oauth;

import java.util.Collection;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.security.oauth2.core.AuthorizationGrantType;
import org.springframework.security.oauth2.core.ClientAuthenticationMethod;
import org.springframework.security.oauth2.server.authorization.client.RegisteredClient;
import org.springframework.security.oauth2.server.authorization.client.RegisteredClientRepository;
import org.springframework.security.oauth2.server.authorization.settings.TokenSettings;
import tidybridge.core.access.Holdings;
import tidybridge.records.ClientApplication;
import tidybridge.service.access.AccessBook;
import tidybridge.service.access.AccessTokens;
import tidybridge.service.access.LiveAccess;

/**
 * The client applications as the authorization server knows them. A scope is named like a privilege, and an application may ask for those it
 * holds. Its secret is whichever of its keys is valid, so the name stands in the secret's place and the key is checked by its own id.
 */
final class Applications implements RegisteredClientRepository {

    private final LiveAccess access;
    private final Supplier<Collection<String>> privileges;

    /**
     * Reads applications from what is known of access.
     *
     * @param privileges all that operations ask for now
     */
    Applications(LiveAccess access, Supplier<Collection<String>> privileges) {
        this.access = access;
        this.privileges = privileges;
    }

    @Override
    public void save(RegisteredClient client) {
        throw new UnsupportedOperationException("applications are made with the management API");
    }

    @Override
    public @Nullable RegisteredClient findById(String id) {
        return findByClientId(id);
    }

    @Override
    public @Nullable RegisteredClient findByClientId(String name) {
        AccessBook book = access.now();
        ClientApplication client = book.client(name);
        if (client == null || client.disabled()) {
            return null;
        }
        Holdings holdings = book.holdings(client);
        return RegisteredClient.withId(name)
                .clientId(name)
                .clientSecret(name)
                .clientAuthenticationMethod(ClientAuthenticationMethod.CLIENT_SECRET_BASIC)
                .clientAuthenticationMethod(ClientAuthenticationMethod.CLIENT_SECRET_POST)
                .authorizationGrantType(AuthorizationGrantType.CLIENT_CREDENTIALS)
                .scopes(scopes -> privileges.get().stream().filter(holdings).forEach(scopes::add))
                .tokenSettings(TokenSettings.builder()
                        .accessTokenTimeToLive(AccessTokens.LIFE)
                        .build())
                .build();
    }
}
