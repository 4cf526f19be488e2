package tidybridge.core.plan;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.RowShape;
import tidybridge.core.answer.RowWriters;
import tidybridge.core.answer.ShapedField;

/**
 * The fields that callers may choose of an answer: each by its name, and those below an object by the object's. Thread-safe; choices that
 * were asked for are kept, {@link #MOST_KEPT} at most.
 */
public final class Choices {

    /** How many choices are kept. */
    static final int MOST_KEPT = 256;

    private final List<ShapedField> all;
    private final List<String> columns;
    private final Set<String> names;
    private final Choice whole;
    private final Map<String, Choice> kept = new ConcurrentHashMap<>();
    private final Map<BitSet, ReadColumns> read = new ConcurrentHashMap<>();

    /**
     * Makes the choices.
     *
     * @param all fields of the answer
     * @param columns of the statement, by name
     * @param offered false when every caller gets all of them
     */
    public Choices(List<ShapedField> all, List<String> columns, boolean offered) {
        this.all = List.copyOf(all);
        this.columns = List.copyOf(columns);
        this.names = offered ? names(all) : Set.of();
        this.whole = new Choice(RowShape.WHOLE, new RowShape(all, true), ReadColumns.ALL);
    }

    private static Set<String> names(List<ShapedField> fields) {
        Set<String> names = new LinkedHashSet<>();
        for (ShapedField field : fields) {
            for (int size = 1; size <= field.path().size(); size++) {
                names.add(String.join(".", field.path().subList(0, size)));
            }
        }
        return names;
    }

    /** What callers may name; empty when they cannot choose. */
    public Set<String> names() {
        return names;
    }

    /** How many choices are kept now. */
    int kept() {
        return kept.size();
    }

    /**
     * What a request chooses.
     *
     * @param fields names with commas between them, checked; null for every field
     */
    public Choice choose(@Nullable String fields) {
        if (fields == null) {
            return whole;
        }
        Choice known = kept.get(fields);
        if (known != null) {
            return known;
        }
        if (kept.size() >= MOST_KEPT) {
            kept.clear();
            read.clear();
        }
        return kept.computeIfAbsent(fields, this::made);
    }

    private Choice made(String text) {
        Set<ShapedField> chosen = new LinkedHashSet<>();
        for (String name : text.split(",")) {
            for (ShapedField field : all) {
                if (field.name().equals(name) || field.name().startsWith(name + ".")) {
                    chosen.add(field);
                }
            }
        }
        List<ShapedField> fields = List.copyOf(chosen);
        return new Choice(new RowShape(fields, false), new RowShape(fields, true), columns(fields));
    }

    /** What is read for some fields: their columns, and those that tell whether an object is there at all. */
    private ReadColumns columns(List<ShapedField> chosen) {
        BitSet needed = new BitSet();
        for (ShapedField field : chosen) {
            needed.set(field.column());
            for (int column : RowWriters.tellingObjects(all, field)) {
                needed.set(column);
            }
        }
        return read.computeIfAbsent(needed, this::read);
    }

    private ReadColumns read(BitSet needed) {
        List<@Nullable String> names = new ArrayList<>();
        for (int i = 0; i < columns.size(); i++) {
            names.add(needed.get(i) ? columns.get(i) : null);
        }
        return new ReadColumns(names);
    }
}
