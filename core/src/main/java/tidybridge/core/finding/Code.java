package tidybridge.core.finding;

import java.util.Locale;
import java.util.Optional;

/** Every kind of finding. Its {@link #label()} never changes: people write and search it, as in {@code unknown-key}. */
public enum Code {
    YAML_BROKEN(Severity.ERROR),
    WORKSPACE_MISSING(Severity.ERROR),
    NOTHING_DEFINED(Severity.ERROR),
    UNKNOWN_KEY(Severity.ERROR),
    KEY_MISSING(Severity.ERROR),
    VALUE_UNFIT(Severity.ERROR),
    ACCEPTANCE_UNFIT(Severity.ERROR),
    ACCEPTANCE_IDLE(Severity.ADVICE),

    SOURCE_UNKNOWN(Severity.ERROR),
    ENVIRONMENT_UNKNOWN(Severity.ERROR),
    SECRET_WRITTEN(Severity.ERROR),

    MODULE_TWICE(Severity.ERROR),
    FOLDER_MISMATCH(Severity.WARNING),
    FILE_MISSING(Severity.ERROR),
    FILE_OUTSIDE(Severity.ERROR),
    FILE_UNUSED(Severity.WARNING),
    ABOUT_MISSING(Severity.WARNING),
    EXAMPLE_MISSING(Severity.ADVICE),
    ACCESS_UNSAID(Severity.WARNING),
    OPEN_TO_EVERYBODY(Severity.WARNING),
    CHANGE_OPEN(Severity.WARNING),
    SIBLING_OPEN(Severity.WARNING),
    PRIVILEGE_UNHELD(Severity.WARNING),
    DEPRECATED_UNDATED(Severity.WARNING),
    SUCCESSOR_UNKNOWN(Severity.ERROR),

    ROUTE_BROKEN(Severity.ERROR),
    ROUTE_AMBIGUOUS(Severity.ERROR),
    ROUTE_RESERVED(Severity.ERROR),
    ROUTES_TOO_MANY(Severity.ERROR),

    PLACEHOLDER_UNDEFINED(Severity.ERROR),
    PLACEHOLDER_UNUSED(Severity.ERROR),
    PARAMETER_UNUSED(Severity.ERROR),
    PARAMETER_RESERVED(Severity.ERROR),
    PARAMETER_TWICE(Severity.ERROR),
    PARAMETER_OPTIONAL_BOUND(Severity.WARNING),
    PARAMETERS_TOO_MANY(Severity.ERROR),
    CONSTRAINT_UNFIT(Severity.ERROR),
    PATTERN_COSTLY(Severity.WARNING),
    BODY_UNEXPECTED(Severity.ERROR),
    BODY_MIXED(Severity.ERROR),
    LIST_OUTSIDE_IN(Severity.WARNING),

    BIND_UNDEFINED(Severity.ERROR),
    TYPE_MISMATCH(Severity.WARNING),
    LENGTH_BEYOND_COLUMN(Severity.ADVICE),
    ENUM_BEYOND_COLUMN(Severity.WARNING),

    STATEMENT_EMPTY(Severity.ERROR),
    STATEMENT_BROKEN(Severity.ERROR),
    STATEMENTS_SEVERAL(Severity.ERROR),
    STATEMENT_KIND(Severity.ERROR),
    STATEMENT_REFUSED(Severity.ERROR),
    STATEMENT_ORDERED(Severity.WARNING),
    STATEMENT_LIMITED(Severity.WARNING),
    CHANGE_WITHOUT_WHERE(Severity.WARNING),
    SELECT_STAR(Severity.WARNING),
    OPTIONAL_BY_NULL(Severity.WARNING),
    LIKE_UNANCHORED(Severity.ADVICE),
    LOCKING_READ(Severity.WARNING),
    SESSION_VARIABLE(Severity.WARNING),
    STEP_UNKNOWN(Severity.ERROR),
    STEP_FIELD_UNKNOWN(Severity.ERROR),
    FLAG_HOLDS_NUMBER(Severity.WARNING),
    PARAMETER_OPTIONAL_WRITTEN(Severity.WARNING),
    OPERATION_ID_TWICE(Severity.ERROR),
    OPERATION_RENAMED(Severity.WARNING),
    ROUTINE_UNFIT(Severity.ERROR),
    ROUTINE_ENDS_TRANSACTION(Severity.WARNING),
    RESULT_UNNAMED(Severity.WARNING),
    SOURCE_READ_ONLY(Severity.ERROR),
    CHANGE_UNFIT(Severity.ERROR),
    CHANGE_NOT_UNDONE(Severity.WARNING),
    PRIVILEGE_MISSING(Severity.WARNING),
    PATCH_DEFAULT(Severity.WARNING),
    REPLY_UNKNOWN(Severity.ERROR),
    WHEN_UNKNOWN(Severity.ERROR),
    WHEN_REQUIRED(Severity.ERROR),

