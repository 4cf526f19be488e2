package tidybridge.engine;

import java.time.Duration;

/**
 * How a source is reached in this environment. Never prints its secret.
 *
 * @param name as modules call it
 * @param secret the password
 * @param tls true to require transport security with a verified certificate
 * @param connections the most that are open at a time
 * @param patience the longest a call waits for a free connection
 */
public record SourceSettings(
        String name,
        String host,
        int port,
        String schema,
        String user,
        String secret,
        boolean tls,
        int connections,
        Duration patience) {

    /** Connections in a pool when nothing else is said. */
    public static final int DEFAULT_CONNECTIONS = 10;

    /** Short enough that a caller of a database that is gone is told within a second. */
    public static final Duration DEFAULT_PATIENCE = Duration.ofMillis(800);

    @Override
    public String toString() {
        return name + " (" + user + " at " + host + ":" + port + "/" + schema + ")";
    }
}
