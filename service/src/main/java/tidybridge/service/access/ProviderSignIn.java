package tidybridge.service.access;

import com.nimbusds.jose.JOSEException;
import com.nimbusds.jose.JWSAlgorithm;
import com.nimbusds.jose.jwk.source.JWKSource;
import com.nimbusds.jose.jwk.source.JWKSourceBuilder;
import com.nimbusds.jose.proc.BadJOSEException;
import com.nimbusds.jose.proc.JWSVerificationKeySelector;
import com.nimbusds.jose.proc.SecurityContext;
import com.nimbusds.jose.util.DefaultResourceRetriever;
import com.nimbusds.jwt.JWT;
import com.nimbusds.oauth2.sdk.AuthorizationCode;
import com.nimbusds.oauth2.sdk.AuthorizationCodeGrant;
import com.nimbusds.oauth2.sdk.GeneralException;
import com.nimbusds.oauth2.sdk.ParseException;
import com.nimbusds.oauth2.sdk.ResponseType;
import com.nimbusds.oauth2.sdk.Scope;
import com.nimbusds.oauth2.sdk.TokenRequest;
import com.nimbusds.oauth2.sdk.TokenResponse;
import com.nimbusds.oauth2.sdk.auth.ClientSecretBasic;
import com.nimbusds.oauth2.sdk.auth.Secret;
import com.nimbusds.oauth2.sdk.http.HTTPRequest;
import com.nimbusds.oauth2.sdk.id.ClientID;
import com.nimbusds.oauth2.sdk.id.Issuer;
import com.nimbusds.oauth2.sdk.id.State;
import com.nimbusds.oauth2.sdk.pkce.CodeChallengeMethod;
import com.nimbusds.oauth2.sdk.pkce.CodeVerifier;
import com.nimbusds.openid.connect.sdk.AuthenticationRequest;
import com.nimbusds.openid.connect.sdk.Nonce;
import com.nimbusds.openid.connect.sdk.OIDCTokenResponse;
import com.nimbusds.openid.connect.sdk.OIDCTokenResponseParser;
import com.nimbusds.openid.connect.sdk.claims.IDTokenClaimsSet;
import com.nimbusds.openid.connect.sdk.op.OIDCProviderMetadata;
import com.nimbusds.openid.connect.sdk.validators.IDTokenValidator;
import java.io.IOException;
import java.net.URI;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.Semaphore;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.AuditEntry;
import tidybridge.records.Person;
import tidybridge.service.capacity.LineLimit;
import tidybridge.service.run.Refusal;

/**
 * Signs people in with an outside provider: authorization code with PKCE (OpenID Connect Core 1.0, RFC 7636). Each sign-in gives a person
 * exactly the roles that the provider's groups say. What belongs to a sign-in under way travels in a signed cookie, so that any node can
 * end it. Thread-safe.
 */
public final class ProviderSignIn {

    /** How long somebody may take at the provider. */
    public static final Duration PATIENCE = Duration.ofMinutes(10);

    private static final Logger LOG = LoggerFactory.getLogger(ProviderSignIn.class);
    private static final LineLimit LINES = new LineLimit(20, Duration.ofSeconds(10));
    private static final int MILLIS = 3_000;
    private static final int MOST_BYTES = 256 * 1024;
    private static final Set<JWSAlgorithm> ALGORITHMS =
            Set.of(JWSAlgorithm.RS256, JWSAlgorithm.PS256, JWSAlgorithm.ES256, JWSAlgorithm.ES384);
    private static final int PARTS = 4;

    /** Anybody can begin a sign-in, and the provider may be slow. */
    private static final int MOST_AT_ONCE = 8;

    private final ProviderSettings settings;
    private final LiveAccess access;
    private final SignIns signIns;
    private final Clock clock;
    private final Semaphore turns = new Semaphore(MOST_AT_ONCE);
    private volatile @Nullable Known known;

    /** What the provider says of itself. */
    private record Known(OIDCProviderMetadata metadata, IDTokenValidator validator) {}

