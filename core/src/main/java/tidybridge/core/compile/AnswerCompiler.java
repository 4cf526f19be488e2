package tidybridge.core.compile;

import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.AnswerDefinition;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.FieldRule;
import tidybridge.core.definition.Mask;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.FileColumns;
import tidybridge.core.text.Nearest;
import tidybridge.core.text.Place;

/** Lays the text's rules for an answer over the columns a statement returns. */
final class AnswerCompiler {

    private static final String WORD = "[\\p{L}_][\\p{L}\\p{N}_$-]*";
    private static final Pattern NAME = Pattern.compile(WORD + "(\\." + WORD + ")*");
    private static final Pattern SENSITIVE =
            Pattern.compile("(?i).*(password|passwd|secret|api_?key|private_?key|access_?token|refresh_?token)"
                    + "s?(_?(hash|hashed|digest|encrypted|enc|value|text|plain|salt|old|new|answer|\\d+))*");

    private final OperationDefinition operation;
    private final AnswerDefinition answer;
    private final List<Field> columns;
    private final Catalog catalog;
    private final Findings findings;
    private final Map<String, FieldRule> rules = new HashMap<>();

    AnswerCompiler(OperationDefinition operation, List<Field> columns, Catalog catalog, Findings findings) {
        this.catalog = catalog;
        this.operation = operation;
        this.answer = operation.answer();
        this.columns = columns;
        this.findings = findings;
        answer.rules().forEach(rule -> rules.put(rule.column(), rule));
    }

    /** The fields as callers see them; empty, with a finding, when they cannot be shaped as the text says. */
    List<ShapedField> compile() {
        int before = findings.errors();
        checkNames();
        List<String> names = columns.stream().map(Field::name).toList();
        answer.rules().forEach(rule -> known(rule.column(), rule.place(), names));
        answer.shown().forEach(shown -> known(shown.column(), shown.place(), names));
        if (answer.kind() == AnswerKind.VALUE && columns.size() != 1) {
            findings.add(
                    Code.ANSWER_UNFIT,
                    operation.place(),
                    "The answer is one value, and the statement returns " + columns.size() + " fields.",
                    "Select one field, or write 'answer: row'.");
        }
        if (findings.errors() > before) {
            return List.of();
        }
        List<ShapedField> fields = shown(names).stream().map(this::shaped).toList();
        checkPaths(fields);
        boolean shaped = answer.kind() != AnswerKind.NOTHING && answer.kind() != AnswerKind.FILE;
        if (shaped && fields.isEmpty()) {
            findings.add(
                    Code.ANSWER_UNFIT,
                    operation.place(),
                    "Every field of the answer is hidden.",
                    "Show at least one, or write 'answer: nothing'.");
        }
        return findings.errors() > before ? List.of() : fields;
    }

    private void checkNames() {
        Place place = Place.of(operation.sql().file());
        Set<String> seen = new HashSet<>();
        for (Field column : columns) {
            if (!seen.add(column.name())) {
                findings.add(
                        Code.FIELD_TWICE,
                        place,
                        "The answer has two fields named '" + column.name() + "'.",
                        "Give one of them another name with 'as'.");
            }
            FieldRule rule = rules.get(column.name());
            boolean named = rule != null && (rule.name() != null || rule.hidden());
            if (!named && !NAME.matcher(column.name()).matches()) {
                findings.add(
                        Code.FIELD_UNNAMED,
                        place,
                        "The column '" + column.name() + "' has no name that fits a field.",
                        "Give it one with 'as', or under 'fields:' with '\"" + column.name()
                                + "\": { name: another_name }'.");
            }
        }
    }

    private void known(String column, Place place, List<String> names) {
        if (!names.contains(column)) {
            findings.add(
                    Code.FIELD_UNKNOWN,
                    place,
                    "The statement returns no column '" + column + "'." + Nearest.hint(column, names),
                    "Use one of: " + String.join(", ", names) + ".");
        }
    }

