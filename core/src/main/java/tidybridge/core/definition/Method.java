package tidybridge.core.definition;

/** The HTTP methods an operation can be written for. HEAD and OPTIONS are answered by the gateway itself. */
public enum Method {
    GET,
    POST,
    /** Puts a whole representation in the place of what is there (RFC 9110). */
    PUT,
    /** Changes what its body names and nothing else (RFC 7396). */
    PATCH,
    DELETE;

    /** True when a request may carry a body. */
    public boolean takesBody() {
        return switch (this) {
            case GET, DELETE -> false;
            case POST, PUT, PATCH -> true;
        };
    }

    /** True when a request changes nothing (RFC 9110, safe methods). */
    public boolean isSafe() {
        return this == GET;
    }
}
