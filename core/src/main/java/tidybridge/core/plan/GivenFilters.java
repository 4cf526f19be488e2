package tidybridge.core.plan;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import tidybridge.core.sql.Rendered;

/**
 * The conditions of one request, as far as they decide how its statement is written: equal to those of another request that gives the
 * same ones with other values. Immutable and thread-safe.
 */
public final class GivenFilters {

    /** None at all. */
    public static final GivenFilters NONE = new GivenFilters(Filters.NONE, new int[0], "");

    private static final int SHIFT = 8;
    private static final int DETAIL = (1 << SHIFT) - 1;

    private final Filters filters;
    private final int[] codes;
    private final String label;

    GivenFilters(Filters filters, int[] codes, String label) {
        this.filters = filters;
        this.codes = codes;
        this.label = label;
    }

    static int code(int index, int detail) {
        return index << SHIFT | detail;
    }

    static int index(int code) {
        return code >>> SHIFT;
    }

    /** The size class of a list, or what a truth value says. */
    static int detail(int code) {
        return code & DETAIL;
    }

    public boolean isEmpty() {
        return codes.length == 0;
    }

    /** The conditions with their values as text, part of what a position is sealed for. */
    public String label() {
        return label;
    }

    /** What stands in the statement's own conditions; null for nothing. */
    @Nullable
    Rendered inside() {
        return filters.conditions(codes, true);
    }

    /** What stands around the statement; null for nothing. */
    @Nullable
    Rendered around() {
        return filters.conditions(codes, false);
    }

    @Override
    public boolean equals(@Nullable Object other) {
        return other instanceof GivenFilters given && filters == given.filters && Arrays.equals(codes, given.codes);
    }

    @Override
    public int hashCode() {
        return Arrays.hashCode(codes);
    }
}
