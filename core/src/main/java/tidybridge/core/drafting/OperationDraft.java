package tidybridge.core.drafting;

import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.Method;
import tidybridge.core.document.DocumentedOperation;
import tidybridge.core.text.Written;

/** One operation of a document: what it promises and what it takes, with a statement over its table where it has one. */
final class OperationDraft {

    private final MatchedOperation matched;
    private final @Nullable JoinedTable table;
    private final OperationKeys keysOf;
    private final Map<String, String> locations;

    /**
     * Prepares it.
     *
     * @param columns what its names mean in the table
     * @param locations by the path that rows are added to, the column that one of them is found by
     */
    OperationDraft(
            DocumentedOperation operation,
            Optional<JoinedTable> table,
            Map<String, String> columns,
            Map<String, String> locations,
            Drafting drafting) {
        this.table = table.orElse(null);
        this.matched = new MatchedOperation(operation, this.table, columns, drafting);
        this.keysOf = new OperationKeys(matched);
        this.locations = locations;
    }

    void write() {
        Optional<Written.Keys> stated = table == null ? Optional.empty() : stated(table);
        Written.Keys whole = stated.orElseGet(this::unwritten);
        if (matched.operation.method() != Method.GET) {
            whole = matched.drafting.changing().putAll(whole).keys();
        }
        if (!matched.drafting.add(matched.operation.path(), matched.method, whole)) {
            matched.note("It is there already.");
        }
    }

    private Optional<Written.Keys> stated(JoinedTable of) {
        MatchedReads reads = new MatchedReads(matched, keysOf);
        if (matched.operation.answer().kind() == AnswerKind.ROWS) {
            return reads.query(of);
        }
        if (matched.operation.method() != Method.GET
                && matched.drafting.catalog().isReadOnly()) {
            matched.note("Its source is read-only, so nothing changes it; its statement is still to be written.");
            return Optional.empty();
        }
        MatchedWrites writes = new MatchedWrites(matched, keysOf, locations);
        return switch (matched.operation.method()) {
            case POST -> writes.addition(of);
            case PUT, PATCH -> writes.change(of);
            case DELETE -> writes.removal(of);
            case GET -> reads.query(of);
        };
    }

    /** A file that names what is to be answered and taken. */
    private Written.Keys unwritten() {
        StringBuilder words = new StringBuilder("-- To be written: " + matched.operation.label() + ".\n");
        if (!matched.operation.answer().fields().isEmpty()) {
            words.append("-- It answers\n");
            matched.operation
                    .answer()
                    .fields()
                    .forEach(field -> words.append("--   ")
                            .append(field.name())
                            .append(": ")
                            .append(field.value().type().label())
                            .append(field.value().nullable() ? ", or null\n" : "\n"));
        }
        if (!matched.inputs.isEmpty()) {
            words.append("-- and takes ")
                    .append(matched.inputs.stream()
                            .map(input -> ":" + input.bind())
                            .collect(Collectors.joining(", ")))
                    .append('\n');
        }
        Written.Collector keys =
                keysOf.answered(keysOf.head().put("sql", matched.drafting.keep(matched.file, words.toString())));
        keysOf.status(keys);
        matched.fields.clear();
        matched.hidden.clear();
        keysOf.promise(keys);
        String media = matched.operation.answer().mediaType();
        if (media != null) {
            keys.put(
                    "file",
                    new Written.Collector()
                            .put("content", "content")
                            .put("type", media)
                            .keys());
        }
        return keysOf.ended(keys);
    }
}