    public ProviderSignIn(ProviderSettings settings, LiveAccess access, SignIns signIns, Clock clock) {
        this.settings = settings;
        this.access = access;
        this.signIns = signIns;
        this.clock = clock;
    }

    /** What the console calls the provider. */
    public String name() {
        return settings.name();
    }

    /** Where to send a browser, and what it must bring back. */
    public record Begun(URI address, String cookie) {}

    /**
     * Begins a sign-in.
     *
     * @param back where the provider shall send the browser
     */
    public Begun begin(URI back) throws Refusal {
        State state = new State();
        Nonce nonce = new Nonce();
        CodeVerifier verifier = new CodeVerifier();
        URI address = new AuthenticationRequest.Builder(
                        new ResponseType(ResponseType.Value.CODE),
                        new Scope("openid", "profile", settings.groupsClaim()),
                        new ClientID(settings.client()),
                        back)
                .endpointURI(provider().metadata().getAuthorizationEndpointURI())
                .state(state)
                .nonce(nonce)
                .codeChallenge(verifier, CodeChallengeMethod.S256)
                .build()
                .toURI();
        String kept = String.join(
                ".",
                state.getValue(),
                nonce.getValue(),
                verifier.getValue(),
                String.valueOf(clock.instant().plus(PATIENCE).getEpochSecond()));
        return new Begun(address, kept + "." + signIns.signed("provider " + kept));
    }

    /**
     * Ends a sign-in.
     *
     * @param code what the provider sent; null when it refused
     * @param state what the provider sent back
     * @param cookie what the browser kept since it began; null when it kept nothing
     * @param back the address that was told at the beginning
     */
    public SignIns.Opened finish(
            @Nullable String code, @Nullable String state, @Nullable String cookie, URI back, String address)
            throws Refusal {
        String[] kept = kept(cookie);
        if (code == null || state == null || kept == null || !kept[0].equals(state)) {
            throw new Refusal(
                    ProblemKind.SIGN_IN_NEEDED,
                    "The sign-in was not finished, or took too long; begin again at /sign-in.");
        }
        IDTokenClaimsSet claims = claims(code, kept[1], kept[2], back);
        Person person = person(claims);
        Person before = access.now().person(person.name());
        String was = States.of(before);
        String is = States.of(person);
        if (before == null || !Objects.equals(is, was)) {
            AuditEntry entry = new AuditEntry(
                            clock.instant(),
                            person.name(),
                            address,
                            "set-person",
                            person.name(),
                            "roles " + person.roles() + " from " + settings)
                    .changing(was, is);
            access.change(records -> records.put(person, entry));
        }
        return signIns.opened(person.name(), address);
    }

    private String @Nullable [] kept(@Nullable String cookie) {
        int last = cookie == null ? -1 : cookie.lastIndexOf('.');
        if (cookie == null || last < 0) {
            return null;
        }
        String said = cookie.substring(0, last);
        String[] parts = said.split("\\.");
        boolean good = signIns.isSigned("provider " + said, cookie.substring(last + 1)) && parts.length == PARTS;
        return good && clock.instant().getEpochSecond() < Long.parseLong(parts[PARTS - 1]) ? parts : null;
    }

    private IDTokenClaimsSet claims(String code, String nonce, String verifier, URI back) throws Refusal {
        if (!turns.tryAcquire()) {
            throw new Refusal(ProblemKind.BUSY, "Many are signing in at once; try again in a moment.");
        }
        try {
            return asked(code, nonce, verifier, back);
        } finally {
            turns.release();
        }
    }

