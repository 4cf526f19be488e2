package tidybridge.core.reference;

import static tidybridge.core.reference.OpenApi.map;
import static tidybridge.core.reference.OpenApi.reference;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import tidybridge.core.bind.BodyKind;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.Need;
import tidybridge.core.definition.RefusalRule;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.FilePlan;
import tidybridge.core.plan.HeaderColumn;
import tidybridge.core.plan.NothingPlan;
import tidybridge.core.plan.OneRowPlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.RowPlan;
import tidybridge.core.plan.RowReply;
import tidybridge.core.plan.StepPlan;
import tidybridge.core.plan.ValuePlan;
import tidybridge.core.problem.ProblemKind;

/** The answers of an operation: the one that is hoped for, and every problem it can meet. */
final class Responses {

    private static final ProblemKind[] ALWAYS = {
        ProblemKind.FORMAT_UNKNOWN,
        ProblemKind.URL_TOO_LONG,
        ProblemKind.RULE_BROKEN,
        ProblemKind.FAILED,
        ProblemKind.SOURCE_UNAVAILABLE,
        ProblemKind.STATEMENT_TIMEOUT
    };

    private static final ProblemKind[] SOMETIMES = {
        ProblemKind.BAD_INPUT,
        ProblemKind.SIGN_IN_NEEDED,
        ProblemKind.ROW_UNKNOWN,
        ProblemKind.CONFLICT,
        ProblemKind.STATE_CHANGED,
        ProblemKind.STATE_NEEDED,
        ProblemKind.BODY_TOO_LARGE,
        ProblemKind.BODY_UNKNOWN
    };

    private static final int OK = 200;
    private static final int NO_CONTENT = 204;

    private Responses() {}

    static Map<String, Object> of(OperationPlan plan, Map<String, Object> row, boolean open) {
        Map<String, Object> responses =
                map(String.valueOf(status(plan)), success(plan, row), "400", problem(ProblemKind.BAD_INPUT));
        if (!open) {
            responses.put("401", problem(ProblemKind.SIGN_IN_NEEDED));
        }
        switch (plan) {
            case CollectionPlan page -> {}
            case OneRowPlan read -> {
                if (read.reply().tellsState()) {
                    responses.put("412", problem(ProblemKind.STATE_CHANGED));
                }
                if (read.reply().tag() != null) {
                    responses.put("304", map("description", "It is still what the caller has."));
                }
            }
            case ChangePlan change -> {
                responses.put("409", problem(ProblemKind.CONFLICT));
                if (change.guard() != null) {
                    responses.put("412", problem(ProblemKind.STATE_CHANGED));
                }
                if (change.precondition() == Need.REQUIRED) {
                    responses.put("428", problem(ProblemKind.STATE_NEEDED));
                }
            }
        }
        if (plan.answer() != AnswerKind.ROWS) {
            responses.put("404", problem(ProblemKind.ROW_UNKNOWN));
        }
        if (plan.binder().bodyKind() != BodyKind.NONE) {
            responses.put("413", problem(ProblemKind.BODY_TOO_LARGE));
            responses.put("415", problem(ProblemKind.BODY_UNKNOWN));
        }
        for (ProblemKind kind : ALWAYS) {
            responses.put(String.valueOf(kind.status()), problem(kind));
        }
        messages(plan)
                .forEach((refused, messages) -> responses.put(String.valueOf(refused), refusal(refused, messages)));
        return responses;
    }

    /** The status of the hoped-for answer. */
    private static int status(OperationPlan plan) {
        return switch (plan) {
            case ChangePlan change -> change.reply().status();
            case NothingPlan nothing -> NO_CONTENT;
            case CollectionPlan page -> OK;
            case RowPlan row -> OK;
            case ValuePlan value -> OK;
            case FilePlan file -> OK;
        };
    }

