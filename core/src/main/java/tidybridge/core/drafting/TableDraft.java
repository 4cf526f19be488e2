package tidybridge.core.drafting;

import java.util.Comparator;
import java.util.Map;
import tidybridge.core.catalog.Relation;

/** The operations of one table or view, as far as they are wanted and possible; what is not possible becomes a note. */
final class TableDraft {

    private final TableShape table;
    private final TableReads reads;
    private final TableWrites writes;

    /** What may not be read has no operation: the answer of a change is a row too. */
    private final boolean readable;

    TableDraft(Relation relation, DraftChoices.TableChoice choice, Drafting drafting) {
        this.table = new TableShape(relation, choice, drafting);
        this.reads = new TableReads(table);
        this.writes = new TableWrites(table);
        this.readable = table.isAllowed("Reading it", table.query());
    }

    /** All rows, and a new one. */
    void writeCollection() {
        if (!readable) {
            return;
        }
        if (table.wants(Deed.LIST)) {
            if (table.key.isEmpty()) {
                table.note(
                        (table.relation.kind() == Relation.Kind.VIEW
                                        ? "Nothing is known that tells its rows apart"
                                        : "No key of columns that are never null tells its rows apart")
                                + ", so that no page can go on after a row: there is no collection. Say an order of your own if you know one.");
            } else {
                reads.list();
            }
        }
        if (table.wants(Deed.ADD) && table.isChangeable()) {
            writes.addition("/" + table.segment);
        }
        boolean changes = table.wants(Deed.ADD) || table.wants(Deed.CHANGE) || table.wants(Deed.REMOVE);
        if (changes && !table.isChangeable() && table.relation.kind() == Relation.Kind.TABLE) {
            table.note("Its source is read-only, so nothing changes it.");
        }
    }

    /** One row: read, changed, removed. */
    void writeRow() {
        if (!readable || table.key.isEmpty()) {
            return;
        }
        boolean changes = table.isChangeable() && table.wants(Deed.CHANGE);
        boolean removes = table.isChangeable() && table.wants(Deed.REMOVE);
        if (!table.isAddressable()) {
            if (table.wants(Deed.READ) || changes || removes) {
                table.note("Its key is no value that an address can hold exactly, so there is no path to one row.");
            }
            return;
        }
        boolean changeable = changes && writes.canChange();
        if (table.wants(Deed.READ) || changeable) {
            String file = reads.row(changeable);
            if (changeable) {
                writes.change(file);
            }
        }
        if (removes) {
            writes.remove();
        }
    }

    /** The rows of another table that refer to one row of this. */
    void writeChildren(Map<String, TableDraft> drafts) {
        if (!readable || !table.isAddressable() || !table.wants(Deed.READ)) {
            return;
        }
        for (TableDraft other : drafts.values()) {
            TableShape child = other.table;
            if (other.readable && child.wants(Deed.LIST) && !child.key.isEmpty()) {
                child.relation.foreignKeys().stream()
                        .sorted(Comparator.comparingInt(
                                foreign -> child.placeOf(foreign.columns().getFirst())))
                        .filter(foreign -> foreign.target().equalsIgnoreCase(table.relation.name())
                                && table.sameAsKey(foreign.targets()))
                        .forEach(foreign -> other.reads.under(table, foreign));
            }
        }
    }
}
