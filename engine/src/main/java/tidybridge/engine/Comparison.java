package tidybridge.engine;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Index;
import tidybridge.core.catalog.Relation;
import tidybridge.core.plan.StatementPlan;
import tidybridge.core.plan.StepSequence;
import tidybridge.core.plan.Variant;
import tidybridge.engine.RehearsalChanges.FieldChange;
import tidybridge.engine.RehearsalChanges.Kind;
import tidybridge.engine.RehearsalChanges.RowChange;
import tidybridge.engine.RehearsalChanges.TableChanges;

/**
 * Compares a schema before and after the steps of a rehearsal, inside its transaction: what triggers, cascades and procedures did is seen
 * like everything else. Small tables are compared row by row. Of a large one the rows that an UPDATE or DELETE means are looked at, and new
 * rows with a number of the database's own; the notes tell when that is not all. Used once.
 */
public final class Comparison {

    /** Tables up to this size, as the database believes it, are compared row by row. */
    static final long COMPARED_ROWS = 100_000;

    /** Tables beyond this many rows in total are treated as large, those that the steps do not name first. */
    static final long COMPARED_ROWS_OF_ALL = 250_000;

    /** The most rows of one table that are shown. */
    static final int SHOWN_ROWS = 20;

    /** The most rows of all tables that are shown. */
    static final int SHOWN_ROWS_OF_ALL = 200;

    private final Source source;
    private final StepSequence plan;
    private final @Nullable Object[] values;
    private final Contents contents;
    private final List<TableBefore> looked = new ArrayList<>();
    private final List<String> notes = new ArrayList<>();
    private Inspection.Writes written = new Inspection.Writes(0, 0, 0);
    private long begun;
    private long compared;
    private int shown;

    /** A table as it was before. */
    private record TableBefore(
            Relation table,
            List<String> key,
            TableReader look,
            @Nullable Map<List<String>, Long> prints,
            long highest,
            List<List<String>> meant) {}

    /**
     * Prepares to compare.
     *
     * @param values of the request, in the order of the operation's parameters
     */
    public Comparison(Source source, StepSequence plan, @Nullable Object[] values, Contents contents) {
        this.source = source;
        this.plan = plan;
        this.values = Arrays.copyOf(values, plan.values());
        this.contents = contents;
    }

    /** A sentence about why the change could not be undone; empty when it can. */
    public Optional<String> obstacle() {
        return plan.steps().stream()
                .flatMap(step -> step.statement().table().stream())
                .flatMap(table -> contents.relation(table).stream())
                .filter(table -> table.kind() == Relation.Kind.TABLE && !table.transactional())
                .findFirst()
                .map(table -> "The table " + table.name()
                        + " is kept by an engine that cannot undo a change, so nothing was run.");
    }

    /** Looks at every table before the steps run. */
    public void before(Transaction transaction) throws SourceFailure {
        for (Relation table : inOrder()) {
            transaction.ask(connection -> look(connection, table)).ifPresent(looked::add);
        }
        looked.sort(Comparator.comparing(one -> one.table().name()));
        written = transaction.ask(source.database().inspection()::writes);
        begun = System.nanoTime();
    }

    /** Tables that the steps name, then the others from the smallest on. */
    private List<Relation> inOrder() {
        Set<String> named = plan.steps().stream()
                .flatMap(step -> step.statement().table().stream())
                .map(name -> name.toLowerCase(Locale.ROOT))
                .collect(Collectors.toSet());
        return contents.relations().stream()
                .filter(table -> table.kind() == Relation.Kind.TABLE)
                .sorted(Comparator.comparing(
                                (Relation table) -> !named.contains(table.name().toLowerCase(Locale.ROOT)))
                        .thenComparing(Relation::rows))
                .toList();
    }

