package tidybridge.core.compare;

import static org.assertj.core.api.Assertions.assertThat;

import com.networknt.schema.InputFormat;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import tidybridge.core.TestScope;
import tidybridge.core.answer.JsonRowSink;
import tidybridge.core.answer.MaskKey;
import tidybridge.core.answer.RowWriters;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.answer.TextRow;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.RawRequest;
import tidybridge.core.compile.PlanFixture;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.InputTerms;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.In;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.reference.OpenApi;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * What is called safe is safe: of two texts made by random edits, where the comparison finds nothing that breaks, every request that the
 * earlier one takes is taken by the later one, and every answer of the later one fits the schema of the earlier one.
 */
class SafeComparisonTest {

    private static final int PAIRS = TestScope.ALL ? 80 : 16;
    private static final int REQUESTS = 40;
    private static final int ROWS = 10;
    private static final SchemaRegistry REGISTRY =
            SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12);
    private static final String[] VALUES = {
        "1",
        "2",
        "50",
        "100",
        "101",
        "0",
        "-1",
        "0.5",
        "0.25",
        "1.3",
        "heron",
        "otter",
        "",
        "null",
        "2031-05-01",
        "x".repeat(61),
        "a,b",
        "1,1",
        "true"
    };

    private final Random random = new Random(14);

    /** Some edits of the text at once; nothing where they do not go together. */
    private Optional<Quay.Text> edited(List<ComparisonTest.Edit> edits) {
        Quay.Text text = new Quay.Text(Quay.TEXT, ComparisonTest.statements());
        for (int i = random.nextInt(4); i > 0; i--) {
            ComparisonTest.Edit edit = edits.get(random.nextInt(edits.size()));
            try {
                text = text.with(edit.from(), edit.to());
            } catch (AssertionError e) {
                return Optional.empty();
            }
        }
        return Optional.of(text);
    }

    private static Optional<ModulePlan> plan(Quay.Text text) {
        try {
            return Optional.of(text.plan());
        } catch (AssertionError e) {
            return Optional.empty();
        }
    }

    @Test
    void whatIsSafeLetsNobodyDown() throws Exception {
        List<ComparisonTest.Edit> edits = ComparisonTest.edits().toList();
        int safe = 0;
        int breaking = 0;
        int taken = 0;
        while (safe < PAIRS) {
            Optional<ModulePlan> earlier = edited(edits).flatMap(SafeComparisonTest::plan);
            Optional<ModulePlan> later = edited(edits).flatMap(SafeComparisonTest::plan);
            if (earlier.isEmpty() || later.isEmpty()) {
                continue;
            }
            Comparison comparison =
                    Comparison.of(PlanFixture.promised(earlier.get()), PlanFixture.promised(later.get()));
            if (comparison.isBreaking()) {
                breaking++;
                continue;
            }
            safe++;
            taken += compareRequests(earlier.get(), later.get(), comparison);
            compareAnswers(earlier.get(), later.get(), comparison);
        }
        assertThat(breaking).as("pairs that break").isGreaterThan(PAIRS / 4);
        assertThat(taken).as("requests that were taken").isGreaterThan(PAIRS * 10);
    }

    private static OperationPlan same(OperationPlan operation, ModulePlan module) {
        String shape = operation.method() + " " + operation.path().text().replaceAll("\\{[^}]*}", "{}");
        return module.operations()
                .filter(other ->
                        shape.equals(other.method() + " " + other.path().text().replaceAll("\\{[^}]*}", "{}")))
                .findFirst()
                .orElseThrow(() -> new AssertionError(shape + " is gone, and nothing breaks"));
    }

    private int compareRequests(ModulePlan earlier, ModulePlan later, Comparison comparison) {
        int taken = 0;
        Map<String, OperationTerms> terms = new HashMap<>();
        Contract.of(earlier).operations().forEach(one -> terms.put(one.label(), one));
        for (OperationPlan operation : earlier.operations().toList()) {
            OperationTerms known =
                    terms.get(operation.method() + " " + operation.path().text());
            OperationPlan now = same(operation, later);
            for (int i = 0; i < REQUESTS; i++) {
                RawRequest request = request(known);
                if (refusal(operation, request) == null) {
                    taken++;
                    assertThat(refusal(now, request))
                            .as("%s of %s with %s, after %s", known.label(), request, text(request), comparison)
                            .isNull();
                }
            }
        }
        return taken;
    }

    private static String text(RawRequest request) {
        byte[] body = request.body();
        return body == null ? "" : new String(body, StandardCharsets.UTF_8);
    }

    private static @Nullable String refusal(OperationPlan operation, RawRequest request) {
        try {
            operation.binder().bind(request);
            return null;
        } catch (BadInput e) {
            return e.errors().toString();
        }
    }

    /** A request that has some of what the operation takes, with values that fit or do not. */
    private RawRequest request(OperationTerms operation) {
        List<String> query = new ArrayList<>();
        Map<String, String> headers = new HashMap<>();
        ObjectNode body = JsonMapper.shared().createObjectNode();
        List<String> form = new ArrayList<>();
        String path = value();
        for (InputTerms input : operation.inputs()) {
            if (random.nextInt(3) == 0) {
                continue;
            }
            switch (input.in()) {
                case QUERY -> query.add(input.name() + "=" + value());
                case HEADER -> headers.put(input.name(), value());
                case BODY -> put(body, input.name().substring(1));
                case FORM -> form.add(input.name() + "=" + value());
                case PATH, COOKIE, CALLER, REQUEST -> {}
            }
        }
        if (operation.page() != null) {
            operation
                    .page()
                    .filters()
                    .forEach(filter -> addSometimes(query, filter.value().name() + "=" + value()));
            operation.page().sortable().forEach(field -> addSometimes(query, "sort=-" + field));
            operation.page().totals().forEach(total -> addSometimes(query, "total=" + total.label()));
            addSometimes(query, "limit=" + (random.nextBoolean() ? "all" : String.valueOf(random.nextInt(300))));
            addSometimes(query, "last=true");
        }
        if (!operation.answer().choices().isEmpty()) {
            addSometimes(query, "fields=" + operation.answer().choices().getFirst());
        }
        operation.answer().formats().forEach(format -> addSometimes(query, "format=" + format.label()));
        String text = query.isEmpty() ? null : String.join("&", query);
        return new RawRequest(text, path, headers, Map.of(), body(operation, body, form));
    }

    private byte @Nullable [] body(OperationTerms operation, ObjectNode body, List<String> form) {
        boolean isForm = operation.inputs().stream().anyMatch(input -> input.in() == In.FORM);
        if (operation.inputs().stream().noneMatch(InputTerms::inBody)) {
            return null;
        }
        String json = operation.body().batch() == null ? body.toString() : "[" + body + "]";
        return (isForm ? String.join("&", form) : json).getBytes(StandardCharsets.UTF_8);
    }

    private void put(ObjectNode body, String name) {
        switch (random.nextInt(4)) {
            case 0 -> body.put(name, random.nextInt(3));
            case 1 -> body.put(name, 0.25 * random.nextInt(5));
            case 2 -> body.putNull(name);
            default -> body.put(name, value());
        }
    }

    private void addSometimes(List<String> query, String part) {
        if (random.nextInt(5) == 0) {
            query.add(part);
        }
    }

    private String value() {
        return VALUES[random.nextInt(VALUES.length)];
    }

    private void compareAnswers(ModulePlan earlier, ModulePlan later, Comparison comparison) {
        JsonNode document = JsonMapper.shared().readTree(OpenApi.json(Contract.of(earlier)));
        for (OperationPlan operation : earlier.operations().toList()) {
            OperationPlan now = same(operation, later);
            if (operation.answer() != AnswerKind.ROWS && operation.answer() != AnswerKind.ROW
                    || now.fields().isEmpty()) {
                continue;
            }
            Schema schema = schema(document, operation);
            for (int i = 0; i < ROWS; i++) {
                String row = row(now.fields());
                String answer =
                        operation.answer() == AnswerKind.ROWS ? "{\"data\":[" + row + "],\"page\":{\"limit\":1}}" : row;
                assertThat(schema.validate(answer, InputFormat.JSON))
                        .as("%s answers %s, after %s", operation.label(), answer, comparison)
                        .isEmpty();
            }
        }
    }

    /** What the reference says of the hoped-for answer; its schemas come along. */
    private static Schema schema(JsonNode document, OperationPlan operation) {
        JsonNode responses = document.path("paths")
                .path(operation.path().text())
                .path(operation.method().name().toLowerCase(java.util.Locale.ROOT))
                .path("responses");
        JsonNode success = responses.has("200") ? responses.path("200") : responses.path("201");
        ObjectNode schema = (ObjectNode)
                success.path("content").path("application/json").path("schema").deepCopy();
        schema.set("components", document.path("components"));
        return REGISTRY.getSchema(schema.toString());
    }

    private String row(List<ShapedField> fields) {
        int columns = fields.stream().mapToInt(ShapedField::column).max().orElse(0) + 1;
        @Nullable String[] values = new String[columns];
        for (ShapedField field : fields) {
            boolean isNull = field.nullable() && random.nextInt(3) == 0;
            values[field.column()] = isNull
                    ? null
                    : switch (field.type()) {
                        case INTEGER -> String.valueOf(random.nextInt(100));
                        case DECIMAL -> random.nextInt(100) + ".5";
                        case DATE -> "2031-05-01";
                        default -> "text";
                    };
        }
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (JsonRowSink sink = new JsonRowSink(bytes)) {
            new RowWriters(fields, new MaskKey("key".getBytes(StandardCharsets.UTF_8)))
                    .forStrangers()
                    .write(new TextRow(values), sink);
        }
        return bytes.toString(StandardCharsets.UTF_8);
    }
}
