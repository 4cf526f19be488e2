package tidybridge.service.oauth;

import com.nimbusds.jose.jwk.JWKSet;
import jakarta.servlet.Filter;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Clock;
import java.util.Collection;
import java.util.List;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpMethod;
import org.springframework.security.authentication.ProviderManager;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.oauth2.core.OAuth2ErrorCodes;
import org.springframework.security.oauth2.jose.jws.SignatureAlgorithm;
import org.springframework.security.oauth2.jwt.NimbusJwtEncoder;
import org.springframework.security.oauth2.server.authorization.authentication.ClientSecretAuthenticationProvider;
import org.springframework.security.oauth2.server.authorization.authentication.OAuth2ClientCredentialsAuthenticationProvider;
import org.springframework.security.oauth2.server.authorization.authentication.OAuth2TokenIntrospectionAuthenticationProvider;
import org.springframework.security.oauth2.server.authorization.authentication.OAuth2TokenRevocationAuthenticationProvider;
import org.springframework.security.oauth2.server.authorization.context.AuthorizationServerContext;
import org.springframework.security.oauth2.server.authorization.context.AuthorizationServerContextHolder;
import org.springframework.security.oauth2.server.authorization.settings.AuthorizationServerSettings;
import org.springframework.security.oauth2.server.authorization.token.JwtEncodingContext;
import org.springframework.security.oauth2.server.authorization.token.JwtGenerator;
import org.springframework.security.oauth2.server.authorization.web.NimbusJwkSetEndpointFilter;
import org.springframework.security.oauth2.server.authorization.web.OAuth2ClientAuthenticationFilter;
import org.springframework.security.oauth2.server.authorization.web.OAuth2TokenEndpointFilter;
import org.springframework.security.oauth2.server.authorization.web.OAuth2TokenIntrospectionEndpointFilter;
import org.springframework.security.oauth2.server.authorization.web.OAuth2TokenRevocationEndpointFilter;
import org.springframework.security.web.DefaultSecurityFilterChain;
import org.springframework.security.web.FilterChainProxy;
import org.springframework.security.web.servlet.util.matcher.PathPatternRequestMatcher;
import org.springframework.security.web.util.matcher.AnyRequestMatcher;
import org.springframework.security.web.util.matcher.OrRequestMatcher;
import org.springframework.web.filter.OncePerRequestFilter;
import tidybridge.core.reference.OpenApi;
import tidybridge.service.access.AccessTokens;
import tidybridge.service.access.Credentials;
import tidybridge.service.access.LiveAccess;

/**
 * Spring Authorization Server's endpoints, without the parts that people would sign in with: token (RFC 6749), revocation (RFC 7009),
 * introspection (RFC 7662), keys (RFC 7517) and metadata (RFC 8414).
 */
public final class TokenEndpoints {

    /** Where it all is. */
    public static final List<String> PATHS = List.of("/oauth/*", ServerMetadata.PATH);

    private static final String TOKEN = OpenApi.TOKEN_PATH;
    private static final String REVOKE = "/oauth/revoke";
    private static final String INTROSPECT = "/oauth/introspect";
    private static final String KEYS = "/oauth/keys";

    private final LiveAccess access;
    private final AccessTokens tokens;
    private final Credentials credentials;
    private final Applications applications;
    private final TokensThemselves given;
    private final AuthorizationServerSettings settings;
    private final Clock clock;

    /**
     * Prepares the endpoints.
     *
     * @param issuer the service's address as tokens name it; null for the one it was called by
     * @param privileges all that operations ask for now
     */
    public TokenEndpoints(
            LiveAccess access,
            AccessTokens tokens,
            Credentials credentials,
            Clock clock,
            @Nullable String issuer,
            Supplier<Collection<String>> privileges) {
        this.access = access;
        this.tokens = tokens;
        this.credentials = credentials;
        this.clock = clock;
        this.applications = new Applications(access, privileges);
        this.given = new TokensThemselves(tokens, applications, access, clock);
        AuthorizationServerSettings.Builder builder = AuthorizationServerSettings.builder()
                .tokenEndpoint(TOKEN)
                .tokenRevocationEndpoint(REVOKE)
                .tokenIntrospectionEndpoint(INTROSPECT)
                .jwkSetEndpoint(KEYS);
        this.settings = (issuer == null ? builder : builder.issuer(issuer)).build();
    }

