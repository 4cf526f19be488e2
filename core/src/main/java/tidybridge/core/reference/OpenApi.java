package tidybridge.core.reference;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.snakeyaml.engine.v2.api.Dump;
import org.snakeyaml.engine.v2.api.DumpSettings;
import org.snakeyaml.engine.v2.common.FlowStyle;
import tidybridge.core.access.Needs;
import tidybridge.core.bind.Binder;
import tidybridge.core.bind.BodyKind;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.contract.AnswerTerms;
import tidybridge.core.contract.BodyTerms;
import tidybridge.core.contract.ChangeTerms;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.ExampleValue;
import tidybridge.core.contract.InputTerms;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.contract.PageTerms;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.definition.Listing;
import tidybridge.core.problem.Problem;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * The OpenAPI 3.1 description of a module, made from what its release promises. Rows are described in JSON Schema 2020-12 by the types
 * their statement had when it was published.
 */
public final class OpenApi {

    /** Where tokens are got, on the service. */
    public static final String TOKEN_PATH = "/oauth/token";

    static final String OAUTH = "oauth";
    private static final String KEY = "key";

    private static final JsonMapper JSON =
            JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

    private final Contract contract;
    private final Map<String, Object> schemas = new TreeMap<>();
    private final RowSchemas rows = new RowSchemas(schemas);
    private final RowLinks links;

    private OpenApi(Contract contract) {
        this.contract = contract;
        this.links = new RowLinks(contract);
    }

    /** The document as maps, lists, texts, numbers and booleans, in reading order. */
    public static Map<String, Object> document(Contract contract) {
        return new OpenApi(contract).document();
    }

    /** The document as JSON in UTF-8. */
    public static byte[] json(Contract contract) {
        return JSON.writeValueAsBytes(document(contract));
    }

    /** The document as YAML. */
    public static String yaml(Contract contract) {
        DumpSettings settings = DumpSettings.builder()
                .setDefaultFlowStyle(FlowStyle.BLOCK)
                .setDereferenceAliases(true)
                .build();
        return new Dump(settings, new UnmistakableYaml(settings)).dumpToString(document(contract));
    }

    private Map<String, Object> document() {
        Map<String, Object> info =
                map("title", contract.title(), "version", contract.version().toString());
        String about = contract.about() == null ? contract.title() : contract.about();
        info.put("description", contract.deprecated() == null ? about : about + "\n\n" + ended(contract.deprecated()));
        String owner = contract.found().owner() == null
                ? "the owner of " + contract.module()
                : contract.found().owner();
        info.put("contact", contact(contract.found(), owner));
        String terms = contract.found().terms();
        if (terms != null) {
            info.put("termsOfService", terms);
            info.put("license", map("name", "Terms of " + owner, "url", terms));
        }
        Map<String, Object> paths = new LinkedHashMap<>();
        for (OperationTerms operation : contract.operations()) {
            item(paths, operation.path()).put(operation.method().name().toLowerCase(Locale.ROOT), operation(operation));
        }
        schemas.put("Problem", Schemas.problem());
        Map<String, Object> responses = Responses.shared();
        Unused.drop(paths, Map.of("schemas", schemas, "responses", responses));
        Map<String, Object> components = map("schemas", schemas, "responses", responses);
        Map<String, Object> document = map(
                "openapi", "3.1.0", "info", info, "servers", List.of(map("url", contract.basePath())), "paths", paths);
        components.put("securitySchemes", schemes());
        document.put("tags", tags());
        document.put("components", components);
        return document;
    }

    /** Who answers for the module. */
    private static Map<String, Object> contact(Listing listing, String owner) {
        Map<String, Object> contact = map("name", owner);
        String address = listing.contact();
        if (address != null) {
            contact.put(address.startsWith("https://") ? "url" : "email", address);
        }
        return contact;
    }

    @SuppressWarnings("unchecked")
    private static Map<String, Object> item(Map<String, Object> paths, String path) {
        return (Map<String, Object>) paths.computeIfAbsent(path, key -> map());
    }

