package tidybridge.service.run;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.PageEnd;
import tidybridge.core.answer.RowSink;
import tidybridge.core.answer.RowWriter;
import tidybridge.core.bind.Asked;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Binder;
import tidybridge.core.bind.Bound;
import tidybridge.core.bind.Inputs;
import tidybridge.core.catalog.RowCount;
import tidybridge.core.definition.Total;
import tidybridge.core.plan.Choice;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.GivenFilters;
import tidybridge.core.plan.PageOrder;
import tidybridge.core.plan.PageRequest;
import tidybridge.engine.ConnectionShare;
import tidybridge.engine.Query;
import tidybridge.engine.Rows;
import tidybridge.engine.SourceFailure;

/** Answers one request with rows of a collection. Used once. */
final class CollectionRun {

    /** Longer pages are read from the database as they are written. */
    private static final int LONG_PAGE_ROWS = 500;

    /** Beyond this many rows nobody waits for the whole: the first byte leaves early. */
    private static final int EXPORT_ROWS = 5_000;

    private static final int READ_AHEAD_ROWS = 500;

    /** So many rows of a long answer are read ahead of the others: few enough that the server takes them from an index. */
    private static final int HEAD_ROWS = 500;

    private final RunnableOperation operation;
    private final CollectionPlan plan;
    private final ReadAnswer answer;
    private final Bound bound;
    private final Asked asked;
    private int rows;
    private @Nullable String @Nullable [] first;
    private @Nullable String @Nullable [] last;

    CollectionRun(RunnableOperation operation, CollectionPlan plan, ReadAnswer answer, Bound bound) {
        this.operation = operation;
        this.plan = plan;
        this.answer = answer;
        this.bound = bound;
        this.asked = bound.asked();
    }

    /**
     * Answers.
     *
     * @return how many rows
     */
    int run(Inputs inputs, ConnectionShare.Turn turn) throws SourceFailure, BadInput, Refusal {
        Rendition rendition = answer.rendition(plan.forms().formats(), asked);
        GivenFilters filters = plan.filters().take(bound.values());
        PageOrder order = plan.sorts().order(asked.sort());
        String scope = plan.label() + " " + order.label() + filters.label();
        PagePosition position = PagePosition.read(asked.start(), operation.continuation(), scope, plan, order);
        Choice choice = plan.forms().choices().choose(asked.fields());
        int limit = asked.limit();
        if (limit > EXPORT_ROWS) {
            answer.expectLong(plan.limit(asked).time());
            if (!turn.await()) {
                throw ReadRun.longAnswersBusy(operation);
            }
        }
        RowCount count = count(order, filters);
        answer.rows(rendition);
        if (asked.all()) {
            answer.all(limit, plan.page().jumps() ? key(order, choice) : List.of());
        }
        RowWriter writer = operation.writer(inputs, rendition.format().isTable() ? choice.flat() : choice.nested());
        RowSink sink = RowSinks.open(rendition, writer, answer.body());
        Page page = new Page(order, scope, position, count, writer, sink);
        Query whole = query(position, filters, order, limit);
        Query head = position.isBackward() || limit <= EXPORT_ROWS ? null : head(position, filters, order);
        if (head == null) {
            operation.source().read(whole, found -> write(found, page));
        } else {
            operation.source().readSeries(head, found -> writeHead(found, page, filters));
        }
        return rows;
    }

    private Query query(PagePosition position, GivenFilters filters, PageOrder order, int limit) {
        PageRequest request = plan.request(asked, position.in(order), filters);
        return new Query(
                plan.statement().variant(bound.values(), request),
                bound.values(),
                position.values(),
                limit + 1,
                limit > LONG_PAGE_ROWS ? READ_AHEAD_ROWS : 0,
                plan.limit(asked));
    }

    /**
     * The query of the first rows alone: of a long answer the server would sort all rows before it tells the first, though an index has
     * them in order. Null where that would not be quicker.
     */
    private @Nullable Query head(PagePosition position, GivenFilters filters, PageOrder order) throws SourceFailure {
        if (!plan.headStart()) {
            return null;
        }
        Query head = query(position, filters, order, HEAD_ROWS);
        return operation.source().isInOrder(head) ? head : null;
    }

