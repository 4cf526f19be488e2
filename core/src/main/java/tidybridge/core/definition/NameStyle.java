package tidybridge.core.definition;

/** How columns' names become fields' names where no rule says otherwise. */
public enum NameStyle {
    AS_WRITTEN,
    /** {@code nightly_rate} as {@code nightlyRate}. */
    CAMEL_CASE
}
