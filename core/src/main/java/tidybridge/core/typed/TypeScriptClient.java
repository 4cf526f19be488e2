package tidybridge.core.typed;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.Binder;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.contract.PageTerms;
import tidybridge.core.reference.ApiText;
import tidybridge.core.reference.OpenApi;
import tidybridge.core.reference.OwnParameters;

/**
 * A client of a module in TypeScript: one file that needs nothing but {@code fetch}, with a method for each operation, made from the module's
 * OpenAPI document. Rows come as JSON; the other forms, and questions whether something has changed, are left to {@code fetch} itself.
 */
public final class TypeScriptClient {

    private static final String FRAME = "client.ts";
    private static final String TYPES = "/*TYPES*/\n";
    private static final String METHODS = "/*METHODS*/\n";

    /** What a caller of a typed client does not say, because it changes what kind of answer comes. */
    private static final Set<String> LEFT_OUT =
            Set.of(Binder.FORMAT, Binder.HEADER, "If-None-Match", "If-Modified-Since");

    /** Names of the file itself, and of what it uses. */
    private static final Set<String> OWN = Set.of(
            "Reply",
            "ProblemError",
            "Settings",
            "Part",
            "Array",
            "Blob",
            "Boolean",
            "Error",
            "Headers",
            "JSON",
            "Map",
            "Number",
            "Object",
            "Promise",
            "Record",
            "Request",
            "RequestInit",
            "Response",
            "String",
            "URL",
            "URLSearchParams",
            "AsyncGenerator",
            "BodyInit");

    private final Contract contract;
    private final Map<String, Object> document;
    private final Identifiers identifiers = new Identifiers(OWN);
    private final TypeScriptTypes types;
    private final Identifiers methods = new Identifiers(Set.of("constructor", "call", "settings"));

    private TypeScriptClient(Contract contract) {
        this.contract = contract;
        this.document = OpenApi.document(contract);
        this.types = new TypeScriptTypes(ApiText.at(document, "components", "schemas"), identifiers);
    }

    /**
     * The client's text.
     *
     * @param origin where the service is for whoever asks
     */
    public static String text(Contract contract, String origin) {
        return new TypeScriptClient(contract).text(origin);
    }

    private String text(String origin) {
        String client =
                identifiers.type(contract.module() + "-v" + contract.version().major());
        StringBuilder inputs = new StringBuilder();
        StringBuilder calls = new StringBuilder();
        contract.operations().forEach(operation -> write(operation, inputs, calls));
        String about = contract.title() + ": " + contract.identity() + ", release " + contract.version() + ".";
        return ClientFrame.read(FRAME)
                .replace("/*ABOUT*/", about.replaceAll("\\R", " "))
                .replace("/*CLIENT*/", client)
                .replace("\"/*BASE*/\"", TypeScriptTypes.literal(origin + contract.basePath()))
                .replace(METHODS, calls)
                .replace(TYPES, types.declarations() + inputs);
    }

    /**
     * Something that a caller says.
     *
     * @param member its name in the input
     * @param name its name in the request
     * @param place {@code path}, {@code query}, {@code header} or {@code cookie}
     */
    private record Said(String member, String name, String place, boolean required, Map<String, Object> parameter) {}

    private void write(OperationTerms operation, StringBuilder inputs, StringBuilder calls) {
        Map<String, Object> described = ApiText.at(
                document, "paths", operation.path(), operation.method().name().toLowerCase(Locale.ROOT));
        List<Said> said = said(operation, described);
        Map<String, Object> body = ApiText.at(described, "requestBody");
        String type = ApiText.at(body, "content").keySet().stream().findFirst().orElse("");
        boolean bodyNeeded = Boolean.TRUE.equals(body.get("required"));
        boolean needed = bodyNeeded || said.stream().anyMatch(Said::required);
        String input = said.isEmpty() && type.isEmpty() ? "" : identifiers.type(operation.id() + "-input");
        if (!input.isEmpty()) {
            inputs.append(input(operation, input, said, body, type, bodyNeeded));
        }
        String method = methods.member(operation.id());
        Answer answer = answer(operation, described);
        String taken = input.isEmpty() ? "" : "input: " + input + (needed ? "" : " = {}") + ", ";
        calls.append(TypeScriptTypes.comment(about(described), "  "))
                .append("  ")
                .append(method)
                .append("(")
                .append(taken)
                .append("init: RequestInit = {}): Promise<Reply<")
                .append(answer.type())
                .append(">> {\n    return this.call(\"")
                .append(operation.method())
                .append("\", ")
                .append(path(operation, said))
                .append(", \"")
                .append(answer.kind())
                .append("\", init, [")
                .append(parts(said))
                .append("]")
                .append(type.isEmpty() ? "" : ", input.body, " + TypeScriptTypes.literal(type))
                .append(");\n  }\n\n");
        String row = operation.page() == null ? null : row(answer.schema());
        if (row != null) {
            calls.append(rows(methods.member(operation.id() + "-rows"), method, input, needed, row));
        }
    }

    private static List<String> about(Map<String, Object> described) {
        List<String> lines = new ArrayList<>(List.of(ApiText.text(described.get("description"))));
        if (Boolean.TRUE.equals(described.get("deprecated"))) {
            lines.add("@deprecated");
        }
        return lines;
    }

