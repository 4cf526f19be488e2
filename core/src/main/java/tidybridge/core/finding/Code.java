package tidybridge.core.finding;

import java.util.Locale;

/** Every kind of finding. The code people see is the name in lower case with hyphens, such as {@code unknown-key}. */
public enum Code {
    YAML_BROKEN(Severity.ERROR),
    WORKSPACE_MISSING(Severity.ERROR),
    NOTHING_DEFINED(Severity.ERROR),
    UNKNOWN_KEY(Severity.ERROR),
    KEY_MISSING(Severity.ERROR),
    VALUE_UNFIT(Severity.ERROR),
    MODULE_TWICE(Severity.ERROR),
    FOLDER_MISMATCH(Severity.WARNING),
    SOURCE_UNKNOWN(Severity.ERROR),
    ENVIRONMENT_UNKNOWN(Severity.ERROR),
    SECRET_WRITTEN(Severity.ERROR),
    FILE_MISSING(Severity.ERROR),
    FILE_OUTSIDE(Severity.ERROR),
    FILE_UNUSED(Severity.WARNING),
    ABOUT_MISSING(Severity.WARNING),
    ROUTE_BROKEN(Severity.ERROR),
    ROUTE_AMBIGUOUS(Severity.ERROR),
    ROUTE_RESERVED(Severity.ERROR),
    PLACEHOLDER_UNDEFINED(Severity.ERROR),
    PLACEHOLDER_UNUSED(Severity.ERROR),
    PARAMETER_UNUSED(Severity.ERROR),
    PARAMETER_RESERVED(Severity.ERROR),
    PARAMETER_TWICE(Severity.ERROR),
    PARAMETER_OPTIONAL_BOUND(Severity.WARNING),
    PARAMETERS_TOO_MANY(Severity.ERROR),
    CONSTRAINT_UNFIT(Severity.ERROR),
    BIND_UNDEFINED(Severity.ERROR),
    STATEMENT_EMPTY(Severity.ERROR),
    STATEMENT_BROKEN(Severity.ERROR),
    STATEMENTS_SEVERAL(Severity.ERROR),
    STATEMENT_KIND(Severity.ERROR),
    STATEMENT_REFUSED(Severity.ERROR),
    STATEMENT_ORDERED(Severity.WARNING),
    WHEN_UNKNOWN(Severity.ERROR),
    WHEN_REQUIRED(Severity.ERROR),
    ORDER_MISSING(Severity.ERROR),
    ORDER_UNKNOWN(Severity.ERROR),
    ORDER_NULLABLE(Severity.ERROR),
    ORDER_UNFIT(Severity.ERROR),
    FIELD_TWICE(Severity.ERROR),
    FIELD_UNNAMED(Severity.ERROR),
    ANSWER_UNFIT(Severity.ERROR);

    private final Severity severity;
    private final String label;

    Code(Severity severity) {
        this.severity = severity;
        this.label = name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    public Severity severity() {
        return severity;
    }

    /** The code as people read and search it. */
    public String label() {
        return label;
    }
}
