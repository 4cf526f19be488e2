package tidybridge.core.compile;

import java.util.List;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.ChangeRules;
import tidybridge.core.definition.In;
import tidybridge.core.definition.Need;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.RefusalRule;
import tidybridge.core.definition.ReplyRule;
import tidybridge.core.definition.StepDefinition;
import tidybridge.core.definition.TransactionOwner;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.sql.StatementKind;
import tidybridge.core.text.Nearest;
import tidybridge.core.text.Place;

/** What the text alone tells about how an operation changes data. */
final class ChangeCheck {

    private final OperationDefinition operation;
    private final boolean open;
    private final List<ScannedStep> steps;
    private final Findings findings;

    /**
     * Prepares the check.
     *
     * @param open true when anybody may call the operation
     */
    ChangeCheck(OperationDefinition operation, boolean open, List<ScannedStep> steps, Findings findings) {
        this.operation = operation;
        this.open = open;
        this.steps = steps;
        this.findings = findings;
    }

    void check() {
        boolean change = ChangeCompiler.isNeeded(operation, steps);
        checkOpen();
        ChangeRules rules = operation.change();
        AnswerKind answer = operation.answer().kind();
        if (change && (answer == AnswerKind.ROWS || answer == AnswerKind.FILE)) {
            unfit(
                    operation.answer().place(),
                    "What changes data answers with a row, a value or nothing.",
                    "Write 'answer: row', 'answer: value' or 'answer: nothing'.");
        }
        checkSafe(change);
        checkBatch();
        if (rules.preview() && (steps.size() > 1 || !isOfRows(steps.getFirst()))) {
            unfit(
                    rules.place(),
                    "Only for an UPDATE or DELETE of one table can it be told how many rows it would touch.",
                    "Remove 'preview'.");
        }
        checkTransaction(change);
        for (ScannedStep step : steps) {
            checkStep(step);
        }
        rules.conditions().forEach(rule -> checkField(rule.refusal()));
    }

    /** Nothing that the service must undo can stand beside a procedure that commits by itself. */
    private void checkTransaction(boolean change) {
        ChangeRules rules = operation.change();
        if (rules.transaction() == TransactionOwner.SERVICE) {
            return;
        }
        boolean alone = change
                && steps.size() == 1
                && steps.getFirst().isCall()
                && !operation.method().isSafe();
        boolean needsOne = rules.isolation() != null
                || rules.precondition() != null
                || rules.batch() != null
                || rules.idempotencyKey() == Need.REQUIRED;
        if (!alone || needsOne) {
            unfit(
                    rules.place(),
                    "'transaction: routine' is for one CALL that changes data, without isolation, precondition, idempotency key or batch: those"
                            + " need a transaction of the service.",
                    "Remove it, or them.");
        }
    }

    private void checkSafe(boolean change) {
        ChangeRules rules = operation.change();
        boolean safe = operation.method().isSafe();
        boolean demands = rules.precondition() != null
                || rules.idempotencyKey() == Need.REQUIRED
                || rules.batch() != null
                || rules.preview();
        if (demands && (safe || !change)) {
            unfit(
                    rules.place(),
                    "The operation changes nothing, so it needs no precondition, idempotency key, batch or preview.",
                    "Remove them.");
        }
        ReplyRule reply = operation.reply();
        boolean says = reply.status() != null
                || reply.location() != null
                || reply.statusFrom() != null
                || reply.messageFrom() != null;
        if (says && !change) {
            unfit(
                    reply.place(),
                    "A query is answered with 200, or 404 when it finds nothing, and makes nothing that could be elsewhere.",
                    "Remove 'status', 'location' and the status and message of 'reply'.");
        }
        if (!safe && operation.reply().tagged() && change) {
            unfit(
                    rules.place(),
                    "The entity tag of what a route holds is told by its get.",
                    "Write 'tag' there, and 'precondition: optional' or 'required' here.");
        }
    }

    private void checkBatch() {
        if (operation.change().batch() == null) {
            return;
        }
        Place place = operation.change().batch().place();
        StatementKind kind = steps.getFirst().statement().kind();
        boolean alone = steps.size() == 1 && !steps.getFirst().statement().returnsRows();
        boolean fits = switch (kind) {
            case INSERT, REPLACE, UPDATE, DELETE -> alone;
            case QUERY, CALL, SET, DDL, SESSION, INFORMATION, SCRIPT, UNKNOWN -> false;
        };
        if (!fits) {
            unfit(
                    place,
                    "A batch runs one INSERT, REPLACE, UPDATE or DELETE for each row, without RETURNING.",
                    "Use a single such statement, or remove 'batch'.");
        }
        boolean body = operation.parameters().stream()
                .anyMatch(parameter ->
                        parameter.in() == In.BODY && !parameter.wireName().isEmpty());
        boolean form = operation.parameters().stream().anyMatch(parameter -> parameter.in() == In.FORM);
        if (!body || form) {
            unfit(place, "A batch is a JSON array whose items fill the parameters.", "Take them with 'in: body'.");
        }
        if (operation.answer().kind() == AnswerKind.VALUE || operation.reply().location() != null) {
            unfit(place, "A batch answers with counts, not with one row.", "Write 'answer: row' without 'location'.");
        }
    }

    private void checkStep(ScannedStep scanned) {
        StepDefinition step = scanned.step();
        boolean query = scanned.statement().kind() == StatementKind.QUERY;
        if (!query && step.expect() != StepDefinition.Expect.ANYTHING) {
            unfit(
                    step.place(),
                    "Only a query can be expected to find a row.",
                    "Say how many rows may change with 'changes' instead.");
        }
        boolean counts = !query && !scanned.isCall();
        if (!counts && step.changes() != null) {
            unfit(step.place(), "'changes' is for INSERT, UPDATE, DELETE and REPLACE.", "Remove it.");
        }
        if (!scanned.isCall() && !step.results().isEmpty()) {
            unfit(step.place(), "'results' names what a procedure returns.", "Remove it.");
        }
        if (step.otherwise() != null) {
            checkField(step.otherwise());
        }
    }

    private void checkField(RefusalRule refusal) {
        String field = refusal.field();
        List<String> names = ChangeCompiler.names(operation.parameters());
        // a module's own conditions name fields that only some of its operations have
        boolean own = operation.place().isBefore(refusal.place());
        if (field != null && own && !names.contains(field)) {
            unfit(
                    refusal.place(),
                    "There is no parameter '" + field + "' to blame." + Nearest.hint(field, names),
                    "Name a parameter of the operation, or remove 'field'.");
        }
    }

    private void checkOpen() {
        if (open && steps.stream().anyMatch(step -> step.statement().kind() != StatementKind.QUERY)) {
            findings.add(
                    Code.CHANGE_OPEN,
                    operation.place(),
                    "Anybody may call the operation, without a key, and it changes data.",
                    "Write 'needs:' with a privilege under the operation, or accept this with the reason.");
        }
    }

    private static boolean isOfRows(ScannedStep step) {
        return switch (step.statement().kind()) {
            case UPDATE, DELETE ->
                step.statement().target().isPresent() && !step.statement().returnsRows();
            case INSERT, REPLACE, QUERY, CALL, SET, DDL, SESSION, INFORMATION, SCRIPT, UNKNOWN -> false;
        };
    }

    private void unfit(Place place, String message, String remedy) {
        findings.add(Code.CHANGE_UNFIT, place, message, remedy);
    }
}
