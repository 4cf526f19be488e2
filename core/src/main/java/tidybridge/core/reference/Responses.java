package tidybridge.core.reference;

import static tidybridge.core.reference.OpenApi.map;
import static tidybridge.core.reference.OpenApi.reference;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import tidybridge.core.bind.BodyKind;
import tidybridge.core.contract.AnswerTerms;
import tidybridge.core.contract.ChangeTerms;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.contract.RefusalTerms;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.Need;
import tidybridge.core.definition.RowFormat;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;

/** The answers of an operation: the one that is hoped for, and every problem it can meet. */
final class Responses {

    private static final ProblemKind[] ALWAYS = {
        ProblemKind.BAD_INPUT,
        ProblemKind.SIGN_IN_NEEDED,
        ProblemKind.METHOD_UNKNOWN,
        ProblemKind.FORMAT_UNKNOWN,
        ProblemKind.URL_TOO_LONG,
        ProblemKind.FAILED,
        ProblemKind.SOURCE_UNAVAILABLE,
        ProblemKind.STATEMENT_TIMEOUT
    };

    private static final ProblemKind[] WITH_A_BODY = {
        ProblemKind.BODY_SLOW, ProblemKind.BODY_TOO_LARGE, ProblemKind.BODY_UNKNOWN
    };

    private static final ProblemKind[] OF_CHANGES = {ProblemKind.CONFLICT, ProblemKind.RULE_BROKEN};

    private static final ProblemKind[] SOMETIMES = {
        ProblemKind.PRIVILEGE_NEEDED,
        ProblemKind.ROW_UNKNOWN,
        ProblemKind.GONE,
        ProblemKind.STATE_CHANGED,
        ProblemKind.STATE_NEEDED,
        ProblemKind.QUOTA_USED_UP
    };

    private static final String OTHER = "default";

    private final Contract contract;
    private final OperationTerms operation;
    private final Map<String, Object> body;
    private final Map<String, Object> links;

    /**
     * Describes the answers of an operation.
     *
     * @param body the schema of the hoped-for answer's body; empty for none, and for a file
     * @param links what can be called with what it says
     */
    Responses(Contract contract, OperationTerms operation, Map<String, Object> body, Map<String, Object> links) {
        this.links = links;
        this.contract = contract;
        this.operation = operation;
        this.body = body;
    }

    /** By status, in rising order, and what can come besides at the end. */
    Map<String, Object> all() {
        Map<String, Object> responses = new TreeMap<>();
        for (ProblemKind kind : kinds()) {
            responses.put(String.valueOf(kind.status()), problem(kind));
        }
        refusals().forEach((status, rules) -> responses.put(String.valueOf(status), refusal(status, rules)));
        AnswerTerms answer = operation.answer();
        responses.put(String.valueOf(answer.status()), success());
        if (answer.tag() || answer.modified()) {
            Map<String, Object> unchanged = map("description", "It is still what the caller has.");
            unchanged.put("headers", state(answer.tag(), answer.modified()));
            responses.put("304", unchanged);
        }
        responses.put(OTHER, problem(OTHER));
        return responses;
    }

    /** True when a day is set from which it is gone. */
    private boolean isEnding() {
        return Stream.of(operation.deprecated(), contract.deprecated())
                .anyMatch(deprecated -> deprecated != null && deprecated.ends() != null);
    }

    private boolean isDeprecated() {
        return operation.deprecated() != null || contract.deprecated() != null;
    }

    private List<ProblemKind> kinds() {
        List<ProblemKind> kinds = new ArrayList<>(List.of(ALWAYS));
        if (operation.answer().kind() != AnswerKind.ROWS) {
            kinds.add(ProblemKind.ROW_UNKNOWN);
        }
        if (operation.body().kind() != BodyKind.NONE) {
            kinds.addAll(List.of(WITH_A_BODY));
        }
        if (!operation.needs().open()) {
            kinds.add(ProblemKind.PRIVILEGE_NEEDED);
        }
        if (isEnding()) {
            kinds.add(ProblemKind.GONE);
        }
        // every known caller may have a quota of their own
        boolean counted = operation.quota() != null || contract.admission().quota() != null;
        if (counted || !operation.needs().open()) {
            kinds.add(ProblemKind.QUOTA_USED_UP);
        }
        ChangeTerms change = operation.change();
        if (change != null) {
            kinds.addAll(List.of(OF_CHANGES));
        }
        if (change == null ? operation.answer().tag() || operation.answer().modified() : change.guarded()) {
            kinds.add(ProblemKind.STATE_CHANGED);
        }
        if (change != null && change.precondition() == Need.REQUIRED) {
            kinds.add(ProblemKind.STATE_NEEDED);
        }
        return kinds;
    }

    /** What the definition itself refuses, by status. */
    private Map<Integer, List<RefusalTerms>> refusals() {
        return operation.refusals().stream()
                .collect(Collectors.groupingBy(RefusalTerms::status, TreeMap::new, Collectors.toList()));
    }

    /** Each rule is an example under its code, beside what else the status may mean. */
    private Map<String, Object> refusal(int status, List<RefusalTerms> rules) {
        ProblemKind kind = ProblemKind.ofRefusal(status);
        Map<String, Object> examples = map();
        for (RefusalTerms rule : rules) {
            String said = rule.message() == null ? kind.meaning() : rule.message();
            examples.putIfAbsent(
                    rule.code(),
                    map(
                            "value",
                            map(
                                    "type",
                                    Problem.type(kind, contract.identity(), rule.code()),
                                    "title",
                                    kind.title(),
                                    "status",
                                    status,
                                    "detail",
                                    said,
                                    "code",
                                    rule.code())));
        }
        String messages = rules.stream()
                .map(RefusalTerms::message)
                .filter(Objects::nonNull)
                .distinct()
                .collect(Collectors.joining(" "));
        Map<String, Object> content = OpenApi.problemContent();
        content.replaceAll((type, media) -> map("schema", reference("schemas", "Problem"), "examples", examples));
        return map(
                "description",
                kind.title() + ". " + (messages.isEmpty() ? kind.meaning() : messages),
                "content",
                content);
    }