    /** All of them behind one filter. */
    public Filter filter() {
        ProviderManager manager = new ProviderManager(
                clientSecrets(),
                new OAuth2ClientCredentialsAuthenticationProvider(given, generator()),
                new OAuth2TokenRevocationAuthenticationProvider(given),
                new OAuth2TokenIntrospectionAuthenticationProvider(applications, given));
        PathPatternRequestMatcher.Builder path = PathPatternRequestMatcher.withDefaults();
        OAuth2ClientAuthenticationFilter clients = new OAuth2ClientAuthenticationFilter(
                manager,
                new OrRequestMatcher(
                        path.matcher(HttpMethod.POST, TOKEN),
                        path.matcher(HttpMethod.POST, REVOKE),
                        path.matcher(HttpMethod.POST, INTROSPECT)));
        WrongClient wrong = new WrongClient();
        clients.setAuthenticationFailureHandler(wrong);
        return new FilterChainProxy(new DefaultSecurityFilterChain(
                AnyRequestMatcher.INSTANCE,
                new Around(),
                new ServerMetadata(),
                new NimbusJwkSetEndpointFilter(
                        (selector, context) ->
                                selector.select(new JWKSet(access.now().keys().published())),
                        KEYS),
                clients,
                new Shown(wrong),
                new OAuth2TokenEndpointFilter(manager, TOKEN),
                new OAuth2TokenIntrospectionEndpointFilter(manager, INTROSPECT),
                new OAuth2TokenRevocationEndpointFilter(manager, REVOKE)));
    }

    /** An application's secret is any of its keys that is valid. */
    private ClientSecretAuthenticationProvider clientSecrets() {
        ClientSecretAuthenticationProvider provider = new ClientSecretAuthenticationProvider(applications, given);
        provider.setPasswordEncoder(new PasswordEncoder() {
            @Override
            public String encode(@Nullable CharSequence key) {
                throw new UnsupportedOperationException("keys are made with the management API");
            }

            @Override
            public boolean matches(@Nullable CharSequence key, @Nullable String client) {
                return key != null && client != null && credentials.isKeyOf(client, key.toString());
            }
        });
        return provider;
    }

    private JwtGenerator generator() {
        JwtGenerator generator = new JwtGenerator(new NimbusJwtEncoder((selector, context) ->
                selector.select(new JWKSet(access.now().keys().current(clock.instant())))));
        generator.setJwtCustomizer(TokenEndpoints::complete);
        generator.setClock(clock);
        return generator;
    }

    /** What RFC 9068 asks of an access token beyond what every token has. */
    private static void complete(JwtEncodingContext context) {
        context.getJwsHeader().algorithm(SignatureAlgorithm.ES256).type(AccessTokens.TYPE);
        context.getClaims().claims(claims -> {
            claims.put("aud", List.of(AccessTokens.AUDIENCE));
            claims.put("client_id", context.getRegisteredClient().getClientId());
            claims.remove("scope");
            if (!context.getAuthorizedScopes().isEmpty()) {
                claims.put("scope", String.join(" ", context.getAuthorizedScopes()));
            }
            claims.put(AccessTokens.CREDENTIAL, credential(context.getPrincipal()));
        });
    }

    /** The part of the key that is no secret. */
    private static String credential(@Nullable Authentication client) {
        Object key = client == null ? null : client.getCredentials();
        String id = key == null ? null : Credentials.idOf(key.toString());
        if (id == null) {
            throw new IllegalStateException("whoever gets a token has shown a key");
        }
        return id;
    }

    /** Says what the service is called, and that no answer may be kept, but for keys. */
    private final class Around extends OncePerRequestFilter {

        @Override
        protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
                throws IOException, ServletException {
            boolean keys = request.getRequestURI().equals(KEYS);
            response.setHeader("Cache-Control", keys ? "max-age=300" : "no-store");
            AuthorizationServerContextHolder.setContext(new Context(issuer(request), settings));
            try {
                chain.doFilter(request, response);
            } finally {
                AuthorizationServerContextHolder.resetContext();
            }
        }

        private String issuer(HttpServletRequest request) {
            String said = settings.getIssuer();
            String url = request.getRequestURL().toString();
            return said != null
                    ? said
                    : url.substring(0, url.length() - request.getRequestURI().length());
        }
    }

    /** Lets nobody pass who has shown nothing. */
    private static final class Shown extends OncePerRequestFilter {
        private final WrongClient wrong;

        Shown(WrongClient wrong) {
            this.wrong = wrong;
        }

        @Override
        protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
                throws IOException, ServletException {
            if (SecurityContextHolder.getContext().getAuthentication() == null
                    && request.getMethod().equals("POST")) {
                wrong.answer(response, OAuth2ErrorCodes.INVALID_CLIENT);
            } else {
                chain.doFilter(request, response);
            }
        }
    }

    private record Context(String issuer, AuthorizationServerSettings settings) implements AuthorizationServerContext {
        @Override
        public String getIssuer() {
            return issuer;
        }

        @Override
        public AuthorizationServerSettings getAuthorizationServerSettings() {
            return settings;
        }
    }
}
