package tidybridge.core.definition;

import java.time.Duration;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Place;

/**
 * A database as the workspace describes it; null where the text says nothing. An environment may say other things about the same
 * source, which {@link #over} lays on top.
 *
 * @param connections the most that are open at a time
 * @param patience the longest a call waits for a free connection, and for a new one to open
 * @param timeout the longest any statement runs, whatever its operation allows
 * @param allTimeout the same for statements that answer all rows of a collection
 * @param readOnly true for sessions that refuse every change
 * @param certificate a file with the certificate that signed the server's own, for {@link Transport#VERIFIED}
 */
public record SourceDefinition(
        String name,
        Place place,
        @Nullable SourceKind kind,
        @Nullable String about,
        @Nullable String host,
        @Nullable Integer port,
        @Nullable String schema,
        @Nullable String user,
        @Nullable SecretReference secret,
        @Nullable Integer connections,
        @Nullable Duration patience,
        @Nullable Duration timeout,
        @Nullable Duration allTimeout,
        @Nullable Boolean readOnly,
        @Nullable Transport transport,
        @Nullable String certificate) {

    /** Connections in a pool when nothing else is said. */
    public static final int DEFAULT_CONNECTIONS = 10;

    /** The most connections a pool may have. */
    public static final int MOST_CONNECTIONS = 1_000;

    /** Short enough that a caller of a database that is gone is told within a second. */
    public static final Duration DEFAULT_PATIENCE = Duration.ofMillis(700);

    /** How long all rows of a collection may take when nothing else is said. */
    public static final Duration DEFAULT_ALL_TIMEOUT = Duration.ofMinutes(10);

    public static final int DEFAULT_PORT = 3306;

    /** A source of which nothing is known but its name. */
    public static SourceDefinition named(String name, Place place) {
        return new SourceDefinition(
                name, place, null, null, null, null, null, null, null, null, null, null, null, null, null, null);
    }

    /** This definition with {@code below} filling what it leaves open. */
    public SourceDefinition over(SourceDefinition below) {
        return new SourceDefinition(
                name,
                place,
                either(kind, below.kind),
                either(about, below.about),
                either(host, below.host),
                either(port, below.port),
                either(schema, below.schema),
                either(user, below.user),
                either(secret, below.secret),
                either(connections, below.connections),
                either(patience, below.patience),
                either(timeout, below.timeout),
                either(allTimeout, below.allTimeout),
                either(readOnly, below.readOnly),
                either(transport, below.transport),
                either(certificate, below.certificate));
    }

    private static <T> @Nullable T either(@Nullable T first, @Nullable T second) {
        return first == null ? second : first;
    }
}