    /** The indexes of the columns that are answered. */
    private List<Integer> shown(List<String> names) {
        if (!answer.shown().isEmpty()) {
            return answer.shown().stream()
                    .map(shown -> names.indexOf(shown.column()))
                    .toList();
        }
        return IntStream.range(0, columns.size())
                .filter(index -> !isHidden(columns.get(index).name()))
                .boxed()
                .toList();
    }

    private boolean isHidden(String column) {
        FieldRule rule = rules.get(column);
        return rule != null && rule.hidden();
    }

    private ShapedField shaped(int index) {
        Field column = columns.get(index);
        FieldRule rule = rules.get(column.name());
        checkSensitive(column, rule);
        if (rule == null) {
            return new ShapedField(
                    index,
                    path(column.name(), null),
                    column.type(),
                    column.nullable(),
                    null,
                    null,
                    false,
                    null,
                    null,
                    members(column),
                    null);
        }
        checkRule(column, rule);
        boolean asText = rule.as() == FieldRule.As.TEXT && column.type().isNumber();
        boolean asNumber = rule.as() == FieldRule.As.INTEGER && column.type() == FieldType.BOOLEAN;
        boolean nullable = column.nullable() || rule.mask() != null && column.type() != FieldType.STRING;
        return new ShapedField(
                index,
                path(column.name(), rule.name()),
                asNumber ? FieldType.INTEGER : column.type(),
                nullable,
                rule.mask(),
                rule.unless(),
                asText,
                rule.about(),
                rule.example(),
                rule.mask() == null ? members(column) : List.of(),
                rule.deprecated());
    }

    /** The values that an enum's column can hold; none for anything else, and where nobody knows. */
    private List<String> members(Field column) {
        Field.Origin origin = column.origin();
        if (column.members() != Field.Members.ONE || origin == null) {
            return List.of();
        }
        return catalog.contents()
                .flatMap(contents -> contents.relation(origin.schema(), origin.table()))
                .flatMap(table -> table.column(origin.column()))
                .map(found -> found.type().members())
                .orElse(List.of());
    }

    private List<String> path(String column, @Nullable String given) {
        String name = given == null ? styled(column) : given;
        return List.of(name.split("\\."));
    }

    private String styled(String column) {
        return switch (answer.names()) {
            case AS_WRITTEN -> column;
            case CAMEL_CASE -> camel(column);
        };
    }

    /** {@code nightly_rate} as {@code nightlyRate}; underscores at the start stay. */
    static String camel(String column) {
        StringBuilder name = new StringBuilder(column.length());
        boolean upper = false;
        for (int i = 0; i < column.length(); i++) {
            char c = column.charAt(i);
            boolean joins =
                    c == '_' && !name.isEmpty() && name.charAt(name.length() - 1) != '.' && i + 1 < column.length();
            if (joins && column.charAt(i + 1) != '_') {
                upper = true;
            } else {
                name.append(upper ? Character.toUpperCase(c) : c);
                upper = false;
            }
        }
        return name.toString();
    }

    private void checkSensitive(Field column, @Nullable FieldRule rule) {
        if (SENSITIVE.matcher(column.name()).matches() && (rule == null || rule.mask() == null)) {
            findings.add(
                    Code.FIELD_SENSITIVE,
                    rule == null ? Place.of(operation.sql().file()) : rule.place(),
                    "The field '" + column.name() + "' has the name of a secret, and every caller would read it.",
                    "Leave it out of the statement, or write '" + column.name() + ": { hide: true }' under 'fields:'.");
        }
    }

