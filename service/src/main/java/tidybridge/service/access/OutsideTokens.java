package tidybridge.service.access;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import com.nimbusds.jose.JOSEException;
import com.nimbusds.jose.JWSAlgorithm;
import com.nimbusds.jose.jwk.source.JWKSourceBuilder;
import com.nimbusds.jose.proc.BadJOSEException;
import com.nimbusds.jose.proc.JWSVerificationKeySelector;
import com.nimbusds.jose.proc.SecurityContext;
import com.nimbusds.jose.util.DefaultResourceRetriever;
import com.nimbusds.jwt.JWTClaimsSet;
import com.nimbusds.jwt.SignedJWT;
import com.nimbusds.jwt.proc.DefaultJWTClaimsVerifier;
import com.nimbusds.jwt.proc.DefaultJWTProcessor;
import java.net.MalformedURLException;
import java.text.ParseException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.Date;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.AddressList;

/**
 * Reads the tokens of trusted issuers outside: signed by one of the keys that the issuer publishes, for this service, not ended. A claim
 * says what roles their callers have. The signature of a token is checked once and remembered, for a bounded number of tokens. An issuer's
 * keys are fetched when one is not known, some times a minute at most, and kept while the issuer is away. Thread-safe.
 */
public final class OutsideTokens {

    private static final int MILLIS = 2_000;
    private static final int MOST_BYTES = 256 * 1024;
    private static final int MOST_REMEMBERED = 5_000;
    private static final int LONGEST_NAME = 120;
    private static final int MOST_CLAIMS = 50;
    private static final Duration REMEMBERED = Duration.ofMinutes(10);
    private static final long KEPT_MILLIS = Duration.ofHours(4).toMillis();
    private static final Set<JWSAlgorithm> ALGORITHMS =
            Set.of(JWSAlgorithm.RS256, JWSAlgorithm.RS384, JWSAlgorithm.PS256, JWSAlgorithm.ES256, JWSAlgorithm.ES384);

    private final Map<String, Known> byIssuer = new HashMap<>();
    private final LiveAccess access;
    private final Clock clock;
    private final Cache<String, Token> verified = Caffeine.newBuilder()
            .maximumSize(MOST_REMEMBERED)
            .expireAfterWrite(REMEMBERED)
            .build();

    private record Known(TrustedIssuer settings, DefaultJWTProcessor<SecurityContext> processor) {}

    /** A token with a good signature: who calls, what its claim says of roles, and what it says besides. */
    private record Token(String name, List<String> roles, Map<String, String> claims, Instant endsAt) {}

    public OutsideTokens(List<TrustedIssuer> issuers, LiveAccess access, Clock clock) {
        this.access = access;
        this.clock = clock;
        issuers.forEach(issuer -> byIssuer.put(issuer.issuer(), new Known(issuer, processor(issuer))));
    }

    private static DefaultJWTProcessor<SecurityContext> processor(TrustedIssuer issuer) {
        try {
            DefaultJWTProcessor<SecurityContext> processor = new DefaultJWTProcessor<>();
            processor.setJWSTypeVerifier((type, context) -> {
                // an ID token is no access token, but issuers from before RFC 9068 call both JWT or nothing
            });
            processor.setJWSKeySelector(new JWSVerificationKeySelector<>(
                    ALGORITHMS,
                    JWKSourceBuilder.create(
                                    issuer.keys().toURL(), new DefaultResourceRetriever(MILLIS, MILLIS, MOST_BYTES))
                            .outageTolerant(KEPT_MILLIS)
                            .build()));
            processor.setJWTClaimsSetVerifier(new DefaultJWTClaimsVerifier<>(
                    issuer.audience(),
                    new JWTClaimsSet.Builder().issuer(issuer.issuer()).build(),
                    Set.of("exp", issuer.nameClaim())));
            return processor;
        } catch (MalformedURLException e) {
            throw new IllegalArgumentException("settings were checked before", e);
        }
    }

    /** Who calls with a token; null when it is not valid, for whatever reason, or of nobody who is trusted. */
    @Nullable
    Shown shown(String text) {
        if (byIssuer.isEmpty() || text.length() > AccessTokens.LONGEST) {
            return null;
        }
        Token token = verified.getIfPresent(text);
        if (token == null) {
            token = verify(text);
            if (token == null) {
                return null;
            }
            verified.put(text, token);
        }
        if (!clock.instant().isBefore(token.endsAt())) {
            return null;
        }
        AccessBook book = access.now();
        List<String> roles =
                token.roles().stream().filter(role -> book.role(role) != null).toList();
        Identity identity = new Identity(token.name(), token.name(), roles, book.holdings(roles), token.claims());
        return new Shown(
                identity, null, null, AddressList.EVERYWHERE, token.endsAt().toEpochMilli());
    }

    private @Nullable Token verify(String text) {
        try {
            SignedJWT jwt = SignedJWT.parse(text);
            Known known = byIssuer.get(String.valueOf(jwt.getJWTClaimsSet().getIssuer()));
            return known == null
                    ? null
                    : token(known.settings(), known.processor().process(jwt, null));
        } catch (ParseException | BadJOSEException | JOSEException | IllegalArgumentException e) {
            return null;
        }
    }

    private static @Nullable Token token(TrustedIssuer issuer, JWTClaimsSet claims) throws ParseException {
        String caller = claims.getStringClaim(issuer.nameClaim());
        Date ends = claims.getExpirationTime();
        if (caller == null || caller.isBlank() || caller.length() > LONGEST_NAME || ends == null) {
            return null;
        }
        List<String> roles = values(claims.getClaim(issuer.rolesClaim())).stream()
                .filter(issuer.roles()::containsKey)
                .map(value -> issuer.roles().getOrDefault(value, ""))
                .distinct()
                .toList();
        // a name of theirs is not one of ours
        return new Token(issuer.name() + ":" + caller, roles, texts(claims), ends.toInstant());
    }

    /** The claims that are single values, for statements that a text gives them to. */
    private static Map<String, String> texts(JWTClaimsSet claims) {
        Map<String, String> texts = new HashMap<>();
        claims.getClaims().forEach((name, value) -> {
            boolean single = value instanceof String || value instanceof Number || value instanceof Boolean;
            if (single && texts.size() < MOST_CLAIMS) {
                texts.put(name, String.valueOf(value));
            }
        });
        return texts;
    }

    private static List<String> values(@Nullable Object claim) {
        return switch (claim) {
            case Collection<?> several -> several.stream().map(String::valueOf).toList();
            case String words -> Arrays.asList(words.split(" "));
            case null, default -> List.of();
        };
    }
}
