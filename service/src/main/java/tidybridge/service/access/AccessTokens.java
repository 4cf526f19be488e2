package tidybridge.service.access;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import com.nimbusds.jose.JOSEException;
import com.nimbusds.jose.JOSEObjectType;
import com.nimbusds.jose.JWSAlgorithm;
import com.nimbusds.jose.crypto.ECDSAVerifier;
import com.nimbusds.jose.jwk.ECKey;
import com.nimbusds.jwt.JWTClaimsSet;
import com.nimbusds.jwt.SignedJWT;
import java.text.ParseException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Date;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Holdings;

/**
 * Reads the access tokens that this service gave out (RFC 9068): signed by one of its keys, for itself, not ended, not revoked, and got with a
 * credential that is valid still. The signature of a token is checked once; what it said is remembered, for a bounded number of tokens, and
 * everything that can change is asked again at each call. Thread-safe.
 */
public final class AccessTokens {

    /** What tokens are for. */
    public static final String AUDIENCE = "tidy-bridge";

    /** How long one is valid. */
    public static final Duration LIFE = Duration.ofMinutes(10);

    /** The longest that is looked at, in chars. */
    public static final int LONGEST = 4_000;

    /** The claim that names the credential it was got with, by the part of it that is no secret. */
    public static final String CREDENTIAL = "credential";

    /** The header's type (RFC 9068, 2.1). */
    public static final String TYPE = "at+jwt";

    private static final int MOST_REMEMBERED = 5_000;
    private static final Duration SKEW = Duration.ofSeconds(5);

    private final LiveAccess access;
    private final @Nullable String issuer;
    private final Clock clock;
    private final Cache<String, Token> verified = Caffeine.newBuilder()
            .maximumSize(MOST_REMEMBERED)
            .expireAfterWrite(LIFE)
            .build();

    /**
     * Prepares to read tokens.
     *
     * @param issuer who must have given them out; null for this service under any name
     */
    public AccessTokens(LiveAccess access, @Nullable String issuer, Clock clock) {
        this.access = access;
        this.issuer = issuer;
        this.clock = clock;
    }

    /**
     * What a token with a good signature says.
     *
     * @param scopes null for everything that the application may
     */
    public record Token(
            String id,
            String client,
            String credential,
            String issuer,
            Instant issuedAt,
            Instant endsAt,
            @Nullable List<String> scopes) {}

    /** Who calls with a token; null when it is not valid, for whatever reason. */
    @Nullable
    Shown shown(String text) {
        Token token = find(text);
        AccessBook book = access.now();
        AccessBook.Known credential = token == null ? null : book.find(token.credential());
        if (token == null || credential == null || !isValid(token, credential, book)) {
            return null;
        }
        Instant end = credential.endsAt().isBefore(token.endsAt()) ? credential.endsAt() : token.endsAt();
        return new Shown(
                narrowed(credential.identity(), token.scopes()),
                null,
                token.credential(),
                credential.addresses(),
                end.toEpochMilli());
    }

    /** Reads a token that may be valid now; null for every other. */
    public @Nullable Token read(String text) {
        Token token = find(text);
        AccessBook book = access.now();
        return token != null && isValid(token, book.find(token.credential()), book) ? token : null;
    }

    private boolean isValid(Token token, AccessBook.@Nullable Known credential, AccessBook book) {
        Instant now = clock.instant();
        return credential != null
                && token.client().equals(credential.identity().client())
                && now.isBefore(credential.endsAt())
                && now.isBefore(token.endsAt())
                && !book.isRevoked(token.id());
    }

    private static Identity narrowed(Identity whole, @Nullable List<String> scopes) {
        return scopes == null
                ? whole
                : new Identity(
                        whole.name(),
                        whole.client(),
                        whole.roles(),
                        Holdings.of(scopes.stream().filter(whole.holdings()).toList()));
    }

    /** What a token says that this service signed, whether or not it is valid still; null for every other. */
    @Nullable
    Token signed(String text) {
        return find(text);
    }

    private @Nullable Token find(String text) {
        if (text.length() > LONGEST) {
            return null;
        }
        Token known = verified.getIfPresent(text);
        if (known == null) {
            known = verify(text);
            if (known != null) {
                verified.put(text, known);
            }
        }
        return known;
    }

    /** The algorithm and the type are ours, whatever the header says. */
    private @Nullable Token verify(String text) {
        try {
            SignedJWT jwt = SignedJWT.parse(text);
            String id = jwt.getHeader().getKeyID();
            boolean ours = JWSAlgorithm.ES256.equals(jwt.getHeader().getAlgorithm())
                    && new JOSEObjectType(TYPE).equals(jwt.getHeader().getType())
                    && id != null;
            ECKey key = ours ? access.key(id) : null;
            return key != null && jwt.verify(new ECDSAVerifier(key.toPublicJWK()))
                    ? token(jwt.getJWTClaimsSet())
                    : null;
        } catch (ParseException | JOSEException | IllegalArgumentException e) {
            return null;
        }
    }

    private @Nullable Token token(JWTClaimsSet claims) throws ParseException {
        String client = claims.getStringClaim("client_id");
        String credential = claims.getStringClaim(CREDENTIAL);
        String scope = claims.getStringClaim("scope");
        Date begins = claims.getNotBeforeTime();
        Date ends = claims.getExpirationTime();
        Date issued = claims.getIssueTime();
        boolean whole = client != null
                && credential != null
                && claims.getJWTID() != null
                && claims.getIssuer() != null
                && ends != null
                && issued != null;
        if (!whole
                || !claims.getAudience().contains(AUDIENCE)
                || issuer != null && !issuer.equals(claims.getIssuer())
                || begins != null && begins.toInstant().isAfter(clock.instant().plus(SKEW))) {
            return null;
        }
        return new Token(
                claims.getJWTID(),
                client,
                credential,
                claims.getIssuer(),
                issued.toInstant(),
                ends.toInstant(),
                scope == null ? null : List.of(scope.split(" ")));
    }
}
