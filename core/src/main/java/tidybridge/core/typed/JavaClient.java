package tidybridge.core.typed;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.reference.ApiText;
import tidybridge.core.reference.OpenApi;

/**
 * A client of a module in Java: one file that needs nothing but Java's own library, with a method for each operation, made from the module's
 * OpenAPI document. It leaves out what {@link TypeScriptClient} leaves out.
 */
public final class JavaClient {

    private static final String FRAME = "client.java";

    /** Names of the file itself, and of what it uses. */
    private static final Set<String> OWN = Set.of(
            "ArrayList",
            "BigDecimal",
            "BigInteger",
            "Boolean",
            "Character",
            "Class",
            "Consumer",
            "Deprecated",
            "Exception",
            "Function",
            "HttpClient",
            "HttpHeaders",
            "HttpRequest",
            "HttpResponse",
            "IOException",
            "IllegalArgumentException",
            "Input",
            "Integer",
            "InterruptedException",
            "Iterable",
            "Json",
            "LinkedHashMap",
            "List",
            "LocalDate",
            "Long",
            "Map",
            "Math",
            "Nothing",
            "Number",
            "Object",
            "Override",
            "ProblemException",
            "Record",
            "Reply",
            "RuntimeException",
            "Sent",
            "StandardCharsets",
            "String",
            "StringBuilder",
            "Supplier",
            "SuppressWarnings",
            "URI",
            "URLEncoder",
            "Void");

    private final Contract contract;
    private final Map<String, Object> document;
    private final Identifiers identifiers = new Identifiers(OWN);
    private final Identifiers methods = new Identifiers(JavaTypes.RESERVED);
    private final String client;
    private final JavaTypes types;
    private final StringBuilder inputs = new StringBuilder();
    private final StringBuilder calls = new StringBuilder();

    private JavaClient(Contract contract) {
        this.contract = contract;
        this.document = OpenApi.document(contract);
        this.client = identifiers.type(name(contract));
        this.types = new JavaTypes(ApiText.at(document, "components", "schemas"), identifiers);
        methods.member("call");
    }

    private static String name(Contract contract) {
        return contract.module() + "-v" + contract.version().major();
    }

    /** The name of the file, {@code MooringsV1.java}. */
    public static String file(Contract contract) {
        return new Identifiers(OWN).type(name(contract)) + ".java";
    }

    /**
     * The client's text.
     *
     * @param origin where the service is for whoever asks
     */
    public static String text(Contract contract, String origin) {
        return new JavaClient(contract).text(origin);
    }

    private String text(String origin) {
        contract.operations().forEach(this::write);
        String about = contract.title() + ": " + contract.identity() + ", release " + contract.version() + ".";
        return ClientFrame.read(FRAME)
                .replace("/*ABOUT*/", about.replaceAll("\\R", " ").replace("\\", "/"))
                .replace("/*CLIENT*/", client)
                .replace("\"/*BASE*/\"", JavaTypes.literal(origin + contract.basePath()))
                .replace("/*METHODS*/\n", calls)
                .replace("/*TYPES*/\n", types.declarations() + inputs);
    }

    private void write(OperationTerms operation) {
        Map<String, Object> described = ApiText.at(
                document, "paths", operation.path(), operation.method().name().toLowerCase(Locale.ROOT));
        String input = input(operation, described);
        String method = methods.member(operation.id());
        String taken = input.isEmpty() ? "" : input + " input";
        String passed = input.isEmpty() ? "NOTHING" : "input";
        Answer answer = answer(operation, described);
        String address = path(operation);
        String deprecated = Boolean.TRUE.equals(described.get("deprecated")) ? "    @Deprecated\n" : "";
        String about = JavaTypes.comment(List.of(ApiText.text(described.get("description"))), "    ");
        calls.append(about)
                .append(deprecated)
                .append("    public Reply<")
                .append(answer.type())
                .append("> ")
                .append(method)
                .append("(")
                .append(taken)
                .append(") throws IOException, InterruptedException {\n        return call(")
                .append(JavaTypes.literal(operation.method().name()))
                .append(", ")
                .append(address)
                .append(", ")
                .append(passed)
                .append(", null, ")
                .append(answer.read())
                .append(");\n    }\n\n");
        if (!answer.row().isEmpty()) {
            rows(operation, taken, passed, address, answer, deprecated);
        }
    }

