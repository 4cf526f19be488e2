package tidybridge.service.access;

import org.jspecify.annotations.Nullable;
import tidybridge.core.access.AddressList;
import tidybridge.core.bind.Caller;
import tidybridge.records.Session;

/** What was found out of a value of {@code Authorization} that is valid: who shows it, and until when. Thread-safe. */
final class Shown {

    private final Identity identity;
    private final @Nullable Session session;
    private final @Nullable String secret;
    private final AddressList addresses;
    private final long endsAtMillis;
    private volatile long notedAtMillis;

    /**
     * Remembers it.
     *
     * @param session null without one
     * @param secret the id of what was shown, whose use is noted; null when it is not
     * @param addresses where it may be shown from
     */
    Shown(
            Identity identity,
            @Nullable Session session,
            @Nullable String secret,
            AddressList addresses,
            long endsAtMillis) {
        this.addresses = addresses;
        this.identity = identity;
        this.session = session;
        this.secret = secret;
        this.endsAtMillis = endsAtMillis;
    }

    boolean isAllowedFrom(String address) {
        return addresses.contains(address);
    }

    boolean isValid(long nowMillis) {
        return nowMillis < endsAtMillis;
    }

    /** Whoever shows it, from an address; that it was used is noted now and then. */
    Visitor from(String address, LiveAccess access, long nowMillis) {
        if (secret != null && nowMillis - notedAtMillis > LiveAccess.NOTE_EVERY_MILLIS) {
            notedAtMillis = nowMillis;
            access.used(secret, session != null);
        }
        Caller caller = identity.at(address);
        return new Visitor(caller, session, false);
    }
}
