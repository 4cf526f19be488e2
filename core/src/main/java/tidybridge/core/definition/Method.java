package tidybridge.core.definition;

/** The HTTP methods an operation can be written for. HEAD and OPTIONS are answered by the gateway itself. */
public enum Method {
    GET,
    /** Takes a body, for inputs that do not fit an address. */
    POST;

    /** True when a request may carry a body. */
    public boolean takesBody() {
        return switch (this) {
            case GET -> false;
            case POST -> true;
        };
    }
}
