package tidybridge.core.drafting;

import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Relation;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.In;
import tidybridge.core.definition.Method;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.document.DocumentedOperation;
import tidybridge.core.document.DocumentedValue;
import tidybridge.core.infer.TypeFit;
import tidybridge.core.sql.Dialect;
import tidybridge.core.text.PlainName;

/**
 * Proposes for an operation of a document the table it is about, and for each of its names the column: by names first, whatever way they are written in, and
 * by types where names are only alike.
 */
final class TableMatching {

    private static final int WHOLE = 100;
    private static final int OF_THE_NAME = 30;
    private static final int OF_A_LIKE_NAME = 28;
    private static final int OF_ANOTHER_NAME = 10;
    private static final int IN_THE_PATH = 50;
    private static final int SHORTEST_ALIKE = 4;

    private final List<Candidate> candidates;

    TableMatching(Contents contents, Dialect dialect) {
        this.candidates = contents.relations().stream()
                .map(relation -> new Candidate(new JoinedTable(relation, contents, dialect)))
                .toList();
    }

    /** One table, with its columns by their plain names. */
    private static final class Candidate {

        private final JoinedTable table;
        private final String name;
        private final Map<String, JoinedTable.Place> places = new HashMap<>();

        Candidate(JoinedTable table) {
            this.table = table;
            this.name = singular(plain(table.relation.name()));
            for (JoinedTable.Place place : table.places()) {
                String column = plain(place.column().name());
                if (place.isOwn()) {
                    places.put(column, place);
                } else {
                    places.putIfAbsent(plain(place.alias()) + column, place);
                }
            }
            ownKey();
        }

        /** {@code id} is the key, and {@code berthId} is the key of a berth. */
        private void ownKey() {
            table.relation.keys().stream()
                    .filter(key -> key.columns().size() == 1)
                    .findFirst()
                    .flatMap(key -> table.find(key.columns().getFirst()))
                    .ifPresent(key -> {
                        places.putIfAbsent("id", key);
                        places.putIfAbsent(name + "id", key);
                        places.putIfAbsent(name + plain(key.column().name()), key);
                    });
        }

        JoinedTable.@Nullable Place same(String plainName) {
            return places.get(plainName);
        }

        /** A column whose name only ends as this one does, and whose type fits. */
        JoinedTable.@Nullable Place alike(String plainName, ParameterType type) {
            return plainName.length() < SHORTEST_ALIKE
                    ? null
                    : places.entrySet().stream()
                            .filter(entry -> entry.getValue().isOwn()
                                    && entry.getKey().length() >= SHORTEST_ALIKE
                                    && (entry.getKey().startsWith(plainName)
                                            || entry.getKey().endsWith(plainName)
                                            || plainName.endsWith(entry.getKey()))
                                    && TypeFit.fits(
                                            type,
                                            entry.getValue().column().type().fieldType()))
                            .min(Comparator.comparingInt((Map.Entry<String, JoinedTable.Place> entry) ->
                                            Math.abs(entry.getKey().length() - plainName.length()))
                                    .thenComparing(Map.Entry::getKey))
                            .map(Map.Entry::getValue)
                            .orElse(null);
        }
    }

    /** The table that an operation is most probably about; empty when there is none. */
    Optional<String> table(DocumentedOperation operation) {
        List<String> path = literals(operation.path());
        if (isDeed(operation) || path.isEmpty()) {
            return Optional.empty();
        }
        List<String> names =
                names(operation).keySet().stream().map(TableMatching::plain).toList();
        return candidates.stream()
                .filter(candidate ->
                        operation.method() == Method.GET || candidate.table.relation.kind() == Relation.Kind.TABLE)
                .map(candidate -> Map.entry(candidate, worth(candidate, path, names)))
                .filter(entry -> entry.getValue() > 0)
                .max(Map.Entry.<Candidate, Integer>comparingByValue()
                        .thenComparing(entry -> entry.getKey().table.relation.name(), Comparator.reverseOrder()))
                .map(entry -> entry.getKey().table.relation.name());
    }

    /** {@code POST /bookings/{id}/cancel}: a deed that no statement over one table tells by its names. */
    private boolean isDeed(DocumentedOperation operation) {
        String path = operation.path();
        List<String> literals = literals(path);
        boolean writes = operation.method() != Method.GET && operation.answer().kind() != AnswerKind.ROWS;
        return writes
                && !path.endsWith("}")
                && (literals.isEmpty()
                        || candidates.stream().noneMatch(candidate -> candidate.name.equals(literals.getLast())));
    }

