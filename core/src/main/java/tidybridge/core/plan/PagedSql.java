package tidybridge.core.plan;

import java.util.ArrayList;
import java.util.List;
import tidybridge.core.sql.Dialect;

/**
 * Puts a page around a statement: order, limit, and the condition that continues after a row. The condition compares key by key
 * rather than as a row value, because only so can the server use an index range; see {@link Start} for its two forms.
 */
final class PagedSql {

    private static final String ALIAS = "page_";

    private final Dialect dialect;
    private final List<PageOrder.Key> keys;
    private final StringBuilder sql = new StringBuilder();
    private final List<Integer> slots = new ArrayList<>();

    private PagedSql(PageOrder order, Dialect dialect) {
        this.dialect = dialect;
        this.keys = order.keys();
    }

    /** The paged form of a statement whose own slots are given. */
    static Variant wrap(String statement, List<Integer> statementSlots, PageRequest request, Dialect dialect) {
        PagedSql page = new PagedSql(request.order(), dialect);
        page.sql.append("select * from (").append(statement).append(") as ").append(ALIAS);
        page.slots.addAll(statementSlots);
        switch (request.start()) {
            case BEGINNING -> {}
            case AFTER_CHANGE -> {
                page.sql.append(" where ");
                page.skipping();
            }
            case AFTER_TIES -> {
                page.sql.append(" where ");
                page.beyond(0);
            }
        }
        page.order();
        return page.variant();
    }

    /** {@code a >= ? and case when a = ? then b > ? else true end}: one range on the first key, and a look at its first rows. */
    private void skipping() {
        if (keys.size() == 1) {
            beyond(0);
            return;
        }
        compare(0, keys.getFirst().descending() ? " <= ?" : " >= ?");
        sql.append(" and case when ");
        compare(0, " = ?");
        sql.append(" then ");
        beyond(1);
        sql.append(" else true end");
    }

    /** {@code a > ? or a = ? and (b > ? or ...)}: ranges that start at the very row, however many rows share its first keys. */
    private void beyond(int i) {
        compare(i, keys.get(i).descending() ? " < ?" : " > ?");
        if (i < keys.size() - 1) {
            sql.append(" or ");
            compare(i, " = ?");
            sql.append(" and (");
            beyond(i + 1);
            sql.append(')');
        }
    }

    private void compare(int i, String comparison) {
        sql.append(column(i)).append(comparison);
        slots.add(Variant.continued(i));
    }

    private void order() {
        for (int i = 0; i < keys.size(); i++) {
            sql.append(i == 0 ? " order by " : ", ").append(column(i));
            sql.append(keys.get(i).descending() ? " desc" : "");
        }
        sql.append(dialect.limit());
        slots.add(Variant.LIMIT);
    }

    private String column(int i) {
        return ALIAS + "." + dialect.quoted(keys.get(i).name());
    }

    private Variant variant() {
        return new Variant(
                sql.toString(), slots.stream().mapToInt(Integer::intValue).toArray());
    }
}
