package tidybridge.core.reference;

import static tidybridge.core.reference.OpenApi.map;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
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

    private static final int MOST = 20;

    /** Names that mean something else in each table: they lead only below the path that the row came from. */
    private static final Set<String> COMMON = Set.of(
            "id", "no", "nr", "key", "code", "name", "number", "date", "day", "type", "kind", "state", "version");

    private final List<Target> targets = new ArrayList<>();

    /**
     * Something that can be called.
     *
     * @param asks for these parameters in its path, by what they are called when upper case and separators are left out
     */
    private record Target(OperationTerms operation, Map<String, String> asks) {}

    RowLinks(Contract contract) {
        for (OperationTerms operation : contract.operations()) {
            Map<String, String> asks = new LinkedHashMap<>();
            for (InputTerms input : operation.inputs()) {
                if (input.in() == In.PATH) {
                    asks.put(plain(input.name()), input.name());
                }
            }
            if (!asks.isEmpty()) {
                targets.add(new Target(operation, asks));
            }
        }
    }

    private static String plain(String name) {
        return name.replaceAll("[^A-Za-z0-9]", "").toLowerCase(Locale.ROOT);
    }

    /** The links of an operation's answer by the ids of what they lead to; none where no single row is told. */
    Map<String, Object> of(OperationTerms operation) {
        boolean page = operation.answer().kind() == AnswerKind.ROWS && operation.page() != null;
        if (!page && operation.answer().kind() != AnswerKind.ROW
                || operation.body().batch() != null) {
            return map();
        }
        Map<String, String> told = told(operation, page ? "$response.body#/data/0/" : "$response.body#/");
        Map<String, Object> links = map();
        for (Target target : targets) {
            Map<String, Object> parameters =
                    target.operation() == operation ? null : parameters(operation, target, told);
            if (parameters != null && links.size() < MOST) {
                String about = target.operation().about();
                links.put(
                        target.operation().id(),
                        map(
                                "operationId",
                                target.operation().id(),
                                "description",
                                about == null ? target.operation().label() : about,
                                "parameters",
                                parameters));
            }
        }
        return links;
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

    /** Where a parameter's field is told; null for nowhere. */
    private static @Nullable String field(
            OperationTerms operation, String asked, boolean below, Map<String, String> told) {
        String same = told.get(asked);
        if (same != null) {
            return below || !COMMON.contains(asked) ? same : null;
        }
        if (below) {
            for (String common : COMMON) {
                String own = told.get(common);
                if (own != null && asked.endsWith(common) && isOf(operation, asked, common)) {
                    return own;
                }
            }
        }
        return null;
    }

    /** True for {@code berthId} of the path {@code /berths}, whose rows have an {@code id}. */
    private static boolean isOf(OperationTerms operation, String asked, String common) {
        String thing = asked.substring(0, asked.length() - common.length());
        String collection =
                plain(operation.path().replaceAll("(/\\{[^}]*})+$", "").replaceAll(".*/", ""));
        return thing.length() > 1 && collection.startsWith(thing.substring(0, thing.length() - 1));
    }

    private static boolean isBelow(String path, String other) {
        return path.equals(other) || path.startsWith(other.equals("/") ? other : other + "/");
    }

    /** Where a target's parameters come from: some from the row, the others from the request. Null when they do not all come from there. */
    private static @Nullable Map<String, Object> parameters(
            OperationTerms operation, Target target, Map<String, String> told) {
        boolean below = isBelow(target.operation().path(), operation.path());
        Map<String, Object> parameters = map();
        boolean ofRow = false;
        for (Map.Entry<String, String> asked : target.asks().entrySet()) {
            String field = field(operation, asked.getKey(), below, told);
            if (field != null) {
                parameters.put(asked.getValue(), field);
                ofRow = true;
            } else if (operation.inputs().stream()
                    .anyMatch(input -> input.in() == In.PATH && input.name().equals(asked.getValue()))) {
                parameters.put(asked.getValue(), "$request.path." + asked.getValue());
            } else {
                return null;
            }
        }
        return ofRow ? parameters : null;
    }
}
