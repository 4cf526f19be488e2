package tidybridge.core.drafting;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.In;
import tidybridge.core.definition.Method;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.document.DocumentedField;
import tidybridge.core.document.DocumentedInput;
import tidybridge.core.document.DocumentedOperation;
import tidybridge.core.text.PlainName;

/** An operation of a document with the columns that its names mean in a table, and the parts that its statements share. */
final class MatchedOperation {

    private static final int WIDEST = 110;

    final DocumentedOperation operation;
    final Drafting drafting;
    final List<MatchedInput> inputs = new ArrayList<>();

    /** The columns of the answer, by the fields' names. */
    final Map<String, JoinedTable.Place> fields = new LinkedHashMap<>();

    /** What only orders the rows. */
    final List<String> hidden = new ArrayList<>();

    /** What the files of its statements are called, without their ending. */
    final String file;

    final String method;

    MatchedOperation(
            DocumentedOperation operation,
            @Nullable JoinedTable table,
            Map<String, String> columns,
            Drafting drafting) {
        this.operation = operation;
        this.drafting = drafting;
        this.method = operation.method().name().toLowerCase(Locale.ROOT);
        String name = PlainName.of(operation.path(), "-");
        this.file = (name.isEmpty() ? "root" : name) + "-" + method;
        match(table, columns);
    }

    /**
     * What callers send.
     *
     * @param bind its name in the statement
     * @param place the column that it means; null for none
     */
    record MatchedInput(DocumentedInput input, String bind, JoinedTable.@Nullable Place place) {

        String when() {
            return input.isGiven() ? "" : "   -- when :" + bind;
        }

        boolean inPath() {
            return input.in() == In.PATH;
        }
    }

    private void match(@Nullable JoinedTable table, Map<String, String> columns) {
        Set<String> taken = new HashSet<>();
        Map<String, JoinedTable.Place> places = new HashMap<>();
        columns.forEach((name, words) -> {
            if (table != null && !words.isEmpty()) {
                places.put(
                        name,
                        table.find(words)
                                .orElseThrow(() -> new Drafting.UnknownObject(
                                        "'" + table.relation.name() + "'", "has no column", words)));
            }
        });
        for (DocumentedInput input : operation.inputs()) {
            String name = input.name().isEmpty() ? "body" : input.name();
            boolean known = input.in() != In.HEADER && input.in() != In.COOKIE;
            inputs.add(new MatchedInput(input, ColumnNames.free(name, taken), known ? places.get(input.name()) : null));
        }
        for (DocumentedField field : operation.answer().fields()) {
            JoinedTable.Place place = places.get(field.name());
            if (place != null) {
                fields.put(field.name(), place);
            }
        }
    }

    void note(String words) {
        drafting.note(operation.label(), words);
    }

    /** Whether the answer is a row of which something is known. */
    boolean answersRow() {
        return operation.answer().kind() == AnswerKind.ROW && !fields.isEmpty();
    }

    /** What a query of these columns begins with, up to its tables. */
    String select(JoinedTable of, Map<String, JoinedTable.Place> selected) {
        Set<String> aliases = new TreeSet<>();
        selected.values().forEach(place -> aliases.add(place.alias()));
        inputs.forEach(input -> {
            if (input.place() != null) {
                aliases.add(input.place().alias());
            }
        });
        aliases.remove("");
        boolean joined = !aliases.isEmpty();
        StringBuilder columns = new StringBuilder("select ");
        int line = columns.length();
        for (Map.Entry<String, JoinedTable.Place> entry : selected.entrySet()) {
            String column = of.written(entry.getValue(), joined) + alias(entry.getKey(), entry.getValue());
            boolean first = columns.length() == "select ".length();
            boolean full = !first && line + column.length() > WIDEST;
            columns.append(first ? "" : full ? "\n  , " : ", ").append(column);
            line = full ? column.length() : line + column.length() + 2;
        }
        return columns + "\nfrom " + of.named() + of.joins(aliases) + "\n";
    }

    boolean isJoined(Map<String, JoinedTable.Place> selected) {
        return selected.values().stream().anyMatch(place -> !place.isOwn())
                || inputs.stream().map(MatchedInput::place).anyMatch(place -> place != null && !place.isOwn());
    }

    String alias(String field, JoinedTable.Place place) {
        var dialect = drafting.catalog().dialect();
        return field.equals(place.column().name())
                ? ""
                : " as " + (field.indexOf('.') < 0 ? dialect.named(field) : dialect.quoted(field));
    }

    /** The conditions that some inputs make; nothing where none of them means a column. */
    String where(JoinedTable of, List<MatchedInput> asked, boolean joined) {
        StringBuilder where = new StringBuilder();
        for (MatchedInput input : asked) {
            JoinedTable.Place place = input.place();
            if (place != null) {
                boolean list = input.input().value().type() == ParameterType.ARRAY;
                String operator =
                        list ? " in (:" + input.bind() + ")" : " " + operator(input, place) + " :" + input.bind();
                where.append(where.isEmpty() ? "where\n  " : "  and ")
                        .append(of.written(place, joined))
                        .append(operator)
                        .append(input.when())
                        .append('\n');
            }
        }
        return where.toString();
    }

    /** {@code minLength} asks for more than one length; what finds a row by its path, or changes it, means the very value. */
    private String operator(MatchedInput input, JoinedTable.Place place) {
        boolean asks = operation.method() == Method.GET || operation.answer().kind() == AnswerKind.ROWS;
        return asks && !input.inPath()
                ? TableMatching.operator(input.input().name(), place.column().name())
                : "=";
    }

    /** True, with a note, when a part of the path means no column: the statement would find other rows than the path says. */
    boolean lacksPath() {
        Optional<MatchedInput> lacking = inputs.stream()
                .filter(input -> input.inPath() && input.place() == null)
                .findFirst();
        lacking.ifPresent(input ->
                note("Its {" + input.bind() + "} means no column yet, so that its statement is still to be written."));
        return lacking.isPresent();
    }

    boolean isRefused(String sql) {
        Optional<String> refusal = drafting.refusal(sql);
        refusal.ifPresent(
                reason -> note("The database refuses its statement: " + reason + ". It is still to be written."));
        return refusal.isPresent();
    }
}
