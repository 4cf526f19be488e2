package tidybridge.service.access;

import java.security.MessageDigest;
import java.time.Instant;
import org.jspecify.annotations.Nullable;
import tidybridge.records.ClientApplication;

/**
 * Says what is wrong with a credential, for whoever runs the service: its caller is told nothing but that it is not valid. Nothing of what was
 * shown is said, only whose it was, once that is sure.
 */
final class WrongCredential {

    private static final String NOBODYS = "It is none that was given out here, or was revoked.";

    private final AccessBook book;
    private final AccessTokens tokens;
    private final Instant now;

    WrongCredential(AccessBook book, AccessTokens tokens, Instant now) {
        this.book = book;
        this.tokens = tokens;
        this.now = now;
    }

    /**
     * Why a value of {@code Authorization} is not valid.
     *
     * @param pair the name and the password that a Basic value holds, with a colon between them; null for none
     */
    String reason(String field, @Nullable String pair) {
        if (field.regionMatches(true, 0, Credentials.BEARER, 0, Credentials.BEARER.length())) {
            String token = field.substring(Credentials.BEARER.length()).strip();
            return token.indexOf('.') > 0 ? ofToken(token) : ofSecret(token, null);
        }
        if (field.regionMatches(true, 0, Credentials.BASIC, 0, Credentials.BASIC.length())) {
            int colon = pair == null ? -1 : pair.indexOf(':');
            return pair == null || colon < 0
                    ? "What follows Basic is no name and password in Base64."
                    : ofSecret(pair.substring(colon + 1), pair.substring(0, colon));
        }
        return "Authorization begins with neither Bearer nor Basic.";
    }

    private String ofToken(String text) {
        AccessTokens.Token token = tokens.signed(text);
        if (token == null) {
            return "The token was signed neither by this service for itself nor, as its settings ask, by an issuer it trusts; or that issuer's token has ended.";
        }
        String whose = "The token of '" + token.client() + "' ";
        if (!now.isBefore(token.endsAt())) {
            return whose + "ended at " + token.endsAt() + ".";
        }
        return book.isRevoked(token.id())
                ? whose + "was revoked."
                : whose + "ended with the key it was got with, which has ended, was revoked, or may not call.";
    }

    private String ofSecret(String text, @Nullable String name) {
        IssuedSecret secret = IssuedSecret.read(text);
        if (secret == null) {
            return "It has the form of no key of this service.";
        }
        for (ClientApplication client : book.clients()) {
            for (ClientApplication.Credential credential : client.credentials()) {
                if (credential.id().equals(secret.id())) {
                    return ofKey(secret, client, credential, name);
                }
            }
        }
        AccessBook.Known session = book.find(secret.id());
        if (session == null || !MessageDigest.isEqual(IssuedSecret.digest(text), session.hash())) {
            return NOBODYS;
        }
        return name == null
                ? "It is the session of a browser, which counts as a cookie only."
                : "It is a session's token, which counts as Bearer only.";
    }

    private String ofKey(
            IssuedSecret secret,
            ClientApplication client,
            ClientApplication.Credential credential,
            @Nullable String name) {
        if (!secret.hash().equals(credential.secretHash())) {
            return NOBODYS;
        }
        String which = "The key '" + credential.name() + "' of '" + client.name() + "' ";
        if (client.disabled()) {
            return "The application '" + client.name() + "' is turned off.";
        }
        if (credential.endsAt() != null && !now.isBefore(credential.endsAt())) {
            return which + "ended at " + credential.endsAt() + ".";
        }
        return name == null ? which + "is valid by now." : which + "came with the name of somebody else.";
    }
}
