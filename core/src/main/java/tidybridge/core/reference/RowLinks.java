package tidybridge.core.reference;

import static tidybridge.core.reference.OpenApi.map;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.FieldTerms;
import tidybridge.core.contract.InputTerms;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.In;

/**
 * What can be called next with what a row says (OpenAPI links): the operations whose path asks for a field of the row by its name. Of a page
 * its first row is meant, as a link leads from one value to one call.
 */
final class RowLinks {

    private static final int MOST = 12;

    /** Names that mean something else in each table: they lead only below the path that the row came from. */
    private static final Set<String> COMMON = Set.of(
            "id", "no", "nr", "key", "code", "name", "number", "date", "day", "type", "kind", "state", "version");

    /** In the order of the text, each under the first of the parameters that it asks for. */
    private final Map<String, List<Target>> byFirst = new HashMap<>();

    /** By their paths, so that those below a path stand together. */
    private final NavigableMap<String, List<Target>> byPath = new TreeMap<>();

    /**
     * Something that can be called.
     *
     * @param place in the order of the text
     * @param asks for these parameters in its path, by what they are called when upper case and separators are left out
     */
    private record Target(int place, OperationTerms operation, Map<String, String> asks) {}

    /**
     * A row that is answered.
     *
     * @param told where each field is found that is told as it is, by plain names
     * @param sent the names of the placeholders of its own path
     * @param collection the last word of the path that is no placeholder, as a plain name
     */
    private record Row(OperationTerms operation, Map<String, String> told, Set<String> sent, String collection) {}

    RowLinks(Contract contract) {
        int place = 0;
        for (OperationTerms operation : contract.operations()) {
            Map<String, String> asks = new LinkedHashMap<>();
            for (InputTerms input : operation.inputs()) {
                if (input.in() == In.PATH) {
                    asks.put(plain(input.name()), input.name());
                }
            }
            if (!asks.isEmpty()) {
                Target target = new Target(place++, operation, asks);
                byFirst.computeIfAbsent(asks.keySet().iterator().next(), name -> new ArrayList<>())
                        .add(target);
                byPath.computeIfAbsent(operation.path(), path -> new ArrayList<>())
                        .add(target);
            }
        }
    }

    private static String plain(String name) {
        StringBuilder plain = new StringBuilder(name.length());
        for (int i = 0; i < name.length(); i++) {
            char letter = name.charAt(i);
            if (letter >= '0' && letter <= '9' || letter >= 'a' && letter <= 'z') {
                plain.append(letter);
            } else if (letter >= 'A' && letter <= 'Z') {
                plain.append((char) (letter + ('a' - 'A')));
            }
        }
        return plain.toString();
    }

    /** The links of an operation's answer by the ids of what they lead to, the nearest first; none where no single row is told. */
    Map<String, Object> of(OperationTerms operation) {
        boolean page = operation.answer().kind() == AnswerKind.ROWS && operation.page() != null;
        if (!page && operation.answer().kind() != AnswerKind.ROW
                || operation.body().batch() != null) {
            return map();
        }
        Row row = new Row(
                operation,
                told(operation, page ? "$response.body#/data/0/" : "$response.body#/"),
                sent(operation),
                collection(operation.path()));
        Map<String, Object> links = map();
        add(below(operation.path()), row, true, links);
        add(elsewhere(row), row, false, links);
        return links;
    }

    private static void add(List<Target> targets, Row row, boolean below, Map<String, Object> links) {
        for (Target target : targets) {
            if (links.size() == MOST) {
                return;
            }
            String id = target.operation().id();
            boolean known = target.operation() == row.operation() || links.containsKey(id);
            Map<String, Object> parameters = known ? null : parameters(row, target, below);
            if (parameters != null) {
                String about = target.operation().about();
                links.put(
                        id,
                        map(
                                "operationId",
                                id,
                                "description",
                                about == null ? target.operation().label() : about,
                                "parameters",
                                parameters));
            }
        }
    }

    private List<Target> below(String path) {
        List<Target> below = new ArrayList<>(byPath.getOrDefault(path, List.of()));
        String under = path.equals("/") ? path : path + "/";
        // '0' comes behind '/'
        byPath.subMap(under, path.equals("/") ? "0" : path + "0").values().forEach(below::addAll);
        below.sort(Comparator.comparingInt(Target::place));
        return below;
    }

    /** Those whose first parameter the row tells, or its request. */
    private List<Target> elsewhere(Row row) {
        Set<String> known = new TreeSet<>(row.told().keySet());
        row.sent().forEach(name -> known.add(plain(name)));
        List<Target> found = new ArrayList<>();
        known.forEach(name -> found.addAll(byFirst.getOrDefault(name, List.of())));
        found.sort(Comparator.comparingInt(Target::place));
        return found;
    }

    /** Where each field of the row is found that is told as it is. */
    private static Map<String, String> told(OperationTerms operation, String row) {
        Map<String, String> told = new HashMap<>();
        for (FieldTerms field : operation.answer().fields()) {
            if (field.path().size() == 1 && field.mask() == null && !field.nullable()) {
                String name = field.path().getFirst();
                told.putIfAbsent(plain(name), row + name.replace("~", "~0").replace("/", "~1"));
            }
        }
        return told;
    }

    private static Set<String> sent(OperationTerms operation) {
        Set<String> sent = new HashSet<>();
        for (InputTerms input : operation.inputs()) {
            if (input.in() == In.PATH) {
                sent.add(input.name());
            }
        }
        return sent;
    }

    private static String collection(String path) {
        String[] words = path.split("/", -1);
        for (int i = words.length - 1; i >= 0; i--) {
            if (!words[i].startsWith("{")) {
                return plain(words[i]);
            }
        }
        return "";
    }

    /** Where a parameter's field is told; null for nowhere. */
    private static @Nullable String field(Row row, String asked, boolean below) {
        String same = row.told().get(asked);
        if (same != null) {
            return below || !COMMON.contains(asked) ? same : null;
        }
        if (below) {
            for (String common : COMMON) {
                String own = asked.endsWith(common) ? row.told().get(common) : null;
                if (own != null && isOf(row.collection(), asked, common)) {
                    return own;
                }
            }
        }
        return null;
    }

    /** True for {@code berthId} of the path {@code /berths}, whose rows have an {@code id}. */
    private static boolean isOf(String collection, String asked, String common) {
        String thing = asked.substring(0, asked.length() - common.length());
        return thing.length() > 1 && collection.startsWith(thing.substring(0, thing.length() - 1));
    }

    /** Where a target's parameters come from: some from the row, the others from the request. Null when they do not all come from there. */
    private static @Nullable Map<String, Object> parameters(Row row, Target target, boolean below) {
        Map<String, Object> parameters = map();
        boolean ofRow = false;
        for (Map.Entry<String, String> asked : target.asks().entrySet()) {
            String field = field(row, asked.getKey(), below);
            if (field != null) {
                parameters.put(asked.getValue(), field);
                ofRow = true;
            } else if (row.sent().contains(asked.getValue())) {
                parameters.put(asked.getValue(), "$request.path." + asked.getValue());
            } else {
                return null;
            }
        }
        return ofRow ? parameters : null;
    }
}
