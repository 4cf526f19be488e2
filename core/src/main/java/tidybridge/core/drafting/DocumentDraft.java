package tidybridge.core.drafting;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import tidybridge.core.catalog.Relation;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.Method;
import tidybridge.core.document.DocumentedOperation;
import tidybridge.core.document.DocumentedValue;
import tidybridge.core.document.UsualOperations;

/** The operations of a document: each with a statement over the table that it means, or with one that is still to be written. */
final class DocumentDraft {

    private final DraftChoices.DocumentChoice choice;
    private final Drafting drafting;
    private final TableMatching matching;

    DocumentDraft(DraftChoices.DocumentChoice choice, Drafting drafting) {
        this.choice = choice;
        this.drafting = drafting;
        this.matching =
                new TableMatching(drafting.contents(), drafting.catalog().dialect());
    }

    /**
     * Adds them.
     *
     * @return what each was taken to mean
     * @throws Drafting.UnknownObject when a match names what the source does not hold
     */
    FirstText.MatchedDocument write() {
        choice.api().remarks().forEach(remark -> drafting.note(remark.subject(), remark.words()));
        Map<DocumentedOperation, DraftChoices.Match> matches = new LinkedHashMap<>();
        for (DocumentedOperation operation : choice.api().operations()) {
            DraftChoices.Match match = match(operation);
            matches.put(operation, match);
            if (choice.usual()) {
                key(match)
                        .ifPresent(key -> UsualOperations.beside(operation, key)
                                .forEach(other -> matches.put(
                                        other, new DraftChoices.Match(match.table(), columns(other, match)))));
            }
        }
        List<FirstText.Matched> matched = new ArrayList<>();
        SortedMap<String, List<String>> columns = new TreeMap<>();
        Map<String, String> locations = locations(matches);
        matches.forEach((operation, match) -> {
            Optional<JoinedTable> table = joined(match);
            table.ifPresent(found -> columns.computeIfAbsent(
                    match.table(),
                    name -> found.places().stream()
                            .map(JoinedTable.Place::words)
                            .toList()));
            new OperationDraft(operation, table, columns(match), locations, drafting).write();
            matched.add(matched(operation, match));
        });
        return new FirstText.MatchedDocument(matched, columns);
    }

    private DraftChoices.Match match(DocumentedOperation operation) {
        DraftChoices.Match chosen = choice.matches().get(operation.label());
        if (chosen != null) {
            String table =
                    chosen.table().isEmpty() ? "" : relation(chosen.table()).name();
            return new DraftChoices.Match(table, columns(operation, new DraftChoices.Match(table, chosen.columns())));
        }
        String table = matching.table(operation).orElse("");
        return new DraftChoices.Match(table, matching.columns(operation, table));
    }

    /** What is chosen, and what is proposed for every other name. What is chosen for rows counts for one of them, too. */
    private Map<String, String> columns(DocumentedOperation other, DraftChoices.Match match) {
        Map<String, String> columns = new LinkedHashMap<>(matching.columns(other, match.table()));
        columns.putAll(columns(match));
        return columns;
    }

    private static Map<String, String> columns(DraftChoices.Match match) {
        return match.columns() == null ? Map.of() : match.columns();
    }

    /** The name that is the key of a table by itself; empty when there is none. */
    private Optional<String> key(DraftChoices.Match match) {
        if (match.table().isEmpty()) {
            return Optional.empty();
        }
        return relation(match.table()).keys().stream()
                .filter(key -> key.columns().size() == 1)
                .flatMap(key -> columns(match).entrySet().stream()
                        .filter(entry ->
                                entry.getValue().equalsIgnoreCase(key.columns().getFirst()))
                        .map(Map.Entry::getKey))
                .findFirst();
    }

    private Relation relation(String table) {
        return drafting.contents()
                .relation(table)
                .orElseThrow(() -> new Drafting.UnknownObject(drafting.source(), "holds no table or view", table));
    }

    private Optional<JoinedTable> joined(DraftChoices.Match match) {
        return match.table().isEmpty()
                ? Optional.empty()
                : Optional.of(new JoinedTable(
                        relation(match.table()),
                        drafting.contents(),
                        drafting.catalog().dialect()));
    }

    /** By the path that rows are added to, the column that the path of one row below it is found by. */
    private static Map<String, String> locations(Map<DocumentedOperation, DraftChoices.Match> matches) {
        Map<String, String> locations = new LinkedHashMap<>();
        matches.forEach((operation, match) -> {
            String path = operation.path();
            int last = path.lastIndexOf('/');
            if (operation.method() == Method.GET && operation.answer().kind() == AnswerKind.ROW && path.endsWith("}")) {
                String placeholder = path.substring(last + 2, path.length() - 1);
                locations.put(path.substring(0, last), columns(match).getOrDefault(placeholder, ""));
            }
        });
        return locations;
    }

    private static FirstText.Matched matched(DocumentedOperation operation, DraftChoices.Match match) {
        List<FirstText.MatchedName> names = new ArrayList<>();
        Map<String, DocumentedValue> all = TableMatching.names(operation);
        all.forEach((name, value) -> names.add(new FirstText.MatchedName(
                name,
                value.type().label(),
                operation.answer().fields().stream()
                        .anyMatch(field -> field.name().equals(name)),
                operation.inputs().stream().anyMatch(input -> input.name().equals(name)),
                columns(match).getOrDefault(name, ""))));
        return new FirstText.Matched(operation.label(), operation.about(), match.table(), names);
    }
}
