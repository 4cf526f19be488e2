package tidybridge.service.notice;

import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * A server that takes mail (RFC 6409).
 *
 * @param user null for a server that asks for none
 * @param password null likewise
 * @param from whom mail comes from
 */
public record MailSettings(
        String host,
        int port,
        Protection protection,
        @Nullable String user,
        @Nullable String password,
        String from) {

    /** How the connection is protected. */
    public enum Protection {
        /** By a command of the protocol before anything is said (RFC 3207). */
        STARTTLS,
        /** From its first byte (RFC 8314). */
        TLS,
        NONE
    }

    /** No secret is in it. */
    @Override
    public String toString() {
        return (user == null ? "" : user + "@") + host + ":" + port + ", "
                + protection.name().toLowerCase(Locale.ROOT) + ", from " + from;
    }
}
