package tidybridge.core.definition;

/** Where a parameter comes from: OpenAPI's words, and two for what the service itself knows about a request. */
public enum In {
    PATH,
    QUERY,
    HEADER,
    COOKIE,
    /** A part of a JSON body, found by a JSON Pointer (RFC 6901), or the whole of it. */
    BODY,
    /** A field of a form body. */
    FORM,
    /** Who calls: name, client, roles, address. */
    CALLER,
    /** The request itself: id, time. */
    REQUEST;

    /** True for what callers send and the reference describes. */
    public boolean sent() {
        return switch (this) {
            case PATH, QUERY, HEADER, COOKIE, BODY, FORM -> true;
            case CALLER, REQUEST -> false;
        };
    }
}
