package tidybridge.core.compile;

import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.StepDefinition;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.sql.Dialect;
import tidybridge.core.sql.Outline;
import tidybridge.core.sql.SeveralStatements;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.StatementKind;
import tidybridge.core.sql.Word;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.Place;

/** What a statement's text alone tells. */
final class StatementCheck {

    private final OperationDefinition operation;
    private final StepDefinition step;
    private final Dialect dialect;
    private final Findings findings;

    StatementCheck(OperationDefinition operation, StepDefinition step, Dialect dialect, Findings findings) {
        this.dialect = dialect;
        this.operation = operation;
        this.step = step;
        this.findings = findings;
    }

    /** The scanned statement; null, with a finding, when it cannot be read. */
    @Nullable
    Statement scan() {
        try {
            Statement statement = Statement.scan(step.sql(), dialect);
            checkKind(statement);
            if (operation.answer().kind() == AnswerKind.ROWS) {
                checkCollection(statement);
            }
            checkHabits(statement);
            return statement;
        } catch (BrokenText e) {
            boolean empty = e.place().line() == 0;
            findings.add(
                    empty ? Code.STATEMENT_EMPTY : Code.STATEMENT_BROKEN,
                    e.place(),
                    "The statement cannot be read: " + e.reason() + ".",
                    empty ? "Write the statement that answers." : "Mend the text at this spot.");
        } catch (SeveralStatements e) {
            findings.add(
                    Code.STATEMENTS_SEVERAL,
                    e.place(),
                    "A second statement starts here.",
                    "Keep one statement in a file; move the other to a file of its own.");
        }
        return null;
    }

    private void checkKind(Statement statement) {
        Place start = statement.source().at(0);
        boolean query = statement.kind() == StatementKind.QUERY;
        String sentence = switch (statement.kind()) {
            case QUERY -> null;
            case DDL -> "The statement changes the schema or who may use it, which no operation may.";
            case INFORMATION -> "The statement tells of the database itself, in a form that no reference can describe.";
            case SESSION, SET -> "The statement changes the session, which the next caller would inherit.";
            case SCRIPT -> "The file holds a block of several statements.";
            case UNKNOWN -> "The statement is of no kind that is known here.";
            case CALL -> null;
            case INSERT, UPDATE, DELETE, REPLACE ->
                operation.method().isSafe()
                        ? "An operation under '" + operation.method().name().toLowerCase(Locale.ROOT)
                                + "' needs a query that changes nothing."
                        : null;
        };
        Optional<Place> into = query ? statement.topLevel(Word.INTO) : Optional.empty();
        if (sentence != null || into.isPresent()) {
            findings.add(
                    Code.STATEMENT_KIND,
                    sentence == null ? into.orElse(start) : start,
                    sentence == null ? "The query writes its result somewhere with INTO." : sentence,
                    statement.kind() == StatementKind.INFORMATION
                            ? "Query information_schema instead, as in 'select table_name from information_schema.tables'."
                            : operation.method().isSafe()
                                    ? "Use SELECT, WITH or VALUES, without INTO; what changes data belongs under post, put, patch or delete."
                                    : statement.kind() == StatementKind.SCRIPT
                                            ? "Make each statement a step of its own, or put the block into a procedure."
                                            : "Use SELECT, INSERT, UPDATE, DELETE, REPLACE or CALL.");
        }
        if (statement.changesEveryRow(name -> true)) {
            findings.add(
                    Code.CHANGE_WITHOUT_WHERE,
                    start,
                    "The statement changes every row of its table.",
                    "Add WHERE with a parameter, or accept this with the reason.");
        }
    }

    private void checkCollection(Statement statement) {
        statement
                .topLevel(Word.ORDER)
                .ifPresent(place -> findings.add(
                        Code.STATEMENT_ORDERED,
                        place,
                        "The statement sorts its rows itself, and pages sort them again.",
                        "Name the fields under 'order:' in module.yaml, and remove ORDER BY here."));
        statement
                .topLevel(Word.LIMIT)
                .ifPresent(place -> findings.add(
                        Code.STATEMENT_LIMITED,
                        place,
                        "The statement limits its rows itself, so pages end where it does.",
                        "Remove LIMIT here; 'page:' in module.yaml says how many rows a page holds."));
    }

    private void checkHabits(Statement statement) {
        Outline.Block main = statement.outline().main();
        if (main != null) {
            main.items().stream()
                    .filter(Outline.Item::star)
                    .findFirst()
                    .ifPresent(star -> findings.add(
                            Code.SELECT_STAR,
                            statement.at(star.offset()),
                            "The answer has whatever columns the table has, so that a new column is published by itself.",
                            "Name the columns; './tidy source browse' prints them."));
        }
        statement
                .find(":", "is", "null")
                .ifPresent(place -> findings.add(
                        Code.OPTIONAL_BY_NULL,
                        place,
                        "Comparing a parameter with NULL keeps the database from using an index.",
                        "Make the parameter optional, and end the condition's line with '-- when :name'."));
        statement
                .unanchoredLike()
                .ifPresent(place -> findings.add(
                        Code.LIKE_UNANCHORED,
                        place,
                        "A LIKE that starts with a wildcard reads every value, whatever index there is.",
                        "Search from the start of the text, or use a fulltext index with MATCH."));
        boolean alone = operation.steps().size() == 1;
        Optional<Place> lock = statement.find("for", "update").or(() -> statement.find("lock", "in", "share", "mode"));
        lock.filter(place -> alone)
                .ifPresent(place -> findings.add(
                        Code.LOCKING_READ,
                        place,
                        "The query locks the rows it reads, and others wait for them.",
                        "Remove the lock; a query that changes nothing needs none."));
        statement
                .find("@")
                .ifPresent(place -> findings.add(
                        Code.SESSION_VARIABLE,
                        place,
                        "The statement uses a variable of the session, and sessions are shared by all callers.",
                        "Use a bind parameter, or a query of its own with WITH."));
    }
}
