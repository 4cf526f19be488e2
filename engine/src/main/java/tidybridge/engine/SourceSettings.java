package tidybridge.engine;

import java.nio.file.Path;
import java.time.Duration;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.SourceKind;
import tidybridge.core.definition.Transport;

/**
 * How a source is reached in this environment. Never prints its secret.
 *
 * @param name as modules call it
 * @param kind which database it is
 * @param about what it holds, empty for nothing said
 * @param secret the password
 * @param certificate what signed the server's certificate; null for the authorities this machine trusts
 * @param readOnly true for sessions that refuse every change
 * @param connections the most that are open at a time
 * @param patience the longest a call waits for a free connection
 * @param timeout the longest any statement runs, but for those that answer all rows of a collection
 * @param allTimeout the longest those run
 */
public record SourceSettings(
        String name,
        SourceKind kind,
        String about,
        String host,
        int port,
        String schema,
        String user,
        String secret,
        Transport transport,
        @Nullable Path certificate,
        boolean readOnly,
        int connections,
        Duration patience,
        Duration timeout,
        Duration allTimeout) {

    /** Where it is, and as whom it is entered. */
    public String address() {
        return user + " at " + host + ":" + port + "/" + schema;
    }

    @Override
    public String toString() {
        return name + " (" + address() + ")";
    }
}
