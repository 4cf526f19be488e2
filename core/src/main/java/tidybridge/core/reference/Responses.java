package tidybridge.core.reference;

import static tidybridge.core.reference.OpenApi.map;
import static tidybridge.core.reference.OpenApi.reference;

import java.util.Map;
import tidybridge.core.bind.BodyKind;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.plan.FilePlan;
import tidybridge.core.plan.OperationPlan;
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
        ProblemKind.BODY_TOO_LARGE,
        ProblemKind.BODY_UNKNOWN
    };

    private Responses() {}

    static Map<String, Object> of(OperationPlan plan, Map<String, Object> row, boolean open) {
        String status = plan.answer() == AnswerKind.NOTHING ? "204" : "200";
        Map<String, Object> responses = map(status, success(plan, row), "400", problem(ProblemKind.BAD_INPUT));
        if (!open) {
            responses.put("401", problem(ProblemKind.SIGN_IN_NEEDED));
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
        return responses;
    }

    private static Map<String, Object> success(OperationPlan plan, Map<String, Object> row) {
        Map<String, Object> success = map("description", description(plan.answer()));
        if (plan.answer() == AnswerKind.ROWS) {
            success.put(
                    "headers",
                    map(
                            "Link",
                            map(
                                    "description",
                                    "The next page with rel=\"next\" (RFC 8288); absent on the last one, and on a page too large to be held back.",
                                    "schema",
                                    map("type", "string"))));
        }
        FilePlan file = plan.file();
        if (file != null) {
            String type = file.mediaType();
            success.put("content", map(type == null ? "*/*" : type, map("schema", map())));
        } else if (plan.answer() != AnswerKind.NOTHING) {
            success.put("content", map("application/json", map("schema", OpenApi.answerSchema(plan, row))));
        }
        return success;
    }

    private static String description(AnswerKind answer) {
        return switch (answer) {
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
        if (kind == ProblemKind.SOURCE_UNAVAILABLE) {
            response.put(
                    "headers",
                    map("Retry-After", map("description", "Seconds to wait.", "schema", map("type", "integer"))));
        }
        response.put("content", OpenApi.problemContent());
        return response;
    }
}
