package tidybridge.core.reference;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.snakeyaml.engine.v2.api.Dump;
import org.snakeyaml.engine.v2.api.DumpSettings;
import org.snakeyaml.engine.v2.common.FlowStyle;
import tidybridge.core.access.Needs;
import tidybridge.core.bind.Binder;
import tidybridge.core.bind.BodyKind;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.PageRule;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OneRowPlan;
import tidybridge.core.plan.OperationIds;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.PageOrder;
import tidybridge.core.plan.RoutePlan;
import tidybridge.core.problem.Problem;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * The OpenAPI 3.1 description of a module, made from its plan. Rows are described in JSON Schema 2020-12 by their statement's real
 * column types.
 */
public final class OpenApi {

    /** Where tokens are got, on the service. */
    public static final String TOKEN_PATH = "/oauth/token";

    private static final String OAUTH = "oauth";
    private static final String KEY = "key";

    private static final JsonMapper JSON =
            JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

    private final ModulePlan module;
    private final OperationIds ids;
    private final Map<String, Object> schemas = new TreeMap<>();
    private final RowSchemas rows = new RowSchemas(schemas);

    private OpenApi(ModulePlan module) {
        this.module = module;
        this.ids = OperationIds.of(module);
    }

    /** The document as maps, lists, texts, numbers and booleans, in reading order. */
    public static Map<String, Object> document(ModulePlan module) {
        return new OpenApi(module).document();
    }

    /** The document as JSON in UTF-8. */
    public static byte[] json(ModulePlan module) {
        return JSON.writeValueAsBytes(document(module));
    }

    /** The document as YAML. */
    public static String yaml(ModulePlan module) {
        DumpSettings settings = DumpSettings.builder()
                .setDefaultFlowStyle(FlowStyle.BLOCK)
                .setDereferenceAliases(true)
                .build();
        return new Dump(settings, new UnmistakableYaml(settings)).dumpToString(document(module));
    }

    private Map<String, Object> document() {
        Map<String, Object> info =
                map("title", module.title(), "version", module.version().toString());
        info.put("description", module.about() == null ? module.title() : module.about());
        Map<String, Object> paths = new LinkedHashMap<>();
        for (RoutePlan route : module.routes()) {
            Map<String, Object> item = new LinkedHashMap<>();
            for (OperationPlan operation : route.operations()) {
                item.put(operation.method().name().toLowerCase(Locale.ROOT), operation(operation));
            }
            paths.put(route.path().text(), item);
        }
        schemas.put("Problem", Schemas.problem());
        Map<String, Object> responses = Responses.shared();
        Unused.drop(paths, Map.of("schemas", schemas, "responses", responses));
        Map<String, Object> components = map("schemas", schemas, "responses", responses);
        Map<String, Object> document = map(
                "openapi", "3.1.0", "info", info, "servers", List.of(map("url", module.basePath())), "paths", paths);
        components.put("securitySchemes", schemes());
        document.put("tags", tags());
        document.put("components", components);
        return document;
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
        module.operations()
                .forEach(operation -> operation
                        .needs()
                        .anyOf()
                        .forEach(privilege -> scopes.putIfAbsent(
                                privilege,
                                "Needed by " + operation.method() + " "
                                        + operation.path().text() + ".")));
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
        return module.routes().stream()
                .map(route -> tag(route.path().text()))
                .distinct()
                .map(tag -> map("name", tag, "description", "Everything under /" + tag + "."))
                .toList();
    }

    /** Operations stand together by the first word of their path. */
    private String tag(String path) {
        String first = path.split("/", -1)[1];
        return first.isEmpty() || first.contains("{") ? module.name() : first;
    }

