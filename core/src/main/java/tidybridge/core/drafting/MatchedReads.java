package tidybridge.core.drafting;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.text.Written;

/** The query of an operation of a document that reads. */
final class MatchedReads {

    private final MatchedOperation matched;
    private final OperationKeys keysOf;

    MatchedReads(MatchedOperation matched, OperationKeys keysOf) {
        this.matched = matched;
        this.keysOf = keysOf;
    }

    /** Its keys; empty, with a note, when its statement is still to be written. */
    Optional<Written.Keys> query(JoinedTable of) {
        if (matched.operation.answer().kind() == AnswerKind.FILE || matched.fields.isEmpty() || matched.lacksPath()) {
            return Optional.empty();
        }
        boolean rows = matched.operation.answer().kind() == AnswerKind.ROWS;
        Map<String, JoinedTable.Place> selected = new LinkedHashMap<>(matched.fields);
        List<String> order = rows ? order(of, selected) : List.of();
        String sql = matched.select(of, selected) + matched.where(of, matched.inputs, matched.isJoined(selected));
        if (matched.isRefused(sql)) {
            return Optional.empty();
        }
        Written.Collector keys = keysOf.answered(keysOf.head().put("sql", matched.drafting.keep(matched.file, sql)));
        keysOf.status(keys);
        keysOf.promise(keys);
        if (!order.isEmpty()) {
            keys.put("order", Written.texts(order));
        }
        return Optional.of(keysOf.ended(keys));
    }

    /** The fields that tell the rows apart; those that the document does not show are hidden. */
    private List<String> order(JoinedTable of, Map<String, JoinedTable.Place> selected) {
        TableShape shape = new TableShape(
                of.relation,
                new DraftChoices.TableChoice(of.relation.name(), Set.of(Deed.LIST), List.of(), List.of(), false),
                matched.drafting);
        List<String> order = new ArrayList<>();
        shape.key.forEach(column -> {
            Optional<String> shown = selected.entrySet().stream()
                    .filter(entry -> entry.getValue().isOwn()
                            && entry.getValue().column().equals(column))
                    .map(Map.Entry::getKey)
                    .findFirst();
            order.add(shown.orElseGet(() -> {
                Set<String> taken = new HashSet<>();
                selected.keySet().forEach(name -> taken.add(name.toLowerCase(Locale.ROOT)));
                String name = ColumnNames.free(column.name(), taken);
                selected.put(name, new JoinedTable.Place("", column));
                matched.hidden.add(name);
                return name;
            }));
        });
        if (order.isEmpty()) {
            matched.note("Nothing is known that tells the rows of " + of.relation.name()
                    + " apart; say an order of your own.");
        }
        return order;
    }
}
