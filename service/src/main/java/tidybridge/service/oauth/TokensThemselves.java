package tidybridge.service.oauth;

import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.security.oauth2.core.AuthorizationGrantType;
import org.springframework.security.oauth2.core.OAuth2AccessToken;
import org.springframework.security.oauth2.core.OAuth2AuthenticationException;
import org.springframework.security.oauth2.core.OAuth2Error;
import org.springframework.security.oauth2.core.OAuth2ErrorCodes;
import org.springframework.security.oauth2.server.authorization.OAuth2Authorization;
import org.springframework.security.oauth2.server.authorization.OAuth2AuthorizationService;
import org.springframework.security.oauth2.server.authorization.OAuth2TokenType;
import org.springframework.security.oauth2.server.authorization.client.RegisteredClient;
import org.springframework.security.oauth2.server.authorization.client.RegisteredClientRepository;
import tidybridge.records.AuditEntry;
import tidybridge.service.access.AccessTokens;
import tidybridge.service.access.LiveAccess;

/** What was given out is told by the tokens themselves: nothing is kept of them but which were revoked before their time. */
final class TokensThemselves implements OAuth2AuthorizationService {

    /** More than these of one application at a time are its own misuse: it can revoke the key instead. */
    private static final int MOST_REVOKED = 1_000;

    private final AccessTokens tokens;
    private final RegisteredClientRepository applications;
    private final LiveAccess access;
    private final Clock clock;

    TokensThemselves(AccessTokens tokens, RegisteredClientRepository applications, LiveAccess access, Clock clock) {
        this.tokens = tokens;
        this.applications = applications;
        this.access = access;
        this.clock = clock;
    }

    @Override
    public void save(OAuth2Authorization authorization) {
        OAuth2Authorization.Token<OAuth2AccessToken> token = authorization.getAccessToken();
        Instant endsAt = token == null ? null : token.getToken().getExpiresAt();
        if (token == null || endsAt == null || !token.isInvalidated()) {
            return;
        }
        String client = authorization.getPrincipalName();
        AuditEntry entry = new AuditEntry(clock.instant(), client, null, "revoke-token", client, authorization.getId());
        boolean kept = access.changed(
                records -> records.revokeToken(authorization.getId(), client, endsAt, MOST_REVOKED, entry));
        if (!kept) {
            throw new OAuth2AuthenticationException(new OAuth2Error(
                    OAuth2ErrorCodes.TEMPORARILY_UNAVAILABLE,
                    "More than " + MOST_REVOKED + " tokens are revoked already; revoke the key they were got with.",
                    null));
        }
    }

    @Override
    public void remove(OAuth2Authorization authorization) {
        // nothing is kept
    }

    @Override
    public @Nullable OAuth2Authorization findById(String id) {
        return null;
    }

    @Override
    public @Nullable OAuth2Authorization findByToken(String text, @Nullable OAuth2TokenType type) {
        AccessTokens.Token token = tokens.read(text);
        RegisteredClient client = token == null ? null : applications.findByClientId(token.client());
        if (token == null || client == null) {
            return null;
        }
        List<String> said = token.scopes();
        Set<String> scopes = said == null ? Set.of() : new LinkedHashSet<>(said);
        OAuth2AccessToken access = new OAuth2AccessToken(
                OAuth2AccessToken.TokenType.BEARER, text, token.issuedAt(), token.endsAt(), scopes);
        return OAuth2Authorization.withRegisteredClient(client)
                .id(token.id())
                .principalName(token.client())
                .authorizationGrantType(AuthorizationGrantType.CLIENT_CREDENTIALS)
                .authorizedScopes(scopes)
                .token(
                        access,
                        metadata -> metadata.put(OAuth2Authorization.Token.CLAIMS_METADATA_NAME, claims(token, scopes)))
                .build();
    }

    private static Map<String, Object> claims(AccessTokens.Token token, Set<String> scopes) {
        Map<String, Object> claims = new HashMap<>();
        claims.put("iss", token.issuer());
        claims.put("sub", token.client());
        claims.put("aud", List.of(AccessTokens.AUDIENCE));
        claims.put("jti", token.id());
        claims.put("iat", token.issuedAt());
        claims.put("exp", token.endsAt());
        if (!scopes.isEmpty()) {
            claims.put("scope", List.copyOf(scopes));
        }
        return claims;
    }
}
