package tidybridge.core.definition;

/** Whether a caller must send something that the service understands. */
public enum Need {
    OPTIONAL,
    REQUIRED
}