    /** What callers of a typed client say beside a body. */
    static List<Map<String, Object>> parameters(OperationTerms operation, Map<String, Object> described) {
        Set<String> own = OwnParameters.of(operation).stream()
                .map(parameter -> parameter.name())
                .filter(LEFT_OUT::contains)
                .collect(Collectors.toSet());
        return ApiText.objects(described.get("parameters")).stream()
                .filter(parameter -> {
                    String name = ApiText.text(parameter.get("name"));
                    return !own.contains(name)
                            || operation.inputs().stream()
                                    .anyMatch(input -> input.name().equals(name));
                })
                .toList();
    }

    private static List<Said> said(OperationTerms operation, Map<String, Object> described) {
        Identifiers members = new Identifiers(Set.of("body"));
        List<Said> said = new ArrayList<>();
        for (Map<String, Object> parameter : parameters(operation, described)) {
            String name = ApiText.text(parameter.get("name"));
            String place = ApiText.text(parameter.get("in"));
            String member = place.equals("header") ? members.member(name) : members.free(name);
            said.add(new Said(member, name, place, Boolean.TRUE.equals(parameter.get("required")), parameter));
        }
        return said;
    }

    private String input(
            OperationTerms operation,
            String name,
            List<Said> said,
            Map<String, Object> body,
            String type,
            boolean bodyNeeded) {
        StringBuilder text = new StringBuilder("\n/** What ")
                .append(operation.id())
                .append(" is told. */\nexport interface ")
                .append(name)
                .append(" {\n");
        for (Said one : said) {
            text.append(TypeScriptTypes.comment(
                            List.of(ApiText.text(one.parameter().get("description"))), "  "))
                    .append("  ")
                    .append(TypeScriptTypes.key(one.member()))
                    .append(one.required() ? ": " : "?: ")
                    .append(type(operation, one))
                    .append(one.required() ? ";\n" : " | undefined;\n");
        }
        if (!type.isEmpty()) {
            text.append("  body")
                    .append(bodyNeeded ? ": " : "?: ")
                    .append(types.type(ApiText.at(body, "content", type, "schema")))
                    .append(bodyNeeded ? ";\n" : " | undefined;\n");
        }
        return text.append("}\n").toString();
    }

    private String type(OperationTerms operation, Said said) {
        PageTerms page = operation.page();
        boolean all = page != null && page.offersAll() && said.name().equals(Binder.LIMIT);
        return all ? "number | \"all\"" : types.type(ApiText.at(said.parameter(), "schema"));
    }

    /** {@code `/berths/${this.segment(input.berthId)}`} */
    private static String path(OperationTerms operation, List<Said> said) {
        String path = operation.path().equals("/") ? "" : operation.path();
        StringBuilder text = new StringBuilder("`");
        int from = 0;
        for (int open = path.indexOf('{'); open >= 0; open = path.indexOf('{', from)) {
            int close = path.indexOf('}', open);
            String name = path.substring(open + 1, close);
            text.append(plain(path.substring(from, open)))
                    .append("${encodeURIComponent(String(")
                    .append(said.stream()
                            .filter(one ->
                                    one.place().equals("path") && one.name().equals(name))
                            .map(one -> member(one.member()))
                            .findFirst()
                            .orElse("\"\""))
                    .append("))}");
            from = close + 1;
        }
        return text.append(plain(path.substring(from))).append("`").toString();
    }

    private static String plain(String path) {
        return path.replace("\\", "\\\\").replace("`", "\\`").replace("$", "\\$");
    }

    private static String member(String name) {
        String key = TypeScriptTypes.key(name);
        return key.equals(name) ? "input." + name : "input[" + key + "]";
    }

    private static String parts(List<Said> said) {
        return said.stream()
                .filter(one -> !one.place().equals("path"))
                .map(one -> "[" + TypeScriptTypes.literal(one.place()) + ", " + TypeScriptTypes.literal(one.name())
                        + ", " + member(one.member()) + "]")
                .collect(Collectors.joining(", "));
    }

    /**
     * What comes back.
     *
     * @param kind how it is read: {@code json}, {@code file} or {@code nothing}
     */
    private record Answer(String type, String kind, Map<String, Object> schema) {}

    private Answer answer(OperationTerms operation, Map<String, Object> described) {
        Map<String, Object> content = ApiText.at(
                described, "responses", String.valueOf(operation.answer().status()), "content");
        if (content.isEmpty()) {
            return new Answer("void", "nothing", Map.of());
        }
        if (!content.containsKey("application/json")) {
            return new Answer("Blob", "file", Map.of());
        }
        Map<String, Object> schema = ApiText.at(content, "application/json", "schema");
        return new Answer(types.type(schema), "json", schema);
    }

    /** The type of a page's rows; null for what is no page. */
    private @Nullable String row(Map<String, Object> page) {
        String reference = ApiText.text(page.get("$ref")).replaceFirst(".*/", "");
        Map<String, Object> whole =
                reference.isEmpty() ? page : ApiText.at(document, "components", "schemas", reference);
        Map<String, Object> items = ApiText.at(whole, "properties", "data", "items");
        return items.isEmpty() ? null : types.type(items);
    }

    private static String rows(String name, String method, String input, boolean needed, String row) {
        return """
                  /** Every row of this page and of those that follow, page by page. */
                  async *%s(input: %s%s, init: RequestInit = {}): AsyncGenerator<%s> {
                    for (let asked = input; ; ) {
                      const { body } = await this.%s(asked, init);
                      yield* body.data;
                      if (body.page.after === undefined) {
                        return;
                      }
                      asked = { ...input, after: body.page.after };
                    }
                  }

                """.formatted(name, input, needed ? "" : " = {}", row, method);
    }
}