    private IDTokenClaimsSet asked(String code, String nonce, String verifier, URI back) throws Refusal {
        try {
            Known provider = provider();
            HTTPRequest request = new TokenRequest.Builder(
                            provider.metadata().getTokenEndpointURI(),
                            new ClientSecretBasic(new ClientID(settings.client()), new Secret(settings.secret())),
                            new AuthorizationCodeGrant(new AuthorizationCode(code), back, new CodeVerifier(verifier)))
                    .build()
                    .toHTTPRequest();
            request.setConnectTimeout(MILLIS);
            request.setReadTimeout(MILLIS);
            TokenResponse response = OIDCTokenResponseParser.parse(request.send());
            if (!response.indicatesSuccess() || !(response.toSuccessResponse() instanceof OIDCTokenResponse success)) {
                throw refused("the code is not valid");
            }
            JWT token = success.getOIDCTokens().getIDToken();
            return provider.validator().validate(token, new Nonce(nonce));
        } catch (IOException e) {
            throw away(e);
        } catch (ParseException | BadJOSEException | JOSEException | IllegalArgumentException e) {
            throw refused(String.valueOf(e.getMessage()));
        }
    }

    private Refusal refused(String why) {
        warn("A sign-in was refused: " + why);
        return new Refusal(
                ProblemKind.SIGN_IN_NEEDED,
                settings.name()
                        + " did not say who you are; begin again at /sign-in. The service's log tells its owner why.");
    }

    /** Anybody can begin a sign-in, so the lines are bounded. */
    private void warn(String sentence) {
        if (LINES.ask(System.nanoTime()) != LineLimit.NONE) {
            LOG.warn("{}: {}", settings, sentence);
        }
    }

    private Refusal away(Exception e) {
        warn("The provider does not answer: " + e.getMessage());
        return new Refusal(
                ProblemKind.BUSY,
                settings.name() + " does not answer; try again in a moment, or sign in with a password.");
    }

    private Person person(IDTokenClaimsSet claims) throws Refusal {
        String issuer = settings.issuer().toString();
        String subject = claims.getSubject().getValue();
        String said = claims.getStringClaim(settings.nameClaim());
        String name = said == null ? "" : said.toLowerCase(Locale.ROOT);
        if (!AccessChanges.isPersonsName(name)) {
            throw refused("the claim '" + settings.nameClaim() + "' holds no name that is taken here");
        }
        Person there = access.now().person(name);
        if (there != null && !(issuer.equals(there.provider()) && subject.equals(there.subject()))) {
            throw new Refusal(
                    ProblemKind.CONFLICT,
                    "The name '" + name
                            + "' is somebody else's here; ask an administrator to rename or remove that person.");
        }
        if (there != null && there.disabled()) {
            throw new Refusal(ProblemKind.SIGN_IN_NEEDED, "You may not sign in here; ask an administrator.");
        }
        String full = claims.getStringClaim("name");
        return new Person(
                name,
                full == null || full.isBlank() ? name : full.strip(),
                null,
                null,
                0,
                false,
                clock.instant(),
                issuer,
                subject,
                null,
                roles(claims));
    }

    private List<String> roles(IDTokenClaimsSet claims) {
        List<String> groups = claims.getStringListClaim(settings.groupsClaim());
        return groups == null
                ? List.of()
                : groups.stream()
                        .map(settings.groups()::get)
                        .filter(role -> role != null && access.now().role(role) != null)
                        .distinct()
                        .sorted()
                        .toList();
    }

    /** Asked once, when somebody first signs in. */
    private Known provider() throws Refusal {
        Known there = known;
        if (there != null) {
            return there;
        }
        try {
            OIDCProviderMetadata metadata = OIDCProviderMetadata.resolve(new Issuer(settings.issuer()), MILLIS, MILLIS);
            JWKSource<SecurityContext> keys = JWKSourceBuilder.create(
                            metadata.getJWKSetURI().toURL(), new DefaultResourceRetriever(MILLIS, MILLIS, MOST_BYTES))
                    .retrying(true)
                    .build();
            IDTokenValidator validator = new IDTokenValidator(
                    metadata.getIssuer(),
                    new ClientID(settings.client()),
                    new JWSVerificationKeySelector<>(ALGORITHMS, keys),
                    null);
            there = new Known(metadata, validator);
            known = there;
            return there;
        } catch (IOException | GeneralException e) {
            throw away(e);
        }
    }
}