    private Map<String, Object> success() {
        Map<String, Object> success = map("description", description());
        Map<String, Object> headers = headers();
        if (!headers.isEmpty()) {
            success.put("headers", headers);
        }
        AnswerTerms answer = operation.answer();
        if (answer.kind() == AnswerKind.FILE) {
            String type = answer.mediaType();
            success.put("content", map(type == null ? "*/*" : type, map("schema", map())));
        } else if (!body.isEmpty()) {
            Map<String, Object> content = map("application/json", map("schema", body));
            for (RowFormat format : answer.formats()) {
                content.putIfAbsent(format.mediaType(), map("schema", written(format)));
            }
            success.put("content", content);
        }
        if (!links.isEmpty()) {
            success.put("links", links);
        }
        return success;
    }

    /** What is no JSON as a whole is described in words. */
    private static Map<String, Object> written(RowFormat format) {
        return format == RowFormat.XLSX
                ? map("description", "The rows as " + format.about() + ".")
                : map("type", "string", "description", "The rows as " + format.about() + ".");
    }

    private Map<String, Object> headers() {
        Map<String, Object> headers = map();
        AnswerTerms answer = operation.answer();
        ChangeTerms change = operation.change();
        if (operation.page() != null) {
            headers.putAll(state(answer.tag(), answer.modified()));
            headers.put(
                    "Link",
                    header(
                            "The next page with rel=\"next\" (RFC 8288); absent on the last one, and on a page too large to be held back."));
            if (!answer.formats().isEmpty()) {
                headers.put(
                        "Page-End",
                        header(
                                "Of what is not JSON: how many rows there are, and whether they are the last, as a dictionary of RFC 9651. On an answer too large to be held back it follows the body, as a trailer; without it the rows are not whole."));
            }
        } else {
            if (change != null && change.located()) {
                headers.put("Location", header("Where it is found."));
            }
            headers.putAll(
                    change == null ? state(answer.tag(), answer.modified()) : state(change.tag(), change.modified()));
            answer.headers().forEach(name -> headers.put(name, header("A value of the answer.")));
        }
        if (isDeprecated()) {
            headers.put(
                    "Deprecation",
                    header("Since when callers should stop using it, as a date of RFC 9651 (RFC 9745)."));
            headers.putIfAbsent(
                    "Link",
                    header(
                            "What takes its place with rel=\"successor-version\" (RFC 5829), and what changed with rel=\"deprecation\"."));
        }
        if (isEnding()) {
            headers.put("Sunset", header("When it is gone (RFC 8594)."));
        }
        if (answer.fresh() != null) {
            headers.put(
                    "Cache-Control",
                    header("The answer may be used again for " + answer.fresh() + " s without asking (RFC 9111)."));
        }
        return headers;
    }

    private static Map<String, Object> state(boolean tag, boolean modified) {
        Map<String, Object> headers = map();
        if (tag) {
            headers.put("ETag", header("The state that is told, for If-None-Match and If-Match."));
        }
        if (modified) {
            headers.put("Last-Modified", header("When it was changed last."));
        }
        return headers;
    }

    private static Map<String, Object> header(String description) {
        return map("description", description, "schema", map("type", "string"));
    }

    private String description() {
        ChangeTerms change = operation.change();
        if (change != null && !change.readOnly()) {
            return change.located() ? "It was made." : "It is done.";
        }
        return switch (operation.answer().kind()) {
            case ROWS -> "A page of the collection.";
            case ROW -> "The row.";
            case VALUE -> "The value.";
            case NOTHING -> "It is there; the answer has no content.";
            case FILE -> "The file.";
        };
    }

    private static Map<String, Object> problem(ProblemKind kind) {
        return problem(kind.label());
    }

    private static Map<String, Object> problem(String label) {
        return reference("responses", label);
    }

    /** The problems that operations refer to. */
    static Map<String, Object> shared() {
        Map<String, Object> shared = new TreeMap<>();
        Stream.of(ALWAYS, WITH_A_BODY, OF_CHANGES, SOMETIMES)
                .flatMap(Arrays::stream)
                .forEach(kind -> shared.put(kind.label(), response(kind)));
        shared.put(
                OTHER,
                map(
                        "description",
                        "Anything else that keeps the call from being answered.",
                        "content",
                        OpenApi.problemContent()));
        return shared;
    }

    private static Map<String, Object> response(ProblemKind kind) {
        Map<String, Object> response = map("description", kind.title() + ". " + kind.meaning());
        Map<String, Object> headers = map();
        if (kind.isWorthRepeating() || kind == ProblemKind.QUOTA_USED_UP) {
            headers.put("Retry-After", map("description", "Seconds to wait.", "schema", map("type", "integer")));
        }
        if (kind == ProblemKind.QUOTA_USED_UP) {
            headers.put("RateLimit", header("How many calls are left of each quota, and for how many seconds."));
            headers.put("RateLimit-Policy", header("The quotas the call falls under: calls in a window of seconds."));
        }
        if (kind == ProblemKind.METHOD_UNKNOWN) {
            headers.put("Allow", header("The methods that are answered here."));
        }
        if (kind == ProblemKind.SIGN_IN_NEEDED) {
            headers.put("WWW-Authenticate", header("How to show who calls."));
        }
        if (!headers.isEmpty()) {
            response.put("headers", headers);
        }
        response.put("content", OpenApi.problemContent());
        return response;
    }
}
