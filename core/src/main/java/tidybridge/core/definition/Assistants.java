package tidybridge.core.definition;

/** Whether an operation is a tool for assistants. Where the text says nothing, reads are and changes are not. */
public enum Assistants {
    OFFERED,
    WITHHELD
}