    private @Nullable RowCount count(PageOrder order, GivenFilters filters) throws SourceFailure, Refusal {
        Total total = asked.total();
        return total == null ? null : new RowCounting(operation, plan, bound, order, filters).count(total);
    }

    /** What a page's rows are written with, and what is said of them. */
    private record Page(
            PageOrder order,
            String scope,
            PagePosition position,
            @Nullable RowCount count,
            RowWriter writer,
            RowSink sink) {}

    /** The fields by which a caller can go on from any row; none where that cannot be. */
    private List<String> key(PageOrder order, Choice choice) {
        List<String> names = new ArrayList<>();
        for (PageOrder.Key key : order.keys()) {
            String name = plan.shown(key);
            if (name == null || key.readAs() == null || !choice.has(name)) {
                return List.of();
            }
            names.add(name);
        }
        return names;
    }

    private void write(Rows found, Page page) {
        try {
            int expected = asked.limit();
            boolean hasRow = found.next();
            boolean isMoreBefore = page.position().isInside();
            if (page.position().isBackward()) {
                long read = hasRow
                        ? found.integer(plan.sorts().columns() + page.order().places())
                        : 0;
                isMoreBefore = read > expected;
                if (isMoreBefore) {
                    hasRow = found.next();
                }
                expected = (int) Math.min(read, expected);
            }
            page.sink().beginPage();
            boolean isMore = take(found, page, hasRow, expected);
            finish(
                    page,
                    isMoreBefore,
                    page.position().isBackward() ? page.position().isInside() : isMore);
        } catch (RuntimeException e) {
            answer.cutOff(page.sink(), e);
            throw e;
        }
    }

    /** Writes the first rows; the query of the others is what is read next. */
    private @Nullable Query writeHead(Rows found, Page page, GivenFilters filters) {
        try {
            if (rows == 0) {
                page.sink().beginPage();
            }
            boolean isHead = rows == 0;
            boolean isMore = take(found, page, found.next(), isHead ? HEAD_ROWS : asked.limit());
            if (isHead && isMore && first != null && last != null) {
                PagePosition behind = PagePosition.behind(page.order(), first[0], last);
                return query(behind, filters, page.order(), asked.limit() - rows);
            }
            finish(page, page.position().isInside(), isMore);
            return null;
        } catch (RuntimeException e) {
            answer.cutOff(page.sink(), e);
            throw e;
        }
    }

    /**
     * Writes rows up to a number of all that are written.
     *
     * @return true when another one follows
     */
    private boolean take(Rows found, Page page, boolean hasFirst, int expected) {
        boolean hasRow = hasFirst;
        while (hasRow && rows < expected) {
            page.writer().write(found, page.sink());
            if (rows++ == 0) {
                first = plan.page().jumps()
                        ? PagePosition.values(found, page.order())
                        : new @Nullable String[] {
                            PagePosition.value(found, page.order().keys().getFirst())
                        };
            }
            if (rows == expected) {
                last = PagePosition.values(found, page.order());
            }
            hasRow = found.next();
        }
        return hasRow;
    }

    private void finish(Page page, boolean isMoreBefore, boolean isMoreBehind) {
        PageEnd end = end(page, isMoreBefore, isMoreBehind);
        answer.ended(end);
        page.sink().endPage(end);
        page.sink().close();
    }

    private PageEnd end(Page page, boolean isMoreBefore, boolean isMoreBehind) {
        String after = isMoreBehind && first != null && last != null ? position(page, first[0], last) : null;
        String before = isMoreBefore && plan.page().jumps() && first != null
                ? position(page, last == null ? null : last[0], first)
                : null;
        // behind a page without rows that was read backwards is the collection's first row
        String next = after == null && !isMoreBehind ? null : answer.address(Binder.AFTER, after);
        return new PageEnd(
                asked.limit(),
                asked.all(),
                rows,
                after,
                next,
                before,
                before == null ? null : answer.address(Binder.BEFORE, before),
                page.count());
    }

    private String position(Page page, @Nullable String other, @Nullable String[] values) {
        return PagePosition.write(operation.continuation(), page.scope(), other, values);
    }
}
