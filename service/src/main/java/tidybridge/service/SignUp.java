package tidybridge.service;

import java.util.Locale;

/** How client teams come to be. */
public enum SignUp {
    /** Whoever gives access invites them. */
    BY_INVITATION,
    /** They may ask, too. */
    ON_REQUEST;

    /** The word for it in settings. */
    public String label() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
}
