package tidybridge.core.plan;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.sql.Dialect;

/**
 * Puts a page around a statement: order, limit, and the condition that continues after a row. The condition compares key by key
 * rather than as a row value, because only so can the server use an index range; see {@link Start} for its two forms. It compares as the
 * server orders: nulls before every value, members of a list by their places.
 */
final class PagedSql {

    /** What the statement is called there. */
    static final String ALIAS = "page_";

    private final Dialect dialect;
    private final PageRequest request;
    private final List<PageOrder.Key> keys;
    private final StringBuilder sql = new StringBuilder();
    private final List<Integer> slots = new ArrayList<>();

    private PagedSql(PageRequest request, Dialect dialect) {
        this.dialect = dialect;
        this.request = request;
        this.keys = request.order().keys();
    }

    /** The paged form of a statement whose own slots are given, and perhaps conditions on it with theirs. */
    static Variant wrap(
            String statement,
            List<Integer> statementSlots,
            @Nullable String conditions,
            List<Integer> conditionSlots,
            PageRequest request,
            Dialect dialect) {
        PagedSql page = new PagedSql(request, dialect);
        page.select();
        page.sql.append(" from (").append(statement).append(") as ").append(ALIAS);
        page.slots.addAll(statementSlots);
        if (conditions != null) {
            page.sql.append(" where ").append(conditions);
            page.slots.addAll(conditionSlots);
        }
        if (request.start() != Start.BEGINNING) {
            page.sql.append(conditions == null ? " where " : " and (");
            page.behind();
            page.sql.append(conditions == null ? "" : ")");
        }
        page.order();
        return page.variant();
    }

    /** What is true of the rows behind the one to continue after. */
    private void behind() {
        switch (request.start()) {
            case BEGINNING -> {}
            case AFTER_CHANGE -> skipping();
            case AFTER_TIES -> beyond(0);
        }
    }

    /** The statement's own columns, and behind them the places of members. */
    private void select() {
        sql.append("select ");
        if (keys.stream().noneMatch(PageOrder.Key::ofMembers)) {
            sql.append('*');
            return;
        }
        sql.append(ALIAS).append(".*");
        for (int i = 0; i < keys.size(); i++) {
            if (keys.get(i).ofMembers()) {
                sql.append(", ").append(dialect.memberPlace(column(i)));
            }
        }
    }

    /** {@code a >= ? and case when a = ? then b > ? else true end}: one range on the first key, and a look at its first rows. */
    private void skipping() {
        if (keys.size() == 1 || request.isNull(0)) {
            beyond(0);
            return;
        }
        PageOrder.Key first = keys.getFirst();
        boolean nullsFollow = first.descending() && first.nullable();
        sql.append(nullsFollow ? "(" : "");
        compare(0, first.descending() ? " <= ?" : " >= ?");
        if (nullsFollow) {
            sql.append(" or ").append(column(0)).append(" is null)");
        }
        sql.append(" and case when ");
        compare(0, " = ?");
        sql.append(" then ");
        beyond(1);
        sql.append(" else true end");
    }

    /** {@code a > ? or a = ? and (b > ? or ...)}: ranges that start at the very row, however many rows share its first keys. */
    private void beyond(int i) {
        PageOrder.Key key = keys.get(i);
        boolean last = i == keys.size() - 1;
        boolean isNull = request.isNull(i);
        boolean follows = !isNull || !key.descending();
        if (isNull && follows) {
            sql.append(column(i)).append(" is not null");
        } else if (follows) {
            compare(i, key.descending() ? " < ?" : " > ?");
            if (key.descending() && key.nullable()) {
                sql.append(" or ").append(column(i)).append(" is null");
            }
        } else if (last) {
            sql.append("false");
        }
        if (!last) {
            sql.append(follows ? " or " : "");
            if (isNull) {
                sql.append(column(i)).append(" is null");
            } else {
                compare(i, " = ?");
            }
            sql.append(" and (");
            beyond(i + 1);
            sql.append(')');
        }
    }

    private void compare(int i, String comparison) {
        sql.append(
                switch (keys.get(i).members()) {
                    // one member compared with a number is compared by its place, and an index serves that
                    case NONE, ONE -> column(i);
                    // of several, numbers above 63 bits would be compared as texts
                    case SEVERAL -> dialect.memberPlace(column(i));
                });
        sql.append(comparison);
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
