package tidybridge.service.gateway;

/** Statuses (RFC 9110) that answers take by themselves. */
final class HttpStatuses {

    static final int NO_CONTENT = 204;
    static final int NOT_MODIFIED = 304;

    private HttpStatuses() {}
}
