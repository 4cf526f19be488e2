package tidybridge.core.compile;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.zip.CRC32C;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.definition.ReplyRule;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.ChangeReply;
import tidybridge.core.plan.Freshness;
import tidybridge.core.plan.HeaderColumn;
import tidybridge.core.plan.RowReply;
import tidybridge.core.plan.RowReply.TagPlan;
import tidybridge.core.plan.Template;
import tidybridge.core.text.Nearest;

/** Lays what the text says beside an answer's body over the columns of the statement that answers. */
final class ReplyCompiler {

    private static final int OK = 200;
    private static final int CREATED = 201;
    private static final int NO_CONTENT = 204;

    private final OperationDefinition operation;
    private final ReplyRule rule;
    private final List<String> columns;
    private final List<Field> fields;
    private final Findings findings;

    ReplyCompiler(OperationDefinition operation, List<Field> columns, Findings findings) {
        this.operation = operation;
        this.rule = operation.reply();
        this.fields = columns;
        this.columns = columns.stream().map(Field::name).toList();
        this.findings = findings;
    }

    /**
     * What the row of a query says; what does not fit becomes a finding.
     *
     * @param shaped the fields of its answer
     * @param shared true for a module that everybody may call from anywhere
     */
    RowReply ofRow(List<ShapedField> shaped, boolean shared) {
        AnswerKind kind = operation.answer().kind();
        if (kind == AnswerKind.ROWS || kind == AnswerKind.FILE) {
            refuseForMany(kind);
        }
        int modified = column("modified", rule.modified());
        if (modified >= 0 && !isTime(fields.get(modified).type())) {
            findings.add(
                    Code.REPLY_UNKNOWN,
                    rule.place(),
                    "The column '" + rule.modified() + "' holds no time.",
                    "Name a timestamp or datetime column under 'modified'.");
        }
        return new RowReply(
                headers(),
                rule.tagged() ? new TagPlan(column("tag", rule.tag()), print(shaped)) : null,
                modified,
                rule.fresh() == null ? null : new Freshness(rule.fresh(), shared && isAlike(shaped)));
    }

    /** True when no caller's answer differs from another's. */
    private boolean isAlike(List<ShapedField> shaped) {
        return shaped.stream().allMatch(field -> field.mask() == null)
                && operation.parameters().stream().allMatch(parameter -> switch (parameter.in()) {
                    case PATH, QUERY, BODY, FORM -> true;
                    case HEADER, COOKIE, CALLER, REQUEST -> false;
                });
    }

    /**
     * What the answer of a change says; what does not fit becomes a finding.
     *
     * @param values indexes of a run's values by name
     */
    ChangeReply ofChange(Map<String, Integer> values) {
        if (rule.fresh() != null) {
            findings.add(
                    Code.CHANGE_UNFIT,
                    rule.place(),
                    "The operation changes data, so that no answer of it can be used again.",
                    "Remove 'fresh'.");
        }
        String location = rule.location();
        for (String name : location == null ? List.<String>of() : Template.names(location)) {
            if (!columns.contains(name) && !values.containsKey(name)) {
                unknown("location", name);
            }
        }
        return new ChangeReply(
                status(),
                location == null ? null : Template.ofAddress(location, columns, values, this::typeOf),
                column("reply", rule.statusFrom()),
                column("reply", rule.messageFrom()),
                headers());
    }

    /** What a column is, or a parameter: its place in an address is read by a parameter again. */
    private FieldType typeOf(String name) {
        int column = columns.indexOf(name);
        if (column >= 0) {
            return fields.get(column).type();
        }
        return operation.parameters().stream()
                .filter(parameter -> parameter.name().equals(name))
                .map(parameter -> parameter.type() == ParameterType.DATE_TIME ? FieldType.MOMENT : FieldType.STRING)
                .findFirst()
                .orElse(FieldType.STRING);
    }

    private List<HeaderColumn> headers() {
        return rule.headers().entrySet().stream()
                .map(header -> new HeaderColumn(header.getKey(), column("reply", header.getValue())))
                .toList();
    }

    private int status() {
        Integer said = rule.status();
        boolean nothing = operation.answer().kind() == AnswerKind.NOTHING;
        if (said != null && said == NO_CONTENT && !nothing) {
            findings.add(
                    Code.CHANGE_UNFIT,
                    rule.place(),
                    "An answer with status 204 has no content, and this one has.",
                    "Write 'answer: nothing', or another status.");
        }
        if (said != null) {
            return said;
        }
        return rule.location() != null ? CREATED : nothing ? NO_CONTENT : OK;
    }

    /** A page or a file has no single row that could speak for it. */
    private void refuseForMany(AnswerKind kind) {
        boolean ofRow = rule.location() != null
                || rule.statusFrom() != null
                || rule.messageFrom() != null
                || !rule.headers().isEmpty()
                || kind == AnswerKind.ROWS && (rule.tag() != null || rule.modified() != null);
        if (ofRow) {
            findings.add(
                    Code.CHANGE_UNFIT,
                    rule.place(),
                    "The answer is no single row whose columns could say more about it.",
                    "Remove 'location', 'reply', 'modified' and the tag's column, or write 'answer: row'.");
        }
    }

    private int column(String key, @Nullable String name) {
        if (name == null) {
            return -1;
        }
        int index = columns.indexOf(name);
        if (index < 0) {
            unknown(key, name);
        }
        return index;
    }

    private void unknown(String key, String name) {
        findings.add(
                Code.REPLY_UNKNOWN,
                rule.place(),
                "'" + key + "' names '" + name + "', which the statement does not return."
                        + Nearest.hint(name, columns),
                "Use one of: " + String.join(", ", columns) + ".");
    }

    private static boolean isTime(FieldType type) {
        return switch (type) {
            case MOMENT, LOCAL_DATE_TIME -> true;
            case INTEGER, DECIMAL, FLOAT, BOOLEAN, BITS, STRING, DATE, TIME, JSON, BINARY, GEOMETRY -> false;
        };
    }

    /** Another release that shows a row in another way must not call it unchanged. */
    private static String print(List<ShapedField> shaped) {
        CRC32C sum = new CRC32C();
        String shape = shaped.stream()
                .map(field -> field.name() + ":" + field.type() + ":" + field.mask() + ":" + field.asText())
                .collect(Collectors.joining(","));
        sum.update(shape.getBytes(StandardCharsets.UTF_8));
        return Long.toHexString(sum.getValue());
    }
}
