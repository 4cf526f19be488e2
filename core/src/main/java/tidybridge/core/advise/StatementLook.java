package tidybridge.core.advise;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Described;
import tidybridge.core.catalog.Field;
import tidybridge.core.infer.BindTypes;
import tidybridge.core.infer.BoundKinds;
import tidybridge.core.infer.TypeFit;
import tidybridge.core.infer.Uniqueness;
import tidybridge.core.sql.Bind;
import tidybridge.core.sql.Outline;
import tidybridge.core.sql.Renderer;
import tidybridge.core.sql.SeveralStatements;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.StatementKind;
import tidybridge.core.sql.ValueKind;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.Place;
import tidybridge.core.text.SourceText;

/**
 * What can be said about a statement while it is being written: its bind parameters with the types the catalog proposes, its fields,
 * and an order for its pages.
 *
 * @param kind null when it cannot be read
 * @param trouble why it cannot be read or prepared, one sentence; null when it can
 * @param place where the trouble is; null for nowhere in particular
 * @param fields empty when it cannot be prepared, or is no query
 * @param order the fields that tell its rows apart, as far as they are known
 */
public record StatementLook(
        @Nullable StatementKind kind,
        @Nullable String trouble,
        @Nullable Place place,
        List<FoundBind> binds,
        List<Field> fields,
        List<String> order) {

    /**
     * A bind parameter.
     *
     * @param optional true when every line it stands in waits for it
     * @param where what it meets in the catalog; null for nothing known
     * @param limits its type and limits in a definition's words, {@code type: number, minimum: 0}; a string when nothing is known
     * @param list true when it stands alone in {@code in (...)}
     */
    public record FoundBind(
            String name,
            boolean optional,
            boolean list,
            @Nullable String where,
            String limits) {}

    public StatementLook {
        binds = List.copyOf(binds);
        fields = List.copyOf(fields);
        order = List.copyOf(order);
    }

    /** Looks at a text. */
    public static StatementLook of(SourceText source, Catalog catalog) {
        try {
            return of(Statement.scan(source, catalog.dialect()), catalog);
        } catch (BrokenText e) {
            return broken("It cannot be read: " + e.reason() + ".", e.place());
        } catch (SeveralStatements e) {
            return broken("A second statement starts here.", e.place());
        }
    }

    private static StatementLook broken(String trouble, Place place) {
        return new StatementLook(null, trouble, place, List.of(), List.of(), List.of());
    }

    private static StatementLook of(Statement statement, Catalog catalog) {
        Contents contents = catalog.contents().orElse(null);
        Outline outline = statement.outline();
        Map<String, List<BindTypes.Met>> met = contents == null ? Map.of() : new BindTypes(contents).of(outline);
        List<FoundBind> binds = binds(statement, met);
        if (statement.kind() != StatementKind.QUERY) {
            return new StatementLook(statement.kind(), null, null, binds, List.of(), List.of());
        }
        return switch (described(new Renderer(statement), met, catalog)) {
            case Described.Fields(List<Field> fields) ->
                new StatementLook(statement.kind(), null, null, binds, fields, order(statement, contents, fields));
            case Described.Refused(String reason) ->
                new StatementLook(
                        statement.kind(),
                        "The database cannot prepare it: " + reason + ".",
                        statement.dialect().placeOf(statement, reason).orElse(null),
                        binds,
                        List.of(),
                        List.of());
            case Described.Unknown() -> new StatementLook(statement.kind(), null, null, binds, List.of(), List.of());
        };
    }

    /** By values of the kinds that are proposed; where those do not fit, by question marks. */
    private static Described described(Renderer renderer, Map<String, List<BindTypes.Met>> met, Catalog catalog) {
        Described sample = catalog.describe(renderer.sample(bind -> kind(met.get(bind))));
        return sample instanceof Described.Refused
                ? catalog.describe(renderer.render(name -> true).sql())
                : sample;
    }

    /** What meets nothing known is proposed as a text. */
    private static ValueKind kind(@Nullable List<BindTypes.Met> met) {
        return met == null
                ? ValueKind.TEXT
                : BoundKinds.of(TypeFit.of(
                        met.getFirst().type().fieldType(), met.getFirst().type().base()));
    }

    private static List<FoundBind> binds(Statement statement, Map<String, List<BindTypes.Met>> met) {
        Map<String, List<Bind>> byName = new LinkedHashMap<>();
        statement
                .binds()
                .forEach(bind -> byName.computeIfAbsent(bind.name(), name -> new ArrayList<>())
                        .add(bind));
        List<FoundBind> found = new ArrayList<>();
        byName.forEach((name, binds) -> {
            List<BindTypes.Met> types = met.getOrDefault(name, List.of());
            found.add(new FoundBind(
                    name,
                    binds.stream().noneMatch(bind -> statement.applies(bind, given -> !given.equals(name))),
                    binds.stream().allMatch(Bind::inList),
                    types.isEmpty() ? null : types.getFirst().where(),
                    types.isEmpty()
                            ? "type: string"
                            : Proposals.limits(types.getFirst().type())));
        });
        return found;
    }

    /** The first fields that are unique together; where nothing is known to be, the first that pages can be ordered by. */
    private static List<String> order(Statement statement, @Nullable Contents contents, List<Field> fields) {
        Outline outline = statement.outline();
        List<String> usable = fields.stream()
                .filter(field -> !field.nullable() && field.type().fitsOrder())
                .map(Field::name)
                .toList();
        for (int size = 1; contents != null && size <= usable.size(); size++) {
            for (String last : size == 1 ? usable : List.of(usable.get(size - 1))) {
                List<String> order = new ArrayList<>(usable.subList(0, size - 1));
                order.add(last);
                if (new Uniqueness(outline, contents, statement.dialect()).of(order) == Uniqueness.Verdict.YES) {
                    return order;
                }
            }
        }
        return usable.isEmpty() ? List.of() : List.of(usable.getFirst());
    }
}
