package tidybridge.core.drafting;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Written;

/** The change of an operation of a document: a new row, another one, or one that goes. */
final class MatchedWrites {

    private static final int CREATED = 201;

    private final MatchedOperation matched;
    private final OperationKeys keysOf;

    /** By the path that rows are added to, the column that one of them is found by. */
    private final Map<String, String> locations;

    MatchedWrites(MatchedOperation matched, OperationKeys keysOf, Map<String, String> locations) {
        this.matched = matched;
        this.keysOf = keysOf;
        this.locations = locations;
    }

    private List<MatchedOperation.MatchedInput> written(JoinedTable of) {
        Set<String> columns = new HashSet<>();
        return matched.inputs.stream()
                .filter(input -> {
                    JoinedTable.Place place = input.place();
                    return place != null
                            && place.isOwn()
                            && TableWrites.isWritable(place.column())
                            && columns.add(place.column().name());
                })
                .toList();
    }

    private String returning(JoinedTable of) {
        return matched.answersRow()
                ? "returning "
                        + matched.fields.entrySet().stream()
                                .map(entry -> of.written(entry.getValue(), false)
                                        + matched.alias(entry.getKey(), entry.getValue()))
                                .collect(Collectors.joining(", "))
                        + "\n"
                : "";
    }

    /** A new row; empty, with a note, when its statement is still to be written. */
    Optional<Written.Keys> addition(JoinedTable of) {
        List<MatchedOperation.MatchedInput> given = written(of);
        boolean joined = matched.answersRow() && matched.isJoined(matched.fields);
        if (given.isEmpty() || joined && key(of).isEmpty()) {
            matched.note(
                    given.isEmpty()
                            ? "Nothing that callers send means a column of " + of.relation.name()
                                    + "; its statement is still to be written."
                            : "It answers with columns of other tables, and no key finds the new row again; its statement is still to be written.");
            return Optional.empty();
        }
        of.relation.columns().stream()
                .filter(column ->
                        TableWrites.isRequired(column) && given.stream().noneMatch(input -> isOf(input, column.name())))
                .forEach(column -> matched.note("A row of " + of.relation.name() + " needs a value for " + column.name()
                        + ", and nothing that callers send means it; give it one in the statement."));
        String sql = insert(of, given) + (joined ? returningKey(of) : returning(of));
        if (matched.isRefused(sql)) {
            return Optional.empty();
        }
        Written.Collector keys = keysOf.head();
        if (joined) {
            String made = key(of).stream()
                    .map(key ->
                            of.written(key, true) + " = :made." + key.column().name())
                    .collect(Collectors.joining("\n  and "));
            steps(keys, "made", sql, matched.select(of, matched.fields) + "where\n  " + made + "\n");
        } else {
            keys.put("sql", matched.drafting.keep(matched.file, sql));
        }
        keys.put("answer", matched.answersRow() ? "row" : "nothing");
        String location = location();
        if (location != null) {
            keys.put("location", location);
        } else {
            keysOf.status(keys);
        }
        keysOf.promise(keys);
        refusals(keys, of, given);
        return Optional.of(keysOf.ended(keys));
    }

    private static boolean isOf(MatchedOperation.MatchedInput input, String column) {
        JoinedTable.Place place = input.place();
        return place != null && place.isOwn() && place.column().name().equals(column);
    }

    private void refusals(Written.Collector keys, JoinedTable of, List<MatchedOperation.MatchedInput> given) {
        Map<String, String> names = new HashMap<>();
        given.forEach(input -> {
            if (input.place() != null) {
                names.put(input.place().column().name(), input.bind());
            }
        });
        new Refusals(of.relation, column -> names.getOrDefault(column, column))
                .put(
                        keys,
                        of.relation.columns().stream()
                                .filter(column -> names.containsKey(column.name()))
                                .toList());
    }

    private String insert(JoinedTable of, List<MatchedOperation.MatchedInput> given) {
        List<String> columns = new ArrayList<>();
        List<String> values = new ArrayList<>();
        boolean certain = given.stream().anyMatch(input -> input.input().isGiven());
        List<MatchedOperation.MatchedInput> sorted = new ArrayList<>(given);
        sorted.sort(Comparator.comparing(
                (MatchedOperation.MatchedInput input) -> !input.input().isGiven()));
        for (MatchedOperation.MatchedInput input : sorted) {
            JoinedTable.Place place = input.place();
            if (place != null) {
                String column = of.written(place, false);
                // one column is there in any case, so that the lists are never empty
                boolean anyway = !certain && columns.isEmpty();
                String start = columns.isEmpty() ? "  " : "  , ";
                columns.add(start + column + (anyway ? "" : input.when()));
                values.add(start
                        + (anyway
                                ? "coalesce(:" + input.bind() + ", default(" + column + "))"
                                : ":" + input.bind() + input.when()));
            }
        }
        return "insert into " + of.named() + " (\n" + TableWrites.aligned(columns) + "\n)\nvalues (\n"
                + TableWrites.aligned(values) + "\n)\n";
    }

    /** The key that a later step finds the new row by; empty when there is none that a step can say. */
    private static List<JoinedTable.Place> key(JoinedTable of) {
        return of.relation.keys().stream()
                .filter(key -> key.columns().stream().allMatch(name -> name.matches("[A-Za-z_][A-Za-z0-9_]*")))
                .map(key -> key.columns().stream()
                        .flatMap(name -> of.find(name).stream())
                        .toList())
                .findFirst()
                .orElse(List.of());
    }

