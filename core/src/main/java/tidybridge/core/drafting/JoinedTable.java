package tidybridge.core.drafting;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Relation;
import tidybridge.core.sql.Dialect;

/** A table with the rows that its rows refer to: the columns that a statement over it can have. */
final class JoinedTable {

    final Relation relation;
    private final ParentRows parents;
    private final Dialect dialect;

    /**
     * A column of it.
     *
     * @param alias of the row that it stands in; empty for the table's own
     */
    record Place(String alias, Column column) {

        boolean isOwn() {
            return alias.isEmpty();
        }

        /** {@code berth_no}, or {@code basin.name}. */
        String words() {
            return isOwn() ? column.name() : alias + "." + column.name();
        }
    }

    JoinedTable(Relation relation, Contents contents, Dialect dialect) {
        this.relation = relation;
        this.dialect = dialect;
        this.parents = new ParentRows(relation, contents, dialect, Set.of());
    }

    /** All columns: its own first. */
    List<Place> places() {
        List<Place> places = new ArrayList<>();
        relation.columns().forEach(column -> places.add(new Place("", column)));
        parents.all()
                .forEach(parent ->
                        parent.relation().columns().forEach(column -> places.add(new Place(parent.name(), column))));
        return places;
    }

    /** A column by the words of a match. */
    Optional<Place> find(String words) {
        return places().stream()
                .filter(place -> place.words().equalsIgnoreCase(words))
                .findFirst();
    }

    String joins(Set<String> aliases) {
        return parents.joins(aliases);
    }

    /** As a statement names it. */
    String named() {
        return dialect.named(relation.name());
    }

    /**
     * A column as a statement names it.
     *
     * @param joined whether other tables stand beside it
     */
    String written(Place place, boolean joined) {
        String table = place.isOwn() ? joined ? named() + "." : "" : dialect.named(place.alias()) + ".";
        return table + dialect.named(place.column().name());
    }
}
