package tidybridge.core.reference;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.contract.AnswerTerms;
import tidybridge.core.contract.BodyTerms;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.FieldTerms;
import tidybridge.core.contract.InputTerms;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.contract.PageTerms;
import tidybridge.core.definition.BatchRule;
import tidybridge.core.problem.ProblemKind;

/** Puts operations into words, from their description in OpenAPI and from what is promised besides. */
final class OperationWords {

    private final Contract contract;
    private final Map<String, Object> document;

    private OperationWords(Contract contract) {
        this.contract = contract;
        this.document = OpenApi.document(contract);
    }

    /** One operation, whatever others there are: a page of a large module costs no more than that of a small one. */
    static OperationText of(Contract contract, OperationTerms terms) {
        return new OperationWords(contract.with(List.of(terms))).of(terms);
    }

    private OperationText of(OperationTerms terms) {
        Map<?, ?> described =
                at(document, "paths", terms.path(), terms.method().name().toLowerCase(Locale.ROOT));
        String ended = OpenApi.ended(terms.deprecated() == null ? contract.deprecated() : terms.deprecated());
        return new OperationText(
                terms.id(),
                terms.method().name(),
                terms.path(),
                String.valueOf(list(described, "tags").getFirst()),
                terms.about(),
                ended.isEmpty() ? null : ended,
                facts(terms),
                inputs(terms, described),
                keys(at(described, "requestBody", "content")),
                answer(terms),
                keys(at(described, "responses", String.valueOf(terms.answer().status()), "content")),
                terms.answer().fields().stream().map(OperationWords::field).toList(),
                statuses(terms, at(described, "responses")));
    }

    private static String answer(OperationTerms terms) {
        return switch (terms.answer().kind()) {
            case ROWS -> "A page of rows: 'data' has the rows, 'page' tells how to go on.";
            case ROW -> "One row, as an object.";
            case VALUE -> "One value, as {\"value\": ...}.";
            case NOTHING -> "No content.";
            case FILE -> "A file.";
        };
    }

    private List<OperationText.Fact> facts(OperationTerms terms) {
        List<OperationText.Fact> facts = new ArrayList<>();
        facts.add(new OperationText.Fact("Access", access(terms)));
        String quota = Stream.of(terms.quota(), contract.admission().quota())
                .filter(Objects::nonNull)
                .map(some -> some + ".")
                .distinct()
                .collect(Collectors.joining(" "));
        addIf(facts, "Quota", quota);
        PageTerms page = terms.page();
        if (page != null) {
            facts.add(new OperationText.Fact("Pages", pages(page)));
            String order =
                    page.order().stream().map(PageTerms.KeyTerms::toString).collect(Collectors.joining(", "));
            addIf(facts, "Order", order.isEmpty() ? "" : order + ".");
        }
        addIf(facts, "Freshness", freshness(terms.answer()));
        BodyTerms.BatchTerms batch = terms.body().batch();
        if (batch != null) {
            facts.add(new OperationText.Fact("Many at once", batch(batch)));
        }
        addIf(facts, "Assistants", terms.offered() ? "They use it as the tool " + terms.id() + "." : "");
        return facts;
    }

    private static void addIf(List<OperationText.Fact> facts, String term, String words) {
        if (!words.isEmpty()) {
            facts.add(new OperationText.Fact(term, words));
        }
    }

    private String access(OperationTerms terms) {
        List<String> privileges = terms.needs().anyOf();
        String who = terms.needs().open()
                ? "Anybody may call it, without a credential."
                : privileges.isEmpty()
                        ? "Closed to all but administrators."
                        : "Needs the privilege " + String.join(", or ", privileges) + ".";
        return who
                + (contract.admission().tls() ? " By https only." : "")
                + (contract.admission().addresses().isEmpty()
                        ? ""
                        : " From " + String.join(", ", contract.admission().addresses()) + " only.");
    }

    private static String pages(PageTerms page) {
        return "A page holds " + page.limit() + " rows unless 'limit' says otherwise, " + page.most()
                + " at most. Go on with 'page.next', or the Link field with rel=\"next\"; it is absent on the last page."
                + (page.offersAll() ? " limit=all answers up to " + page.mostOfAll() + " rows at once." : "");
    }

    private static String freshness(AnswerTerms answer) {
        List<String> said = new ArrayList<>();
        if (answer.tag()) {
            said.add("The ETag field tells its state: send it in If-None-Match, and get 304 while nothing changed.");
        } else if (answer.modified()) {
            said.add(
                    "Last-Modified tells when it changed: send it in If-Modified-Since, and get 304 while it is that.");
        }
        if (answer.fresh() != null) {
            said.add("An answer may be used again for " + answer.fresh() + " s without asking.");
        }
        return String.join(" ", said);
    }

    private static String batch(BodyTerms.BatchTerms batch) {
        return "The body is a list of up to " + batch.most() + " rows. "
                + (batch.outcome() == BatchRule.Outcome.TOGETHER
                        ? "All of them are done, or none."
                        : "Each is done or refused on its own; the answer tells of each.");
    }

    private static List<InputText> inputs(OperationTerms terms, Map<?, ?> described) {
        Set<String> own = terms.inputs().stream()
                .filter(input -> !input.inBody())
                .map(input -> input.in().name().toLowerCase(Locale.ROOT) + " " + input.name())
                .collect(Collectors.toSet());
        List<InputText> inputs = new ArrayList<>();
        for (Object parameter : list(described, "parameters")) {
            Map<?, ?> map = (Map<?, ?>) parameter;
            if ("deepObject".equals(map.get("style"))) {
                addFilters(String.valueOf(map.get("name")), at(map, "schema", "properties"), inputs);
            } else {
                inputs.add(input(map, !own.contains(map.get("in") + " " + map.get("name"))));
            }
        }
        terms.inputs().stream()
                .filter(InputTerms::inBody)
                .map(OperationWords::part)
                .forEach(inputs::add);
        return inputs;
    }