    /** Empty, with a note, for a table that cannot be compared. */
    private Optional<TableBefore> look(Connection connection, Relation table) throws SQLException {
        if (!table.transactional()) {
            notes.add("The table " + table.name()
                    + " cannot undo changes; what a trigger or procedure writes there stays.");
            return Optional.empty();
        }
        List<String> key = table.keys().stream()
                .min(Comparator.comparing(index -> index.primary() ? 0 : 1))
                .map(Index::columns)
                .orElse(List.of());
        if (key.isEmpty()) {
            notes.add("The table " + table.name() + " has no key, so its rows cannot be compared.");
            return Optional.empty();
        }
        TableReader look = new TableReader(table, key, source.database());
        long room = Math.min(COMPARED_ROWS, COMPARED_ROWS_OF_ALL - compared);
        if (table.rows() <= room) {
            // the database only believes that it has so few
            Optional<Map<List<String>, Long>> prints = look.prints(connection, room);
            if (prints.isPresent()) {
                compared += prints.get().size();
                return Optional.of(new TableBefore(table, key, look, prints.get(), 0, List.of()));
            }
        }
        boolean numbered = key.size() == 1
                && table.column(key.getFirst()).map(Column::numbered).orElse(false);
        return Optional.of(new TableBefore(
                table, key, look, null, numbered ? look.highest(connection) : -1, meant(connection, table, look, key)));
    }

    /** The keys of the rows that the steps' own conditions find, as far as the request's values tell. */
    private List<List<String>> meant(Connection connection, Relation table, TableReader look, List<String> key)
            throws SQLException {
        List<List<String>> keys = new ArrayList<>();
        for (var step : plan.steps()) {
            StatementPlan rows = step.statement()
                    .table()
                    .filter(name -> name.equalsIgnoreCase(table.name()))
                    .flatMap(name -> step.statement().rows(look.keyColumns()))
                    .orElse(null);
            if (rows != null) {
                Variant form = rows.variant(values);
                try (PreparedStatement statement = connection.prepareStatement(
                        form.sql() + source.database().dialect().limit())) {
                    Binding.bind(statement, form, values);
                    statement.setInt(form.slots().length + 1, SHOWN_ROWS + 1);
                    try (ResultSet found = statement.executeQuery()) {
                        while (found.next()) {
                            List<String> one = new ArrayList<>();
                            for (int i = 1; i <= key.size(); i++) {
                                one.add(StoredTime.textOf(found, i));
                            }
                            keys.add(List.copyOf(one));
                        }
                    }
                }
            }
        }
        return keys;
    }

    /** Looks again and tells what is different. */
    public RehearsalChanges after(Transaction transaction) throws SourceFailure {
        long heldMillis = (System.nanoTime() - begun) / 1_000_000;
        Inspection.Writes writes =
                transaction.ask(source.database().inspection()::writes).since(written);
        List<TableChanges> tables = new ArrayList<>();
        boolean numbers = false;
        for (TableBefore before : looked) {
            TableChanges changes = changes(before, transaction);
            if (changes.inserted() + changes.changed() + changes.deleted() > 0) {
                tables.add(changes);
                numbers |= changes.inserted() > 0
                        && before.table().columns().stream().anyMatch(Column::numbered);
            }
        }
        if (numbers) {
            notes.add("The numbers the database gave to new rows are not given back; the next row leaves a gap.");
        }
        long seen = tables.stream()
                .mapToLong(table -> table.inserted() + table.changed() + table.deleted())
                .sum();
        if (writes.all() > seen && looked.stream().anyMatch(one -> one.prints() == null)) {
            notes.add(
                    "The database wrote more rows than are shown here; the others are in tables too large to be compared: "
                            + looked.stream()
                                    .filter(one -> one.prints() == null)
                                    .map(one -> one.table().name())
                                    .collect(Collectors.joining(", "))
                            + ". A watch query can look at them.");
        }
        return new RehearsalChanges(tables, writes.inserted(), writes.updated(), writes.deleted(), heldMillis, notes);
    }

