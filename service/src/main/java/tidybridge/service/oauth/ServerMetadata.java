package tidybridge.service.oauth;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.springframework.security.oauth2.server.authorization.context.AuthorizationServerContext;
import org.springframework.security.oauth2.server.authorization.context.AuthorizationServerContextHolder;
import org.springframework.security.oauth2.server.authorization.settings.AuthorizationServerSettings;
import org.springframework.web.filter.OncePerRequestFilter;
import tools.jackson.databind.json.JsonMapper;

/** Tells where tokens are got and looked at (RFC 8414). Nobody signs in here, so there is no word about that; the library's own has to say one. */
final class ServerMetadata extends OncePerRequestFilter {

    static final String PATH = "/.well-known/oauth-authorization-server";

    private static final List<String> METHODS = List.of("client_secret_basic", "client_secret_post");

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        if (!request.getMethod().equals("GET") || !request.getRequestURI().equals(PATH)) {
            chain.doFilter(request, response);
            return;
        }
        byte[] body = JsonMapper.shared()
                .writeValueAsBytes(metadata(Objects.requireNonNull(AuthorizationServerContextHolder.getContext())));
        response.setContentType("application/json");
        response.setContentLength(body.length);
        response.getOutputStream().write(body);
    }

    private static Map<String, Object> metadata(AuthorizationServerContext context) {
        AuthorizationServerSettings settings = context.getAuthorizationServerSettings();
        String issuer = context.getIssuer();
        Map<String, Object> metadata = new LinkedHashMap<>();
        metadata.put("issuer", issuer);
        metadata.put("token_endpoint", issuer + settings.getTokenEndpoint());
        metadata.put("revocation_endpoint", issuer + settings.getTokenRevocationEndpoint());
        metadata.put("introspection_endpoint", issuer + settings.getTokenIntrospectionEndpoint());
        metadata.put("jwks_uri", issuer + settings.getJwkSetEndpoint());
        metadata.put("grant_types_supported", List.of("client_credentials"));
        // it must be there; this one is for servers without an authorization endpoint
        metadata.put("response_types_supported", List.of("none"));
        for (String endpoint : List.of("token", "revocation", "introspection")) {
            metadata.put(endpoint + "_endpoint_auth_methods_supported", METHODS);
        }
        return metadata;
    }
}