    private static InputText input(Map<?, ?> parameter, boolean own) {
        Map<?, ?> schema = at(parameter, "schema");
        return new InputText(
                String.valueOf(parameter.get("name")),
                String.valueOf(parameter.get("in")),
                SchemaWords.type(schema),
                Boolean.TRUE.equals(parameter.get("required")),
                textOrNull(parameter.get("description")),
                SchemaWords.limits(schema),
                textOrNull(schema.get("default")),
                textOrNull(parameter.get("example")),
                Boolean.TRUE.equals(parameter.get("deprecated")),
                own,
                null);
    }

    private static void addFilters(String field, Map<?, ?> operators, List<InputText> inputs) {
        operators.forEach((operator, schema) -> inputs.add(new InputText(
                field + "[" + operator + "]",
                "query",
                SchemaWords.type((Map<?, ?>) schema),
                false,
                textOrNull(((Map<?, ?>) schema).get("description")),
                SchemaWords.limits((Map<?, ?>) schema),
                null,
                null,
                false,
                true,
                field)));
    }

    /** A part of a body. */
    private static InputText part(InputTerms part) {
        Map<String, Object> schema = Schemas.parameter(part);
        return new InputText(
                part.name(),
                part.in().name().toLowerCase(Locale.ROOT),
                SchemaWords.type(schema),
                part.required(),
                OpenApi.described(part.about(), part.deprecated()),
                SchemaWords.limits(schema),
                part.usual(),
                part.example(),
                part.deprecated() != null,
                false,
                null);
    }

    private static FieldText field(FieldTerms field) {
        Map<String, Object> schema = Schemas.field(field);
        String type = field.type() == FieldType.JSON
                ? "any JSON" + (field.nullable() ? " or null" : "")
                : SchemaWords.type(schema) + (field.asText() ? ", a number" : "");
        return new FieldText(
                field.name(),
                type,
                OpenApi.described(field.about(), field.deprecated()),
                mask(field),
                field.members().isEmpty() ? List.of() : List.of("one of " + String.join(", ", field.members())),
                field.example(),
                field.deprecated() != null);
    }

    private static @Nullable String mask(FieldTerms field) {
        String mask = field.mask();
        if (mask == null) {
            return null;
        }
        String how = switch (mask) {
            case "whole" -> "Shown as ****";
            case "email" -> "Shown as its first letter and its domain";
            case "hash" -> "Shown as a code that is the same for equal values";
            default -> "Shown as **** and its last " + mask.substring("last-".length()) + " characters";
        };
        return how + (field.unless() == null ? "." : ", but to holders of " + field.unless() + " as it is.");
    }

    private List<StatusText> statuses(OperationTerms terms, Map<?, ?> responses) {
        List<StatusText> statuses = new ArrayList<>();
        responses.forEach(
                (status, response) -> statuses.add(status(terms, String.valueOf(status), (Map<?, ?>) response)));
        return statuses;
    }

    private StatusText status(OperationTerms terms, String status, Map<?, ?> said) {
        String shared =
                said.get("$ref") instanceof String target ? target.substring(target.lastIndexOf('/') + 1) : null;
        Map<?, ?> response = shared == null ? said : at(document, "components", "responses", shared);
        ProblemKind kind = shared == null
                ? refusalKind(terms, status)
                : ProblemKind.labelled(shared).orElse(null);
        List<StatusText.Rule> rules = terms.refusals().stream()
                .filter(rule -> status.equals(String.valueOf(rule.status())))
                .map(rule -> new StatusText.Rule(
                        rule.code(),
                        rule.message() == null
                                ? ProblemKind.ofRefusal(rule.status()).meaning()
                                : rule.message()))
                .distinct()
                .toList();
        return new StatusText(
                status,
                kind == null ? null : kind.title(),
                kind == null ? String.valueOf(response.get("description")) : kind.meaning(),
                kind == null ? null : kind.label(),
                rules,
                headers(at(response, "headers")));
    }

    /** What a status means that the module itself refuses with; null for what is no problem. */
    private static @Nullable ProblemKind refusalKind(OperationTerms terms, String status) {
        return terms.refusals().stream()
                .filter(rule -> status.equals(String.valueOf(rule.status())))
                .map(rule -> ProblemKind.ofRefusal(rule.status()))
                .findFirst()
                .orElse(null);
    }

    private static List<StatusText.Rule> headers(Map<?, ?> headers) {
        List<StatusText.Rule> rules = new ArrayList<>();
        headers.forEach((name, header) -> rules.add(
                new StatusText.Rule(String.valueOf(name), String.valueOf(((Map<?, ?>) header).get("description")))));
        return rules;
    }

    private static @Nullable String textOrNull(@Nullable Object value) {
        return switch (value) {
            case null -> null;
            case List<?> list -> list.stream().map(String::valueOf).collect(Collectors.joining(","));
            default -> value.toString();
        };
    }

    private static List<String> keys(Map<?, ?> map) {
        return map.keySet().stream().map(String::valueOf).toList();
    }

    private static List<?> list(Map<?, ?> map, String key) {
        return map.get(key) instanceof List<?> list ? list : List.of();
    }

    /** What is found in maps within maps; empty where there is nothing. */
    private static Map<?, ?> at(Map<?, ?> map, String... keys) {
        Map<?, ?> at = map;
        for (String key : keys) {
            at = at.get(key) instanceof Map<?, ?> inner ? inner : Map.of();
        }
        return at;
    }
}
