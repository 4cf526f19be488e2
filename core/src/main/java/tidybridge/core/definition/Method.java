package tidybridge.core.definition;

/** The HTTP methods an operation can be written for. HEAD and OPTIONS are answered by the gateway itself. */
public enum Method {
    GET
}
