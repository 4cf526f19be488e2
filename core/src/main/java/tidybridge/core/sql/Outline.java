package tidybridge.core.sql;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What the text of a statement tells about the tables it reads and what its bind parameters are compared with, as far as it can be
 * told without understanding all of SQL. What is not understood is left out, or said to be so; nothing is guessed.
 *
 * @param main the outermost query block; null for a statement that is no query, or one that is not understood
 * @param blocks all query blocks, {@code main} among them
 * @param combined true when the outermost query is put together with UNION, EXCEPT or INTERSECT
 * @param uses what bind parameters meet
 */
public record Outline(@Nullable Block main, List<Block> blocks, boolean combined, List<BindUse> uses) {

    /**
     * One SELECT.
     *
     * @param tables what it reads, in the order of the text
     * @param items what it selects
     * @param equalities the conditions that must all hold and compare for equality, those of its joins among them; parts that may
     *     vanish are left out
     * @param grouped the columns of GROUP BY; null when there is none, or when it is not by plain columns alone
     * @param hasGroups whether there is a GROUP BY
     * @param aggregated true when an aggregate function makes one row of all of them
     * @param distinct true for SELECT DISTINCT
     * @param limitsToOne true for LIMIT 1
     * @param parent the block around it; null for the outermost
     */
    public record Block(
            List<TableUse> tables,
            List<Item> items,
            List<Equality> equalities,
            @Nullable List<ColumnRef> grouped,
            boolean hasGroups,
            boolean aggregated,
            boolean distinct,
            boolean limitsToOne,
            @Nullable Block parent) {
        public Block {
            tables = List.copyOf(tables);
            items = List.copyOf(items);
            equalities = List.copyOf(equalities);
            grouped = grouped == null ? null : List.copyOf(grouped);
        }
    }

    /**
     * A table or view in FROM.
     *
     * @param alias what the statement calls it; its own name when it says nothing
     * @param schema as the statement says it; null where it does not
     * @param name null for a query in parentheses and for what WITH defines
     */
    public record TableUse(
            String alias, @Nullable String schema, @Nullable String name) {}

    /**
     * Something selected.
     *
     * @param name what it is called in the result; null when only the database knows
     * @param column the column it is, null for an expression
     * @param star true for {@code *} and {@code b.*}
     * @param offset where it stands
     */
    public record Item(@Nullable String name, @Nullable ColumnRef column, boolean star, int offset) {}

    /**
     * A column as the text names it.
     *
     * @param alias null when the text does not say of which table
     */
    public record ColumnRef(@Nullable String alias, String column) {}

    /**
     * {@code left = right}.
     *
     * @param right null for a bind parameter, a literal or a query
     * @param query what is compared with, when it is a query in parentheses; null for everything else
     * @param oneWay true in an outer join, whose condition settles the joined table's {@code left} by {@code right} and never the other
     *     way: rows that it is not true of stay, with nulls
     */
    public record Equality(
            ColumnRef left,
            @Nullable ColumnRef right,
            boolean oneWay,
            @Nullable Subquery query) {
        Equality(ColumnRef left, @Nullable ColumnRef right) {
            this(left, right, false, null);
        }

        /** The same in an outer join. */
        Equality inOuterJoin() {
            return new Equality(left, right, true, query);
        }
    }

    /**
     * A query inside a condition, as far as one must know to tell whether it is the same for every row around it.
     *
     * @param tables all that it reads, in queries of its own too
     * @param names everything in it that may be a column, names of tables and functions among them
     */
    public record Subquery(List<TableUse> tables, List<ColumnRef> names) {
        public Subquery {
            tables = List.copyOf(tables);
            names = List.copyOf(names);
        }
    }

    /** What a bind parameter meets. */
    public sealed interface BindUse {

        String bind();

        /**
         * Compared with a column, or written to it.
         *
         * @param block tells the tables that can be meant; null for {@code table}
         * @param inserted true where an INSERT or REPLACE writes it
         */
        record Column(
                String bind,
                ColumnRef column,
                @Nullable Block block,
                @Nullable String table,
                boolean inserted) implements BindUse {}

        /** The argument of a routine, counted from 0. */
        record Argument(String bind, String routine, int position) implements BindUse {}

        /** A number of rows. */
        record Limit(String bind) implements BindUse {}
    }

    public Outline {
        blocks = List.copyOf(blocks);
        uses = List.copyOf(uses);
    }
}
