package tidybridge.core.compare;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import tidybridge.core.catalog.Relation;
import tidybridge.core.compare.CatalogDifference.Kind;
import tidybridge.core.contract.CatalogFacts;
import tidybridge.core.contract.CatalogFacts.ColumnFacts;
import tidybridge.core.contract.CatalogFacts.IndexFacts;
import tidybridge.core.contract.CatalogFacts.RelationFacts;
import tidybridge.core.contract.CatalogFacts.RoutineFacts;

/**
 * What a release counts on, beside what a database holds: another one, or the same one later. What is new there is no difference.
 *
 * @param differences in the order of the tables, views and routines
 */
public record CatalogComparison(List<CatalogDifference> differences) {

    public CatalogComparison {
        differences = List.copyOf(differences);
    }

    /** Compares; nothing differs where one of the two is not known. */
    public static CatalogComparison of(CatalogFacts counted, CatalogFacts held) {
        List<CatalogDifference> found = new ArrayList<>();
        if (!counted.equals(CatalogFacts.UNKNOWN) && !held.equals(CatalogFacts.UNKNOWN)) {
            counted.relations().forEach(relation -> compare(relation, held, found));
            counted.routines().forEach(routine -> compare(routine, held, found));
        }
        return new CatalogComparison(found);
    }

    private static void compare(RelationFacts counted, CatalogFacts held, List<CatalogDifference> found) {
        String what = (counted.kind() == Relation.Kind.VIEW ? "The view '" : "The table '") + counted.name() + "'";
        Optional<RelationFacts> same = held.relations().stream()
                .filter(relation -> relation.name().equalsIgnoreCase(counted.name()))
                .findFirst();
        if (same.isEmpty()) {
            found.add(new CatalogDifference(Kind.RELATION_GONE, counted.name(), null, what + " is not there."));
            return;
        }
        for (ColumnFacts column : counted.columns()) {
            compare(what, counted.name(), column, same.get(), found);
        }
        for (IndexFacts index : counted.indexes()) {
            if (same.get().indexes().stream().noneMatch(other -> serves(other, index))) {
                found.add(new CatalogDifference(
                        Kind.INDEX_GONE,
                        counted.name(),
                        index.columns().getFirst(),
                        what + " has no" + (index.unique() ? " unique" : "") + " index on "
                                + String.join(", ", index.columns()) + " ('" + index.name() + "')."));
            }
        }
    }

    /** An index serves what another one did when it begins with the same columns; what must be unique must stay so. */
    private static boolean serves(IndexFacts index, IndexFacts counted) {
        List<String> columns = index.columns();
        boolean begins = columns.size() >= counted.columns().size()
                && columns.subList(0, counted.columns().size()).equals(counted.columns());
        return counted.unique() ? index.unique() && columns.equals(counted.columns()) : begins;
    }

    private static void compare(
            String what, String object, ColumnFacts counted, RelationFacts held, List<CatalogDifference> found) {
        String column = what + " has no column '" + counted.name() + "'.";
        Optional<ColumnFacts> same = held.columns().stream()
                .filter(other -> other.name().equalsIgnoreCase(counted.name()))
                .findFirst();
        if (same.isEmpty()) {
            found.add(new CatalogDifference(Kind.COLUMN_GONE, object, counted.name(), column));
            return;
        }
        String named = "The column '" + object + "." + counted.name() + "'";
        if (!same.get().type().equals(counted.type())) {
            found.add(new CatalogDifference(
                    Kind.COLUMN_RETYPED,
                    object,
                    counted.name(),
                    named + " is " + same.get().type() + " and was " + counted.type() + "."));
        }
        if (same.get().nullable() != counted.nullable()) {
            found.add(
                    counted.nullable()
                            ? new CatalogDifference(
                                    Kind.COLUMN_NEVER_NULL, object, counted.name(), named + " may no longer be null.")
                            : new CatalogDifference(
                                    Kind.COLUMN_NULLABLE, object, counted.name(), named + " may be null."));
        }
    }

    private static void compare(RoutineFacts counted, CatalogFacts held, List<CatalogDifference> found) {
        Optional<RoutineFacts> same = held.routines().stream()
                .filter(routine -> routine.name().equalsIgnoreCase(counted.name()))
                .findFirst();
        String what = "The routine '" + counted.name() + "'";
        if (same.isEmpty()) {
            found.add(new CatalogDifference(Kind.ROUTINE_GONE, counted.name(), null, what + " is not there."));
        } else if (same.get().kind() != counted.kind()
                || !Objects.equals(same.get().returns(), counted.returns())
                || !same.get().parameters().equals(counted.parameters())) {
            found.add(new CatalogDifference(
                    Kind.ROUTINE_CHANGED,
                    counted.name(),
                    null,
                    what + " takes (" + taken(same.get()) + ") and took (" + taken(counted) + ")."));
        }
    }

    private static String taken(RoutineFacts routine) {
        return routine.parameters().stream()
                        .map(parameter -> parameter.mode().name().toLowerCase(Locale.ROOT) + " " + parameter.name()
                                + " " + parameter.type())
                        .collect(Collectors.joining(", "))
                + (routine.returns() == null ? "" : "; returns " + routine.returns());
    }
}