    private TableChanges changes(TableBefore before, Transaction transaction) throws SourceFailure {
        List<List<String>> inserted = new ArrayList<>();
        List<List<String>> changed = new ArrayList<>();
        List<List<String>> deleted = new ArrayList<>();
        Map<List<String>, Long> prints = before.prints();
        if (prints != null) {
            Map<List<String>, Long> left = new HashMap<>(prints);
            Optional<Map<List<String>, Long>> now = transaction.ask(
                    connection -> before.look().prints(connection, prints.size() + COMPARED_ROWS_OF_ALL));
            if (now.isEmpty()) {
                notes.add("So many rows are new in " + before.table().name() + " that they are not shown.");
                return new TableChanges(before.table().name(), 0, 0, 0, List.of());
            }
            now.get().forEach((key, print) -> {
                Long was = left.remove(key);
                if (was == null) {
                    inserted.add(key);
                } else if (!was.equals(print)) {
                    changed.add(key);
                }
            });
            deleted.addAll(left.keySet());
        } else {
            if (before.highest() >= 0) {
                inserted.addAll(transaction.ask(
                        connection -> before.look().behind(connection, before.highest(), SHOWN_ROWS + 1)));
            }
            Map<List<String>, List<@Nullable String>> there =
                    transaction.ask(connection -> before.look().rows(connection, before.meant()));
            before.meant().forEach(key -> (there.containsKey(key) ? changed : deleted).add(key));
        }
        return new TableChanges(
                before.table().name(),
                inserted.size(),
                changed.size(),
                deleted.size(),
                rows(before, transaction, inserted, changed, deleted));
    }

    private List<RowChange> rows(
            TableBefore before,
            Transaction transaction,
            List<List<String>> inserted,
            List<List<String>> changed,
            List<List<String>> deleted)
            throws SourceFailure {
        shown += Math.min(SHOWN_ROWS, inserted.size())
                + Math.min(SHOWN_ROWS, changed.size())
                + Math.min(SHOWN_ROWS, deleted.size());
        if (shown > SHOWN_ROWS_OF_ALL) {
            notes.add(
                    "The rows of " + before.table().name() + " are counted and not shown; there are too many in all.");
            return List.of();
        }
        List<List<String>> wereThere = first(changed);
        wereThere.addAll(first(deleted));
        List<List<String>> areThere = first(inserted);
        areThere.addAll(first(changed));
        Map<List<String>, List<@Nullable String>> old = old(before, wereThere);
        Map<List<String>, List<@Nullable String>> now =
                transaction.ask(connection -> before.look().rows(connection, areThere));
        List<RowChange> rows = new ArrayList<>();
        first(inserted).forEach(key -> rows.add(row(before, Kind.INSERTED, null, now.get(key))));
        first(changed).forEach(key -> rows.add(row(before, Kind.CHANGED, old.get(key), now.get(key))));
        first(deleted).forEach(key -> rows.add(row(before, Kind.DELETED, old.get(key), null)));
        return rows;
    }

    /** Another connection still sees what was there before. */
    private Map<List<String>, List<@Nullable String>> old(TableBefore before, List<List<String>> keys) {
        try {
            return keys.isEmpty()
                    ? Map.of()
                    : source.askAside(connection -> before.look().rows(connection, keys));
        } catch (SourceFailure e) {
            notes.add("No second connection was free to read what the rows of "
                    + before.table().name() + " were before.");
            return Map.of();
        }
    }

    /** The first of some keys in a steady order: numbers by their size. */
    private static List<List<String>> first(List<List<String>> keys) {
        return new ArrayList<>(keys.stream()
                .sorted(Comparator.comparing(
                                (List<String> key) -> key.getFirst().length())
                        .thenComparing(key -> String.join("\0", key)))
                .limit(SHOWN_ROWS)
                .toList());
    }

    private static RowChange row(
            TableBefore table,
            Kind kind,
            @Nullable List<@Nullable String> before,
            @Nullable List<@Nullable String> after) {
        List<FieldChange> fields = new ArrayList<>();
        List<Column> columns = table.table().columns();
        for (int i = 0; i < columns.size(); i++) {
            String name = columns.get(i).name();
            boolean key = table.key().stream().anyMatch(name::equalsIgnoreCase);
            fields.add(new FieldChange(
                    name, key, before == null ? null : before.get(i), after == null ? null : after.get(i)));
        }
        return new RowChange(kind, fields);
    }
}
