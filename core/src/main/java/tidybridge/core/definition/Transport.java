package tidybridge.core.definition;

/** How the connection to a source is protected on its way. */
public enum Transport {
    /** TLS with a verified certificate. */
    VERIFIED,
    /** TLS without looking at the certificate: safe from listeners, not from somebody in between. */
    ENCRYPTED,
    /** No TLS; meant for a database on the same machine. */
    PLAIN
}
