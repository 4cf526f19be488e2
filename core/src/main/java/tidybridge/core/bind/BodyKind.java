package tidybridge.core.bind;

/** The kind of body an operation reads. */
public enum BodyKind {
    NONE(""),
    JSON("application/json"),
    FORM("application/x-www-form-urlencoded");

    private final String mediaType;

    BodyKind(String mediaType) {
        this.mediaType = mediaType;
    }

    /** What a request must say in {@code Content-Type}; empty for no body. */
    public String mediaType() {
        return mediaType;
    }
}