    private void checkRule(Field column, FieldRule rule) {
        DeprecationCheck.check("The field '" + column.name() + "'", rule.place(), rule.deprecated(), findings);
        Mask mask = rule.mask();
        if (mask != null && !(mask instanceof Mask.Whole) && column.type() != FieldType.STRING) {
            findings.add(
                    Code.MASK_UNFIT,
                    rule.place(),
                    "The field '" + column.name() + "' is no text, so only 'mask: whole' fits it.",
                    "Write 'mask: whole', which answers null, or make it a text in the statement.");
        }
        if (mask != null
                && operation.order().stream().anyMatch(key -> key.field().equals(column.name()))) {
            findings.add(
                    Code.MASK_UNFIT,
                    rule.place(),
                    "The field '" + column.name()
                            + "' is masked, and pages are ordered by it, so that positions would show it.",
                    "Order by other fields, or remove the mask.");
        }
        if (rule.as() == FieldRule.As.INTEGER && column.type() != FieldType.BOOLEAN) {
            findings.add(
                    Code.TEXT_UNFIT,
                    rule.place(),
                    "The field '" + column.name() + "' is no flag, so 'as: integer' changes nothing.",
                    "Remove 'as: integer'.");
        }
        if (rule.as() == FieldRule.As.TEXT && !column.type().isNumber()) {
            findings.add(
                    Code.TEXT_UNFIT,
                    rule.place(),
                    "The field '" + column.name() + "' is no number, so 'as: text' changes nothing.",
                    "Remove 'as: text'.");
        }
    }

    /** Asks whether columns of flags hold flags alone; for those that are answered as true and false. */
    void checkFlags() {
        for (int index : shown(columns.stream().map(Field::name).toList())) {
            Field column = columns.get(index);
            FieldRule rule = rules.get(column.name());
            Field.Origin origin = column.origin();
            boolean flag = column.type() == FieldType.BOOLEAN && (rule == null || rule.as() == null);
            if (flag && origin != null && !catalog.holdsFlags(origin)) {
                findings.add(
                        Code.FLAG_HOLDS_NUMBER,
                        rule == null ? operation.place() : rule.place(),
                        "The field '" + column.name() + "' is answered as true or false, and " + origin.table() + "."
                                + origin.column() + " holds other numbers than 0 and 1.",
                        "Write '" + column.name() + ": { as: integer }' under 'fields:'.");
            }
        }
    }

    /** No two fields of one name, and no field where an object is. */
    private void checkPaths(List<ShapedField> fields) {
        Set<String> seen = new HashSet<>();
        for (ShapedField field : fields) {
            if (!seen.add(field.name())) {
                findings.add(
                        Code.FIELD_TWICE,
                        operation.place(),
                        "Two fields of the answer are called '" + field.name() + "'.",
                        "Give one of them another 'name:' under 'fields:'.");
            }
        }
        for (ShapedField field : fields) {
            for (int size = 1; size < field.path().size(); size++) {
                String above = String.join(".", field.path().subList(0, size));
                if (seen.contains(above)) {
                    findings.add(
                            Code.FIELD_CLASH,
                            operation.place(),
                            "'" + above + "' is a field of the answer, and '" + field.name()
                                    + "' would make it an object.",
                            "Rename one of them.");
                }
            }
        }
    }

    /** The columns of a file; null for other answers, or with a finding when they do not fit. */
    @Nullable
    FileColumns file() {
        AnswerDefinition.FileRule rule = answer.file();
        if (rule == null) {
            return null;
        }
        List<String> names = columns.stream().map(Field::name).toList();
        int before = findings.errors();
        int content = column(rule.content(), rule.place(), names);
        int type = rule.typeIsFixed() ? -1 : column(rule.type(), rule.place(), names);
        String nameColumn = rule.name();
        int name = nameColumn == null ? -1 : column(nameColumn, rule.place(), names);
        if (findings.errors() > before) {
            return null;
        }
        FieldType contentType = columns.get(content).type();
        if (contentType != FieldType.BINARY && contentType != FieldType.STRING && contentType != FieldType.JSON) {
            findings.add(
                    Code.FILE_UNFIT,
                    rule.place(),
                    "The column '" + rule.content() + "' holds neither bytes nor text.",
                    "Name the column that holds the file.");
            return null;
        }
        return new FileColumns(content, type, rule.typeIsFixed() ? rule.type() : null, name, rule.inline());
    }

    private int column(String name, Place place, List<String> names) {
        known(name, place, names);
        return names.indexOf(name);
    }
}