    private void rows(
            OperationTerms operation, String taken, String passed, String address, Answer answer, String deprecated) {
        String each = "Consumer<? super " + answer.row() + "> each";
        calls.append("    /** Takes every row of this page and of those that follow, page by page. */\n")
                .append(deprecated)
                .append("    public void ")
                .append(methods.member(operation.id() + "-rows"))
                .append("(")
                .append(taken.isEmpty() ? each : taken + ", " + each)
                .append(
                        ") throws IOException, InterruptedException {\n        String after = null;\n        do {\n            ")
                .append(answer.type())
                .append(" page = call(")
                .append(JavaTypes.literal(operation.method().name()))
                .append(", ")
                .append(address)
                .append(", ")
                .append(passed)
                .append(", after, ")
                .append(answer.read())
                .append(
                        ").body();\n            page.data().forEach(each);\n            after = page.page().after();\n        }")
                .append(" while (after != null);\n    }\n\n");
    }

    /** The name of the class of what a call is told; empty for nothing. */
    private String input(OperationTerms operation, Map<String, Object> described) {
        Identifiers members = new Identifiers(JavaTypes.RESERVED);
        List<JavaTypes.Member> said = new ArrayList<>();
        for (Map<String, Object> parameter : TypeScriptClient.parameters(operation, described)) {
            String name = ApiText.text(parameter.get("name"));
            String place = ApiText.text(parameter.get("in")) + " ";
            Map<String, Object> schema = ApiText.at(parameter, "schema");
            String about = ApiText.text(parameter.get("description"));
            if ("deepObject".equals(parameter.get("style"))) {
                Map<String, Object> conditions = ApiText.at(schema, "properties");
                for (String condition : conditions.keySet()) {
                    said.add(member(
                            members.member(name + "-" + condition),
                            types.sent(ApiText.at(conditions, condition), ""),
                            about,
                            false,
                            place + name + "[" + condition + "]"));
                }
            } else {
                boolean required = Boolean.TRUE.equals(parameter.get("required"));
                said.add(member(
                        members.member(name),
                        types.sent(schema, operation.id() + "-" + name),
                        about,
                        required,
                        place + name));
            }
        }
        Map<String, Object> body = ApiText.at(described, "requestBody");
        String media = ApiText.at(body, "content").keySet().stream().findFirst().orElse("");
        if (!media.isEmpty()) {
            String type = types.sent(ApiText.at(body, "content", media, "schema"), operation.id() + "-body");
            said.add(new JavaTypes.Member(
                    members.member("body"),
                    type,
                    "The body of the request.",
                    Boolean.TRUE.equals(body.get("required")),
                    false,
                    "send(" + JavaTypes.literal(media) + ", value)"));
        }
        if (said.isEmpty()) {
            return "";
        }
        String name = identifiers.type(operation.id() + "-input");
        inputs.append(JavaTypes.described(name, "Input", "What " + operation.id() + " is told.", said));
        return name;
    }

    private static JavaTypes.Member member(String called, String type, String about, boolean required, String place) {
        return new JavaTypes.Member(
                called, type, about, required, false, "say(" + JavaTypes.literal(place) + ", value)");
    }

    /** {@code "/berths/" + input.segment("berthId")} */
    private static String path(OperationTerms operation) {
        String path = operation.path().equals("/") ? "" : operation.path();
        List<String> parts = new ArrayList<>();
        int from = 0;
        for (int open = path.indexOf('{'); open >= 0; open = path.indexOf('{', from)) {
            int close = path.indexOf('}', open);
            parts.add(JavaTypes.literal(path.substring(from, open)));
            parts.add("input.segment(" + JavaTypes.literal(path.substring(open + 1, close)) + ")");
            from = close + 1;
        }
        if (from < path.length() || parts.isEmpty()) {
            parts.add(JavaTypes.literal(path.substring(from)));
        }
        return String.join(" + ", parts);
    }

    /**
     * What comes back.
     *
     * @param read the function that reads it
     * @param row the type of a page's rows; empty for what is no page
     */
    private record Answer(String type, String read, String row) {}

    private Answer answer(OperationTerms operation, Map<String, Object> described) {
        Map<String, Object> content = ApiText.at(
                described, "responses", String.valueOf(operation.answer().status()), "content");
        if (content.isEmpty()) {
            return new Answer("Void", "bytes -> null", "");
        }
        if (!content.containsKey("application/json")) {
            return new Answer("byte[]", "Function.identity()", "");
        }
        Map<String, Object> schema = ApiText.at(content, "application/json", "schema");
        JavaTypes.Type type = types.answered(schema, operation.id() + "-answer");
        String row = "";
        if (operation.page() != null) {
            String reference = ApiText.text(schema.get("$ref")).replaceFirst(".*/", "");
            Map<String, Object> page =
                    reference.isEmpty() ? schema : ApiText.at(document, "components", "schemas", reference);
            Map<String, Object> items = ApiText.at(page, "properties", "data", "items");
            row = items.isEmpty()
                    ? ""
                    : types.answered(items, operation.id() + "-row").name();
        }
        return new Answer(type.name(), "Json.as(" + type.function() + ")", row);
    }
}
