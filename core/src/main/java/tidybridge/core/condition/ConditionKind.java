package tidybridge.core.condition;

import tidybridge.core.problem.ProblemKind;

/** The conditions a statement can end with, by what a caller can do about them. */
public enum ConditionKind {
    /** A key or a unique value is there already. */
    DUPLICATE(ProblemKind.CONFLICT, "Something with the same identification is there already."),
    /** Other rows refer to the row that was to be changed or removed. */
    STILL_REFERRED_TO(ProblemKind.CONFLICT, "Other data still refers to it."),
    /** What the row refers to is not there. */
    REFERENCE_MISSING(ProblemKind.RULE_BROKEN, "It refers to something that is not there."),
    CHECK_FAILED(ProblemKind.RULE_BROKEN, "The values together break a rule of the data."),
    VALUE_MISSING(ProblemKind.RULE_BROKEN, "A value that is always needed is missing."),
    TOO_LONG(ProblemKind.VALUE_UNFIT, "A value is longer than what can be kept."),
    OUT_OF_RANGE(ProblemKind.VALUE_UNFIT, "A number or date is beyond what can be kept."),
    WRONG_FORM(ProblemKind.VALUE_UNFIT, "A value is not of a form that can be kept."),
    /** The database's own code refused with SIGNAL, in words meant for whoever asked. */
    SIGNALLED(ProblemKind.RULE_BROKEN, "A rule of the data refuses this."),
    /** The source's user may not do what the statement does; its owner must hear of it. */
    DENIED(ProblemKind.FAILED, ""),
    /** Another transaction held the rows for too long, or both waited for each other. */
    ROWS_BUSY(ProblemKind.ROWS_BUSY, ""),
    /** The statement was stopped at its time limit. */
    TIMED_OUT(ProblemKind.STATEMENT_TIMEOUT, ""),
    /** The database cannot be reached, or has no free connection. */
    UNREACHABLE(ProblemKind.SOURCE_UNAVAILABLE, ""),
    /** The connection broke while the change was being made final. */
    OUTCOME_UNKNOWN(ProblemKind.OUTCOME_UNKNOWN, ""),
    /** A procedure ended the transaction around it, and then the call failed. */
    TRANSACTION_ENDED(ProblemKind.PARTLY_DONE, ""),
    /** Anything else. */
    OTHER(ProblemKind.FAILED, "");

    private final ProblemKind problem;
    private final String message;

    ConditionKind(ProblemKind problem, String message) {
        this.problem = problem;
        this.message = message;
    }

    /** What it is to a caller, unless a definition says otherwise. */
    public ProblemKind problem() {
        return problem;
    }

    /** The sentence for a caller, unless a definition has one; it names nothing of the database's. */
    public String message() {
        return message.isEmpty() ? problem.meaning() : message;
    }

    /** True for what the values of one row, or of one request, are to blame for: others may fare better. */
    public boolean blamesValues() {
        return switch (this) {
            case DUPLICATE,
                    STILL_REFERRED_TO,
                    REFERENCE_MISSING,
                    CHECK_FAILED,
                    VALUE_MISSING,
                    TOO_LONG,
                    OUT_OF_RANGE,
                    WRONG_FORM,
                    SIGNALLED -> true;
            case DENIED, ROWS_BUSY, TIMED_OUT, UNREACHABLE, OUTCOME_UNKNOWN, TRANSACTION_ENDED, OTHER -> false;
        };
    }

    /** True for what leaves a connection behind that is not to be used again. */
    public boolean spoilsConnection() {
        return this == UNREACHABLE || this == TIMED_OUT || this == OUTCOME_UNKNOWN;
    }

    /** True for what ends the transaction around the statement, and not the statement alone. */
    public boolean endsTransaction() {
        return spoilsConnection() || this == ROWS_BUSY;
    }
}