    private static String returningKey(JoinedTable of) {
        return key(of).stream()
                .map(key -> of.written(key, false))
                .collect(Collectors.joining(", ", "returning ", "\n"));
    }

    /** A change, and a query that answers with the row as it is then. */
    private void steps(Written.Collector keys, String name, String change, String row) {
        keys.put(
                "steps",
                new Written.Collector()
                        .put(
                                name,
                                new Written.Collector()
                                        .put("sql", matched.drafting.keep(matched.file, change))
                                        .keys())
                        .put(
                                "row",
                                new Written.Collector()
                                        .put("sql", matched.drafting.keep(matched.file + "-row", row))
                                        .keys())
                        .keys());
    }

    /** Where the new row is read, when the answer has what that path needs. */
    private @Nullable String location() {
        String column = locations.getOrDefault(matched.operation.path(), "");
        if (column.isEmpty() || matched.operation.answer().status() != CREATED || !matched.answersRow()) {
            return null;
        }
        return matched.fields.entrySet().stream()
                .filter(field -> field.getValue().words().equals(column)
                        && field.getKey().indexOf('.') < 0)
                .findFirst()
                .map(field -> matched.operation.path() + "/{" + field.getKey() + "}")
                .orElse(null);
    }

    /** Some columns of a row; empty, with a note, when its statement is still to be written. */
    Optional<Written.Keys> change(JoinedTable of) {
        List<MatchedOperation.MatchedInput> found = found();
        if (found.isEmpty()) {
            return Optional.empty();
        }
        List<MatchedOperation.MatchedInput> also = new ArrayList<>(found);
        List<MatchedOperation.MatchedInput> set = new ArrayList<>();
        for (MatchedOperation.MatchedInput input : matched.inputs) {
            JoinedTable.Place place = input.place();
            if (!input.inPath() && place != null && place.isOwn()) {
                boolean finds =
                        found.stream().anyMatch(one -> isOf(one, place.column().name()));
                if (finds) {
                    also.add(input);
                } else if (TableWrites.isWritable(place.column())
                        && set.stream()
                                .noneMatch(one -> isOf(one, place.column().name()))) {
                    set.add(input);
                }
            }
        }
        if (set.isEmpty()) {
            matched.note("Nothing that callers send means a column of " + of.relation.name()
                    + " that can change; its statement is still to be written.");
            return Optional.empty();
        }
        List<String> lines = new ArrayList<>();
        for (MatchedOperation.MatchedInput input : set) {
            JoinedTable.Place place = input.place();
            if (place != null) {
                lines.add((lines.isEmpty() ? "set " : "  , ") + of.written(place, false) + " = :" + input.bind()
                        + input.when());
            }
        }
        String sql = "update " + of.named() + "\n" + TableWrites.aligned(lines) + "\n" + matched.where(of, also, false);
        if (matched.isRefused(sql)) {
            return Optional.empty();
        }
        return Optional.of(changed(of, sql, found, set));
    }

    private Written.Keys changed(
            JoinedTable of,
            String sql,
            List<MatchedOperation.MatchedInput> found,
            List<MatchedOperation.MatchedInput> set) {
        Written.Collector keys = keysOf.head();
        if (matched.answersRow()) {
            Map<String, JoinedTable.Place> selected = new LinkedHashMap<>(matched.fields);
            boolean joined = matched.isJoined(selected);
            String row = matched.select(of, selected) + matched.where(of, found, joined);
            steps(keys, "changed", sql, row);
        } else {
            keys.put("sql", matched.drafting.keep(matched.file, sql));
        }
        keys.put("answer", matched.answersRow() ? "row" : "nothing");
        keysOf.status(keys);
        keysOf.promise(keys);
        refusals(keys, of, set);
        return keysOf.ended(keys);
    }

    /** What finds one row; empty, with a note, when the path does not. */
    private List<MatchedOperation.MatchedInput> found() {
        List<MatchedOperation.MatchedInput> found = matched.inputs.stream()
                .filter(MatchedOperation.MatchedInput::inPath)
                .toList();
        if (found.isEmpty()) {
            matched.note("Its path says no row, so that every row would change; its statement is still to be written.");
        }
        return matched.lacksPath() ? List.of() : found;
    }

    /** A row goes; empty, with a note, when its statement is still to be written. */
    Optional<Written.Keys> removal(JoinedTable of) {
        List<MatchedOperation.MatchedInput> found = found();
        if (found.isEmpty()) {
            return Optional.empty();
        }
        String sql = "delete from " + of.named() + "\n" + matched.where(of, matched.inputs, false)
                + (matched.isJoined(matched.fields) ? "" : returning(of));
        if (matched.isRefused(sql)) {
            return Optional.empty();
        }
        Written.Collector keys = keysOf.head().put("sql", matched.drafting.keep(matched.file, sql));
        keys.put("answer", matched.answersRow() && !matched.isJoined(matched.fields) ? "row" : "nothing");
        keysOf.status(keys);
        keysOf.promise(keys);
        return Optional.of(keysOf.ended(keys));
    }
}