    ORDER_MISSING(Severity.ERROR),
    FILTER_UNKNOWN(Severity.ERROR),
    FILTER_UNFIT(Severity.ERROR),
    FILTER_LEAKS(Severity.ERROR),
    FILTER_CLASHES(Severity.ERROR),
    FILTER_UNSERVED(Severity.WARNING),

    SEARCH_UNFIT(Severity.ERROR),

    SORT_UNKNOWN(Severity.ERROR),
    SORT_UNFIT(Severity.ERROR),
    SORT_LEAKS(Severity.ERROR),
    SORT_UNSERVED(Severity.WARNING),

    ORDER_UNKNOWN(Severity.ERROR),
    ORDER_UNFIT(Severity.ERROR),
    ORDER_NOT_TOTAL(Severity.WARNING),
    ORDER_WITHOUT_INDEX(Severity.WARNING),
    FILTER_WITHOUT_INDEX(Severity.WARNING),
    ROW_MANY(Severity.WARNING),
    RESULT_UNBOUNDED(Severity.WARNING),

    FIELD_TWICE(Severity.ERROR),
    FIELD_UNNAMED(Severity.ERROR),
    FIELD_UNKNOWN(Severity.ERROR),
    FIELD_CLASH(Severity.ERROR),
    FIELD_SENSITIVE(Severity.WARNING),
    MASK_UNFIT(Severity.ERROR),
    TEXT_UNFIT(Severity.WARNING),
    FILE_UNFIT(Severity.ERROR),
    ANSWER_UNFIT(Severity.ERROR),
    PROMISE_UNKEPT(Severity.ERROR),
    PROMISE_DOUBTFUL(Severity.WARNING);

    private final Severity severity;
    private final String label;

    Code(Severity severity) {
        this.severity = severity;
        this.label = name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** Finds a code by its label. */
    public static Optional<Code> labelled(String label) {
        for (Code code : values()) {
            if (code.label.equals(label)) {
                return Optional.of(code);
            }
        }
        return Optional.empty();
    }

    public Severity severity() {
        return severity;
    }

    /** The code as people read and search it. */
    public String label() {
        return label;
    }

    /** The page that explains it, on every service. */
    public String page() {
        return "/findings/" + label;
    }

    /** True for what is told by a list of what the source holds, which may be old, and not by asking the source itself. */
    public boolean comesFromContents() {
        return switch (this) {
            case TYPE_MISMATCH,
                    LENGTH_BEYOND_COLUMN,
                    ENUM_BEYOND_COLUMN,
                    PARAMETER_OPTIONAL_WRITTEN,
                    ROUTINE_UNFIT,
                    ROUTINE_ENDS_TRANSACTION,
                    RESULT_UNNAMED,
                    CHANGE_NOT_UNDONE,
                    ORDER_NOT_TOTAL,
                    ROW_MANY,
                    FLAG_HOLDS_NUMBER -> true;
            default -> false;
        };
    }

    /** True for what only a source can tell, so that a check without one cannot find it. */
    public boolean needsSource() {
        return switch (this) {
            case TYPE_MISMATCH,
                    LENGTH_BEYOND_COLUMN,
                    ENUM_BEYOND_COLUMN,
                    STATEMENT_REFUSED,
                    STEP_FIELD_UNKNOWN,
                    ROUTINE_UNFIT,
                    FLAG_HOLDS_NUMBER,
                    PARAMETER_OPTIONAL_WRITTEN,
                    OPERATION_RENAMED,
                    ROUTINE_ENDS_TRANSACTION,
                    RESULT_UNNAMED,
                    SOURCE_READ_ONLY,
                    PRIVILEGE_MISSING,
                    CHANGE_NOT_UNDONE,
                    REPLY_UNKNOWN,
                    SEARCH_UNFIT,
                    SORT_UNKNOWN,
                    SORT_UNFIT,
                    SORT_LEAKS,
                    SORT_UNSERVED,
                    FILTER_UNKNOWN,
                    FILTER_UNFIT,
                    FILTER_LEAKS,
                    FILTER_UNSERVED,
                    ORDER_UNKNOWN,
                    ORDER_UNFIT,
                    ORDER_NOT_TOTAL,
                    ORDER_WITHOUT_INDEX,
                    FILTER_WITHOUT_INDEX,
                    ROW_MANY,
                    FIELD_TWICE,
                    FIELD_UNNAMED,
                    FIELD_UNKNOWN,
                    FIELD_CLASH,
                    FIELD_SENSITIVE,
                    MASK_UNFIT,
                    TEXT_UNFIT,
                    FILE_UNFIT,
                    ANSWER_UNFIT -> true;
            default -> false;
        };
    }
}
