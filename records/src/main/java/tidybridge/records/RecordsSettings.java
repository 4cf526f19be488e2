package tidybridge.records;

/**
 * Where the record schema lies. Never prints its password.
 *
 * @param tls true to require transport security with a verified certificate
 */
public record RecordsSettings(String host, int port, String schema, String user, String password, boolean tls) {

    @Override
    public String toString() {
        return user + " at " + host + ":" + port + "/" + schema;
    }
}