    /** What the definition itself says to callers, by status. */
    private static Map<Integer, Set<String>> messages(OperationPlan plan) {
        List<RefusalRule> refusals = new ArrayList<>(plan.conditions().refusals());
        if (plan instanceof ChangePlan change) {
            change.sequence().steps().stream()
                    .map(StepPlan::otherwise)
                    .filter(Objects::nonNull)
                    .forEach(refusals::add);
        }
        Map<Integer, Set<String>> messages = new TreeMap<>();
        for (RefusalRule refusal : refusals) {
            Set<String> known = messages.computeIfAbsent(refusal.status(), status -> new TreeSet<>());
            String message = refusal.message();
            if (message != null) {
                known.add(message);
            }
        }
        return messages;
    }

    private static Map<String, Object> refusal(int status, Set<String> messages) {
        ProblemKind kind = ProblemKind.ofRefusal(status);
        String said = messages.isEmpty() ? kind.meaning() : String.join(" ", messages);
        return map("description", kind.title() + ". " + said, "content", OpenApi.problemContent());
    }

    private static Map<String, Object> success(OperationPlan plan, Map<String, Object> row) {
        Map<String, Object> success = map("description", description(plan));
        Map<String, Object> headers = headers(plan);
        if (!headers.isEmpty()) {
            success.put("headers", headers);
        }
        if (plan instanceof FilePlan file) {
            String type = file.columns().mediaType();
            success.put("content", map(type == null ? "*/*" : type, map("schema", map())));
        } else if (plan.answer() != AnswerKind.NOTHING) {
            Map<String, Object> schema = OpenApi.answerSchema(plan, row);
            boolean preview = plan instanceof ChangePlan change && change.preview() != null;
            success.put(
                    "content",
                    map(
                            "application/json",
                            map("schema", preview ? map("oneOf", List.of(schema, Schemas.preview())) : schema)));
        }
        return success;
    }

    private static Map<String, Object> headers(OperationPlan plan) {
        Map<String, Object> headers = map();
        switch (plan) {
            case CollectionPlan page ->
                headers.put(
                        "Link",
                        header(
                                "The next page with rel=\"next\" (RFC 8288); absent on the last one, and on a page too large to be held back."));
            case OneRowPlan row -> {
                addState(row.reply(), headers);
                addColumns(row.reply().headers(), headers);
            }
            case ChangePlan change -> {
                if (change.reply().location() != null) {
                    headers.put("Location", header("Where it is found."));
                }
                if (change.guard() != null) {
                    addState(change.guard().reply(), headers);
                }
                addColumns(change.reply().headers(), headers);
            }
        }
        return headers;
    }

    private static void addState(RowReply reply, Map<String, Object> headers) {
        if (reply.tag() != null) {
            headers.put("ETag", header("The state that was answered, for If-None-Match and If-Match."));
        }
        if (reply.modified() >= 0) {
            headers.put("Last-Modified", header("When it was changed last."));
        }
    }

    private static void addColumns(List<HeaderColumn> columns, Map<String, Object> headers) {
        columns.forEach(column -> headers.put(column.name(), header("A value of the answer.")));
    }

    private static Map<String, Object> header(String description) {
        return map("description", description, "schema", map("type", "string"));
    }

    private static String description(OperationPlan plan) {
        if (plan instanceof ChangePlan change && !change.sequence().readOnly()) {
            return change.reply().location() != null ? "It was made." : "It is done.";
        }
        return switch (plan.answer()) {
            case ROWS -> "A page of the collection.";
            case ROW -> "The row.";
            case VALUE -> "The value.";
            case NOTHING -> "It is there; the answer has no content.";
            case FILE -> "The file.";
        };
    }

    private static Map<String, Object> problem(ProblemKind kind) {
        return reference("responses", kind.label());
    }

    /** The problems that operations refer to. */
    static Map<String, Object> shared() {
        Map<String, Object> shared = map();
        for (ProblemKind kind : SOMETIMES) {
            shared.put(kind.label(), response(kind));
        }
        for (ProblemKind kind : ALWAYS) {
            shared.put(kind.label(), response(kind));
        }
        return shared;
    }

    private static Map<String, Object> response(ProblemKind kind) {
        Map<String, Object> response = map("description", kind.title() + ". " + kind.meaning());
        if (kind.isWorthRepeating()) {
            response.put(
                    "headers",
                    map("Retry-After", map("description", "Seconds to wait.", "schema", map("type", "integer"))));
        }
        response.put("content", OpenApi.problemContent());
        return response;
    }
}
