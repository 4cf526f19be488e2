package tidybridge.service.trial;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Finding;
import tidybridge.engine.RehearsalChanges;

/**
 * What became of trying an operation.
 *
 * @param label {@code moorings/v1 GET /berths}; null when the text has no such operation, or cannot be read
 * @param findings about the operation, and about the module as far as it was read
 * @param statement null when the findings keep it from being run, or the inputs do not fit
 * @param answer null when the findings keep it from being run
 * @param rehearsal null for a read, and for a change that was refused before it began
 */
public record Trial(
        @Nullable String label,
        List<Finding> findings,
        long compileMillis,
        @Nullable StatementRun statement,
        @Nullable Answer answer,
        @Nullable Rehearsal rehearsal) {

    /**
     * What a change did before it was undone.
     *
     * @param watched the queries that were asked before and after
     */
    public record Rehearsal(RehearsalChanges changes, List<Watched> watched) {
        public Rehearsal {
            watched = List.copyOf(watched);
        }
    }

    /** A query's rows before and after the change, as texts; null for NULL. */
    public record Watched(
            String sql,
            List<String> columns,
            List<List<@Nullable String>> before,
            List<List<@Nullable String>> after) {}

    /**
     * The statement as it was run.
     *
     * @param sql with a question mark for each value
     * @param plan how the database reads its tables, a sentence each
     */
    public record StatementRun(String sql, List<BoundValue> values, List<String> plan) {
        public StatementRun {
            values = List.copyOf(values);
            plan = List.copyOf(plan);
        }
    }

    /**
     * What filled a question mark.
     *
     * @param value its text; null when it was not asked for, and for NULL
     */
    public record BoundValue(
            String name, String type, @Nullable String value) {}

    /**
     * The answer a caller would get.
     *
     * @param body as text; empty for none
     * @param cut true when it was too long to be shown whole
     * @param trouble what the database said when it failed, which callers are not told; null for none
     */
    public record Answer(
            int status,
            List<Header> headers,
            String body,
            boolean cut,
            long millis,
            @Nullable String trouble) {
        public Answer {
            headers = List.copyOf(headers);
        }
    }

    /** A header field. */
    public record Header(String name, String value) {}

    public Trial {
        findings = List.copyOf(findings);
    }

    /** What was tried, for the audit trail. */
    public String subject() {
        return label == null ? "an operation that is not there" : label;
    }

    /** What became of it, for the audit trail. */
    public String outcome() {
        String answered = answer == null ? "not run" : "answered " + answer.status();
        return rehearsal == null
                ? answered
                : answered + ", " + rehearsal.changes().written() + " written, "
                        + rehearsal.changes().updated() + " updated, "
                        + rehearsal.changes().deleted() + " deleted, undone";
    }
}
