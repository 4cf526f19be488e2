package tidybridge.service.access;

import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.cert.X509Certificate;
import java.time.Clock;
import java.time.Instant;
import java.util.Base64;
import java.util.Enumeration;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.AddressList;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.Session;
import tidybridge.service.run.Refusal;

/**
 * Knows people and applications by what they show in {@code Authorization}: a key, an access token or a session's token as {@code Bearer} (RFC
 * 6750), or an application's name and a key as {@code Basic} (RFC 7617); applications by the certificate they show, if they show nothing else; and browsers by the cookie of a console session, on the service's own pages
 * only. Whatever is wrong with a credential, the answer is the same.
 */
public final class Credentials implements Gatekeeper {

    /** The cookie a browser carries. */
    public static final String COOKIE = "tidy_session";

    /** Where the server puts the certificates that a caller has shown. */
    private static final String CERTIFICATES = "jakarta.servlet.request.X509Certificate";

    static final String BEARER = "Bearer ";
    static final String BASIC = "Basic ";

    /** Longer ones are none of ours, in chars. */
    private static final int LONGEST = AccessTokens.LONGEST + BEARER.length();

    /** What an unknown secret is compared with, so that it takes as long as a known one. */
    private static final byte[] NOBODY = new byte[32];

    private final Administrator administrator;
    private final LiveAccess access;
    private final AccessTokens tokens;
    private final OutsideTokens outside;
    private final Clock clock;

    public Credentials(
            Administrator administrator, LiveAccess access, AccessTokens tokens, OutsideTokens outside, Clock clock) {
        this.tokens = tokens;
        this.outside = outside;
        this.administrator = administrator;
        this.access = access;
        this.clock = clock;
    }

    @Override
    public boolean isShown(HttpServletRequest request) {
        return request.getHeader("Authorization") != null || certificate(request) != null;
    }

    private static @Nullable X509Certificate certificate(HttpServletRequest request) {
        return request.isSecure()
                        && request.getAttribute(CERTIFICATES) instanceof X509Certificate[] chain
                        && chain.length > 0
                ? chain[0]
                : null;
    }

    @Override
    public Visitor identify(HttpServletRequest request) throws Refusal {
        String address = request.getRemoteAddr();
        Enumeration<String> fields = request.getHeaders("Authorization");
        if (!fields.hasMoreElements()) {
            Visitor visitor = byCookie(request, address);
            return visitor.caller().isKnown() ? visitor : byCertificate(request, visitor);
        }
        String field = fields.nextElement();
        Shown shown = fields.hasMoreElements() || field.length() > LONGEST ? null : shown(field);
        long now = clock.millis();
        if (shown == null || !shown.isValid(now)) {
            throw Refusal.because(
                    ProblemKind.SIGN_IN_NEEDED,
                    "The credential in 'Authorization' is not valid here; send another.",
                    fields.hasMoreElements() || field.length() > LONGEST
                            ? "Authorization came several times, or is longer than any credential of this service."
                            : new WrongCredential(access.now(), tokens, clock.instant()).reason(field, pair(field)));
        }
        return admitted(shown, address, now);
    }

    private Visitor admitted(Shown shown, String address, long now) throws Refusal {
        if (!shown.isAllowedFrom(address)) {
            throw new Refusal(
                    ProblemKind.NOT_ALLOWED,
                    "The application may not call from " + address + "; its owner can have the address added.");
        }
        return shown.from(address, access, now);
    }

    /** Whoever shows a certificate that the server found good (RFC 8446, 4.4.2); the one of the handshake may have ended since. */
    private Visitor byCertificate(HttpServletRequest request, Visitor stranger) throws Refusal {
        X509Certificate own = certificate(request);
        if (own == null) {
            return stranger;
        }
        long now = clock.millis();
        Shown shown = access.now().bySubject(Certificates.subjectOf(own.getSubjectX500Principal()));
        if (shown == null || now > own.getNotAfter().getTime()) {
            throw new Refusal(
                    ProblemKind.SIGN_IN_NEEDED,
                    "The certificate that was shown is known to no application here, or has ended; show another.");
        }
        return admitted(shown, stranger.caller().address(), now);
    }

