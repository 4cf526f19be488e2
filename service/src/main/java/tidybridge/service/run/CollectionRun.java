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

    private final RunnableOperation operation;
    private final CollectionPlan plan;
    private final ReadAnswer answer;
    private final Bound bound;
    private final Asked asked;
    private int rows;

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
        PageRequest request = plan.request(asked, position.in(order), filters);
        Query query = new Query(
                plan.statement().variant(bound.values(), request),
                bound.values(),
                position.values(),
                limit + 1,
                limit > LONG_PAGE_ROWS ? READ_AHEAD_ROWS : 0,
                plan.limit(asked));
        answer.rows(rendition);
        if (asked.all() && plan.page().jumps()) {
            answer.rowKey(key(order, choice));
        }
        RowWriter writer = operation.writer(inputs, rendition.format().isTable() ? choice.flat() : choice.nested());
        Page page = new Page(order, scope, position, count, writer);
        operation.source().read(query, found -> write(found, page, rendition));
        return rows;
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
            RowWriter writer) {}

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

    private void write(Rows found, Page page, Rendition rendition) {
        RowSink sink = RowSinks.open(rendition, page.writer(), answer.body());
        try {
            write(found, page, sink);
            sink.close();
        } catch (RuntimeException e) {
            answer.cutOff(sink, e);
            throw e;
        }
    }

    private void write(Rows found, Page page, RowSink sink) {
        sink.beginPage();
        PageOrder order = page.order();
        boolean hasRow = found.next();
        int expected = asked.limit();
        boolean isMoreBefore = page.position().isInside();
        if (page.position().isBackward()) {
            long read = hasRow ? found.integer(plan.sorts().columns() + order.places()) : 0;
            isMoreBefore = read > expected;
            if (isMoreBefore) {
                hasRow = found.next();
            }
            expected = (int) Math.min(read, expected);
        }
        @Nullable String[] first = null;
        @Nullable String[] last = null;
        int count = 0;
        while (hasRow && count < expected) {
            page.writer().write(found, sink);
            if (count++ == 0) {
                first = plan.page().jumps()
                        ? PagePosition.values(found, order)
                        : new @Nullable String[] {
                            PagePosition.value(found, order.keys().getFirst())
                        };
            }
            if (count == expected) {
                last = PagePosition.values(found, order);
            }
            hasRow = found.next();
        }
        rows = count;
        boolean isMoreBehind = page.position().isBackward() ? page.position().isInside() : hasRow;
        PageEnd end = end(page, first, isMoreBefore, last, isMoreBehind);
        answer.ended(end);
        sink.endPage(end);
    }

    private PageEnd end(
            Page page,
            @Nullable String @Nullable [] first,
            boolean isMoreBefore,
            @Nullable String @Nullable [] last,
            boolean isMoreBehind) {
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