    /**
     * How probably an operation is about a table.
     *
     * @param names in their plain form
     * @return zero for what is not about it
     */
    private static int worth(Candidate candidate, List<String> path, List<String> names) {
        int found = 0;
        for (String name : names) {
            found += candidate.same(name) == null ? 0 : 1;
        }
        boolean named = path.getLast().equals(candidate.name);
        boolean alike = candidate.name.startsWith(path.getLast());
        boolean most = !names.isEmpty() && found * 2 > names.size() && found > 1;
        if (!(named && found > 0) && !most) {
            return 0;
        }
        int covered = found * WHOLE / Math.max(1, names.size());
        // a view of berths that has all fields is meant rather than the table of berths that has some
        return covered * (named ? OF_THE_NAME : alike ? OF_A_LIKE_NAME : OF_ANOTHER_NAME)
                + (path.contains(candidate.name) ? IN_THE_PATH : 0);
    }

    /** The column that each name of an operation means in a table, as far as one can be told. */
    Map<String, String> columns(DocumentedOperation operation, String table) {
        Map<String, String> columns = new LinkedHashMap<>();
        candidates.stream()
                .filter(candidate -> candidate.table.relation.name().equals(table))
                .findFirst()
                .ifPresent(candidate -> {
                    Map<String, DocumentedValue> names = names(operation);
                    names.keySet().forEach(name -> put(columns, name, same(candidate, name)));
                    names.forEach((name, value) -> {
                        if (!columns.containsKey(name) && name.indexOf('.') < 0) {
                            var alike = candidate.alike(plain(Bound.of(name).bare()), value.type());
                            boolean taken = alike != null && columns.containsValue(alike.words());
                            put(
                                    columns,
                                    name,
                                    taken && Bound.of(name).operator().equals("=") ? null : alike);
                        }
                    });
                });
        return columns;
    }

    private static void put(Map<String, String> columns, String name, JoinedTable.@Nullable Place place) {
        if (place != null) {
            columns.put(name, place.words());
        }
    }

    private static JoinedTable.@Nullable Place same(Candidate candidate, String name) {
        JoinedTable.Place same = candidate.same(plain(name));
        return same == null ? candidate.same(plain(Bound.of(name).bare())) : same;
    }

    /** Every name of an operation with what the document tells of its value: those of the answer, and those of what is sent. */
    static Map<String, DocumentedValue> names(DocumentedOperation operation) {
        Map<String, DocumentedValue> names = new LinkedHashMap<>();
        if (operation.answer().kind() != AnswerKind.VALUE) {
            operation.answer().fields().forEach(field -> names.put(field.name(), field.value()));
        }
        operation.inputs().stream()
                .filter(input -> !input.name().isEmpty() && input.in() != In.HEADER && input.in() != In.COOKIE)
                .forEach(input -> names.putIfAbsent(input.name(), input.value()));
        return names;
    }

    private static List<String> literals(String path) {
        return Arrays.stream(path.split("/"))
                .filter(segment -> !segment.isEmpty() && !segment.startsWith("{"))
                .map(segment -> singular(plain(segment)))
                .toList();
    }

    /** Letters and digits in lower case: {@code berthNo}, {@code berth_no} and {@code berth-no} are one name. */
    private static String plain(String name) {
        String plain = PlainName.of(name, "").replace("_", "");
        return plain.endsWith("number") && plain.length() > "number".length()
                ? plain.substring(0, plain.length() - "umber".length()) + "o"
                : plain;
    }

    private static String singular(String plain) {
        return plain.endsWith("ies") && plain.length() > 4
                ? plain.substring(0, plain.length() - 3) + "y"
                : plain.endsWith("s") && !plain.endsWith("ss") ? plain.substring(0, plain.length() - 1) : plain;
    }

    /** How a name compares with its column: a name that is the column's own always says the very value. */
    static String operator(String name, String column) {
        return plain(name).equals(plain(column)) ? "=" : Bound.of(name).operator();
    }

    /** A name that bounds a column: {@code minLength} is the least length. */
    private record Bound(String operator, String bare) {

        private static final Map<String, String> WORDS = Map.of(
                "min", ">=", "from", ">=", "since", ">=", "after", ">=", "max", "<=", "to", "<=", "until", "<=",
                "before", "<=");

        static Bound of(String name) {
            for (Map.Entry<String, String> word : WORDS.entrySet()) {
                String key = word.getKey();
                if (name.length() > key.length()
                        && name.toLowerCase(Locale.ROOT).startsWith(key)
                        && (name.charAt(key.length()) == '_'
                                || name.charAt(key.length()) == '-'
                                || Character.isUpperCase(name.charAt(key.length())))) {
                    return new Bound(word.getValue(), name.substring(key.length()));
                }
            }
            return new Bound("=", name);
        }
    }
}
