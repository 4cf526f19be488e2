package tidybridge.core.plan;

import java.util.ArrayList;
import java.util.List;

/**
 * Puts a page around a statement: order, limit, and the condition that continues after a row. The condition compares key by key
 * rather than as a row value, because only so can the server use an index range.
 */
final class PagedSql {

    private static final String ALIAS = "page_";

    private final List<PageOrder.Key> keys;
    private final StringBuilder sql = new StringBuilder();
    private final List<Integer> slots = new ArrayList<>();

    private PagedSql(PageOrder order) {
        this.keys = order.keys();
    }

    /** The paged form of a statement whose own slots are given. */
    static Variant wrap(String statement, List<Integer> statementSlots, PageOrder order, boolean continued) {
        PagedSql page = new PagedSql(order);
        page.sql.append("select * from (").append(statement).append(") as ").append(ALIAS);
        page.slots.addAll(statementSlots);
        if (continued) {
            page.sql.append(" where ");
            page.condition(0);
        }
        page.order();
        return page.variant();
    }

    /** {@code a > ? or (a = ? and (b > ? ...))}, with {@code a >= ? and} before it so that the range starts in the index. */
    private void condition(int i) {
        boolean last = i == keys.size() - 1;
        String beyond = keys.get(i).descending() ? " < ?" : " > ?";
        if (last) {
            compare(i, beyond);
            return;
        }
        compare(i, keys.get(i).descending() ? " <= ?" : " >= ?");
        sql.append(" and (");
        compare(i, beyond);
        sql.append(" or ");
        condition(i + 1);
        sql.append(')');
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
        sql.append(" limit ?");
        slots.add(Variant.LIMIT);
    }

    private String column(int i) {
        return ALIAS + ".`" + keys.get(i).name().replace("`", "``") + "`";
    }

    private Variant variant() {
        return new Variant(
                sql.toString(), slots.stream().mapToInt(Integer::intValue).toArray());
    }
}
