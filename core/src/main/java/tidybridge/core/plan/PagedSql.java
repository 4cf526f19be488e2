package tidybridge.core.plan;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.sql.Dialect;
import tidybridge.core.sql.Purpose;

/**
 * Puts a page around a statement: order, limit, and the condition that continues after a row; or counts its rows. The condition compares key by key
 * rather than as a row value, because only so can the server use an index range; see {@link Start} for its two forms. It compares as the
 * server orders: nulls before every value, members of a list by their places.
 */
final class PagedSql {

    /** What the statement is called there. */
    static final String ALIAS = "page_";

    private final Dialect dialect;
    private final PageRequest request;
    private final boolean isBackward;

    /** In the order in which they are read. */
    private final List<PageOrder.Key> keys;

    private final StringBuilder sql = new StringBuilder();
    private final List<Integer> slots = new ArrayList<>();

    private PagedSql(PageRequest request, Dialect dialect) {
        this.dialect = dialect;
        this.request = request;
        this.isBackward = request.direction() == Direction.BACKWARD;
        this.keys = isBackward
                ? request.order().keys().stream().map(PageOrder.Key::reversed).toList()
                : request.order().keys();
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
        if (page.isBackward) {
            page.turned();
        } else {
            page.select();
        }
        page.sql.append(" from (").append(statement).append(") as ").append(ALIAS);
        page.slots.addAll(statementSlots);
        if (conditions != null) {
            page.sql.append(" where ").append(conditions);
            page.slots.addAll(conditionSlots);
        }
        if (request.purpose() == Purpose.COUNT) {
            return page.variant();
        }
        if (request.start() != Start.BEGINNING) {
            page.sql.append(conditions == null ? " where " : " and (");
            page.behind();
            page.sql.append(conditions == null ? "" : ")");
        }
        page.order(page.keys);
        page.limit();
        if (page.isBackward) {
            page.sql.append(") as ").append(ALIAS);
            page.order(request.order().keys());
        }
        return page.variant();
    }

    /** What is read backwards is turned round by the server, which says how many rows there are besides. */
    private void turned() {
        select();
        sql.append(", count(*) over () from (select ").append(ALIAS).append(".*");
    }

    /** What is true of the rows behind the one to continue after. */
    private void behind() {
        switch (request.start()) {
            case BEGINNING -> {}
            case AFTER_CHANGE -> skipping();
            case AFTER_TIES -> beyond(0);
            case FROM -> atOrBeyond(0);
        }
    }

    /** The statement's own columns, and behind them the places of members. */
    private void select() {
        sql.append("select ");
        if (request.purpose() == Purpose.COUNT) {
            sql.append("count(*)");
            return;
        }
        if (request.columns() == ReadColumns.ALL) {
            boolean more = isBackward || keys.stream().anyMatch(PageOrder.Key::ofMembers);
            sql.append(more ? ALIAS + ".*" : "*");
        } else {
            selectSome();
        }
        for (int i = 0; i < keys.size(); i++) {
            if (keys.get(i).ofMembers()) {
                sql.append(", ").append(dialect.memberPlace(column(i)));
            }
        }
    }

    /** The columns that are read, those of the order among them, and null for each of the others. */
    private void selectSome() {
        for (int i = 0; i < request.columns().count(); i++) {
            String name = request.columns().name(i);
            for (PageOrder.Key key : keys) {
                name = key.field() == i ? key.name() : name;
            }
            sql.append(i == 0 ? "" : ", ");
            sql.append(name == null ? "null" : ALIAS + "." + dialect.quoted(name));
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

    /** {@code a > ? or a = ? and b >= ?}, as far as values are given. */
    private void atOrBeyond(int i) {
        PageOrder.Key key = keys.get(i);
        boolean last = i == request.depth() - 1;
        compare(i, key.descending() ? last ? " <= ?" : " < ?" : last ? " >= ?" : " > ?");
        if (key.descending() && key.nullable()) {
            sql.append(" or ").append(column(i)).append(" is null");
        }
        if (!last) {
            sql.append(" or ");
            compare(i, " = ?");
            sql.append(" and (");
            atOrBeyond(i + 1);
            sql.append(')');
        }
    }

    private void order(List<PageOrder.Key> by) {
        for (int i = 0; i < by.size(); i++) {
            sql.append(i == 0 ? " order by " : ", ").append(column(i));
            sql.append(by.get(i).descending() ? " desc" : "");
        }
    }

    private void limit() {
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