    private Map<String, Object> operation(OperationPlan plan) {
        String id = ids.of(plan);
        Map<String, Object> result =
                map("operationId", id, "tags", List.of(tag(plan.path().text())));
        if (plan.header().about() != null) {
            result.put("summary", plan.header().about());
        }
        result.put("description", description(plan));
        result.put("security", security(plan.needs()));
        List<Object> parameters = new ArrayList<>();
        for (ParameterDefinition parameter : plan.parameters()) {
            switch (parameter.in()) {
                case PATH, QUERY, HEADER, COOKIE -> parameters.add(parameter(parameter));
                case BODY, FORM, CALLER, REQUEST -> {}
            }
        }
        OwnParameters.of(plan).forEach(own -> parameters.add(parameter(own)));
        if (plan instanceof CollectionPlan collection) {
            parameters.addAll(FilterParameters.of(collection.filters()));
            parameters.add(limit(collection.page()));
            parameters.add(after(collection.order()));
        }
        if (!parameters.isEmpty()) {
            result.put("parameters", parameters);
        }
        BodyKind body = plan.binder().bodyKind();
        if (body != BodyKind.NONE) {
            result.put("requestBody", RequestBody.of(plan, body));
        }
        if (plan.header().deprecated() != null) {
            result.put("deprecated", true);
        }
        result.put("responses", new Responses(module, plan, answer(plan, id)).all());
        return result;
    }

    /** What its owner says of it, and what the plan knows besides. */
    private static String description(OperationPlan plan) {
        String about = plan.header().about();
        String said = about == null ? "" : about.endsWith(".") ? about + " " : about + ". ";
        String more = switch (plan) {
            case CollectionPlan page ->
                "A page holds " + page.page().limit() + " rows unless 'limit' says otherwise, "
                        + page.page().most() + " at most.";
            case OneRowPlan row -> "";
            case ChangePlan change ->
                change.sequence().readOnly()
                        ? ""
                        : "Sent again with the same Idempotency-Key, it is answered alike and done once.";
        };
        String all = said + more + (more.isEmpty() ? "" : " ") + needed(plan.needs());
        return all.isBlank() ? plan.label() : all.strip();
    }

    private static String needed(Needs needs) {
        return needs.anyOf().isEmpty() ? "" : "Needs the privilege " + String.join(", or ", needs.anyOf()) + ".";
    }

    private static Map<String, Object> parameter(ParameterDefinition parameter) {
        Map<String, Object> result =
                map("name", parameter.wireName(), "in", parameter.in().name().toLowerCase(Locale.ROOT));
        if (parameter.about() != null) {
            result.put("description", parameter.about());
        }
        result.put("required", parameter.required());
        result.put("schema", Schemas.parameter(parameter));
        if (parameter.deprecated() != null) {
            result.put("deprecated", true);
        }
        Object example = Schemas.example(parameter);
        if (example != null) {
            result.put("example", example);
        }
        return result;
    }

    private static Map<String, Object> limit(PageRule page) {
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

    private static Map<String, Object> after(PageOrder order) {
        String by = order.keys().stream()
                .map(key -> key.name() + (key.descending() ? " (descending)" : ""))
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
    private Map<String, Object> answer(OperationPlan plan, String id) {
        Map<String, Object> whole = whole(plan, id);
        if (plan.fields().stream().anyMatch(field -> field.type() == FieldType.JSON)) {
            schemas.put("Json", Schemas.json());
        }
        if (!(plan instanceof ChangePlan change) || change.preview() == null || whole.isEmpty()) {
            return whole;
        }
        String name = RowSchemas.pascal(id) + "Answer";
        schemas.put(name, Schemas.orPreview(resolved(whole)));
        return reference("schemas", name);
    }

    private Map<String, Object> whole(OperationPlan plan, String id) {
        if (plan instanceof ChangePlan change && change.batch() != null) {
            return Schemas.batch(change.batch());
        }
        return switch (plan.answer()) {
            case ROWS -> rows.page(rows.row(plan, tag(plan.path().text()), id, row(plan)));
            case ROW -> reference("schemas", rows.row(plan, tag(plan.path().text()), id, row(plan)));
            case VALUE ->
                map(
                        "type", "object",
                        "required", List.of("value"),
                        "properties", map("value", Schemas.field(plan.fields().getFirst())));
            case NOTHING, FILE -> map();
        };
    }

    private static Map<String, Object> row(OperationPlan plan) {
        Map<String, Object> row = Schemas.row(plan.fields());
        if (!plan.forms().choices().names().isEmpty()) {
            Schemas.chosen(row);
        }
        return Schemas.withResults(row, plan);
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