    /**
     * A token that was got with one of the privileges as its scope, or a key of an application that holds one. What is open takes them too:
     * they may show what is masked for others.
     */
    private static List<Map<String, Object>> security(Needs needs) {
        List<Map<String, Object>> requirements = new ArrayList<>();
        if (needs.open()) {
            requirements.add(map());
        }
        if (needs.anyOf().isEmpty()) {
            requirements.add(map(OAUTH, List.of()));
        }
        needs.anyOf().forEach(privilege -> requirements.add(map(OAUTH, List.of(privilege))));
        requirements.add(map(KEY, List.of()));
        return requirements;
    }

    private Map<String, Object> schemes() {
        Map<String, Object> scopes = new TreeMap<>();
        contract.operations()
                .forEach(operation -> operation
                        .needs()
                        .anyOf()
                        .forEach(privilege -> scopes.putIfAbsent(privilege, "Needed by " + operation.label() + ".")));
        return map(
                OAUTH,
                map(
                        "type", "oauth2",
                        "description", "A token that an application gets with its name and a key of its own.",
                        "flows", map("clientCredentials", map("tokenUrl", TOKEN_PATH, "scopes", scopes))),
                KEY,
                map(
                        "type", "http",
                        "scheme", "bearer",
                        "description", "A key itself, as the module's owner gave it to an application."));
    }

    private List<Map<String, Object>> tags() {
        return contract.operations().stream()
                .map(operation -> tag(contract, operation.path()))
                .distinct()
                .map(tag -> map("name", tag, "description", "Everything under /" + tag + "."))
                .toList();
    }

    /** Operations stand together by the first word of their path. */
    static String tag(Contract contract, String path) {
        String first = path.split("/", -1)[1];
        return first.isEmpty() || first.contains("{") ? contract.module() : first;
    }

    private Map<String, Object> operation(OperationTerms operation) {
        Map<String, Object> result =
                map("operationId", operation.id(), "tags", List.of(tag(contract, operation.path())));
        if (operation.about() != null) {
            result.put("summary", operation.about());
        }
        result.put("description", description(operation));
        result.put("security", security(operation.needs()));
        List<Object> parameters = new ArrayList<>();
        operation.inputs().stream()
                .filter(input -> !input.inBody())
                .map(OpenApi::parameter)
                .forEach(parameters::add);
        OwnParameters.of(operation).forEach(own -> parameters.add(parameter(own)));
        PageTerms page = operation.page();
        if (page != null) {
            parameters.addAll(FilterParameters.of(page.filters()));
            parameters.add(limit(page));
            parameters.add(after(page));
        }
        if (!parameters.isEmpty()) {
            result.put("parameters", parameters);
        }
        if (operation.body().kind() != BodyKind.NONE) {
            result.put("requestBody", RequestBody.of(operation));
        }
        if (operation.deprecated() != null || contract.deprecated() != null) {
            result.put("deprecated", true);
        }
        result.put("responses", new Responses(contract, operation, answer(operation), links.of(operation)).all());
        return result;
    }

    /** What its owner says of it, and what the plan knows besides. */
    private String description(OperationTerms operation) {
        String about = operation.about();
        String said = about == null ? "" : about.endsWith(".") ? about + " " : about + ". ";
        PageTerms page = operation.page();
        ChangeTerms change = operation.change();
        String more = "";
        if (page != null) {
            more = "A page holds " + page.limit() + " rows unless 'limit' says otherwise, " + page.most() + " at most.";
        } else if (change != null && !change.readOnly()) {
            more = "Sent again with the same Idempotency-Key, it is answered alike and done once.";
        }
        String end = ended(operation.deprecated());
        String all = said
                + end
                + (end.isEmpty() ? "" : " ")
                + more
                + (more.isEmpty() ? "" : " ")
                + needed(operation.needs());
        return all.isBlank() ? contract.identity() + " " + operation.label() : all.strip();
    }

    /** What is said of an end; empty for nothing. */
    static String ended(@Nullable Deprecation deprecated) {
        return deprecated == null ? "" : deprecated.words();
    }

    /** What is said of something, with what is said of its end; null for nothing. */
    static @Nullable String described(@Nullable String about, @Nullable Deprecation deprecated) {
        if (deprecated == null) {
            return about;
        }
        String said = about == null ? "" : about.endsWith(".") ? about + " " : about + ". ";
        return said + ended(deprecated);
    }

    private static String needed(Needs needs) {
        return needs.anyOf().isEmpty() ? "" : "Needs the privilege " + String.join(", or ", needs.anyOf()) + ".";
    }

