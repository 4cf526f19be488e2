package tidybridge.records;

import java.time.Instant;

/**
 * A key that access tokens are signed with.
 *
 * @param jwk the pair as a JSON Web Key (RFC 7517), private part included
 */
public record SigningKey(String id, String jwk, Instant madeAt) {

    /** Nobody shall find it in a log. */
    @Override
    public String toString() {
        return "signing key " + id;
    }
}
