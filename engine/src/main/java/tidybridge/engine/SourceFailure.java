package tidybridge.engine;

import java.sql.SQLException;
import org.jspecify.annotations.Nullable;

/** A statement could not be run to its end. The message is for the log of the service, not for callers. */
public final class SourceFailure extends Exception {

    /** What a caller can do about it. */
    public enum Kind {
        /** The database cannot be reached, has no free connection, or asks to come again: try later. */
        UNAVAILABLE,
        /** The statement was stopped at its time limit. */
        TIMEOUT,
        /** The database's own code refused with SIGNAL and an SQLSTATE of class 45, in words meant for whoever asked. */
        SIGNALLED,
        /** The statement itself failed. */
        FAILED
    }

    private final Kind kind;
    private final @Nullable String sqlState;
    private final int errorCode;
    private final String signal;

    SourceFailure(Kind kind, String message, @Nullable SQLException cause) {
        super(message, cause);
        this.kind = kind;
        this.sqlState = cause == null ? null : cause.getSQLState();
        this.errorCode = cause == null ? 0 : cause.getErrorCode();
        this.signal = kind == Kind.SIGNALLED && cause != null ? MariaDbFailures.reason(cause) : "";
    }

    /** The words of a SIGNAL, fit for callers; empty for every other kind. */
    public String signal() {
        return signal;
    }

    public Kind kind() {
        return kind;
    }

    /** The five-character SQLSTATE, null when the database was never reached. */
    public @Nullable String sqlState() {
        return sqlState;
    }

    /** The server's own error number, 0 for none. */
    public int errorCode() {
        return errorCode;
    }
}