    private static Map<String, Object> parameter(InputTerms parameter) {
        Map<String, Object> result =
                map("name", parameter.name(), "in", parameter.in().name().toLowerCase(Locale.ROOT));
        String about = described(parameter.about(), parameter.deprecated());
        if (about != null) {
            result.put("description", about);
        }
        result.put("required", parameter.required());
        result.put("schema", Schemas.parameter(parameter));
        if (parameter.deprecated() != null) {
            result.put("deprecated", true);
        }
        Object example = ExampleValue.of(parameter);
        if (example != null) {
            result.put("example", example);
        }
        return result;
    }

    private static Map<String, Object> limit(PageTerms page) {
        return map(
                "name",
                Binder.LIMIT,
                "in",
                "query",
                "description",
                page.offersAll()
                        ? "How many rows a page may hold, " + page.most()
                                + " at most; 'all' for every row in one answer, up to " + page.mostOfAll() + "."
                        : "How many rows a page may hold.",
                "required",
                false,
                "schema",
                page.offersAll()
                        ? map(
                                "type",
                                "string",
                                "pattern",
                                "^(all|[1-9][0-9]{0,8})$",
                                "default",
                                String.valueOf(page.limit()))
                        : map("type", "integer", "minimum", 1, "maximum", page.most(), "default", page.limit()));
    }

    private static Map<String, Object> after(PageTerms page) {
        String by = page.order().stream()
                .map(PageTerms.KeyTerms::toString)
                .collect(Collectors.joining(", ", " Rows are ordered by ", "."));
        return map(
                "name",
                Binder.AFTER,
                "in",
                "query",
                "description",
                "Continues a collection; take it from page.after as it is." + by,
                "required",
                false,
                "schema",
                map("type", "string"));
    }

    static Map<String, Object> reference(String kind, String name) {
        return map("$ref", "#/components/" + kind + "/" + name);
    }

    /** The schema of what is answered; empty for nothing and for files. */
    private Map<String, Object> answer(OperationTerms operation) {
        Map<String, Object> whole = whole(operation);
        if (operation.answer().fields().stream().anyMatch(field -> field.type() == FieldType.JSON)) {
            schemas.put("Json", Schemas.json());
        }
        ChangeTerms change = operation.change();
        if (change == null || !change.preview() || whole.isEmpty()) {
            return whole;
        }
        String name = RowSchemas.pascal(operation.id()) + "Answer";
        schemas.put(name, Schemas.orPreview(resolved(whole)));
        return reference("schemas", name);
    }

    private Map<String, Object> whole(OperationTerms operation) {
        BodyTerms.BatchTerms batch = operation.body().batch();
        if (batch != null) {
            return Schemas.batch(batch);
        }
        AnswerTerms answer = operation.answer();
        return switch (answer.kind()) {
            case ROWS -> rows.page(rows.row(operation, tag(contract, operation.path()), row(answer)));
            case ROW -> reference("schemas", rows.row(operation, tag(contract, operation.path()), row(answer)));
            case VALUE ->
                map(
                        "type", "object",
                        "required", List.of("value"),
                        "properties", map("value", Schemas.field(answer.fields().getFirst())));
            case NOTHING, FILE -> map();
        };
    }

    private static Map<String, Object> row(AnswerTerms answer) {
        Map<String, Object> row = Schemas.row(answer.fields());
        if (!answer.choices().isEmpty()) {
            Schemas.chosen(row);
        }
        return Schemas.withResults(row, answer.results());
    }

    @SuppressWarnings("unchecked")
    private Map<String, Object> resolved(Map<String, Object> schema) {
        Object target = schema.get("$ref");
        return target instanceof String text
                ? (Map<String, Object>) schemas.getOrDefault(text.substring(text.lastIndexOf('/') + 1), schema)
                : schema;
    }

    static Map<String, Object> problemContent() {
        return map(Problem.MEDIA_TYPE, map("schema", reference("schemas", "Problem")));
    }

    /** A map in the order of its arguments: key, value, key, value. */
    static Map<String, Object> map(Object... pairs) {
        Map<String, Object> map = new LinkedHashMap<>();
        for (int i = 0; i < pairs.length; i += 2) {
            map.put((String) pairs[i], pairs[i + 1]);
        }
        return map;
    }
}