    private @Nullable Shown shown(String field) {
        AccessBook book = access.now();
        Shown known = book.shown(field);
        if (known == null) {
            known = byField(field);
            if (known != null && access.now() == book) {
                book.remember(field, known);
            }
        }
        return known;
    }

    private @Nullable Shown byField(String field) {
        if (field.regionMatches(true, 0, BEARER, 0, BEARER.length())) {
            String token = field.substring(BEARER.length()).strip();
            if (token.indexOf('.') > 0) {
                Shown own = tokens.shown(token);
                return own == null ? outside.shown(token) : own;
            }
            return administrator.is(token)
                    ? new Shown(Identity.ADMINISTRATOR, null, null, AddressList.EVERYWHERE, Long.MAX_VALUE)
                    : byToken(token, null);
        }
        if (field.regionMatches(true, 0, BASIC, 0, BASIC.length())) {
            String pair = pair(field);
            if (pair == null || pair.indexOf(':') < 0) {
                return null;
            }
            int colon = pair.indexOf(':');
            return byToken(pair.substring(colon + 1), pair.substring(0, colon));
        }
        return null;
    }

    /** The name and the password of a Basic value, with a colon between them; null for what is none. */
    private static @Nullable String pair(String field) {
        return field.regionMatches(true, 0, BASIC, 0, BASIC.length())
                ? decoded(field.substring(BASIC.length()).strip())
                : null;
    }

    private static @Nullable String decoded(String base64) {
        try {
            return StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(Base64.getDecoder().decode(base64)))
                    .toString();
        } catch (IllegalArgumentException | CharacterCodingException e) {
            return null;
        }
    }

    /**
     * Checks a key without a request.
     *
     * @return true when it is one of this application's, and valid now
     */
    public boolean isKeyOf(String client, String key) {
        IssuedSecret secret = IssuedSecret.read(key);
        AccessBook.Known known = secret == null ? null : valid(secret);
        return known != null && client.equals(known.identity().client());
    }

    /** The part of a key that is no secret; null for what is no key. */
    public static @Nullable String idOf(String key) {
        IssuedSecret secret = IssuedSecret.read(key);
        return secret == null ? null : secret.id();
    }

    /**
     * Knows somebody by a secret that was given out.
     *
     * @param name the application it must belong to; null when nothing is said about that
     */
    private @Nullable Shown byToken(String token, @Nullable String name) {
        IssuedSecret secret = IssuedSecret.read(token);
        AccessBook.Known known = secret == null ? null : valid(secret);
        if (secret == null || known == null) {
            return null;
        }
        Session session = known.session();
        boolean fits = session == null
                ? name == null || name.equals(known.identity().client())
                : name == null && session.kind() == Session.Kind.COMMAND_LINE;
        return fits
                ? new Shown(known.identity(), session, secret.id(), known.addresses(), millis(known.endsAt()))
                : null;
    }

    private static long millis(Instant end) {
        return end.equals(Instant.MAX) ? Long.MAX_VALUE : end.toEpochMilli();
    }

    private AccessBook.@Nullable Known valid(IssuedSecret secret) {
        AccessBook.Known known = access.find(secret.id());
        byte[] sent = IssuedSecret.digest(secret.text());
        if (known == null) {
            MessageDigest.isEqual(sent, NOBODY);
            return null;
        }
        boolean ofKind = (known.session() == null) == (secret.kind() == IssuedSecret.Kind.KEY);
        return MessageDigest.isEqual(sent, known.hash())
                        && ofKind
                        && clock.instant().isBefore(known.endsAt())
                ? known
                : null;
    }

    private Visitor byCookie(HttpServletRequest request, String address) {
        IssuedSecret secret = IssuedSecret.read(cookie(request));
        AccessBook.Known known = secret == null ? null : valid(secret);
        Session session = known == null ? null : known.session();
        if (known == null || session == null || session.kind() != Session.Kind.CONSOLE) {
            return Visitor.stranger(address);
        }
        access.used(session.id(), true);
        return new Visitor(known.identity().at(address), session, true);
    }

    private static String cookie(HttpServletRequest request) {
        Cookie[] cookies = request.getCookies();
        if (cookies != null) {
            for (Cookie cookie : cookies) {
                if (cookie.getName().equals(COOKIE)) {
                    return cookie.getValue();
                }
            }
        }
        return "";
    }
}
