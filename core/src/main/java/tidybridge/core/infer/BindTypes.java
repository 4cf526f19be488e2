package tidybridge.core.infer;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.ColumnType;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Routine;
import tidybridge.core.sql.Outline;
import tidybridge.core.sql.Outline.BindUse;
import tidybridge.core.sql.Outline.Block;
import tidybridge.core.sql.Outline.ColumnRef;
import tidybridge.core.sql.Outline.TableUse;
import tidybridge.core.sql.Statement;

/** Finds in the catalog what each bind parameter of a statement meets: the column it is compared with or written to, or an argument. */
public final class BindTypes {

    /**
     * What a bind parameter meets.
     *
     * @param where {@code berth.length_m} or {@code book_berth(the_arrival)}
     * @param about the column's comment, empty for none
     * @param written the column that an INSERT writes it to; null for everything else
     */
    public record Met(
            String bind,
            ColumnType type,
            String where,
            String about,
            @Nullable Column written) {

        Met(String bind, ColumnType type, String where, String about) {
            this(bind, type, where, about, null);
        }
    }

    /** What functions that make geometries take first; a point, both times. */
    private static final Map<String, ColumnType> TAKEN = Map.of(
            "st_geomfromgeojson", of("json"),
            "st_geomfromtext", of("longtext"),
            "st_geometryfromtext", of("longtext"),
            "st_pointfromtext", of("longtext"),
            "st_linefromtext", of("longtext"),
            "st_polyfromtext", of("longtext"),
            "st_geomfromwkb", of("blob"),
            "point", of("double"));

    private final Contents contents;

    public BindTypes(Contents contents) {
        this.contents = contents;
    }

    /** By bind parameter, in the order of the text; those that meet nothing known are left out. */
    public Map<String, List<Met>> of(Outline outline) {
        Map<String, List<Met>> found = new LinkedHashMap<>();
        for (BindUse use : outline.uses()) {
            Met met = met(use);
            if (met != null) {
                found.computeIfAbsent(use.bind(), name -> new ArrayList<>()).add(met);
            }
        }
        return found;
    }

    /** True for what a procedure hands back and does not take. */
    public boolean isHandedBack(Statement statement, String bind) {
        return statement.outline().uses().stream()
                .filter(BindUse.Argument.class::isInstance)
                .map(BindUse.Argument.class::cast)
                .filter(argument -> argument.bind().equals(bind))
                .anyMatch(argument -> contents.routine(argument.routine())
                        .filter(routine ->
                                argument.position() < routine.parameters().size())
                        .map(routine ->
                                routine.parameters().get(argument.position()).mode() == Routine.Mode.OUT)
                        .orElse(false));
    }

    private @Nullable Met met(BindUse use) {
        return switch (use) {
            case BindUse.Limit limit ->
                new Met(
                        limit.bind(),
                        new ColumnType("int unsigned", "int", true, null, null, null, null, List.of()),
                        "a number of rows",
                        "");
            case BindUse.Argument argument -> argument(argument);
            case BindUse.Column column -> {
                String table = column.table();
                yield table != null
                        ? column(column.bind(), table, column.column().column(), column.inserted())
                        : column(column.bind(), column.column(), column.block());
            }
        };
    }

    private @Nullable Met argument(BindUse.Argument argument) {
        Optional<Routine> routine = contents.routine(argument.routine());
        if (routine.isEmpty()) {
            ColumnType taken = TAKEN.get(argument.routine().toLowerCase(Locale.ROOT));
            boolean first = argument.position() == 0 || "point".equalsIgnoreCase(argument.routine());
            return taken == null || !first ? null : new Met(argument.bind(), taken, argument.routine() + "()", "");
        }
        if (argument.position() >= routine.get().parameters().size()) {
            return null;
        }
        Routine.Parameter parameter = routine.get().parameters().get(argument.position());
        return new Met(argument.bind(), parameter.type(), routine.get().name() + "(" + parameter.name() + ")", "");
    }

    private @Nullable Met column(String bind, String table, String column, boolean inserted) {
        return contents.relation(table)
                .flatMap(relation -> relation.column(column).map(found -> met(bind, relation.name(), found, inserted)))
                .orElse(null);
    }

    private static ColumnType of(String base) {
        return new ColumnType(base, base, false, null, null, null, null, List.of());
    }

    private static Met met(String bind, String table, Column column, boolean written) {
        return new Met(bind, column.type(), table + "." + column.name(), column.about(), written ? column : null);
    }

    /** A name is looked for in the block it stands in, then in those around it. */
    private @Nullable Met column(String bind, ColumnRef column, @Nullable Block block) {
        for (Block at = block; at != null; at = at.parent()) {
            Met found = null;
            for (TableUse table : at.tables()) {
                boolean meant = column.alias() == null || column.alias().equalsIgnoreCase(table.alias());
                String name = table.name();
                if (meant && name != null) {
                    Met met = contents.relation(table.schema(), name)
                            .flatMap(relation -> relation.column(column.column())
                                    .map(known -> met(bind, relation.name(), known, false)))
                            .orElse(null);
                    if (met != null && found != null) {
                        return null;
                    }
                    found = met == null ? found : met;
                }
            }
            if (found != null) {
                return found;
            }
        }
        return null;
    }
}
