package tidybridge.core.reference;

import static tidybridge.core.reference.OpenApi.map;
import static tidybridge.core.reference.OpenApi.reference;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import tidybridge.core.bind.BodyKind;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.Method;
import tidybridge.core.definition.Need;
import tidybridge.core.definition.RefusalRule;
import tidybridge.core.definition.RowFormat;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.FilePlan;
import tidybridge.core.plan.HeaderColumn;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.NothingPlan;
import tidybridge.core.plan.OneRowPlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.ReadPlan;
import tidybridge.core.plan.RowPlan;
import tidybridge.core.plan.RowReply;
import tidybridge.core.plan.StepPlan;
import tidybridge.core.plan.Template;
import tidybridge.core.plan.ValuePlan;
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
        ProblemKind.STATE_CHANGED,
        ProblemKind.STATE_NEEDED,
        ProblemKind.QUOTA_USED_UP
    };

    private static final String OTHER = "default";
    private static final int OK = 200;
    private static final int CREATED = 201;
    private static final int NO_CONTENT = 204;

    private final ModulePlan module;
    private final OperationPlan plan;
    private final Map<String, Object> answer;

    /**
     * Describes the answers of an operation.
     *
     * @param answer the schema of its body; empty for none, and for a file
     */
    Responses(ModulePlan module, OperationPlan plan, Map<String, Object> answer) {
        this.module = module;
        this.plan = plan;
        this.answer = answer;
    }

    /** By status, in rising order, and what can come besides at the end. */
    Map<String, Object> all() {
        Map<String, Object> responses = new TreeMap<>();
        for (ProblemKind kind : kinds()) {
            responses.put(String.valueOf(kind.status()), problem(kind));
        }
        refusals().forEach((status, rules) -> responses.put(String.valueOf(status), refusal(status, rules)));
        responses.put(String.valueOf(status(plan)), success());
        if (plan instanceof ReadPlan read && read.reply().tellsState()) {
            Map<String, Object> unchanged = map("description", "It is still what the caller has.");
            unchanged.put("headers", state(read.reply()));
            responses.put("304", unchanged);
        }
        responses.put(OTHER, problem(OTHER));
        return responses;
    }

    private List<ProblemKind> kinds() {
        List<ProblemKind> kinds = new ArrayList<>(List.of(ALWAYS));
        if (plan.answer() != AnswerKind.ROWS) {
            kinds.add(ProblemKind.ROW_UNKNOWN);
        }
        if (plan.binder().bodyKind() != BodyKind.NONE) {
            kinds.addAll(List.of(WITH_A_BODY));
        }
        if (!plan.needs().open()) {
            kinds.add(ProblemKind.PRIVILEGE_NEEDED);
        }
        // every known caller may have a quota of their own
        boolean counted = plan.quota() != null || module.admission().quota() != null;
        if (counted || !plan.needs().open()) {
            kinds.add(ProblemKind.QUOTA_USED_UP);
        }
        switch (plan) {
            case ReadPlan read -> {
                if (read.reply().tellsState()) {
                    kinds.add(ProblemKind.STATE_CHANGED);
                }
            }
            case ChangePlan change -> {
                kinds.addAll(List.of(OF_CHANGES));
                if (change.guard() != null) {
                    kinds.add(ProblemKind.STATE_CHANGED);
                }
                if (change.precondition() == Need.REQUIRED) {
                    kinds.add(ProblemKind.STATE_NEEDED);
                }
            }
        }
        return kinds;
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

    /** What the definition itself refuses, by status. */
    private Map<Integer, List<RefusalRule>> refusals() {
        List<RefusalRule> all = new ArrayList<>(plan.conditions().refusals());
        if (plan instanceof ChangePlan change) {
            change.sequence().steps().stream()
                    .map(StepPlan::otherwise)
                    .filter(Objects::nonNull)
                    .forEach(all::add);
        }
        return all.stream().collect(Collectors.groupingBy(RefusalRule::status, TreeMap::new, Collectors.toList()));
    }

    /** Each rule is an example under its code, beside what else the status may mean. */
    private Map<String, Object> refusal(int status, List<RefusalRule> rules) {
        ProblemKind kind = ProblemKind.ofRefusal(status);
        Map<String, Object> examples = map();
        for (RefusalRule rule : rules) {
            String said = rule.message() == null ? kind.meaning() : rule.message();
            examples.putIfAbsent(
                    rule.code(),
                    map(
                            "value",
                            map(
                                    "type",
                                    Problem.type(kind, plan.conditions().module(), rule.code()),
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
                .map(RefusalRule::message)
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
        Map<String, Object> success = map("description", description(plan));
        Map<String, Object> headers = headers();
        if (!headers.isEmpty()) {
            success.put("headers", headers);
        }
        if (plan instanceof FilePlan file) {
            String type = file.columns().mediaType();
            success.put("content", map(type == null ? "*/*" : type, map("schema", map())));
        } else if (!answer.isEmpty()) {
            Map<String, Object> content = map("application/json", map("schema", answer));
            for (RowFormat format : plan.forms().formats()) {
                content.putIfAbsent(format.mediaType(), map("schema", written(format)));
            }
            success.put("content", content);
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
        switch (plan) {
            case CollectionPlan page -> {
                headers.putAll(state(page.reply()));
                headers.put(
                        "Link",
                        header(
                                "The next page with rel=\"next\" (RFC 8288); absent on the last one, and on a page too large to be held back."));
                if (!page.forms().formats().isEmpty()) {
                    headers.put(
                            "Page-End",
                            header(
                                    "Of what is not JSON: how many rows there are, and whether they are the last, as a dictionary of RFC 9651. On an answer too large to be held back it follows the body, as a trailer; without it the rows are not whole."));
                }
            }
            case OneRowPlan row -> {
                headers.putAll(state(row.reply()));
                addColumns(row.reply().headers(), headers);
            }
            case ChangePlan change -> {
                if (change.reply().location() != null) {
                    headers.put("Location", header("Where it is found."));
                }
                stateBehind(change).ifPresent(reply -> headers.putAll(state(reply)));
                addColumns(change.reply().headers(), headers);
            }
        }
        addFreshness(plan, headers);
        return headers;
    }

    /** The read whose state a change tells afterwards: the one at its own route, or where what it made is found. */
    private Optional<RowReply> stateBehind(ChangePlan change) {
        Template location = change.reply().location();
        if (change.reply().status() == CREATED && location != null) {
            String shape = location.shape();
            return module.routes().stream()
                    .filter(route -> shape(route.path().text()).equals(shape))
                    .flatMap(route -> route.operations().stream())
                    .filter(OneRowPlan.class::isInstance)
                    .map(read -> ((OneRowPlan) read).reply())
                    .findFirst();
        }
        RowPlan guard = change.guard();
        return guard == null || change.method() == Method.DELETE ? Optional.empty() : Optional.of(guard.reply());
    }

    private static String shape(String path) {
        return path.replaceAll("\\{[^}]*}", "{}");
    }

    private static Map<String, Object> state(RowReply reply) {
        Map<String, Object> headers = map();
        if (reply.tag() != null) {
            headers.put("ETag", header("The state that is told, for If-None-Match and If-Match."));
        }
        if (reply.modified() >= 0) {
            headers.put("Last-Modified", header("When it was changed last."));
        }
        return headers;
    }

    private static void addColumns(List<HeaderColumn> columns, Map<String, Object> headers) {
        columns.forEach(column -> headers.put(column.name(), header("A value of the answer.")));
    }

    private static void addFreshness(OperationPlan plan, Map<String, Object> headers) {
        if (plan instanceof ReadPlan read && read.reply().fresh() != null) {
            headers.put(
                    "Cache-Control",
                    header("The answer may be used again for "
                            + read.reply().fresh().time().toSeconds() + " s without asking (RFC 9111)."));
        }
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
