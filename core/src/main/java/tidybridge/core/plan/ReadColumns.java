package tidybridge.core.plan;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Which columns of a statement a page reads. The others are null, so that every column stays at its place. Immutable and thread-safe;
 * each is one object, equal to itself alone.
 */
public final class ReadColumns {

    /** All of them. */
    public static final ReadColumns ALL = new ReadColumns(List.of());

    private final List<@Nullable String> names;

    /** @param names of the columns from left to right; null for those that are not read */
    ReadColumns(List<@Nullable String> names) {
        this.names = new ArrayList<>(names);
    }

    /** How many there are, whether they are read or not. */
    int count() {
        return names.size();
    }

    /** What a column is called; null when it is not read. */
    @Nullable
    String name(int column) {
        return names.get(column);
    }
}
