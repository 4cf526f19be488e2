package tidybridge.service;

import org.apache.catalina.connector.Connector;
import org.apache.coyote.http11.AbstractHttp11Protocol;
import tidybridge.service.capacity.PacedInput;

/** What the HTTP server itself allows every connection, as far as settings of Spring's do not say it. */
final class ServerBounds {

    /** A connection that is being read or answered holds about so much of the heap, in bytes. */
    private static final long BYTES_PER_CONNECTION = 256 * 1024;

    private static final int FEWEST_CONNECTIONS = 256;
    private static final int MOST_CONNECTIONS = 8 * 1024;

    /** Nobody uses them, and each byte of them may come as late as it likes. */
    private static final int LONGEST_CHUNK_EXTENSION = 64;

    private static final int LONGEST_TRAILER = 1024;

    private ServerBounds() {}

    static void apply(Connector connector) {
        connector.setEncodedReverseSolidusHandling("passthrough");
        connector.setEncodedSolidusHandling("passthrough");
        if (connector.getProtocolHandler() instanceof AbstractHttp11Protocol<?> http) {
            http.setMaxConnections(connections());
            http.setDisableUploadTimeout(false);
            http.setConnectionUploadTimeout((int) PacedInput.PATIENCE.toMillis());
            http.setMaxExtensionSize(LONGEST_CHUNK_EXTENSION);
            http.setMaxTrailerSize(LONGEST_TRAILER);
            // filters are written so by hand, length_m[gte]=12, and by many programs
            http.setRelaxedQueryChars("[]");
            // a body that will be refused is not asked for
            http.setContinueResponseTiming("onRead");
        }
    }

    private static int connections() {
        long fitting = Runtime.getRuntime().maxMemory() / BYTES_PER_CONNECTION;
        return (int) Math.clamp(fitting, FEWEST_CONNECTIONS, MOST_CONNECTIONS);
    }
}
