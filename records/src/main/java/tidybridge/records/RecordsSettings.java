package tidybridge.records;

import org.jspecify.annotations.Nullable;

/**
 * Where the record schema lies. Never prints its passwords.
 *
 * @param tls true to require transport security with a verified certificate
 * @param owner who makes and changes the tables, so that the service's own user need not; null when that user does
 */
public record RecordsSettings(
        String host,
        int port,
        String schema,
        String user,
        String password,
        boolean tls,
        @Nullable Owner owner) {

    /** The user who owns the tables. */
    public record Owner(String user, String password) {

        @Override
        public String toString() {
            return user;
        }
    }

    /** One user for everything. */
    public RecordsSettings(String host, int port, String schema, String user, String password, boolean tls) {
        this(host, port, schema, user, password, tls, null);
    }

    @Override
    public String toString() {
        return user + " at " + host + ":" + port + "/" + schema;
    }
}
