package tidybridge.core.definition;

/** Where a secret lies; the text never holds the secret itself. */
public sealed interface SecretReference {

    /** An environment variable of the service. */
    record Variable(String name) implements SecretReference {}

    /** A file on the service's machine, relative to the folder the reference stands in; its content, without white space at its ends. */
    record File(String path) implements SecretReference {}
}
