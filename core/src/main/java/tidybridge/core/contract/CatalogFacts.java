package tidybridge.core.contract;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.ColumnType;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Relation;
import tidybridge.core.catalog.Routine;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.sql.Dialect;
import tidybridge.core.text.SourceText;

/**
 * What a source held of everything that the statements of a module name, when a release of it was published: tables, views and what they are
 * made of, with the columns that are named and the indexes that begin with one. Only data; immutable and thread-safe.
 *
 * @param schema the source's schema; empty when the source could not be asked what it holds
 * @param relations tables and views, by name
 * @param routines by name
 */
public record CatalogFacts(String schema, List<RelationFacts> relations, List<RoutineFacts> routines) {

    /** How many views may stand behind each other. */
    private static final int DEEPEST_VIEW = 8;

    /** Nothing is known. */
    public static final CatalogFacts UNKNOWN = new CatalogFacts("", List.of(), List.of());

    /** A table or a view. */
    public record RelationFacts(String name, Relation.Kind kind, List<ColumnFacts> columns, List<IndexFacts> indexes) {
        public RelationFacts {
            columns = List.copyOf(columns);
            indexes = List.copyOf(indexes);
        }
    }

    /** A column; {@code type} is as the database writes it. */
    public record ColumnFacts(String name, String type, boolean nullable) {}

    /** An index. */
    public record IndexFacts(String name, boolean unique, List<String> columns) {
        public IndexFacts {
            columns = List.copyOf(columns);
        }
    }

    /** A procedure or function; {@code returns} is null for a procedure. */
    public record RoutineFacts(
            String name, Routine.Kind kind, @Nullable String returns, List<ParameterFacts> parameters) {
        public RoutineFacts {
            parameters = List.copyOf(parameters);
        }
    }

    /** A parameter of a routine. */
    public record ParameterFacts(String name, Routine.Mode mode, String type) {}

    public CatalogFacts {
        relations = List.copyOf(relations);
        routines = List.copyOf(routines);
    }

    /** What a module's text uses of what a source holds. */
    public static CatalogFacts of(ModuleText text, Contents contents, Dialect dialect) {
        Set<String> names = new HashSet<>();
        text.files().keySet().stream()
                .filter(file -> file.endsWith(".sql"))
                .forEach(file -> names.addAll(UsedNames.of(text.source(file), dialect, contents.schema())));
        List<Relation> used = used(contents, names, dialect);
        return new CatalogFacts(
                contents.schema(),
                used.stream().map(relation -> facts(relation, names)).toList(),
                contents.routines().stream()
                        .filter(routine -> names.contains(routine.name().toLowerCase(Locale.ROOT)))
                        .map(CatalogFacts::facts)
                        .toList());
    }

    private static List<Relation> used(Contents contents, Set<String> names, Dialect dialect) {
        List<Relation> used = new ArrayList<>();
        boolean more = true;
        for (int depth = 0; more && depth < DEEPEST_VIEW; depth++) {
            more = false;
            for (Relation relation : contents.relations()) {
                if (names.contains(relation.name().toLowerCase(Locale.ROOT)) && !used.contains(relation)) {
                    used.add(relation);
                    String definition = relation.definition();
                    if (definition != null) {
                        more |= names.addAll(
                                UsedNames.of(new SourceText(relation.name(), definition), dialect, contents.schema()));
                    }
                }
            }
        }
        used.sort(Comparator.comparing(Relation::name));
        return used;
    }

    private static RelationFacts facts(Relation relation, Set<String> names) {
        Predicate<String> named = column -> names.contains("*") || names.contains(column.toLowerCase(Locale.ROOT));
        return new RelationFacts(
                relation.name(),
                relation.kind(),
                relation.columns().stream()
                        .filter(column -> named.test(column.name()))
                        .map(column ->
                                new ColumnFacts(column.name(), column.type().text(), column.nullable()))
                        .toList(),
                relation.indexes().stream()
                        .filter(index -> named.test(index.columns().getFirst()))
                        .map(index -> new IndexFacts(index.name(), index.unique(), index.columns()))
                        .toList());
    }

    private static RoutineFacts facts(Routine routine) {
        ColumnType returns = routine.returns();
        return new RoutineFacts(
                routine.name(),
                routine.kind(),
                returns == null ? null : returns.text(),
                routine.parameters().stream()
                        .map(parameter -> new ParameterFacts(
                                parameter.name(),
                                parameter.mode(),
                                parameter.type().text()))
                        .toList());
    }

    /** As JSON; equal facts are equal texts. */
    public String text() {
        return ContractText.write(this);
    }

    /**
     * Reads what {@link #text()} wrote.
     *
     * @throws IllegalArgumentException when it is something else
     */
    public static CatalogFacts read(String text) {
        return ContractText.readFacts(text);
    }
}
