package tidybridge.core.compile;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.ConditionRule;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.definition.PromiseRule;
import tidybridge.core.definition.StepDefinition;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.problem.ProblemKind;

/** Compares what an operation's text promises with the answer that its statement gives. */
final class PromiseCheck {

    private static final int FIRST_OF_CALLERS = 400;

    private final OperationDefinition operation;
    private final List<ShapedField> fields;
    private final int status;
    private final Findings findings;

    PromiseCheck(OperationDefinition operation, OperationPlan plan, Findings findings) {
        this.operation = operation;
        this.fields = plan.fields();
        this.status = plan.status();
        this.findings = findings;
    }

    /** Finds what is not kept; nothing where nothing is promised. */
    void check() {
        PromiseRule promise = operation.answer().promise();
        if (promise == null) {
            return;
        }
        promise.statuses().forEach(promised -> checkStatus(promise, promised));
        promise.fields().forEach(this::checkField);
    }

    private void checkStatus(PromiseRule promise, int promised) {
        if (promised < FIRST_OF_CALLERS
                ? promised == status || operation.reply().statusFrom() != null
                : canRefuse(promised)) {
            return;
        }
        findings.add(
                Code.PROMISE_UNKEPT,
                promise.place(),
                "The status " + promised + " is promised, and nothing here answers it"
                        + (promised < FIRST_OF_CALLERS ? "; what is hoped for is answered with " + status + "." : "."),
                promised < FIRST_OF_CALLERS
                        ? "Write 'status:' or 'location:', or take it out of 'promise'."
                        : "Say under 'conditions:' when it comes, or take it out of 'promise'.");
    }

    private boolean canRefuse(int promised) {
        boolean usual = Arrays.stream(ProblemKind.values()).anyMatch(kind -> kind.status() == promised);
        return usual
                || operation.change().conditions().stream()
                        .map(ConditionRule::refusal)
                        .anyMatch(refusal -> refusal.status() == promised)
                || operation.reply().statusFrom() != null
                || operation.steps().stream()
                        .map(StepDefinition::otherwise)
                        .anyMatch(refusal -> refusal != null && refusal.status() == promised);
    }

    private void checkField(PromiseRule.PromisedField promised) {
        if (isResult(promised.name())) {
            return;
        }
        ShapedField found = fields.stream()
                .filter(field -> field.name().equals(promised.name()))
                .findFirst()
                .orElse(null);
        if (found == null) {
            unkept(
                    promised,
                    "is promised, and the answer does not have it" + near(promised.name()) + ".",
                    "Select it in the statement under this name, or take it out of 'promise'.");
        } else if (!fits(promised.type(), found)) {
            unkept(
                    promised,
                    "is promised as " + promised.type().label() + ", and the answer has it as " + shown(found) + ".",
                    "Convert it in the statement, or mend the promise.");
        } else if (found.nullable() && !promised.nullable()) {
            findings.add(
                    Code.PROMISE_DOUBTFUL,
                    promised.place(),
                    "The field '" + promised.name()
                            + "' is promised without null, and the database does not rule null out.",
                    "Give it another value with coalesce(), write 'nullable: true', or accept it with the reason.");
        }
    }

    /** Whether it is a result set of a procedure, which stands beside the fields. */
    private boolean isResult(String name) {
        return operation.steps().stream()
                .flatMap(step -> step.results().stream())
                .anyMatch(result -> result.name().equals(name));
    }

    private void unkept(PromiseRule.PromisedField promised, String words, String remedy) {
        findings.add(Code.PROMISE_UNKEPT, promised.place(), "The field '" + promised.name() + "' " + words, remedy);
    }

    /** What the answer has below a name that was promised as a whole, or under the same name in another notation. */
    private String near(String name) {
        String below = fields.stream()
                .map(ShapedField::name)
                .filter(known -> known.startsWith(name + ".") || plain(known).equals(plain(name)))
                .limit(3)
                .collect(Collectors.joining("', '"));
        return below.isEmpty() ? "" : "; it has '" + below + "'";
    }

    private static String plain(String name) {
        return name.replaceAll("[^\\p{L}\\p{N}.]", "").toLowerCase(Locale.ROOT);
    }

    private static boolean fits(ParameterType promised, ShapedField field) {
        if (field.mask() != null || field.asText()) {
            return promised == ParameterType.STRING;
        }
        FieldType type = field.type();
        return switch (promised) {
            case INTEGER -> type == FieldType.INTEGER || type == FieldType.BITS || type == FieldType.DECIMAL;
            case NUMBER -> type.isNumber();
            case BOOLEAN -> type == FieldType.BOOLEAN;
            case STRING -> !type.isNumber() && isWord(type);
            case UUID, EMAIL -> type == FieldType.STRING;
            case DATE -> type == FieldType.DATE;
            case TIME -> type == FieldType.TIME;
            case DATE_TIME -> type == FieldType.MOMENT;
            case DATE_TIME_LOCAL -> type == FieldType.LOCAL_DATE_TIME;
            case BYTE -> type == FieldType.BINARY;
            case OBJECT -> type == FieldType.JSON || type == FieldType.GEOMETRY;
            case ARRAY -> type == FieldType.JSON;
        };
    }

    /** Whether it is a string of JSON. */
    private static boolean isWord(FieldType type) {
        return type != FieldType.BOOLEAN && type != FieldType.JSON && type != FieldType.GEOMETRY;
    }

    private static String shown(ShapedField field) {
        if (field.mask() != null || field.asText()) {
            return "a string";
        }
        return switch (field.type()) {
            case INTEGER, BITS -> "an integer";
            case DECIMAL, FLOAT -> "a number";
            case BOOLEAN -> "a boolean";
            case STRING -> "a string";
            case DATE -> "a date";
            case TIME -> "a time";
            case LOCAL_DATE_TIME -> "a local time (date-time-local)";
            case MOMENT -> "a moment (date-time)";
            case JSON -> "JSON";
            case BINARY -> "bytes";
            case GEOMETRY -> "a geometry";
        };
    }
}
